"""What is kept: runs and all that happened in them; and, told from that, steps with each stay at them, notes, outcomes, heats foretold.

What happened (`EventRecord`) is never changed and never deleted. The other tables follow from it, and are there to be asked by
the log: they hold what stands. Timers are kept as times, never as counters, so that they are right after a reload or a restart.
"""

from typing import ClassVar

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models.functions import Upper


def _words(field: str, name: str) -> GinIndex:
    """Give the index by which a text is searched for any part of a word."""
    return GinIndex(OpClass(Upper(field), name="gin_trgm_ops"), name=name)


class Run(models.Model):
    """A plan being carried out: the plan and the piece as they were when it began."""

    GOING, FINISHED, STOPPED = "going", "finished", "stopped"
    STATES = ((GOING, "going"), (FINISHED, "finished"), (STOPPED, "stopped"))

    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="runs")
    piece = models.ForeignKey("pieces.PieceRow", on_delete=models.SET_NULL, null=True, related_name="runs")
    piece_name = models.CharField(max_length=120)
    document = models.JSONField()
    plan = models.JSONField()
    # Steps that no plan has: they are put in where something went wrong, numbered on from those of the plan.
    put_in = models.JSONField(default=list)
    step_count = models.PositiveIntegerField(default=0)
    position = models.PositiveIntegerField(default=1)
    turn = models.CharField(max_length=16, default="1")
    state = models.CharField(max_length=10, choices=STATES, default=GOING)
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    # The run whose rest this is, planned anew from the piece as that had made it.
    continues = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="went_on")
    # Whether what the log is asked by was told of it (`facts`): of a run from before it is told when Eskel starts.
    counted = models.BooleanField(default=True)

    class Meta:
        ordering = ("-started_at", "-pk")
        indexes: ClassVar = [
            models.Index(fields=("workshop", "-started_at", "-id"), name="runs_newest"),
            models.Index(fields=("workshop", "state"), name="runs_by_state"),
            models.Index(fields=("workshop", "piece_name", "-started_at"), name="runs_by_piece"),
        ]

    def __str__(self) -> str:
        return f"{self.piece_name} {self.started_at:%Y-%m-%d}"


class EventRecord(models.Model):
    """Something that happened in a run, as the device that saw it wrote it down, and when the server took it."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="events")
    event = models.CharField(max_length=64)
    kind = models.CharField(max_length=10)
    told = models.JSONField()
    taken_at = models.DateTimeField()

    class Meta:
        ordering = ("pk",)
        constraints = (models.UniqueConstraint(fields=("run", "event"), name="each_event_once"),)

    def __str__(self) -> str:
        return f"{self.kind} {self.event}"


class StepRecord(models.Model):
    """A step that was entered, or its `again`th try; of a heat, which: when first, until when, what the timer says, what is noted of it, how many of what is alike are done; of work, its kind."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="records")
    n = models.PositiveIntegerField()
    turn = models.CharField(max_length=16)
    again = models.PositiveIntegerField(default=1)
    heat_no = models.PositiveIntegerField(null=True)
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    due_low = models.DateTimeField(null=True)
    due_high = models.DateTimeField(null=True)
    skipped = models.BooleanField(default=False)
    note = models.TextField(default="", blank=True)
    # When the flame of a heat was put out, where that was pressed.
    off_at = models.DateTimeField(null=True)
    tally = models.PositiveIntegerField(default=0)
    measured_mm = models.FloatField(null=True)
    work_kind = models.CharField(max_length=20, default="", blank=True)
    alike = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ("started_at", "pk")
        constraints = (models.UniqueConstraint(fields=("run", "turn"), name="one_record_of_a_turn"),)
        indexes: ClassVar = [
            _words("note", "steps_by_note"),
            # The newest with a note, for a word that many notes hold.
            models.Index(fields=("-run",), condition=~models.Q(note=""), name="steps_noted"),
        ]

    def __str__(self) -> str:
        return f"{self.run} step {self.n}"


class StayRecord(models.Model):
    """One stay at a step: a step that is gone back to has another, and the first stays what it was."""

    record = models.ForeignKey(StepRecord, on_delete=models.CASCADE, related_name="stays")
    entered_at = models.DateTimeField()
    left_at = models.DateTimeField(null=True)
    went_back = models.BooleanField(default=False)

    class Meta:
        ordering = ("entered_at", "pk")

    def __str__(self) -> str:
        return f"{self.record} from {self.entered_at:%H:%M}"


class NoteRecord(models.Model):
    """A note of a step as it was written at a time; the step holds the newest."""

    record = models.ForeignKey(StepRecord, on_delete=models.CASCADE, related_name="notes")
    text = models.TextField(blank=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ("at", "pk")

    def __str__(self) -> str:
        return self.text[:40]


class SignRecord(models.Model):
    """A sign that was pressed in a heat: 0 that the flame is lit, else the sign of so many stages of its programme."""

    record = models.ForeignKey(StepRecord, on_delete=models.CASCADE, related_name="signs")
    stage = models.PositiveIntegerField()
    at = models.DateTimeField()
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ("at", "pk")
        constraints = (
            models.UniqueConstraint(
                fields=("record", "stage"),
                condition=models.Q(taken_back_at=None),
                name="one_sign_stands_of_a_stage",
            ),
        )

    def __str__(self) -> str:
        return f"sign {self.stage} at {self.at:%H:%M:%S}"


class Facet(models.Model):
    """What an outcome that stands is of, and which it is: all by which the log is asked, kept once for all that are alike in it.

    `text` holds it all in words, for the log to be searched.
    """

    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="facets")
    piece_name = models.CharField(max_length=120)
    kind = models.CharField(max_length=20, blank=True)
    metal = models.CharField(max_length=200, blank=True)
    wire = models.CharField(max_length=10, blank=True)
    sheet = models.CharField(max_length=10, blank=True)
    grade = models.CharField(max_length=20, blank=True)
    solder = models.CharField(max_length=60, blank=True)
    torch = models.CharField(max_length=60, blank=True)
    later_try = models.BooleanField(default=False)
    outcome = models.CharField(max_length=20)
    sound = models.BooleanField()
    text = models.TextField()

    class Meta:
        constraints = (
            models.UniqueConstraint(
                fields=(
                    "workshop",
                    "piece_name",
                    "kind",
                    "metal",
                    "wire",
                    "sheet",
                    "grade",
                    "solder",
                    "torch",
                    "later_try",
                    "outcome",
                ),
                name="each_facet_once",
            ),
        )

    def __str__(self) -> str:
        return self.text


class FacetMonth(models.Model):
    """How often a facet came in a month, told by its first day; of how many heats it has the times, and the sum of how many times as
    long as foretold they took, as logarithms; and the solder that was laid, mg.
    """

    facet = models.ForeignKey(Facet, on_delete=models.CASCADE, related_name="months")
    month = models.DateField()
    times = models.IntegerField(default=0)
    heats = models.IntegerField(default=0)
    log_ratio = models.FloatField(default=0)
    solder_mg = models.FloatField(default=0)

    class Meta:
        constraints = (models.UniqueConstraint(fields=("facet", "month"), name="each_month_of_a_facet_once"),)

    def __str__(self) -> str:
        return f"{self.facet} {self.month:%Y-%m}: {self.times}"


class StepMonth(models.Model):
    """How long the steps of a kind took that were ended in a month, s, and how many they were."""

    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="step_months")
    piece_name = models.CharField(max_length=120)
    kind = models.CharField(max_length=20)
    month = models.DateField()
    times = models.IntegerField(default=0)
    seconds = models.FloatField(default=0)

    class Meta:
        constraints = (
            models.UniqueConstraint(
                fields=("workshop", "piece_name", "kind", "month"), name="each_month_of_a_kind_once"
            ),
        )

    def __str__(self) -> str:
        return f"{self.piece_name}, {self.kind}, {self.month:%Y-%m}: {self.times}"


class OutcomeRecord(models.Model):
    """How a join came out of its heat; a word that was taken back, or replaced, says when.

    Of what stands: what it is of (`facet`), the solder that was laid, mg, and, with the first join of a heat, what was foretold of the
    heat and what it took from the lit flame on, s.
    """

    record = models.ForeignKey(StepRecord, on_delete=models.CASCADE, related_name="outcomes")
    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="outcomes")
    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="+")
    join = models.CharField(max_length=60)
    outcome = models.CharField(max_length=20)
    at = models.DateTimeField()
    taken_back_at = models.DateTimeField(null=True)
    facet = models.ForeignKey(Facet, on_delete=models.RESTRICT, null=True, related_name="outcomes")
    told_s = models.FloatField(null=True)
    took_s = models.FloatField(null=True)
    solder_mg = models.FloatField(default=0)

    class Meta:
        ordering = ("at", "pk")
        constraints = (
            models.UniqueConstraint(
                fields=("record", "join"),
                condition=models.Q(taken_back_at=None),
                name="one_word_stands_of_a_join",
            ),
        )
        indexes: ClassVar = [
            models.Index(fields=("workshop", "-at"), name="outcomes_newest"),
            models.Index(fields=("facet", "-at"), name="outcomes_by_facet"),
        ]

    def __str__(self) -> str:
        return f"{self.join}: {self.outcome}"


class ForetoldHeat(models.Model):
    """What was foretold of a heat that was entered, times in s, by the torch that it was rehearsed with."""

    record = models.OneToOneField(StepRecord, on_delete=models.CASCADE, related_name="foretold")
    torch = models.CharField(max_length=60)
    heat_no = models.PositiveIntegerField()
    low_s = models.FloatField(null=True)
    likely_s = models.FloatField()
    high_s = models.FloatField(null=True)
    factor = models.FloatField()
    spread = models.FloatField()
    stages = models.PositiveIntegerField(default=0)

    class Meta:
        indexes: ClassVar = [models.Index(fields=("torch", "-record"), name="heats_by_torch")]

    def __str__(self) -> str:
        return f"{self.torch}: {self.likely_s} s"


class Photo(models.Model):
    """A photograph of a run, kept with a turn of it, as JPEG, large and small."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="photos")
    turn = models.CharField(max_length=16)
    added_at = models.DateTimeField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    large = models.BinaryField()
    small = models.BinaryField()

    class Meta:
        ordering = ("added_at", "pk")

    def __str__(self) -> str:
        return f"{self.run} at {self.turn}, {self.width} × {self.height}"

"""What is kept: runs, the steps that were entered with their times, and the outcome of each join.

Timers are kept as times, never as counters, so that they are right after a reload or a restart.
"""

from django.db import models


class Run(models.Model):
    """A plan being carried out: the plan and the piece as they were when it began."""

    GOING, FINISHED, STOPPED = "going", "finished", "stopped"
    STATES = ((GOING, "going"), (FINISHED, "finished"), (STOPPED, "stopped"))

    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="runs")
    piece = models.ForeignKey("pieces.PieceRow", on_delete=models.SET_NULL, null=True, related_name="runs")
    piece_name = models.CharField(max_length=120)
    document = models.JSONField()
    plan = models.JSONField()
    position = models.PositiveIntegerField(default=1)
    state = models.CharField(max_length=10, choices=STATES, default=GOING)
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-started_at", "-pk")

    def __str__(self) -> str:
        return f"{self.piece_name} {self.started_at:%Y-%m-%d}"


class StepRecord(models.Model):
    """A step that was entered: when, until when, what the timer says, and what was noted."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="records")
    n = models.PositiveIntegerField()
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    due_low = models.DateTimeField(null=True)
    due_high = models.DateTimeField(null=True)
    skipped = models.BooleanField(default=False)
    note = models.TextField(default="", blank=True)

    class Meta:
        ordering = ("n",)
        constraints = (models.UniqueConstraint(fields=("run", "n"), name="one_record_of_a_step"),)

    def __str__(self) -> str:
        return f"{self.run} step {self.n}"


class OutcomeRecord(models.Model):
    """How a join came out of its heat."""

    record = models.ForeignKey(StepRecord, on_delete=models.CASCADE, related_name="outcomes")
    join = models.CharField(max_length=60)
    outcome = models.CharField(max_length=20)
    at = models.DateTimeField()

    class Meta:
        ordering = ("at", "pk")
        constraints = (models.UniqueConstraint(fields=("record", "join"), name="one_outcome_of_a_join"),)

    def __str__(self) -> str:
        return f"{self.join}: {self.outcome}"

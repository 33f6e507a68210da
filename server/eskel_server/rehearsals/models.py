"""What is kept of rehearsals: each by its content, and the logged heats that the smith left out by hand."""

from django.db import models


class RehearsalRow(models.Model):
    """One rehearsal by what it follows from: how far it is, and what came of it.

    `content` names what was asked and the core that works it out; `tries` counts how often it was begun, since what was
    stopped or failed is asked for under a new name. `job` is its place in the queue.
    """

    content = models.CharField(max_length=32, unique=True)
    tries = models.PositiveIntegerField(default=1)
    asked = models.JSONField()
    state = models.CharField(max_length=8, default="waiting")
    what = models.TextField(default="")
    share = models.FloatField(default=0.0)
    result = models.JSONField(default=dict)
    faults = models.JSONField(default=list)
    job = models.BigIntegerField(null=True)
    looked_at = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"{self.name} {self.state}"

    @property
    def name(self) -> str:
        """The name by which it is looked at."""
        return f"{self.content}-{self.tries}"


class LeftOutHeat(models.Model):
    """A logged heat that does not count towards the torch factor."""

    record = models.OneToOneField("runs.StepRecord", on_delete=models.CASCADE, related_name="left_out")

    def __str__(self) -> str:
        return f"{self.record} left out"

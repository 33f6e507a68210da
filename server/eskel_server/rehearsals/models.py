"""What is kept of calibration: the logged heats that the smith left out by hand."""

from django.db import models


class LeftOutHeat(models.Model):
    """A logged heat that does not count towards the torch factor."""

    record = models.OneToOneField("runs.StepRecord", on_delete=models.CASCADE, related_name="left_out")

    def __str__(self) -> str:
        return f"{self.record} left out"

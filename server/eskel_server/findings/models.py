"""What is kept: findings on the shelf, each as it was made, and how many of it are left."""

from django.db import models


class Finding(models.Model):
    """A finding on the shelf: one of it as a piece file has it, and how many are left; the run that made it."""

    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="findings")
    run = models.ForeignKey("runs.Run", on_delete=models.SET_NULL, null=True, related_name="findings")
    name = models.CharField(max_length=120)
    document = models.JSONField()
    left = models.PositiveIntegerField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("name", "pk")

    def __str__(self) -> str:
        return f"{self.name}: {self.left} left"


class Taking(models.Model):
    """What one change of a piece took of a finding: it is put back where that change is undone."""

    finding = models.ForeignKey(Finding, on_delete=models.CASCADE, related_name="takings")
    revision = models.OneToOneField("pieces.Revision", on_delete=models.CASCADE, related_name="+")
    number = models.PositiveIntegerField()

    def __str__(self) -> str:
        return f"{self.number} of {self.finding.name}"

"""What is kept: one bench for each workshop."""

from django.db import models


class BenchRow(models.Model):
    """A workshop's bench and house rules, as the core writes them."""

    workshop = models.OneToOneField("accounts.Workshop", on_delete=models.CASCADE, related_name="bench")
    format = models.CharField(max_length=40, default="eskel-bench/1")
    revision = models.PositiveIntegerField(default=1)
    house = models.JSONField(default=dict)
    bench = models.JSONField(default=dict)

    def __str__(self) -> str:
        return f"bench of {self.workshop}"

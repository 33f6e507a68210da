"""What is kept: workshops."""

from django.db import models


class Workshop(models.Model):
    """A workshop, the owner of everything else."""

    name = models.CharField(max_length=120)
    made_at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name

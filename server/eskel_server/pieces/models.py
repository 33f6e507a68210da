"""What is kept: pieces, and each revision of them, so that every change can be undone."""

from django.db import models


class PieceRow(models.Model):
    """A piece: its newest document stands in the revision that it points to."""

    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="pieces")
    name = models.CharField(max_length=120)
    revision = models.PositiveIntegerField(default=1)
    put_away = models.BooleanField(default=False)
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return self.name


class KeptLine(models.Model):
    """The line of a piece in the list, by what it follows from: the list itself plans and draws nothing."""

    key = models.CharField(max_length=64, primary_key=True)
    line = models.TextField()
    made_at = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return self.key[:12]


class Revision(models.Model):
    """One state of a piece, as the core writes it, and what was changed to come to it."""

    piece = models.ForeignKey(PieceRow, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    digest = models.CharField(max_length=64, default="")
    what = models.CharField(max_length=200)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=("piece", "number"), name="one_revision_of_a_number"),)

    def __str__(self) -> str:
        return f"{self.piece} {self.number}"

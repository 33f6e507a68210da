"""What is kept: the makings of stock, pass by pass, and how far each has come."""

from django.db import models


class Making(models.Model):
    """A draw-down at the mill: its passes as they were reckoned when it began, and how many steps are done."""

    workshop = models.ForeignKey("accounts.Workshop", on_delete=models.CASCADE, related_name="makings")
    title = models.CharField(max_length=200)
    steps = models.JSONField()
    done = models.PositiveIntegerField(default=0)
    begun_at = models.DateTimeField(auto_now_add=True)
    marked_at = models.DateTimeField(auto_now=True)
    put_away = models.BooleanField(default=False)

    class Meta:
        ordering = ("-pk",)

    def __str__(self) -> str:
        return self.title

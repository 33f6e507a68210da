"""Tell of runs from before what the log is asked by: once, when Eskel starts."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from eskel_server.runs.happened import count_run
from eskel_server.runs.models import Run


class Command(BaseCommand):
    """Count the runs that are not counted yet."""

    help = "Count for the log the runs that were begun before it counted."

    def handle(self, *args: Any, **options: Any) -> None:
        """Count them, each whole."""
        for key in Run.objects.filter(counted=False).values_list("pk", flat=True):
            count_run(key)

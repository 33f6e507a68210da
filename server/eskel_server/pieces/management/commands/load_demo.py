"""Load the demo workshop once; `--reset` puts it back as it was shipped."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import IntegrityError, OperationalError, transaction
from psycopg.errors import DeadlockDetected

from eskel_server.accounts import any_workshop
from eskel_server.accounts.actions import begin_workshop, forget_workshops
from eskel_server.bench.actions import set_bench
from eskel_server.pieces.actions import begin_piece

WORKSHOP = "Sedgewater lantern workshop"
ORDER = (
    "hollow-lantern-drop",
    "stone-set-finial",
    "toggle-clasp-and-links",
    "reed-brooch",
    "swivel-cufflinks",
    "wire-frame-candle-guard",
    "copper-and-brass-lantern-handle",
    "offcuts-into-wire",
)
TRIES = 20


def _came_between(problem: Exception) -> bool:
    """Tell whether someone changed a piece just while it was thrown away: either one may have to wait for the other."""
    return isinstance(problem, IntegrityError) or isinstance(problem.__cause__, DeadlockDetected)


class Command(BaseCommand):
    """Load the demo workshop when there is no workshop yet."""

    help = "Load the demo workshop once, never over anyone's changes."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Take `--reset`."""
        parser.add_argument("--reset", action="store_true", help="throw everything away and load it afresh")

    def handle(self, *args: Any, **options: Any) -> None:
        """Load it, whole or not at all; where a change of someone's came between, begin again."""
        for left in reversed(range(TRIES)):
            try:
                self._load(options)
                break
            except (IntegrityError, OperationalError) as problem:
                if not left or not _came_between(problem):
                    raise

    @transaction.atomic
    def _load(self, options: dict[str, Any]) -> None:
        if options["reset"]:
            forget_workshops()
        if any_workshop():
            return
        workshop = begin_workshop(WORKSHOP)
        kept = json.loads((settings.ROOT / "examples" / "workshop-bench.json").read_text(encoding="utf-8"))
        set_bench(workshop, kept.get("house", {}), kept["bench"])
        for name in ORDER:
            text = (settings.ROOT / "examples" / f"{name}.eskel.json").read_text(encoding="utf-8")
            begin_piece(workshop, json.loads(text), "begun")

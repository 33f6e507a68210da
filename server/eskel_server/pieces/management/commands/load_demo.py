"""Load the demo workshop once; `--reset` puts it back as it was shipped."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import transaction

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


class Command(BaseCommand):
    """Load the demo workshop when there is no workshop yet."""

    help = "Load the demo workshop once, never over anyone's changes."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Take `--reset`."""
        parser.add_argument("--reset", action="store_true", help="throw everything away and load it afresh")

    @transaction.atomic
    def handle(self, *args: Any, **options: Any) -> None:
        """Load it, whole or not at all."""
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

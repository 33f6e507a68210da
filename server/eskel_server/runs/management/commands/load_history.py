"""Load three months of runs into the demo's workshop: once, and only where nothing was run or changed yet."""

from __future__ import annotations

import json
import random
from datetime import datetime
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import transaction
from django.utils import timezone

from eskel_core.piece import piece_from_object, piece_object
from eskel_core.plan import plan
from eskel_core.run import Event
from eskel_core.starts import begin as begin_piece
from eskel_server.accounts import any_workshop, current_workshop
from eskel_server.bench import bench_of
from eskel_server.pieces.management.commands.load_demo import WORKSHOP
from eskel_server.runs.following import ms_of
from eskel_server.runs.happened import begin, take
from eskel_server.runs.history import carried_out, days_of
from eskel_server.runs.models import Run


class Command(BaseCommand):
    """Load the history of a workshop in which nothing was done yet."""

    help = "Load three months of runs, once."

    @transaction.atomic
    def handle(self, *args: Any, **options: Any) -> None:
        """Load it, whole or not at all."""
        if not any_workshop() or current_workshop().name != WORKSHOP or Run.objects.exists():
            return
        dice, now = random.Random(1126), timezone.now()
        rehearsed = sorted((settings.ROOT / "examples" / "rehearsed").glob("*.json"))
        made = [_Rehearsed(path.stem, json.loads(path.read_text(encoding="utf-8"))) for path in rehearsed]
        for n, (began, went) in enumerate(days_of(now, dice)):
            one = dice.choice(made)
            events = carried_out(one.plan, began, went, dice, f"shown-{n:04}")
            # What the dice let go on into the days to come did not happen.
            if events[-1].at_ms < ms_of(now):
                one.run(began, events)


def _plain(name: str) -> dict[str, Any]:
    """Give a piece of the demo, or one that was begun from a start: `START@Name_of_it`."""
    start, _, called = name.partition("@")
    if called:
        return {**piece_object(begin_piece(start).piece), "name": called.replace("_", " ")}
    told: dict[str, Any] = json.loads(
        (settings.ROOT / "examples" / f"{name}.eskel.json").read_text(encoding="utf-8")
    )
    return told


class _Rehearsed:
    """A piece of the demo, with its heats rehearsed, as it was when it was run."""

    def __init__(self, name: str, rehearsals: list[dict[str, Any]]) -> None:
        self.workshop = current_workshop()
        piece = piece_from_object({**_plain(name), "rehearsals": rehearsals})
        self.plan = plan(piece, *bench_of(self.workshop))
        self.row = self.workshop.pieces.filter(name=piece.name).first()
        self.name, self.document = piece.name, piece_object(piece)
        self.told = self.plan.model_dump(mode="json")

    def run(self, began: datetime, events: list[Event]) -> None:
        run = Run.objects.create(
            workshop=self.workshop,
            piece=self.row,
            piece_name=self.name,
            document=self.document,
            plan=self.told,
            step_count=len(self.plan.steps),
            started_at=began,
        )
        begin(run)
        take(run, events)

"""Runs are begun, and stopped from where they are not carried out. All else that happens in one is told by the device at the bench."""

from __future__ import annotations

from typing import TYPE_CHECKING
from uuid import uuid4

from django.db import transaction
from django.utils import timezone

from eskel_core.piece import Piece, piece_object
from eskel_core.plan import Plan
from eskel_core.run import read_event
from eskel_server.accounts import Clash, Unreadable
from eskel_server.pieces import document_of, plan_of

from .following import moment_of, ms_of
from .happened import begin, take
from .models import Run
from .queries import marked

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow

# What is not pressed at the bench is written down by the server itself.
DEVICE = "the-server"


@transaction.atomic
def start_run(piece: PieceRow, confirmed: frozenset[tuple[str, int | None]] = frozenset()) -> Run:
    """Start a run of a piece's plan as it now stands, when each rule that speaks against it is confirmed by code and step."""
    plan = plan_of(piece)
    if plan.conflict is not None or not plan.steps:
        raise Clash(
            "piece", piece.name, "only a piece with a plan can be run", "Give it joins that can be planned."
        )
    return begin_run(piece.workshop_id, piece, document_of(piece), plan, confirmed)


def begin_run(
    workshop: int,
    row: PieceRow | None,
    piece: Piece,
    plan: Plan,
    confirmed: frozenset[tuple[str, int | None]],
    continues: Run | None = None,
) -> Run:
    """Begin a run of a plan, when each rule that speaks against it is confirmed by code and step."""
    for stop in plan.stops:
        if (stop.code, stop.step) not in confirmed:
            raise Clash(
                "confirmed",
                {"code": stop.code, "step": stop.step},
                f"each rule that speaks against a plan is confirmed before a run: {stop.text}",
                f"{stop.remedy}. Or confirm it.",
            )
    # To the millisecond, as all that happens in it.
    now = moment_of(ms_of(timezone.now()))
    run = Run.objects.create(
        workshop_id=workshop,
        piece=row,
        piece_name=piece.name,
        document=piece_object(piece),
        plan=plan.model_dump(mode="json"),
        step_count=len(plan.steps),
        started_at=now,
        continues=continues,
    )
    begin(run)
    return run


@transaction.atomic
def stop_run(run: Run, at: int) -> Run:
    """Stop a run at the step where it stands, before its end; what was done stays in the log. One that cannot be read is stopped all the same."""
    run = _going_at(run, at)
    now = timezone.now()
    event = {
        "id": str(uuid4()),
        "device": DEVICE,
        "seq": 1 + run.events.filter(told__device=DEVICE).count(),
        "at_ms": ms_of(now),
        "kind": "stop",
        "turn": run.turn,
    }
    try:
        take(run, [read_event(event)])
    except Unreadable:
        run.records.filter(ended_at=None).update(ended_at=now)
        run.state, run.ended_at = Run.STOPPED, now
        run.save(update_fields=["state", "ended_at"])
    return run


def _going_at(run: Run, at: int) -> Run:
    """Give the run, locked; raise `Clash` when it has ended or stands at another step by now."""
    run = marked(Run.objects.defer("plan", "document")).select_for_update().get(pk=run.pk)
    if run.state != Run.GOING:
        raise Clash("run", run.pk, f"this run is {run.state}", "Look it up in the log.")
    if run.position != at:
        raise Clash(
            "step", at, f"the run stands at step {run.position} by now", "Look again at what it asks."
        )
    return run

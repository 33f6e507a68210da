"""What can be done in a run. Each names the step that it was meant for, so that a key pressed twice does no harm."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction
from django.utils import timezone

from eskel_core.log import OUTCOMES
from eskel_core.piece import piece_object
from eskel_core.plan import CoolStep, HeatStep, PickleStep, PrepareStep, Step
from eskel_server.accounts import Clash
from eskel_server.pieces import document_of, plan_of
from eskel_server.pieces.models import PieceRow

from .models import OutcomeRecord, Run, StepRecord
from .queries import record_of, step_of


@transaction.atomic
def start_run(piece: PieceRow) -> Run:
    """Start a run of a piece's plan as it now stands."""
    plan = plan_of(piece)
    if plan.conflict is not None or not plan.steps:
        raise Clash(
            "piece", piece.name, "only a piece with a plan can be run", "Give it joins that can be planned."
        )
    now = timezone.now()
    run = Run.objects.create(
        workshop=piece.workshop,
        piece=piece,
        piece_name=piece.name,
        document=piece_object(document_of(piece)),
        plan=plan.model_dump(mode="json"),
        started_at=now,
    )
    _enter(run, 1, now)
    return run


@transaction.atomic
def advance(run: Run, at: int, *, confirmed: bool = False, skipped: bool = False) -> Run:
    """End the step at which a run stands and enter the next; after the last one the run is finished."""
    run = _going_at(run, at)
    step = step_of(run)
    _may_be_left(run, step, confirmed=confirmed, skipped=skipped)
    now = timezone.now()
    record = record_of(run)
    record.ended_at, record.skipped = now, skipped
    record.save(update_fields=["ended_at", "skipped"])
    if run.position == len(run.plan["steps"]):
        run.state, run.ended_at = Run.FINISHED, now
        run.save(update_fields=["state", "ended_at"])
    else:
        _enter(run, run.position + 1, now)
    return run


@transaction.atomic
def go_back(run: Run, at: int) -> Run:
    """Go back one step; its times and its timer stay what they were."""
    run = _going_at(run, at)
    if run.position == 1:
        raise Clash("step", 1, "this is the first step", "Go on from here.")
    run.records.filter(n=run.position).delete()
    run.position -= 1
    run.save(update_fields=["position"])
    run.records.filter(n=run.position).update(ended_at=None, skipped=False)
    return run


@transaction.atomic
def record_outcome(run: Run, at: int, join: str, outcome: str) -> Run:
    """Record how a join came out of the heat at which the run stands; a second word on it replaces the first."""
    run = _going_at(run, at)
    step = step_of(run)
    joins = [row.join for row in step.joins] if isinstance(step, HeatStep) else []
    if join not in joins:
        raise Clash("join", join, "an outcome is of a join of the heat at hand", "Choose one of its joins.")
    if outcome not in {word.outcome for word in OUTCOMES}:
        raise Clash(
            "outcome",
            outcome,
            f"one of: {', '.join(word.outcome for word in OUTCOMES)}",
            "Choose one of them.",
        )
    OutcomeRecord.objects.update_or_create(
        record=record_of(run), join=join, defaults={"outcome": outcome, "at": timezone.now()}
    )
    return run


@transaction.atomic
def take_back_outcome(run: Run, at: int) -> Run:
    """Take back the outcome that was recorded last in the heat at which the run stands."""
    run = _going_at(run, at)
    last = OutcomeRecord.objects.filter(record=record_of(run)).order_by("-at", "-pk").first()
    if last is not None:
        last.delete()
    return run


@transaction.atomic
def write_note(run: Run, at: int, note: str) -> Run:
    """Write the note of a step that was entered, also after it."""
    if not run.records.filter(n=at).update(note=note):
        raise Clash("step", at, "a note is written on a step that was entered", "Choose one of those.")
    return run


@transaction.atomic
def stop_run(run: Run, at: int) -> Run:
    """Stop a run before its end; what was done stays in the log."""
    run = _going_at(run, at)
    now = timezone.now()
    run.records.filter(n=run.position).update(ended_at=now)
    run.state, run.ended_at = Run.STOPPED, now
    run.save(update_fields=["state", "ended_at"])
    return run


def _enter(run: Run, n: int, now: datetime) -> None:
    run.position = n
    run.save(update_fields=["position"])
    low, high = _due(step_of(run), now)
    StepRecord.objects.create(run=run, n=n, started_at=now, due_low=low, due_high=high)


def _due(step: Step, now: datetime) -> tuple[datetime | None, datetime | None]:
    """Give when a step that waits by itself is due, at the earliest and at the latest."""
    match step:
        case PickleStep():
            return now + timedelta(minutes=step.minutes_low), now + timedelta(minutes=step.minutes_high)
        case CoolStep():
            return now + timedelta(minutes=step.minutes), now + timedelta(minutes=step.minutes)
        case _:
            return None, None


def _may_be_left(run: Run, step: Step, *, confirmed: bool, skipped: bool) -> None:
    if isinstance(step, PrepareStep) and step.confirm and not confirmed:
        raise Clash(
            "step", step.n, "this step holds a danger and waits to be confirmed", "Read it, then confirm."
        )
    if isinstance(step, HeatStep) and not skipped:
        known = set(record_of(run).outcomes.values_list("join", flat=True))
        open_joins = [row.title for row in step.joins if row.join not in known]
        if open_joins:
            raise Clash(
                "step",
                step.n,
                f"{open_joins[0]} has no outcome yet",
                "Say how it came out, or skip the heat.",
            )


def _going_at(run: Run, at: int) -> Run:
    """Give the run, locked; raise `Clash` when it has ended or stands at another step by now."""
    run = Run.objects.select_for_update().get(pk=run.pk)
    if run.state != Run.GOING:
        raise Clash("run", run.pk, f"this run is {run.state}", "Look it up in the log.")
    if run.position != at:
        raise Clash(
            "step", at, f"the run stands at step {run.position} by now", "Look again at what it asks."
        )
    return run

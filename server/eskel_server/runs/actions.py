"""What can be done in a run. Each names the step that it was meant for, so that a key pressed twice does no harm."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from django.db import transaction
from django.utils import timezone

from eskel_core.log import OUTCOMES
from eskel_core.piece import piece_object
from eskel_core.plan import CoolStep, HeatStep, PickleStep, PrepareStep, Step, WorkStep
from eskel_server.accounts import Clash
from eskel_server.pieces import document_of, plan_of

from .models import ForetoldHeat, NoteRecord, OutcomeRecord, Run, SignRecord, StayRecord, StepRecord
from .queries import LIT, marked, plan_of_run, record_of, step_of

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow


@transaction.atomic
def start_run(piece: PieceRow, confirmed: frozenset[tuple[str, int | None]] = frozenset()) -> Run:
    """Start a run of a piece's plan as it now stands, when each rule that speaks against it is confirmed by code and step."""
    plan = plan_of(piece)
    if plan.conflict is not None or not plan.steps:
        raise Clash(
            "piece", piece.name, "only a piece with a plan can be run", "Give it joins that can be planned."
        )
    for stop in plan.stops:
        if (stop.code, stop.step) not in confirmed:
            raise Clash(
                "confirmed",
                {"code": stop.code, "step": stop.step},
                f"each rule that speaks against a plan is confirmed before a run: {stop.text}",
                f"{stop.remedy}. Or confirm it.",
            )
    now = timezone.now()
    run = Run.objects.create(
        workshop=piece.workshop,
        piece=piece,
        piece_name=piece.name,
        document=piece_object(document_of(piece)),
        plan=plan.model_dump(mode="json"),
        step_count=len(plan.steps),
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
    _leave(record_of(run), now, skipped=skipped)
    if run.position == run.step_count:
        run.state, run.ended_at = Run.FINISHED, now
        run.save(update_fields=["state", "ended_at"])
    else:
        _enter(run, run.position + 1, now)
    return run


@transaction.atomic
def go_back(run: Run, at: int) -> Run:
    """Go back one step; what was written and timed of both steps stays, and so does a timer that runs."""
    run = _going_at(run, at)
    if run.position == 1:
        raise Clash("step", 1, "this is the first step", "Go on from here.")
    now = timezone.now()
    record_of(run).stays.filter(left_at=None).update(left_at=now, went_back=True)
    _enter(run, run.position - 1, now)
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
    now, record = timezone.now(), record_of(run)
    record.outcomes.filter(join=join, taken_back_at=None).update(taken_back_at=now)
    OutcomeRecord.objects.create(record=record, join=join, outcome=outcome, at=now)
    return run


@transaction.atomic
def press_sign(run: Run, at: int, stage: int) -> Run:
    """Record that the flame is lit (0), or that the sign of a stage of the heat's programme is seen; pressed twice it counts once."""
    run = _going_at(run, at)
    step = step_of(run)
    stages = step.stages if isinstance(step, HeatStep) else ()
    if not isinstance(step, HeatStep) or stage > len(stages):
        raise Clash(
            "sign",
            stage,
            "a sign is of a stage of the heat at hand",
            "Look again at what the step asks.",
        )
    record = record_of(run)
    seen = set(record.signs.filter(taken_back_at=None).values_list("stage", flat=True))
    if stage not in seen:
        if stage != LIT and LIT not in seen:
            raise Clash("sign", stage, "signs count from the lit flame", "Press when the flame is lit.")
        SignRecord.objects.create(record=record, stage=stage, at=timezone.now())
    return run


@transaction.atomic
def take_back_sign(run: Run, at: int) -> Run:
    """Take back the sign that was pressed last in the heat at which the run stands."""
    run = _going_at(run, at)
    last = record_of(run).signs.filter(taken_back_at=None).order_by("-at", "-pk").first()
    if last is not None:
        last.taken_back_at = timezone.now()
        last.save(update_fields=["taken_back_at"])
    return run


@transaction.atomic
def write_measure(run: Run, at: int, mm: float | None) -> Run:
    """Record the size that was measured in a step that was entered, mm; none takes it back."""
    record = run.records.select_for_update().filter(n=at).first()
    if record is None:
        raise Clash("step", at, "a size is of a step that was entered", "Choose one of those.")
    record.measured_mm = mm
    record.save(update_fields=["measured_mm"])
    return run


@transaction.atomic
def write_tally(run: Run, at: int, done: int) -> Run:
    """Record how many of what is alike in a step are done; a step that was entered, also after it."""
    record = run.records.select_for_update().filter(n=at).first()
    if record is None:
        raise Clash("step", at, "a tally is of a step that was entered", "Choose one of those.")
    alike = plan_of_run(run).steps[at - 1].alike
    if done > alike:
        raise Clash("done", done, f"there are {alike} alike in this step", f"Count up to {alike}.")
    record.tally = done
    record.save(update_fields=["tally"])
    return run


@transaction.atomic
def take_back_outcome(run: Run, at: int) -> Run:
    """Take back the outcome that was recorded last in the heat at which the run stands."""
    run = _going_at(run, at)
    last = record_of(run).outcomes.filter(taken_back_at=None).order_by("-at", "-pk").first()
    if last is not None:
        last.taken_back_at = timezone.now()
        last.save(update_fields=["taken_back_at"])
    return run


@transaction.atomic
def write_note(run: Run, at: int, note: str, was: str | None = None) -> Run:
    """Write the note of a step that was entered, also after it.

    `was` is the note that the writer saw: one that was written elsewhere meanwhile is kept beside the new one.
    """
    record = run.records.select_for_update().filter(n=at).first()
    if record is None:
        raise Clash("step", at, "a note is written on a step that was entered", "Choose one of those.")
    if was is not None and record.note not in (was, note):
        note = f"{record.note}\n{note.removeprefix(was).strip() or note}"
    if note != record.note:
        NoteRecord.objects.create(record=record, text=note, at=timezone.now())
        record.note = note
        record.save(update_fields=["note"])
    return run


@transaction.atomic
def stop_run(run: Run, at: int) -> Run:
    """Stop a run before its end; what was done stays in the log."""
    run = _going_at(run, at)
    now = timezone.now()
    _leave(record_of(run), now, skipped=False)
    run.state, run.ended_at = Run.STOPPED, now
    run.save(update_fields=["state", "ended_at"])
    return run


def _leave(record: StepRecord, now: datetime, *, skipped: bool) -> None:
    record.ended_at, record.skipped = now, skipped
    record.save(update_fields=["ended_at", "skipped"])
    record.stays.filter(left_at=None).update(left_at=now)


def _enter(run: Run, n: int, now: datetime) -> None:
    """Stand at a step: a new one begins with its timer, one that is come to again goes on with all that it has."""
    run.position = n
    run.save(update_fields=["position"])
    step = step_of(run)
    low, high = _due(step, now)
    kind = step.work_kind if isinstance(step, WorkStep) else ""
    defaults = {"started_at": now, "due_low": low, "due_high": high, "work_kind": kind, "alike": step.alike}
    record, new = StepRecord.objects.get_or_create(run=run, n=n, defaults=defaults)
    if not new:
        record.ended_at, record.skipped = None, False
        record.save(update_fields=["ended_at", "skipped"])
    elif isinstance(step, HeatStep):
        _foretell(record, step)
    StayRecord.objects.create(record=record, entered_at=now)


def _foretell(record: StepRecord, step: HeatStep) -> None:
    """Keep what was foretold of a heat where it can be asked by its torch."""
    told = step.rehearsed
    if told is None or not told.likely_s:
        return
    ForetoldHeat.objects.create(
        record=record,
        torch=told.torch,
        heat_no=step.heat_no,
        low_s=told.low_s,
        likely_s=told.likely_s,
        high_s=told.high_s,
        factor=told.factor,
        spread=told.spread,
        stages=len(step.stages),
    )


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
        known = set(record_of(run).outcomes.filter(taken_back_at=None).values_list("join", flat=True))
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
    run = marked(Run.objects.defer("plan", "document")).select_for_update().get(pk=run.pk)
    if run.state != Run.GOING:
        raise Clash("run", run.pk, f"this run is {run.state}", "Look it up in the log.")
    if run.position != at:
        raise Clash(
            "step", at, f"the run stands at step {run.position} by now", "Look again at what it asks."
        )
    return run

"""What can be done in a run. Each names the step that it was meant for, so that a key pressed twice does no harm; each is an event."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any
from uuid import uuid4

from django.db import transaction
from django.utils import timezone

from eskel_core.log import OUTCOMES
from eskel_core.piece import Piece, piece_object
from eskel_core.plan import HeatStep, Plan, PrepareStep, Step
from eskel_core.run import Turn, Way, read_event
from eskel_server.accounts import Clash, Unreadable
from eskel_server.pieces import document_of, plan_of

from .happened import begin, moment_of, ms_of, state_of, step_at, take, turn_of
from .models import Run
from .queries import LIT, marked, plan_of_run

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow

# What is done by a key that asks the server is written down by the server itself.
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
def advance(run: Run, at: int, *, confirmed: bool = False, skipped: bool = False) -> Run:
    """End the step at which a run stands and enter the next; after the last one the run is finished."""
    run = _going_at(run, at)
    turn = turn_of(run)
    _may_be_left(turn, step_at(run, turn), confirmed=confirmed, skipped=skipped)
    return _happens(run, "next", confirmed=confirmed, skipped=skipped)


@transaction.atomic
def go_back(run: Run, at: int) -> Run:
    """Go back one step; what was written and timed of both steps stays, and so does a timer that runs."""
    run = _going_at(run, at)
    if state_of(run).turns[0].id == run.turn:
        raise Clash("step", 1, "this is the first step", "Go on from here.")
    return _happens(run, "back")


@transaction.atomic
def record_outcome(run: Run, at: int, join: str, outcome: str) -> Run:
    """Record how a join came out of the heat at which the run stands; a second word on it counts for the first."""
    run = _going_at(run, at)
    step = step_at(run, turn_of(run))
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
    return _happens(run, "outcome", join=join, outcome=outcome)


@transaction.atomic
def do_again(run: Run, at: int, ways: Sequence[Way], heat_no: int | None = None) -> Run:
    """Do the heat at hand again, or one before this step (the last, unless told), in some ways: for the joins that did not come
    out sound, or all where each did.
    """
    run = _going_at(run, at)
    turns = state_of(run).turns
    here = next(n for n, turn in enumerate(turns) if turn.id == run.turn)
    plan = plan_of_run(run)
    heats = [
        turn
        for turn in turns[: here + 1]
        for step in [plan.steps[turn.step - 1]]
        if isinstance(step, HeatStep) and heat_no in (None, step.heat_no)
    ]
    if not heats:
        raise Clash("step", at, "a heat that was done is done again", "Go on to its heat.")
    sound = {word.outcome: word.sound for word in OUTCOMES}
    joins = [word.join for word in heats[-1].outcomes if not sound[word.outcome]]
    return _happens(run, "again", of=heats[-1].id, ways=list(ways), joins=joins)


@transaction.atomic
def press_sign(run: Run, at: int, stage: int) -> Run:
    """Record that the flame is lit (0), or that the sign of a stage of the heat's programme is seen; pressed twice it counts once."""
    run = _going_at(run, at)
    turn = turn_of(run)
    step = step_at(run, turn)
    stages = step.stages if isinstance(step, HeatStep) else ()
    if not isinstance(step, HeatStep) or stage > len(stages):
        raise Clash(
            "sign",
            stage,
            "a sign is of a stage of the heat at hand",
            "Look again at what the step asks.",
        )
    seen = {sign.stage for sign in turn.signs}
    if stage in seen:
        return run
    if stage == LIT:
        return _happens(run, "lit")
    if LIT not in seen:
        raise Clash("sign", stage, "signs count from the lit flame", "Press when the flame is lit.")
    return _happens(run, "sign", stage=stage)


@transaction.atomic
def take_back_sign(run: Run, at: int) -> Run:
    """Take back the sign that was pressed last in the heat at which the run stands."""
    run = _going_at(run, at)
    signs = turn_of(run).signs
    last = max(signs, key=lambda sign: (sign.at_ms, sign.stage), default=None)
    return run if last is None else _happens(run, "undo", of=last.event)


@transaction.atomic
def write_measure(run: Run, at: int, mm: float | None) -> Run:
    """Record the size that was measured in a step that was entered, mm; none takes it back."""
    turn = _entered(run, at, "a size is")
    known = next((measure for measure in turn.measures if measure.what == "size_mm"), None)
    if mm is None:
        return run if known is None else _happens(run, "undo", of=known.event)
    return _happens(run, "measure", turn, what="size_mm", value=mm)


@transaction.atomic
def write_tally(run: Run, at: int, done: int) -> Run:
    """Record how many of what is alike in a step are done; a step that was entered, also after it."""
    turn = _entered(run, at, "a tally is")
    alike = plan_of_run(run).steps[turn.step - 1].alike
    if done > alike:
        raise Clash("done", done, f"there are {alike} alike in this step", f"Count up to {alike}.")
    return _happens(run, "tally", turn, done=done)


@transaction.atomic
def take_back_outcome(run: Run, at: int) -> Run:
    """Take back the outcome that was recorded last in the heat at which the run stands: what was said before it stands again."""
    run = _going_at(run, at)
    said = turn_of(run).outcomes
    return _happens(run, "undo", of=said[-1].event) if said else run


@transaction.atomic
def write_note(run: Run, at: int, note: str, was: str | None = None) -> Run:
    """Write the note of a step that was entered, also after it.

    `was` is the note that the writer saw: one that was written elsewhere meanwhile is kept beside the new one.
    """
    turn = _entered(run, at, "a note is written")
    before = "\n".join(one.text for one in turn.notes)
    if was is not None and before not in (was, note):
        note = f"{before}\n{note.removeprefix(was).strip() or note}"
    if note == before:
        return run
    others = [one.event for one in turn.notes]
    last = others.pop() if others else None
    for other in others:
        _happens(run, "undo", of=other)
    return _happens(run, "note", turn, text=note, replaces=last)


@transaction.atomic
def stop_run(run: Run, at: int) -> Run:
    """Stop a run before its end; what was done stays in the log. One that cannot be read is stopped all the same."""
    run = _going_at(run, at)
    try:
        return _happens(run, "stop")
    except Unreadable:
        now = timezone.now()
        run.records.filter(ended_at=None).update(ended_at=now)
        run.state, run.ended_at = Run.STOPPED, now
        run.save(update_fields=["state", "ended_at"])
        return run


def _happens(run: Run, kind: str, turn: Turn | None = None, **told: Any) -> Run:
    """Let something happen in a run now, at the turn where it stands or at another one."""
    at = {} if kind == "undo" else {"turn": run.turn if turn is None else turn.id}
    event = read_event(
        {
            "id": str(uuid4()),
            "device": DEVICE,
            "seq": 1 + run.events.filter(told__device=DEVICE).count(),
            "at_ms": ms_of(timezone.now()),
            "kind": kind,
            **at,
            **told,
        }
    )
    take(run, [event])
    return run


def _entered(run: Run, at: int, what: str) -> Turn:
    """Give the latest turn of a step that was entered; raise `Clash` where there is none."""
    Run.objects.select_for_update().only("pk").get(pk=run.pk)
    turns = [turn for turn in state_of(run).turns if turn.step == at and turn.stays]
    if not turns:
        raise Clash("step", at, f"{what} of a step that was entered", "Choose one of those.")
    return turns[-1]


def _may_be_left(turn: Turn, step: Step, *, confirmed: bool, skipped: bool) -> None:
    if isinstance(step, PrepareStep) and step.confirm and not confirmed:
        raise Clash(
            "step", step.n, "this step holds a danger and waits to be confirmed", "Read it, then confirm."
        )
    if isinstance(step, HeatStep) and not skipped:
        known = {word.join for word in turn.outcomes}
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

"""What happened in a run is taken, each event once, and what the run looks like by it is written where the log can ask for it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from django.db import transaction
from django.utils import timezone

from eskel_core.plan import HeatStep, Plan, Step, WorkStep, read_plan
from eskel_core.run import Event, RunFile, RunState, Turn, run_state
from eskel_server.accounts import Clash, Unreadable, current_workshop

from .before import told_from_before
from .facts import (
    COUNTED,
    count_outcomes,
    count_steps,
    kind_of,
    outcome_facts,
    steps_counted,
    words_that_stand,
)
from .following import events_of, faces_of_run, followed_of, keep_followed, moment_of, ms_of, state_of
from .models import EventRecord, ForetoldHeat, OutcomeRecord, Run, StepRecord
from .queries import plan_of_run, steps_of_run
from .rows import notes_in_short, write_rows

if TYPE_CHECKING:
    from django.db.models import Model, QuerySet


_CLOCKS_DIFFER_MS = 2_000


@transaction.atomic
def take(run: Run, told: Sequence[Event]) -> RunState:
    """Take events of a run, each once, and give what the run looks like then. Raises `Unreadable` where its plan cannot be read."""
    # One after another: what two devices send at once is told in one order.
    Run.objects.select_for_update().only("pk").get(pk=run.pk)
    followed = followed_of(run)
    telling = followed.telling
    was = telling.state
    if followed.read is None:
        _keep(run, told_from_before(run))
    now_ms = ms_of(timezone.now())
    new = {event.id: event for event in told if not telling.has(event.id)}.values()
    fresh = [_not_later(event, now_ms) for event in new]
    _keep(run, fresh)
    telling.add(fresh)
    now = telling.state
    _write(run, was, now)
    followed.read = run.events.order_by("-pk").values_list("pk", "event").first()
    # Kept only when it is in the database for good: what was told of a change that failed is told anew.
    transaction.on_commit(lambda: keep_followed(run, followed))
    return now


def begin(run: Run) -> None:
    """Write down how a run looks to which nothing has happened yet."""
    state = run_state(faces_of_run(run), ms_of(run.started_at), ())
    _write_turn(run, plan_of_run(run), steps_of_run(run), state.turns[0])


@transaction.atomic
def count_run(key: int) -> None:
    """Count for the log a run from before it counted; of one that cannot be read nothing is known that could be."""
    run = Run.objects.select_for_update().get(pk=key)
    if run.counted:
        return
    run.counted = True
    run.save(update_fields=["counted"])
    try:
        plan = plan_of_run(run)
    except Unreadable:
        return
    records = {record.turn: record for record in run.records.prefetch_related("stays")}
    for turn in state_of(run).turns:
        record = records.get(turn.id)
        if record is not None:
            step = steps_of_run(run)[turn.step - 1]
            count_steps(run, kind_of(step), {}, steps_counted(record))
            _write_outcomes(run, record, turn, outcome_facts(run, plan, step, turn))


@transaction.atomic
def take_in(file: RunFile) -> Run:
    """Take a run in from a file, whole or not at all; raise `Clash` where it is in the log already."""
    workshop = current_workshop()
    known = EventRecord.objects.filter(run__workshop=workshop, event__in=[event.id for event in file.events])
    same = Run.objects.filter(
        workshop=workshop, piece_name=file.piece_name, started_at=moment_of(file.began_ms)
    )
    if known.exists() or same.exists():
        raise already_there(file)
    run = Run.objects.create(
        workshop=workshop,
        piece=workshop.pieces.filter(name=file.piece_name).first(),
        piece_name=file.piece_name,
        document=file.document,
        plan=file.plan,
        step_count=len(read_plan(file.plan).steps),
        put_in=[step.model_dump(mode="json") for step in file.put_in],
        started_at=moment_of(file.began_ms),
    )
    begin(run)
    if file.events:
        take(run, file.events)
    return run


def already_there(file: RunFile) -> Clash:
    """Give what is said of a run that is in the log already."""
    return Clash(
        "piece_name", file.piece_name, "a run is in the log once", "It is there already: leave it out."
    )


def file_of(run: Run) -> RunFile:
    """Give a run as a file; raise `Unreadable` where its plan cannot be read."""
    plan_of_run(run)
    return RunFile(
        piece_name=run.piece_name,
        document=run.document,
        plan=run.plan,
        began_ms=ms_of(run.started_at),
        put_in=steps_of_run(run)[len(plan_of_run(run).steps) :],
        events=tuple(events_of(run)),
    )


def _not_later(event: Event, now_ms: int) -> Event:
    """Set an event right whose device's clock is ahead of ours: nothing happened after we were told of it."""
    over = event.at_ms + event.ahead_ms - now_ms - _CLOCKS_DIFFER_MS
    return event if over <= 0 else event.model_copy(update={"ahead_ms": now_ms - event.at_ms})


def _keep(run: Run, events: Sequence[Event]) -> None:
    now = timezone.now()
    EventRecord.objects.bulk_create(
        EventRecord(
            run=run,
            event=event.id,
            kind=event.kind,
            told=event.model_dump(mode="json", exclude_defaults=True) | {"kind": event.kind},
            taken_at=now,
        )
        for event in events
    )


def _write(run: Run, was: RunState, now: RunState) -> None:
    """Write where a run stands, and the turns that are not as they were."""
    plan, steps = plan_of_run(run), steps_of_run(run)
    known = {turn.id: turn for turn in was.turns}
    for turn in now.turns:
        before = known.get(turn.id)
        if turn.stays and turn is not before and turn != before:
            _write_turn(run, plan, steps, turn, before)
    # What comes late may have been sooner: a turn that it leaves unentered has no record.
    gone = {turn.id for turn in was.turns if turn.stays} - {turn.id for turn in now.turns if turn.stays}
    for record in run.records.filter(turn__in=gone):
        count_outcomes(record.outcomes.filter(taken_back_at=None).values(*COUNTED), ())
        kind = kind_of(steps[record.n - 1])
        count_steps(run, kind, steps_counted(record), {})
        record.delete()
    run.turn, run.state = now.at, now.standing
    run.position = position_of(now, len(plan.steps))
    run.ended_at = None if now.ended_ms is None else moment_of(now.ended_ms)
    run.save(update_fields=["turn", "position", "state", "ended_at"])


def position_of(state: RunState, planned: int) -> int:
    """Give the step of the plan at which a run stands; where it stands at one that was put in, the one before that."""
    position = 1
    for turn in state.turns:
        position = turn.step if turn.step <= planned else position
        if turn.id == state.at:
            break
    return position


def _write_turn(run: Run, plan: Plan, steps: Sequence[Step], turn: Turn, was: Turn | None = None) -> None:
    step = steps[turn.step - 1]
    # A turn that was never stood at has no record yet.
    record = run.records.filter(turn=turn.id).first() if was is not None and was.stays else None
    was = was or Turn(id=turn.id, step=turn.step)
    first, last = turn.stays[0], turn.stays[-1]
    sizes = {measure.what: measure.value for measure in turn.measures}
    new = record is None
    took = steps_counted(record)
    told = {
        "n": turn.step,
        "again": turn.again,
        "heat_no": step.heat_no if isinstance(step, HeatStep) else None,
        "started_at": moment_of(first.entered_ms),
        "ended_at": None if last.left_ms is None or last.back else moment_of(last.left_ms),
        "due_low": None if turn.due_low_ms is None else moment_of(turn.due_low_ms),
        "due_high": None if turn.due_high_ms is None else moment_of(turn.due_high_ms),
        "skipped": turn.skipped,
        "off_at": None if turn.off_ms is None else moment_of(turn.off_ms),
        "note": notes_in_short(turn),
        "tally": turn.tally,
        "measured_mm": sizes.get("size_mm"),
        "work_kind": step.work_kind if isinstance(step, WorkStep) else "",
        "alike": step.alike,
    }
    if record is None:
        record = StepRecord.objects.create(run=run, turn=turn.id, **told)
    else:
        for name, value in told.items():
            setattr(record, name, value)
        record.save(update_fields=list(told))
    if new and isinstance(step, HeatStep):
        _foretell(record, step)
    write_rows(record, was, turn, new=new)
    count_steps(run, kind_of(step), took, steps_counted(record))
    _write_outcomes(run, record, turn, outcome_facts(run, plan, step, turn), new=new)


def _write_outcomes(
    run: Run, record: StepRecord, turn: Turn, facts: list[dict[str, Any]], *, new: bool = False
) -> None:
    standing = None if new else record.outcomes.filter(taken_back_at=None)
    was = [] if standing is None else list(standing.values(*COUNTED))
    rows = [
        {
            "record": record,
            "run_id": run.pk,
            "workshop_id": run.workshop_id,
            "join": word.join,
            "outcome": word.outcome,
            "at": moment_of(word.at_ms),
            **fact,
        }
        for word, fact in zip(words_that_stand(turn), facts, strict=True)
    ]
    _stand(standing, OutcomeRecord, rows)
    count_outcomes(was, rows)


def _stand(rows: QuerySet[Any] | None, model: type[Model], told: list[dict[str, Any]]) -> None:
    """Let rows be as they are told; nothing is written where they are so already. None where there are none yet."""
    keys = list(told[0]) if told else []
    if (
        rows is not None
        and told
        and list(rows.values(*keys))
        == [{key: getattr(value, "pk", value) for key, value in row.items()} for row in told]
    ):
        return
    if told or (rows is not None and rows.exists()):
        if rows is not None:
            rows.delete()
        model._default_manager.bulk_create(model(**row) for row in told)


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

"""The rail: what runs now, when it is due, what comes next, and what can be done meanwhile."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Literal

from django.utils import timezone
from ninja import Schema

from eskel_core.piece import resolve_house
from eskel_core.plan import CoolStep, HeatStep, PickleStep, Plan, Step
from eskel_core.rules import over_pickle
from eskel_core.run import AtHand, Meanwhile, meanwhile
from eskel_server.accounts import Unreadable
from eskel_server.bench import bench_of
from eskel_server.page import page_name

from .models import Run, StepRecord
from .queries import plan_of_run, record_of, steps_of_run
from .views import UNREADABLE, next_text

MOST_MEANWHILE = 3


class MeanwhileView(Schema):
    """What can be done of another running piece meanwhile: its step, how long that takes, minutes, and why that is offered."""

    run: int
    piece_name: str
    text: str
    minutes: float
    why: Literal["no-torch", "same-solder"]


class RailEntry(Schema):
    """One running thing in the rail: what it is, when it is due, and what happens next; until when what it lay on is too hot to touch."""

    run: int
    piece_name: str
    position: int
    total: int
    kind: str
    text: str
    due_low: datetime | None
    due_high: datetime | None
    started_at: datetime
    next_text: str
    block_until: datetime | None
    caution: str | None
    meanwhile: list[MeanwhileView]


class Rail(Schema):
    """Everything that runs now, with the server's clock, and the build of the page that it serves."""

    now: datetime
    page: str
    entries: list[RailEntry]


def rail_of(runs: list[Run]) -> Rail:
    """Give the rail of the runs that are going."""
    standing = [(run, record_of(run), _plan_or_why(run)) for run in runs]
    at_hand = {
        run.pk: _at_hand(run, record, plan) for run, record, plan in standing if isinstance(plan, Plan)
    }
    names = {run.pk: run.piece_name for run in runs}
    hot = _hot_blocks([(run, plan) for run, _, plan in standing if isinstance(plan, Plan)])
    return Rail(
        now=timezone.now(),
        page=page_name(),
        entries=[
            _rail_entry(run, record, plan, at_hand, names, hot.get(run.pk)) for run, record, plan in standing
        ],
    )


def _hot_blocks(standing: Sequence[tuple[Run, Plan]]) -> dict[int, datetime]:
    """Give until when what the last heat of each run lay on is too hot to touch, where it still is."""
    plans = {run.pk: plan for run, plan in standing}
    steps = {run.pk: steps_of_run(run) for run, _ in standing}
    # A run that goes on from another begins with the cooling of the other's last heat.
    last = {run.pk: (0, run.started_at) for run, plan in standing if isinstance(plan.steps[0], CoolStep)}
    ended = StepRecord.objects.filter(run_id__in=plans, skipped=False, ended_at__isnull=False)
    for key, n, at in ended.order_by("ended_at").values_list("run_id", "n", "ended_at"):
        if at is not None and isinstance(steps[key][n - 1], HeatStep):
            # What was put in where something went wrong cools as the heat of the plan that it is of.
            last[key] = (_planned_as(plans[key], steps[key][n - 1]), at)
    found: dict[int, datetime] = {}
    for key, (n, at) in last.items():
        cool = next((step for step in plans[key].steps[n:] if isinstance(step, CoolStep)), None)
        until = at + timedelta(minutes=cool.block_minutes if cool else 0)
        if until > timezone.now():
            found[key] = until
    return found


def _planned_as(plan: Plan, heat: Step) -> int:
    """Give the number in the plan of the heat that a heat does again."""
    number = heat.heat_no if isinstance(heat, HeatStep) else 0
    return next((step.n for step in plan.steps if isinstance(step, HeatStep) and step.heat_no == number), 0)


def _plan_or_why(run: Run) -> Plan | Unreadable:
    try:
        return plan_of_run(run)
    except Unreadable as problem:
        return problem


def _at_hand(run: Run, record: StepRecord, plan: Plan) -> AtHand:
    left = (record.due_low - timezone.now()).total_seconds() / 60 if record.due_low else 0.0
    return AtHand(run.pk, plan.steps[run.position - 1], plan.steps[run.position :], left_min=max(0.0, left))


def _rail_entry(
    run: Run,
    record: StepRecord,
    plan: Plan | Unreadable,
    at_hand: dict[int, AtHand],
    names: dict[int, str],
    hot: datetime | None,
) -> RailEntry:
    """Give a run's line of the rail; one that cannot be read says so, and the others stand."""
    others: tuple[Meanwhile, ...] = ()
    if isinstance(plan, Unreadable):
        kind, text, ahead = "unreadable", UNREADABLE, ""
        caution: str | None = str(plan)
    else:
        step = steps_of_run(run)[record.n - 1]
        kind, text, ahead = step.kind, step.text, next_text(plan.steps, run.position)
        caution = _too_long_in_pot(run, step, record.started_at)
        others = meanwhile(at_hand[run.pk], [one for key, one in at_hand.items() if key != run.pk])
    return RailEntry(
        run=run.pk,
        piece_name=run.piece_name,
        position=run.position,
        total=run.step_count,
        kind=kind,
        text=text,
        due_low=record.due_low,
        due_high=record.due_high,
        started_at=record.started_at,
        next_text=ahead,
        block_until=hot,
        caution=caution,
        meanwhile=[
            MeanwhileView(
                run=one.run,
                piece_name=names[one.run],
                text=one.step.text,
                minutes=one.step.minutes,
                why=one.why,
            )
            for one in others[:MOST_MEANWHILE]
        ],
    )


def _too_long_in_pot(run: Run, step: Step, since: datetime) -> str | None:
    """Say that a piece has been in a warm pot far too long, where it has."""
    if not isinstance(step, PickleStep):
        return None
    warm = resolve_house(bench_of(run.workshop)[0]).pot == "warm"
    minutes = (timezone.now() - since).total_seconds() / 60
    found = next(over_pickle(minutes, step.minutes_high, warm=warm), None)
    return None if found is None else f"{found.text} {found.remedy}."

"""What can be asked of runs."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from statistics import median
from typing import TYPE_CHECKING, Any

from django.db.models import CharField, DurationField, ExpressionWrapper, F, Prefetch
from django.db.models.functions import MD5, Cast
from pydantic import TypeAdapter

from eskel_core.faults import Refused, refuse
from eskel_core.log import SOUND
from eskel_core.plan import Plan, Step, read_plan
from eskel_core.pot import Load, pace_of
from eskel_core.rules import LONGEST_TIMES
from eskel_server.accounts import Missing, Unreadable, current_workshop

if TYPE_CHECKING:
    from django.db.models import QuerySet

    from .models import ForetoldHeat, Run, StepRecord

MOST_HEATS = 200
MOST_WORKED = 400
# The first sign of a heat: the flame is lit.
LIT = 0


@dataclass(frozen=True)
class HeatAsLogged:
    """A heat that was foretold and then carried out, times in s, from the lit flame where that was told (`lit`), to the last
    sign; `sound` says whether every join came out sound.
    """

    record: int
    piece_name: str
    torch: str
    heat_no: int
    at: datetime
    low_s: float | None
    likely_s: float
    high_s: float | None
    factor: float
    spread: float
    actual_s: float
    lit: bool
    sound: bool


def runs_of() -> QuerySet[Run]:
    """Give every run of this workshop, the newest first; what is large is read only when it is asked for."""
    from .models import Run

    return Run.objects.filter(workshop=current_workshop()).defer("plan", "document")


def marked(runs: QuerySet[Run]) -> QuerySet[Run]:
    """Give runs with a mark of the plan that each follows, by which a plan that was read is known again."""
    return runs.annotate(plan_mark=MD5(Cast("plan", CharField())))


def run_of(key: int) -> Run:
    """Give a run of this workshop; raise `Missing` when there is none."""
    row = marked(runs_of()).filter(pk=key).first()
    if row is None:
        raise Missing("run", key)
    return row


def plan_of_run(run: Run) -> Plan:
    """Give the plan that a run follows, as it was when it began; raise `Unreadable` with where it cannot be read."""
    try:
        plan = _plan_by_mark(run.pk, run.plan_mark) if hasattr(run, "plan_mark") else read_plan(run.plan)
        if not 1 <= run.position <= len(plan.steps):
            rule = f"the plan has {len(plan.steps)} steps"
            raise refuse("unreadable", "position", run.position, rule, "Stop this run and begin it anew.")
    except Refused as problem:
        raise Unreadable("run", run.pk, problem) from problem
    return plan


def steps_of_run(run: Run) -> tuple[Step, ...]:
    """Give the steps of a run by their numbers: those of its plan, and after them those that were put in."""
    return (*plan_of_run(run).steps, *(_STEP.validate_python(plain) for plain in run.put_in))


_STEP: TypeAdapter[Step] = TypeAdapter(Step)


@lru_cache(maxsize=64)
def _plan_by_mark(key: int, mark: str) -> Plan:
    """Read the plan of a run; the mark is of its content, so that what is kept here is never stale."""
    from .models import Run

    return read_plan(Run.objects.values_list("plan", flat=True).get(pk=key))


def record_of(run: Run) -> StepRecord:
    """Give the record of the turn at which a run stands."""
    return run.records.get(turn=run.turn)


def worked_minutes() -> dict[str, list[tuple[float, int]]]:
    """Give how long the newest work in the log took, minutes, and on how many alike, by its kind; what was skipped does not count."""
    from .models import StepRecord

    done = (
        StepRecord.objects.filter(run__workshop=current_workshop(), skipped=False, ended_at__isnull=False)
        .exclude(work_kind="")
        .order_by("-started_at")
        .prefetch_related("stays")[:MOST_WORKED]
    )
    found: dict[str, list[tuple[float, int]]] = {}
    for record in done:
        seconds = sum(
            (stay.left_at - stay.entered_at).total_seconds() for stay in record.stays.all() if stay.left_at
        )
        found.setdefault(record.work_kind, []).append((seconds / 60, record.alike))
    return found


@dataclass(frozen=True)
class PotLoads:
    """What went into the pot: how many loads, how many of them came out before their time, or stayed three times too long, and the minutes
    that they stayed at the median; None where there were none. `pace` is how many times as long as reckoned they took, if that is known.
    """

    loads: int
    early: int
    too_long: int
    minutes: float | None
    pace: float | None


def _in_pot(since: datetime | None) -> QuerySet[StepRecord]:
    from .models import StepRecord

    # What cools has one moment at which it is due, what lies in the pot a span.
    done = StepRecord.objects.filter(
        run__workshop=current_workshop(), skipped=False, ended_at__isnull=False, due_high__gt=F("due_low")
    )
    return done if since is None else done.filter(started_at__gte=since)


def loads_since(moment: datetime) -> int:
    """Give how many loads went into the pot since a moment."""
    return _in_pot(moment).count()


def pot_loads(mixed_on: date | None, paced_at: datetime | None = None) -> PotLoads:
    """Give what went into the pot of this workshop and came out again, since it was mixed; its pace by those since it was last set."""
    mixed_at = None if mixed_on is None else datetime.combine(mixed_on, time(), UTC)
    done = _in_pot(mixed_at)
    most = ExpressionWrapper((F("due_high") - F("started_at")) * int(LONGEST_TIMES), DurationField())
    told = done.annotate(took=_from_start("ended_at"), most=most)
    newest = told.annotate(low=_from_start("due_low"), high=_from_start("due_high")).order_by("-started_at")
    spans = newest.values_list("took", "low", "high", "started_at")[:MOST_WORKED]
    loads = [(began, [span.total_seconds() / 60 for span in row]) for *row, began in spans]
    since = [
        Load(took=took, low=low, high=high)
        for began, (took, low, high) in loads
        if paced_at is None or began >= paced_at
    ]
    return PotLoads(
        loads=done.count(),
        early=done.filter(ended_at__lt=F("due_low") - timedelta(minutes=1)).count(),
        too_long=told.filter(took__gte=F("most")).count(),
        minutes=median(took for _, (took, _, _) in loads) if loads else None,
        pace=pace_of(since, LONGEST_TIMES),
    )


def _from_start(to: str) -> ExpressionWrapper[Any]:
    """Give how long it is in a step from its start to a moment of it."""
    return ExpressionWrapper(F(to) - F("started_at"), DurationField())


def logged_heats(torch: str | None = None) -> dict[str, list[HeatAsLogged]]:
    """Give by torch the heats of this workshop that were foretold and carried out: the newest, the oldest of them first."""
    from .models import ForetoldHeat

    rows = (
        ForetoldHeat.objects.filter(record__run__workshop=current_workshop(), record__skipped=False)
        .exclude(record__ended_at=None)
        .select_related("record__run")
        .defer("record__run__plan", "record__run__document")
        .prefetch_related("record__stays", standing_signs(), standing_outcomes())
        .order_by("-record_id")
    )
    named = rows.order_by("torch").values_list("torch", flat=True).distinct()
    torches = [torch] if torch is not None else list(named)
    return {one: [_heat(row) for row in reversed(rows.filter(torch=one)[:MOST_HEATS])] for one in torches}


def standing_signs(of: str = "record__signs") -> Prefetch[str]:
    """Read with foretold heats, or whatever has them, the signs that were pressed and not taken back, in their order."""
    from .models import SignRecord

    return Prefetch(of, queryset=SignRecord.objects.filter(taken_back_at=None))


def standing_outcomes(of: str = "record__outcomes") -> Prefetch[str]:
    """Read with foretold heats, or whatever has them, the outcomes that stand."""
    from .models import OutcomeRecord

    return Prefetch(of, queryset=OutcomeRecord.objects.filter(taken_back_at=None))


def _heat(row: ForetoldHeat) -> HeatAsLogged:
    record = row.record
    outcomes = list(record.outcomes.all())
    lit, end = flame_of(record, row.stages)
    # A step that was gone back to is timed by the last stay at it.
    entered = max((stay.entered_at for stay in record.stays.all()), default=record.started_at)
    took = (end - (lit or entered)).total_seconds() if end else 0.0
    return HeatAsLogged(
        record=record.pk,
        piece_name=row.record.run.piece_name,
        torch=row.torch,
        heat_no=row.heat_no,
        at=record.started_at,
        low_s=row.low_s,
        likely_s=row.likely_s,
        high_s=row.high_s,
        factor=row.factor,
        spread=row.spread,
        actual_s=took,
        lit=lit is not None,
        sound=all(SOUND[one.outcome] for one in outcomes),
    )


def flame_of(record: StepRecord, stages: int) -> tuple[datetime | None, datetime | None]:
    """Give when the flame was lit, if that was told, and when a heat of so many stages was over.

    Where the last sign was not pressed, the heat ended when the flame was put out, or else when it was first said how it came out.
    """
    signs = {one.stage: one.at for one in record.signs.all()}
    said = record.off_at or min((one.at for one in record.outcomes.all()), default=record.ended_at)
    return signs.get(LIT), signs.get(stages, said) if stages else said


def has_record(key: int) -> bool:
    """Tell whether a step of that record is in a run of this workshop."""
    from .models import StepRecord

    return StepRecord.objects.filter(run__workshop=current_workshop(), pk=key).exists()

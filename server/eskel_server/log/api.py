"""The log over HTTP."""

from __future__ import annotations

import math
from datetime import date, datetime
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from eskel_core.log import OUTCOMES, outcome_csv
from eskel_server.accounts import Faults
from eskel_server.runs import (
    Asked,
    RunLine,
    choices,
    find_runs,
    outcomes_in_log,
    step_times,
    sums_of,
    timed_heats,
)

from .queries import MOST_HEATS, MOST_LINES, minutes_by_log, some

router = Router(tags=["log"])


class OutcomeCount(Schema):
    """How often an outcome came."""

    outcome: str
    words: str
    sound: bool
    count: int


class LogLine(Schema):
    """A run as a line of the log."""

    id: int
    piece_name: str
    state: str
    started_at: datetime
    ended_at: datetime | None
    steps_done: int
    steps: int
    outcomes: list[OutcomeCount]
    notes: int


Short = Annotated[str, Field(max_length=200)]


class AskedIn(Schema):
    """What is asked of the log: words, each of which is found; what it is of, empty for any; not before a day. `outcome` may also be `well` or `wrong`."""

    words: Short = ""
    piece: Short = ""
    metal: Short = ""
    kind: Short = ""
    grade: Short = ""
    torch: Short = ""
    outcome: Short = ""
    wire: Literal["", "thin", "middling", "heavy"] = ""
    sheet: Literal["", "thin", "middling", "heavy"] = ""
    since: date | None = None

    def asked(self) -> Asked:
        """Give it as it is asked."""
        told = self.model_dump(exclude={"words", "piece"})
        return Asked(words=some(self.words), piece_name=self.piece, **told)


class LogChoices(Schema):
    """By what the log can be asked: what of each is in it."""

    piece: list[str]
    metal: list[str]
    kind: list[str]
    grade: list[str]
    torch: list[str]
    outcome: list[str]
    wire: list[str]
    sheet: list[str]


class JoinSum(Schema):
    """How often joins of a kind were soldered with a grade, and how often they came out sound."""

    kind: str
    grade: str
    times: int
    sound: int


class MonthSum(Schema):
    """A month: how often a join came out sound, and how often it did not; the solder that was laid, mg, by its grade."""

    month: date
    sound: int
    unsound: int
    solder_mg: dict[str, float]


class TorchMonth(Schema):
    """A torch in a month: how many times as long as foretold its heats took at the geometric mean, and how many they were."""

    torch: str
    month: date
    ratio: float
    heats: int


class HeatDot(Schema):
    """A heat: foretold, and from the lit flame to the last sign, s."""

    run: int
    torch: str
    at: datetime
    told_s: float
    took_s: float
    sound: bool


class StepSum(Schema):
    """How many steps of a kind there were, and how long one took, minutes."""

    kind: str
    times: int
    minutes_each: float


class LogSums(Schema):
    """What is asked for, summed up; `heats` are the newest."""

    times: int
    sound: int
    joins: list[JoinSum]
    months: list[MonthSum]
    torches: list[TorchMonth]
    heats: list[HeatDot]
    steps: list[StepSum]


@router.get("/log", response={200: list[LogLine], 422: Faults}, operation_id="findInLog")
def find_in_log(request: HttpRequest, asked: Query[AskedIn]) -> list[LogLine]:
    """Find runs by words in their piece, notes or outcomes, and by what their outcomes are of."""
    return [_line(run) for run in find_runs(asked.asked(), MOST_LINES)]


@router.get("/log/choices", response=LogChoices, operation_id="logChoices")
def log_choices(request: HttpRequest) -> LogChoices:
    """Give by what the log can be asked."""
    found = choices()
    return LogChoices(piece=found.pop("piece_name"), **found)


@router.get("/log/sums", response={200: LogSums, 422: Faults}, operation_id="logSums")
def log_sums(request: HttpRequest, query: Query[AskedIn]) -> LogSums:
    """Sum up what is asked for."""
    asked = query.asked()
    joins: dict[tuple[str, str], JoinSum] = {}
    for row in sums_of(asked, ("kind", "grade", "sound")):
        key = (row["kind"], row["grade"])
        held = joins.setdefault(key, JoinSum(kind=key[0], grade=key[1], times=0, sound=0))
        held.times += row["times"]
        held.sound += row["times"] if row["sound"] else 0
    months, torches = _by_month(asked)
    return LogSums(
        times=sum(one.times for one in joins.values()),
        sound=sum(one.sound for one in joins.values()),
        joins=sorted(joins.values(), key=lambda one: (-one.times, one.kind, one.grade)),
        months=months,
        torches=torches,
        heats=[HeatDot.model_validate(heat, from_attributes=True) for heat in timed_heats(asked, MOST_HEATS)],
        steps=[
            StepSum(kind=kind, times=times, minutes_each=seconds / times / 60)
            for kind, times, seconds in sorted(step_times(asked))
        ],
    )


def _by_month(asked: Asked) -> tuple[list[MonthSum], list[TorchMonth]]:
    months: dict[date, MonthSum] = {}
    torches: dict[tuple[str, date], tuple[int, float]] = {}
    for row in sums_of(asked, ("month", "grade", "torch", "sound")):
        month = months.setdefault(
            row["month"], MonthSum(month=row["month"], sound=0, unsound=0, solder_mg={})
        )
        if row["sound"]:
            month.sound += row["times"]
        else:
            month.unsound += row["times"]
        month.solder_mg[row["grade"]] = month.solder_mg.get(row["grade"], 0.0) + row["solder_mg"]
        heats, log_ratio = torches.get((row["torch"], row["month"]), (0, 0.0))
        torches[row["torch"], row["month"]] = (heats + row["heats"], log_ratio + row["log_ratio"])
    return [months[month] for month in sorted(months)], [
        TorchMonth(torch=torch, month=month, heats=heats, ratio=math.exp(log_ratio / heats))
        for (torch, month), (heats, log_ratio) in sorted(torches.items())
        if heats > 0
    ]


@router.get("/log/outcomes.csv", operation_id="outcomesCsv", include_in_schema=False)
def outcomes_as_csv(request: HttpRequest, query: Query[AskedIn]) -> HttpResponse:
    """Give every outcome of the runs that are found, as CSV."""
    answer = HttpResponse(
        outcome_csv(outcomes_in_log(query.asked())).encode(), content_type="text/csv; charset=utf-8"
    )
    answer["Content-Disposition"] = 'attachment; filename="outcomes.csv"'
    return answer


class LoggedMinutes(Schema):
    """How many minutes a kind of work takes for each single thing, by so many times in the log."""

    kind: str
    each: float
    times: int


@router.get("/log/minutes", response=list[LoggedMinutes], operation_id="minutesByLog")
def minutes(request: HttpRequest) -> list[LoggedMinutes]:
    """Give the minutes of the kinds of work that the log knows well enough."""
    return [LoggedMinutes(kind=kind, each=each, times=times) for kind, each, times in minutes_by_log()]


def _line(run: RunLine) -> LogLine:
    return LogLine(
        id=run.id,
        piece_name=run.piece_name,
        state=run.state,
        started_at=run.started_at,
        ended_at=run.ended_at,
        steps_done=run.steps_done,
        steps=run.step_count,
        outcomes=[
            OutcomeCount(
                outcome=word.outcome, words=word.words, sound=word.sound, count=run.outcomes[word.outcome]
            )
            for word in OUTCOMES
            if word.outcome in run.outcomes
        ],
        notes=run.notes,
    )

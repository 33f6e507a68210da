"""The log over HTTP."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from datetime import date, datetime
from typing import Annotated, Any, Literal

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from ninja import Query, Router, Schema
from pydantic import BaseModel, Field

from eskel_core.log import OUTCOMES, outcome_csv_pieces
from eskel_core.run import RunFile
from eskel_server.accounts import Faults
from eskel_server.bodies import Day
from eskel_server.runs import (
    MOST_IN_FILE,
    Asked,
    Chosen,
    RunLine,
    TimedHeat,
    choices,
    files_in_log,
    find_runs,
    outcomes_in_log,
    runs_in_log,
    step_times,
    sums_of,
    timed_heats,
    without_a_word,
)
from eskel_server.streamed import Streamed

from .queries import MOST_HEATS, MOST_LINES, minutes_by_log, some

router = Router(tags=["log"])


class Told(BaseModel):
    """What is told in hundreds: plain records, which are made and written many times sooner than those that can be read from anything."""


class OutcomeCount(Told):
    """How often an outcome came."""

    outcome: str
    words: str
    sound: bool
    count: int


class LogLine(Told):
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


Rows = list[dict[str, Any]]
Short = Annotated[str, Field(max_length=200)]


class AskedIn(Schema):
    """What is asked of the log: words, each of which is found; what it is of, empty for any; not before the month of a day. `outcome` may also be `well` or `wrong`."""

    words: Short = ""
    piece: Short = ""
    metal: Short = ""
    kind: Short = ""
    grade: Short = ""
    torch: Short = ""
    outcome: Short = ""
    wire: Literal["", "thin", "middling", "heavy"] = ""
    sheet: Literal["", "thin", "middling", "heavy"] = ""
    since: Day | None = None

    def asked(self) -> Asked:
        """Give it as it is asked."""
        told = self.model_dump(exclude={"words", "piece", "since"})
        since = self.since and self.since.replace(day=1)
        return Asked(words=some(self.words), piece_name=self.piece, since=since, **told)


class LogChoices(Schema):
    """By what the log can be asked: what of each is in it; how many runs it has, and how many of them one file holds."""

    runs: int
    runs_in_file: int
    piece: list[str]
    metal: list[str]
    kind: list[str]
    grade: list[str]
    torch: list[str]
    outcome: list[str]
    wire: list[str]
    sheet: list[str]


class JoinSum(Told):
    """How often joins of a kind were soldered with a grade, and how often they came out sound."""

    kind: str
    grade: str
    times: int
    sound: int


class MonthSum(Told):
    """A month: how often a join came out sound, and how often it did not; the solder that was laid, mg, by its grade."""

    month: date
    sound: int
    unsound: int
    solder_mg: dict[str, float]


class TorchMonth(Told):
    """A torch in a month: how many times as long as foretold its heats took at the geometric mean, and how many they were."""

    torch: str
    month: date
    ratio: float
    heats: int


class StepSum(Told):
    """How many steps of a kind there were, and how long one took, minutes."""

    kind: str
    times: int
    minutes_each: float


class WordLeftOut(Told):
    """A word that was asked for, and how many joins there are without it."""

    word: str
    times: int


class LogSums(Told):
    """What is asked for, summed up; `heats` are the newest. Where there is nothing, `without` tells which word to leave out."""

    times: int
    sound: int
    joins: list[JoinSum]
    months: list[MonthSum]
    torches: list[TorchMonth]
    heats: list[TimedHeat]
    steps: list[StepSum]
    without: list[WordLeftOut]


@router.get("/log", response={200: list[LogLine], 422: Faults}, operation_id="findInLog")
def find_in_log(request: HttpRequest, asked: Query[AskedIn]) -> list[LogLine]:
    """Find runs by words in their piece, notes or outcomes, and by what their outcomes are of."""
    return [_line(run) for run in find_runs(Chosen(asked.asked()), MOST_LINES)]


@router.get("/log/choices", response=LogChoices, operation_id="logChoices")
def log_choices(request: HttpRequest) -> LogChoices:
    """Give by what the log can be asked."""
    found = choices()
    return LogChoices(runs=runs_in_log(), runs_in_file=MOST_IN_FILE, piece=found.pop("piece_name"), **found)


@router.get("/log/sums", response={200: LogSums, 422: Faults}, operation_id="logSums")
def log_sums(request: HttpRequest, query: Query[AskedIn]) -> LogSums:
    """Sum up what is asked for."""
    chosen = Chosen(query.asked())
    joins = _by_join(sums_of(chosen, ("kind", "grade", "sound")))
    rows = sums_of(chosen, ("month", "grade", "torch", "sound"))
    return LogSums(
        times=sum(one.times for one in joins),
        sound=sum(one.sound for one in joins),
        joins=joins,
        months=_by_month(rows),
        torches=_by_torch(rows),
        heats=timed_heats(chosen, MOST_HEATS),
        steps=[
            StepSum(kind=kind, times=times, minutes_each=seconds / times / 60)
            for kind, times, seconds in sorted(step_times(chosen))
        ],
        without=[]
        if joins
        else [WordLeftOut(word=word, times=times) for word, times in without_a_word(chosen)],
    )


def _by_join(rows: Rows) -> list[JoinSum]:
    sums: dict[tuple[str, str], list[int]] = {}
    for row in rows:
        held = sums.setdefault((row["kind"], row["grade"]), [0, 0])
        held[0] += row["times"]
        held[1] += row["times"] if row["sound"] else 0
    joins = [
        JoinSum(kind=kind, grade=grade, times=times, sound=sound)
        for (kind, grade), (times, sound) in sums.items()
    ]
    return sorted(joins, key=lambda one: (-one.times, one.kind, one.grade))


def _by_month(rows: Rows) -> list[MonthSum]:
    counts: dict[date, list[int]] = {}
    laid: dict[date, dict[str, float]] = {}
    for row in rows:
        held, solder = counts.setdefault(row["month"], [0, 0]), laid.setdefault(row["month"], {})
        held[0 if row["sound"] else 1] += row["times"]
        solder[row["grade"]] = solder.get(row["grade"], 0.0) + row["solder_mg"]
    return [
        MonthSum(month=month, sound=sound, unsound=unsound, solder_mg=laid[month])
        for month, (sound, unsound) in sorted(counts.items())
    ]


def _by_torch(rows: Rows) -> list[TorchMonth]:
    sums: dict[tuple[str, date], tuple[int, float]] = {}
    for row in rows:
        heats, log_ratio = sums.get((row["torch"], row["month"]), (0, 0.0))
        sums[row["torch"], row["month"]] = (heats + row["heats"], log_ratio + row["log_ratio"])
    return [
        TorchMonth(torch=torch, month=month, heats=heats, ratio=math.exp(log_ratio / heats))
        for (torch, month), (heats, log_ratio) in sorted(sums.items())
        if heats > 0
    ]


@router.get("/log/outcomes.csv", operation_id="outcomesCsv", include_in_schema=False)
def outcomes_as_csv(request: HttpRequest, query: Query[AskedIn]) -> HttpResponseBase:
    """Give every outcome of the runs that are found, as CSV."""
    pieces = outcome_csv_pieces(outcomes_in_log(query.asked()))
    return Streamed(map(str.encode, pieces), "text/csv; charset=utf-8", "outcomes.csv")


@router.get("/log/runs.json", operation_id="runsAsFiles", include_in_schema=False)
def runs_as_files(
    request: HttpRequest, query: Query[AskedIn], part: Annotated[int, Query(ge=1, le=100_000)] = 1
) -> HttpResponseBase:
    """Give a part of the runs that are found, the newest first, with all that happened in them, as JSON, to be taken in again."""
    named = "runs.json" if part == 1 else f"runs-{part}.json"
    return Streamed(_log_file(files_in_log(query.asked(), part)), "application/json; charset=utf-8", named)


def _log_file(files: Iterable[RunFile]) -> Iterator[bytes]:
    yield b'{"format": "eskel-log/1", "runs": ['
    for n, file in enumerate(files):
        yield (", " if n else "").encode() + file.model_dump_json().encode()
    yield b"]}"


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

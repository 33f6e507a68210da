"""The log over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema

from eskel_core.log import OUTCOMES, outcome_csv
from eskel_server.accounts import Faults
from eskel_server.runs import RunLine, outcomes_in_log

from .queries import find, minutes_by_log, some

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


@router.get("/log", response={200: list[LogLine], 422: Faults}, operation_id="findInLog")
def find_in_log(request: HttpRequest, words: Annotated[str, Query(max_length=200)] = "") -> list[LogLine]:
    """Find runs by words in their piece, notes or outcomes."""
    return [_line(run) for run in find(words)]


@router.get("/log/outcomes.csv", operation_id="outcomesCsv", include_in_schema=False)
def outcomes_as_csv(request: HttpRequest, words: Annotated[str, Query(max_length=200)] = "") -> HttpResponse:
    """Give every outcome of the runs that hold the words, as CSV."""
    answer = HttpResponse(
        outcome_csv(outcomes_in_log(some(words))).encode(), content_type="text/csv; charset=utf-8"
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

"""The log over HTTP."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest
from ninja import Router, Schema

from eskel_core.log import OUTCOMES
from eskel_server.runs.models import Run

from .queries import find_runs

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


@router.get("/log", response=list[LogLine], operation_id="findInLog")
def find(request: HttpRequest, words: str = "") -> list[LogLine]:
    """Find runs by words in their piece, notes or outcomes."""
    return [_line(run) for run in find_runs(words)]


def _line(run: Run) -> LogLine:
    records = list(run.records.all())
    said = [one.outcome for record in records for one in record.outcomes.all()]
    return LogLine(
        id=run.pk,
        piece_name=run.piece_name,
        state=run.state,
        started_at=run.started_at,
        ended_at=run.ended_at,
        steps_done=sum(1 for record in records if record.ended_at is not None),
        steps=len(run.plan["steps"]),
        outcomes=[
            OutcomeCount(
                outcome=word.outcome, words=word.words, sound=word.sound, count=said.count(word.outcome)
            )
            for word in OUTCOMES
            if word.outcome in said
        ],
        notes=sum(1 for record in records if record.note),
    )

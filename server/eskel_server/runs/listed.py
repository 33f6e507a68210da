"""What a log gives out: its runs as files, the outcomes of its runs as rows; piece by piece, however many there are."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import datetime
from itertools import groupby, islice
from typing import TYPE_CHECKING, Any, NamedTuple

from django.db.models import F

from eskel_core.log import LoggedOutcome
from eskel_core.run import RunFile
from eskel_server.accounts import Unreadable

from .asked import Asked, Chosen, find_runs
from .queries import LIT, runs_of

if TYPE_CHECKING:
    from django.db.models import QuerySet

    from .models import Run

MOST_IN_TABLE = 2_000
MOST_IN_FILE = 500
MOST_AT_ONCE = 50
# The runs whose outcomes are read together.
READ_TOGETHER = 200


def runs_in_log() -> int:
    """Give how many runs there are."""
    return runs_of().count()


def files_in_log(asked: Asked, part: int = 1) -> Iterator[RunFile]:
    """Give a part of the runs that are found as files, the newest first; one that cannot be read is left out."""
    from .happened import file_of

    for run in (
        _found(asked)
        .defer(None)[(part - 1) * MOST_IN_FILE : part * MOST_IN_FILE]
        .iterator(chunk_size=MOST_AT_ONCE)
    ):
        try:
            yield file_of(run)
        except Unreadable:
            continue


def _found(asked: Asked) -> QuerySet[Run]:
    runs = runs_of()
    if asked.words or asked.of or asked.since:
        runs = runs.filter(pk__in=[line.id for line in find_runs(Chosen(asked), MOST_IN_TABLE)])
    return runs


def outcomes_in_log(asked: Asked) -> Iterator[LoggedOutcome]:
    """Give the outcomes that stand of the runs that are found: the newest run first, each in the order of its work.

    The runs come from a cursor of the database, and what is of them some hundred runs at a time: memory stays the same.
    """
    runs = _found(asked).values_list("pk", "piece_name", "started_at").iterator(chunk_size=READ_TOGETHER)
    while some := list(islice(runs, READ_TOGETHER)):
        yield from _outcomes_of(some)


class _Row(NamedTuple):
    """An outcome that stands, with what its step and its facet tell."""

    run: int
    record: int
    step: int
    heat_no: int | None
    again: int
    off_at: datetime | None
    stages: int | None
    note: str
    join: str
    kind: str | None
    solder: str | None
    at: datetime
    outcome: str


_COLUMNS = (
    *("run_id", "record_id", "record__n", "record__heat_no", "record__again", "record__off_at"),
    *("record__foretold__stages", "record__note", "join", "facet__kind", "facet__solder", "at", "outcome"),
)


def _outcomes_of(runs: Sequence[tuple[int, str, datetime]]) -> Iterator[LoggedOutcome]:
    """Give the outcomes of some runs, in the order of the runs."""
    from .models import OutcomeRecord

    keys = [key for key, _, _ in runs]
    found = OutcomeRecord.objects.filter(run_id__in=keys, taken_back_at=None)
    rows = [
        _Row(*row)
        for row in found.order_by("run_id", "record__started_at", "record_id", "at", "pk").values_list(
            *_COLUMNS
        )
    ]
    signs = _signs_of(keys)
    by_run = {key: list(of_run) for key, of_run in groupby(rows, key=lambda row: row.run)}
    for key, name, began_at in runs:
        for record, of_record in groupby(by_run.get(key, ()), key=lambda row: row.record):
            said = list(of_record)
            lit, off = _flame(said, signs.get(record, {}))
            for row in said:
                yield LoggedOutcome(
                    run=key,
                    piece_name=name,
                    began_at=began_at,
                    step=row.step,
                    heat_no=row.heat_no,
                    again=row.again,
                    join=row.join,
                    kind=row.kind or "",
                    solder=row.solder or "",
                    lit_at=lit,
                    off_at=off if lit else None,
                    said_at=row.at,
                    outcome=row.outcome,
                    note=row.note,
                )


def _signs_of(runs: Sequence[int]) -> dict[int, dict[int, datetime]]:
    """Give when each sign of some runs was seen, by record and stage."""
    from .models import SignRecord

    signs: dict[int, dict[int, datetime]] = {}
    rows: Any = SignRecord.objects.filter(record__run_id__in=runs, taken_back_at=None).order_by()
    for record, stage, at in rows.values_list("record_id", "stage", F("at")):
        signs.setdefault(record, {})[stage] = at
    return signs


def _flame(said: Sequence[_Row], signs: dict[int, datetime]) -> tuple[datetime | None, datetime]:
    """Give when the flame of a heat was lit, and when it was off: by the last sign, or as it was pressed, or by the first word."""
    over = said[0].off_at or min(row.at for row in said)
    stages = said[0].stages
    return signs.get(LIT), signs.get(stages, over) if stages else over

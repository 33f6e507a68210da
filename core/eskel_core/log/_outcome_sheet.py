"""The outcomes of the log as a table, for those who would rather reckon than read."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import lru_cache
from itertools import islice

from ..units import Sheet
from ._outcomes import OUTCOMES, OutcomeWord

_HEAD = (
    "run",
    "piece",
    "run began",
    "step",
    "heat",
    "try",
    "join",
    "kind",
    "solder",
    "flame lit",
    "flame off",
    "under the flame s",
    "said",
    "outcome",
    "in words",
    "sound",
    "note",
)
_WORDS: dict[str, OutcomeWord] = {word.outcome: word for word in OUTCOMES}


@dataclass(frozen=True)
class LoggedOutcome:
    """How a join came out of a heat, as the log has it; what was not told is empty or None.

    `again` is which try of the step it was. `lit_at` is when the flame was lit, `off_at` when
    the last sign was seen, or else when it was first said how the heat came out.
    """

    run: int
    piece_name: str
    began_at: datetime
    step: int
    heat_no: int | None
    again: int
    join: str
    kind: str
    solder: str
    lit_at: datetime | None
    off_at: datetime | None
    said_at: datetime
    outcome: str
    note: str


# Rows that are written together.
ROWS_EACH = 500


def outcome_csv(rows: Iterable[LoggedOutcome]) -> str:
    """Write outcomes as CSV, one a row, times in UTC as ISO 8601; seconds are counted from the lit flame on."""
    return "".join(outcome_csv_pieces(rows))


def outcome_csv_pieces(rows: Iterable[LoggedOutcome]) -> Iterator[str]:
    """Write outcomes as CSV piece by piece, some hundred rows each: what is held is one piece."""
    sheet, left = Sheet(), iter(rows)
    sheet.writerow(_HEAD)
    while some := list(islice(left, ROWS_EACH)):
        for row in some:
            sheet.writerow(_cells(row))
        yield sheet.taken()
    yield sheet.taken()


def _cells(row: LoggedOutcome) -> tuple[str, ...]:
    word = _WORDS[row.outcome]
    return (
        str(row.run),
        row.piece_name,
        _moment(row.began_at),
        str(row.step),
        "" if row.heat_no is None else str(row.heat_no),
        str(row.again),
        row.join,
        row.kind,
        row.solder,
        _moment(row.lit_at),
        _moment(row.off_at),
        _seconds(row.lit_at, row.off_at),
        _moment(row.said_at),
        row.outcome,
        word.words,
        "yes" if word.sound else "no",
        row.note,
    )


@lru_cache(maxsize=1024)
def _moment(at: datetime | None) -> str:
    return "" if at is None else at.astimezone(UTC).isoformat(timespec="seconds")


def _seconds(lit: datetime | None, last: datetime | None) -> str:
    if lit is None or last is None or last <= lit:
        return ""
    return f"{(last - lit).total_seconds():.1f}"

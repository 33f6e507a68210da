"""How long steps take, by a table of kinds of work: once, for each part or hole, and by the mm that are cut.

What is done piece by piece is done for every copy; the pot is not. A house may tell its own minutes for each.
"""

from __future__ import annotations

import csv
from collections.abc import Sequence
from functools import lru_cache
from importlib.resources import files
from statistics import median

from pydantic import BaseModel, ConfigDict

from ..forms import Sheet, outline_perimeter_mm
from ..piece import House, Piece, StepKind, Work, WorkKind, base_id, part_of

LOGGED_AT_LEAST = 3


class Pace(BaseModel):
    """The minutes of a kind of work: `once`, for `each` single part, for each mm cut and each g heated; `why` in a line."""

    model_config = ConfigDict(frozen=True)

    kind: WorkKind | StepKind
    once: float
    each: float
    per_mm: float
    per_g: float
    why: str


@lru_cache(maxsize=1)
def paces() -> dict[str, Pace]:
    """Give the pace of every kind of work and step, as the table has it."""
    text = (files("eskel_core") / "data" / "minutes.csv").read_text(encoding="utf-8")
    rows = csv.DictReader(text.splitlines())
    return {row["kind"]: Pace.model_validate(row) for row in rows}


def minutes_of(
    house: House, kind: WorkKind | StepKind, number: float = 1, cut_mm: float = 0.0, grams: float = 0.0
) -> float:
    """Give the minutes of a kind of step done on so many single things, with so many mm cut on all of them, or so many g heated.

    Minutes of the house stand for those of each thing and its grams.

    >>> from eskel_core.piece import House
    >>> minutes_of(House(), "drill", 4)
    4.0
    """
    pace = paces()[kind]
    each = house.minutes.get(kind)
    single = pace.each * number + pace.per_g * grams if each is None else each * number
    return round(pace.once + single + pace.per_mm * cut_mm, 1)


def each_by_log(kind: str, done: Sequence[tuple[float, int]]) -> float | None:
    """Give the minutes for each single thing that a log shows, of times in minutes and how many alike each was; None of too few.

    The median, so that a telephone call counts for nothing.

    >>> each_by_log("drill", [(2.5, 1), (4.0, 4), (60.0, 1)])
    1.5
    """
    if len(done) < LOGGED_AT_LEAST or kind not in paces():
        return None
    once = paces()[kind].once
    return round(median(max(0.0, minutes - once) / alike for minutes, alike in done), 2)


def minutes_of_work(piece: Piece, house: House, work: Work) -> float:
    """Give the minutes of a piece of work on all its parts and all copies."""
    single = [_singles(piece, reference) * piece.copies for reference in work.parts]
    number = (sum(single) or piece.copies) * (work.times or 1)
    cut = sum(
        many * outline_perimeter_mm(form.outline)
        for reference, many in zip(work.parts, single, strict=True)
        if isinstance(form := part_of(piece, base_id(reference)).form, Sheet)
    )
    return minutes_of(house, work.kind, number, cut)


def _singles(piece: Piece, reference: str) -> int:
    return 1 if "#" in reference else part_of(piece, reference).count

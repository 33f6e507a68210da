"""The rules of steel tools and of the finish: grits, darkening, sealing."""

from __future__ import annotations

import csv
import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from itertools import pairwise

from ..piece import Work, base_id
from ._course import Course
from ._finding import Finding
from ._registry import speaks

ON_STEEL = frozenset({"roll", "draw", "forge", "dome", "size", "harden", "texture"})
BEFORE_SEALING = frozenset({"darken", "finish", "set"})
FINER_AT_MOST = 2.0


@dataclass(frozen=True)
class Stage:
    """A finishing stage by name: as what grit it leaves the surface, and after which grit it is used at the earliest."""

    name: str
    grit: int
    after_grit: int


@speaks("grit-skipped")
def grit_skipped(course: Course) -> Iterator[Finding]:
    """`grit-skipped`: a finishing stage is more than twice as fine as the one before; a compound by name comes too early."""
    by_part: dict[tuple[str, ...], list[tuple[Work, Stage]]] = {}
    for work in course.piece.work:
        stage = stage_of(work.stage) if work.kind == "finish" else None
        if stage is not None:
            by_part.setdefault(tuple(sorted(set(map(base_id, work.parts)))), []).append((work, stage))
    for stages in by_part.values():
        for (before, coarse), (after, fine) in pairwise(stages):
            if coarse.grit < fine.after_grit:
                text = f"From {coarse.name} to {fine.name}: the scratches of {coarse.name} stay."
                yield Finding("grit-skipped", (before.id, after.id), text, work=after.id)


def stage_of(told: str | int | None) -> Stage | None:
    """Give a finishing stage as it was told: a grit by its number, a compound by its name; None for one that nobody knows."""
    if told is None:
        return None
    text = str(told).strip().lower()
    number = text.removesuffix(" grit")
    if number.isdigit():
        return Stage(number, int(number), math.ceil(int(number) / FINER_AT_MOST))
    return next((stage for name, stage in _stages().items() if name in text), None)


@lru_cache(maxsize=1)
def _stages() -> dict[str, Stage]:
    text = (files("eskel_core") / "data" / "finish_stages.csv").read_text(encoding="utf-8")
    rows = csv.DictReader(text.splitlines())
    return {row["stage"]: Stage(row["stage"], int(row["grit"]), int(row["after_grit"])) for row in rows}


@speaks("seal-last")
def seal_last(course: Course) -> Iterator[Finding]:
    """`seal-last`: lacquer or wax is told to come before darkening, polishing or setting of the same part."""
    seals = [work for work in course.piece.work if work.kind == "seal"]
    for seal in seals:
        parts = set(map(base_id, seal.parts))
        for other in course.piece.work:
            shared = not parts or not other.parts or parts & set(map(base_id, other.parts))
            told = seal.id in other.after or other.id in seal.before
            if other.kind in BEFORE_SEALING and shared and told:
                text = f"{_title(seal)} comes before {_title(other).lower()}, which would go through it."
                yield Finding("seal-last", (seal.id, other.id), text, work=seal.id)


def _title(work: Work) -> str:
    words = work.title
    return words[0].upper() + words[1:]

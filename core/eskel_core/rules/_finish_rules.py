"""The rules of steel tools and of the finish: grits, darkening, sealing."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from ..piece import Work, base_id
from ._asking import titles
from ._course import Course
from ._finding import Finding
from ._registry import speaks

ON_STEEL = frozenset({"roll", "draw", "forge", "dome", "size", "harden", "texture"})
BEFORE_SEALING = frozenset({"darken", "finish", "set"})
FINER_AT_MOST = 2.0


@speaks("wet-on-steel")
def wet_on_steel(course: Course) -> Iterator[Finding]:
    """`wet-on-steel`: work on a mill, block or mandrel comes right after a heat, and so after the pot and the rinse; told once, at the first."""
    first: dict[int, str] = {}
    for name, slot in course.slots.items():
        first.setdefault(slot, name)
    wet = [
        work
        for work in course.piece.work
        if work.kind in ON_STEEL and (slot := course.slots.get(work.id, 0)) >= 1 and first[slot] == work.id
    ]
    wet.sort(key=lambda work: course.slots[work.id])
    if wet:
        names = titles([_title(work) for work in wet])
        follow = "follows" if len(wet) == 1 else "follow"
        text = f"{names} {follow} the pot."
        yield Finding("wet-on-steel", tuple(work.id for work in wet), text, work=wet[0].id)


@speaks("grit-skipped")
def grit_skipped(course: Course) -> Iterator[Finding]:
    """`grit-skipped`: a finishing stage told as a number is more than twice as fine as the one before."""
    by_part: dict[tuple[str, ...], list[Work]] = {}
    for work in course.piece.work:
        if work.kind == "finish" and isinstance(work.stage, int):
            by_part.setdefault(tuple(sorted(set(map(base_id, work.parts)))), []).append(work)
    for stages in by_part.values():
        for before, after in pairwise(stages):
            coarse, fine = int(before.stage or 1), int(after.stage or 1)
            if fine > FINER_AT_MOST * coarse:
                text = f"From {coarse} to {fine} is more than twice as fine: the scratches of {coarse} stay."
                yield Finding("grit-skipped", (before.id, after.id), text, work=after.id)


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

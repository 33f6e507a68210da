"""Hollows in time: what encloses them, from which heat on they are closed, and from which on they have a vent.

A hollow is what joins enclose (`encloses`), or the inside of a part whose ends are closed: a tube that comes so (`sealed_ends`), or
one that work seals (`seals`). A hole that is drilled stays when an end is shut afterwards; a saw cut is a way out only where it is
told to vent, or told its place, after the sealing.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..forms import Tube
from ..piece import Work, base_id, part_of
from ..state import opens
from ._course import Course, Heat

_NEVER = 10**6


@dataclass(frozen=True)
class Hollow:
    """A hollow by its name: closed in heats from `closes` on, with a vent in those from `vented` on; `part` where it is one part's own."""

    name: str
    nodes: frozenset[str]
    closes: int
    vented: int
    part: str | None = None

    def is_sealed_in(self, heat: Heat) -> bool:
        """Say whether a heat's body holds it closed, or closes it, with no vent."""
        return self._is_in(heat) and heat.number < self.vented

    def is_vented_in(self, heat: Heat) -> bool:
        """Say whether a heat's body holds it closed but for a vent, by which water gets in and has to get out."""
        return self._is_in(heat) and heat.number >= self.vented

    def _is_in(self, heat: Heat) -> bool:
        return heat.number >= self.closes and bool(self.nodes & heat.body)


def hollows_of(course: Course) -> tuple[Hollow, ...]:
    """Give every hollow of a course, those that joins enclose first."""
    return (*_enclosed(course), *_of_parts(course))


def _enclosed(course: Course) -> Iterator[Hollow]:
    names = dict.fromkeys(join.encloses for join in course.piece.joins if join.encloses is not None)
    for name in names:
        joins = [join for join in course.piece.joins if join.encloses == name]
        closes = max((course.made_in[join.id] for join in joins if join.id in course.made_in), default=_NEVER)
        nodes = course.anatomy.of(tuple(end for join in joins for end in join.between))
        vents = [work for work in course.piece.work if name in work.vents]
        vented = 0 if name in course.vented else _first_after(course, vents)
        yield Hollow(name, nodes, closes, vented)


def _of_parts(course: Course) -> Iterator[Hollow]:
    for part in course.piece.parts:
        closed = isinstance(part.form, Tube) and part.form.sealed_ends == 2
        sealing = [work for work in course.piece.work if part.id in map(base_id, work.seals)]
        if not closed and not sealing:
            continue
        opening = [work for work in course.piece.work if opens(course.piece, work.id, part.id)]
        closes = 0 if closed else _first_after(course, sealing)
        nodes = frozenset(course.anatomy.nodes[part.id])
        yield Hollow(
            part_of(course.piece, part.id).title, nodes, closes, _first_after(course, opening), part.id
        )


def _first_after(course: Course, works: list[Work]) -> int:
    """Give the first heat after the first of some work; never where there is none."""
    return min((course.slots.get(work.id, 0) + 1 for work in works), default=_NEVER)

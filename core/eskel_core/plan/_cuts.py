"""A plan that would do what must never be done is cut off: with more orders it comes out otherwise, or it is never given out."""

from __future__ import annotations

from collections.abc import Iterable

from ..demands import Demand
from ..piece import HOLDING_WORK, Piece, base_id, harm_in_heat, why_not_heated
from ..rules import Course
from ..state import Remark
from ._script import Script
from ._types import BrokenDemand, Conflict, HeatStep


def cuts_of(course: Course, script: Script, bad: Iterable[tuple[int, Remark]]) -> tuple[Demand, ...]:
    """Give the orders that keep what does not bear heat out of an anneal that forming asks for: it is put on afterwards."""
    piece = course.piece
    titles = {row.id: row.title for row in (*piece.joins, *piece.work)}
    cuts: dict[Demand, None] = {}
    heats = {heat.number: heat for heat in course.heats}
    steps = {step.n: step for step in script.steps}
    for n, remark in bad:
        step, parts = steps.get(n), tuple(map(base_id, remark.about))
        if not isinstance(step, HeatStep) or not set(parts) <= _tender_parts(piece):
            return ()
        for work in heats[step.heat_no].anneals:
            for tie in _cold_ties(piece, frozenset(parts)):
                text = f"{why_not_heated(piece, parts[0])} {titles[work]} asks for an anneal: it comes before {titles[tie]}."
                cuts[Demand(remark.code, "order", (work, tie), text, "Form first.")] = None
    return tuple(cuts)


def _tender_parts(piece: Piece) -> set[str]:
    return {part.id for part in piece.parts if harm_in_heat(piece, part.id)}


def _cold_ties(piece: Piece, parts: frozenset[str]) -> Iterable[str]:
    """Give the cold joins and the work that put some parts on, in, or through the piece."""
    yield from (
        join.id
        for join in piece.joins
        if not join.heated and parts & {base_id(end) for end in (*join.between, *join.through)}
    )
    yield from (
        work.id
        for work in piece.work
        if work.kind in HOLDING_WORK and not work.done and parts & set(map(base_id, work.parts))
    )


def never_done(bad: list[Remark]) -> Conflict:
    """Say what the plan that was found would do, and must never be done."""
    demands = tuple(
        BrokenDemand(
            kind="state",
            code=remark.code,
            ids=remark.about,
            text=remark.text,
            remedy=remark.remedy.removesuffix("."),
        )
        for remark in dict.fromkeys(bad)
    )
    ids = tuple(dict.fromkeys(name for remark in bad for name in remark.about))
    return Conflict(ids=ids, codes=tuple(dict.fromkeys(remark.code for remark in bad)), demands=demands)

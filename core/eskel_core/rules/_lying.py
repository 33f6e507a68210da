"""How high the parts of a body stand, and which joins the weight still presses together when it is turned over.

Turned over, a body rests on what stands out farthest on that side. A part that reaches so far lies on the block, and
what it was set on now lies on it: their join stays pressed. All else hangs.
"""

from __future__ import annotations

import math

from ..forms import Ball, Form, Lump, Sheet, Strip, Tube, Wire, profile_height_mm
from ..picture import set_on, stands_of
from ..piece import Join, Piece, base_id, part_of
from ._asking import lump_across_mm

Levels = tuple[float, float]
_EVEN_MM = 0.2
_BROAD = frozenset({"overlay", "seat", "edge", "line", "butt", "cross", "bundle"})
_LEVEL = frozenset({"butt", "cross", "bundle", "fuse"})
_A_STOOL = 3  # so many places carry what lies on them


def rests_turned_over(piece: Piece, join: Join) -> bool:
    """Say whether a join made with a face up is pressed together by the weight when the body lies the other way up."""
    if join.face not in ("front", "back") or not (join.kind in _BROAD or _places(piece, join) >= _A_STOOL):
        return False
    start = base_id(join.between[0])
    upper = set_on(piece, join)
    # With this join let go, whatever falls from it with the lighter part is what the rest would lie on.
    with_all = _levels(piece, start, None)
    apart = {upper} if join.kind in _LEVEL else set(_levels(piece, upper, join.id))
    if join.face == "front":
        top = max(high for _, high in with_all.values())
        return max(with_all[one][1] for one in apart if one in with_all) >= top - _EVEN_MM
    bottom = min(low for low, _ in with_all.values())
    return min(with_all[one][0] for one in apart if one in with_all) <= bottom + _EVEN_MM


def _levels(piece: Piece, start: str, without: str | None) -> dict[str, Levels]:
    """Give from where to where each part of a body goes, mm, along what is up when the front is, from a part on."""
    ways: dict[str, list[tuple[str, Join]]] = {}
    for join in piece.joins:
        if join.heated and join.id != without:
            ends = list(dict.fromkeys(map(base_id, join.between)))
            for a in ends:
                ways.setdefault(a, []).extend((b, join) for b in ends if b != a)
    found = {start: (0.0, _high(piece, start, None))}
    open_ = [start]
    while open_:
        here = open_.pop()
        for other, join in ways.get(here, ()):
            if other not in found:
                found[other] = _beside(piece, join, here, other, found[here])
                open_.append(other)
    return found


def _beside(piece: Piece, join: Join, here: str, other: str, known: Levels) -> Levels:
    high = _high(piece, other, join)
    if join.kind in _LEVEL or join.face not in ("front", "back"):
        return known[0], known[0] + high
    above = (set_on(piece, join) == other) == (join.face == "front")
    return (known[1], known[1] + high) if above else (known[0] - high, known[0])


def _places(piece: Piece, join: Join) -> int:
    spots = len(join.at) if join.at and isinstance(join.at[0], tuple) else 1
    return max(spots, *(part_of(piece, base_id(end)).count for end in join.between))


def _high(piece: Piece, name: str, join: Join | None) -> float:
    part = part_of(piece, name)
    return _height_mm(part.form, stands_of(piece, part) == "upright", join.kind if join else "")


def _height_mm(form: Form, upright: bool, kind: str) -> float:
    match form:
        case Sheet():
            return form.thickness_mm + form.domed_mm
        case Wire() if form.closed and (upright or kind == "tee"):
            return form.length_mm / math.pi + profile_height_mm(form.profile)
        case Wire():
            return form.length_mm if upright else profile_height_mm(form.profile)
        case Strip():
            return form.width_mm if form.closed or kind == "edge" else form.thickness_mm
        case Tube():
            return form.length_mm if upright else form.outer_mm
        case Ball():
            return form.diameter_mm
        case Lump():
            return lump_across_mm(form)

"""How high each part stands in the piece as it is put together: where it was told, else as its joins tell."""

from __future__ import annotations

from ..forms import (
    Ball,
    Form,
    Lump,
    Sheet,
    Strip,
    Tube,
    Wire,
    outline_size_mm,
    profile_across_mm,
    profile_height_mm,
    rim_line,
)
from ..piece import Join, Part, Piece, base_id, part_of
from ._stacked import set_on

Level = tuple[float, float]
_ON = frozenset({"tee", "edge", "overlay", "line", "seat"})


def high_mm(form: Form, upright: bool) -> float:
    """Give how high a form is as it lies or stands, mm.

    >>> high_mm(Ball(kind="ball", diameter_mm=2), upright=False)
    2.0
    """
    rim = rim_line(form) if upright and isinstance(form, Wire) else None
    if rim is not None:
        ys = [y for _, y in rim.points]
        return max(ys) - min(ys) + rim.width_mm
    match form:
        case Sheet():
            return outline_size_mm(form.outline)[1] if upright else form.thickness_mm + form.domed_mm
        case Wire():
            return form.length_mm if upright else profile_height_mm(form.profile)
        case Strip():
            on_edge = form.closed or form.path is not None
            return form.width_mm if on_edge else form.length_mm if upright else form.thickness_mm
        case Tube():
            return form.length_mm if upright else form.outer_mm
        case Ball():
            return form.diameter_mm
        case Lump():
            return 2.0


def levels_of(piece: Piece, upright: frozenset[str]) -> dict[str, Level]:
    """Give from where to where each part goes, mm above the ground of the picture; `upright` are those that stand.

    A part that was put at a height is there; every other one is set on, under or beside what it joins, from the largest
    part on.
    """
    found: dict[str, Level] = {}
    # Where nothing was ever put at a height, nought is no height that was told.
    told = any(part.place is not None and part.place.z_mm != 0 for part in piece.parts)
    for part in piece.parts:
        if told and part.place is not None:
            low = part.place.z_mm
            found[part.id] = (low, low + high_mm(part.form, part.id in upright))
    waiting = sorted(piece.parts, key=_ground_mm2, reverse=True)
    open_ = list(found)
    while True:
        while open_:
            here = open_.pop(0)
            for other, level in _around(piece, here, found[here], upright):
                if other not in found:
                    found[other] = level
                    open_.append(other)
        left = next((part for part in waiting if part.id not in found), None)
        if left is None:
            return found
        found[left.id] = (0.0, high_mm(left.form, left.id in upright))
        open_.append(left.id)


def _ground_mm2(part: Part) -> float:
    match part.form:
        case Sheet():
            wide, high = outline_size_mm(part.form.outline)
            return wide * high * (1 + 1e-6 * part.form.thickness_mm)
        case Wire() | Strip():
            across = (
                profile_across_mm(part.form.profile) if isinstance(part.form, Wire) else part.form.width_mm
            )
            return part.form.length_mm * across
        case Tube():
            return part.form.length_mm * part.form.outer_mm
        case Ball():
            return part.form.diameter_mm**2
        case Lump():
            return part.form.surface_mm2 / 4


def _around(piece: Piece, here: str, level: Level, upright: frozenset[str]) -> list[tuple[str, Level]]:
    """Give where the neighbours of a part are by their joins with it."""
    made = []
    for join in piece.joins:
        ends = list(dict.fromkeys(map(base_id, join.between)))
        if here not in ends:
            continue
        for other in ends:
            if other != here:
                made.append((other, _beside(piece, join, here, other, level, upright)))
    return made


def _beside(piece: Piece, join: Join, here: str, other: str, level: Level, upright: frozenset[str]) -> Level:
    form = part_of(piece, other).form
    high = high_mm(form, other in upright)
    if join.kind == "butt" and _domed(piece, here) and _domed(piece, other):
        # Rim on rim: the first named above the other.
        below = ends_of(join).index(other) > ends_of(join).index(here)
        return (level[0] - high, level[0]) if below else (level[1], level[1] + high)
    if join.kind not in _ON or join.face in ("edge", "inside"):
        middle = (level[0] + level[1]) / 2
        return (level[0], level[0] + high) if join.kind not in _ON else (middle - high / 2, middle + high / 2)
    above = (set_on(piece, join) == other) == (join.face == "front")
    return (level[1], level[1] + high) if above else (level[0] - high, level[0])


def ends_of(join: Join) -> list[str]:
    """Give the parts of a join, each once, in their order."""
    return list(dict.fromkeys(map(base_id, join.between)))


def _domed(piece: Piece, name: str) -> bool:
    return getattr(part_of(piece, name).form, "domed_mm", 0.0) > 0

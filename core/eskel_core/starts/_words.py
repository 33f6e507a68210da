"""Short words for parts, joins and work, as a piece file has them: a smith's sketch, one line each.

All measures in mm; a part lies where `x`, `y` and `z` (its underside) say, turned by `turn` degrees, `upright` on its edge or end.
"""

from __future__ import annotations

import math
from typing import Any

from ._base import Plain


def piece(
    name: str,
    parts: list[Plain],
    joins: list[Plain] | None = None,
    work: list[Plain] | None = None,
    **more: Any,
) -> Plain:
    """Give a piece as its file has it; what is None is left out."""
    told = {"parts": parts, "joins": joins or [], "work": work or [], **more}
    return {"format": "eskel-piece/1", "name": name, **{key: one for key, one in told.items() if one}}


def part(name: str, metal: str | None, form: Plain, **more: Any) -> Plain:
    """Give a part, named; its id is made of its name. `place` is a dict of `at`."""
    return {"id": name.lower().replace(" ", "-"), "name": name, "metal": metal, "form": form, **more}


def at(x: float = 0.0, y: float = 0.0, z: float = 0.0, *, turn: float = 0.0, upright: bool = False) -> Plain:
    """Give a place: where the middle of a part lies in plan, and how high its underside."""
    place: Plain = {"x_mm": _tidy(x), "y_mm": _tidy(y), "z_mm": _tidy(z), "turn_deg": turn}
    told = {key: value for key, value in place.items() if value}
    return told | ({"stands": "upright"} if upright else {})


def wire(across: float, long: float, *, closed: bool = False, path: Any = None, **more: Any) -> Plain:
    """Give round wire."""
    return _run("wire", {"profile": round_of(across), "length_mm": _tidy(long)}, closed, path) | more


def wire_of(profile: Plain, long: float, *, closed: bool = False, path: Any = None) -> Plain:
    """Give wire of any section."""
    return _run("wire", {"profile": profile, "length_mm": _tidy(long)}, closed, path)


def strip(wide: float, thick: float, long: float, *, closed: bool = False, path: Any = None) -> Plain:
    """Give a strip."""
    told = {"width_mm": _tidy(wide), "thickness_mm": thick, "length_mm": _tidy(long)}
    return _run("strip", told, closed, path)


def _run(kind: str, told: Plain, closed: bool, path: Any) -> Plain:
    return {"kind": kind, **told} | ({"closed": True} if closed else {}) | ({"path": path} if path else {})


def round_of(across: float) -> Plain:
    """Give a round section."""
    return {"kind": "round", "diameter_mm": _tidy(across)}


def square_of(side: float) -> Plain:
    """Give a square section."""
    return {"kind": "square", "side_mm": _tidy(side)}


def disc(across: float, thick: float, domed: float = 0.0) -> Plain:
    """Give a disc of sheet, flat or domed."""
    return sheet({"kind": "disc", "diameter_mm": _tidy(across)}, thick, domed)


def rect(wide: float, high: float, thick: float, corner: float = 0.0) -> Plain:
    """Give a rectangle of sheet, its corners rounded by `corner`."""
    outline: Plain = {"kind": "rect", "width_mm": _tidy(wide), "height_mm": _tidy(high)}
    return sheet(outline | ({"corner_mm": corner} if corner else {}), thick)


def oval(wide: float, high: float) -> Plain:
    """Give an oval outline; a disc where it is as wide as high."""
    if math.isclose(wide, high):
        return {"kind": "disc", "diameter_mm": _tidy(wide)}
    return {"kind": "ellipse", "width_mm": _tidy(wide), "height_mm": _tidy(high)}


def sheet(outline: Plain, thick: float, domed: float = 0.0) -> Plain:
    """Give sheet of any outline."""
    form: Plain = {"kind": "sheet", "thickness_mm": thick, "outline": outline}
    return form | ({"domed_mm": _tidy(domed)} if domed else {})


def tube(outer: float, wall: float, long: float) -> Plain:
    """Give a tube, open at both ends."""
    return {"kind": "tube", "outer_mm": _tidy(outer), "wall_mm": wall, "length_mm": _tidy(long)}


def ball(across: float) -> Plain:
    """Give a ball."""
    return {"kind": "ball", "diameter_mm": _tidy(across)}


def stone(name: str, long: float, wide: float, high: float, **more: Any) -> Plain:
    """Give a stone as large as it is, of no metal: it bears no heat."""
    return part(name, None, sheet(oval(long, wide), _tidy(high)), heat_safe=False, **more)


def bead(name: str, across: float, **more: Any) -> Plain:
    """Give a bead of glass or stone."""
    return part(name, None, ball(across), heat_safe=False, **more)


def hook_path(front: float, dowel: float, wire: float, drop: float, flare: float) -> list[list[float]]:
    """Give the line of an ear hook: up in front, over the dowel, down behind, out at the end; y runs down the page."""
    radius = (dowel + wire) / 2
    over = [math.pi - math.pi * n / 16 for n in range(17)]
    points = [
        (-radius, front),
        *((radius * math.cos(turn), -radius * math.sin(turn)) for turn in over),
        (radius, drop),
    ]
    if flare:
        points.append((radius + 0.5 * flare, drop + 0.87 * flare))
    return [[_tidy(x), _tidy(y)] for x, y in points]


def oval_path(wide: float, high: float) -> str:
    """Give the line of an oval about its middle, as an SVG path."""
    x, rx, ry = f"{_tidy(wide / 2):g}", f"{_tidy(wide / 2):g}", f"{_tidy(high / 2):g}"
    return f"M-{x} 0 A{rx} {ry} 0 1 1 {x} 0 A{rx} {ry} 0 1 1 -{x} 0 Z"


def box_path(wide: float, high: float) -> str:
    """Give the line of a rectangle about its middle, as an SVG path, begun in the middle of a long side."""
    x, y = f"{_tidy(wide / 2):g}", f"{_tidy(high / 2):g}"
    return f"M0 {y} L{x} {y} L{x} -{y} L-{x} -{y} L-{x} {y} Z"


def join(name: str, kind: str, *between: str, **more: Any) -> Plain:
    """Give a join between parts; of one part alone it closes on itself."""
    ends = list(between) * 2 if len(between) == 1 else list(between)
    return {"id": name.lower().replace(" ", "-"), "name": name, "kind": kind, "between": ends, **more}


def work(name: str, kind: str, *parts: str, **more: Any) -> Plain:
    """Give other work on parts."""
    return {"id": name, "kind": kind, "parts": list(parts), **more}


def spots(*points: tuple[float, float]) -> list[list[float]]:
    """Give places of a join."""
    return [[_tidy(x), _tidy(y)] for x, y in points]


def around(count: int, radius: float, first_deg: float = 90.0) -> list[tuple[float, float]]:
    """Give places evenly round a circle, the first at `first_deg`."""
    turns = (math.radians(first_deg + 360 * n / count) for n in range(count))
    return [(radius * math.cos(turn), radius * math.sin(turn)) for turn in turns]


def _tidy(value: float) -> float:
    """Write a measure as finely as a caliper and a scale ask for."""
    return round(value, 3)

"""Read a drawing by its ending: closed loops, holes among them, in mm from the lower left corner."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from ..faults import refuse
from ..forms import MOST_POINTS, PathOutline, check_rings, outline_area_mm2, outline_perimeter_mm, tangled
from ._dxf import loops_of_dxf
from ._svg import loops_of_svg

DrawnUnit = Literal["mm", "cm", "inch", "px"]
Loop = list[tuple[float, float]]
MM_IN = {"mm": 1.0, "cm": 10.0, "inch": 25.4, "px": 25.4 / 96}
LARGEST_BYTES = 4_000_000
_JOINED_MM = 0.01
_SMALLEST_MM2 = 1e-3
_LONGEST_PATH = 100_000

_READERS: dict[str, Callable[[str, float | None], list[Loop]]] = {".svg": loops_of_svg, ".dxf": loops_of_dxf}


class DrawnOutline(BaseModel):
    """An outline as it was drawn: its path in mm, and what it measures; `holes` are counted out of the area."""

    model_config = ConfigDict(frozen=True)

    outline: PathOutline
    width_mm: float
    height_mm: float
    area_mm2: float
    perimeter_mm: float
    holes: int


def read_outline(name: str, text: str, unit: DrawnUnit | None = None) -> DrawnOutline:
    """Read the outline of a drawing; raise `Refused` when it cannot be read or does not say its unit.

    The file's own unit wins; `unit` is what one of its units is when it says none.
    """
    ending = name[name.rfind(".") :].lower() if "." in name else ""
    if ending not in _READERS:
        raise refuse(
            "not-a-drawing", "name", name, "a drawing is an .svg or a .dxf file", "Save it as one of those."
        )
    if len(text) > LARGEST_BYTES:
        raise refuse(
            "too-large", "text", len(text), f"a drawing is at most {LARGEST_BYTES} bytes", "Simplify it."
        )
    loops = _READERS[ending](text, None if unit is None else MM_IN[unit])
    rings = [ring for ring in _closed(loops) if _area(ring) > _SMALLEST_MM2]
    if not rings:
        raise refuse(
            "not-closed",
            "text",
            None,
            "a drawing holds at least one closed outline",
            "Close the line: its ends must meet.",
        )
    check_rings(_from_corner(rings), "text")
    return _measured(rings)


def _from_corner(rings: list[Loop]) -> list[Loop]:
    """Give rings from their lower left corner: a drawing may lie anywhere on its sheet."""
    left, low = min(x for ring in rings for x, _ in ring), min(y for ring in rings for _, y in ring)
    return [[(x - left, y - low) for x, y in ring] for ring in rings]


def _closed(loops: list[Loop]) -> list[Loop]:
    """Give the loops that close; open lines are joined where their ends meet (shapely's polygonize)."""
    closed = [loop[:-1] for loop in loops if len(loop) > 3 and math.dist(loop[0], loop[-1]) <= _JOINED_MM]
    if sum(map(len, loops)) > MOST_POINTS:
        raise refuse(
            "too-large", "text", None, f"a drawing has at most {MOST_POINTS} points", "Simplify the curve."
        )
    open_ = [loop for loop in loops if len(loop) > 1 and math.dist(loop[0], loop[-1]) > _JOINED_MM]
    if not open_:
        return closed
    if tangled(open_):
        raise refuse(
            "too-large", "text", None, "lines of a drawing cross at few places", "Simplify the drawing."
        )
    from shapely.geometry import LineString
    from shapely.ops import polygonize, unary_union

    snapped: Any = unary_union([LineString([(round(x, 2), round(y, 2)) for x, y in loop]) for loop in open_])
    return closed + [[(x, y) for x, y, *_ in shape.exterior.coords][:-1] for shape in polygonize(snapped)]


def _area(ring: Loop) -> float:
    return (
        abs(sum(ax * by - bx * ay for (ax, ay), (bx, by) in zip(ring, [*ring[1:], ring[0]], strict=True))) / 2
    )


def _measured(rings: list[Loop]) -> DrawnOutline:
    xs, ys = [x for ring in rings for x, _ in ring], [y for ring in rings for _, y in ring]
    left, low, wide, high = min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys)
    if max(wide, high) > 5000 or max(wide, high) < 0.1:
        raise refuse(
            "out-of-range",
            "unit",
            round(max(wide, high), 3),
            "a drawing is between 0.1 and 5000 mm large",
            "Check its unit.",
        )
    path = " ".join(
        "M" + " L".join(f"{_short(x - left)} {_short(y - low)}" for x, y in ring) + " Z" for ring in rings
    )
    if len(path) > _LONGEST_PATH:
        raise refuse(
            "too-large",
            "text",
            len(path),
            f"an outline's path is at most {_LONGEST_PATH} letters long",
            "Simplify the curve.",
        )
    outline = PathOutline(kind="path", path=path)
    return DrawnOutline(
        outline=outline,
        width_mm=wide,
        height_mm=high,
        area_mm2=outline_area_mm2(outline),
        perimeter_mm=outline_perimeter_mm(outline),
        holes=_holes(rings),
    )


def _short(value: float) -> str:
    return f"{value:.3f}".rstrip("0").rstrip(".") or "0"


def _holes(rings: list[Loop]) -> int:
    """Count the loops that lie inside an odd number of others."""
    from shapely.geometry import Polygon

    shapes = [Polygon(ring).buffer(0) for ring in rings]
    inside = [sum(other.contains(shape) for other in shapes if other is not shape) for shape in shapes]
    return sum(1 for depth in inside if depth % 2)

"""Outlines of sheet: area, perimeter, and the closed rings of points that draw them.

Straight-sided and path outlines become *rings* of points; shapely (a kept geometry library)
gives their true area with holes by the even-odd rule. It is loaded only when such an outline is met.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import lru_cache
from typing import Any

from ..faults import refuse
from ._types import Disc, Ellipse, Outline, PathOutline, Polygon, RectOutline, RingOutline

Ring = tuple[tuple[float, float], ...]
_CURVE_STEPS = 128


def outline_area_mm2(outline: Outline) -> float:
    """Give the area inside an outline less its holes, mm²."""
    match outline:
        case Disc():
            return math.pi * outline.diameter_mm**2 / 4
        case Ellipse():
            return math.pi * outline.width_mm * outline.height_mm / 4
        case RectOutline():
            return outline.width_mm * outline.height_mm - (4 - math.pi) * outline.corner_mm**2
        case RingOutline():
            return math.pi * (outline.outer_mm**2 - outline.inner_mm**2) / 4
        case Polygon() | PathOutline():
            return float(_shape(outline).area)


def outline_perimeter_mm(outline: Outline) -> float:
    """Give the length of every edge of an outline, holes included, mm."""
    match outline:
        case Disc():
            return math.pi * outline.diameter_mm
        case Ellipse():
            return _ellipse_perimeter(outline.width_mm / 2, outline.height_mm / 2)
        case RectOutline():
            return 2 * (outline.width_mm + outline.height_mm) - (8 - 2 * math.pi) * outline.corner_mm
        case RingOutline():
            return math.pi * (outline.outer_mm + outline.inner_mm)
        case Polygon() | PathOutline():
            return float(_shape(outline).length)


def outline_rings(outline: Outline) -> tuple[Ring, ...]:
    """Give the closed lines that draw an outline, centred as given, mm."""
    match outline:
        case Disc():
            return (ellipse_ring(outline.diameter_mm, outline.diameter_mm),)
        case Ellipse():
            return (ellipse_ring(outline.width_mm, outline.height_mm),)
        case RectOutline():
            return (_rect_ring(outline),)
        case RingOutline():
            return (
                ellipse_ring(outline.outer_mm, outline.outer_mm),
                ellipse_ring(outline.inner_mm, outline.inner_mm),
            )
        case Polygon():
            return (tuple(outline.points),)
        case PathOutline():
            return path_rings(outline.path)


def outline_box(outline: Outline) -> tuple[tuple[float, float], tuple[float, float]]:
    """Give the lower left and upper right corners of the box that holds an outline, mm."""
    points = [point for ring in outline_rings(outline) for point in ring]
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return (min(xs), min(ys)), (max(xs), max(ys))


def outline_size_mm(outline: Outline) -> tuple[float, float]:
    """Give how wide and how high an outline is, mm.

    >>> outline_size_mm(RectOutline(kind="rect", width_mm=30, height_mm=20))
    (30.0, 20.0)
    """
    (left, low), (right, top) = outline_box(outline)
    return right - left, top - low


def check_outline(outline: Outline) -> None:
    """Raise `Refused` when a polygon crosses itself or a path cannot be read or holds no area."""
    if isinstance(outline, Polygon):
        from shapely.geometry import Polygon as Area

        if not Area(outline.points).is_valid:
            raise refuse("contradiction", "points", len(outline.points), "the sides of an outline do not cross",
                         "Put the points in order round the edge.")  # fmt: skip
    if isinstance(outline, Polygon | PathOutline) and outline_area_mm2(outline) <= 0:
        raise refuse("contradiction", "outline", None, "an outline holds some area", "Close the outline.")


def ellipse_ring(width: float, height: float, steps: int = 96) -> Ring:
    """Give the points of an ellipse about the origin."""
    turns = (2 * math.pi * step / steps for step in range(steps))
    return tuple((width / 2 * math.cos(turn), height / 2 * math.sin(turn)) for turn in turns)


@lru_cache(maxsize=256)
def path_rings(path: str) -> tuple[Ring, ...]:
    """Read an SVG path (mm) into rings of points; raise `Refused` when it cannot be read."""
    from svgelements import Path

    try:
        parsed = Path(path)
        loops = [_points(loop) for loop in parsed.as_subpaths()]
    except Exception as problem:  # the reader raises many kinds; all mean the same to the user
        raise refuse("not-a-path", "path", path, "an SVG path in mm, as in M0 0 L10 0 L10 5 Z",
                     "Check the letters and numbers of the path.") from problem  # fmt: skip
    rings = tuple(loop for loop in loops if len(loop) >= 2)
    if not rings:
        raise refuse("not-a-path", "path", path, "a path draws at least one line", "Draw the outline.")
    return rings


def _points(loop: Iterable[Any]) -> Ring:
    from svgelements import Close, Line, Move, Path

    points: list[tuple[float, float]] = []
    for segment in Path(loop):
        if isinstance(segment, Move):
            points.append((float(segment.end.x), float(segment.end.y)))
            continue
        if isinstance(segment, Close) and segment.end is None:
            continue
        steps = 1 if isinstance(segment, Line | Close) else _CURVE_STEPS
        for step in range(1, steps + 1):
            place = segment.point(step / steps)
            points.append((float(place.x), float(place.y)))
    return tuple(point for n, point in enumerate(points) if n == 0 or point != points[n - 1])


def _shape(outline: Polygon | PathOutline) -> Any:
    return _even_odd(tuple(outline_rings(outline)))


@lru_cache(maxsize=256)
def _even_odd(rings: tuple[Ring, ...]) -> Any:
    from shapely.geometry import Polygon as Area

    whole: Any = Area()
    for ring in rings:
        if len(ring) >= 3:
            whole = whole.symmetric_difference(Area(ring).buffer(0))
    return whole


def _rect_ring(outline: RectOutline) -> Ring:
    across, up, corner = outline.width_mm / 2, outline.height_mm / 2, outline.corner_mm
    if corner == 0:
        return ((-across, -up), (across, -up), (across, up), (-across, up))
    points: list[tuple[float, float]] = []
    for quarter, (x, y) in enumerate([(1, 1), (-1, 1), (-1, -1), (1, -1)]):
        for step in range(9):
            turn = math.pi / 2 * (quarter + step / 8)
            points.append(
                (x * (across - corner) + corner * math.cos(turn), y * (up - corner) + corner * math.sin(turn))
            )
    return tuple(points)


def _ellipse_perimeter(a: float, b: float) -> float:
    """Give 4·a·E(e) by the arithmetic-geometric mean (Abramowitz and Stegun 17.6)."""
    a, b = max(a, b), min(a, b)
    mean, root, power, total = a, b, 0.5, (a * a + b * b) / 2
    while abs(mean - root) > 1e-12 * mean:
        mean, root, gap = (mean + root) / 2, math.sqrt(mean * root), (mean - root) / 2
        power *= 2
        total -= power * gap * gap
    return 2 * math.pi * total / mean

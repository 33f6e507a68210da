"""Outlines of sheet: area, perimeter, and the closed rings of points that draw them.

Straight-sided and path outlines become *rings* of points; shapely (a kept geometry library)
gives their true area with holes by the even-odd rule. It is loaded only when such an outline is met.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Sequence
from functools import lru_cache
from itertools import pairwise
from typing import Any

from ..faults import Refused, refuse
from ._types import Disc, Ellipse, Outline, PathOutline, Polygon, RectOutline, RingOutline

Ring = tuple[tuple[float, float], ...]
_OFF_MM = 0.002
_FEWEST_STEPS, _MOST_STEPS = 8, 2_000
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
MOST_NUMBERS = 20_000
MOST_POINTS = 20_000
MOST_LOOPS = 300
FURTHEST_MM = 5_000.0
MOST_CROSSED = 200
MOST_CROSSINGS = 400


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


def dome_rim_share(radius_mm: float, rise_mm: float) -> float:
    """Give rim radius over blank radius of a dome that keeps its area: a² + h² = r²."""
    return math.sqrt(max(0.05, 1 - (rise_mm / radius_mm) ** 2)) if radius_mm > 0 else 1.0


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

        check_rings((outline.points,), "points")
        if not Area(outline.points).is_valid:
            raise refuse(
                "contradiction",
                "points",
                len(outline.points),
                "the sides of an outline do not cross",
                "Put the points in order round the edge.",
            )
    if isinstance(outline, Polygon | PathOutline) and outline_area_mm2(outline) <= 0:
        raise refuse("contradiction", "outline", None, "an outline holds some area", "Close the outline.")


def ellipse_ring(width: float, height: float, steps: int = 96) -> Ring:
    """Give the points of an ellipse about the origin."""
    turns = (2 * math.pi * step / steps for step in range(steps))
    return tuple((width / 2 * math.cos(turn), height / 2 * math.sin(turn)) for turn in turns)


@lru_cache(maxsize=256)
def path_rings(path: str) -> tuple[Ring, ...]:
    """Read an SVG path (mm) into rings of points; raise `Refused` when it cannot be read or draws more than a part has."""
    from svgelements import Path

    if sum(1 for _ in _NUMBER.finditer(path)) > MOST_NUMBERS:
        raise _too_much("path", f"a path has at most {MOST_NUMBERS} numbers")
    try:
        parsed = Path(path)
        loops = [curve_points(loop) for loop in parsed.as_subpaths()]
    except Refused:
        raise
    except Exception as problem:  # the reader raises many kinds; all mean the same to the user
        raise refuse(
            "not-a-path",
            "path",
            path,
            "an SVG path in mm, as in M0 0 L10 0 L10 5 Z",
            "Check the letters and numbers of the path.",
        ) from problem
    rings = tuple(loop for loop in loops if len(loop) >= 2)
    if not rings:
        raise refuse("not-a-path", "path", path, "a path draws at least one line", "Draw the outline.")
    check_rings(rings, "path")
    return rings


def check_rings(rings: Sequence[Sequence[tuple[float, float]]], path: str) -> None:
    """Raise `Refused` for lines that are more, larger or more tangled than those of any part."""
    if len(rings) > MOST_LOOPS:
        raise _too_much(path, f"an outline has at most {MOST_LOOPS} loops, its holes among them")
    if sum(map(len, rings)) > MOST_POINTS:
        raise _too_much(path, f"an outline is drawn with at most {MOST_POINTS} points")
    for ring in rings:
        if any(not (abs(x) <= FURTHEST_MM and abs(y) <= FURTHEST_MM) for x, y in ring):
            rule = f"coordinates lie between -{FURTHEST_MM:g} and {FURTHEST_MM:g} mm"
            raise refuse("out-of-range", path, None, rule, "Check the numbers and their unit.")
        if len(ring) > MOST_CROSSED and tangled([ring]):
            raise _too_much(path, "a line of many points does not cross itself")


def _too_much(path: str, rule: str) -> Refused:
    return refuse("too-large", path, None, rule, "Simplify the outline.")


def tangled(lines: Iterable[Sequence[tuple[float, float]]]) -> bool:
    """Say whether lines cross themselves and each other at more places than in any drawing.

    Pairs of sides that meet are asked of a tree (shapely's), some sides at a time, and only so many are looked at.
    """
    from shapely import STRtree, linestrings

    sides: Any = linestrings([pair for line in lines for pair in pairwise(line)])
    tree, meeting = STRtree(sides), 0
    for first in range(0, len(sides), 100):
        meeting += len(tree.query(sides[first : first + 100], predicate="intersects")[0])
        # Each side meets itself and its two neighbours.
        if meeting - 3 * min(first + 100, len(sides)) > MOST_CROSSINGS:
            return True
    return False


def curve_points(loop: Iterable[Any], off: float = _OFF_MM) -> Ring:
    """Give the points of one loop of a path, a curve by so many that no chord is further `off`, in the path's own unit."""
    from svgelements import Close, Move, Path

    points: list[tuple[float, float]] = []
    for segment in Path(loop):
        if segment.end is None and isinstance(segment, Close):
            continue
        if isinstance(segment, Move):
            points.append((float(segment.end.x), float(segment.end.y)))
        else:
            points.extend(_along(segment, off))
        if len(points) > MOST_POINTS:
            raise _too_much("path", f"an outline is drawn with at most {MOST_POINTS} points")
    return tuple(point for n, point in enumerate(points) if n == 0 or point != points[n - 1])


def _along(segment: Any, off: float) -> Iterable[tuple[float, float]]:
    """Give the points of a line, a curve or an arc after its first."""
    from svgelements import CubicBezier, QuadraticBezier

    match segment:
        case CubicBezier():
            return _bezier(
                complex(segment.start),
                complex(segment.control1),
                complex(segment.control2),
                complex(segment.end),
                off=off,
            )
        case QuadraticBezier():
            return _bezier(complex(segment.start), complex(segment.control), complex(segment.end), off=off)
        case _ if hasattr(segment, "rx"):
            wide = max(abs(segment.rx), abs(segment.ry), off)
            turn = 2 * math.acos(max(0.0, 1 - off / wide))
            steps = _steps(abs(float(segment.sweep)) / turn)
            spots = (segment.point(step / steps) for step in range(1, steps + 1))
            return [(float(spot.x), float(spot.y)) for spot in spots]
        case _:
            return [(float(segment.end.x), float(segment.end.y))]


def _bezier(*knots: complex, off: float) -> list[tuple[float, float]]:
    """Give the points of a Bézier curve; steps by Wang's bound on how far a chord lies off (G. Wang, 1984)."""
    degree = len(knots) - 1
    bend = max(abs(a - 2 * b + c) for a, b, c in zip(knots, knots[1:], knots[2:], strict=False))
    steps = _steps(math.sqrt(degree * (degree - 1) / 8 * bend / off))
    points = []
    for step in range(1, steps + 1):
        t, row = step / steps, knots
        while len(row) > 1:
            row = tuple(a + t * (b - a) for a, b in pairwise(row))
        points.append((row[0].real, row[0].imag))
    return points


def _steps(wanted: float) -> int:
    """Give a whole number of steps, within what any outline needs; what is no number is told by its points."""
    return max(_FEWEST_STEPS, math.ceil(min(wanted, _MOST_STEPS))) if wanted == wanted else _FEWEST_STEPS


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

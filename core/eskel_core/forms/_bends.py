"""Named bends: the plan line of a wire or strip that is bent to a hook, an S, a zigzag, an oval or a spiral.

Each is as long as it is told; how wide it comes follows from that, or is told and the rest of the length runs on straight.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Literal

from ._types import Point

Bend = Literal["hook", "s-bend", "zigzag", "oval", "spiral"]
BENDS: tuple[Bend, ...] = ("hook", "s-bend", "zigzag", "oval", "spiral")
_STEPS = 24
_OVAL_RATIO = 1.4
_ZIGZAG_LEGS, _ZIGZAG_DEG = 6, 60.0


def bend_line(
    kind: Bend, length_mm: float, thick_mm: float, across_mm: float | None = None
) -> tuple[Point, ...]:
    """Give the middle line of a bend, mm, y running down the page; `across_mm` is how wide its curve is on that line.

    An oval is closed: its last point is its first. A spiral's turns lie two and a half thicknesses apart.

    >>> len(bend_line("zigzag", 60, 1.0))
    7
    """
    match kind:
        case "hook":
            return _hook(length_mm, across_mm or max(3 * thick_mm, length_mm / 6))
        case "s-bend":
            return _s_bend(length_mm, across_mm or length_mm / math.pi)
        case "zigzag":
            return _zigzag(length_mm)
        case "oval":
            return _oval(length_mm)
        case "spiral":
            return _spiral(length_mm, 2.5 * thick_mm)


def line_length_mm(points: tuple[Point, ...]) -> float:
    """Give the length along points, mm."""
    return sum(math.dist(a, b) for a, b in pairwise(points))


def _tidy(points: list[Point]) -> tuple[Point, ...]:
    return tuple((round(x, 3), round(y, 3)) for x, y in points)


def _arc(x: float, y: float, radius: float, from_deg: float, to_deg: float) -> list[Point]:
    turns = (math.radians(from_deg + (to_deg - from_deg) * n / _STEPS) for n in range(_STEPS + 1))
    return [(x + radius * math.cos(turn), y + radius * math.sin(turn)) for turn in turns]


def _hook(length: float, across: float) -> tuple[Point, ...]:
    """Bend half a turn; of what is left a quarter stands in front, the rest behind."""
    radius = min(across / 2, 0.9 * length / math.pi)
    straight = length - math.pi * radius
    front, back = straight / 4, 3 * straight / 4
    return _tidy([(-radius, front), *_arc(0, 0, radius, 180, 360), (radius, back)])


def _s_bend(length: float, across: float) -> tuple[Point, ...]:
    """Bend half a turn one way and half a turn back; what is left runs on at both ends."""
    radius = min(across / 2, length / (2 * math.pi))
    end = (length - 2 * math.pi * radius) / 2
    # The first half turn goes over the page's top from right to left, the second under it further left.
    over, under = _arc(0, 0, radius, 0, -180), _arc(-2 * radius, 0, radius, 0, 180)
    first = [(radius, end)] if end > 0 else []
    last = [(-3 * radius, -end)] if end > 0 else []
    return _tidy([*first, *over, *under[1:], *last])


def _zigzag(length: float) -> tuple[Point, ...]:
    leg = length / _ZIGZAG_LEGS
    along, up = leg * math.cos(math.radians(_ZIGZAG_DEG)), leg * math.sin(math.radians(_ZIGZAG_DEG))
    return _tidy([(n * along, -up if n % 2 else 0.0) for n in range(_ZIGZAG_LEGS + 1)])


def _oval(length: float) -> tuple[Point, ...]:
    """Bend an ellipse of that perimeter, by Ramanujan's second formula."""
    a, b = _OVAL_RATIO, 1.0
    h = ((a - b) / (a + b)) ** 2
    around = math.pi * (a + b) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))
    scale = length / around
    turns = [2 * math.pi * n / (4 * _STEPS) for n in range(4 * _STEPS)]
    points = [(a * scale * math.cos(turn), b * scale * math.sin(turn)) for turn in turns]
    return _tidy([*points, points[0]])


def _spiral(length: float, pitch: float) -> tuple[Point, ...]:
    """Bend an Archimedean spiral, whose length is about π·(R² − r²)/pitch."""
    inner = pitch / 2
    outer = math.sqrt(length * pitch / math.pi + inner**2)
    turns = (outer - inner) / pitch
    steps = max(_STEPS, math.ceil(2 * _STEPS * turns))
    points: list[Point] = []
    for n in range(steps + 1):
        angle, radius = 2 * math.pi * turns * n / steps, inner + (outer - inner) * n / steps
        points.append((radius * math.cos(angle), radius * math.sin(angle)))
    return _tidy(points)

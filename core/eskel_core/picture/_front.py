"""A piece seen from the front: along it x, up the page its height."""

from __future__ import annotations

import math

from pydantic import BaseModel, ConfigDict

from ..forms import Ball, Form, Sheet, Tube, ViewLine, Wire, outline_rings, rim_line
from ._heights import Level

_ARC = 24
Spot = tuple[float, float]


class FrontPart(BaseModel):
    """One part as it is seen from the front; `lines` are in the picture's mm, up the page being negative."""

    model_config = ConfigDict(frozen=True)

    node: str
    part: str
    lines: tuple[ViewLine, ...]


class FrontMark(BaseModel):
    """Where a join is, seen from the front, by its number in the list."""

    model_config = ConfigDict(frozen=True)

    join: str
    number: int
    spots: tuple[Spot, ...]


class FrontPicture(BaseModel):
    """The piece from the front, and the box that holds it, mm."""

    model_config = ConfigDict(frozen=True)

    parts: tuple[FrontPart, ...] = ()
    joins: tuple[FrontMark, ...] = ()
    left_mm: float = 0.0
    top_mm: float = 0.0
    width_mm: float = 0.0
    height_mm: float = 0.0


def front_lines(
    form: Form, x_mm: float, wide_mm: float, level: Level, upright: bool, turn_deg: float, hollow_down: bool
) -> tuple[ViewLine, ...]:
    """Draw a form from the front: about `x_mm`, so wide as it is in plan, between its lower and upper height, mm."""
    low, high = level
    rim = rim_line(form) if upright and isinstance(form, Wire) else None
    if rim is not None:
        lean = abs(math.cos(math.radians(turn_deg)))
        middle = (low + high) / 2
        points = tuple((round(x_mm + x * lean, 3), round(-middle + y, 3)) for x, y in rim.points)
        return (rim.model_copy(update={"points": points}),)
    match form:
        case Ball():
            return (_edge(_ring(x_mm, -(low + high) / 2, form.diameter_mm / 2)),)
        case Sheet() if upright:
            lean = abs(math.cos(math.radians(turn_deg)))
            middle = (low + high) / 2
            return tuple(
                _edge(tuple((x_mm + x * lean, -middle + y) for x, y in ring))
                for ring in outline_rings(form.outline)
            )
        case Sheet() if form.domed_mm > 0:
            return (_edge(_dome(x_mm, wide_mm, form.thickness_mm, low, high, hollow_down)),)
        case Tube() if not upright and wide_mm < 1.2 * form.outer_mm:
            ring = form.outer_mm / 2
            middle = -(low + high) / 2
            return (_edge(_ring(x_mm, middle, ring)), _edge(_ring(x_mm, middle, ring - form.wall_mm)))
        case _:
            return (_edge(_box(x_mm, wide_mm, low, high)),)


def _edge(points: tuple[Spot, ...]) -> ViewLine:
    return ViewLine(points=tuple((round(x, 3), round(y, 3)) for x, y in points), closed=True)


def _box(x: float, wide: float, low: float, high: float) -> tuple[Spot, ...]:
    return ((x - wide / 2, -low), (x + wide / 2, -low), (x + wide / 2, -high), (x - wide / 2, -high))


def _ring(x: float, y: float, radius: float) -> tuple[Spot, ...]:
    turns = (2 * math.pi * n / (2 * _ARC) for n in range(2 * _ARC))
    return tuple((x + radius * math.cos(turn), y + radius * math.sin(turn)) for turn in turns)


def _dome(
    x: float, wide: float, thick: float, low: float, high: float, hollow_down: bool
) -> tuple[Spot, ...]:
    """Draw a dome as a bow of its thickness, its hollow down or up."""
    rise = high - low - thick
    outer = [(-wide / 2 + wide * n / _ARC) for n in range(_ARC + 1)]

    def bow(at: float, lift: float) -> float:
        return lift * (1 - (2 * at / wide) ** 2)

    upper = [(x + at, -(low + thick + bow(at, rise))) for at in outer]
    lower = [(x + at, -(low + bow(at, rise))) for at in reversed(outer)]
    points = [*upper, *lower]
    if hollow_down:
        return tuple(points)
    return tuple((px, -(low + high) - py) for px, py in points)

"""A drawing to scale in mm: lines and labels, x to the right and y up, with no word of colour or pixels.

Concepts: a *line* (points, what it stands for, open or closed), a *label* at a point, a *dimension* between two points.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

Spot = tuple[float, float]
Stands = Literal["metal", "fine", "hidden", "mark"]


@dataclass(frozen=True, slots=True)
class SketchLine:
    """A line: `metal` is drawn full, `fine` thin, `hidden` broken, `mark` as a mark to work to."""

    points: tuple[Spot, ...]
    stands: Stands = "metal"
    closed: bool = False


@dataclass(frozen=True, slots=True)
class SketchLabel:
    """Words at a point; `anchor` says which end of them stands there."""

    at: Spot
    text: str
    anchor: Literal["start", "middle", "end"] = "middle"


@dataclass(frozen=True, slots=True)
class Sketch:
    """A drawing to scale: what it shows, and the box that holds it, mm."""

    lines: tuple[SketchLine, ...]
    labels: tuple[SketchLabel, ...]
    low: Spot
    high: Spot


def sketch(lines: Iterable[SketchLine], labels: Iterable[SketchLabel] = ()) -> Sketch:
    """Put lines and labels together with the box that holds them."""
    drawn, words = tuple(lines), tuple(labels)
    spots = [spot for one in drawn for spot in one.points] + [word.at for word in words]
    xs, ys = [x for x, _ in spots] or [0.0], [y for _, y in spots] or [0.0]
    return Sketch(lines=drawn, labels=words, low=(min(xs), min(ys)), high=(max(xs), max(ys)))


def line(*points: Spot, stands: Stands = "metal", closed: bool = False) -> SketchLine:
    """Draw a line through points."""
    return SketchLine(
        points=tuple((round(x, 3), round(y, 3)) for x, y in points), stands=stands, closed=closed
    )


def label(x: float, y: float, text: str, anchor: Literal["start", "middle", "end"] = "middle") -> SketchLabel:
    """Write words at a point."""
    return SketchLabel(at=(round(x, 3), round(y, 3)), text=text, anchor=anchor)


def box(x: float, y: float, width: float, height: float, stands: Stands = "metal") -> SketchLine:
    """Draw a rectangle from its lower left corner."""
    return line((x, y), (x + width, y), (x + width, y + height), (x, y + height), stands=stands, closed=True)


@lru_cache(maxsize=4096)
def oval(x: float, y: float, width: float, height: float, stands: Stands = "metal") -> SketchLine:
    """Draw an ellipse about a point."""
    return line(*arc((x, y), width / 2, 0, 360, squash=height / width), stands=stands, closed=True)


def circle(x: float, y: float, diameter: float, stands: Stands = "metal") -> SketchLine:
    """Draw a circle about a point."""
    return oval(x, y, diameter, diameter, stands)


def arc(centre: Spot, radius: float, begin_deg: float, end_deg: float, *, squash: float = 1.0) -> list[Spot]:
    """Give the points of an arc, anticlockwise where it ends at the larger angle."""
    steps = max(4, math.ceil(abs(end_deg - begin_deg) / 7.5))
    turns = [math.radians(begin_deg + (end_deg - begin_deg) * n / steps) for n in range(steps + 1)]
    return [(centre[0] + radius * math.cos(t), centre[1] + squash * radius * math.sin(t)) for t in turns]


def ring(x: float, y: float, inner: float, outer: float, *, split: bool = False) -> list[SketchLine]:
    """Draw a ring seen from the side, with its split at the top where asked."""
    lines = [circle(x, y, outer), circle(x, y, inner)]
    if split:
        lines.append(line((x, y + inner / 2), (x, y + outer / 2), stands="mark"))
    return lines


def bar(length: float, height: float, y: float = 0.0, marks: Sequence[float] = ()) -> list[SketchLine]:
    """Draw a bar laid flat from x = 0, with marks across it."""
    return [
        box(0, y, length, height),
        *(line((at, y - height * 0.5), (at, y + height * 1.5), stands="mark") for at in marks),
    ]


def ruler(length: float, y: float) -> list[SketchLine]:
    """Draw a ruler's ticks below a bar: each 10 mm long, each 5 mm half as long."""
    ticks = [
        line((at, y), (at, y - (1.6 if at % 10 == 0 else 0.8)), stands="fine")
        for at in range(0, math.floor(length) + 1, 5)
    ]
    return [line((0, y), (length, y), stands="fine"), *ticks]

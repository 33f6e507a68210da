"""A picture as small as a line of a list shows it: no more points than can be told apart there."""

from __future__ import annotations

import math
from collections import Counter

from ..forms import ViewLine
from ._layout import Picture

_TOLD_APART_PX = 0.3
# Of so many alike each is drawn where it lies; of more one, with their number.
MOST_ALIKE = 60


def small(picture: Picture, wide_px: float, high_px: float) -> Picture:
    """Give a picture for a box of so many pixels: its lines simplified to a third of one, without faint lines and marks.

    What is not drawn is left out. Of a part of which more than sixty are alike the first is drawn, with their number.

    The box, mm, and the parts stay; lines are simplified by shapely (Douglas and Peucker, 1973).
    """
    from shapely.geometry import LineString  # Loaded by who draws lists alone: it takes a tenth of a second.

    unit = max(picture.width_mm / wide_px, picture.height_mm / high_px, 1e-6)
    places = max(0, math.ceil(-math.log10(unit * _TOLD_APART_PX)))

    def simpler(line: ViewLine) -> ViewLine:
        ring = [*line.points, line.points[0]] if line.closed else list(line.points)
        if len(ring) > 2:
            shape = LineString(ring).simplify(_TOLD_APART_PX * unit, preserve_topology=False)
            ring = [(spot[0], spot[1]) for spot in shape.coords]
        ends = ring[:-1] if line.closed and len(ring) > 1 else ring
        points = tuple((round(x, places), round(y, places)) for x, y in ends)
        return line.model_copy(update={"points": points})

    def bare(lines: tuple[ViewLine, ...]) -> tuple[ViewLine, ...]:
        return tuple(simpler(line) for line in lines if not line.faint)

    drawn = _drawn(picture)
    parts = tuple(
        part.model_copy(update={"lines": bare(part.lines), "alike": drawn[part.node]})
        for part in picture.parts
        if part.node in drawn
    )
    seen = tuple(
        part.model_copy(update={"lines": bare(part.lines)})
        for part in picture.front.parts
        if part.node in drawn
    )
    front = picture.front.model_copy(update={"parts": seen, "joins": ()})
    return picture.model_copy(update={"parts": parts, "joins": (), "front": front})


def _drawn(picture: Picture) -> dict[str, int]:
    """Give the nodes that are drawn, each with how many it stands for."""
    alike = Counter(part.part for part in picture.parts if part.alike > 0)
    drawn: dict[str, int] = {}
    many: set[str] = set()
    for part in picture.parts:
        if part.alike == 0 or part.part in many:
            continue
        if alike[part.part] > MOST_ALIKE:
            many.add(part.part)
            drawn[part.node] = alike[part.part]
        else:
            drawn[part.node] = part.alike
    return drawn

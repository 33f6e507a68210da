"""The plan view of a form: the thin lines that draw it to scale, about its own origin, in mm.

A *band* (a line with a width) draws wire as wire; a line of width 0 is a thin edge; a faint line
tells of shape within (the rise of a dome, the bore of a tube, the lay of a twist).
"""

from __future__ import annotations

import math
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ._outlines import Ring, dome_rim_share, ellipse_ring, outline_rings, path_rings
from ._profiles import profile_across_mm, profile_height_mm
from ._types import Ball, Form, Lump, Sheet, Strip, Tube, Wire

_LUMP_DENSITY_G_CM3 = 10.0


class ViewLine(BaseModel):
    """One line of the picture: points in mm, closed or open, drawn as a band when it has a width."""

    model_config = ConfigDict(frozen=True)

    points: Ring
    closed: bool
    width_mm: float = 0.0
    faint: bool = False


class PlanView(BaseModel):
    """All lines of a form, and the size of the box that holds them, mm."""

    model_config = ConfigDict(frozen=True)

    lines: tuple[ViewLine, ...]
    width_mm: float
    height_mm: float


def plan_view(form: Form, stands: Literal["flat", "upright"] = "flat") -> PlanView:
    """Draw a form in plan, lying flat or standing on its end."""
    lines = _upright(form) if stands == "upright" else _flat(form)
    return _boxed(lines)


def _flat(form: Form) -> list[ViewLine]:
    match form:
        case Wire():
            return _wire(form)
        case Strip():
            if form.closed or form.path is not None:
                return _run(form.length_mm, form.closed, form.thickness_mm, form.path)
            return [_edge(_box(form.length_mm, form.width_mm))]
        case Sheet():
            return _sheet(form)
        case Tube():
            bore = form.outer_mm / 2 - form.wall_mm
            half = form.length_mm / 2
            walls = [((-half, y), (half, y)) for y in (-bore, bore)]
            return [_edge(_box(form.length_mm, form.outer_mm)), *(_faint(wall) for wall in walls)]
        case Ball():
            return [_edge(ellipse_ring(form.diameter_mm, form.diameter_mm))]
        case Lump():
            size = (6 * form.mass_g * 1000 / _LUMP_DENSITY_G_CM3 / math.pi) ** (1 / 3)
            return [_edge(ellipse_ring(size, size))]


def rim_line(form: Form) -> ViewLine | None:
    """Give the line of a ring or a bent run about its own middle, y running down: what stands on its rim when it is put upright.

    None where there is none: what is straight stands on its end.
    """
    if isinstance(form, Wire | Strip) and (form.closed or form.path is not None):
        line = _boxed(_flat(form)).lines[0]
        # Seen from the side a ring is as thick as its section is high.
        thick = profile_height_mm(form.profile) if isinstance(form, Wire) else form.thickness_mm
        return line.model_copy(update={"width_mm": thick})
    return None


def _upright(form: Form) -> list[ViewLine]:
    rim = rim_line(form)
    if isinstance(form, Wire) and rim is not None:
        xs, across = [x for x, _ in rim.points], profile_across_mm(form.profile)
        return [_edge(_box(max(xs) - min(xs) + rim.width_mm, across))]
    match form:
        case Wire():
            across = profile_across_mm(form.profile)
            return [
                _edge(ellipse_ring(across, across) if form.profile.kind == "round" else _box(across, across))
            ]
        case Tube():
            bore = form.outer_mm - 2 * form.wall_mm
            return [_edge(ellipse_ring(form.outer_mm, form.outer_mm)), _edge(ellipse_ring(bore, bore))]
        case Strip() if not form.closed:
            return _run(form.length_mm, False, form.thickness_mm, form.path)
        case Sheet():
            rings = outline_rings(form.outline)
            width = max(x for x, _ in rings[0]) - min(x for x, _ in rings[0])
            return [_edge(_box(width, form.thickness_mm))]
        case _:
            return _flat(form)


def _wire(form: Wire) -> list[ViewLine]:
    across = profile_across_mm(form.profile)
    if form.strands == 1:
        return _run(form.length_mm, form.closed, across, form.path)
    lay = across * (1 + 1 / math.sin(math.pi / max(2, min(form.strands, 6))))
    lines = _run(form.length_mm, form.closed, lay, form.path)
    if form.path is None and not form.closed:
        lines += _lay_marks(form, lay)
    return lines


def _lay_marks(form: Wire, lay: float) -> list[ViewLine]:
    step = (form.pitch_mm or form.length_mm) / form.strands
    count = min(200, int(form.length_mm / step))
    starts = (-form.length_mm / 2 + n * step for n in range(count))
    return [_faint(((x, -lay / 2), (x + step * 0.8, lay / 2))) for x in starts]


def _run(length: float, closed: bool, width: float, path: Ring | str | None) -> list[ViewLine]:
    """Draw wire or strip on edge along its line in plan."""
    if isinstance(path, str):
        return [ViewLine(points=ring, closed=closed, width_mm=width) for ring in path_rings(path)]
    if path is not None:
        return [ViewLine(points=tuple(path), closed=closed, width_mm=width)]
    if closed:
        across = length / math.pi
        return [ViewLine(points=ellipse_ring(across, across), closed=True, width_mm=width)]
    return [ViewLine(points=((-length / 2, 0.0), (length / 2, 0.0)), closed=False, width_mm=width)]


def _sheet(form: Sheet) -> list[ViewLine]:
    rings = outline_rings(form.outline)
    if form.domed_mm == 0:
        return [_edge(ring) for ring in rings]
    radius = min(max(x for x, _ in rings[0]), max(y for _, y in rings[0]))
    rim = dome_rim_share(radius, form.domed_mm)
    lines = [_edge(_scaled(ring, rim)) for ring in rings]
    return lines + [_faint_ring(_scaled(rings[0], rim * share)) for share in (0.86, 0.62, 0.3)]


def _scaled(ring: Ring, factor: float) -> Ring:
    return tuple((x * factor, y * factor) for x, y in ring)


def _box(width: float, height: float) -> Ring:
    x, y = width / 2, height / 2
    return ((-x, -y), (x, -y), (x, y), (-x, y))


def _edge(ring: Ring) -> ViewLine:
    return ViewLine(points=ring, closed=True)


def _faint(points: Ring) -> ViewLine:
    return ViewLine(points=points, closed=False, faint=True)


def _faint_ring(points: Ring) -> ViewLine:
    return ViewLine(points=points, closed=True, faint=True)


def _boxed(lines: list[ViewLine]) -> PlanView:
    """Centre the lines on the box that holds them."""
    spots = [(x, y, line.width_mm / 2) for line in lines for x, y in line.points]
    left, right = min(x - w for x, _, w in spots), max(x + w for x, _, w in spots)
    low, high = min(y - w for _, y, w in spots), max(y + w for _, y, w in spots)
    dx, dy = -(left + right) / 2, -(low + high) / 2
    moved = tuple(
        line.model_copy(update={"points": tuple((x + dx, y + dy) for x, y in line.points)}) for line in lines
    )
    return PlanView(lines=moved, width_mm=right - left, height_mm=high - low)

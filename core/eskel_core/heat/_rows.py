"""Cut wire and strip into a row of cells, as it lies or stands."""

from __future__ import annotations

import math

import numpy as np

from ..cooling import CONVECTION_W_M2K, wire_convection_w_m2k
from ..forms import (
    Strip,
    ViewLine,
    Wire,
    measure,
    profile_across_mm,
    profile_perimeter_mm,
    rim_line,
    wire_length_mm,
)
from ..metals import Metal
from ..picture import PlacedPart
from ._cells import LYING_SHARE, MM2, MM3, Cells, Stand
from ._grid import Floats


def wire_cells(form: Wire, metal: Metal, placed: PlacedPart, stands: Stand, size_mm: float) -> Cells:
    measured = measure(form)
    across = profile_across_mm(form.profile)
    around = profile_perimeter_mm(form.profile) * wire_length_mm(form) / form.length_mm
    section = (measured.volume_mm3 or 0.0) / form.length_mm
    thick = 4 * section / around
    rim = rim_line(form) if stands == "upright" else None
    return _row(
        metal,
        length_mm=form.length_mm,
        section_mm2=section,
        around_mm=around,
        seen_mm=around / 2,
        lies_mm=LYING_SHARE * across,
        ends=not form.closed,
        line=_line_of(placed, stands == "upright" and rim is None),
        rim=None if rim is None else _ring(rim),
        size_mm=size_mm,
        depth_mm=thick / 2,
        across_mm=thick,
        convection=wire_convection_w_m2k(thick),
        closed=form.closed,
        upright=stands == "upright" and rim is None,
    )


def strip_cells(form: Strip, metal: Metal, placed: PlacedPart, stands: Stand, size_mm: float) -> Cells:
    on_edge = form.closed or form.path is not None or stands == "upright"
    return _row(
        metal,
        length_mm=form.length_mm,
        section_mm2=form.width_mm * form.thickness_mm,
        around_mm=2 * (form.width_mm + form.thickness_mm),
        seen_mm=form.width_mm,
        lies_mm=form.thickness_mm if on_edge else form.width_mm,
        ends=not form.closed,
        line=_line_of(placed, False),
        size_mm=size_mm,
        depth_mm=form.width_mm / 2 if on_edge else form.thickness_mm / 2,
        across_mm=form.width_mm if on_edge else math.inf,
        convection=CONVECTION_W_M2K,
        closed=form.closed,
        upright=False,
    )


def _line_of(placed: PlacedPart, on_end: bool) -> list[tuple[float, float]]:
    """Give the middle line of a row in plan; a part that stands on its end is a spot."""
    line = placed.lines[0]
    if on_end and line.width_mm == 0:
        return [(placed.x_mm, placed.y_mm)]
    if line.width_mm > 0:
        return _ring(line)
    if len(line.points) != 4:
        return [line.points[0]]
    # The box of what lies: its middle line goes from the middle of the one short side to that of the other.
    a, b, c, d = line.points
    return [((a[0] + d[0]) / 2, (a[1] + d[1]) / 2), ((b[0] + c[0]) / 2, (b[1] + c[1]) / 2)]


def _row(
    metal: Metal,
    *,
    length_mm: float,
    section_mm2: float,
    around_mm: float,
    seen_mm: float,
    lies_mm: float,
    ends: bool,
    line: list[tuple[float, float]],
    rim: list[tuple[float, float]] | None = None,
    size_mm: float,
    depth_mm: float,
    across_mm: float,
    convection: float,
    closed: bool,
    upright: bool,
) -> Cells:
    """Cut a row of even section into cells of one length."""
    count = max(4, min(4000, round(length_mm / size_mm)))
    long_mm = length_mm / count
    x, y = _places_on(line, count)
    z = np.arange(0.5, count) * (long_mm if upright else 0.0)
    if rim is not None:
        x, y, z = _on_its_rim(line, rim, count)
    one = np.ones(count)
    surface = one * around_mm * long_mm
    if ends:
        surface[[0, -1]] += section_mm2
    rests = one * lies_mm * long_mm
    foot = np.ones(count, bool)
    if upright:
        rests, foot = np.zeros(count), np.zeros(count, bool)
        rests[0], foot[0] = section_mm2, True
    if rim is not None:
        foot = z <= z.min() + long_mm / 2
        rests = rests * foot
    here = np.arange(count - 1)
    conductance = np.full(count - 1, metal.conductivity_w_mk * section_mm2 * MM2 / (long_mm / 1000))
    return Cells(
        metal=metal,
        volume_m3=one * section_mm2 * long_mm * MM3,
        surface_m2=surface * MM2,
        above_m2=one * seen_mm * long_mm * MM2,
        below_m2=one * seen_mm * long_mm * MM2,
        rests_m2=rests * MM2,
        x_mm=x,
        y_mm=y,
        z_mm=z,
        links=((here, here + 1, conductance),),
        wash_m2=np.maximum(surface - 2 * rests, surface / 2) * MM2,
        across_mm=across_mm,
        ball=False,
        convection_w_m2k=convection,
        depth_m=depth_mm / 1000,
        run_m=long_mm / 2000,
        border=np.ones(count, bool),
        foot=foot,
        row=True,
        closed=closed,
    )


def _places_on(line: list[tuple[float, float]], count: int) -> tuple[Floats, Floats]:
    """Give the middles of a number of even pieces of a line in plan, mm."""
    points = np.array(line, float)
    if len(points) == 1:
        return np.full(count, points[0, 0]), np.full(count, points[0, 1])
    steps = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    middles = (np.arange(count) + 0.5) / count * steps[-1]
    return np.interp(middles, steps, points[:, 0]), np.interp(middles, steps, points[:, 1])


def _on_its_rim(
    line: list[tuple[float, float]], rim: list[tuple[float, float]], count: int
) -> tuple[Floats, Floats, Floats]:
    """Give the places of a ring that stands on its rim: along its line in plan, and as high as its own line goes, mm."""
    along, down = _places_on(rim, count)
    (x0, y0), (x1, y1) = line[0], line[-1]
    wide = math.hypot(x1 - x0, y1 - y0) or 1.0
    turned = along / wide
    middle_x, middle_y = (x0 + x1) / 2, (y0 + y1) / 2
    return middle_x + turned * (x1 - x0), middle_y + turned * (y1 - y0), down.max() - down


def _ring(line: ViewLine) -> list[tuple[float, float]]:
    return [*line.points, line.points[0]] if line.closed else list(line.points)

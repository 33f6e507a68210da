"""Divide a part into cells along its own shape: wires and strips in one dimension, sheets and tubes in two, balls lumped.

A cell holds its metal, its surface, the side that a flame sees and its place in plan. Through its thickness
it is all at one temperature, which holds while h·t/k stays below 0.1.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..forms import (
    Ball,
    Form,
    Lump,
    Sheet,
    Strip,
    Tube,
    ViewLine,
    Wire,
    measure,
    outline_area_mm2,
    outline_perimeter_mm,
    outline_rings,
    profile_across_mm,
    profile_perimeter_mm,
    rim_line,
    wire_length_mm,
)
from ..metals import Metal
from ..picture import PlacedPart
from ._grid import Floats, Grid, grid_of

Stand = Literal["flat", "upright"]

CONVECTION_W_M2K = 12.0
_WIRE_CONVECTION_W_MK = 0.033
TUBE_CELLS_ROUND = 8
LYING_SHARE = 0.3
_MM2, _MM3 = 1e-6, 1e-9


@dataclass(frozen=True)
class Cells:
    """The cells of one part: arrays of one length, SI units but for places, which are mm.

    `above_m2` and `below_m2` are what a flame from above or from below sees where the part is wide for it; where it is
    thin, of `across_mm`, the gas washes `wash_m2` of it all round, as a wire or a `ball`. `z_mm` is how high a cell stands
    over what the part stands on. `rests_m2` is what touches the block when the part lies on it. `depth_m` is the way from a touched face to the middle of the cell, `run_m` from a
    cell's end. `border` marks the cells at the edge of a sheet, `foot` those a part stands on, `row` is a part of cells in a row; `along` says that it lies along a sheet. `links` are pairs of cells with the conductance between them, W/K.
    """

    metal: Metal
    volume_m3: Floats
    surface_m2: Floats
    above_m2: Floats
    below_m2: Floats
    rests_m2: Floats
    x_mm: Floats
    y_mm: Floats
    z_mm: Floats
    links: tuple[tuple[NDArray[np.int64], NDArray[np.int64], Floats], ...]
    wash_m2: Floats
    across_mm: float
    ball: bool
    convection_w_m2k: float
    depth_m: float
    run_m: float
    border: NDArray[np.bool_]
    foot: NDArray[np.bool_]
    row: bool = False
    along: bool = False

    def __len__(self) -> int:
        return len(self.volume_m3)

    @property
    def capacity_j_k(self) -> Floats:
        """What each cell takes up for each degree, J/K."""
        made: Floats = self.volume_m3 * (self.metal.density_g_cm3 * 1000 * self.metal.specific_heat_j_kgk)
        return made


def wire_convection_w_m2k(thick_mm: float) -> float:
    """Give what wire loses to still air, W/m²K."""
    return CONVECTION_W_M2K + _WIRE_CONVECTION_W_MK / (thick_mm / 1000)


def spread_mm(form: Form) -> tuple[float, float]:
    """Give how much of a form is cut into cells: the length of its rows, mm, and the area of its sheets, mm²."""
    match form:
        case Wire() | Strip():
            return form.length_mm, 0.0
        case Sheet():
            return 0.0, outline_area_mm2(form.outline)
        case Tube():
            return TUBE_CELLS_ROUND * form.length_mm, 0.0
        case _:
            return 0.0, 0.0


def cells_of(form: Form, metal: Metal, placed: PlacedPart, stands: Stand, size_mm: float) -> Cells:
    """Divide a form that is placed in plan into cells of about a size."""
    match form:
        case Wire():
            return _wire(form, metal, placed, stands, size_mm)
        case Strip():
            return _strip(form, metal, placed, stands, size_mm)
        case Sheet():
            return _sheet(form, metal, placed, stands, size_mm)
        case Tube():
            return _tube(form, metal, placed, stands, size_mm)
        case Ball():
            return _lumped(form, metal, placed, math.pi * form.diameter_mm**3 / 6, form.diameter_mm)
        case Lump():
            volume = form.mass_g * 1000 / metal.density_g_cm3
            return _lumped(form, metal, placed, volume, math.cbrt(6 * volume / math.pi))


def _lumped(form: Ball | Lump, metal: Metal, placed: PlacedPart, volume: float, across: float) -> Cells:
    surface = measure(form).surface_mm2
    one = np.ones(1)
    return Cells(
        metal=metal,
        volume_m3=one * volume * _MM3,
        surface_m2=one * surface * _MM2,
        above_m2=one * surface / 2 * _MM2,
        below_m2=one * surface / 2 * _MM2,
        rests_m2=one * math.pi * (across / 6) ** 2 * _MM2,
        x_mm=one * placed.x_mm,
        y_mm=one * placed.y_mm,
        z_mm=one * across / 2,
        links=(),
        wash_m2=one * surface * _MM2,
        across_mm=across,
        ball=True,
        convection_w_m2k=CONVECTION_W_M2K,
        depth_m=across / 2000,
        run_m=across / 2000,
        border=np.ones(1, bool),
        foot=np.ones(1, bool),
    )


def _wire(form: Wire, metal: Metal, placed: PlacedPart, stands: Stand, size_mm: float) -> Cells:
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


def _strip(form: Strip, metal: Metal, placed: PlacedPart, stands: Stand, size_mm: float) -> Cells:
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
    conductance = np.full(count - 1, metal.conductivity_w_mk * section_mm2 * _MM2 / (long_mm / 1000))
    return Cells(
        metal=metal,
        volume_m3=one * section_mm2 * long_mm * _MM3,
        surface_m2=surface * _MM2,
        above_m2=one * seen_mm * long_mm * _MM2,
        below_m2=one * seen_mm * long_mm * _MM2,
        rests_m2=rests * _MM2,
        x_mm=x,
        y_mm=y,
        z_mm=z,
        links=((here, here + 1, conductance),),
        wash_m2=np.maximum(surface - 2 * rests, surface / 2) * _MM2,
        across_mm=across_mm,
        ball=False,
        convection_w_m2k=convection,
        depth_m=depth_mm / 1000,
        run_m=long_mm / 2000,
        border=np.ones(count, bool),
        foot=foot,
        row=True,
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


def _sheet(form: Sheet, metal: Metal, placed: PlacedPart, stands: Stand, size_mm: float) -> Cells:
    """Lay a grid over the blank and cut it by the outline: each cell has what of it lies inside.

    Cells of which less than a fiftieth lies inside are left out and their metal is spread over the others.
    """
    rings = [np.array(ring, float) for ring in outline_rings(form.outline)]
    area = outline_area_mm2(form.outline)
    narrow = 2 * area / outline_perimeter_mm(form.outline)
    size = max(min(size_mm, narrow), math.sqrt(area / 4000))
    grid = grid_of(rings, size)
    x, y = _in_plan(form, placed, stands, rings, grid)
    scale = area / grid.area_mm2.sum()
    thick = form.thickness_mm
    face = grid.area_mm2 * scale
    edge = outline_perimeter_mm(form.outline) * thick * grid.border / max(1, grid.border.sum())
    foot, rests = np.ones(len(face), bool), face
    if stands == "upright":
        foot = grid.row_of == grid.row_of.min()
        rests = np.where(foot, grid.width_mm * thick, 0.0)
    elif form.domed_mm > 0:
        rests = np.where(grid.border, grid.width_mm * thick, 0.0)
    i, j, shared, apart = grid.faces
    return Cells(
        metal=metal,
        volume_m3=face * thick * _MM3,
        surface_m2=(2 * face + edge) * _MM2,
        above_m2=face * _MM2,
        below_m2=face * _MM2,
        rests_m2=rests * _MM2,
        x_mm=x,
        y_mm=y,
        z_mm=(grid.y_mm - rings[0][:, 1].min()) if stands == "upright" else np.zeros(len(face)),
        links=((i, j, metal.conductivity_w_mk * shared * thick / apart / 1000),),
        wash_m2=face * _MM2,
        across_mm=math.inf,
        ball=False,
        convection_w_m2k=CONVECTION_W_M2K,
        depth_m=thick / 2000,
        run_m=grid.width_mm / 2000,
        border=grid.border,
        foot=foot,
    )


def _in_plan(
    form: Sheet, placed: PlacedPart, stands: Stand, rings: list[Floats], grid: Grid
) -> tuple[Floats, Floats]:
    """Put the cells of a blank where the part lies in plan: turned, drawn in where it is domed, or on edge."""
    drawn = np.array(placed.lines[0].points, float)
    if stands == "upright":
        start, end = (drawn[0] + drawn[3]) / 2, (drawn[1] + drawn[2]) / 2
        left, right = rings[0][:, 0].min(), rings[0][:, 0].max()
        share = (grid.x_mm - left) / max(right - left, 1e-9)
        return start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1])
    ring = rings[0]
    middle, there = ring.mean(axis=0), drawn.mean(axis=0)
    a, b = ring - middle, drawn - there
    # The drawn ring is the blank's, turned and scaled: the best such map in the sense of least squares.
    whole = (a**2).sum()
    cos, sin = (a * b).sum() / whole, (a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]).sum() / whole
    x, y = grid.x_mm - middle[0], grid.y_mm - middle[1]
    return there[0] + cos * x - sin * y, there[1] + sin * x + cos * y


def _tube(form: Tube, metal: Metal, placed: PlacedPart, stands: Stand, size_mm: float) -> Cells:
    """Cut a tube into rings of cells: along it, and round it."""
    middle = form.outer_mm - form.wall_mm
    round_about = TUBE_CELLS_ROUND
    rings = max(3, min(400, round(form.length_mm / size_mm)))
    long_mm, arc_mm = form.length_mm / rings, math.pi * middle / round_about
    ring, place = (
        each.ravel() for each in np.meshgrid(np.arange(rings), np.arange(round_about), indexing="ij")
    )
    turn = (place + 0.5) * 2 * math.pi / round_about
    box = placed.lines[0].points
    if stands == "upright":
        x = placed.x_mm + middle / 2 * np.cos(turn)
        y = placed.y_mm + middle / 2 * np.sin(turn)
        seen = np.full(len(ring), 0.5)
        up = down = seen
        foot = ring == 0
        rests = np.where(foot, arc_mm * form.wall_mm, 0.0)
    else:
        along = np.array(box[1]) - np.array(box[0])
        over = np.array(box[3]) - np.array(box[0])
        start = np.array(box[0])
        spot = start + np.outer((ring + 0.5) / rings, along) + np.outer((1 + np.cos(turn)) / 2, over)
        x, y = spot[:, 0], spot[:, 1]
        up, down = (np.sin(turn) > 0).astype(float), (np.sin(turn) < 0).astype(float)
        foot = np.sin(turn) < -0.9
        rests = np.where(foot, LYING_SHARE * form.outer_mm * long_mm / max(1, foot.sum() / rings), 0.0)
    count, one = rings * round_about, np.ones(rings * round_about)
    skin = math.pi * form.outer_mm / round_about * long_mm
    inner = math.pi * (form.outer_mm - 2 * form.wall_mm) / round_about * long_mm
    plugs = form.sealed_ends * math.pi * (form.outer_mm - 2 * form.wall_mm) ** 2 / 4
    ends = (ring == 0) | (ring == rings - 1)
    volume = one * arc_mm * form.wall_mm * long_mm + ends * plugs * form.wall_mm / ends.sum()
    surface = one * (skin + inner) + ends * (arc_mm * form.wall_mm + 2 * plugs / ends.sum())
    number = np.arange(count).reshape(rings, round_about)
    k, wall = metal.conductivity_w_mk, form.wall_mm
    lengthwise = np.full((rings - 1) * round_about, k * arc_mm * wall / long_mm / 1000)
    crosswise = np.full(count, k * long_mm * wall / arc_mm / 1000)
    return Cells(
        metal=metal,
        volume_m3=volume * _MM3,
        surface_m2=surface * _MM2,
        above_m2=skin * up * _MM2,
        below_m2=skin * down * _MM2,
        rests_m2=rests * _MM2,
        x_mm=x,
        y_mm=y,
        z_mm=np.asarray(ring + 0.5, float) * (long_mm if stands == "upright" else 0.0),
        links=(
            (number[:-1].ravel(), number[1:].ravel(), lengthwise),
            (number.ravel(), np.roll(number, -1, axis=1).ravel(), crosswise),
        ),
        wash_m2=(one * skin - 2 * rests * (rests < skin / 4)) * _MM2,
        across_mm=form.outer_mm,
        ball=False,
        convection_w_m2k=CONVECTION_W_M2K,
        depth_m=wall / 2000,
        run_m=long_mm / 2000,
        border=ends,
        foot=foot,
    )

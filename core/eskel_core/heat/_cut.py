"""Divide a part into cells along its own shape: wires and strips in one dimension, sheets and tubes in two, balls lumped.

Through its thickness a cell is all at one temperature, which holds while h·t/k stays below 0.1.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..cooling import CONVECTION_W_M2K
from ..forms import (
    Ball,
    Form,
    Lump,
    Sheet,
    Strip,
    Tube,
    Wire,
    measure,
    outline_area_mm2,
    outline_perimeter_mm,
    outline_rings,
)
from ..metals import Metal
from ..picture import PlacedPart
from ._cells import LYING_SHARE, MM2, MM3, Cells, Stand
from ._grid import Floats, Grid, grid_of
from ._rows import strip_cells, wire_cells

TUBE_CELLS_ROUND = 8


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
            return wire_cells(form, metal, placed, stands, size_mm)
        case Strip():
            return strip_cells(form, metal, placed, stands, size_mm)
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
        volume_m3=one * volume * MM3,
        surface_m2=one * surface * MM2,
        above_m2=one * surface / 2 * MM2,
        below_m2=one * surface / 2 * MM2,
        rests_m2=one * math.pi * (across / 6) ** 2 * MM2,
        x_mm=one * placed.x_mm,
        y_mm=one * placed.y_mm,
        z_mm=one * across / 2,
        links=(),
        wash_m2=one * surface * MM2,
        across_mm=across,
        ball=True,
        convection_w_m2k=CONVECTION_W_M2K,
        depth_m=across / 2000,
        run_m=across / 2000,
        border=np.ones(1, bool),
        foot=np.ones(1, bool),
    )


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
        volume_m3=face * thick * MM3,
        surface_m2=(2 * face + edge) * MM2,
        above_m2=face * MM2,
        below_m2=face * MM2,
        rests_m2=rests * MM2,
        x_mm=x,
        y_mm=y,
        z_mm=(grid.y_mm - rings[0][:, 1].min()) if stands == "upright" else np.zeros(len(face)),
        links=((i, j, metal.conductivity_w_mk * shared * thick / apart / 1000),),
        wash_m2=face * MM2,
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


@dataclass(frozen=True)
class _Round:
    """The cells of a tube as it lies or stands: where they are in plan, mm, how they look up and down, what it stands on, mm²."""

    x: Floats
    y: Floats
    up: Floats
    down: Floats
    foot: NDArray[np.bool_]
    rests: Floats


def _round_about(
    form: Tube, placed: PlacedPart, stands: Stand, ring: NDArray[np.int64], turn: Floats
) -> _Round:
    """Put the cells of a tube in plan, by the ring along it that they are of and their turn round it."""
    rings = int(ring.max()) + 1
    middle = form.outer_mm - form.wall_mm
    box = placed.lines[0].points
    if stands == "upright":
        foot = ring == 0
        half = np.full(len(ring), 0.5)
        arc_mm = math.pi * middle / TUBE_CELLS_ROUND
        return _Round(
            placed.x_mm + middle / 2 * np.cos(turn),
            placed.y_mm + middle / 2 * np.sin(turn),
            half,
            half,
            foot,
            np.where(foot, arc_mm * form.wall_mm, 0.0),
        )
    start, along, over = np.array(box[0]), np.subtract(box[1], box[0]), np.subtract(box[3], box[0])
    spot = start + np.outer((ring + 0.5) / rings, along) + np.outer((1 + np.cos(turn)) / 2, over)
    foot = np.sin(turn) < -0.9
    lies = LYING_SHARE * form.outer_mm * form.length_mm / rings
    return _Round(
        spot[:, 0],
        spot[:, 1],
        (np.sin(turn) > 0).astype(float),
        (np.sin(turn) < 0).astype(float),
        foot,
        np.where(foot, lies / max(1, foot.sum() / rings), 0.0),
    )


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
    lies = _round_about(form, placed, stands, ring, turn)
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
        volume_m3=volume * MM3,
        surface_m2=surface * MM2,
        above_m2=skin * lies.up * MM2,
        below_m2=skin * lies.down * MM2,
        rests_m2=lies.rests * MM2,
        x_mm=lies.x,
        y_mm=lies.y,
        z_mm=np.asarray(ring + 0.5, float) * (long_mm if stands == "upright" else 0.0),
        links=(
            (number[:-1].ravel(), number[1:].ravel(), lengthwise),
            (number.ravel(), np.roll(number, -1, axis=1).ravel(), crosswise),
        ),
        wash_m2=(one * skin - 2 * lies.rests * (lies.rests < skin / 4)) * MM2,
        across_mm=form.outer_mm,
        ball=False,
        convection_w_m2k=CONVECTION_W_M2K,
        depth_m=wall / 2000,
        run_m=long_mm / 2000,
        border=ends,
        foot=lies.foot,
    )

"""A grid laid over the blank of a sheet and cut by its outline."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

Floats = NDArray[np.float64]
_LEAST_SHARE = 0.02


@dataclass(frozen=True)
class Grid:
    """The cells of a blank: middles and areas, which lie at an edge and in which row, and the faces they share.

    `faces` are pairs of cells, the length of the face, mm, and how far apart the middles are, mm.
    """

    x_mm: Floats
    y_mm: Floats
    area_mm2: Floats
    border: NDArray[np.bool_]
    row_of: NDArray[np.int64]
    width_mm: float
    faces: tuple[NDArray[np.int64], NDArray[np.int64], Floats, Floats]


def grid_of(rings: list[Floats], size: float) -> Grid:
    """Cut a grid by an outline: areas inside, shared faces (mm) and distances (mm) of neighbours."""
    whole: Any = shapely.Polygon()
    for ring in rings:
        whole = whole.symmetric_difference(shapely.Polygon(ring).buffer(0))
    left, low, right, high = whole.bounds
    across, up = max(3, round((right - left) / size)), max(3, round((high - low) / size))
    dx, dy = (right - left) / across, (high - low) / up
    columns, rows = np.tile(np.arange(across), up), np.repeat(np.arange(up), across)
    boxes = shapely.box(
        left + columns * dx, low + rows * dy, left + (columns + 1) * dx, low + (rows + 1) * dy
    )
    shapely.prepare(whole)
    inside = shapely.contains_properly(whole, boxes)
    areas = np.where(inside, dx * dy, 0.0)
    areas[~inside] = shapely.area(shapely.intersection(whole, boxes[~inside]))
    kept = areas > _LEAST_SHARE * dx * dy
    number = np.full(across * up, -1)
    number[kept] = np.arange(kept.sum())
    sides = []
    for step_x, step_y, share, apart in ((1, 0, dy, dx), (0, 1, dx, dy)):
        here = np.flatnonzero((columns + step_x < across) & (rows + step_y < up))
        there = here + step_x + step_y * across
        good = kept[here] & kept[there]
        here, there = here[good], there[good]
        x0, y0 = left + (columns[here] + step_x) * dx, low + (rows[here] + step_y) * dy
        cuts: Any = shapely.linestrings(
            np.stack([np.stack([x0, y0], -1), np.stack([x0 + step_y * dx, y0 + step_x * dy], -1)], 1)
        )
        both = inside[here] & inside[there]
        shared = np.full(len(here), share)
        shared[~both] = shapely.length(shapely.intersection(whole, cuts[~both]))
        open_face = shared > 0
        sides.append(
            (
                number[here[open_face]],
                number[there[open_face]],
                shared[open_face],
                np.full(open_face.sum(), apart),
            )
        )
    neighbours = np.zeros(kept.sum())
    for i, j, _shared, _apart in sides:
        np.add.at(neighbours, i, 1)
        np.add.at(neighbours, j, 1)
    return Grid(
        x_mm=(left + (columns + 0.5) * dx)[kept],
        y_mm=(low + (rows + 0.5) * dy)[kept],
        area_mm2=areas[kept],
        border=(~inside[kept]) | (neighbours < 4),
        row_of=rows[kept],
        width_mm=math.sqrt(dx * dy),
        faces=(
            np.concatenate([side[0] for side in sides]),
            np.concatenate([side[1] for side in sides]),
            np.concatenate([side[2] for side in sides]),
            np.concatenate([side[3] for side in sides]),
        ),
    )

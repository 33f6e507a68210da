"""Which cells meet at a join, with what area, and what the joint passes once it is metal."""

from __future__ import annotations

import numpy as np

from ..piece import Join
from ._cells import Cells
from ._grid import Floats
from ._network import Flags, Indices, Touch

_LEAST_DEPTH_M = 5e-5
# What lies within a sheet is no farther from the middle of its nearest cell: half the diagonal of a cell, and a little.
_WITHIN_RUNS = 1.5
Spot = tuple[float, float]


def owner_of(cell: int, starts: dict[str, int]) -> str:
    """Give the part that a cell of the whole is of, by where each part's cells start."""
    return max((start, node) for node, start in starts.items() if start <= cell)[1]


def closes(join: Join) -> bool:
    """Say whether a join closes a part on itself: end to end, or lapped."""
    return len(set(join.between)) == 1 and join.kind in ("butt", "fuse", "overlay")


def touch_itself(join: Join, place: str, cells: Cells, start: int, area_mm2: float, made: bool) -> Touch:
    """Close a row of cells on itself: its last cell meets its first."""
    i, j = np.array([start + len(cells) - 1]), np.array([start])
    area = np.array([area_mm2 * 1e-6])
    metal = area * cells.metal.conductivity_w_mk / (2 * max(cells.run_m, _LEAST_DEPTH_M))
    return Touch(join.id, place, i, j, area, metal, made)


def touch_between(
    join: Join,
    place: str,
    a: tuple[Cells, int],
    b: tuple[Cells, int],
    spot: Spot | None,
    area_mm2: float,
    made: bool,
    *,
    alone: bool = False,
) -> Touch:
    """Let two parts meet: the cells of the smaller one that lie at the join, each with the nearest of the other.

    Along lines and faces that is every such cell, at a point the nearest to the `spot`; and so it is where the spot stands
    `alone`, one of several in which the two meet and not between.
    """
    small, large = (a, b) if _lighter(a[0], b[0]) else (b, a)
    cells, ground = small[0], large[0]
    rims = _rim_to_rim(join, cells, ground)
    if alone and spot is not None:
        rims, chosen = False, np.array([_distance(cells, ground, spot).argmin()])
    else:
        chosen = np.flatnonzero(cells.border) if rims else _meeting_cells(join, cells, ground, spot)
    x, y = cells.x_mm[chosen], cells.y_mm[chosen]
    if rims:
        # Two rims that are drawn apart are laid one on the other.
        x = x - cells.x_mm.mean() + ground.x_mm.mean()
        y = y - cells.y_mm.mean() + ground.y_mm.mean()
    open_to = np.flatnonzero(ground.border) if rims else np.arange(len(ground))
    far = (ground.x_mm[open_to] - x[:, None]) ** 2 + (ground.y_mm[open_to] - y[:, None]) ** 2
    nearest = open_to[far.argmin(axis=1)]
    share = np.full(len(chosen), area_mm2 * 1e-6 / len(chosen))
    way = (
        _depth(join, cells) / cells.metal.conductivity_w_mk
        + _depth(join, ground, host=True) / ground.metal.conductivity_w_mk
    )
    return Touch(join.id, place, small[1] + chosen, large[1] + nearest, share, share / way, made)


def _lighter(one: Cells, other: Cells) -> bool:
    return float(one.volume_m3.sum()) <= float(other.volume_m3.sum())


def _rim_to_rim(join: Join, one: Cells, other: Cells) -> bool:
    """Say whether two sheets meet at their rims, as the halves of a hollow do."""
    return join.kind == "butt" and not one.row and not other.row and len(one) > 8 and len(other) > 8


def _meeting_cells(join: Join, cells: Cells, ground: Cells, spot: Spot | None) -> Indices:
    """Give the cells of the smaller part that touch the larger one."""
    if len(cells) == 1:
        return np.zeros(1, np.int64)
    if join.kind in ("overlay", "edge", "line", "seat") and _lies_on(cells, ground):
        if cells.row:
            return np.flatnonzero(cells.foot)
        if join.kind == "overlay":
            # A heavy plate upon a broader, lighter one meets what of that lies beneath it.
            met = np.flatnonzero(beneath(ground, cells))
            return met if len(met) else np.arange(len(cells))
        return np.flatnonzero(cells.foot & cells.border) if cells.foot.all() else np.flatnonzero(cells.foot)
    if not cells.foot.all() and join.kind in ("tee", "seat", "edge", "butt"):
        return np.flatnonzero(cells.foot)
    near = _distance(cells, ground, spot)
    if join.kind in ("overlay", "edge", "line", "seat"):
        width = max(1.0, 2 * cells.run_m * 1000)
        return np.flatnonzero(near <= near.min() + 0.75 * width)
    return np.array([near.argmin()])


def beneath(upper: Cells, lower: Cells) -> Flags:
    """Say which cells of a part lie beneath a sheet that is laid on it: the nearest to it, as much of them as it covers."""
    far = _distance(lower, upper, None)
    order = np.argsort(far, kind="stable")
    up_to = np.cumsum(lower.above_m2[order]) - lower.above_m2[order] / 2
    covered = np.zeros(len(lower), bool)
    covered[order] = up_to <= upper.below_m2.sum()
    return covered & (far <= _WITHIN_RUNS * 1000 * upper.run_m)


def _lies_on(cells: Cells, ground: Cells) -> bool:
    x, y = cells.x_mm.mean(), cells.y_mm.mean()
    reach_x, reach_y = np.ptp(ground.x_mm) / 2, np.ptp(ground.y_mm) / 2
    middle_x, middle_y = ground.x_mm.min() + reach_x, ground.y_mm.min() + reach_y
    return bool(abs(x - middle_x) <= reach_x + 0.5 and abs(y - middle_y) <= reach_y + 0.5)


def _distance(cells: Cells, ground: Cells, spot: Spot | None) -> Floats:
    if spot is not None:
        return np.hypot(cells.x_mm - spot[0], cells.y_mm - spot[1])
    far = np.hypot(cells.x_mm[:, None] - ground.x_mm, cells.y_mm[:, None] - ground.y_mm)
    near: Floats = far.min(axis=1)
    return near


def _depth(join: Join, cells: Cells, *, host: bool = False) -> float:
    """Give the way from the touching face to the middle of the cell, m: along its run at an end, else through it."""
    at_end = join.kind in ("butt", "bundle") or (join.kind == "tee" and not host)
    return max(_LEAST_DEPTH_M, cells.run_m if at_end else cells.depth_m)

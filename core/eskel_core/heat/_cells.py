"""The cells of a part: their metal, their surface, the side that a flame sees and their place in plan."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..metals import Metal
from ._grid import Floats

Stand = Literal["flat", "upright"]

LYING_SHARE = 0.3
MM2, MM3 = 1e-6, 1e-9


@dataclass(frozen=True)
class Cells:
    """The cells of one part: arrays of one length, SI units but for places, which are mm.

    `above_m2` and `below_m2` are what a flame from above or from below sees where the part is wide for it; where it is
    thin, of `across_mm`, the gas washes `wash_m2` of it all round, as a wire or a `ball`. `z_mm` is how high a cell stands
    over what the part stands on. `rests_m2` is what touches the block when the part lies on it. `depth_m` is the way from a touched face to the middle of the cell, `run_m` from a
    cell's end. `border` marks the cells at the edge of a sheet, `foot` those a part stands on, `row` is a part of cells in a row, `closed` one that meets itself; `along` says that it lies along a sheet. `links` are pairs of cells with the conductance between them, W/K.
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
    closed: bool = False
    along: bool = False

    def __len__(self) -> int:
        return len(self.volume_m3)

    @property
    def capacity_j_k(self) -> Floats:
        """What each cell takes up for each degree, J/K."""
        made: Floats = self.volume_m3 * (self.metal.density_g_cm3 * 1000 * self.metal.specific_heat_j_kgk)
        return made

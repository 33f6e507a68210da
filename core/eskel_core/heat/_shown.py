"""What a flame reaches of a body: the side that is turned to it, all round what is thin, and some of the lee of what is small."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from ..metals import Torch
from ._grid import Floats
from ._network import Network, bodies_of
from ._wash import layer_mm, lee_share, thinness, washed_film_w_m2k

Side = Literal["above", "below"]
# What is no wider than this has no lee.
_IN_LINE_MM = 0.01


def shown_m2(network: Network, torch: Torch, side: Side) -> tuple[Floats, Floats]:
    """Give the surface of each cell that a flame from a side reaches, m²; and that times what its film is better by.

    What is wide shows its one side; what is thin beside the footprint is washed all round. Of wire that lies along sheet, what
    is within the sheet's layer of slow gas has the sheet's film.
    """
    faces = network.above_m2 if side == "above" else network.below_m2
    lee = _lee_m2(network, torch, side)
    reached, times = faces + lee, faces + lee
    open_ = (network.above_m2 if side == "above" else network.below_m2) > 0
    slow = layer_mm(torch)
    kinds = (network.across_mm.tolist(), network.ball.tolist(), network.along.tolist())
    for across, ball, along in set(zip(*kinds, strict=True)):
        thin = thinness(across, torch) if math.isfinite(across) else 0.0
        thin *= max(0.0, 1 - slow / across) if along else 1.0
        if thin <= 0:
            continue
        here = (network.across_mm == across) & (network.ball == ball) & (network.along == along) & open_
        better = washed_film_w_m2k(across, torch, ball=ball) / torch.film_w_m2k
        wide = (1 - thin) * (faces[here] + lee[here])
        reached[here] = wide + thin * network.wash_m2[here]
        times[here] = wide + thin * better * network.wash_m2[here]
    return reached, times


def _lee_m2(network: Network, torch: Torch, side: Side) -> Floats:
    """Give by how much of its far side each cell of work in the open takes as its near side does, m²: none on a block.

    The gas gets round the edge of the work: all of it at the edge, none so far in as the flame is wide.
    """
    behind = network.below_m2 if side == "above" else network.above_m2
    if network.effusivity > 0 or not behind.any():
        return np.zeros(len(network))
    # A cell's own middle lies half of it within.
    inside_mm = _inside_mm(network) + 1000 * np.sqrt(behind) / 2
    share: Floats = np.clip(1 - inside_mm / torch.footprint_mm, 0.0, 1.0)
    return lee_share(torch) * share * behind


def _inside_mm(network: Network) -> Floats:
    """Give how far within the outline of its body each cell lies, as if a thread were drawn round it, mm."""
    from scipy.spatial import ConvexHull  # a tenth of a second, for work in the open alone

    from_edge, bodies = np.zeros(len(network)), bodies_of(network)
    for body in range(int(bodies.max()) + 1):
        here = np.flatnonzero(bodies == body)
        at = np.stack([network.x_mm[here], network.y_mm[here]], -1)
        if np.linalg.matrix_rank(at - at.mean(axis=0), tol=_IN_LINE_MM) < 2:
            continue
        sides = ConvexHull(at).equations
        from_edge[here] = -(at @ sides[:, :2].T + sides[:, 2]).max(axis=1)
    return from_edge

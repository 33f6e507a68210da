"""Clips and weights that hold a join while it is soldered: steel of their own that drinks heat where they press, and keeps it.

A pair of tweezers on a stand reaches far away and stays cold at its end, a sink; a clip or a weight is small and grows warm.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy import sparse

from ..cooling import CONVECTION_W_M2K
from ..piece import Join
from ._cells import Cells
from ._grid import Floats
from ._network import DRY_W_M2K, Indices, Network, Touch
from ._touch import owner_of

# Carbon steel: 490 J/kgK (its mean to 700 °C is higher by a third), and its scale radiates as oxidised iron does.
_STEEL_J_GK, _STEEL_MELTS_C = 0.49, 1_450.0
_CLEAN, _SCALED = 0.6, 0.8
# A clip presses some way off the seam. Where it presses there is a face of some 2 × 1 mm and a foot of steel as thick behind
# it: as much as a jaw of tweezers draws, W/K.
_OFF_MM, _JAW_W_K = 3.0, 0.006
# A jaw of tweezers, 2 × 1 mm; of a round wire a third of its thickness lies against it.
_JAW_MM, _AGAINST_A_ROUND = (2.0, 1.0), 1 / 3


@dataclass(frozen=True)
class Holder:
    """A clip or weight: its mass, g, its surface, mm², and whether it presses on both parts or the upper one only."""

    mass_g: float
    surface_mm2: float
    both_sides: bool


# Sizes as they lie at a bench (ours): a sprung clip of steel wire or strip, and a small weight on a foot.
HOLDERS = {
    "clipped": Holder(2.0, 400.0, both_sides=True),
    "weighted": Holder(10.0, 600.0, both_sides=False),
}


def hold(network: Network, joins: Sequence[Join]) -> Network:
    """Put a clip or weight at every place that is made and held by one: a cell more for each, that no flame is aimed at."""
    by_name = {join.id: join for join in joins}
    put = [
        (HOLDERS[by_name[touch.join].holds], touch)
        for touch in network.touches
        if by_name[touch.join].holds in HOLDERS
    ]
    if not put:
        return network
    many = len(network)
    i, j, passed = [], [], []
    for n, (holder, touch) in enumerate(put):
        for side in (touch.i, touch.j) if holder.both_sides else (touch.i,):
            i.append(_pressed(network, touch, side))
            j.append(many + n)
            passed.append(_JAW_W_K)
    whole = network.conduction.tocoo()
    rows, columns, w_k = np.array(i), np.array(j), np.array(passed)
    conduction = sparse.csr_matrix(
        (
            np.concatenate([whole.data, -w_k, -w_k, w_k, w_k]),
            (
                np.concatenate([whole.row, rows, columns, rows, columns]),
                np.concatenate([whole.col, columns, rows, rows, columns]),
            ),
        ),
        shape=(many + len(put), many + len(put)),
    )
    pressed = np.array([i[j.index(many + n)] for n in range(len(put))])

    def with_(values: Floats, own: Sequence[float] | Floats | float) -> Floats:
        made: Floats = np.concatenate([values, np.broadcast_to(np.asarray(own, values.dtype), (len(put),))])
        return made

    masses = np.array([holder.mass_g for holder, _ in put])
    return replace(
        network,
        node_of=np.concatenate([network.node_of, np.full(len(put), -1)]),
        capacity_j_k=with_(network.capacity_j_k, masses * _STEEL_J_GK),
        latent_j=with_(network.latent_j, 0.0),
        solidus_c=with_(network.solidus_c, _STEEL_MELTS_C),
        liquidus_c=with_(network.liquidus_c, _STEEL_MELTS_C + 4.0),
        surface_m2=with_(network.surface_m2, [holder.surface_mm2 * 1e-6 for holder, _ in put]),
        convection_w_m2k=with_(network.convection_w_m2k, CONVECTION_W_M2K),
        clean=with_(network.clean, _CLEAN),
        heated=with_(network.heated, _SCALED),
        above_m2=with_(network.above_m2, 0.0),
        below_m2=with_(network.below_m2, 0.0),
        wash_m2=with_(network.wash_m2, 0.0),
        across_mm=with_(network.across_mm, np.inf),
        ball=np.concatenate([network.ball, np.zeros(len(put), bool)]),
        along=np.concatenate([network.along, np.zeros(len(put), bool)]),
        x_mm=with_(network.x_mm, network.x_mm[pressed]),
        y_mm=with_(network.y_mm, network.y_mm[pressed]),
        z_mm=with_(network.z_mm, network.z_mm[pressed]),
        drawn_x_mm=with_(network.drawn_x_mm, network.drawn_x_mm[pressed]),
        drawn_y_mm=with_(network.drawn_y_mm, network.drawn_y_mm[pressed]),
        conduction=conduction,
    )


def _pressed(network: Network, touch: Touch, side: Indices) -> int:
    """Give the cell of a part that a clip presses on: some way off the seam, where the part reaches so far."""
    mine = np.flatnonzero(network.node_of == network.node_of[side[0]])
    seam = touch.seam
    off = np.hypot(
        network.x_mm[mine, None] - network.x_mm[seam], network.y_mm[mine, None] - network.y_mm[seam]
    ).min(axis=1)
    from_middle = np.hypot(
        network.x_mm[mine] - network.x_mm[mine].mean(), network.y_mm[mine] - network.y_mm[mine].mean()
    )
    # Of a part that is on the seam all over, its middle.
    return int(mine[np.lexsort((from_middle, np.round(np.abs(off - _OFF_MM), 3)))[0]])


def in_hand(
    parts: dict[str, Cells], touches: list[Touch], starts: dict[str, int], joins: dict[str, Join]
) -> Iterator[tuple[int, float]]:
    """Let tweezers draw heat from the wire or strip that they hold to a join that is being made, as far along it from that as it
    reaches: at its other end, and of a ring opposite its own seam.

    What a jaw draws goes through where it lies against the wire, dry metal on metal: 2 mm long, a third of a round wire wide.
    """
    for touch in touches:
        if touch.made or joins[touch.join].holds != "hand":
            continue
        node = owner_of(int(touch.i[0]), starts)
        held = parts[node]
        if held.row:
            seam = np.concatenate([touch.i, touch.j]) - starts[node]
            seam = seam[(seam >= 0) & (seam < len(held))]
            along = np.abs(seam - np.arange(len(held))[:, None])
            if held.closed:
                along = np.minimum(along, len(held) - along)
            far = int(along.min(axis=1).argmax())
            against_m2 = _JAW_MM[0] * min(_JAW_MM[1], _AGAINST_A_ROUND * held.across_mm) * 1e-6
            yield starts[node] + far, 2 / (1 / _JAW_W_K + 1 / (DRY_W_M2K * against_m2))

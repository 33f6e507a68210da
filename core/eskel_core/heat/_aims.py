"""Where a flame can be pointed, and what every cell takes from it there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..metals import Torch
from ._grid import Floats
from ._network import Indices, Network, Touch

Side = Literal["above", "below"]
AimKind = Literal["circle", "brush", "part", "join", "each", "beside", "near", "far", "beyond"]
_BRUSHED, _PAST = 0.25, 0.7
# Beside a seam, in footprints of the flame from it.
_BESIDE_FROM, _BESIDE_TO = 0.3, 0.9
_MOST_SPOTS = 400


@dataclass(frozen=True)
class Aim:
    """A way to hold the flame: round about over everything or a part, brushed over everything so that it is on the
    work a quarter of the time, on a join, on each place of a join in turn until it is done, or there on the heavier part
    beside it; on a part beside the join, at its far end, or just past that, so that only the edge of the flame is on it.

    `spots` are the points, mm in plan, that the flame visits evenly; `share` is what each cell gets of the film
    coefficient in the middle of the flame, times what it shows of itself, m². With `places`, the flame is on the
    first of them that is not done.
    """

    kind: AimKind
    about: str | None
    side: Side
    spots: Floats
    share_m2: Floats
    places: tuple[tuple[str, Floats], ...] = ()

    @property
    def key(self) -> str:
        """A name for it that stays the same."""
        return f"{self.kind}:{self.about or ''}:{self.side}"


@dataclass(frozen=True)
class Stage:
    """One thing to do with the flame: where, at which setting (0.3 to 1), and for how long, s (None: until it flows)."""

    aim: Aim
    setting: float
    seconds: float | None


def aims_of(network: Network, torch: Torch, sides: tuple[Side, ...] = ("above",)) -> tuple[Aim, ...]:
    """Give every way to hold a flame on a body, from each side that it can come from."""
    return tuple(aim for side in sides for aim in _aims(network, torch, side))


def _aims(network: Network, torch: Torch, side: Side) -> list[Aim]:
    everything = np.arange(len(network))
    aims = [_aim(network, torch, side, "circle", None, everything)]
    brushed = _aim(network, torch, side, "brush", None, everything)
    aims.append(replace(brushed, share_m2=brushed.share_m2 * _BRUSHED))
    seams = [cell for touch in network.touches for cell in touch.seam]
    for node in network.nodes:
        cells = network.cells(node)
        if len(network.nodes) > 1:
            aims.append(_aim(network, torch, side, "part", node, cells))
        if len(cells) > 3 and seams:
            aims += _from_the_join(network, torch, side, node, cells, np.array(seams))
    names = list(dict.fromkeys(touch.join for touch in network.touches))
    for name in names:
        alike = [touch for touch in network.touches if touch.join == name]
        aims.append(_aim(network, torch, side, "join", name, np.concatenate([touch.seam for touch in alike])))
        if len(alike) > 1:
            aims += _in_turn(network, torch, side, name, alike)
    if len(names) > 1:
        aims += _in_turn(network, torch, side, None, list(network.touches))
    return aims


def _from_the_join(
    network: Network, torch: Torch, side: Side, node: str, cells: Indices, seams: Indices
) -> list[Aim]:
    """Hold the flame on a part beside the joins, at its far end, and just past that end."""
    away = _distance(network, cells, seams).min(axis=1)
    reach = torch.footprint_mm
    aims = []
    beside = cells[(away >= 0.6 * reach) & (away <= 1.6 * reach)]
    if len(beside):
        aims.append(_aim(network, torch, side, "near", node, beside))
    far = _distance(network, cells, seams).max(axis=1)
    ends = cells[far >= 0.75 * far.max()]
    aims.append(_aim(network, torch, side, "far", node, ends))
    out = np.stack(
        [network.x_mm[ends] - network.x_mm[seams].mean(), network.y_mm[ends] - network.y_mm[seams].mean()], -1
    )
    long = np.maximum(np.hypot(out[:, 0], out[:, 1]), 1e-9)[:, None]
    aims.append(_aim(network, torch, side, "beyond", node, ends, _PAST * reach * out / long))
    return aims


def _in_turn(
    network: Network, torch: Torch, side: Side, about: str | None, touches: list[Touch]
) -> list[Aim]:
    """Be at each place in turn until it is done: on the seam, or on the heavier part beside it."""
    aims = []
    ways: tuple[tuple[AimKind, Callable[[Network, Torch, Touch], Indices]], ...] = (
        ("each", _seam),
        ("beside", _heavier_beside),
    )
    for kind, where in ways:
        at = [where(network, torch, touch) for touch in touches]
        places = tuple(
            (touch.place, _aim(network, torch, side, "join", None, cells).share_m2)
            for touch, cells in zip(touches, at, strict=True)
        )
        aims.append(replace(_aim(network, torch, side, kind, about, np.concatenate(at)), places=places))
    return aims


def _seam(_network: Network, _torch: Torch, touch: Touch) -> Indices:
    return touch.seam


def _heavier_beside(network: Network, torch: Torch, touch: Touch) -> Indices:
    """Give the cells of the heavier part at a place, as far from its seam as the flame is on it still; else the seam."""
    heavy = max({network.nodes[network.node_of[cell]] for cell in touch.seam}, key=network.capacity_of)
    cells = network.cells(heavy)
    away = _distance(network, cells, touch.seam).min(axis=1) / torch.footprint_mm
    beside = cells[(away >= _BESIDE_FROM) & (away <= _BESIDE_TO)]
    return beside if len(beside) else touch.seam


def _distance(network: Network, cells: Indices, others: Indices) -> Floats:
    away: Floats = np.hypot(
        network.x_mm[cells][:, None] - network.x_mm[others],
        network.y_mm[cells][:, None] - network.y_mm[others],
    )
    return away


def _aim(
    network: Network,
    torch: Torch,
    side: Side,
    kind: AimKind,
    about: str | None,
    cells: Indices,
    off_mm: Floats | None = None,
) -> Aim:
    """Let the flame visit some cells evenly by what they show of themselves, or so far off each of them."""
    step = max(1, -(-len(cells) // _MOST_SPOTS))
    some = cells[::step]
    spots = np.stack([network.x_mm[some], network.y_mm[some]], -1)
    if off_mm is not None:
        spots = spots + off_mm[::step]
    weight = network.surface_m2[some] + 1e-12
    away2 = (network.x_mm[:, None] - spots[:, 0]) ** 2 + (network.y_mm[:, None] - spots[:, 1]) ** 2
    share = np.exp(-away2 / torch.footprint_mm**2) @ (weight / weight.sum())
    seen = network.above_m2 if side == "above" else network.below_m2
    if side == "below":
        lowest = np.zeros(len(network), bool)
        resting = (
            np.unique(network.node_of[network.ground]) if len(network.ground) else np.unique(network.node_of)
        )
        lowest[np.isin(network.node_of, resting)] = True
        seen = np.where(lowest, seen, 0.0)
    return Aim(kind, about, side, spots, share * seen)

"""Where a flame can be pointed, and what every cell takes from it there, hand by hand."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from typing import Any, Literal

import numpy as np

from ..metals import Torch
from ._grid import Floats
from ._hands import OFF_X, OFF_Y, all_hands
from ._network import Indices, Network, Touch
from ._shown import Side, shown_m2
from ._state import compiled

AimKind = Literal["dry", "circle", "brush", "part", "join", "each", "beside", "near", "far", "beyond", "walk"]
_BRUSHED, _PAST = 0.25, 0.7
# Beside a seam, in footprints of the flame from it.
_BESIDE_FROM, _BESIDE_TO = 0.3, 0.9
_MOST_SPOTS = 48
# A flame held well off, at three times its distance: a jet's excess of heat and its speed fall as one over the distance,
# its film as the root of the speed, and it is as much wider (Pope, "Turbulent Flows", 2000, §5.1).
_OFF = 3.0
# How much of the time a drying flame is on the work: all of it, in and out, or only passed over it.
_DRYING = (1.0, 0.63, 0.4, 0.25, 0.16, 0.1, 0.06, 0.04, 0.025, 0.016)
# What shows less than this share of its surface has no flame pointed at it.
_LEAST_SHOWN = 0.08
_WALK_STEP, _MOST_PLACES = 0.9, 80


@dataclass(frozen=True)
class Spots:
    """Points that a flame visits evenly by their weights: (k, 3), mm in plan and above what the work stands on."""

    at_mm: Floats
    weight: Floats


@dataclass(frozen=True)
class Aim:
    """A way to hold the flame: drying, well off; round about over everything or a part, brushed over everything so that it is
    on the work a quarter of the time, on a join, on each place of a join in turn until it is done, or there on the heavier
    part beside it; on a part beside the join, at its far end, or just past that, so that only the edge of the flame is on
    it; or walking along a part, on as soon as a place is done.

    With `places`, the flame is on the first of them that is not done: each is named by its goal, or by its number along a
    walk. `duty` is the share of the time that the flame is on the work, `off` how many times its distance it is held away.
    """

    kind: AimKind
    about: str | None
    side: Side
    spots: Spots
    places: tuple[tuple[str, Spots, Indices], ...] = ()
    duty: float = 1.0
    off: float = 1.0

    @property
    def key(self) -> str:
        """A name for it that stays the same."""
        name = f"{self.kind}:{self.about or ''}:{self.side}"
        if self.kind != "dry":
            return name
        return f"{name}:{'each' if self.places else 'all'}:{self.duty:g}"


@compiled
def _spread(
    x: Any, y: Any, z: Any, spots: Any, weight: Any, dx: Any, dy: Any, footprint: float, out: Any
) -> None:
    """Give how much of the film in the middle of the flame is at each cell, hand by hand, (h, n)."""
    for h in range(len(dx)):
        for i in range(len(x)):
            total = 0.0
            for k in range(len(weight)):
                away = (x[i] - spots[k, 0] - dx[h]) ** 2 + (y[i] - spots[k, 1] - dy[h]) ** 2
                away += (z[i] - spots[k, 2]) ** 2
                total += weight[k] * math.exp(-away / (footprint * footprint))
            out[h, i] = total


@dataclass
class Pointed:
    """A body under a torch: what each cell takes from every aim and keeps from the room's air, for some hands."""

    network: Network
    torch: Torch
    hands: Floats = field(default_factory=all_hands)
    _shown: dict[Side, tuple[Floats, Floats]] = field(default_factory=dict)
    _made: dict[tuple[str, int], tuple[Floats, Floats, float]] = field(default_factory=dict)

    def at(self, aim: Aim, place: int = -1) -> tuple[Floats, Floats, float]:
        """Give film, W/K at full flame, and what still goes to the room's air, W/K, both (h, n); and the gas, °C."""
        name = (aim.key, place)
        if name not in self._made:
            spots = aim.spots if place < 0 else aim.places[place][1]
            self._made[name] = self._reckoned(aim, spots)
        return self._made[name]

    def shown(self, side: Side) -> tuple[Floats, Floats]:
        """Give what each cell shows to a flame from a side, m², as it is and times what its film is better by."""
        if side not in self._shown:
            self._shown[side] = shown_m2(self.network, self.torch, side)
        return self._shown[side]

    def _reckoned(self, aim: Aim, spots: Spots) -> tuple[Floats, Floats, float]:
        network, torch = self.network, self.torch
        reached, times = self.shown(aim.side)
        share = np.empty((len(self.hands), len(network)))
        _spread(
            network.x_mm,
            network.y_mm,
            network.z_mm,
            spots.at_mm,
            spots.weight,
            self.hands[:, OFF_X] * torch.footprint_mm,
            self.hands[:, OFF_Y] * torch.footprint_mm,
            torch.footprint_mm * aim.off,
            share,
        )
        share *= aim.duty * self._breadth(torch.footprint_mm * aim.off)
        film = share * times * (torch.film_w_m2k / math.sqrt(aim.off))
        air = network.surface_m2 * network.convection_w_m2k
        kept = share * reached / np.maximum(network.surface_m2, 1e-12)
        gas_c = 20 + (torch.gas_temp_c - 20) / aim.off
        return film, air * (1 - np.minimum(1.0, kept)), gas_c

    def _breadth(self, reach_mm: float) -> Floats:
        """Give how much of its middle film a flame has in the mean over what is one cell and broad, a ball or a pool."""
        network = self.network
        made = np.ones(len(network))
        broad = network.ball & np.isfinite(network.across_mm)
        ratio = (network.across_mm[broad] / 2 / reach_mm) ** 2
        made[broad] = -np.expm1(-ratio) / ratio
        return made

    def middle_mm(self, aim: Aim, place: int = -1) -> tuple[float, float]:
        """Give the middle of what a flame takes in, in the drawing, mm."""
        film = self.at(aim, place)[0].mean(axis=0)
        weight = film / max(float(film.sum()), 1e-30)
        network = self.network
        return float(network.drawn_x_mm @ weight), float(network.drawn_y_mm @ weight)


def aims_of(network: Network, torch: Torch, sides: tuple[Side, ...] = ("above",)) -> tuple[Aim, ...]:
    """Give every way to hold a flame on a body, from each side that it can come from; nothing at what does not show."""
    return tuple(aim for side in sides for aim in _aims(network, torch, side))


def drying_of(network: Network, torch: Torch, sides: tuple[Side, ...] = ("above",)) -> tuple[Aim, ...]:
    """Give the ways to dry flux, gentlest last: well off the whole work, all the time or in and out."""
    side, everything = sides[0], np.arange(len(network))
    ways = [_aim(network, side, "dry", None, everything)]
    seams = [cell for touch in network.touches for cell in touch.seam]
    heavy = max(network.nodes, key=lambda node: (network.capacity_of(node), node))
    cells = network.cells(heavy)
    if len(network.nodes) > 1 and len(cells) > 3 and seams and heavy in _shows(network, torch, side):
        past = next(
            aim
            for aim in _from_the_join(network, torch, side, heavy, cells, np.array(seams))
            if aim.kind == "beyond"
        )
        ways.append(replace(past, kind="dry"))
    if len(network.touches) > 1:
        # Place by place, where they lie too far apart for one flame.
        places = tuple((touch.place, _spots(network, touch.seam), touch.seam) for touch in network.touches)
        ways.append(Aim("dry", None, side, _spots(network, np.unique(np.array(seams))), places))
    return tuple(replace(way, duty=duty, off=_OFF) for way in ways for duty in _DRYING)


def _aims(network: Network, torch: Torch, side: Side) -> list[Aim]:
    everything = np.arange(len(network))
    aims = [_aim(network, side, "circle", None, everything)]
    aims.append(replace(_aim(network, side, "brush", None, everything), duty=_BRUSHED))
    seams = [cell for touch in network.touches for cell in touch.seam]
    open_ = _shows(network, torch, side)
    for node in network.nodes:
        cells = network.cells(node)
        if node not in open_:
            continue
        if len(network.nodes) > 1:
            aims.append(_aim(network, side, "part", node, cells))
        if len(cells) == 1 and seams and bool(network.ball[cells[0]]):
            # Low on a ball's flank, away from what sits on it.
            flank = np.array([[_PAST * torch.footprint_mm, 0.0, -float(network.across_mm[cells[0]]) / 2]])
            aims.append(_aim(network, side, "beyond", node, cells, flank))
        if len(cells) > 3 and seams:
            aims += _from_the_join(network, torch, side, node, cells, np.array(seams))
        if not network.touches:
            aims += _walk(network, torch, side, node, cells)
    names = list(dict.fromkeys(touch.join for touch in network.touches))
    for name in names:
        alike = [touch for touch in network.touches if touch.join == name]
        aims.append(_aim(network, side, "join", name, np.concatenate([touch.seam for touch in alike])))
        if len(alike) > 1:
            aims += _in_turn(network, torch, side, name, alike)
    if len(names) > 1:
        aims += _in_turn(network, torch, side, None, list(network.touches))
    return aims


def _shows(network: Network, torch: Torch, side: Side) -> set[str]:
    """Give the parts that show enough of themselves to a flame from a side."""
    reached, _ = shown_m2(network, torch, side)
    return {
        node
        for node in network.nodes
        for cells in [network.cells(node)]
        if reached[cells].sum() > _LEAST_SHOWN * network.surface_m2[cells].sum()
    }


def _from_the_join(
    network: Network, torch: Torch, side: Side, node: str, cells: Indices, seams: Indices
) -> list[Aim]:
    """Hold the flame on a part beside the joins, at its far end, and just past that end."""
    away = _distance(network, cells, seams).min(axis=1)
    reach = torch.footprint_mm
    aims = []
    beside = cells[(away >= 0.6 * reach) & (away <= 1.6 * reach)]
    if len(beside):
        aims.append(_aim(network, side, "near", node, beside))
    far = _distance(network, cells, seams).max(axis=1)
    ends = cells[far >= 0.75 * far.max()]
    aims.append(_aim(network, side, "far", node, ends))
    out = np.stack(
        [network.x_mm[ends] - network.x_mm[seams].mean(), network.y_mm[ends] - network.y_mm[seams].mean()], -1
    )
    long = np.maximum(np.hypot(out[:, 0], out[:, 1]), 1e-9)[:, None]
    aims.append(_aim(network, side, "beyond", node, ends, _PAST * reach * out / long))
    return aims


def _walk(network: Network, torch: Torch, side: Side, node: str, cells: Indices) -> list[Aim]:
    """Walk along a part from end to end, the flame weaving across it; nothing where the flame covers it all."""
    x, y = network.x_mm[cells], network.y_mm[cells]
    middle = np.stack([x - x.mean(), y - y.mean()], -1)
    axes = middle @ np.linalg.svd(middle, full_matrices=False)[2].T
    step = _WALK_STEP * torch.footprint_mm
    count = [max(1, round(float(np.ptp(axis)) / step)) for axis in axes.T]
    if max(count) < 2 or count[0] * count[1] > _MOST_PLACES:
        return []
    number = [
        np.minimum(many - 1, ((axis - axis.min()) / max(float(np.ptp(axis)), 1e-9) * many).astype(int))
        for many, axis in zip(count, axes.T, strict=True)
    ]
    places: list[tuple[str, Spots, Indices]] = []
    for along in range(count[0]):
        # To and fro across it, so that the flame never leaves what is warm.
        for across in range(count[1])[:: 1 if along % 2 == 0 else -1]:
            here = cells[(number[0] == along) & (number[1] == across)]
            if len(here):
                places.append((str(len(places)), _spots(network, here), here))
    return [Aim("walk", node, side, _spots(network, cells), tuple(places))] if len(places) > 1 else []


def _in_turn(
    network: Network, torch: Torch, side: Side, about: str | None, touches: list[Touch]
) -> list[Aim]:
    """Be at each place in turn until it is done: on the seam, or on the heavier part beside it."""
    aims = []
    for kind in ("each", "beside"):
        places = []
        for touch in touches:
            cells = touch.seam if kind == "each" else _heavier_beside(network, torch, touch)
            places.append((touch.place, _spots(network, cells), touch.seam))
        every = np.unique(np.concatenate([touch.seam for touch in touches]))
        aims.append(Aim(kind, about, side, _spots(network, every), tuple(places)))
    return aims


def _heavier_beside(network: Network, torch: Torch, touch: Touch) -> Indices:
    """Give the cells of the heavier part a little way from a seam; the seam where there are none."""
    sides = {network.nodes[network.node_of[cell]] for cell in touch.seam}
    heavy = max(sides, key=lambda node: (network.capacity_of(node), node))
    cells = network.cells(heavy)
    away = _distance(network, cells, touch.seam).min(axis=1)
    reach = torch.footprint_mm
    beside = cells[(away >= _BESIDE_FROM * reach) & (away <= _BESIDE_TO * reach)]
    return beside if len(beside) else touch.seam


def _distance(network: Network, cells: Indices, others: Indices) -> Floats:
    away: Floats = np.hypot(
        network.x_mm[cells][:, None] - network.x_mm[others],
        network.y_mm[cells][:, None] - network.y_mm[others],
    )
    return away


def _aim(
    network: Network,
    side: Side,
    kind: AimKind,
    about: str | None,
    cells: Indices,
    off_mm: Floats | None = None,
) -> Aim:
    return Aim(kind, about, side, _spots(network, cells, off_mm))


def _spots(network: Network, cells: Indices, off_mm: Floats | None = None) -> Spots:
    """Let the flame visit some cells evenly by what they show of themselves, or so far off each of them."""
    step = max(1, -(-len(cells) // _MOST_SPOTS))
    some = cells[::step]
    at = np.stack([network.x_mm[some], network.y_mm[some], network.z_mm[some]], -1)
    if off_mm is not None:
        at[:, : off_mm.shape[1]] += off_mm[::step]
    weight = network.surface_m2[some] + 1e-12
    return Spots(np.ascontiguousarray(at), weight / weight.sum())

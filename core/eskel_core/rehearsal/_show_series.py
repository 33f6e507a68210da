"""Write the lines of a rehearsal out: temperatures over time with what the hands saw, peaks, cells."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from ..heat import (
    Followed,
    HeatSetup,
    Network,
    Trace,
    band,
)
from ..piece import Piece, base_id, metal_of
from ..rules import MOST_SHIELD_C
from ._facts import HeatFacts
from ._hands import KEPT_BY
from ._scene import Scene
from ._types import (
    CellsShown,
    Line,
    Peak,
    SeenBand,
    Series,
)
from ._words import (
    title_of,
)

Floats = NDArray[np.float64]
_MOST_MOMENTS = 240
STAIN_C = 700.0


def moments_of(trace: Trace) -> list[int]:
    count = len(trace.times_s)
    step = max(1, -(-count // _MOST_MOMENTS))
    chosen = list(range(0, count, step))
    return chosen if chosen[-1] == count - 1 else [*chosen, count - 1]


def series_of(piece: Piece, setup: HeatSetup, trace: Trace, moments: list[int]) -> Series:
    network = setup.network
    t = trace.t_c[moments]
    limits = {limit.id: limit.below_c for limit in setup.limits}
    goals = {goal.id: goal for goal in setup.goals}
    parts = []
    for node in network.nodes:
        here = t[:, network.cells(node)]
        weight = network.capacity_j_k[network.cells(node)]
        metal = metal_of(piece, node)
        parts.append(
            Line(
                id=node,
                title=title_of(piece, node),
                c=_round(here @ (weight / weight.sum())),
                hottest_c=_round(here.max(axis=1)),
                limit_c=limits.get(node, None if metal is None else metal.solidus_c),
                flow_c=goals[node].reach_c if node in goals else None,
            )
        )
    joins = []
    for name in dict.fromkeys(touch.join for touch in (*network.touches, *network.earlier)):
        cells = _seam(network, name)
        here = t[:, cells]
        joins.append(
            Line(
                id=name,
                title=title_of(piece, name),
                c=_round(here.min(axis=1)),
                hottest_c=_round(here.max(axis=1)),
                limit_c=limits.get(name),
                flow_c=next(
                    (
                        goals[one.place].reach_c
                        for one in network.touches
                        if one.join == name and one.place in goals
                    ),
                    None,
                ),
                places=sum(one.join == name for one in (*network.touches, *network.earlier)),
            )
        )
    return Series(
        time_s=tuple(round(float(one), 2) for one in trace.times_s[moments]),
        parts=tuple(parts),
        joins=tuple(joins),
    )


def with_bands(scene: Scene, found: Followed, trace: Trace, series: Series, moments: list[int]) -> Series:
    """Draw beside each line what the hands between one and nine tenths saw."""
    network, times = scene.setup.network, trace.times_s[moments]
    asked: list[tuple[Floats, bool]] = []
    for line in series.parts:
        cells = network.cells(line.id)
        weights = np.zeros(len(network))
        weights[cells] = network.capacity_j_k[cells] / network.capacity_j_k[cells].sum()
        asked.append((weights, False))
    for line in series.joins:
        asked.append((_seam(network, line.id).astype(float), True))
    whole = (*scene.fine.dry, *found.stages)
    bands = [
        SeenBand(low=_round(low), high=_round(high))
        for low, high in band(scene.fine.ready, whole, times, asked)
    ]
    lines = [
        line.model_copy(update={"band": one})
        for line, one in zip((*series.parts, *series.joins), bands, strict=True)
    ]
    count = len(series.parts)
    return Series(time_s=series.time_s, parts=tuple(lines[:count]), joins=tuple(lines[count:]))


def _seam(network: Network, join: str) -> NDArray[np.int64]:
    return np.unique(
        np.concatenate([one.seam for one in (*network.touches, *network.earlier) if one.join == join])
    )


def _round(values: Floats) -> tuple[float, ...]:
    return tuple(round(float(value), 1) for value in values)


def seconds_above_staining(piece: Piece, setup: HeatSetup, trace: Trace) -> float:
    """Give how long any silver that holds copper is above 700 °C, s; where flux coats it whole it is not in air."""
    if setup.flux is not None and setup.flux.id == "boric-alcohol":
        return 0.0
    network = setup.network
    nodes = [node for node in network.nodes if _stains(piece, node)]
    if not nodes:
        return 0.0
    cells = np.concatenate([network.cells(node) for node in nodes])
    over = trace.t_c[:, cells].max(axis=1) > STAIN_C
    return float((np.diff(trace.times_s) * over[1:]).sum())


def _stains(piece: Piece, node: str) -> bool:
    metal = metal_of(piece, base_id(node))
    return metal is not None and metal.family == "silver" and "Cu" in metal.composition


def peaks_of(setup: HeatSetup, trace: Trace, facts: HeatFacts, found: Followed) -> tuple[Peak, ...]:
    """Give how hot each earlier join became, and by how much cooler than the heat seven hands of eight keep it."""
    network = setup.network
    limits = {limit.id: n for n, limit in enumerate(setup.limits)}
    others = found.who > 0
    made = []
    for name in dict.fromkeys(touch.join for touch in network.earlier):
        cells = np.concatenate([one.seam for one in network.earlier if one.join == name])
        hottest = float(trace.t_c[:, cells].max())
        if name in limits and others.any():
            hottest = max(hottest, float(np.quantile(found.came.hottest[others, limits[name]], KEPT_BY)))
        cooler = min(MOST_SHIELD_C, max(0.0, math.floor(facts.working_c - hottest)))
        made.append(Peak(join=name, hottest_c=round(hottest, 1), shield_c=cooler))
    return tuple(made)


def cells_of(setup: HeatSetup, trace: Trace, moments: list[int]) -> CellsShown:
    network = setup.network
    of_parts = np.flatnonzero(network.node_of >= 0)
    t = np.rint(trace.t_c[moments][:, of_parts]).astype(int)
    return CellsShown(
        node=tuple(network.nodes[n] for n in network.node_of[of_parts]),
        x_mm=tuple(round(float(one), 2) for one in network.drawn_x_mm[of_parts]),
        y_mm=tuple(round(float(one), 2) for one in network.drawn_y_mm[of_parts]),
        c=tuple(tuple(int(value) for value in row) for row in t),
    )

"""What a smith sees at the flame: the signs that can end a stage of a heat."""

from __future__ import annotations

import numpy as np

from ..metals import glow_bands
from ._glow import Light
from ._setup import HeatSetup, Sign

RUNS = Sign("runs")
_GLOWING_PARTS = 3
# A glow below this is not waited for while solder is to run: it says nothing of it.
_HOTTEST_WAITED_C = 840.0


def crust_of(setup: HeatSetup) -> Sign | None:
    """Give the sign that the flux is dry, at every seam: a white crust; of a dark-turning flux too. None without flux."""
    if setup.flux is None or not setup.network.touches:
        return None
    return Sign("crust", None, _seams(setup), setup.flux.crust_c)


def signs_of(setup: HeatSetup, light: Light = "dim") -> tuple[Sign, ...]:
    """Give the signs between dry flux and running solder: flux like glass at every seam, and the colours of the heaviest parts."""
    network, found = setup.network, []
    if setup.flux is not None and network.touches:
        found.append(Sign("clear", None, _seams(setup), setup.flux.clear_c))
    heaviest = sorted(network.nodes, key=lambda node: (-network.capacity_of(node), node))[:_GLOWING_PARTS]
    most = max((goal.reach_c for goal in setup.goals), default=0.0)
    for node in heaviest:
        cells = tuple(int(cell) for cell in network.cells(node))
        solidus = float(network.solidus_c[list(cells)].min())
        for from_c, word in glows(light):
            if from_c < min(most, solidus, _HOTTEST_WAITED_C) - 20:
                found.append(Sign("glow", node, cells, from_c, coolest=False, word=word))
    return tuple(found)


def glows(light: Light) -> list[tuple[float, str]]:
    """Give the colours that are seen in a light, coolest first, each with the temperature at which it begins, °C."""
    seen: list[tuple[float, str]] = []
    for band in glow_bands():
        word = str(getattr(band, light))
        if word != "no glow" and (not seen or seen[-1][1] != word):
            seen.append((float(band.low_c), word))
    return seen


def _seams(setup: HeatSetup) -> tuple[int, ...]:
    """Give the cells at which flux is looked at: both sides of every seam, but for a part that is brought in later."""
    network = setup.network
    every = np.unique(np.concatenate([touch.seam for touch in network.touches]))
    if setup.brought is not None:
        every = np.setdiff1d(every, network.cells(setup.brought.node))
    return tuple(int(cell) for cell in every)

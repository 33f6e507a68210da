"""March a body through time under one flame.

Each step is a Rosenbrock method of second order in two stages that keeps its order whatever matrix it is given
(ROS2: Verwer, Spee, Blom, Hundsdorfer, "A second-order Rosenbrock method applied to photochemical dispersion
problems", SIAM J. Sci. Comput. 20, 1999). The matrix holds the conduction and the slopes of flame and losses; steps are
of its own choice: short where the flame has just moved, longer as the warming settles, each held against the method of
first order that it contains. The loops are compiled, in `_kernel`.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy import sparse

from ..cooling import KELVIN, ROOM_C, SIGMA
from . import _kernel as kernel
from . import _state as standing
from ._factors import factors_of
from ._grid import Floats
from ._ground import PACES, WEIGHTS, conductance_w_m2k
from ._network import Network
from ._state import State, Work

__all__ = ["KELVIN", "ROOM_C", "SIGMA", "Energy", "Flame", "March", "cooled", "made_ready"]


@dataclass(frozen=True)
class Flame:
    """A flame by what it gives: its gas, °C, and the most that the work can take from it, W."""

    gas_c: float
    most_w: float = math.inf


@dataclass(frozen=True)
class Energy:
    """What went in, was lost to the air and sinks, and to the block, J."""

    given: float
    lost: float
    sunk: float


def made_ready(network: Network, conduction: Any = None) -> tuple[Work, Floats]:
    """Make a body ready for the march: flat arrays, and what each link passes, W/K.

    Links are those of the metal, each once, then the pairs of every touch, which pass nothing yet.
    """
    count = len(network)
    metal = sparse.coo_matrix(sparse.triu(network.conduction if conduction is None else conduction, k=1))
    touches = network.touches
    i = np.concatenate([metal.row, *(touch.i for touch in touches)]).astype(np.int64)
    j = np.concatenate([metal.col, *(touch.j for touch in touches)]).astype(np.int64)
    passes = np.concatenate([-metal.data, np.zeros(len(i) - len(metal.data))])
    grip = network.sinks
    work = Work(
        capacity=_flat(network.capacity_j_k),
        latent=_flat(network.latent_j),
        solidus=_flat(network.solidus_c),
        liquidus=_flat(network.liquidus_c),
        radiating=_flat(network.surface_m2 * SIGMA),
        clean=_flat(network.clean),
        change=_flat((network.heated - network.clean) / kernel.RAMP_OVER_C),
        link_i=i,
        link_j=j,
        factors=factors_of(count, i, j),
        ground=network.ground.astype(np.int64),
        ground_m2=_flat(network.ground_m2),
        pass_w_k=_flat(conductance_w_m2k(network.effusivity, network.contact_w_m2k) * network.ground_m2),
        effusivity=float(network.effusivity),
        paces=_flat(PACES),
        weights=_flat(WEIGHTS),
        sinks=np.array([cell for cell, _ in grip], np.int64),
        sink_w_k=np.array([w_k for _, w_k in grip], float),
    )
    return work, _flat(passes)


def _flat(values: Any) -> Floats:
    return np.ascontiguousarray(values, dtype=np.float64)


class March:
    """The state of a body on its way: temperatures of cells and block, °C."""

    def __init__(
        self,
        network: Network,
        flame: Flame,
        *,
        room_c: float = ROOM_C,
        start_c: Any = None,
        block: Floats | None = None,
        longest_s: float = standing.LONGEST_S,
    ) -> None:
        """Start at the room's temperature, or at `start_c`; `block` is the memory of the modes, K, per ground cell.

        No step is longer than `longest_s`, s, or than a twentieth of the time that the flame has stood, whichever is
        more.
        """
        self.network, self.flame, self.room_c, self.longest_s = network, flame, room_c, longest_s
        self.work, self._passes = made_ready(network)
        self.state: State = standing.begun(self.work, float(room_c))
        if start_c is not None:
            self.state.t[:] = start_c
        if block is not None:
            self.state.modes[:] = block
        self._film = np.zeros(len(network))
        self._still = _flat(network.surface_m2 * network.convection_w_m2k)

    @property
    def t(self) -> Floats:
        """The temperature of each cell, °C."""
        made: Floats = self.state.t
        return made

    @property
    def modes(self) -> Floats:
        """The memory of the block, K: modes by ground cells."""
        made: Floats = self.state.modes
        return made

    @property
    def seconds(self) -> float:
        """How long it has gone, s."""
        return float(self.state.now[standing.SECONDS])

    @property
    def energy(self) -> Energy:
        """The account of energy."""
        now = self.state.now
        return Energy(float(now[standing.GIVEN_J]), float(now[standing.LOST_J]), float(now[standing.SUNK_J]))

    def join(self, extra: Any) -> None:
        """Let joins conduct what a matrix tells, W/K, in addition to the metal; None for the metal alone."""
        conduction = self.network.conduction
        self.work, self._passes = made_ready(
            self.network, conduction if extra is None else conduction + extra
        )
        was = self.state
        self.state = standing.begun(self.work, float(self.room_c))
        for name in ("t", "modes", "now", "melting"):
            getattr(self.state, name)[:] = getattr(was, name)
        self._moved()

    def aim(self, film_w_k: Floats, covered: Floats | float = 0.0) -> None:
        """Point the flame: what each cell takes from it for each degree, W/K; steps begin short again.

        `covered` is the share of each cell's surface from which the flame keeps the room's air away.
        """
        self._film = _flat(film_w_k).reshape(-1)
        network = self.network
        self._still = _flat(network.surface_m2 * network.convection_w_m2k * (1 - covered))
        self._moved()

    def _moved(self) -> None:
        standing.aimed(self.work, self.state, self._film, float(self.flame.gas_c), float(self.room_c))
        standing.pace(self.work, self.state, float(self.state.now[standing.STEP_S]))

    def step(self, until_s: float = math.inf) -> None:
        """Go on by one step that does not pass a time, s."""
        flame = self.flame
        kernel.stepped(
            self.work,
            self.state,
            self._passes,
            self._film,
            self._still,
            float(flame.gas_c),
            float(flame.most_w),
            float(self.room_c),
            float(until_s),
            float(self.longest_s),
        )

    def stored_j(self, start_c: float | Floats) -> float:
        """Give what the cells hold more than at a start, J, the heat of melting counted."""
        network = self.network
        span = network.liquidus_c - network.solidus_c
        melted = np.clip((self.t - network.solidus_c) / span, 0.0, 1.0)
        return float((network.capacity_j_k * (self.t - start_c) + network.latent_j * melted).sum())


def cooled(block: Floats, seconds: float) -> Floats:
    """Give the memory of a block some time after the work was lifted off."""
    return block * np.exp(-PACES * seconds)[:, None]

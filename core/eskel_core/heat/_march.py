"""March a network through time: conduction factored once for a step, the rest by its values.

Each step is a Rosenbrock method of second order in two stages that keeps its order whatever matrix it is given
(ROS2: Verwer, Spee, Blom, Hundsdorfer, "A second-order Rosenbrock method applied to photochemical dispersion
problems", SIAM J. Sci. Comput. 20, 1999). The matrix holds the conduction and the slopes of flame and losses.
Several programmes can be marched side by side, one in each column.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.sparse.linalg import splu

from ._grid import Floats
from ._ground import PACES, WEIGHTS, conductance_w_m2k
from ._network import Network

SIGMA = 5.670374419e-8
ROOM_C = 20.0
KELVIN = 273.15
_GAMMA = 1 - 1 / math.sqrt(2)
_RAMP_FROM_C, _RAMP_OVER_C = 300.0, 300.0
_SLOPE_AT_C = 700.0
_LONGEST_S, _SHORTEST_S = 0.5, 0.004
_STEPS_A_TIME = 0.4


@dataclass(frozen=True)
class Flame:
    """A flame by what it gives: its gas, °C, and the most that the work can take from it, W."""

    gas_c: float
    most_w: float = math.inf


@dataclass
class Energy:
    """What went in, was lost to the air and sinks, and to the block, J."""

    given: float = 0.0
    lost: float = 0.0
    sunk: float = 0.0


class March:
    """The state of a network on its way: temperatures of cells and block, °C, in one column for each programme."""

    def __init__(
        self,
        network: Network,
        flame: Flame,
        step_s: float,
        *,
        columns: int = 1,
        room_c: float = ROOM_C,
        start_c: Any = None,
        block: Floats | None = None,
        dense: bool = False,
    ) -> None:
        """Start at the room's temperature, or at `start_c`; `block` is the memory of the modes, K, per ground cell."""
        self.network, self.flame, self.room_c = network, flame, room_c
        count = len(network)
        self.t = np.full((count, columns), room_c if start_c is None else 0.0)
        if start_c is not None:
            self.t += np.asarray(start_c, float).reshape(-1, 1)
        self.modes = np.zeros((len(PACES), len(network.ground), columns))
        if block is not None:
            self.modes += np.asarray(block)[:, :, None]
        self.seconds = 0.0
        self.film: Floats = np.zeros((count, columns))
        self.correct: Callable[[Floats], Floats | None] | None = None
        self.energy = Energy()
        self._dense, self._single = dense, columns == 1
        self._extra: Any = sparse.csr_matrix((count, count))
        self._keep_constants()
        self.pace(step_s)

    def _keep_constants(self) -> None:
        network = self.network
        column = (-1, 1)
        self._k = (network.conduction + self._extra).tocsr()
        self._radiating = (network.surface_m2 * SIGMA).reshape(column)
        self._convecting = (network.surface_m2 * network.convection_w_m2k).reshape(column)
        self._clean = network.clean.reshape(column)
        self._change = (network.heated - network.clean).reshape(column) / _RAMP_OVER_C
        self._c = network.capacity_j_k.reshape(column)
        self.melting_c = float(network.solidus_c.min()) if len(network) else math.inf
        self._room4 = (self.room_c + KELVIN) ** 4
        pass_w_k = conductance_w_m2k(network.effusivity, network.contact_w_m2k) * network.ground_m2
        self._to_ground = pass_w_k.reshape(column)
        self._has_memory = network.effusivity > 0 and len(network.ground) > 0

    def keep(self, columns: NDArray[np.bool_]) -> None:
        """Go on with some of the columns only."""
        self.t, self.modes, self.film = self.t[:, columns], self.modes[:, :, columns], self.film[:, columns]

    def pace(self, step_s: float) -> None:
        """Go on in steps of another length, s; the flame is aimed anew after it."""
        self.step_s = step_s
        network = self.network
        fade = np.exp(-PACES * self.step_s)
        self._fade = fade.reshape(-1, 1, 1)
        gain = WEIGHTS * -np.expm1(-PACES * self.step_s) / PACES
        per_flux = gain / network.effusivity if self._has_memory else gain * 0
        area = np.maximum(network.ground_m2, 1e-30)
        self._gain = per_flux.reshape(-1, 1, 1) / area.reshape(1, -1, 1)
        self._half_gain = self._gain.sum(axis=0) / 2
        # The block's answer to this step's own flux stands in the same equation, so that a close contact is stable.
        self._to_ground_ahead = self._to_ground / (1 + self._to_ground * self._half_gain)

    def join(self, extra: Any) -> None:
        """Let joins conduct what a matrix tells, W/K, in addition to the metal."""
        self._extra = extra
        self._k = (self.network.conduction + extra).tocsr()

    def aim(self, film_w_k: Floats) -> None:
        """Point the flame: what each cell takes from it for each degree, W/K; then factor the matrix of a step."""
        self.film = film_w_k.reshape(len(self.network), -1)
        self._reaches_most = bool(
            (self.film.sum(axis=0) * (self.flame.gas_c - self.room_c)).max() > self.flame.most_w
        )
        self._factor(self.film.max(axis=1) if self.film.shape[1] > 1 else self.film[:, 0])

    def redirect(self, film_w_k: Floats) -> None:
        """Point the flame elsewhere and keep the matrix."""
        self.film = film_w_k
        self._reaches_most = True

    def _factor(self, film: Floats) -> None:
        network = self.network
        hot = _SLOPE_AT_C + KELVIN
        losing = network.surface_m2 * (4 * SIGMA * network.heated * hot**3 + network.convection_w_m2k)
        for cell, w_k in network.sinks:
            losing[cell] += w_k
        slope = losing + film
        slope[network.ground] += self._to_ground_ahead[:, 0]
        self._slopes = film, losing
        matrix = sparse.diags(network.capacity_j_k) + _GAMMA * self.step_s * (self._k + sparse.diags(slope))
        self._solve: Callable[[Floats], Floats]
        if self._dense:
            inverse = np.linalg.inv(matrix.toarray())
            self._solve = inverse.__matmul__
        else:
            self._solve = splu(matrix.tocsc(), options={"SymmetricMode": True}, diag_pivot_thresh=0.0).solve

    def _flow(self, t: Floats, warmth: Floats | float, pass_w_k: Floats) -> tuple[Floats, Floats]:
        """Give what flows into each cell, W, and what flows out to a block that is warm by so many K, W."""
        given = self.film * (self.flame.gas_c - t)
        if self._reaches_most:
            total = given.sum(axis=0)
            given *= np.where(total > self.flame.most_w, self.flame.most_w / np.maximum(total, 1e-12), 1.0)
        kelvin = t + KELVIN
        kelvin *= kelvin
        kelvin *= kelvin
        kelvin -= self._room4
        share = np.minimum(np.maximum(t - _RAMP_FROM_C, 0.0), _RAMP_OVER_C)
        lost = self._radiating * (self._clean + self._change * share) * kelvin
        lost += self._convecting * (t - self.room_c)
        for cell, w_k in self.network.sinks:
            lost[cell] += w_k * (t[cell] - self.room_c)
        down = pass_w_k * (t[self.network.ground] - self.room_c - warmth)
        self._given, self._lost = given, lost
        flow = given - lost - self._k @ t
        flow[self.network.ground] -= down
        if self.correct is not None:
            back = self.correct(t)
            if back is not None:
                flow += back
        return flow, down

    def _melt(self, before: Floats, after: Floats) -> Floats:
        """Let the heat that a step brought go into melting between solidus and liquidus: enthalpy kept to the last joule."""
        network = self.network
        solidus, liquidus = network.solidus_c[:, None], network.liquidus_c[:, None]
        latent = (network.latent_j / network.capacity_j_k)[:, None]
        span = liquidus - solidus
        held = after + latent * np.clip((before - solidus) / span, 0.0, 1.0)
        return np.where(
            held <= solidus,
            held,
            np.where(
                held >= liquidus + latent, held - latent, solidus + (held - solidus) / (1 + latent / span)
            ),
        )

    def step(self) -> None:
        """Go on by one step."""
        warmth: Floats | float = self.modes.sum(axis=0) if self._has_memory else 0.0
        flow, down = self._flow(self.t, warmth, self._to_ground)
        given, lost = (float(self._given.sum()), float(self._lost.sum())) if self._single else (0.0, 0.0)
        k1 = self._solve(flow)
        if self._has_memory:
            faded = self._fade * self.modes
            later = faded.sum(axis=0) + self._half_gain * down
        else:
            faded, later = self.modes, 0.0
        flow2, down2 = self._flow(self.t + self.step_s * k1, later, self._to_ground_ahead)
        k2 = self._solve(flow2 - 2 * self._c * k1)
        after = self.t + (1.5 * self.step_s) * k1 + (0.5 * self.step_s) * k2
        if max(self.t.max(), after.max()) > self.melting_c:
            after = self._melt(self.t, after)
        self.t = after
        mean = (down + down2) / 2
        if self._has_memory:
            self.modes = faded + self._gain * mean
        self.seconds += self.step_s
        if self._single:
            self._count(given, lost, mean, k1 + k2)

    def _count(self, given: float, lost: float, sunk: Floats, paces: Floats) -> None:
        """Add up what a step gave and took, as the method itself weighs it: the sum closes to the last joule."""
        film, losing = self._slopes
        ahead = _GAMMA * self.step_s / 2 * paces[:, 0]
        down = self._to_ground_ahead[:, 0] @ ahead[self.network.ground]
        energy, step = self.energy, self.step_s
        energy.given += ((given + float(self._given.sum())) / 2 - float(film @ ahead)) * step
        energy.lost += ((lost + float(self._lost.sum())) / 2 + float(losing @ ahead)) * step
        energy.sunk += (float(sunk.sum()) + float(down)) * step

    def stored_j(self, start_c: float | Floats) -> float:
        """Give what the cells hold more than at a start, J, the heat of melting counted."""
        network = self.network
        span = network.liquidus_c - network.solidus_c
        melted = np.clip((self.t[:, 0] - network.solidus_c) / span, 0.0, 1.0)
        return float((network.capacity_j_k * (self.t[:, 0] - start_c) + network.latent_j * melted).sum())


def step_for(network: Network, film_w_k: Floats) -> float:
    """Choose a step, s, for the fastest cell under a flame (two fifths of its time), between 0.004 and 0.5 s."""
    fastest = float((film_w_k / network.capacity_j_k).max(initial=1e-9))
    return float(min(_LONGEST_S, max(_SHORTEST_S, _STEPS_A_TIME / fastest)))


def cooled(block: Floats, seconds: float) -> Floats:
    """Give the memory of a block some time after the work was lifted off."""
    return block * np.exp(-PACES * seconds)[:, None]

"""March a network through time: conduction factored once for a step, the rest by its values.

Each step is a Rosenbrock method of second order in two stages that keeps its order whatever matrix it is given
(ROS2: Verwer, Spee, Blom, Hundsdorfer, "A second-order Rosenbrock method applied to photochemical dispersion
problems", SIAM J. Sci. Comput. 20, 1999). The matrix holds the conduction and the slopes of flame and losses.

One body goes by steps of its own choice: short where the flame has just moved, longer as the warming settles, each
held against the method of first order that it contains. Several programmes can be marched side by side in even steps,
one in each column; where what melts is lost in any case, its heat of melting can be left out.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
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
_LONGEST_S, _SHORTEST_S, _FIRST_S = 1.0, 1 / 1024, 1 / 32
_MELTING_S, _LATER = 0.125, 20.0
# By how much, K, the solution of first order may differ from that of the second, which is better by far (docs/heat.md):
# below the first the next step is twice as long, above the second half, above the third the step is made again.
_TURN_LEAST_C, _TURN_C, _TURN_MOST_C = 0.1, 0.5, 1.0


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


@dataclass(frozen=True)
class _Flows:
    """What flows at a moment: into each cell and out to the block from each that rests on it; and the sums, all W."""

    flow: Floats
    down: Floats
    given_w: float
    lost_w: float
    sunk_w: float


class March:
    """The state of a network on its way: temperatures of cells and block, °C, in one column for each programme."""

    def __init__(
        self,
        network: Network,
        flame: Flame,
        *,
        even_s: float | None = None,
        columns: int = 1,
        room_c: float = ROOM_C,
        start_c: Any = None,
        block: Floats | None = None,
        longest_s: float = _LONGEST_S,
    ) -> None:
        """Start at the room's temperature, or at `start_c`; `block` is the memory of the modes, K, per ground cell.

        No step is longer than `longest_s`, s, or than a twentieth of the time that the flame has stood, whichever is
        more. With `even_s` every step is that long, s, and `columns` programmes go side by side.
        """
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
        self.melts = True
        self.correct: Callable[[Floats], Floats | None] | None = None
        self.energy = Energy()
        self._even, self._longest_s = even_s is not None, longest_s
        self._keep_constants()
        self._pace(even_s or _FIRST_S)
        self._next_s, self._aimed_s = _FIRST_S, 0.0
        self._factored = False
        self._seen: _Flows | None = None

    def _keep_constants(self) -> None:
        network = self.network
        column = (-1, 1)
        self._radiating = (network.surface_m2 * SIGMA).reshape(column)
        self._convecting = (network.surface_m2 * network.convection_w_m2k).reshape(column)
        self._clean = network.clean.reshape(column)
        self._change = (network.heated - network.clean).reshape(column) / _RAMP_OVER_C
        self._c = self._takes = network.capacity_j_k.reshape(column)
        self._melting = np.zeros(len(network), bool)
        self.melting_c = float(network.solidus_c.min()) if len(network) else math.inf
        self._room4 = (self.room_c + KELVIN) ** 4
        pass_w_k = conductance_w_m2k(network.effusivity, network.contact_w_m2k) * network.ground_m2
        self._to_ground = pass_w_k.reshape(column)
        self._has_memory = network.effusivity > 0 and len(network.ground) > 0
        self.join(None)

    def keep(self, columns: NDArray[np.bool_]) -> None:
        """Go on with some of the columns only."""
        self.t, self.modes, self.film = self.t[:, columns], self.modes[:, :, columns], self.film[:, columns]

    def _pace(self, step_s: float) -> None:
        """Go on in steps of another length, s; the matrix is to be factored anew."""
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
        self._factored = False

    def pace(self, step_s: float) -> None:
        """Go on side by side in even steps of another length, s."""
        self._pace(step_s)
        self._factor()

    def join(self, extra: Any) -> None:
        """Let joins conduct what a matrix tells, W/K, in addition to the metal; None for the metal alone."""
        conduction = self.network.conduction
        self._k = (conduction if extra is None else conduction + extra).tocsc()
        # Every cell has its place on the diagonal, so that a matrix of a step is made by its values alone.
        self._k.setdiag(self._k.diagonal())
        self._k.sort_indices()
        columns = np.repeat(np.arange(len(self.network)), np.diff(self._k.indptr))
        self._diagonal = np.flatnonzero(self._k.indices == columns)
        self._matrix = self._k.copy()
        self._factored, self._seen = False, None

    def aim(self, film_w_k: Floats) -> None:
        """Point the flame: what each cell takes from it for each degree, W/K; steps begin short again.

        Side by side, a column for each aim that there can be: the matrix is made for the strongest at each cell.
        """
        self.film = film_w_k.reshape(len(self.network), -1)
        self._reaches_most = bool(
            (self.film.sum(axis=0) * (self.flame.gas_c - self.room_c)).max() > self.flame.most_w
        )
        self._strongest = self.film.max(axis=1)
        self._factored, self._seen = False, None
        if self._even:
            self._factor()
            return
        self._aimed_s = self.seconds
        # So long that even the fastest cell bends by no more than it may, were it alone.
        fastest = float((self.film[:, 0] / self.network.capacity_j_k).max(initial=0.0))
        bends = fastest * math.sqrt(max(self.flame.gas_c - self.room_c, 1.0) / (2 * _TURN_C))
        self._next_s = _FIRST_S / 2 ** max(0, math.ceil(math.log2(max(_FIRST_S * bends, 1e-9))))

    def redirect(self, film_w_k: Floats) -> None:
        """Point the flames of programmes side by side elsewhere and keep the matrix."""
        self.film = film_w_k
        self._reaches_most = True

    def _factor(self) -> None:
        """Make the matrix of a step: with the slopes of now, or side by side those of red heat."""
        network = self.network
        film = self._strongest
        t = np.full(len(network), _SLOPE_AT_C) if self._even else self.t[:, 0]
        share, warms = np.clip((t - _RAMP_FROM_C) / _RAMP_OVER_C, 0.0, 1.0), t + KELVIN
        turning = (t > _RAMP_FROM_C) & (t < _RAMP_FROM_C + _RAMP_OVER_C)
        emissivity, change = network.clean + (network.heated - network.clean) * share, self._change[:, 0]
        radiating = 4 * emissivity * warms**3 + change * turning * np.maximum(warms**4 - self._room4, 0.0)
        slope = film + network.surface_m2 * (SIGMA * radiating + network.convection_w_m2k)
        for cell, w_k in network.sinks:
            slope[cell] += w_k
        slope[network.ground] += self._to_ground_ahead[:, 0]
        ahead = _GAMMA * self.step_s
        self._matrix.data = ahead * self._k.data
        self._matrix.data[self._diagonal] += self._takes[:, 0] + ahead * slope
        self._solve: Callable[[Floats], Floats]
        if self._even:
            inverse = np.linalg.inv(self._matrix.toarray())
            self._solve = inverse.__matmul__
        else:
            self._solve = splu(
                self._matrix,
                permc_spec="MMD_AT_PLUS_A",
                options={"SymmetricMode": True},
                diag_pivot_thresh=0.0,
            ).solve
        self._factored = True

    def _flow(self, t: Floats, warmth: Floats | float, pass_w_k: Floats) -> tuple[Floats, Floats]:
        """Give what flows into each cell, W, and what flows out to a block that is warm by so many K, W."""
        given = self.film * (self.flame.gas_c - t)
        if self._reaches_most:
            total = given.sum(axis=0)
            if total.max() > self.flame.most_w:
                given *= np.minimum(1.0, self.flame.most_w / np.maximum(total, 1e-12))
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
        held = before + latent * np.clip((before - solidus) / span, 0.0, 1.0)
        held = held + self._takes / self._c * (after - before)
        return np.where(
            held <= solidus,
            held,
            np.where(
                held >= liquidus + latent, held - latent, solidus + (held - solidus) / (1 + latent / span)
            ),
        )

    def step(self, until_s: float = math.inf) -> None:
        """Go on by one step: an even one, or one of its own choice that does not pass a time, s."""
        if self._even:
            self._go(*self._flow(self.t, self._warmth(), self._to_ground))
            return
        self._see_melting()
        left = max(until_s - self.seconds, _SHORTEST_S)
        wanted = self._next_s if left > 2 * self._next_s else left if left <= self._next_s else left / 2
        now = self._seen or self._flows()
        turn = self._tried(now, wanted)
        while turn > _TURN_MOST_C and self.step_s > _SHORTEST_S:
            turn = self._tried(now, self.step_s / 2)
        if turn < _TURN_LEAST_C:
            self._next_s = max(self._next_s, 2 * self.step_s)
        else:
            self._next_s = self.step_s if turn <= _TURN_C else self.step_s / 2
        self._next_s = min(max(self._longest_s, (self.seconds - self._aimed_s) / _LATER), self._next_s)
        after = self._seen = self._flows()
        energy, half = self.energy, self.step_s / 2
        energy.given += half * (now.given_w + after.given_w)
        energy.lost += half * (now.lost_w + after.lost_w)
        energy.sunk += half * (now.sunk_w + after.sunk_w)

    def _tried(self, now: _Flows, step_s: float) -> float:
        """Go one step of a length, s, unless it bends by too much, K, which is given."""
        if step_s != self.step_s:
            self._pace(step_s)
        if not self._factored:
            self._factor()
        return self._go(now.flow, now.down, _TURN_MOST_C if step_s > _SHORTEST_S else math.inf)

    def _see_melting(self) -> None:
        """Let what is between its solidus and liquidus now take up its heat of melting in the step to come."""
        network, t = self.network, self.t[:, 0]
        if t.max(initial=0.0) < self.melting_c and not self._melting.any():
            return
        melting = (t >= network.solidus_c) & (t < network.liquidus_c)
        if (melting != self._melting).any():
            self._next_s = min(self._next_s, _MELTING_S)
            self._melting, self._factored = melting, False
            takes = network.latent_j / (network.liquidus_c - network.solidus_c)
            self._takes = self._c + (takes * melting)[:, None]

    def _warmth(self) -> Floats | float:
        made: Floats | float = self.modes.sum(axis=0) if self._has_memory else 0.0
        return made

    def _flows(self) -> _Flows:
        flow, down = self._flow(self.t, self._warmth(), self._to_ground)
        return _Flows(flow, down, float(self._given.sum()), float(self._lost.sum()), float(down.sum()))

    def _go(self, flow: Floats, down: Floats, most_c: float = math.inf) -> float:
        """Go one step from what flows now; give by how much, K, its two orders differ. Above `most_c` nothing is done."""
        k1 = self._solve(flow)
        if self._has_memory:
            faded = self._fade * self.modes
            later = faded.sum(axis=0) + self._half_gain * down
        else:
            faded, later = self.modes, 0.0
        flow2, down2 = self._flow(self.t + self.step_s * k1, later, self._to_ground_ahead)
        k2 = self._solve(flow2 - 2 * self._takes * k1)
        turn = 0.0 if self._even else self.step_s / 2 * float(np.abs(k1 + k2).max(initial=0.0))
        if turn > most_c:
            return turn
        after = self.t + (1.5 * self.step_s) * k1 + (0.5 * self.step_s) * k2
        if self.melts and max(self.t.max(), after.max()) > self.melting_c:
            after = self._melt(self.t, after)
        # What has long gone past its limits beside others may run away in an even step: nothing is hotter than the gas.
        self.t = np.clip(after, min(self.room_c, self.flame.gas_c), self.flame.gas_c) if self._even else after
        if self._has_memory:
            self.modes = faded + self._gain * ((down + down2) / 2)
        self.seconds += self.step_s
        return turn

    def stored_j(self, start_c: float | Floats) -> float:
        """Give what the cells hold more than at a start, J, the heat of melting counted."""
        network = self.network
        span = network.liquidus_c - network.solidus_c
        melted = np.clip((self.t[:, 0] - network.solidus_c) / span, 0.0, 1.0)
        return float((network.capacity_j_k * (self.t[:, 0] - start_c) + network.latent_j * melted).sum())


def cooled(block: Floats, seconds: float) -> Floats:
    """Give the memory of a block some time after the work was lifted off."""
    return block * np.exp(-PACES * seconds)[:, None]

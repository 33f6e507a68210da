"""A ball growing at the end of wire under a flame: when it begins, how large it is when, and when it lets go.

The wire is a row of cells that hold enthalpy; heat and melting are one sum, so none is lost at the moving edge. The
cells that have melted make up the ball: one bath at one temperature, with the surface of a sphere of their metal. Wire and
ball are thin: the flame washes them all round, and where it is the room's air is not. Losses and film are those of the model of a body. Conduction is taken at the end of each step
(implicit, with what each cell takes up at its temperature), as flows between neighbours, so that the sum stays whole.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy.linalg import solve_banded

from ..cooling import CONVECTION_W_M2K, wire_convection_w_m2k
from ..metals import Metal, Torch, drop_limit_mm
from ._grid import Floats
from ._march import KELVIN, ROOM_C, SIGMA
from ._wash import thinness, washed_film_w_m2k

_MOST_CELLS = 80
_REACH_MM = 40.0
_STEP_S = 0.02
_EASILY = 1e4
# Wire is held along the flame, not across it: the flame is about so many times as long as it is wide.
ALONG = 3.0
_NOTED = 400


@dataclass(frozen=True)
class Growth:
    """A ball's growth: its diameter, mm, and the bath's (or the tip's) temperature, °C, at each time, s.

    `melts_s` is when the end first melts, `lifts_s` when the wanted size is reached, `drops_s` when the limit is passed.
    """

    times_s: Floats
    diameter_mm: Floats
    tip_c: Floats
    melts_s: float | None
    lifts_s: float | None
    drops_s: float | None
    limit_mm: float
    given_j: float
    lost_j: float
    stored_j: float


def grow_ball(
    metal: Metal,
    wire_mm: float,
    length_mm: float,
    torch: Torch,
    *,
    ball_mm: float | None = None,
    setting: float = 1.0,
    factor: float = 1.0,
    longest_s: float = 60.0,
) -> Growth:
    """Hold a flame on the end of round wire until the ball has the wanted size, lets go, or the time is over.

    Sizes in mm. Without a size the ball grows until it lets go.
    """
    row = _Row(metal, wire_mm, min(length_mm, _REACH_MM), torch, setting * factor)
    limit = drop_limit_mm(wire_mm, metal)
    times, sizes, tips = [0.0], [0.0], [ROOM_C]
    melts = lifts = drops = None
    every = max(1, math.ceil(longest_s / row.step_s / _NOTED))
    count = 0
    while row.seconds < longest_s - 1e-9:
        row.step()
        count += 1
        size = row.ball_mm
        if size > 0 and melts is None:
            melts = row.seconds
        if ball_mm is not None and size >= ball_mm and lifts is None:
            lifts = row.seconds
        if size > limit and drops is None:
            drops = row.seconds
        ended = lifts is not None or drops is not None or row.all_melted
        if ended or count % every == 0:
            times.append(row.seconds)
            sizes.append(size)
            tips.append(row.tip_c)
        if ended:
            break
    return Growth(
        times_s=np.array(times),
        diameter_mm=np.array(sizes),
        tip_c=np.array(tips),
        melts_s=melts,
        lifts_s=lifts,
        drops_s=drops,
        limit_mm=limit,
        given_j=row.given_j,
        lost_j=row.lost_j,
        stored_j=float(row.heat.sum()),
    )


class _Row:
    """The wire as cells of enthalpy from its end in the flame; the first `bath` of them are the ball."""

    def __init__(self, metal: Metal, wire_mm: float, length_mm: float, torch: Torch, open_by: float) -> None:
        self.metal, self.torch = metal, torch
        long_mm = max(wire_mm / 2, length_mm / _MOST_CELLS)
        self.count = max(6, round(length_mm / long_mm))
        long_m, self.radius_m = length_mm / self.count / 1000, wire_mm / 2000
        section = math.pi * self.radius_m**2
        self.volume_m3 = section * long_m
        mass = self.volume_m3 * metal.density_g_cm3 * 1000
        self.capacity = mass * metal.specific_heat_j_kgk
        self.latent = mass * metal.latent_kj_kg * 1000
        self.solidus, self.span = metal.solidus_c, max(metal.liquidus_c - metal.solidus_c, 2.0)
        side = 2 * math.pi * self.radius_m * long_m
        self.side_m2 = np.full(self.count, side)
        self.side_m2[0] += section
        self.pass_w_k = metal.conductivity_w_mk * section / long_m
        middle = (np.arange(self.count) + 0.5) * length_mm / self.count
        self.spread = np.exp(-((middle / (ALONG * torch.footprint_mm)) ** 2))
        self.open_by = open_by
        self.shows = _shown(wire_mm, torch)
        self.wire_film = open_by * washed_film_w_m2k(wire_mm, torch, ball=False) * self.spread
        self.convection = wire_convection_w_m2k(wire_mm) * (1 - self.shows * self.spread)
        fastest = self.wire_film[0] * self.side_m2[1] * self.shows / self.capacity
        self.step_s = min(_STEP_S, 0.1 / fastest)
        self.heat = np.zeros(self.count)
        self.bath = 0
        self.seconds = self.given_j = self.lost_j = 0.0

    @property
    def ball_mm(self) -> float:
        """How large the ball is, mm, with what of the next cell has melted; nothing before the first one has."""
        if self.bath == 0:
            return 0.0
        begins = self.capacity * (self.solidus - ROOM_C)
        share = (self.heat[min(self.bath, self.count - 1)] - begins) / (
            self.capacity * self.span + self.latent
        )
        melted = (self.bath + min(1.0, max(0.0, float(share)))) * self.volume_m3
        return float((6 * melted / math.pi) ** (1 / 3)) * 1000

    @property
    def all_melted(self) -> bool:
        """Whether nothing of the wire is left."""
        return self.bath >= self.count - 2

    @property
    def tip_c(self) -> float:
        """The temperature of the bath, or of the end, °C."""
        return float(self.temperatures()[0])

    def temperatures(self) -> Floats:
        """Give each cell's temperature, °C, by its enthalpy; the bath is at one."""
        heat = self.heat.copy()
        if self.bath:
            heat[: self.bath] = heat[: self.bath].mean()
        warm = heat / self.capacity + ROOM_C
        latent = self.latent / self.capacity
        slope = 1 + latent / self.span
        melting = self.solidus + (warm - self.solidus) / slope
        top = self.solidus + self.span + latent
        made: Floats = np.where(warm <= self.solidus, warm, np.where(warm >= top, warm - latent, melting))
        return made

    def step(self) -> None:
        """Go on by one step: flame, losses, conduction; then see what has melted."""
        t = self.temperatures()
        seen, surface, film, convection = self._faces()
        given = film * seen * (self.torch.gas_temp_c - t)
        most = 0.5 * self.torch.heat_w
        total = float(given.sum())
        if total > most:
            given *= most / total
        share = np.clip((t - 300) / 300, 0, 1)
        # Scale grows in air: what the flame covers, and what is molten in it, stays clean.
        share *= 1 - self.shows * self.spread
        if self.bath:
            share[: self.bath] = 0.0
        emissive = (
            self.metal.emissivity_clean + (self.metal.emissivity_heated - self.metal.emissivity_clean) * share
        )
        room4 = (ROOM_C + KELVIN) ** 4
        lost = surface * (emissive * SIGMA * ((t + KELVIN) ** 4 - room4) + convection * (t - ROOM_C))
        along = self._along(t, given - lost)
        flow = given - lost
        flow[:-1] += along
        flow[1:] -= along
        self.heat += flow * self.step_s
        if self.bath:
            self.heat[: self.bath] = self.heat[: self.bath].mean()
        full = self.capacity * (self.solidus + self.span - ROOM_C) + self.latent
        while self.bath < self.count and self.heat[self.bath] >= full * (1 - 1e-9):
            self.bath += 1
        self.given_j += float(given.sum()) * self.step_s
        self.lost_j += float(lost.sum()) * self.step_s
        self.seconds += self.step_s

    def _along(self, t: Floats, flow: Floats) -> Floats:
        """Give what flows from each cell to the one before it at the end of the step, W."""
        passes = np.full(self.count - 1, self.pass_w_k)
        if self.bath > 1:
            passes[: self.bath - 1] *= _EASILY
        melting = (t >= self.solidus) & (t < self.solidus + self.span)
        takes = self.capacity + np.where(melting, self.latent / self.span, 0.0)
        band = np.zeros((3, self.count))
        band[1] = takes / self.step_s
        band[1, :-1] += passes
        band[1, 1:] += passes
        band[0, 1:] = band[2, :-1] = -passes
        ahead = solve_banded((1, 1), band, takes / self.step_s * t + flow, check_finite=False)
        made: Floats = passes * np.diff(ahead)
        return made

    def _faces(self) -> tuple[Floats, Floats, Floats, Floats]:
        """Give what the flame sees of each cell, m², its surface, m², film and convection, W/m²K."""
        seen, surface = self.side_m2 * self.shows, self.side_m2
        film, convection = self.wire_film, self.convection
        if self.bath:
            seen, surface, film, convection = seen.copy(), surface.copy(), film.copy(), convection.copy()
            across = self.ball_mm
            shows = _shown(across, self.torch)
            sphere = math.pi * (across / 1000) ** 2 / self.bath
            seen[: self.bath], surface[: self.bath] = sphere * shows, sphere
            film[: self.bath] = self.open_by * washed_film_w_m2k(round(across, 2), self.torch, ball=True)
            convection[: self.bath] = CONVECTION_W_M2K * (1 - shows)
        return seen, surface, film, convection


def _shown(across_mm: float, torch: Torch) -> float:
    """Give the share of what is round that a flame washes: all of it where it is thin, else half."""
    return 0.5 + 0.5 * thinness(across_mm, torch)

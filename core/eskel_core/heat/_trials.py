"""Programmes marched side by side on one body: what each brings."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ._aims import Aim, Stage
from ._grid import Floats
from ._march import Flame, March
from ._network import DRY_W_M2K, GLASSY_W_M2K, Touch, touch_matrix
from ._setup import FLOW_HOLD_S, MOST_TAKEN, HeatSetup

SETTINGS = np.array([0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0])
# An even step is made twice as long once the march has gone on for so many of them; a march goes on for so long past
# the first programme that works: what is slower by more is of no use but to vary.
_LONGER_AFTER, _LONGEST_S = 80, 4.0
_PAST_SHARE, _PAST_S = 1.5, 5.0
_FAR_OVER_C = 60.0
STAGE_COSTS_S = 0.5
SHORT_COSTS, OVER_COSTS, _MISSED = 4.0, 6.0, 10_000.0


@dataclass(frozen=True)
class Programme:
    """Aims by their number, settings by theirs, and times, s; the last stage goes on until everything flows."""

    aims: tuple[int, ...]
    settings: tuple[int, ...]
    seconds: tuple[float, ...]

    def stages(self, aims: tuple[Aim, ...]) -> tuple[Stage, ...]:
        """Give it as stages of a rehearsal."""
        return tuple(
            Stage(aims[aim], float(SETTINGS[setting]), None if n == len(self.aims) - 1 else seconds)
            for n, (aim, setting, seconds) in enumerate(
                zip(self.aims, self.settings, self.seconds, strict=True)
            )
        )


@dataclass(frozen=True)
class Tried:
    """What a programme brought: when all flowed (infinite: never), the tightest margin, °C, what was short, °C."""

    programme: Programme
    done_s: float
    margin_c: float
    short_c: float

    @property
    def works(self) -> bool:
        """Whether everything flowed and every limit was kept."""
        return math.isfinite(self.done_s) and self.margin_c >= 0

    @property
    def cost(self) -> float:
        """What it is worth, less being better: seconds and stages where it works."""
        stages = STAGE_COSTS_S * len(self.programme.aims)
        if self.works:
            return self.done_s + stages
        time = self.done_s if math.isfinite(self.done_s) else 0.0
        return (
            _MISSED + SHORT_COSTS * self.short_c + OVER_COSTS * max(0.0, -self.margin_c) + time / 10 + stages
        )


class Trials:
    """A body made ready for many programmes at once."""

    def __init__(self, setup: HeatSetup, aims: tuple[Aim, ...], longest_s: float, spare_c: float) -> None:
        """Limits are kept by `spare_c` more than they ask, for what the simpler march leaves out."""
        self.setup, self.aims, self.spare_c = setup, aims, spare_c
        network = setup.network
        self.film = np.stack([aim.share_m2 for aim in aims], -1) * (setup.torch.film_w_m2k * setup.factor)
        index = {goal.id: n for n, goal in enumerate(setup.goals)}
        strength = setup.torch.film_w_m2k * setup.factor
        # For an aim that goes from place to place: the goals that it waits for, and the film at each.
        self._each = {
            n: [(index[place], share * strength) for place, share in aim.places if place in index]
            for n, aim in enumerate(aims)
            if aim.places
        }
        fastest = float((self.film.max(axis=1) / network.capacity_j_k).max())
        self.step_s = float(min(0.5, max(0.1, 0.8 / fastest)))
        self.longest_s = longest_s
        self._extra = sum(
            (
                touch_matrix(len(network), touch, np.minimum(touch.metal_w_k, touch.area_m2 * GLASSY_W_M2K))
                for touch in network.touches
            ),
            start=network.conduction * 0,
        )
        # While its flux is still dry a touch passes less than the matrix holds: by how much, join by join.
        self._dry = [
            (touch.seam, touch_matrix(len(network), touch, _less_when_dry(touch)))
            for touch in network.touches
        ]
        # Metal that is to melt, or to fuse, takes up its heat of melting; where it is not to, it is lost when it begins to.
        self._melts = max(goal.reach_c for goal in setup.goals) >= network.solidus_c.min()
        self._clear_c = -math.inf if setup.flux is None else setup.flux.clear_c
        self.goal_cells = np.concatenate([goal.cells for goal in setup.goals])
        self.goal_starts = np.cumsum([0, *(len(goal.cells) for goal in setup.goals[:-1])])
        self.reach = np.array([goal.reach_c for goal in setup.goals])[:, None]
        groups = [limit.cells for limit in setup.limits] or [np.arange(len(network))]
        self.limit_cells = np.concatenate(groups)
        self.limit_starts = np.cumsum([0, *(len(group) for group in groups[:-1])])
        self.below = np.array([limit.below_c for limit in setup.limits] or [math.inf])[:, None] - spare_c

    def march(self, programmes: list[Programme]) -> list[Tried]:
        """March programmes side by side until each has flowed, gone far over a limit, or had its time."""
        setup = self.setup
        march = March(
            setup.network,
            Flame(setup.torch.gas_temp_c, MOST_TAKEN * setup.torch.heat_w),
            even_s=self.step_s,
            columns=len(programmes),
            room_c=setup.room_c,
            block=setup.block,
        )
        march.join(self._extra)
        march.aim(self.film)
        march.correct = self._correction
        march.melts = self._melts
        run = _SideBySide(self, programmes)
        while march.seconds < min(self.longest_s, run.enough_s) and len(run.who):
            if march.step_s < _LONGEST_S / 2 and march.seconds >= _LONGER_AFTER * march.step_s - 1e-9:
                march.pace(2 * march.step_s)
            run.point(march)
            march.step()
            run.look(march)
            ended = ~run.running
            if ended.sum() >= max(1, len(ended) // 4):
                run.keep(~ended)
                march.keep(~ended)
        return run.tried()

    def films(self, aims: NDArray[np.int64], reached: NDArray[np.bool_]) -> Floats:
        """Give the film of some columns by their aims: an aim that goes from place to place is at the first not done."""
        film: Floats = self.film[:, aims]
        for column, aim in enumerate(aims):
            for goal, share in self._each.get(int(aim), ()):
                if not reached[goal, column]:
                    film[:, column] = share
                    break
        return film

    def _correction(self, t: Floats) -> Floats | None:
        """Give what flows back, W, where flux is not glassy yet; None where it is everywhere."""
        found: Floats | None = None
        for seam, less in self._dry:
            dry = t[seam].mean(axis=0) < self._clear_c
            if dry.any():
                back = less @ (t * dry)
                found = back if found is None else found + back
        return found


class _SideBySide:
    """What is known of programmes on their way, one in each column; those that have ended are put aside."""

    def __init__(self, trials: Trials, programmes: list[Programme]) -> None:
        many, goals = len(programmes), len(trials.setup.goals)
        self.trials, self.programmes = trials, programmes
        self.aims, self.settings, self.ends = _table(programmes)
        self.who = np.arange(many)
        self.at, self.fresh = np.full(many, -1), np.zeros(many, bool)
        self.running = np.ones(many, bool)
        self.film = np.zeros((len(trials.setup.network), many))
        self.lasting, self.reached = np.zeros((goals, many)), np.zeros((goals, many), bool)
        self.cool = np.full((goals, many), trials.setup.room_c)
        self.hot = np.full((len(trials.below), many), trials.setup.room_c)
        self.best = np.full((goals, many), -np.inf)
        self.done, self.margin = np.full(many, np.inf), np.full(many, np.inf)
        self.short, self.enough_s = np.zeros(many), math.inf

    def point(self, march: March) -> None:
        """Point each flame where its programme has it now."""
        who = self.who
        now = np.minimum((self.ends[who] <= march.seconds + 1e-9).sum(axis=1), self.aims.shape[1] - 1)
        moved = np.flatnonzero((now != self.at) | self.fresh)
        if len(moved):
            stage = who[moved], now[moved]
            self.film[:, moved] = self.trials.films(self.aims[stage], self.reached[:, moved])
            self.film[:, moved] *= SETTINGS[self.settings[stage]]
            march.redirect(self.film)
            self.at = now

    def look(self, march: March) -> None:
        """See what a step has brought."""
        trials, step = self.trials, march.step_s
        earlier, was_hot = self.cool, self.hot
        self.cool = np.minimum.reduceat(march.t[trials.goal_cells], trials.goal_starts, axis=0)
        self.hot = np.maximum.reduceat(march.t[trials.limit_cells], trials.limit_starts, axis=0)
        over = self.cool >= trials.reach
        # A crossing lies within the step, and the flame goes off within one: both are told by lines between.
        inside = np.clip((self.cool - trials.reach) / np.maximum(self.cool - earlier, 1e-9), 0.0, 1.0)
        self.lasting = np.where(over, self.lasting + np.where(self.lasting > 0, 1.0, inside) * step, 0.0)
        before = self.reached.sum(axis=0)
        self.reached |= self.lasting >= FLOW_HOLD_S
        self.fresh = self.reached.sum(axis=0) != before
        flowed = self.running & self.reached.all(axis=0)
        past = np.where(flowed, np.clip(self.lasting - FLOW_HOLD_S, 0.0, step).min(axis=0), 0.0)
        hot_then = self.hot + (was_hot - self.hot) * (past / step)
        who, live = self.who, self.running
        self.best[:, live] = np.maximum(self.best[:, live], self.cool[:, live])
        room = (trials.below - hot_then).min(axis=0)
        self.margin[who[live]] = np.minimum(self.margin[who[live]], room[live])
        self.done[who[flowed]] = march.seconds - past[flowed]
        works = self.done[who[flowed & (self.margin[who] >= 0)]]
        self.enough_s = min(self.enough_s, _PAST_SHARE * float(works.min(initial=math.inf)) + _PAST_S)
        self.running = live & ~flowed & (self.margin[who] > -_FAR_OVER_C)

    def keep(self, columns: NDArray[np.bool_]) -> None:
        """Put what has ended aside and go on with the rest."""
        self._short(~columns)
        self.who, self.at, self.fresh = self.who[columns], self.at[columns], self.fresh[columns]
        self.running, self.film = self.running[columns], self.film[:, columns]
        self.lasting, self.reached = self.lasting[:, columns], self.reached[:, columns]
        self.cool, self.hot, self.best = self.cool[:, columns], self.hot[:, columns], self.best[:, columns]

    def _short(self, columns: NDArray[np.bool_]) -> None:
        missing = np.maximum(0.0, self.trials.reach - self.best[:, columns])
        self.short[self.who[columns]] = np.where(self.reached[:, columns], 0.0, missing).sum(axis=0)

    def tried(self) -> list[Tried]:
        """Give what each programme brought."""
        self._short(np.ones(len(self.who), bool))
        return [
            Tried(one, float(self.done[n]), float(self.margin[n]), float(self.short[n]))
            for n, one in enumerate(self.programmes)
        ]


def _less_when_dry(touch: Touch) -> Floats:
    glassy = np.minimum(touch.metal_w_k, touch.area_m2 * GLASSY_W_M2K)
    made: Floats = glassy - np.minimum(touch.metal_w_k, touch.area_m2 * DRY_W_M2K)
    return made


def _table(programmes: list[Programme]) -> tuple[NDArray[np.int64], NDArray[np.int64], Floats]:
    """Give aims, settings and the ends of stages, s, of programmes as arrays; the last stage has no end."""
    longest = max(len(programme.aims) for programme in programmes)
    aims = np.zeros((len(programmes), longest), np.int64)
    settings = np.zeros((len(programmes), longest), np.int64)
    ends = np.full((len(programmes), longest), np.inf)
    for n, one in enumerate(programmes):
        count = len(one.aims)
        aims[n, :count], settings[n, :count] = one.aims, one.settings
        aims[n, count:], settings[n, count:] = one.aims[-1], one.settings[-1]
        ends[n, : count - 1] = np.cumsum(one.seconds[:-1])
    return aims, settings, ends

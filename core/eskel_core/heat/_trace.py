"""What the middle hand sees, moment by moment, and the band in which the others see it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from . import _asked as columns
from ._follow import MIDDLE, Followable, Followed
from ._grid import Floats
from ._setup import Event, HeatSetup, Stage
from ._ways import Ways

_NOTED_EVERY_S, _BAND_EVERY_S = 0.25, 1.0
_OTHERS = np.arange(1, 65)


@dataclass(frozen=True)
class Trace:
    """What was seen: `times_s` (k), every cell's temperature `t_c` (k, n), events, when each goal was reached, how long each
    stage took, and the memory of the block at the end."""

    times_s: Floats
    t_c: Floats
    events: tuple[Event, ...]
    reached: dict[str, float]
    tightest: tuple[str, float, float] | None
    stages_s: list[float]
    block: Floats

    def done_s(self, setup: HeatSetup) -> float | None:
        """When the last goal was reached, s; None when one never was."""
        if any(goal.id not in self.reached for goal in setup.goals):
            return None
        last = max((self.reached[goal.id] for goal in setup.goals), default=0.0)
        # What is ended by its glow goes on past the last goal, until that is seen.
        return max(last, sum(self.stages_s)) if any(goal.ever for goal in setup.goals) else last


def traced(ways: Ways, stages: tuple[Stage, ...]) -> Trace:
    """Let the middle hand follow a programme from the lit torch to its end, drying and all, whatever comes of it."""
    ready = ways.ready
    one = ready.follow((*ways.dry, *stages), MIDDLE, stop=False, noted_every_s=_NOTED_EVERY_S)
    came, setup = one.came, ready.setup
    count = int(came.noted[0])
    times, t = came.times[0, :count].copy(), came.history[0, :count].copy()
    reached = {
        goal.id: float(at) for goal, at in zip(setup.goals, came.reached_s[0], strict=True) if np.isfinite(at)
    }
    of = came.of[0]
    limit = int(of[columns.MARGIN_OF])
    tightest = None
    if limit >= 0:
        tightest = setup.limits[limit].id, float(of[columns.MARGIN_C]), float(of[columns.MARGIN_S])
    return Trace(
        times_s=times,
        t_c=t,
        events=_events(setup, times, t, reached),
        reached=reached,
        tightest=tightest,
        stages_s=stage_seconds(one, 0),
        block=came.modes[0].copy(),
    )


def stage_seconds(one: Followed, row: int) -> list[float]:
    """Give how long a hand is at each stage, s, its places together."""
    made, times = [0.0] * len(one.stages), one.came.stage_s[row]
    for n, stage in enumerate(one.groups):
        made[stage] += float(times[n + 1] - times[n])
    return made


def band(
    ready: Followable, whole: tuple[Stage, ...], times: Floats, lines: list[tuple[Floats, bool]]
) -> list[tuple[Floats, Floats]]:
    """Give what the hands between one and nine tenths see at some times, line by line: (low, high), °C.

    A line is weights over the cells, or, where it is told, cells of which the coolest counts.
    """
    followed_by_all = ready.follow(whole, _OTHERS, stop=False, noted_every_s=_BAND_EVERY_S)
    came = followed_by_all.came
    seen = np.empty((len(lines), len(_OTHERS), len(times)))
    for hand in range(len(_OTHERS)):
        count = int(came.noted[hand])
        at, t = came.times[hand, :count], came.history[hand, :count]
        for n, (weights, coolest) in enumerate(lines):
            values = t[:, weights.astype(int)].min(axis=1) if coolest else t @ weights
            seen[n, hand] = np.interp(times, at, values)
    low, high = np.quantile(seen, [0.1, 0.9], axis=1)
    return list(zip(low, high, strict=True))


def _events(setup: HeatSetup, times: Floats, t: Floats, reached: dict[str, float]) -> tuple[Event, ...]:
    """Tell each sign once for all places of a join: when the last of them shows it."""
    found: list[Event] = []

    def first(kind: str, about: str, values: Floats, from_c: float) -> None:
        there = np.flatnonzero(values >= from_c)
        if len(there):
            n = int(there[0])
            found.append(Event(round(float(times[n]), 3), kind, about, round(float(values[n]), 1)))

    flux, network = setup.flux, setup.network
    for name in dict.fromkeys(touch.join for touch in network.touches):
        touches = [touch for touch in network.touches if touch.join == name]
        cells = np.unique(np.concatenate([touch.seam for touch in touches]))
        if setup.brought is not None:
            cells = np.setdiff1d(cells, network.cells(setup.brought.node))
        coolest = t[:, cells].min(axis=1)
        if flux is not None:
            for kind, at in (
                ("steam", flux.steam_c),
                ("crust", flux.crust_c),
                ("dark", flux.dark_c),
                ("clear", flux.clear_c),
            ):
                if at is not None:
                    first(kind, name, coolest, at)
            _spent(setup, name, times, t[:, cells], reached, found)
        places = [touch.place for touch in touches]
        if all(place in reached for place in places):
            last = max(reached[place] for place in places)
            reach = next(goal.reach_c for goal in setup.goals if goal.id == places[0])
            found.append(Event(round(last, 3), "reached", name, reach))
    touched = {touch.place for touch in network.touches}
    for goal in setup.goals:
        if goal.id in reached and goal.id not in touched:
            found.append(Event(round(reached[goal.id], 3), "reached", goal.id, goal.reach_c))
    for limit in setup.limits:
        hottest = t[:, limit.cells].max(axis=1)
        if limit.soft_c is not None:
            first("soft" if limit.kind == "join" else "glistens", limit.id, hottest, limit.soft_c)
        first("runs-again" if limit.kind == "join" else "slumps", limit.id, hottest, limit.below_c)
    return tuple(sorted(found, key=lambda one: (one.seconds, one.about, one.kind)))


def _spent(
    setup: HeatSetup, name: str, times: Floats, seam: Floats, reached: dict[str, float], found: list[Event]
) -> None:
    """Tell when the flux of a join is spent, by its minutes at heat or by being too hot; not once it has run."""
    flux = setup.flux
    if flux is None or not len(times):
        return
    clear = np.concatenate([[0.0], np.cumsum(np.diff(times) * (seam.mean(axis=1)[1:] >= flux.clear_c))])
    over = (clear > 60 * flux.minutes_at_heat) | (seam.max(axis=1) >= flux.spent_c)
    there = np.flatnonzero(over)
    ran = max((at for place, at in reached.items() if place.partition("#")[0] == name), default=np.inf)
    if len(there) and times[there[0]] < ran:
        n = int(there[0])
        found.append(Event(round(float(times[n]), 3), "spent", name, round(float(seam[n].max()), 1)))

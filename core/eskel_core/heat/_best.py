"""The best programme for a heat: searched for on the simpler march, rehearsed in full before it is believed."""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable
from dataclasses import dataclass, replace

from ._aims import Aim, Stage
from ._rehearse import rehearse
from ._search import search
from ._setup import HeatSetup, Trace
from ._trials import OVER_COSTS, SHORT_COSTS, STAGE_COSTS_S, Trials, Tried

_ROUNDS = 3
_GENERATIONS, _MORE_GENERATIONS = 10, 4
# So many of those that a search finds are rehearsed in full: where some work, and where none does.
_REHEARSED, _REHEARSED_IN_VAIN = 8, 3
# The rough body's margin is taken to be off by at most so much, °C; a search in vain is made again with so much more time.
_MOST_OFF_C, _LONGER, LONGEST_SEARCHED_S = 40.0, 2.5, 300.0


@dataclass(frozen=True)
class Found:
    """A programme with its rehearsal.

    `margin_c` is what the tightest limit was missed by, `short_c` what the goals fell short of together and `most_short_c`
    the one that fell shortest; `works` is to reach every goal and keep the margin.
    """

    stages: tuple[Stage, ...]
    trace: Trace
    done_s: float | None
    margin_c: float
    short_c: float
    most_short_c: float
    works: bool


def best_programme(
    setup: HeatSetup,
    aims: tuple[Aim, ...],
    rough: tuple[HeatSetup, tuple[Aim, ...]],
    plain: Found,
    longest_s: float,
    margin_c: float,
    generations: int = _GENERATIONS,
    tick: Callable[[float], None] | None = None,
    rounds: int = _ROUNDS,
) -> Found:
    """Find the programme that brings every goal to its temperature soonest and keeps every limit with the margin.

    It is searched for on a `rough` body of fewer cells with its aims, and rehearsed on the fine one; what comes of it
    is better than a `plain` programme rehearsed before, or that. Where none does, the one is given that comes nearest: limits kept with less than the margin before limits broken, everything
    flowed before not. `tick` is told how far a round of the search is, 0 to 1, and may raise to stop it.
    """
    by_key = {aim.key: aim for aim in aims}
    coarse, some = rough
    some = tuple(aim for aim in some if aim.key in by_key)
    spare, known, best, seen = margin_c, None, plain, {_key(plain.stages): plain}
    for _ in range(rounds):
        trials = Trials(coarse, some, longest_s, spare)
        ranked = search(trials, generations, known, tick=tick)
        offs = [0.0]
        for one in _unlike(ranked, _REHEARSED if ranked[0].works else _REHEARSED_IN_VAIN):
            stages = tuple(replace(stage, aim=by_key[stage.aim.key]) for stage in one.programme.stages(some))
            found = seen.get(_key(stages)) or run(setup, stages, longest_s, margin_c)
            seen[_key(stages)] = found
            best = min(best, found, key=lambda one: rank_of(one, margin_c))
            offs.append(min(_MOST_OFF_C, max(0.0, one.margin_c + spare - found.margin_c)))
            if found.works and one is ranked[0]:
                break
        if best.works:
            break
        if math.isinf(ranked[0].done_s):
            # Nothing yet: a flame that is turned further down takes longer.
            if longest_s >= LONGEST_SEARCHED_S:
                break
            longest_s = min(LONGEST_SEARCHED_S, _LONGER * longest_s)
        spare = margin_c + statistics.median_high(offs) + 1.0
        known, generations = [one.programme for one in ranked[:48]], min(generations, _MORE_GENERATIONS)
    return simpler(setup, best, longest_s, margin_c)


def simpler(setup: HeatSetup, found: Found, longest_s: float, margin_c: float) -> Found:
    """Leave out every stage without which a programme is as good: fewer words to follow with a flame in the hand."""
    n = 0
    while n < len(found.stages) and len(found.stages) > 1:
        less = _joined(found.stages[:n] + found.stages[n + 1 :])
        tried = run(setup, less, longest_s, margin_c)
        if rank_of(tried, margin_c) <= rank_of(found, margin_c):
            found = tried
        else:
            n += 1
    return found


def _key(stages: tuple[Stage, ...]) -> tuple[tuple[str, float, float | None], ...]:
    return tuple((stage.aim.key, stage.setting, stage.seconds) for stage in stages)


def _joined(stages: tuple[Stage, ...]) -> tuple[Stage, ...]:
    """Make one of neighbours that do the same; the last one goes on until everything is done."""
    made: list[Stage] = []
    for stage in stages:
        before = made[-1] if made else None
        if before is not None and (before.aim.key, before.setting) == (stage.aim.key, stage.setting):
            long = None if stage.seconds is None or before.seconds is None else before.seconds + stage.seconds
            made[-1] = replace(before, seconds=long)
        else:
            made.append(stage)
    return (*made[:-1], replace(made[-1], seconds=None))


def run(
    setup: HeatSetup, stages: tuple[Stage, ...], longest_s: float, margin_c: float, *, go_on: bool = False
) -> Found:
    """Rehearse a programme in full and judge it; with `go_on` to the end of the time, whatever comes of it."""
    trace = rehearse(setup, stages, longest_s, go_on=go_on)
    done = trace.done_s(setup.goals)
    margin = trace.tightest[1] if trace.tightest is not None else math.inf
    short = [
        max(0.0, goal.reach_c - float(trace.t_c[:, goal.cells].min(axis=1).max()))
        for goal in setup.goals
        if goal.id not in trace.reached
    ]
    works = done is not None and margin >= margin_c
    return Found(stages, trace, done, margin, sum(short), max(short, default=0.0), works)


def rank_of(found: Found, margin_c: float) -> tuple[int, float]:
    """Give how good a programme is, the least best: it works; it keeps its limits; it comes near, in what it weighs.

    A stage is worth half a second or a degree: what brings less is not worth its words.
    """
    stages = len(found.stages)
    if found.works and found.done_s is not None:
        return 0, found.done_s + STAGE_COSTS_S * stages
    if found.done_s is not None and found.margin_c >= 0:
        return 1, stages - found.margin_c
    return 2, SHORT_COSTS * found.short_c + OVER_COSTS * (stages + max(0.0, -found.margin_c))


def _unlike(ranked: list[Tried], most: int) -> list[Tried]:
    """Give the first few that differ in more than the length of a stage."""
    kept: dict[tuple[tuple[int, ...], int], Tried] = {}
    for one in ranked:
        kept.setdefault((one.programme.aims, round(one.done_s) if one.works else -1), one)
        if len(kept) >= most:
            break
    return list(kept.values())

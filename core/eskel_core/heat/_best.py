"""The best programme for a heat: searched for on the simpler march, rehearsed in full before it is believed."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from ._aims import Aim, Stage
from ._rehearse import Asked, Trace, rehearse
from ._search import search
from ._trials import Trials, Tried

_ROUNDS = 3
_GENERATIONS, _MORE_GENERATIONS = 10, 4
_REHEARSED = 8


@dataclass(frozen=True)
class Found:
    """A programme with its rehearsal. `margin_c` is what the tightest limit was missed by; `works` keeps the margin."""

    stages: tuple[Stage, ...]
    trace: Trace
    done_s: float | None
    margin_c: float
    works: bool


def best_programme(
    asked: Asked,
    aims: tuple[Aim, ...],
    rough: tuple[Asked, tuple[Aim, ...]],
    longest_s: float,
    margin_c: float,
    generations: int = _GENERATIONS,
    tick: Callable[[float], None] | None = None,
    rounds: int = _ROUNDS,
) -> Found:
    """Find the programme that brings every goal to its temperature soonest and keeps every limit with the margin.

    It is searched for on a `rough` body of fewer cells with its aims, and rehearsed on the fine one. Where none
    does, the one is given that comes nearest: limits kept with less than the margin before limits broken, everything
    flowed before not. `tick` is told how far a round of the search is, 0 to 1, and may raise to stop it.
    """
    by_key = {aim.key: aim for aim in aims}
    coarse, some = rough
    some = tuple(aim for aim in some if aim.key in by_key)
    spare, known, best = margin_c, None, None
    for _ in range(rounds):
        trials = Trials(coarse, some, longest_s, spare)
        ranked = search(trials, generations, known, tick=tick)
        off = 0.0
        for one in _unlike(ranked):
            stages = tuple(replace(stage, aim=by_key[stage.aim.key]) for stage in one.programme.stages(some))
            found = run(asked, stages, longest_s, margin_c)
            best = found if best is None or _rank(found, margin_c) < _rank(best, margin_c) else best
            off = max(off, min(40.0, one.margin_c + spare - found.margin_c))
            if found.works and one is ranked[0]:
                break
        if best is None or best.works or math.isinf(ranked[0].done_s):
            break
        spare = margin_c + off + 1.0
        known, generations = [one.programme for one in ranked[:48]], min(generations, _MORE_GENERATIONS)
    if best is None:
        raise AssertionError("a search gives at least one programme")
    return best


def run(asked: Asked, stages: tuple[Stage, ...], longest_s: float, margin_c: float) -> Found:
    """Rehearse a programme in full and judge it."""
    trace = rehearse(asked, stages, longest_s)
    done = trace.done_s(asked.goals)
    margin = trace.tightest[1] if trace.tightest is not None else math.inf
    return Found(stages, trace, done, margin, done is not None and margin >= margin_c)


def _rank(found: Found, margin_c: float) -> tuple[int, float]:
    if found.works and found.done_s is not None:
        return 0, found.done_s + len(found.stages) * 0.5
    if found.done_s is not None and found.margin_c >= 0:
        return 1, -found.margin_c
    if found.done_s is not None:
        return 2, -found.margin_c
    return 3, -float(found.trace.t_c[-1].max())


def _unlike(ranked: list[Tried]) -> list[Tried]:
    """Give the first few that differ in more than the length of a stage."""
    kept: dict[tuple[tuple[int, ...], int], Tried] = {}
    for one in ranked:
        kept.setdefault((one.programme.aims, round(one.done_s) if one.works else -1), one)
        if len(kept) >= _REHEARSED:
            break
    return list(kept.values())

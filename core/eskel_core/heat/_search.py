"""Find where to point the flame: many programmes marched side by side, the better ones varied again.

A programme has at most six stages of an aim, a setting and a time, all in round numbers that a smith can follow.
The search marches a body on which flux counts as glassy from the start; what it finds is rehearsed in full before it
is believed. It draws from a generator with a fixed seed: the same body has the same programme.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from ._trials import SETTINGS, Programme, Trials, Tried

MOST_STAGES = 6
_BESIDE = 48
# How often an aim, a setting, a time is changed, a stage put in, taken out, or moved.
_CHANCES = (0.2, 0.25, 0.3, 0.12, 0.08, 0.05)
_ELITE = 12
# So many generations without anything better end a search: of one that has found something, and of one that has not.
_ENOUGH, _IN_VAIN = 2, 4


def search(
    trials: Trials,
    generations: int,
    known: list[Programme] | None = None,
    seed: int = 7,
    tick: Callable[[float], None] | None = None,
) -> list[Tried]:
    """Give the programmes found, the best first: seeds of the trade, then what comes of varying the better ones.

    `known` programmes are begun with instead of the seeds. `tick` is told how far it is, 0 to 1, and may raise to stop.
    """
    draw = np.random.default_rng(seed)
    found: dict[Programme, Tried] = {}
    fresh = known or _first(trials, draw)
    still, best = 0, math.inf
    for generation in range(generations):
        if tick is not None:
            tick(generation / generations)
        for one in trials.march(fresh):
            found[one.programme] = one
        ranked = sorted(found.values(), key=_rank)
        still = still + 1 if ranked[0].cost > best - 0.4 else 0
        best = min(best, ranked[0].cost)
        if still >= (_ENOUGH if ranked[0].works else _IN_VAIN):
            break
        fresh = _next(ranked[:_ELITE], found, len(trials.aims), draw)
    return sorted(found.values(), key=_rank)


def _rank(one: Tried) -> tuple[float, tuple[int, ...], tuple[int, ...], tuple[float, ...]]:
    return one.cost, one.programme.aims, one.programme.settings, one.programme.seconds


def at_random(count: int, aims: int, seed: int) -> list[Programme]:
    """Draw programmes at random: the reference that a search is held against."""
    draw = np.random.default_rng(seed)
    return [_plain(_random(aims, draw)) for _ in range(count)]


def _random(aims: int, draw: np.random.Generator) -> Programme:
    stages = int(draw.integers(1, MOST_STAGES + 1))
    return Programme(
        tuple(int(integer) for integer in draw.integers(aims, size=stages)),
        tuple(int(integer) for integer in draw.integers(len(SETTINGS), size=stages)),
        tuple(_round(float(one)) for one in draw.exponential(12.0, size=stages)),
    )


def _plain(one: Programme) -> Programme:
    """The last stage goes on until everything flows: its time says nothing."""
    return Programme(one.aims, one.settings, (*one.seconds[:-1], 0.0))


def _first(trials: Trials, draw: np.random.Generator) -> list[Programme]:
    """Seeds: every aim alone at full, half and low flame, and the whole warmed before an aim."""
    full, half, low = len(SETTINGS) - 1, 3, 0
    many = range(len(trials.aims))
    seeds = [Programme((aim,), (setting,), (0.0,)) for setting in (full, half, low) for aim in many]
    seeds += [
        Programme((0, aim), (full, setting), (seconds, 0.0))
        for seconds in (8.0, 20.0)
        for setting in (full, half)
        for aim in many
        if aim
    ]
    if len(seeds) > 2 * _BESIDE:
        chosen = draw.permutation(len(seeds))[: 2 * _BESIDE]
        seeds = [seeds[n] for n in sorted(chosen)]
    return seeds


def _next(
    elite: list[Tried], found: dict[Programme, Tried], aims: int, draw: np.random.Generator
) -> list[Programme]:
    fresh: dict[Programme, None] = {}
    for _ in range(20 * _BESIDE):
        if len(fresh) >= _BESIDE:
            break
        parent = elite[int(len(elite) * draw.random() ** 1.5)].programme
        child = (
            _crossed(parent, elite[int(draw.integers(len(elite)))].programme, draw)
            if draw.random() < 0.2
            else parent
        )
        for _ in range(1 + int(draw.random() < 0.5) + int(draw.random() < 0.25)):
            child = _varied(child, aims, draw)
        child = _plain(child)
        if child not in found:
            fresh[child] = None
    return list(fresh) or [_random(aims, draw)]


def _crossed(one: Programme, other: Programme, draw: np.random.Generator) -> Programme:
    head = int(draw.integers(0, len(one.aims) + 1))
    tail = int(draw.integers(0, len(other.aims)))
    return Programme(
        (one.aims[:head] + other.aims[tail:])[:MOST_STAGES],
        (one.settings[:head] + other.settings[tail:])[:MOST_STAGES],
        (one.seconds[:head] + other.seconds[tail:])[:MOST_STAGES],
    )


def _varied(one: Programme, aims: int, draw: np.random.Generator) -> Programme:
    """Change one thing about a programme."""
    genes = list(zip(one.aims, one.settings, one.seconds, strict=True))
    at = int(draw.integers(len(genes)))
    aim, setting, seconds = genes[at]
    seconds = max(0.5, seconds)
    match int(draw.choice(6, p=_CHANCES)):
        case 0:
            genes[at] = (int(draw.integers(aims)), setting, seconds)
        case 1:
            step = int(draw.choice([-2, -1, 1, 2]))
            genes[at] = (aim, min(len(SETTINGS) - 1, max(0, setting + step)), seconds)
        case 2:
            genes[at] = (aim, setting, _round(max(1.0, seconds) * math.exp(float(draw.normal(0.0, 0.5)))))
        case 3 if len(genes) < MOST_STAGES:
            new = (
                int(draw.integers(aims)),
                int(draw.integers(len(SETTINGS))),
                _round(float(draw.exponential(6.0))),
            )
            genes.insert(at, new)
        case 4 if len(genes) > 1:
            del genes[at]
        case _:
            other = int(draw.integers(len(genes)))
            genes[at], genes[other] = genes[other], genes[at]
    return Programme(
        tuple(gene[0] for gene in genes),
        tuple(gene[1] for gene in genes),
        tuple(max(0.5, gene[2]) for gene in genes),
    )


def _round(seconds: float) -> float:
    """Round a time to what a smith can count: half seconds below 4, whole ones up to 20, then fives."""
    step = 0.5 if seconds < 4 else 1.0 if seconds < 20 else 5.0
    return float(min(240.0, max(step, round(seconds / step) * step)))

"""Sixty-four hands: plausible draws of a torch today, an eye, a wrist and a count, the same for every heat."""

from __future__ import annotations

import math
from functools import lru_cache
from statistics import NormalDist

import numpy as np

from ._asked import COUNTS, LATE_S, MISREAD_C, SETTING, STRENGTH
from ._grid import Floats

HANDS = 64
MOST_SPREAD, _WEAKEST = math.log(1.25), 0.75
_LATE_S = (0.4, 0.8, 1.6)
_MISREAD_C, _SETTING_OFF, _OFF_SHARE = 25.0, 0.1, 0.25
_COUNTS = (0.8, 1.25)
# Columns after those that the compiled march knows: how far off the aim is, in footprints, along and across.
OFF_X, OFF_Y = COUNTS + 1, COUNTS + 2


def _golden(dimensions: int) -> Floats:
    """Give the steps of the additive sequence: powers of one over the root of x^(d+1) = x + 1."""
    root = 2.0
    for _ in range(60):
        root = (1 + root) ** (1 / (dimensions + 1))
    made: Floats = root ** -np.arange(1.0, dimensions + 1)
    return made


@lru_cache(maxsize=64)
def hands_of(spread: float = MOST_SPREAD, count: int = HANDS) -> Floats:
    """Give the hands, (count, 7): strength of the torch, lateness s, misreading °C, setting, counting, aim off in x and y.

    The strength is log-normal by the bench's `spread` of its logarithm, at most 25 %; a flame that looks weaker than
    that is opened before it is used. They are points of the additive sequence of the generalised golden ratio in seven
    dimensions, x⁸ = x + 1 (Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018): even in every one.
    """
    unit = (0.5 + np.outer(np.arange(1, count + 1), _golden(7))) % 1.0
    normal = np.array([NormalDist().inv_cdf(float(one)) for one in unit[:, 0]])
    made = np.zeros((count, 7))
    made[:, STRENGTH] = np.maximum(_WEAKEST, np.exp(min(spread, MOST_SPREAD) * normal))
    least, middle, most = _LATE_S
    made[:, LATE_S] = np.interp(unit[:, 1], [0, 0.5, 1], [least, middle, most])
    made[:, MISREAD_C] = _MISREAD_C * (2 * unit[:, 2] - 1)
    made[:, SETTING] = _SETTING_OFF * (2 * unit[:, 3] - 1)
    made[:, COUNTS] = np.exp(np.interp(unit[:, 4], [0, 1], np.log(_COUNTS)))
    far, turn = _OFF_SHARE * np.sqrt(unit[:, 5]), 2 * math.pi * unit[:, 6]
    made[:, OFF_X], made[:, OFF_Y] = far * np.cos(turn), far * np.sin(turn)
    made.setflags(write=False)
    return made


@lru_cache(maxsize=64)
def all_hands(spread: float = MOST_SPREAD) -> Floats:
    """Give the hand in the middle of all, then the sixty-four, (65, 7)."""
    middle = np.zeros((1, 7))
    middle[0, STRENGTH], middle[0, LATE_S], middle[0, COUNTS] = 1.0, _LATE_S[1], 1.0
    made = np.concatenate([middle, hands_of(spread)])
    made.setflags(write=False)
    return made

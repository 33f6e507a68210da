"""The memory of the block: a half-space behind the contact, kept as modes that each forget at their own pace.

The surface of a half-space of effusivity e under a flux q warms by ∫ q(s) / (e·√(π·(t − s))) ds. The kernel
1/√(π·t) = (1/π)·∫ exp(−λ·t)·λ^(−1/2) dλ is summed over λ in even steps of its logarithm (the trapezoid rule,
which is off by less than 0.1 % at this spacing); what is faster than a step stands as a resistance.
"""

from __future__ import annotations

import math

import numpy as np

from ._grid import Floats

_SPACING = 1.2
_SLOWEST, _FASTEST = 2e-5, 8.0
_LOGS = np.arange(math.log(_SLOWEST), math.log(_FASTEST), _SPACING)
# All that is slower than the slowest, which does not fade within an hour, is one more mode.
_REST = float(_SPACING / math.pi * np.exp((_LOGS[0] - _SPACING * np.arange(1, 60)) / 2).sum())
PACES: Floats = np.concatenate([[1e-9], np.exp(_LOGS)])
WEIGHTS: Floats = np.concatenate([[_REST], _SPACING / math.pi * np.exp(_LOGS / 2)])
# The modes faster than the fastest kept, Σ w/λ: at once in balance with the flux. √s
AT_ONCE = float(_SPACING / math.pi * np.exp(-(_LOGS[-1] + _SPACING * np.arange(1, 60)) / 2).sum())


def rested(modes: Floats, ground_m2: Floats, rest_s: float) -> Floats:
    """Give what a block remembers of a heat, (m) K, where the work lay, so many seconds after the flame has gone."""
    if not len(ground_m2) or ground_m2.sum() <= 0:
        return np.zeros(len(PACES))
    made: Floats = (modes @ ground_m2) / ground_m2.sum() * np.exp(-PACES * rest_s)
    return made


def conductance_w_m2k(effusivity: float, contact_w_m2k: Floats) -> Floats:
    """Give what passes from each cell to the modes behind its contact, W/m²K; the contact alone on air."""
    if effusivity <= 0:
        return contact_w_m2k
    made: Floats = contact_w_m2k / (1 + contact_w_m2k * AT_ONCE / effusivity)
    return made

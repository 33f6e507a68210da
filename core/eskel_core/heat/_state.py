"""A body made ready for the compiled march, and how it stands: `Work` and `State`, flat arrays and the places in them.

Everything in these rooms is plain loops over flat arrays for the compiler (numba).
"""

from __future__ import annotations

import math
from typing import Any, NamedTuple, TypeVar

import numpy as np
from numba import njit

LONGEST_S, SHORTEST_S, FIRST_S = 1.0, 1 / 1024, 1 / 32
# By how much, K, the solution of first order may differ from that of the second, which is better by far (docs/heat.md):
# below the first the next step is twice as long, above the second half, above the third the step is made again.
TURN_LEAST_C, TURN_C, TURN_MOST_C = 0.1, 0.5, 1.0
# Places in `State.now`.
(
    SECONDS,
    NEXT_S,
    AIMED_S,
    STEP_S,
    FACTORED,
    SEEN,
    GIVEN_J,
    LOST_J,
    SUNK_J,
    GIVEN_W,
    LOST_W,
    SUNK_W,
    EASE,
    STEPS,
    FACTOR_S,
) = range(15)
NOW = 15

F = TypeVar("F")


def compiled(function: F) -> F:
    """Compile a function of plain loops when it is first called; what was compiled is kept for the next process."""
    made: F = njit(cache=True, nogil=True, error_model="numpy")(function)
    return made


class Work(NamedTuple):
    """A body made ready: arrays over cells, links (W/K) and ground cells, and where the factors of its matrix stand."""

    capacity: Any
    latent: Any
    solidus: Any
    liquidus: Any
    radiating: Any
    clean: Any
    change: Any
    link_i: Any
    link_j: Any
    factors: Any
    ground: Any
    ground_m2: Any
    pass_w_k: Any
    effusivity: float
    paces: Any
    weights: Any
    sinks: Any
    sink_w_k: Any


class State(NamedTuple):
    """How a march stands: temperatures, °C, the block's modes, K, the scalars of `NOW`, and room to reckon in."""

    t: Any
    modes: Any
    now: Any
    melting: Any
    matrix: Any
    flow: Any
    down: Any
    flow2: Any
    down2: Any
    k1: Any
    k2: Any
    warm: Any
    ahead: Any
    half_gain: Any
    turned: Any
    fade: Any
    gain: Any


@compiled
def begun(w, room_c):
    """Give the state of a body at the room's temperature."""
    n, g, m = len(w.capacity), len(w.ground), len(w.paces)
    now = np.zeros(NOW)
    now[NEXT_S] = now[STEP_S] = FIRST_S
    now[EASE] = 1.0
    return State(
        np.full(n, room_c),
        np.zeros((m, g)),
        now,
        np.zeros(n, np.bool_),
        np.zeros(int(w.factors.begins[n])),
        np.zeros(n),
        np.zeros(g),
        np.zeros(n),
        np.zeros(g),
        np.zeros(n),
        np.zeros(n),
        np.zeros(g),
        np.zeros(g),
        np.zeros(g),
        np.zeros(n),
        np.zeros(m),
        np.zeros(m),
    )


@compiled
def aimed(w, s, film, gas_c, room_c):
    """The flame has moved: steps begin short again, so long that even the fastest cell bends by no more than it may."""
    fastest = 0.0
    for i in range(len(w.capacity)):
        fastest = max(fastest, film[i] / w.capacity[i])
    s.now[AIMED_S] = s.now[SECONDS]
    bends = fastest * math.sqrt(max(gas_c - room_c, 1.0) / (2 * TURN_C * s.now[EASE]))
    s.now[NEXT_S] = FIRST_S / 2.0 ** max(0.0, math.ceil(math.log2(max(FIRST_S * bends, 1e-9))))
    s.now[FACTORED] = s.now[SEEN] = 0.0


@compiled
def pace(w, s, step_s):
    """Go on in steps of another length, s; the block's answer to a step's own flux stands in the same equation."""
    s.now[STEP_S] = step_s
    gain = 0.0
    if w.effusivity > 0:
        for k in range(len(w.paces)):
            s.fade[k] = math.exp(-w.paces[k] * step_s)
            s.gain[k] = w.weights[k] * -math.expm1(-w.paces[k] * step_s) / w.paces[k] / w.effusivity
            gain += s.gain[k]
    for q in range(len(w.ground)):
        s.half_gain[q] = gain / max(w.ground_m2[q], 1e-30) / 2
        s.ahead[q] = w.pass_w_k[q] / (1 + w.pass_w_k[q] * s.half_gain[q])

"""One step of the march, compiled: flows, the matrix of a step in its envelope, its factors, and the step itself.

Everything here is plain loops over flat arrays for the compiler (numba). `Work` is a body made ready, `State` how it
stands. The method and its bounds are told in `_march`.
"""

from __future__ import annotations

import math
from typing import Any, NamedTuple, TypeVar

import numpy as np
from numba import njit

SIGMA = 5.670374419e-8
KELVIN = 273.15
ROOM4 = (20.0 + KELVIN) ** 4
GAMMA = 1 - 1 / math.sqrt(2)
RAMP_FROM_C, RAMP_OVER_C = 300.0, 300.0
LONGEST_S, SHORTEST_S, FIRST_S = 1.0, 1 / 1024, 1 / 32
MELTING_S, LATER = 0.125, 20.0
# By how much, K, the solution of first order may differ from that of the second, which is better by far (docs/heat.md):
# below the first the next step is twice as long, above the second half, above the third the step is made again.
TURN_LEAST_C, TURN_C, TURN_MOST_C = 0.1, 0.5, 1.0
# The method keeps its order whatever matrix it is given: with ease, factors serve for steps that are about as long.
KEPT_FROM, KEPT_TO = 0.6, 1.7
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
    """A body made ready: arrays over cells, links (W/K) and ground cells; `place` is where a cell stands in the envelope.

    Row `r` of the envelope begins at column `first[r]` and at `row[r]` in its values, its diagonal last.
    """

    capacity: Any
    latent: Any
    solidus: Any
    liquidus: Any
    radiating: Any
    clean: Any
    change: Any
    link_i: Any
    link_j: Any
    place: Any
    first: Any
    row: Any
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
    env: Any
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
        np.zeros(w.row[n]),
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


@compiled
def factor(w, s, g, film, still):
    """Factor the matrix of a step with the slopes of now: Cholesky within its envelope (George and Liu 1981)."""
    n, env, row, first, place = len(w.capacity), s.env, w.row, w.first, w.place
    env[:] = 0.0
    ahead = GAMMA * s.now[STEP_S]
    for i in range(n):
        t = s.t[i]
        kelvin = t + KELVIN
        share = min(1.0, max(0.0, (t - RAMP_FROM_C) / RAMP_OVER_C))
        cube = kelvin * kelvin * kelvin
        radiating = 4 * (w.clean[i] + w.change[i] * RAMP_OVER_C * share) * cube
        if RAMP_FROM_C < t < RAMP_FROM_C + RAMP_OVER_C:
            radiating += w.change[i] * max(cube * kelvin - ROOM4, 0.0)
        slope = film[i] + w.radiating[i] * radiating + still[i]
        takes = w.capacity[i]
        if s.melting[i]:
            takes += w.latent[i] / (w.liquidus[i] - w.solidus[i])
        env[row[place[i] + 1] - 1] = takes + ahead * slope
    for q in range(len(w.sinks)):
        env[row[place[w.sinks[q]] + 1] - 1] += ahead * w.sink_w_k[q]
    for q in range(len(w.ground)):
        env[row[place[w.ground[q]] + 1] - 1] += ahead * s.ahead[q]
    for link in range(len(g)):
        a, b = place[w.link_i[link]], place[w.link_j[link]]
        if a == b:
            continue
        env[row[a + 1] - 1] += ahead * g[link]
        env[row[b + 1] - 1] += ahead * g[link]
        if a < b:
            a, b = b, a
        env[row[a] + b - first[a]] -= ahead * g[link]
    # Rows are cut out first: the compiler then knows that no place in them lies before their beginning.
    for i in range(n):
        begins = first[i]
        mine = env[row[i] : row[i + 1]]
        for j in range(begins, i):
            least = max(begins, first[j])
            left = mine[least - begins : j - begins]
            other = env[row[j] + least - first[j] : row[j + 1]]
            total = mine[j - begins]
            for k in range(len(left)):
                total -= left[k] * other[k]
            mine[j - begins] = total * other[len(left)]
        total = mine[i - begins]
        for k in range(len(mine) - 1):
            total -= mine[k] * mine[k]
        # The diagonal is kept as its inverse.
        mine[i - begins] = 1.0 / math.sqrt(total)
    s.now[FACTORED], s.now[FACTOR_S] = 1.0, s.now[STEP_S]


@compiled
def solve(w, s, right, out):
    """Solve with the factors of a step."""
    n, env, row, first, place, y = len(right), s.env, w.row, w.first, w.place, s.turned
    for i in range(n):
        y[place[i]] = right[i]
    for i in range(n):
        mine, known = env[row[i] : row[i + 1]], y[first[i] : i]
        total = y[i]
        for k in range(len(known)):
            total -= mine[k] * known[k]
        y[i] = total * mine[len(known)]
    for i in range(n - 1, -1, -1):
        mine, others = env[row[i] : row[i + 1]], y[first[i] : i]
        value = y[i] * mine[len(others)]
        y[i] = value
        for k in range(len(others)):
            others[k] -= mine[k] * value
    for i in range(n):
        out[i] = y[place[i]]


@compiled
def flows(w, g, t, film, still, gas_c, most_w, room_c, warm, passes, flow, down):
    """Give what flows into each cell and out to a block that is warm by so many K, W; and what is given, lost and sunk."""
    room4 = (room_c + KELVIN) ** 4
    given = lost = sunk = 0.0
    for i in range(len(t)):
        value = film[i] * (gas_c - t[i])
        flow[i] = value
        given += value
    if given > most_w:
        share = most_w / given
        for i in range(len(t)):
            flow[i] *= share
        given = most_w
    for i in range(len(t)):
        kelvin = t[i] + KELVIN
        kelvin *= kelvin
        share = min(max(t[i] - RAMP_FROM_C, 0.0), RAMP_OVER_C)
        gone = w.radiating[i] * (w.clean[i] + w.change[i] * share) * (kelvin * kelvin - room4)
        gone += still[i] * (t[i] - room_c)
        flow[i] -= gone
        lost += gone
    for q in range(len(w.sinks)):
        gone = w.sink_w_k[q] * (t[w.sinks[q]] - room_c)
        flow[w.sinks[q]] -= gone
        lost += gone
    for link in range(len(g)):
        i, j = w.link_i[link], w.link_j[link]
        passed = g[link] * (t[i] - t[j])
        flow[i] -= passed
        flow[j] += passed
    for q in range(len(w.ground)):
        passed = passes[q] * (t[w.ground[q]] - room_c - warm[q])
        down[q] = passed
        flow[w.ground[q]] -= passed
        sunk += passed
    return given, lost, sunk


@compiled
def warmth(w, s):
    """Sum the modes: how warm the block is behind each contact, K."""
    s.warm[:] = 0.0
    if w.effusivity > 0:
        for k in range(len(w.paces)):
            for q in range(len(w.ground)):
                s.warm[q] += s.modes[k, q]


@compiled
def see(w, s, g, film, still, gas_c, most_w, room_c):
    """Reckon what flows now."""
    warmth(w, s)
    given, lost, sunk = flows(
        w, g, s.t, film, still, gas_c, most_w, room_c, s.warm, w.pass_w_k, s.flow, s.down
    )
    s.now[GIVEN_W], s.now[LOST_W], s.now[SUNK_W], s.now[SEEN] = given, lost, sunk, 1.0


@compiled
def see_melting(w, s):
    """Let what is between its solidus and liquidus now take up its heat of melting in the step to come."""
    changed = False
    for i in range(len(s.t)):
        melting = w.solidus[i] <= s.t[i] < w.liquidus[i]
        if melting != s.melting[i]:
            s.melting[i] = melting
            changed = True
    if changed:
        s.now[NEXT_S] = min(s.now[NEXT_S], MELTING_S)
        s.now[FACTORED] = 0.0


@compiled
def melted(w, i, before, after, takes):
    """Let the heat that a step brought go into melting between solidus and liquidus: enthalpy kept to the last joule."""
    latent = w.latent[i] / w.capacity[i]
    solidus, liquidus = w.solidus[i], w.liquidus[i]
    span = liquidus - solidus
    held = before + latent * min(1.0, max(0.0, (before - solidus) / span))
    held += takes / w.capacity[i] * (after - before)
    if held <= solidus:
        return held
    if held >= liquidus + latent:
        return held - latent
    return solidus + (held - solidus) / (1 + latent / span)


@compiled
def tried(w, s, g, film, still, gas_c, most_w, room_c, step_s):
    """Go one step of a length, s; give by how much, K, its two orders differ. Where that is too much nothing is done."""
    n = len(s.t)
    if step_s != s.now[STEP_S]:
        pace(w, s, step_s)
    ratio = step_s / s.now[FACTOR_S] if s.now[FACTORED] > 0.0 else 0.0
    serves = KEPT_FROM <= ratio <= KEPT_TO if s.now[EASE] > 1.0 else ratio == 1.0
    if not serves:
        factor(w, s, g, film, still)
    solve(w, s, s.flow, s.k1)
    for q in range(len(w.ground)):
        s.warm[q] = s.half_gain[q] * s.down[q] if w.effusivity > 0 else 0.0
    if w.effusivity > 0:
        for k in range(len(w.paces)):
            fade = s.fade[k]
            for q in range(len(w.ground)):
                s.warm[q] += fade * s.modes[k, q]
    for i in range(n):
        s.k2[i] = s.t[i] + step_s * s.k1[i]
    flows(w, g, s.k2, film, still, gas_c, most_w, room_c, s.warm, s.ahead, s.flow2, s.down2)
    for i in range(n):
        takes = w.capacity[i]
        if s.melting[i]:
            takes += w.latent[i] / (w.liquidus[i] - w.solidus[i])
        s.flow2[i] -= 2 * takes * s.k1[i]
    solve(w, s, s.flow2, s.k2)
    turn = 0.0
    for i in range(n):
        turn = max(turn, abs(s.k1[i] + s.k2[i]))
    turn *= step_s / 2
    if turn > TURN_MOST_C * s.now[EASE] and step_s > SHORTEST_S:
        return turn
    for i in range(n):
        after = s.t[i] + 1.5 * step_s * s.k1[i] + 0.5 * step_s * s.k2[i]
        if max(s.t[i], after) > w.solidus[i]:
            takes = w.capacity[i]
            if s.melting[i]:
                takes += w.latent[i] / (w.liquidus[i] - w.solidus[i])
            after = melted(w, i, s.t[i], after, takes)
        s.t[i] = after
    if w.effusivity > 0:
        for q in range(len(w.ground)):
            s.down2[q] = (s.down[q] + s.down2[q]) / 2 / max(w.ground_m2[q], 1e-30)
        for k in range(len(w.paces)):
            fade, gain = s.fade[k], s.gain[k]
            for q in range(len(w.ground)):
                s.modes[k, q] = fade * s.modes[k, q] + gain * s.down2[q]
    s.now[SECONDS] += step_s
    s.now[STEPS] += 1
    return turn


@compiled
def stepped(w, s, g, film, still, gas_c, most_w, room_c, until_s, longest_s):
    """Go on by one step of its own choice that does not pass a time, s."""
    see_melting(w, s)
    left = max(until_s - s.now[SECONDS], SHORTEST_S)
    if left > 2 * s.now[NEXT_S]:
        wanted = s.now[NEXT_S]
    elif left <= s.now[NEXT_S]:
        wanted = left
    else:
        wanted = left / 2
    if s.now[SEEN] == 0.0:
        see(w, s, g, film, still, gas_c, most_w, room_c)
    given, lost, sunk = s.now[GIVEN_W], s.now[LOST_W], s.now[SUNK_W]
    turn = tried(w, s, g, film, still, gas_c, most_w, room_c, wanted)
    while turn > TURN_MOST_C * s.now[EASE] and s.now[STEP_S] > SHORTEST_S:
        turn = tried(w, s, g, film, still, gas_c, most_w, room_c, s.now[STEP_S] / 2)
    step = s.now[STEP_S]
    if turn < TURN_LEAST_C * s.now[EASE]:
        s.now[NEXT_S] = max(s.now[NEXT_S], 2 * step)
    else:
        s.now[NEXT_S] = step if turn <= TURN_C * s.now[EASE] else step / 2
    s.now[NEXT_S] = min(max(longest_s, (s.now[SECONDS] - s.now[AIMED_S]) / LATER), s.now[NEXT_S])
    see(w, s, g, film, still, gas_c, most_w, room_c)
    s.now[GIVEN_J] += step / 2 * (given + s.now[GIVEN_W])
    s.now[LOST_J] += step / 2 * (lost + s.now[LOST_W])
    s.now[SUNK_J] += step / 2 * (sunk + s.now[SUNK_W])

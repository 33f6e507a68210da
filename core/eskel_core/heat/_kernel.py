"""One step of the march, compiled: flows, the matrix of a step, and the step itself.

The method and its bounds are told in `_march`.
"""

from __future__ import annotations

import math

from ..cooling import KELVIN, ROOM_C
from ._factors import factored, solved
from ._state import (
    AIMED_S,
    EASE,
    FACTOR_S,
    FACTORED,
    GIVEN_J,
    GIVEN_W,
    LOST_J,
    LOST_W,
    NEXT_S,
    SECONDS,
    SEEN,
    SHORTEST_S,
    STEP_S,
    STEPS,
    SUNK_J,
    SUNK_W,
    TURN_C,
    TURN_LEAST_C,
    TURN_MOST_C,
    compiled,
    pace,
)

ROOM4 = (ROOM_C + KELVIN) ** 4
GAMMA = 1 - 1 / math.sqrt(2)
RAMP_FROM_C, RAMP_OVER_C = 300.0, 300.0
MELTING_S, LATER = 0.125, 20.0
# The method keeps its order whatever matrix it is given: with ease, factors serve for steps that are about as long.
KEPT_FROM, KEPT_TO = 0.6, 1.7


@compiled
def factor(w, s, g, film, still):
    """Factor the matrix of a step with the slopes of now."""
    n, matrix, begins = len(w.capacity), s.matrix, w.factors.begins
    place, link_at = w.factors.place, w.factors.link
    matrix[:] = 0.0
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
        matrix[begins[place[i]]] = takes + ahead * slope
    for q in range(len(w.sinks)):
        matrix[begins[place[w.sinks[q]]]] += ahead * w.sink_w_k[q]
    for q in range(len(w.ground)):
        matrix[begins[place[w.ground[q]]]] += ahead * s.ahead[q]
    for link in range(len(g)):
        i, j = w.link_i[link], w.link_j[link]
        if i == j:
            continue
        matrix[begins[place[i]]] += ahead * g[link]
        matrix[begins[place[j]]] += ahead * g[link]
        matrix[link_at[link]] -= ahead * g[link]
    factored(w.factors, matrix)
    s.now[FACTORED], s.now[FACTOR_S] = 1.0, s.now[STEP_S]


@compiled
def flows(w, g, t, film, still, gas_c, most_w, room_c, warm, passes, flow, down):
    """Give what flows into each cell and out to a block that is warm by so many K, W; and what is given, lost and sunk."""
    room4 = (room_c + KELVIN) ** 4
    given = lost = sunk = 0.0
    radiating, clean, change, sinks, sink_w_k = w.radiating, w.clean, w.change, w.sinks, w.sink_w_k
    link_i, link_j, ground = w.link_i, w.link_j, w.ground
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
        gone = radiating[i] * (clean[i] + change[i] * share) * (kelvin * kelvin - room4)
        gone += still[i] * (t[i] - room_c)
        flow[i] -= gone
        lost += gone
    for q in range(len(sinks)):
        gone = sink_w_k[q] * (t[sinks[q]] - room_c)
        flow[sinks[q]] -= gone
        lost += gone
    for link in range(len(g)):
        i, j = link_i[link], link_j[link]
        passed = g[link] * (t[i] - t[j])
        flow[i] -= passed
        flow[j] += passed
    for q in range(len(ground)):
        passed = passes[q] * (t[ground[q]] - room_c - warm[q])
        down[q] = passed
        flow[ground[q]] -= passed
        sunk += passed
    return given, lost, sunk


@compiled
def warmth(w, s):
    """Sum the modes: how warm the block is behind each contact, K."""
    warm, modes = s.warm, s.modes
    warm[:] = 0.0
    if w.effusivity > 0:
        for k in range(len(w.paces)):
            mode = modes[k]
            for q in range(len(mode)):
                warm[q] += mode[q]


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
    t, k1, k2, flow2, melting, capacity = s.t, s.k1, s.k2, s.flow2, s.melting, w.capacity
    latent, solidus, liquidus = w.latent, w.solidus, w.liquidus
    warm, modes, half_gain, down, down2 = s.warm, s.modes, s.half_gain, s.down, s.down2
    solved(w.factors, s.matrix, s.flow, k1, s.turned)
    for q in range(len(down)):
        warm[q] = half_gain[q] * down[q] if w.effusivity > 0 else 0.0
    if w.effusivity > 0:
        for k in range(len(w.paces)):
            fade, mode = s.fade[k], modes[k]
            for q in range(len(mode)):
                warm[q] += fade * mode[q]
    for i in range(n):
        k2[i] = t[i] + step_s * k1[i]
    flows(w, g, k2, film, still, gas_c, most_w, room_c, warm, s.ahead, flow2, down2)
    for i in range(n):
        takes = capacity[i]
        if melting[i]:
            takes += latent[i] / (liquidus[i] - solidus[i])
        flow2[i] -= 2 * takes * k1[i]
    solved(w.factors, s.matrix, flow2, k2, s.turned)
    turn = 0.0
    for i in range(n):
        turn = max(turn, abs(k1[i] + k2[i]))
    turn *= step_s / 2
    if turn > TURN_MOST_C * s.now[EASE] and step_s > SHORTEST_S:
        return turn
    for i in range(n):
        after = t[i] + 1.5 * step_s * k1[i] + 0.5 * step_s * k2[i]
        if max(t[i], after) > solidus[i]:
            takes = capacity[i]
            if melting[i]:
                takes += latent[i] / (liquidus[i] - solidus[i])
            after = melted(w, i, t[i], after, takes)
        t[i] = after
    if w.effusivity > 0:
        ground_m2 = w.ground_m2
        for q in range(len(down)):
            down2[q] = (down[q] + down2[q]) / 2 / max(ground_m2[q], 1e-30)
        for k in range(len(w.paces)):
            fade, gain, mode = s.fade[k], s.gain[k], modes[k]
            for q in range(len(mode)):
                mode[q] = fade * mode[q] + gain * down2[q]
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

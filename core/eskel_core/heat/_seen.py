"""What a hand sees while it works, compiled: goals, limits, the flux, and the sign that it waits for."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

from ._asked import (
    ABOUT,
    AT_S,
    BOILS,
    CAME,
    HEAT,
    MARGIN_C,
    MARGIN_OF,
    MARGIN_S,
    PLACE,
    RUNS_AGAIN,
    SHORT,
    SLUMPS,
    SPENT,
    SPOILT,
    WELL,
    WHY,
)
from ._network import DRY_W_M2K, GLASSY_W_M2K
from ._state import FACTORED, SEEN, compiled

FLOW_HOLD_S = 0.5
# Places in `Hand.at`.
STAGE, BEGAN, ACT, OPENED, NEAR, TICKED, SEEN_C, OFF, LIQUID, BROUGHT, LOOKED, LAST_GAP, SOONEST = range(13)
GAP, PACE, LATEST, LEFT, NOTED = range(13, 18)
AT = 18


class Hand(NamedTuple):
    """How one hand stands: the scalars of `AT`, how far each touch and goal is, and what it makes of the flame now.

    A touch's `state` is -1 not there yet, 0 dry, 1 wetted by glassy flux, 2 metal.
    """

    at: Any
    state: Any
    clear_for: Any
    since: Any
    reached: Any
    best: Any
    ever: Any
    cool: Any
    cool_was: Any
    passes: Any
    film: Any
    still: Any
    before: Any
    wet: Any


@compiled
def conducts(a, g, state):
    for touch in range(len(state)):
        for link in range(a.link_at[touch], a.link_at[touch + 1]):
            n = link - a.link_at[0]
            if state[touch] == 2:
                g[link] = a.touch_metal[n]
            elif state[touch] < 0:
                g[link] = 0.0
            else:
                film = GLASSY_W_M2K if state[touch] == 1 else DRY_W_M2K
                g[link] = min(a.touch_metal[n], a.touch_area[n] * film)


@compiled
def coolest_of(t, cells, begins, ends):
    least = math.inf
    for n in range(begins, ends):
        least = min(least, t[cells[n]])
    return least


@compiled
def hottest_of(t, cells, begins, ends):
    most = -math.inf
    for n in range(begins, ends):
        most = max(most, t[cells[n]])
    return most


@compiled
def looks_at_goals(s, a, k, now, step):
    """See which goals are reached; foresee the next one, and how far off the farthest is."""
    k.at[LEFT], k.at[LATEST], k.at[GAP], k.at[PACE], k.at[SOONEST] = 0.0, 0.0, 0.0, 0.0, math.inf
    for n in range(len(a.goal_c)):
        coolest = math.inf
        if a.goal_ever[n]:
            for q in range(a.goal_at[n], a.goal_at[n + 1]):
                k.ever[q] = max(k.ever[q], s.t[a.goal[q]])
                coolest = min(coolest, k.ever[q])
        else:
            coolest = coolest_of(s.t, a.goal, a.goal_at[n], a.goal_at[n + 1])
        k.best[n] = max(k.best[n], coolest)
        k.cool_was[n], k.cool[n] = k.cool[n], coolest
        if k.reached[n] < math.inf:
            k.at[LATEST] = max(k.at[LATEST], k.reached[n])
            continue
        hold = 0.0 if a.goal_ever[n] else FLOW_HOLD_S
        was = coolest_of(k.before, a.goal, a.goal_at[n], a.goal_at[n + 1])
        if coolest < a.goal_c[n] or (k.at[BROUGHT] == 0.0 and a.goal_touch[n] == a.bring):
            k.since[n] = -1.0
        elif k.since[n] < 0:
            share = min(1.0, (coolest - a.goal_c[n]) / (coolest - was)) if coolest > was else 0.0
            k.since[n] = now - step * share
        if k.since[n] >= 0 and now >= k.since[n] + hold - 1e-9:
            k.reached[n] = k.since[n] + hold
            k.at[LATEST] = max(k.at[LATEST], k.reached[n])
            if a.goal_touch[n] >= 0:
                k.state[a.goal_touch[n]] = 2
                conducts(a, k.passes, k.state)
                s.now[FACTORED] = s.now[SEEN] = 0.0
            continue
        k.at[LEFT] += 1
        if k.since[n] >= 0:
            k.at[SOONEST] = min(k.at[SOONEST], k.since[n] + hold - now)
        elif coolest > k.cool_was[n]:
            k.at[SOONEST] = min(k.at[SOONEST], (a.goal_c[n] - coolest) * step / (coolest - k.cool_was[n]))
        if a.goal_c[n] - coolest > k.at[GAP]:
            k.at[GAP], k.at[PACE] = a.goal_c[n] - coolest, (coolest - was) / step


@compiled
def looks_at_limits(s, a, now, out, hottest):
    """See how near everything that is to be spared has come, and what is spoilt."""
    for n in range(len(a.limit_c)):
        hot = hottest_of(s.t, a.limit, a.limit_at[n], a.limit_at[n + 1])
        hottest[n] = max(hottest[n], hot)
        room = a.limit_c[n] - hot
        if room < out[MARGIN_C]:
            out[MARGIN_C], out[MARGIN_OF], out[MARGIN_S] = room, n, now
        if room <= 0 and out[CAME] != SPOILT:
            out[CAME], out[WHY] = SPOILT, RUNS_AGAIN if a.limit_join[n] else SLUMPS
            out[ABOUT], out[AT_S] = n, now


@compiled
def looks_at_flux(s, a, k, now, step, out):
    """Follow the flux at every seam: it boils, clears and is spent."""
    changed = False
    for touch in range(len(k.state)):
        mean, hot = 0.0, -math.inf
        for q in range(a.seam_at[touch], a.seam_at[touch + 1]):
            was, is_now = k.before[a.seam[q]], s.t[a.seam[q]]
            mean += is_now
            hot = max(hot, is_now)
            if k.wet[q] and was < a.steam_c <= is_now:
                # Its water goes, at once and for all, or gently.
                k.wet[q] = False
                if (is_now - was) / step > a.boils_c_s and out[CAME] != SPOILT:
                    out[CAME], out[WHY], out[ABOUT], out[AT_S] = SPOILT, BOILS, touch, now
        mean /= max(1, a.seam_at[touch + 1] - a.seam_at[touch])
        if mean >= a.clear_c:
            k.clear_for[touch] += step
            if k.state[touch] == 0:
                k.state[touch], changed = 1, True
        spent = k.clear_for[touch] > a.spent_s or hot >= a.spent_c
        if spent and k.state[touch] != 2 and out[CAME] == WELL:
            out[CAME], out[WHY], out[ABOUT], out[AT_S] = SHORT, SPENT, touch, now
    if changed:
        conducts(a, k.passes, k.state)
        s.now[FACTORED] = s.now[SEEN] = 0.0


@compiled
def sees(s, a, p, k, now, step, stages, hands, h):
    """What the hand sees now, it does a little later."""
    stage, late = int(k.at[STAGE]), hands[h, 1]
    waits = k.at[BROUGHT] == 0.0 and k.at[LIQUID] == math.inf
    if waits and coolest_of(s.t, a.bring_seam, 0, len(a.bring_seam)) >= a.bring_c:
        k.at[LIQUID] = now + late
    if k.at[LEFT] == 0.0 and p.sign[stages - 1] <= PLACE:
        if k.at[OFF] == 0.0:
            k.at[OFF], k.at[ACT] = 1.0, k.at[LATEST] + late
        return
    if k.at[ACT] < math.inf:
        return
    if p.sign[stage] == PLACE and k.reached[p.goal_of[stage]] < math.inf:
        # From the last place there is no other to go to.
        if stage < stages - 1:
            k.at[ACT] = max(now, k.reached[p.goal_of[stage]] + late)
    elif p.sign[stage] == HEAT:
        begins, ends = p.sign_at[stage], p.sign_at[stage + 1]
        look = coolest_of(s.t, p.sign_cells, begins, ends)
        if not p.coolest[stage]:
            look = hottest_of(s.t, p.sign_cells, begins, ends)
        wanted = p.sign_c[stage] + hands[h, 2]
        if look >= wanted:
            inside = 1.0
            if look > k.at[SEEN_C]:
                inside = min(1.0, max(0.0, (look - wanted) / (look - k.at[SEEN_C])))
            k.at[ACT] = max(now, now - step * inside + late)
        elif look > k.at[SEEN_C]:
            k.at[SOONEST] = min(k.at[SOONEST], (wanted - look) * step / (look - k.at[SEEN_C]))
        k.at[SEEN_C] = look

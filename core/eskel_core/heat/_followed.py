"""One programme of signs followed by many hands, compiled: what each of them does, and what comes of it."""

from __future__ import annotations

import math

import numpy as np

from ._asked import (
    ABOUT,
    AT_S,
    CAME,
    COUNT,
    ENDED_S,
    HEAT,
    MARGIN_C,
    MARGIN_OF,
    MARGIN_S,
    NOTHING,
    PLACE,
    SHORT,
    SHORT_C,
    TOO_COOL,
    TOOK,
    WELL,
    WHY,
)
from ._kernel import stepped
from ._seen import (
    ACT,
    AT,
    BEGAN,
    BROUGHT,
    GAP,
    LAST_GAP,
    LEFT,
    LIQUID,
    LOOKED,
    NEAR,
    NOTED,
    OFF,
    OPENED,
    PACE,
    SEEN_C,
    SOONEST,
    STAGE,
    TICKED,
    Hand,
    conducts,
    coolest_of,
    looks_at_flux,
    looks_at_goals,
    looks_at_limits,
    sees,
)
from ._state import EASE, SECONDS, SEEN, STEP_S, STEPS, aimed, begun, compiled, pace

_LONGEST_S, _FORESEEN_S = 1.5, 0.25
# A hand is off by whole degrees: its steps may bend more than those that are held against a closed form.
_EASE = 4.0
_MELT_GRACE_S = 2.0
_LOOKS_EVERY_S = 8.0
# Once no steam is seen any more a drying flame comes nearer faster: by so much of itself every second.
STEAM_GONE = 0.2
# A valve is never shut further than this while it burns.
LEAST_SETTING = 0.15


@compiled
def follow(w, passes, a, p, jobs, hands, start_t, start_modes, start_s, stop, every_s, came):
    """Let hands follow programmes from where they stand: a job is a programme and a hand; a row of `came` is a job's.

    With `stop` it ends as soon as something is spoilt. `hands` is (h, 5); `start_t` (h, n), `start_modes` (h, m, g),
    `start_s` (h); a history is kept every `every_s` s where there is room for one.
    """
    for job in range(len(jobs)):
        _one(
            w,
            passes,
            a,
            p,
            jobs[job, 0],
            hands,
            jobs[job, 1],
            job,
            start_t,
            start_modes,
            start_s,
            stop,
            every_s,
            came,
        )


@compiled
def _taken_up(w, passes, a, s, start_s, base):
    """Give a hand that takes up the torch over a body as it stands."""
    n, touches, goals = len(w.capacity), len(a.seam_at) - 1, len(a.goal_c)
    k = Hand(
        np.zeros(AT),
        np.zeros(touches, np.int64),
        np.zeros(touches),
        np.full(goals, -1.0),
        np.full(goals, math.inf),
        np.full(goals, -math.inf),
        np.full(len(a.goal), -math.inf),
        np.full(goals, a.room_c),
        np.full(goals, a.room_c),
        passes.copy(),
        np.zeros(n),
        np.zeros(n),
        s.t.copy(),
        a.seam_wet.copy(),
    )
    for touch in range(touches):
        mean = 0.0
        for q in range(a.seam_at[touch], a.seam_at[touch + 1]):
            mean += s.t[a.seam[q]]
        if mean / max(1, a.seam_at[touch + 1] - a.seam_at[touch]) >= a.clear_c:
            k.state[touch] = 1
    k.at[STAGE], k.at[BEGAN], k.at[ACT], k.at[NEAR] = base - 1, start_s, start_s, 1.0
    k.at[SEEN_C] = k.at[LIQUID] = k.at[LAST_GAP] = math.inf
    k.at[LOOKED], k.at[BROUGHT] = start_s, 1.0
    if a.bring >= 0:
        k.state[a.bring], k.at[BROUGHT] = -1, 0.0
    conducts(a, k.passes, k.state)
    return k


@compiled
def _goes_on(p, k, now, base, stages, counts, stage_s):
    """Go on to the next stage; say whether there is none, and the flame is off."""
    if k.at[OFF] > 0:
        return True
    stage = int(k.at[STAGE]) + 1
    while stage < stages and p.sign[stage] == PLACE and k.reached[p.goal_of[stage]] < math.inf:
        stage_s[stage - base] = now
        stage += 1
    k.at[ACT] = math.inf
    if stage >= stages:
        # The last one goes on until it runs; where it was ended by another sign there is no more to do.
        k.at[STAGE] = stages - 1
        return p.sign[stages - 1] == COUNT or p.sign[stages - 1] == HEAT
    stage_s[stage - base] = now
    k.at[STAGE], k.at[BEGAN], k.at[OPENED], k.at[SEEN_C] = stage, now, 0.0, math.inf
    k.at[NEAR], k.at[TICKED] = 1.0, 0.0
    if p.sign[stage] == COUNT:
        k.at[ACT] = now + p.seconds[stage] * counts
    return False


@compiled
def _helps(s, a, p, k, now, counts):
    """A drying flame comes nearer by and by; what stays away for long is helped: say whether a notch more is given now."""
    stage = int(k.at[STAGE])
    waited = (now - k.at[BEGAN]) / counts
    if p.nearer[stage] > 0:
        # So small a change asks for no short steps and no new factors: the method keeps its order without.
        closer, ticks = k.at[NEAR], math.floor(waited + 1e-9)
        while k.at[TICKED] < ticks:
            k.at[TICKED] += 1
            rise = p.nearer[stage]
            if (
                p.dry[stage]
                and coolest_of(s.t, p.sign_cells, p.sign_at[stage], p.sign_at[stage + 1]) > a.steam_c
            ):
                rise = STEAM_GONE
            closer = min(p.nearest[stage], closer * math.exp(rise))
        if closer != k.at[NEAR]:
            for i in range(len(k.film)):
                k.film[i] *= closer / k.at[NEAR]
            s.now[SEEN] = 0.0
        k.at[NEAR] = closer
        return False
    if p.sign[stage] == COUNT or p.notch[stage] <= 0 or p.wait_s[stage] <= 0 or k.at[ACT] < math.inf:
        return False
    notches = math.floor(waited / p.wait_s[stage] + 1e-9) * p.notch[stage]
    if notches > k.at[OPENED] + 1e-9 and p.setting[stage] + k.at[OPENED] < p.most[stage] - 1e-9:
        k.at[OPENED] = notches
        return True
    return False


@compiled
def _points(w, s, a, p, k, hands, h):
    """Point the flame as the stage says and the hand makes of it."""
    stage = int(k.at[STAGE])
    aim, setting = p.aim[stage], p.setting[stage]
    if setting < 1.0 - 1e-9:
        setting += hands[h, 3]
    setting = min(p.most[stage], max(LEAST_SETTING, setting + k.at[OPENED])) * k.at[NEAR]
    for i in range(len(k.film)):
        k.film[i] = p.film[aim, h, i] * setting * hands[h, 0]
        k.still[i] = p.still[aim, h, i]
    if k.at[BROUGHT] == 0.0:
        for q in range(len(a.bring_cells)):
            k.film[a.bring_cells[q]] = 0.0
    aimed(w, s, k.film, p.gas_c[aim], a.room_c)
    pace(w, s, s.now[STEP_S])


@compiled
def _until(p, k, now, counts):
    """Give how far the next step may go, s: to what the hand does next, and not far past what is seen next."""
    stage, wait = int(k.at[STAGE]), 0.0
    until = k.at[ACT]
    if k.at[BROUGHT] == 0.0:
        until = min(until, k.at[LIQUID])
    if p.nearer[stage] > 0:
        wait = 1.0
    elif p.notch[stage] > 0 and k.at[ACT] == math.inf and p.setting[stage] + k.at[OPENED] < p.most[stage]:
        wait = p.wait_s[stage]
    if wait > 0:
        waited = math.floor((now - k.at[BEGAN]) / counts / wait + 1e-9)
        until = min(until, k.at[BEGAN] + (waited + 1) * wait * counts)
    return max(now + 1e-3, min(until, now + max(_FORESEEN_S, k.at[SOONEST])))


@compiled
def _gives_up(p, k, now, stages, gives_up, stop, out):
    """Say whether it is over: spoilt, out of time, or a flame open as far as it goes that cannot make up what is left."""
    if out[CAME] != WELL and (stop or now > out[AT_S] + _MELT_GRACE_S):
        return True
    left = k.at[LEFT] > 0
    if now >= gives_up - 1e-9:
        if out[CAME] == WELL and left:
            out[CAME], out[WHY], out[AT_S] = SHORT, TOO_COOL, now
        return True
    if now < k.at[LOOKED] + _LOOKS_EVERY_S:
        return False
    k.at[LOOKED], stage = now, int(k.at[STAGE])
    last = stage == stages - 1 and p.sign[stage] <= PLACE
    near = p.nearer[stage] > 0 and k.at[NEAR] >= p.nearest[stage] - 1e-9
    at_most = last and (near or p.setting[stage] + k.at[OPENED] >= p.most[stage] - 1e-9)
    stuck = stop and at_most and left and k.at[ACT] == math.inf and k.at[GAP] > 0 and k.at[BROUGHT] > 0
    never = k.at[PACE] * (gives_up - now) < 0.8 * k.at[GAP] and k.at[GAP] > 0.9 * k.at[LAST_GAP]
    k.at[LAST_GAP] = k.at[GAP] if at_most else math.inf
    if stuck and never and out[CAME] == WELL:
        out[CAME], out[WHY], out[AT_S] = SHORT, TOO_COOL, now
        return True
    return False


@compiled
def _notes(s, k, job, every_s, came, force):
    """Keep what every cell is at, at about even times, where there is room for it."""
    now, noted = s.now[SECONDS], int(k.at[NOTED])
    if noted >= came.history.shape[1]:
        return
    due = noted == 0 or now >= came.times[job, noted - 1] + every_s - 1e-9
    if due or (force and now > came.times[job, noted - 1]):
        came.times[job, noted] = now
        came.history[job, noted] = s.t
        k.at[NOTED] = noted + 1
        came.noted[job] = noted + 1


@compiled
def _closes(a, k, s, base, stages, job, out, came):
    """Write down what came of it."""
    out[ENDED_S], out[TOOK] = s.now[SECONDS], s.now[STEPS]
    for n in range(len(a.goal_c)):
        came.reached_s[job, n] = k.reached[n]
        if k.reached[n] == math.inf:
            out[SHORT_C] += max(0.0, a.goal_c[n] - k.best[n])
            if out[CAME] == WELL:
                out[CAME], out[WHY], out[AT_S] = SHORT, TOO_COOL, s.now[SECONDS]
            if out[CAME] == SHORT and out[ABOUT] < 0:
                out[ABOUT] = n
    for later in range(int(k.at[STAGE]) + 1, stages + 1):
        came.stage_s[job, later - base] = s.now[SECONDS]
    came.t[job] = s.t
    came.modes[job] = s.modes


@compiled
def _one(w, passes, a, p, which, hands, h, job, start_t, start_modes, start_s, stop, every_s, came):
    """Let one hand follow one programme."""
    base, stages, counts, out = p.at[which], p.at[which + 1], hands[h, 4], came.of[job]
    s = begun(w, a.room_c)
    s.t[:] = start_t[h]
    s.modes[:] = start_modes[h]
    s.now[SECONDS], s.now[EASE] = start_s[h], _EASE
    k = _taken_up(w, passes, a, s, start_s[h], base)
    out[CAME], out[WHY], out[ABOUT], out[AT_S] = WELL, NOTHING, -1.0, 0.0
    out[MARGIN_C], out[MARGIN_OF], out[MARGIN_S], out[SHORT_C] = math.inf, -1.0, 0.0, 0.0
    _notes(s, k, job, every_s, came, False)
    while True:
        now, moved = s.now[SECONDS], False
        if k.at[BROUGHT] == 0.0 and now >= k.at[LIQUID] - 1e-9:
            k.at[BROUGHT], k.state[a.bring], moved = 1.0, 1, True
            conducts(a, k.passes, k.state)
        if now >= k.at[ACT] - 1e-9 or k.at[STAGE] < base:
            if _goes_on(p, k, now, base, stages, counts, came.stage_s[job]):
                break
            moved = True
        moved = _helps(s, a, p, k, now, counts) or moved
        if moved:
            _points(w, s, a, p, k, hands, h)
        gas_c, until = p.gas_c[p.aim[int(k.at[STAGE])]], _until(p, k, now, counts)
        k.before[:] = s.t
        stepped(w, s, k.passes, k.film, k.still, gas_c, a.most_w, a.room_c, until, _LONGEST_S)
        now, step = s.now[SECONDS], s.now[STEP_S]
        looks_at_goals(s, a, k, now, step)
        looks_at_limits(s, a, now, out, came.hottest[job])
        looks_at_flux(s, a, k, now, step, out)
        _notes(s, k, job, every_s, came, False)
        sees(s, a, p, k, now, step, stages, hands, h)
        if _gives_up(p, k, now, stages, a.gives_up_s, stop, out):
            break
    _notes(s, k, job, every_s, came, True)
    _closes(a, k, s, base, stages, job, out, came)

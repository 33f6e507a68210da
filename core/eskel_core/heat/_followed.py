"""One programme of signs followed by many hands, compiled: what each of them sees, does, and what comes of it."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from ._kernel import (
    EASE,
    FACTORED,
    SECONDS,
    SEEN,
    STEP_S,
    STEPS,
    aimed,
    begun,
    compiled,
    pace,
    stepped,
)

FLOW_HOLD_S = 0.5
DRY_W_M2K, GLASSY_W_M2K = 5_000.0, 20_000.0
# A hand does not wait longer than this for one place; each further place of a heat has so much more.
GIVES_UP_S, MORE_PLACES_S, MOST_S = 240.0, 45.0, 1200.0
_LONGEST_S, _FORESEEN_S = 1.5, 0.25
# A hand is off by whole degrees: its steps may bend more than those that are held against a closed form.
_EASE = 4.0
_MELT_GRACE_S = 2.0
_LOOKS_EVERY_S = 8.0
# Once no steam is seen any more a drying flame comes nearer faster: by so much of itself every second.
STEAM_GONE = 0.2
# Signs.
RUNS, PLACE, HEAT, COUNT = range(4)
# What came of it, and why.
WELL, SHORT, SPOILT = range(3)
NOTHING, TOO_COOL, SPENT, SLUMPS, RUNS_AGAIN, BOILS = range(6)
# Columns of `Came.of`.
ENDED_S, CAME, WHY, ABOUT, AT_S, MARGIN_C, MARGIN_OF, MARGIN_S, SHORT_C, TOOK = range(10)
COLUMNS = 10
# Columns of a hand.
STRENGTH, LATE_S, MISREAD_C, SETTING, COUNTS = range(5)


class Asked(NamedTuple):
    """What a heat asks, in flat arrays: touches, goals, limits, and the flux.

    Group `n` of anything has the cells from `…_at[n]` to `…_at[n + 1]`. `goal_ever`: each cell counts once it has been
    there. `goal_touch` is the touch that is metal when the goal is reached, or -1. `bring` is the touch that is brought in
    when the solder on the heavier side is liquid, or -1; its cells are out of the flame until then.
    """

    link_at: Any
    touch_area: Any
    touch_metal: Any
    seam_at: Any
    seam: Any
    seam_wet: Any
    goal_at: Any
    goal: Any
    goal_c: Any
    goal_ever: Any
    goal_touch: Any
    limit_at: Any
    limit: Any
    limit_c: Any
    limit_join: Any
    clear_c: float
    spent_c: float
    spent_s: float
    boils_c_s: float
    steam_c: float
    bring: int
    bring_c: float
    bring_seam: Any
    bring_cells: Any
    most_w: float
    room_c: float


class Told(NamedTuple):
    """Programmes of signs in flat arrays, a row for each stage (or place): programme `n` has rows `at[n]` to `at[n + 1]`.

    What hands make of an aim stands in `film` and `still`, (aims, hands, cells), and `gas_c`; `aim` says which is a row's.
    """

    at: Any
    film: Any
    still: Any
    gas_c: Any
    aim: Any
    setting: Any
    sign: Any
    sign_at: Any
    sign_cells: Any
    sign_c: Any
    coolest: Any
    goal_of: Any
    seconds: Any
    wait_s: Any
    notch: Any
    most: Any
    nearer: Any
    nearest: Any
    dry: Any


class Came(NamedTuple):
    """What came of it, a row for each hand; with room for a history, what every cell was at about even times."""

    of: Any
    stage_s: Any
    reached_s: Any
    hottest: Any
    t: Any
    modes: Any
    times: Any
    history: Any
    noted: Any


@compiled
def _conducts(a, g, state):
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
def _coolest(t, cells, begins, ends):
    least = math.inf
    for n in range(begins, ends):
        least = min(least, t[cells[n]])
    return least


@compiled
def _hottest(t, cells, begins, ends):
    most = -math.inf
    for n in range(begins, ends):
        most = max(most, t[cells[n]])
    return most


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
def _one(w, passes, a, p, which, hands, h, job, start_t, start_modes, start_s, stop, every_s, came):
    n, touches, goals, limits = len(w.capacity), len(a.seam_at) - 1, len(a.goal_c), len(a.limit_c)
    base, stages = p.at[which], p.at[which + 1]
    gives_up = min(MOST_S, GIVES_UP_S + MORE_PLACES_S * max(0, touches - 1))
    strength, late, misread = hands[h, 0], hands[h, 1], hands[h, 2]
    s = begun(w, a.room_c)
    s.t[:] = start_t[h]
    s.modes[:] = start_modes[h]
    s.now[SECONDS], s.now[EASE] = start_s[h], _EASE
    g = passes.copy()
    state = np.zeros(touches, np.int64)
    clear_for = np.zeros(touches)
    for touch in range(touches):
        mean = 0.0
        for k in range(a.seam_at[touch], a.seam_at[touch + 1]):
            mean += s.t[a.seam[k]]
        if mean / max(1, a.seam_at[touch + 1] - a.seam_at[touch]) >= a.clear_c:
            state[touch] = 1
    brought = a.bring < 0
    if not brought:
        state[a.bring] = -1
    _conducts(a, g, state)
    since, reached, best = np.full(goals, -1.0), np.full(goals, math.inf), np.full(goals, -math.inf)
    ever = np.full(len(a.goal), -math.inf)
    cool_goal, coolest_before = np.full(goals, a.room_c), np.full(goals, a.room_c)
    soonest = 0.0
    before, film, still = s.t.copy(), np.zeros(n), np.zeros(n)
    out = came.of[job]
    out[CAME], out[WHY], out[ABOUT], out[AT_S] = WELL, NOTHING, -1.0, 0.0
    out[MARGIN_C], out[MARGIN_OF], out[MARGIN_S], out[SHORT_C] = math.inf, -1.0, 0.0, 0.0
    stage, began, act, opened, near, ticked = base - 1, start_s[h], start_s[h], 0.0, 1.0, 0
    cool_before, off, noted, looked, last_gap = math.inf, False, 0, start_s[h], math.inf
    liquid_act = math.inf
    hist = came.history.shape[1]
    if hist > 0:
        came.times[job, 0], noted = s.now[SECONDS], 1
        came.history[job, 0] = s.t
    while True:
        now = s.now[SECONDS]
        moved = False
        if not brought and now >= liquid_act - 1e-9:
            brought, moved = True, True
            state[a.bring] = 1
            _conducts(a, g, state)
        if now >= act - 1e-9 or stage < base:
            if off:
                break
            stage += 1
            while stage < stages and p.sign[stage] == PLACE and reached[p.goal_of[stage]] < math.inf:
                came.stage_s[job, stage - base] = now
                stage += 1
            if stage >= stages:
                stage -= 1
                if p.sign[stage] == COUNT or p.sign[stage] == HEAT:
                    # There is no more to do: what is not reached now is not.
                    for k in range(goals):
                        if reached[k] == math.inf and out[CAME] == WELL:
                            out[CAME], out[WHY], out[AT_S] = SHORT, TOO_COOL, now
                    break
            else:
                came.stage_s[job, stage - base] = now
                began, opened, cool_before, near, ticked = now, 0.0, math.inf, 1.0, 0
            act = math.inf
            if p.sign[stage] == COUNT:
                act = began + p.seconds[stage] * hands[h, 4]
            moved = True
        # A drying flame comes nearer by and by; what stays away for long is helped: a notch more.
        waited = (now - began) / hands[h, 4]
        if p.nearer[stage] > 0:
            # So small a change asks for no short steps and no new factors: the method keeps its order without.
            closer, ticks = near, math.floor(waited + 1e-9)
            while ticked < ticks:
                ticked += 1
                rise = p.nearer[stage]
                if (
                    p.dry[stage]
                    and _coolest(s.t, p.sign_cells, p.sign_at[stage], p.sign_at[stage + 1]) > a.steam_c
                ):
                    rise = STEAM_GONE
                closer = min(p.nearest[stage], closer * math.exp(rise))
            if closer != near:
                for i in range(n):
                    film[i] *= closer / near
                s.now[SEEN] = 0.0
            near = closer
        elif p.sign[stage] != COUNT and p.notch[stage] > 0 and act == math.inf:
            notches = math.floor(waited / p.wait_s[stage]) * p.notch[stage] if p.wait_s[stage] > 0 else 0.0
            if notches > opened + 1e-9 and p.setting[stage] + opened < p.most[stage] - 1e-9:
                opened, moved = notches, True
        if moved:
            setting = p.setting[stage]
            if setting < 1.0 - 1e-9:
                setting += hands[h, 3]
            setting = min(p.most[stage], max(0.15, setting + opened)) * near
            for i in range(n):
                film[i] = p.film[p.aim[stage], h, i] * setting * strength
                still[i] = p.still[p.aim[stage], h, i]
            if not brought:
                for k in range(len(a.bring_cells)):
                    film[a.bring_cells[k]] = 0.0
            aimed(w, s, film, p.gas_c[p.aim[stage]], a.room_c)
            pace(w, s, s.now[STEP_S])
        until = min(act, liquid_act if not brought else math.inf)
        if p.nearer[stage] > 0:
            until = min(until, began + (math.floor(waited + 1e-9) + 1) * hands[h, 4])
        elif (
            p.notch[stage] > 0
            and p.wait_s[stage] > 0
            and act == math.inf
            and p.setting[stage] + opened < p.most[stage]
        ):
            until = min(
                until,
                began
                + (math.floor((now - began) / hands[h, 4] / p.wait_s[stage]) + 1)
                * p.wait_s[stage]
                * hands[h, 4],
            )
        # No step goes far past the next thing that is seen, by the pace of now.
        until = min(until, now + max(_FORESEEN_S, soonest))
        until = max(until, now + 1e-3)
        before[:] = s.t
        stepped(w, s, g, film, still, p.gas_c[p.aim[stage]], a.most_w, a.room_c, until, _LONGEST_S)
        now, step = s.now[SECONDS], s.now[STEP_S]
        # Goals.
        all_reached, latest, gap, pace_c_s, soonest = True, 0.0, 0.0, 0.0, math.inf
        for k in range(goals):
            coolest = math.inf
            if a.goal_ever[k]:
                for q in range(a.goal_at[k], a.goal_at[k + 1]):
                    ever[q] = max(ever[q], s.t[a.goal[q]])
                    coolest = min(coolest, ever[q])
            else:
                coolest = _coolest(s.t, a.goal, a.goal_at[k], a.goal_at[k + 1])
            best[k] = max(best[k], coolest)
            cool_goal[k] = coolest_before[k]
            coolest_before[k] = coolest
            if reached[k] < math.inf:
                latest = max(latest, reached[k])
                continue
            hold = 0.0 if a.goal_ever[k] else FLOW_HOLD_S
            if coolest < a.goal_c[k] or (not brought and a.goal_touch[k] == a.bring):
                since[k] = -1.0
            elif since[k] < 0:
                was = _coolest(before, a.goal, a.goal_at[k], a.goal_at[k + 1])
                rise = coolest - was
                share = min(1.0, (coolest - a.goal_c[k]) / rise) if rise > 0 else 0.0
                since[k] = now - step * share
            if since[k] >= 0 and now >= since[k] + hold - 1e-9:
                reached[k] = since[k] + hold
                latest = max(latest, reached[k])
                touch = a.goal_touch[k]
                if touch >= 0:
                    state[touch] = 2
                    _conducts(a, g, state)
                    s.now[FACTORED] = s.now[SEEN] = 0.0
            else:
                all_reached = False
                if since[k] >= 0:
                    soonest = min(soonest, since[k] + hold - now)
                elif coolest > cool_goal[k]:
                    soonest = min(soonest, (a.goal_c[k] - coolest) * step / (coolest - cool_goal[k]))
                if a.goal_c[k] - coolest > gap:
                    gap = a.goal_c[k] - coolest
                    pace_c_s = (coolest - _coolest(before, a.goal, a.goal_at[k], a.goal_at[k + 1])) / step
        # What is to be spared.
        for k in range(limits):
            hot = _hottest(s.t, a.limit, a.limit_at[k], a.limit_at[k + 1])
            came.hottest[job, k] = max(came.hottest[job, k], hot)
            room = a.limit_c[k] - hot
            if room < out[MARGIN_C]:
                out[MARGIN_C], out[MARGIN_OF], out[MARGIN_S] = room, k, now
            if room <= 0 and out[CAME] != SPOILT:
                out[CAME], out[WHY] = SPOILT, RUNS_AGAIN if a.limit_join[k] else SLUMPS
                out[ABOUT], out[AT_S] = k, now
        # The flux at every seam.
        changed = False
        for touch in range(touches):
            mean, hot = 0.0, -math.inf
            for q in range(a.seam_at[touch], a.seam_at[touch + 1]):
                cell = a.seam[q]
                mean += s.t[cell]
                hot = max(hot, s.t[cell])
                if (
                    a.seam_wet[q]
                    and before[cell] < a.steam_c <= s.t[cell]
                    and (s.t[cell] - before[cell]) / step > a.boils_c_s
                    and out[CAME] != SPOILT
                ):
                    out[CAME], out[WHY], out[ABOUT], out[AT_S] = SPOILT, BOILS, touch, now
            mean /= max(1, a.seam_at[touch + 1] - a.seam_at[touch])
            if mean >= a.clear_c:
                clear_for[touch] += step
                if state[touch] == 0:
                    state[touch], changed = 1, True
            if (clear_for[touch] > a.spent_s or hot >= a.spent_c) and state[touch] != 2 and out[CAME] == WELL:
                out[CAME], out[WHY], out[ABOUT], out[AT_S] = SHORT, SPENT, touch, now
        if changed:
            _conducts(a, g, state)
            s.now[FACTORED] = s.now[SEEN] = 0.0
        waits = not brought and liquid_act == math.inf
        if waits and _coolest(s.t, a.bring_seam, 0, len(a.bring_seam)) >= a.bring_c:
            liquid_act = now + late
        if hist > 0 and noted < hist and now >= came.times[job, noted - 1] + every_s - 1e-9:
            came.times[job, noted] = now
            came.history[job, noted] = s.t
            noted += 1
        # What the hand sees now, it does a little later.
        if all_reached and p.sign[stages - 1] <= PLACE:
            if not off:
                off, act = True, latest + late
        elif act == math.inf and p.sign[stage] == PLACE and reached[p.goal_of[stage]] < math.inf:
            act = max(now, reached[p.goal_of[stage]] + late)
        elif act == math.inf and p.sign[stage] == HEAT:
            begins, ends = p.sign_at[stage], p.sign_at[stage + 1]
            if p.coolest[stage]:
                seen = _coolest(s.t, p.sign_cells, begins, ends)
            else:
                seen = _hottest(s.t, p.sign_cells, begins, ends)
            wanted = p.sign_c[stage] + misread
            if seen >= wanted:
                inside = 1.0
                if seen > cool_before:
                    inside = min(1.0, max(0.0, (seen - wanted) / (seen - cool_before)))
                act = max(now, now - step * inside + late)
            elif seen > cool_before:
                soonest = min(soonest, (wanted - seen) * step / (seen - cool_before))
            cool_before = seen
        if out[CAME] != WELL and (stop or now > out[AT_S] + _MELT_GRACE_S):
            break
        if now >= gives_up - 1e-9:
            if out[CAME] == WELL and not all_reached:
                out[CAME], out[WHY], out[AT_S] = SHORT, TOO_COOL, now
            break
        # A flame that is open as far as it goes, and what is left that cannot be made up any more.
        if now >= looked + _LOOKS_EVERY_S:
            looked = now
            at_most = (
                stage == stages - 1
                and p.sign[stage] <= PLACE
                and p.setting[stage] + opened >= p.most[stage] - 1e-9
            )
            left = gives_up - now
            stuck = (
                at_most and not all_reached and act == math.inf and gap > 0 and brought and out[CAME] == WELL
            )
            if stop and stuck and pace_c_s * left < 0.8 * gap and gap > 0.9 * last_gap:
                out[CAME], out[WHY], out[AT_S] = SHORT, TOO_COOL, now
                break
            last_gap = gap if at_most else math.inf
    out[ENDED_S], out[TOOK] = s.now[SECONDS], s.now[STEPS]
    for k in range(goals):
        came.reached_s[job, k] = reached[k]
        if reached[k] == math.inf:
            out[SHORT_C] += max(0.0, a.goal_c[k] - best[k])
            if out[CAME] == SHORT and out[ABOUT] < 0:
                out[ABOUT] = k
    for later in range(stage + 1, stages + 1):
        came.stage_s[job, later - base] = s.now[SECONDS]
    if hist > 0 and noted < hist and s.now[SECONDS] > came.times[job, noted - 1]:
        came.times[job, noted] = s.now[SECONDS]
        came.history[job, noted] = s.t
        noted += 1
    if hist > 0:
        came.noted[job] = noted
    came.t[job] = s.t
    came.modes[job] = s.modes

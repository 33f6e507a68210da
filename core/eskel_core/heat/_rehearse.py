"""Rehearse one heat: march the body under a programme of aims and note what happens when."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ._aims import Aim, Stage
from ._grid import Floats
from ._march import Flame, March
from ._network import DRY_W_M2K, GLASSY_W_M2K, Indices, Touch, touch_matrix
from ._setup import FLOW_HOLD_S, MOST_TAKEN, Event, HeatSetup, Trace, film_of

_NOTED_EVERY_S = 0.25
_MELT_GRACE_S = 2.0
_SETTLED_EVERY_S, _SETTLED_SAFE = 10.0, 3.0
_FORESEEN_S = 0.1


@dataclass
class _Watch:
    """Cells watched in groups: the coolest and the hottest of each after every step."""

    cells: Indices
    starts: Indices

    @classmethod
    def over(cls, groups: list[Indices]) -> _Watch:
        return cls(np.concatenate(groups), np.cumsum([0, *(len(group) for group in groups[:-1])]))

    def coolest(self, t: Floats) -> Floats:
        made: Floats = np.minimum.reduceat(t[self.cells], self.starts)
        return made

    def hottest(self, t: Floats) -> Floats:
        made: Floats = np.maximum.reduceat(t[self.cells], self.starts)
        return made


def rehearse(setup: HeatSetup, stages: tuple[Stage, ...], longest_s: float, *, go_on: bool = False) -> Trace:
    """Run a programme until every goal is reached, or the time is over, or something has melted down.

    With `go_on` the programme is run to its end. The last stage goes on until the goals are reached.
    """
    return _Run(setup, longest_s, go_on).through(stages)


class _Run:
    def __init__(self, setup: HeatSetup, longest_s: float, go_on: bool) -> None:
        self.setup, self.longest_s, self.go_on = setup, longest_s, go_on
        network = setup.network
        flame = Flame(setup.torch.gas_temp_c, MOST_TAKEN * setup.torch.heat_w)
        self.march = March(network, flame, room_c=setup.room_c, block=setup.block)
        self.goals, self.limits = setup.goals, setup.limits
        self.watch = _Watch.over(
            [
                *(goal.cells for goal in self.goals),
                *(limit.cells for limit in self.limits),
                np.arange(len(network)),
            ]
        )
        self.state = ["dry"] * len(network.touches)
        self.seam_c = [_Watch.over([touch.seam]) for touch in network.touches]
        self.since: dict[str, float] = {}
        self.reached: dict[str, float] = {}
        self.seen: set[tuple[str, str]] = set()
        self.events: list[Event] = []
        self.tightest: tuple[str, float, float] | None = None
        self.times, self.temperatures = [0.0], [self.march.t[:, 0].copy()]
        self.cool = self.watch.coolest(self.march.t[:, 0])
        self.pace_c_s = np.zeros(len(self.cool))
        self.clear_for = dict.fromkeys((touch.place for touch in network.touches), 0.0)
        self.melted_at = math.inf
        self.paces: tuple[Floats, float] | None = None
        self.off: tuple[float, Floats] | None = None
        self._conduct()

    def through(self, stages: tuple[Stage, ...]) -> Trace:
        spent = []
        for number, stage in enumerate(stages):
            last = number == len(stages) - 1
            began = self.march.seconds
            self._stage(stage, last)
            spent.append((self.off[0] if self.off else self.march.seconds) - began)
            if self._over():
                break
        self._note(force=True)
        march = self.march
        return Trace(
            times_s=np.array(self.times),
            t_c=np.array(self.temperatures),
            events=sorted(self.events, key=lambda one: (one.seconds, one.about, one.kind)),
            reached=self.reached,
            tightest=self.tightest,
            energy=march.energy,
            stored_j=march.stored_j(self.setup.room_c),
            block=march.modes[:, :, 0],
            stages_s=spent,
        )

    def _over(self) -> bool:
        seconds = self.march.seconds
        if seconds >= self.longest_s - 1e-9 or seconds > self.melted_at + _MELT_GRACE_S:
            return True
        return not self.go_on and len(self.reached) == len(self.goals)

    def _stage(self, stage: Stage, last: bool) -> None:
        left = self.longest_s - self.march.seconds
        seconds = left if stage.seconds is None or (last and not self.go_on) else min(stage.seconds, left)
        if seconds <= 0:
            return
        end = self.march.seconds + seconds
        self.paces = None
        while self.march.seconds < end - 1e-9:
            self.march.aim(film_of(self.setup, stage, self.reached))
            if not self._steps(stage, end, alone=last):
                return

    def _steps(self, stage: Stage, end_s: float, *, alone: bool) -> bool:
        """Go as far as a time; stop early, with True, when the flame goes on to the next place, with False when it is over."""
        march, done = self.march, len(self.reached)
        looked = march.seconds
        while march.seconds < end_s - 1e-9:
            before = march.t[:, 0]
            march.step(min(end_s, self._moves_on()) if stage.aim.places else end_s)
            self._look(before)
            if self._over():
                return False
            if stage.aim.places and len(self.reached) != done:
                return True
            if alone and march.seconds >= looked + _SETTLED_EVERY_S:
                looked = march.seconds
                if self._settled(stage.aim):
                    return False
        return True

    def _moves_on(self) -> float:
        """Foresee the time, s, at which the flame goes on to the next place, by the pace of now: no step should pass it."""
        now, soonest = self.march.seconds, math.inf
        for n, goal in enumerate(self.goals):
            if goal.id in self.since and goal.id not in self.reached:
                soonest = min(soonest, self.since[goal.id] + FLOW_HOLD_S)
            elif goal.id not in self.reached and self.pace_c_s[n] > 0:
                soonest = min(soonest, now + (goal.reach_c - self.cool[n]) / self.pace_c_s[n])
        return max(soonest, now + _FORESEEN_S)

    def _settled(self, aim: Aim) -> bool:
        """Say whether a goal that is left cannot be reached any more.

        Neither at the pace at which it warms now until the time is over, nor by three times what is to come if its
        pace goes on falling as it fell since the last look. Of places that are done in turn, the one that the flame is on.
        """
        if self.go_on or len(self.reached) == len(self.goals):
            return False
        now, step, cool = self.march.seconds, self.march.step_s, self.cool
        pace = np.maximum(self.pace_c_s, 1e-12)
        last_pace, last_seen = self.paces or (pace, now - step)
        self.paces = pace, now
        falling = np.log(np.maximum(last_pace / pace, 1.0)) / max(now - last_seen, 1e-9)
        to_come = np.minimum(pace * (self.longest_s - now), _SETTLED_SAFE * pace / np.maximum(falling, 1e-9))
        on = next((place for place, _ in aim.places if place not in self.reached), None)
        return any(
            goal.id not in self.reached and on in (None, goal.id) and cool[n] + to_come[n] < goal.reach_c
            for n, goal in enumerate(self.goals)
        )

    def _conduct(self) -> None:
        """Let every touch pass what its state allows: dry, wetted by glassy flux, or solid metal."""
        network = self.setup.network
        extra = None
        for touch, state in zip(network.touches, self.state, strict=True):
            made = touch_matrix(len(network), touch, _passes(touch, state))
            extra = made if extra is None else extra + made
        if extra is not None:
            self.march.join(extra)

    def _look(self, before: Floats) -> None:
        """See what the last step has brought."""
        march = self.march
        t, now = march.t[:, 0], march.seconds
        was_cool, self.cool = self.watch.coolest(before), self.watch.coolest(t)
        self.pace_c_s = (self.cool - was_cool) / march.step_s
        self._goals(self.cool, was_cool, now)
        if len(self.reached) == len(self.goals) and not self.go_on:
            # The flame is off at the moment at which the last one is done: what the rest of the step would bring is not.
            now = min(now, max(self.reached.values(), default=now))
            share = 1 - (march.seconds - now) / march.step_s
            t = before + min(1.0, max(0.0, share)) * (t - before)
            self.off = now, t
        hot = self.watch.hottest(t)
        many = len(self.goals)
        for n, limit in enumerate(self.limits):
            room = limit.below_c - hot[many + n]
            if self.tightest is None or room < self.tightest[1]:
                self.tightest = (limit.id, float(room), now)
            if limit.soft_c is not None and hot[many + n] >= limit.soft_c:
                self._event("soft", limit.id, now, hot[many + n])
            if room <= 0:
                self._event("melts" if limit.kind == "part" else "runs-again", limit.id, now, hot[many + n])
        if self.limits and hot[-1] > march.melting_c and (t > self.setup.network.liquidus_c).any():
            self.melted_at = min(self.melted_at, now)
        self._touches(t, now)
        self._note()

    def _goals(self, cool: Floats, was_cool: Floats, now: float) -> None:
        step = self.march.step_s
        for n, goal in enumerate(self.goals):
            if goal.id in self.reached:
                continue
            if cool[n] < goal.reach_c:
                self.since.pop(goal.id, None)
                continue
            if goal.id not in self.since:
                rise = cool[n] - was_cool[n]
                share = (cool[n] - goal.reach_c) / rise if rise > 0 else 0.0
                self.since[goal.id] = now - step * min(1.0, share)
            if now >= self.since[goal.id] + FLOW_HOLD_S - 1e-9:
                self.reached[goal.id] = self.since[goal.id] + FLOW_HOLD_S
                self._event("reached", goal.id, self.reached[goal.id], goal.reach_c)

    def _touches(self, t: Floats, now: float) -> None:
        """Follow the flux at each seam, and what the touch passes."""
        flux, changed = self.setup.flux, False
        for n, touch in enumerate(self.setup.network.touches):
            seam = t[touch.seam]
            mean, coolest = float(seam.mean()), float(seam.min())
            if flux is not None:
                for kind, at in (
                    ("steam", flux.steam_c),
                    ("crust", flux.crust_c),
                    ("dark", flux.dark_c),
                    ("clear", flux.clear_c),
                ):
                    if at is not None and coolest >= at:
                        self._event(kind, touch.place, now, coolest)
                if mean >= flux.clear_c:
                    self.clear_for[touch.place] += self.march.step_s
                if (
                    self.clear_for[touch.place] > 60 * flux.minutes_at_heat
                    or float(seam.max()) >= flux.spent_c
                ):
                    self._event("spent", touch.place, now, float(seam.max()))
            state = (
                "metal"
                if touch.place in self.reached
                else "glassy"
                if flux is None or mean >= flux.clear_c
                else self.state[n]
            )
            if state != self.state[n]:
                self.state[n], changed = state, True
        if changed:
            self._conduct()

    def _event(self, kind: str, about: str, seconds: float, at_c: float) -> None:
        if (kind, about) not in self.seen:
            self.seen.add((kind, about))
            self.events.append(Event(round(float(seconds), 3), kind, about, round(float(at_c), 1)))

    def _note(self, force: bool = False) -> None:
        now, t = self.off or (self.march.seconds, self.march.t[:, 0])
        if now - self.times[-1] >= _NOTED_EVERY_S - 1e-9 or (force and now > self.times[-1]):
            self.times.append(now)
            self.temperatures.append(t.copy())


def _passes(touch: Touch, state: str) -> Floats:
    if state == "metal":
        return touch.metal_w_k
    return np.minimum(touch.metal_w_k, touch.area_m2 * (GLASSY_W_M2K if state == "glassy" else DRY_W_M2K))

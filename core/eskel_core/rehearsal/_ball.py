"""Balling rehearsed: how the ball grows under the flame, when to lift it off, when it would let go, and how hands fare.

The growth is reckoned at a few strengths of the flame; each hand's own lies between them. A hand lifts the flame a little
after it sees the size (or, where none is told, that the end has drawn up): it does well if the ball then still holds. Held tip
down it hangs until its weight is more than the skin of the metal bears (`drop_limit_mm`); tip up it sits on the wire, and the same
skin keeps it there: past that size it leans over (taken as the same limit; the perched drop gives way a little sooner).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from ..faults import refuse
from ..forms import Wire, profile_across_mm
from ..heat import HANDS, LATE_S, LEAST_STAGE_S, SETTING, STRENGTH, Growth, grow_ball, hands_of
from ..piece import BallAttitude, HouseOverrides, Part, Piece, metal_of, part_of, resolve_house
from ..units import about, celsius, length
from ._facts import HeatFacts, Tools, as_heated
from ._hands import verdict_of
from ._request import HeatRequest
from ._scene import FLAME_SETTINGS
from ._show import asked_for
from ._types import (
    BallShown,
    EventShown,
    HandMark,
    Hands,
    Line,
    Rehearsal,
    Seconds,
    Series,
    SpoiltHands,
    StageShown,
    Until,
    found_in,
)
from ._words import flame_words, seconds_words

LONGEST_S = 120.0
# The strengths of the flame at which the growth is reckoned; the middle hand's is in the middle.
_STRENGTHS = (0.6, 0.8, 1.0, 1.25, 1.6)
_MIDDLE = 2
_GIVES = {"drops": "lets go of the wire", "leans": "leans over and runs down the wire"}
_HELD: dict[BallAttitude, str] = {
    "tip-up": "upright, its tip in the flame",
    "tip-down": "tip down in the flame, which plays up along it",
}


def is_wire_end(piece: Piece, facts: HeatFacts) -> bool:
    """Whether what is balled is the end of a wire; snips, grains and balls lie loose, and draw up whole."""
    work = next(one for one in piece.work if one.id == facts.work)
    return bool(work.parts) and isinstance(part_of(as_heated(piece, facts), work.parts[0]).form, Wire)


def ball_rehearsed(
    piece: Piece,
    facts: HeatFacts,
    tools: Tools,
    request: HeatRequest,
    house: HouseOverrides | None = None,
) -> Rehearsal:
    """Rehearse the balling of a wire's end, as the house holds it. Refused for a part that is no wire, or has no metal."""
    work = next(one for one in piece.work if one.id == facts.work)
    # A wire that is trimmed later is balled as long as it was cut.
    part = part_of(as_heated(piece, facts), work.parts[0])
    metal = metal_of(piece, part.id)
    if not isinstance(part.form, Wire) or metal is None:
        raise refuse(
            "contradiction",
            "work",
            work.id,
            "the end of a wire is balled",
            "Name a part of wire, of some metal.",
        )
    across = profile_across_mm(part.form.profile)

    def grown(strength: float, open_by: float) -> Growth:
        return grow_ball(
            metal,
            across,
            part.form.length_mm if isinstance(part.form, Wire) else across,
            tools.torch,
            ball_mm=work.ball_mm,
            setting=open_by,
            factor=request.hand.factor * strength,
            longest_s=LONGEST_S,
        )

    attitude = resolve_house(house, piece.house).ball_attitude
    ball = _found(part, work.ball_mm, across, request, grown, attitude)
    hands, tip_c = ball.hands, ball.grown.tip_c
    verdict = verdict_of(hands)
    line = Line(
        id=part.id,
        title=part.title,
        c=tuple(round(float(c), 1) for c in tip_c),
        hottest_c=tuple(round(float(c), 1) for c in tip_c),
        limit_c=None,
        flow_c=facts.reach_c.get(part.id),
    )
    return Rehearsal(
        **asked_for(piece, facts, tools, request),
        verdict=verdict,
        hands=hands,
        **found_in(*ball.lines),
        programme=(ball.stage(),),
        seconds_to_flow=ball.seconds,
        series=Series(time_s=tuple(round(float(t), 2) for t in ball.grown.times_s), parts=(line,), joins=()),
        events=ball.events,
        tightest=None,
        settles_c=round(float(tip_c.max()), 1) if verdict == "never" and ball.grown.drops_s is None else None,
        above_700_s=0.0,
        peaks=(),
        left_out=(),
        ball=ball.shown,
    )


def _found(
    part: Part,
    wanted_mm: float | None,
    across_mm: float,
    request: HeatRequest,
    grown: Callable[[float, float], Growth],
    attitude: BallAttitude,
) -> _Balling:
    """Open the flame as far as most hands do well with; in a habit as far as was asked."""

    def at(open_by: float) -> _Balling:
        return _Balling(
            part,
            wanted_mm,
            across_mm,
            request.hand.spread,
            open_by,
            tuple(grown(one, open_by) for one in _STRENGTHS),
            attitude,
        )

    if request.habit != "best":
        return at(request.setting)
    tried = []
    for open_by in FLAME_SETTINGS:
        tried.append(at(open_by))
        likely = tried[-1].done_s(tried[-1].grown)
        if likely is None or (tried[-1].hands.well >= 0.9 * HANDS and likely >= LEAST_STAGE_S):
            break
    return max(
        tried, key=lambda one: (one.hands.well, min(LEAST_STAGE_S, one.done_s(one.grown) or 0.0), one.open_by)
    )


@dataclass(frozen=True)
class _Balling:
    """An end that draws up, as it grows at each of a few strengths of a flame that is open so far. `wanted_mm` None: as it comes."""

    part: Part
    wanted_mm: float | None
    across_mm: float
    spread: float
    open_by: float
    at: tuple[Growth, ...]
    attitude: BallAttitude = "tip-up"

    @property
    def spoils(self) -> Literal["drops", "leans"]:
        """What a ball that is too heavy for the metal's skin does: it hangs on the wire and drops, or sits on it and leans over."""
        return "drops" if self.attitude == "tip-down" else "leans"

    @property
    def grown(self) -> Growth:
        """As it grows in the middle hand."""
        return self.at[_MIDDLE]

    def done_s(self, grown: Growth) -> float | None:
        """When the sign is seen, s: the size wanted, else that the end has melted."""
        return grown.melts_s if self.wanted_mm is None else grown.lifts_s

    def _each(self) -> list[tuple[float, float]]:
        """Give for each hand when its sign is seen and when the ball would let go, s; infinite where never."""
        logs = np.log(np.array(_STRENGTHS))
        # A time that is never is far beyond every other; between the strengths, rates go evenly.
        signs = np.array([1 / one if (one := self.done_s(grown)) else 0.0 for grown in self.at])
        drops = np.array([1 / grown.drops_s if grown.drops_s else 0.0 for grown in self.at])
        seen = []
        for hand in hands_of(self.spread):
            off = hand[SETTING] / self.open_by if self.open_by < 1 else 0.0
            strength = math.log(hand[STRENGTH] * max(0.3, 1 + off))
            sign, drop = (float(np.interp(strength, logs, rates)) for rates in (signs, drops))
            seen.append((1 / sign if sign > 0 else math.inf, 1 / drop if drop > 0 else math.inf))
        return seen

    @cached_property
    def hands(self) -> Hands:
        """How the hands fare: lifted in time, let go, or never drawn up."""
        marks, well = [], 0
        for hand, (sign, drop) in zip(hands_of(self.spread), self._each(), strict=True):
            if math.isinf(sign) or sign > LONGEST_S:
                gone = drop < LONGEST_S
                marks.append(
                    HandMark(
                        kind=self.spoils if gone else "too-cool",
                        about=self.part.id,
                        seconds=round(min(drop, LONGEST_S), 1),
                    )
                )
            elif drop < sign + hand[LATE_S]:
                marks.append(HandMark(kind=self.spoils, about=self.part.id, seconds=round(drop, 1)))
            else:
                well += 1
        dropped = sum(one.kind == self.spoils for one in marks)
        spoilt = (SpoiltHands(about=self.part.id, kind=self.spoils, count=dropped),) if dropped else ()
        return Hands(tried=HANDS, well=well, short=len(marks) - dropped, spoilt=spoilt, marks=tuple(marks))

    @property
    def seconds(self) -> Seconds | None:
        """How long it takes, as a band over the hands; None where the middle hand never gets there."""
        likely = self.done_s(self.grown)
        if likely is None:
            return None
        seen = sorted(sign for sign, _ in self._each())
        low, high = seen[HANDS // 10], seen[HANDS - 1 - HANDS // 10]
        return Seconds(
            low=_r(min(low, likely)),
            likely=round(likely, 2),
            high=None if math.isinf(high) else _r(max(high, likely)),
        )

    @property
    def what(self) -> str:
        """What has happened when it is done."""
        return "melts" if self.wanted_mm is None else f"has {about(self.wanted_mm)}"

    @property
    def words(self) -> str:
        """How long it takes, in words; nothing where it is never done."""
        band = self.seconds
        return "" if band is None else seconds_words(band.low, band.likely, band.high)

    @property
    def lines(self) -> tuple[str, ...]:
        """What was found, the sentence that matters first."""
        grown, hands = self.grown, self.hands
        limit = f"it {_GIVES[self.spoils]} at {length(grown.limit_mm, 1)}"
        if hands.well:
            share = f"{hands.well} of {hands.tried} hands bring it off"
            wrong = [one for one in (_often(hands),) if one]
            return (
                f"{share}: the ball {self.what} after {self.words or 'a while'}.",
                *wrong,
                f"Lift the flame then: {limit}.",
            )
        if grown.drops_s is not None:
            wanted = f"It was to be {about(self.wanted_mm or 0)}"
            return f"The ball {_GIVES[self.spoils]}.", f"{wanted}, and {limit}, after {grown.drops_s:.0f} s."
        size = f" and the ball to {length(grown.diameter_mm[-1], 1)}" if grown.melts_s else ""
        return (
            "It never comes to that with this flame.",
            f"The end comes to {celsius(grown.tip_c[-1])}{size}.",
        )

    def stage(self) -> StageShown:
        """The one thing to do: hold the end in the flame until it is done."""
        sized = self.wanted_mm is not None
        sign = "the ball is as large as the mark" if sized else "the end has drawn up and spins"
        end = float(self.grown.times_s[-1])
        told = f" ({self.words})" if self.words else ""
        return StageShown(
            text=f"Hold the end of {self.part.title} {_HELD[self.attitude]}, {flame_words(self.open_by)}, until {sign}; then off at once{told}.",
            aim="part",
            about=self.part.id,
            side="above",
            setting=self.open_by,
            until=Until(sign="size" if sized else "spins", about=self.part.id),
            see=sign,
            if_late="If it stays away, open the flame further."
            if self.open_by < 1
            else "If it stays away, this flame is too small.",
            seconds=self.seconds or Seconds(low=None, likely=round(end, 1), high=None),
            marks=(),
            reach_mm=0.0,
        )

    @property
    def events(self) -> tuple[EventShown, ...]:
        """What is seen, each with its time."""
        seen: tuple[tuple[str, float | None, str], ...] = (
            ("melts", self.grown.melts_s, "the end melts and draws up"),
            ("reached", self.grown.lifts_s, f"the ball {self.what}: flame off"),
            (self.spoils, self.grown.drops_s, f"the ball {_GIVES[self.spoils]}"),
        )
        tip_c = round(float(self.grown.tip_c[-1]), 1)
        return tuple(
            EventShown(seconds=round(at, 2), kind=kind, about=self.part.id, at_c=tip_c, text=text)
            for kind, at, text in seen
            if at is not None
        )

    @property
    def shown(self) -> BallShown:
        """The ball as it grows."""
        return BallShown(
            wire_mm=self.across_mm,
            diameter_mm=tuple(round(float(across), 2) for across in self.grown.diameter_mm),
            wanted_mm=self.wanted_mm,
            limit_mm=round(self.grown.limit_mm, 2),
            drops_s=_r(self.grown.drops_s),
        )


def _often(hands: Hands) -> str:
    """Tell what goes wrong most often."""
    dropped = sum(one.count for one in hands.spoilt)
    if dropped >= hands.short:
        return f"Most often, in {dropped}, the ball {_GIVES[hands.spoilt[0].kind]}." if dropped else ""
    return f"Most often, in {hands.short}, it never draws up."


def _r(value: float | None) -> float | None:
    return None if value is None else round(value, 2)

"""Balling rehearsed: how the ball grows under the flame, when to lift it off, and when the ball would let go."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..faults import refuse
from ..forms import Wire, profile_across_mm
from ..heat import Growth, grow_ball
from ..piece import Part, Piece, metal_of, part_of
from ..units import about, celsius, length
from ._calibrate import TorchFactor
from ._facts import HeatFacts, Tools
from ._show import asked_for
from ._types import (
    BallShown,
    EventShown,
    Habit,
    Line,
    Rehearsal,
    Seconds,
    Series,
    StageShown,
    Verdict,
    found_in,
)
from ._words import seconds_words

LONGEST_S = 120.0


def ball_rehearsed(
    piece: Piece, facts: HeatFacts, tools: Tools, factor: TorchFactor, habit: Habit, setting: float
) -> Rehearsal:
    """Rehearse the balling of a wire's end. Refused for a part that is no wire, or has no metal."""
    work = next(one for one in piece.work if one.id == facts.work)
    part = part_of(piece, work.parts[0])
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

    def grown(strength: float) -> Growth:
        return grow_ball(
            metal,
            across,
            part.form.length_mm if isinstance(part.form, Wire) else across,
            tools.torch,
            ball_mm=work.ball_mm,
            setting=setting,
            factor=factor.factor * strength,
            longest_s=LONGEST_S,
        )

    ball = _Balling(
        part=part,
        wanted_mm=work.ball_mm,
        across_mm=across,
        grown=grown(1.0),
        strong=grown(math.exp(factor.spread)),
        weak=grown(math.exp(-factor.spread)),
    )
    verdict, tip_c = ball.verdict, ball.grown.tip_c
    line = Line(
        id=part.id,
        title=part.title,
        c=tuple(round(float(c), 1) for c in tip_c),
        hottest_c=tuple(round(float(c), 1) for c in tip_c),
        limit_c=None,
        flow_c=facts.reach_c.get(part.id),
    )
    return Rehearsal(
        **asked_for(piece, facts, tools, factor, habit, setting),
        verdict=verdict,
        **found_in(*ball.lines),
        programme=(ball.stage(setting),),
        seconds_to_flow=ball.seconds,
        series=Series(time_s=tuple(round(float(t), 2) for t in ball.grown.times_s), parts=(line,), joins=()),
        events=ball.events,
        tightest=None,
        settles_c=round(float(tip_c.max()), 1) if verdict == "never" else None,
        above_700_s=0.0,
        peaks=(),
        left_out=(),
        ball=ball.shown,
    )


@dataclass(frozen=True)
class _Balling:
    """An end that draws up: as it likely grows, and under a stronger and a weaker flame. `wanted_mm` None: as it comes."""

    part: Part
    wanted_mm: float | None
    across_mm: float
    grown: Growth
    strong: Growth
    weak: Growth

    def done_s(self, grown: Growth) -> float | None:
        """When the flame is lifted, s: at the size wanted, else as soon as the end has melted."""
        return grown.melts_s if self.wanted_mm is None else grown.lifts_s

    @property
    def seconds(self) -> Seconds | None:
        """How long it takes, as a band; None where it is never done."""
        likely = self.done_s(self.grown)
        if likely is None:
            return None
        low, high = self.done_s(self.strong), self.done_s(self.weak)
        return Seconds(low=_r(low), likely=round(likely, 2), high=_r(high))

    @property
    def verdict(self) -> Verdict:
        """Whether it comes to the size wanted, falls, or is never molten."""
        grown = self.grown
        if self.wanted_mm is not None and self.wanted_mm > grown.limit_mm and grown.drops_s is not None:
            return "harms"
        if self.done_s(grown) is not None or grown.lifts_s is not None:
            return "flows"
        return "harms" if grown.drops_s is not None else "never"

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
        grown = self.grown
        limit = f"it lets go of the wire at {length(grown.limit_mm, 1)}"
        match self.verdict:
            case "flows":
                return f"The ball {self.what} after {self.words}.", f"Lift the flame then: {limit}."
            case "harms":
                wanted = f"It was to be {about(self.wanted_mm or 0)}"
                return "The ball lets go.", f"{wanted}, and {limit}, after {grown.drops_s or 0:.0f} s."
            case _:
                size = f" and the ball to {length(grown.diameter_mm[-1], 1)}" if grown.melts_s else ""
                ends = f"The end comes to {celsius(grown.tip_c[-1])}{size}."
                return "It never comes to that with this flame.", ends

    def stage(self, setting: float) -> StageShown:
        """The one thing to do: hold the end in the flame until it is done."""
        until = f", until it {self.what}: {self.words}." if self.words else "."
        end = float(self.grown.times_s[-1])
        return StageShown(
            text=f"Hold the flame on the end of {self.part.title}, the ball in the middle of it{until}",
            aim="part",
            about=self.part.id,
            side="above",
            setting=setting,
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
            ("drops", self.grown.drops_s, "the ball lets go of the wire"),
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


def _r(value: float | None) -> float | None:
    return None if value is None else round(value, 2)

"""Balling rehearsed: how the ball grows under the flame, when to lift it off, and when the ball would let go."""

from __future__ import annotations

import math

from ..faults import refuse
from ..forms import Wire, profile_across_mm
from ..heat import Growth, grow_ball
from ..piece import Part, Piece, Work, metal_of, part_of
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

    likely = grown(1.0)
    quick, slow = (grown(math.exp(sign * factor.spread)) for sign in (1, -1))
    return _told(piece, part, work, facts, tools, factor, habit, setting, likely, (quick, slow), across)


def _verdict(grown: Growth, wanted: float | None) -> Verdict:
    if wanted is not None and wanted > grown.limit_mm and grown.drops_s is not None:
        return "harms"
    if grown.lifts_s is not None or (wanted is None and grown.melts_s is not None):
        return "flows"
    return "harms" if grown.drops_s is not None else "never"


def _told(
    piece: Piece,
    part: Part,
    work: Work,
    facts: HeatFacts,
    tools: Tools,
    factor: TorchFactor,
    habit: Habit,
    setting: float,
    grown: Growth,
    others: tuple[Growth, Growth],
    across: float,
) -> Rehearsal:
    verdict = _verdict(grown, work.ball_mm)
    done = grown.lifts_s if work.ball_mm is not None else grown.melts_s
    ends = [one.lifts_s if work.ball_mm is not None else one.melts_s for one in others]
    seconds = None if done is None else Seconds(low=_r(ends[0]), likely=round(done, 2), high=_r(ends[1]))
    words = "" if seconds is None else seconds_words(seconds.low, seconds.likely, seconds.high)
    what = "melts" if work.ball_mm is None else f"has {about(work.ball_mm)}"
    limit = f"it lets go of the wire at {length(grown.limit_mm, 1)}"
    lines = {
        "flows": (f"The ball {what} after {words}.", f"Lift the flame then: {limit}."),
        "tight": (),
        "harms": (
            "The ball lets go.",
            f"It was to be {about(work.ball_mm or 0)}, and {limit}, after {grown.drops_s or 0:.0f} s.",
        ),
        "never": (
            "It never comes to that with this flame.",
            f"The end comes to {celsius(grown.tip_c[-1])}"
            + (f" and the ball to {length(grown.diameter_mm[-1], 1)}." if grown.melts_s else "."),
        ),
    }[verdict]
    end = float(grown.times_s[-1])
    stage = StageShown(
        text=f"Hold the flame on the end of {part.title}, the ball in the middle of it"
        + (f", until it {what}: {words}." if words else "."),
        aim="part",
        about=part.id,
        side="above",
        setting=setting,
        seconds=seconds or Seconds(low=None, likely=round(end, 1), high=None),
        marks=(),
        reach_mm=0.0,
    )
    events = [
        ("melts", grown.melts_s, "the end melts and draws up"),
        ("reached", grown.lifts_s, f"the ball {what}: flame off"),
        ("drops", grown.drops_s, "the ball lets go of the wire"),
    ]
    line = Line(
        id=part.id,
        title=part.title,
        c=tuple(round(float(c), 1) for c in grown.tip_c),
        hottest_c=tuple(round(float(c), 1) for c in grown.tip_c),
        limit_c=None,
        flow_c=facts.reach_c.get(part.id),
    )
    return Rehearsal(
        **asked_for(piece, facts, tools, factor, habit, setting),
        verdict=verdict,
        **found_in(*lines),
        programme=(stage,),
        seconds_to_flow=seconds,
        series=Series(time_s=tuple(round(float(t), 2) for t in grown.times_s), parts=(line,), joins=()),
        events=tuple(
            EventShown(
                seconds=round(at, 2),
                kind=kind,
                about=part.id,
                at_c=round(float(grown.tip_c[-1]), 1),
                text=text,
            )
            for kind, at, text in events
            if at is not None
        ),
        tightest=None,
        settles_c=round(float(grown.tip_c.max()), 1) if verdict == "never" else None,
        above_700_s=0.0,
        peaks=(),
        left_out=(),
        ball=BallShown(
            wire_mm=across,
            diameter_mm=tuple(round(float(one), 2) for one in grown.diameter_mm),
            wanted_mm=work.ball_mm,
            limit_mm=round(grown.limit_mm, 2),
            drops_s=_r(grown.drops_s),
        ),
    )


def _r(value: float | None) -> float | None:
    return None if value is None else round(value, 2)

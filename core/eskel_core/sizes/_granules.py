"""Many small balls of one size, and shot for a die."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from ..faults import refuse
from ..forms import Ball, Outline, outline_area_mm2
from ..metals import ball_flat_mm
from ..units import about, bare
from ._balls import SAFETY, ball_mass_g, check_thicker, flat_caution, wire_of_ball_mm
from ._base import (
    Calculator,
    Count,
    Cut,
    Found,
    Grams,
    Hand,
    Keys,
    Mm,
    MmOrZero,
    Pct,
    ToolAnswer,
    key,
    num,
    one_of,
)
from ._sketch import bar, circle, label, sketch


class GranulesKeys(Keys):
    """Many small balls of one size."""

    metal: str = key("Metal", "sterling-925")
    ball_mm: Mm = key("Ball")
    wire_mm: Mm = key("Wire")
    count: Count | None = key("How many", None)
    mass_g: Grams | None = key("or so much metal", None)
    snip_slip_mm: MmOrZero = key("Slip of the snips", 0.1)
    row_mm: Mm | None = key("Length of a row laid out", None)
    row_count: Count | None = key("Balls in that row", None)


class GranulesFound(Found):
    """The snips of many small balls, and how they are sorted."""

    snip_mm: float = key("Snip")
    wire_total_mm: float = key("Wire in all")
    mass_g: float = key("Metal")
    count: int = key("Balls")
    sieve_holes_mm: tuple[float, ...] = key("Sort between holes of")
    spread_pct: float = key("Spread of the balls")
    measured_mm: float | None = key("Measured in the row", None)


def granules(asked: GranulesKeys, hand: Hand) -> GranulesFound:
    """Give the snips of granules: equal snips by the ball's volume; balls spread by a third of what snips spread.

    Holes to sort with are the owned drills next below and above the ball; with none owned, the tenths of a mm.
    """
    metal = hand.heated_metal(asked.metal)
    check_thicker(asked.ball_mm, asked.wire_mm)
    each = ball_mass_g(asked.ball_mm, metal)
    by = one_of(asked, "count", "mass_g")
    number = asked.count if by == "count" else math.floor((asked.mass_g or 0.0) / each + 1e-9)
    if not number:
        raise refuse(
            "out-of-range",
            "mass_g",
            asked.mass_g,
            f"one ball alone takes {num(each)} g",
            "Give more metal, or a smaller ball.",
        )
    snip = wire_of_ball_mm(asked.ball_mm, asked.wire_mm)
    measured = asked.row_mm / (asked.row_count or number) if asked.row_mm is not None else None
    holes, tool = _sieve(hand, measured or asked.ball_mm)
    spread = asked.snip_slip_mm / snip * 100 / 3
    return GranulesFound(
        snip_mm=snip,
        wire_total_mm=snip * number,
        mass_g=each * number,
        count=number,
        sieve_holes_mm=holes,
        spread_pct=spread,
        measured_mm=measured,
        how=f"2 × {num(asked.ball_mm)}³ / (3 × {num(asked.wire_mm)}²) = {num(snip)} mm, {number} times; snips off by {num(asked.snip_slip_mm)} mm spread the balls by a third of {num(spread * 3, 1)} %",
        safety=SAFETY,
        tools=(tool,),
        cut=Cut(
            title="Granule",
            form=Ball(kind="ball", diameter_mm=asked.ball_mm),
            metal=asked.metal,
            count=number,
            length_mm=snip,
        ),
        sketch=sketch(
            [
                *(
                    circle((n + 0.5) * asked.ball_mm, asked.ball_mm / 2, asked.ball_mm)
                    for n in range(min(number, 12))
                ),
                *bar(snip, asked.wire_mm, -asked.wire_mm * 3),
            ],
            [label(snip / 2, -asked.wire_mm * 4.5 - 1, f"{about(snip, 2)} each")],
        ),
    )


def _sieve(hand: Hand, ball_mm: float) -> tuple[tuple[float, ...], ToolAnswer]:
    drills = hand.sizes("drill")
    below = max((size for size in drills if size < ball_mm), default=None)
    above = min((size for size in drills if size > ball_mm), default=None)
    if below is None or above is None:
        tenths = (math.ceil(ball_mm * 10 - 1e-9) - 1) / 10, (math.floor(ball_mm * 10 + 1e-9) + 1) / 10
        below, above = below or tenths[0], above or tenths[1]
        text = "The bench lists no drills on both sides of this size: tenths of a mm are given."
    else:
        text = f"Drill plates with {about(below)} and {about(above)}: what falls through one and not the other is kept."
    owned = hand.nearest("drill", ball_mm)
    return (below, above), ToolAnswer(kind="drill", wanted_mm=ball_mm, owned_mm=owned, text=text)


class ShotKeys(Keys):
    """A ball that fills the hollow of a die."""

    metal: str = key("Metal", "sterling-925")
    cavity_mm3: Annotated[float, Field(gt=0, le=1e6)] | None = key("Hollow of the die", None)
    outline: Outline | None = key("or its outline", None, quantity="outline")
    depth_mm: Mm | None = key("and depth", None)
    flash_pct: Pct = key("Flash", 5.0)
    wire_mm: Mm = key("Wire", 2.0)


class ShotFound(Found):
    """The ball that fills a die, with its flash."""

    ball_mm: float = key("Ball")
    wire_length_mm: float = key("Wire")
    mass_g: float = key("Mass")


def shot(asked: ShotKeys, hand: Hand) -> ShotFound:
    """Give the ball that fills a die's hollow with the flash it needs: volume × (1 + flash)."""
    metal = hand.heated_metal(asked.metal)
    if one_of(asked, "cavity_mm3", "outline") == "outline":
        if asked.depth_mm is None or asked.outline is None:
            raise refuse("missing", "depth_mm", None, "an outline goes with its depth", "Add depth_mm.")
        hollow = outline_area_mm2(asked.outline) * asked.depth_mm
    else:
        hollow = asked.cavity_mm3 or 0.0
    volume = hollow * (1 + asked.flash_pct / 100)
    size = (6 * volume / math.pi) ** (1 / 3)
    length = volume / (math.pi * asked.wire_mm**2 / 4)
    flat = ball_flat_mm(size, metal)
    return ShotFound(
        ball_mm=size,
        wire_length_mm=length,
        mass_g=volume * metal.density_g_cm3 / 1000,
        how=f"{num(hollow, 2)} mm³ × (1 + {num(asked.flash_pct)} %) = {num(volume, 2)} mm³ = ball of (6V/π)^(1/3) = {num(size, 2)} mm",
        cautions=flat_caution(size, flat),
        safety=SAFETY,
        cut=Cut(title="Shot", form=Ball(kind="ball", diameter_mm=size), metal=asked.metal, length_mm=length),
        sketch=sketch(
            [circle(size / 2, size / 2, size), *bar(length, asked.wire_mm, -asked.wire_mm * 3)],
            [label(size / 2, size / 2, bare(size, 2))],
        ),
    )


CALCULATORS = (
    Calculator(
        "granules",
        "Granules",
        "Balls",
        "Equal snips for many small balls, and the holes that sort them.",
        GranulesKeys,
        GranulesFound,
        granules,
        "snip_mm",
        {"metal": "fine-silver-999", "ball_mm": 1.2, "wire_mm": 0.5, "count": 60},
        {"wire_mm": 0.02},
    ),
    Calculator(
        "shot",
        "Shot for a die",
        "Balls",
        "The ball that fills a die's hollow, with its flash.",
        ShotKeys,
        ShotFound,
        shot,
        "ball_mm",
        {"metal": "sterling-925", "cavity_mm3": 40, "flash_pct": 5, "wire_mm": 2},
        {},
    ),
)

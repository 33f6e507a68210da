"""Rings and cuffs: blanks, open rings, sizing."""

from __future__ import annotations

import math
from typing import Literal

from ..faults import refuse
from ..forms import HalfRound, Rect, Round, Strip, Wire
from ..units import about, bare, show_ring_size
from ._base import (
    Calculator,
    Cut,
    Found,
    Hand,
    Keys,
    Mm,
    MmOrZero,
    RingSize,
    caution,
    key,
    num,
    one_of,
    thin,
)
from ._sketch import Sketch, arc, bar, circle, label, line, ring, sketch

WIDE_MM = 4.0
TIGHTER_BY = 0.25 / 2.0


class RingBlankKeys(Keys):
    """A ring's size, and the stock that it is made of."""

    size: RingSize | None = key("Ring size", None, quantity="ring-size")
    inner_diameter_mm: Mm | None = key("or inner diameter", None)
    thickness_mm: Mm = key("Thickness")
    width_mm: Mm | None = key("Width", None)
    saw_allowance_mm: MmOrZero = key("Allowance for the saw", 0.0)
    section: Literal["flat", "half-round", "round"] = key("Section", "flat")


class RingBlankFound(Found):
    """The blank of a ring."""

    length_mm: float = key("Cut the blank")
    inner_diameter_mm: float = key("Inner diameter")
    note: str = key("Note")


def ring_blank(asked: RingBlankKeys, hand: Hand) -> RingBlankFound:
    """Give the blank of a ring: π·(inner diameter + thickness) + allowance.

    The neutral line lies in the middle of the stock. Bands wider than 4 mm sit tighter: 0.25 mm of inner
    diameter is added for each 2 mm beyond 4 (bench practice).
    """
    asked_inner = (
        asked.size if one_of(asked, "size", "inner_diameter_mm") == "size" else asked.inner_diameter_mm
    )
    asked_inner = asked_inner or 0.0
    wider = max(0.0, (asked.width_mm or 0.0) - WIDE_MM) * TIGHTER_BY
    inner, thick = asked_inner + wider, asked.thickness_mm
    length = math.pi * (inner + thick) + asked.saw_allowance_mm
    note = show_ring_size(asked_inner)
    if wider:
        note += f"; {about(wider)} is added to the inside, since a band of {about(asked.width_mm or 0)} sits tighter"
    allowance = f" + {num(asked.saw_allowance_mm)}" if asked.saw_allowance_mm else ""
    return RingBlankFound(
        length_mm=length,
        inner_diameter_mm=inner,
        note=note,
        how=f"π × ({num(inner)} + {num(thick)}){allowance} = {num(length, 2)} mm",
        cautions=thin(hand, "a shank", thick, "shank"),
        cut=Cut(title="Ring", form=_band(asked, length), length_mm=length),
        sketch=_ring_sketch(inner, thick, length),
    )


def _band(asked: RingBlankKeys, length: float) -> Strip | Wire:
    width = asked.width_mm
    if asked.section == "half-round":
        across = width or 2 * asked.thickness_mm
        if across < asked.thickness_mm:
            raise refuse(
                "contradiction",
                "width_mm",
                across,
                "a half-round is no taller than it is wide",
                "Make it wider.",
            )
        return Wire(
            kind="wire",
            profile=HalfRound(kind="half-round", width_mm=across, height_mm=asked.thickness_mm),
            length_mm=length,
            closed=True,
        )
    if asked.section == "round":
        return Wire(
            kind="wire",
            profile=Round(kind="round", diameter_mm=asked.thickness_mm),
            length_mm=length,
            closed=True,
        )
    if width is None:
        side = asked.thickness_mm
        return Wire(
            kind="wire",
            profile=Rect(kind="rect", width_mm=side, height_mm=side),
            length_mm=length,
            closed=True,
        )
    return Strip(kind="strip", width_mm=width, thickness_mm=asked.thickness_mm, length_mm=length, closed=True)


def _ring_sketch(inner: float, thick: float, length: float) -> Sketch:
    outer = inner + 2 * thick
    return sketch(
        [*ring(outer / 2, outer / 2 + thick * 3, inner, outer, split=True), *bar(length, thick)],
        [
            label(outer / 2, outer / 2 + thick * 3, bare(inner, 2)),
            label(length / 2, -4, about(length, 2)),
        ],
    )


class OpenRingKeys(Keys):
    """A ring left open, its ends a chord apart."""

    size: RingSize = key("Ring size", quantity="ring-size")
    wire_mm: Mm = key("Wire")
    chord_mm: Mm = key("Opening, on the centre line")


class OpenRingFound(Found):
    """The blank of an open ring."""

    length_mm: float = key("Cut the wire")
    removed_mm: float = key("Left out of the full ring")
    end_bevel_deg: float = key("Bevel of the ends")


def open_ring(asked: OpenRingKeys, hand: Hand) -> OpenRingFound:
    """Give the length of an open ring: π·D − D·asin(c/D), D on the centre line; its ends are bevelled by asin(c/D)."""
    around = asked.size + asked.wire_mm
    if asked.chord_mm >= around:
        raise refuse(
            "contradiction",
            "chord_mm",
            asked.chord_mm,
            f"the opening is below the ring's own {num(around, 2)} mm",
            "Make it smaller.",
        )
    angle = math.asin(asked.chord_mm / around)
    removed = around * angle
    length = math.pi * around - removed
    half = math.degrees(angle)
    centre = (around / 2, around / 2)
    open_arc = arc(centre, around / 2, 90 + half, 450 - half)
    ends = (open_arc[0], open_arc[-1])
    return OpenRingFound(
        length_mm=length,
        removed_mm=removed,
        end_bevel_deg=half,
        how=f"D = {num(asked.size)} + {num(asked.wire_mm)} = {num(around)}; π × D − D × asin({num(asked.chord_mm)} / D) = {num(length, 2)} mm",
        cautions=thin(hand, "a shank", asked.wire_mm, "shank"),
        cut=Cut(
            title="Open ring",
            form=Wire(kind="wire", profile=Round(kind="round", diameter_mm=asked.wire_mm), length_mm=length),
            length_mm=length,
        ),
        sketch=sketch(
            [
                line(*arc(centre, around / 2 + asked.wire_mm / 2, 90 + half, 450 - half)),
                line(*arc(centre, around / 2 - asked.wire_mm / 2, 90 + half, 450 - half)),
                line(*ends, stands="hidden"),
            ],
            [label(around / 2, ends[0][1] + 1, bare(asked.chord_mm))],
        ),
    )


class ResizeKeys(Keys):
    """A ring's size as it is, and as it should be."""

    from_size: RingSize = key("Size now", alias="from", quantity="ring-size")
    to_size: RingSize = key("Size wanted", alias="to", quantity="ring-size")
    thickness_mm: Mm = key("Thickness", 1.5)
    metal: str = key("Metal", "sterling-925")


class ResizeFound(Found):
    """What a ring is made longer or shorter by."""

    add_or_remove_mm: float = key("Add (or, below 0, take out)")
    method: str = key("By")


STRETCH_SHARE = 0.15


def resize(asked: ResizeKeys, hand: Hand) -> ResizeFound:
    """Give the change of length at the seam: π·ΔID. Stretching is offered only well within the metal's limit.

    Stretching thins the shank by 1 − 1/(1 + ε); a soldered seam bears far less than the sheet, so it is offered up
    to 15 % of the metal's limit (bench practice: up to about a size).
    """
    change = math.pi * (asked.to_size - asked.from_size)
    strain = (asked.to_size - asked.from_size) / (asked.from_size + asked.thickness_mm)
    thinner = (1 - 1 / (1 + strain)) * 100 if strain > 0 else 0.0
    limit = hand.metal(asked.metal).max_reduction_pct * STRETCH_SHARE
    if abs(change) < 0.01:
        method = "leave it as it is"
    elif change < 0:
        method = "saw a piece out at the seam and close it"
    else:
        method = "stretch it" if thinner <= limit else "open the seam and let a piece in"
    told = (
        ()
        if change <= 0 or thinner <= limit
        else (
            caution(
                "needs-anneal",
                f"Stretching would thin the shank by {num(thinner, 1)} %: more than its seam bears.",
            ),
        )
    )
    inner, thick = asked.to_size, asked.thickness_mm
    return ResizeFound(
        add_or_remove_mm=change,
        method=method,
        how=f"π × ({num(asked.to_size)} − {num(asked.from_size)}) = {num(change, 2)} mm: {method}",
        cautions=told,
        sketch=sketch(
            [*ring(0, 0, inner, inner + 2 * thick, split=True), circle(0, 0, asked.from_size, "hidden")],
            [label(0, 0, bare(inner, 2))],
        ),
    )


class CuffKeys(Keys):
    """A wrist, and the cuff that goes round it."""

    wrist_mm: Mm = key("Wrist, around")
    ease_mm: MmOrZero = key("Ease", 6.0)
    opening_mm: MmOrZero = key("Opening")
    thickness_mm: Mm = key("Thickness")
    width_mm: Mm = key("Width", 12.0)


class CuffFound(Found):
    """The blank of a cuff."""

    length_mm: float = key("Cut the blank")


def cuff(asked: CuffKeys, hand: Hand) -> CuffFound:
    """Give the blank of a cuff: (wrist + ease − opening)·(1 + π·t/(wrist + ease))."""
    inside = asked.wrist_mm + asked.ease_mm
    if asked.opening_mm >= inside:
        raise refuse(
            "contradiction",
            "opening_mm",
            asked.opening_mm,
            f"the opening is below the inside of {num(inside)} mm",
            "Make it smaller.",
        )
    length = (inside - asked.opening_mm) * (1 + math.pi * asked.thickness_mm / inside)
    radius = inside / (2 * math.pi)
    half = math.degrees(asked.opening_mm / 2 / radius)
    turned = [arc((0, 0), one, -90 + half, 270 - half) for one in (radius, radius + asked.thickness_mm)]
    return CuffFound(
        length_mm=length,
        how=f"({num(asked.wrist_mm)} + {num(asked.ease_mm)} − {num(asked.opening_mm)}) × (1 + π × {num(asked.thickness_mm)} / {num(inside)}) = {num(length, 2)} mm",
        cut=Cut(
            title="Cuff",
            form=Strip(
                kind="strip", width_mm=asked.width_mm, thickness_mm=asked.thickness_mm, length_mm=length
            ),
            length_mm=length,
        ),
        sketch=sketch(
            [
                line(*turned[0], *reversed(turned[1]), closed=True),
                *bar(length, asked.thickness_mm, -radius * 1.5),
            ],
            [label(length / 2, -radius * 1.5 - 5, about(length, 1))],
        ),
    )


CALCULATORS = (
    Calculator(
        "ring-blank",
        "Ring blank",
        "Rings",
        "How long to cut the stock of a ring, from its size.",
        RingBlankKeys,
        RingBlankFound,
        ring_blank,
        "length_mm",
        {"size": "US 9", "thickness_mm": 1.8},
        {"thickness_mm": 0.1, "inner_diameter_mm": 0.1},
    ),
    Calculator(
        "open-ring",
        "Open ring",
        "Rings",
        "A ring whose ends stand apart: its length, and the bevel of its ends.",
        OpenRingKeys,
        OpenRingFound,
        open_ring,
        "length_mm",
        {"size": "US 9", "wire_mm": 1.6, "chord_mm": 7},
        {"wire_mm": 0.1, "chord_mm": 0.5},
    ),
    Calculator(
        "resize",
        "Make a ring larger or smaller",
        "Rings",
        "What to let in or take out at the seam.",
        ResizeKeys,
        ResizeFound,
        resize,
        "add_or_remove_mm",
        {"from": "US 7", "to": "US 8 1/2"},
    ),
    Calculator(
        "cuff",
        "Cuff",
        "Rings",
        "The blank of a cuff, from the wrist.",
        CuffKeys,
        CuffFound,
        cuff,
        "length_mm",
        {"wrist_mm": 168, "ease_mm": 6, "opening_mm": 28, "thickness_mm": 2.4},
        {"wrist_mm": 2.0, "thickness_mm": 0.1},
    ),
)

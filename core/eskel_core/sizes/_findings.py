"""Findings: ear wires, posts, bails, links that must fit."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ..forms import Strip
from ..units import about, bare, sizes
from ._base import (
    Calculator,
    Cut,
    Found,
    Hand,
    Keys,
    Mm,
    MmOrZero,
    SizeCaution,
    caution,
    key,
    num,
    thin,
    tool_answer,
)
from ._sketch import Sketch, Spot, arc, bar, box, circle, label, line, ruler, sketch
from ._wirework import round_wire

FIRST_BEND_DEG = {"right-angle": 90.0, "half-angle": 45.0}
FLARE_DEG = 30.0


class EarWireKeys(Keys):
    """An ear wire: a tail on the back of the ornament, a first bend, the front, a half turn over a dowel, the drop."""

    wire_mm: Mm = key("Wire")
    dowel_mm: Mm = key("Dowel of the bend")
    ornament_mm: Mm = key("Ornament below the first bend")
    front_mm: MmOrZero = key("Straight up in front")
    drop_mm: MmOrZero = key("Straight down behind")
    tail_mm: MmOrZero = key("Tail on the ornament", 0.0)
    flare_mm: MmOrZero = key("Flare at the end", 0.0)
    catch_mm: MmOrZero = key("Catch below the first bend (0: none)", 0.0)
    bend: Literal["right-angle", "half-angle"] | None = key("First bend", None)
    bend_radius_mm: Mm | None = key("Radius of the first bend", None)
    spare_mm: MmOrZero = key("To spare", 1.0)


class EarWireFound(Found):
    """The wire of an ear wire, with its bend marks from the tail's end."""

    cut_length_mm: float = key("Cut the wire")
    bend_marks_mm: tuple[float, ...] = key("Bends begin at")
    hidden_mm: float = key("Hidden by the ornament")
    catch_overlap_mm: float | None = key("Wire past the catch", None)


def ear_wire(asked: EarWireKeys, hand: Hand) -> EarWireFound:
    """Give the wire of an ear wire: straight runs, and arcs on the neutral line.

    The first bend's angle is the house's unless given, its radius the wire's own unless given: angle·(r + d/2). The
    half turn over the dowel is π·(dowel + d)/2. A flare turns out by 30°. What lies behind reaches down to
    drop + flare·cos 30° − front below the first bend, or to the catch.
    """
    wire, bend = asked.wire_mm, asked.bend or hand.house.ear_wire_bend
    radius = asked.bend_radius_mm or wire
    first = math.radians(FIRST_BEND_DEG[bend]) * (radius + wire / 2)
    over = math.pi * (asked.dowel_mm + wire) / 2
    out = math.radians(FLARE_DEG) * (radius + wire / 2) if asked.flare_mm else 0.0
    runs = (asked.tail_mm, first, asked.front_mm, over, asked.drop_mm, out, asked.flare_mm)
    length = sum(runs) + asked.spare_mm
    marks = [asked.tail_mm, asked.tail_mm + first + asked.front_mm]
    if asked.flare_mm:
        marks.append(sum(runs[:5]))
    low = asked.drop_mm + asked.flare_mm * math.cos(math.radians(FLARE_DEG)) - asked.front_mm
    lowest = max(low, asked.catch_mm)
    overlap = low - asked.catch_mm if asked.catch_mm else None
    told = [*thin(hand, "an ear wire", wire, "ear_wire")]
    hidden = asked.ornament_mm - lowest
    if hidden < 0:
        told.append(
            caution("wire-shows", f"The wire or its catch reaches {about(-hidden, 2)} below the ornament.")
        )
    if overlap is not None and overlap < 0:
        told.append(caution("cut-short", f"The wire ends {about(-overlap, 2)} above its catch."))
    if not asked.spare_mm:
        told.append(caution("cut-short", "Nothing is left to trim the end by."))
    return EarWireFound(
        cut_length_mm=length,
        bend_marks_mm=tuple(marks),
        hidden_mm=hidden,
        catch_overlap_mm=overlap,
        how=f"tail {num(asked.tail_mm)} + first bend {num(first)} + front {num(asked.front_mm)} + half turn π × ({num(asked.dowel_mm)} + {num(wire)}) / 2 = {num(over)} + drop {num(asked.drop_mm)} + flare {num(out + asked.flare_mm)} + spare {num(asked.spare_mm)} = {num(length, 2)} mm",
        cautions=tuple(told),
        safety=("Ear parts: local rules on nickel and hygiene apply; round and polish the end.",),
        tools=(
            tool_answer(
                hand,
                "dowel",
                asked.dowel_mm,
                lambda owned: f"the half turn takes {about(math.pi * (owned + wire) / 2)}.",
            ),
        ),
        cut=Cut(title="Ear wire", form=round_wire(wire, length), length_mm=length),
        sketch=_ear_wire_sketch(asked, marks, length, FIRST_BEND_DEG[bend]),
    )


def _ear_wire_sketch(asked: EarWireKeys, marks: list[float], length: float, first_deg: float) -> Sketch:
    """Draw it from the side: the ornament at x = 0, its back to the right, the first bend at the origin."""
    radius = (asked.dowel_mm + asked.wire_mm) / 2
    up = asked.front_mm
    turned: list[Spot] = arc((radius, up), radius, 180, 0)
    end = (2 * radius, up - asked.drop_mm)
    flare = math.radians(FLARE_DEG)
    spots = [(0.0, -asked.tail_mm), (0.0, 0.0), *turned, end]
    if asked.flare_mm:
        spots.append((end[0] + asked.flare_mm * math.sin(flare), end[1] - asked.flare_mm * math.cos(flare)))
    below = min(-asked.ornament_mm, end[1] - asked.flare_mm) - 8
    lines = [
        line(*spots),
        line((-1.2, 0), (-1.2, -asked.ornament_mm), stands="fine"),
        line((-0.4, 0), (-0.4, -asked.ornament_mm), stands="fine"),
        *bar(length, asked.wire_mm, below, marks),
        *ruler(length, below - 1.5),
    ]
    if asked.catch_mm:
        lines.append(circle(2 * radius, -asked.catch_mm, 2 * asked.wire_mm, "hidden"))
    labels = [label(at, below + 2.2 + 3.5 * (n % 2), bare(at, 1)) for n, at in enumerate(marks)]
    return sketch(lines, [*labels, label(length, below - 5, about(length, 1), "end")])


class PostKeys(Keys):
    """An ear post soldered on the back of an ornament."""

    ornament_mm: Mm = key("Ornament, across")
    lobe_mm: Mm = key("Ear lobe")
    nut_mm: MmOrZero = key("Nut or clutch")
    stick_out_mm: MmOrZero = key("Left standing out", 1.0)
    post_mm: Mm = key("Post wire", 0.8)
    handling_mm: MmOrZero = key("To hold it by", 10.0)


class PostFound(Found):
    """The length of a post, where it is trimmed and grooved."""

    cut_length_mm: float = key("Cut the wire")
    trim_to_mm: float = key("Trim to")
    groove_at_mm: float = key("Groove at")
    centre_mm: float = key("Centre marks at")


def post(asked: PostKeys, hand: Hand) -> PostFound:
    """Give a post: trimmed to lobe + nut + what stands out; a groove in the middle of the nut; longer to hold it by."""
    trim = asked.lobe_mm + asked.nut_mm + asked.stick_out_mm
    cut, groove = trim + asked.handling_mm, asked.lobe_mm + asked.nut_mm / 2
    told = [*thin(hand, "a post", asked.post_mm, "post")]
    if not asked.handling_mm:
        told.append(caution("cut-short", "Nothing is left to hold the post by, nor to trim."))
    across = asked.ornament_mm
    return PostFound(
        cut_length_mm=cut,
        trim_to_mm=trim,
        groove_at_mm=groove,
        centre_mm=across / 2,
        how=f"{num(asked.lobe_mm)} + {num(asked.nut_mm)} + {num(asked.stick_out_mm)} = {num(trim)} mm; + {num(asked.handling_mm)} = {num(cut)} mm",
        cautions=tuple(told),
        safety=("Ear parts: local rules on nickel and hygiene apply; round and polish the tip.",),
        cut=Cut(title="Post", form=round_wire(asked.post_mm, cut), length_mm=cut),
        sketch=sketch(
            [
                box(-1, -across / 2, 1, across),
                *bar(cut, asked.post_mm, -asked.post_mm / 2, [groove, trim]),
                box(asked.lobe_mm, -2.5, asked.nut_mm, 5, "hidden"),
            ],
            [
                label(trim, asked.post_mm + 3, bare(trim, 1)),
                label(groove, -4.5, bare(groove, 1)),
                label(cut, 2, bare(cut, 1)),
            ],
        ),
    )


class BailKeys(Keys):
    """A strip bent round a dowel, its two ends laid on the ornament."""

    chain_end_mm: Mm = key("End of the chain that must pass")
    dowel_mm: Mm = key("Dowel")
    width_mm: Mm = key("Width of the strip")
    thickness_mm: Mm = key("Thickness")
    lap_mm: MmOrZero = key("Each lap", 4.0)


class BailFound(Found):
    """The blank of a bail, and whether the chain passes it."""

    blank_mm: float = key("Cut the strip")
    passage_mm: float = key("Opening")
    ok: bool = key("The chain passes")


def bail(asked: BailKeys, hand: Hand) -> BailFound:
    """Give the blank of a bail: once round the dowel on the neutral line, and two laps."""
    around = math.pi * (asked.dowel_mm + asked.thickness_mm)
    length = around + 2 * asked.lap_mm
    told: tuple[SizeCaution, ...] = ()
    passes = asked.dowel_mm > asked.chain_end_mm
    if not passes:
        told = (
            caution(
                "does-not-fit",
                f"A chain end of {about(asked.chain_end_mm)} does not pass an opening of {about(asked.dowel_mm)}.",
            ),
        )
    outer = asked.dowel_mm + 2 * asked.thickness_mm
    return BailFound(
        blank_mm=length,
        passage_mm=asked.dowel_mm,
        ok=passes,
        how=f"π × ({num(asked.dowel_mm)} + {num(asked.thickness_mm)}) + 2 × {num(asked.lap_mm)} = {num(length, 2)} mm",
        cautions=told,
        tools=(
            tool_answer(
                hand,
                "dowel",
                asked.dowel_mm,
                lambda owned: (
                    f"the strip is {about(math.pi * (owned + asked.thickness_mm) + 2 * asked.lap_mm, 2)} and the opening {about(owned)}."
                ),
            ),
        ),
        cut=Cut(
            title="Bail",
            form=Strip(
                kind="strip", width_mm=asked.width_mm, thickness_mm=asked.thickness_mm, length_mm=length
            ),
            length_mm=length,
        ),
        sketch=sketch(
            [
                circle(0, 0, asked.dowel_mm),
                circle(0, 0, outer),
                line((-asked.thickness_mm, -outer / 2), (-asked.thickness_mm, -outer / 2 - asked.lap_mm)),
                line((asked.thickness_mm, -outer / 2), (asked.thickness_mm, -outer / 2 - asked.lap_mm)),
                circle(0, 0, asked.chain_end_mm, "hidden"),
                box(-length / 2, -outer - asked.lap_mm - asked.width_mm, length, asked.width_mm),
            ],
            [
                label(
                    0,
                    -outer - asked.lap_mm - asked.width_mm - 2,
                    sizes(length, asked.width_mm, places=2),
                )
            ],
        ),
    )


class LinkFitKeys(Keys):
    """A ring through plates or other rings, and how many links turn the drop."""

    bore_mm: Mm = key("Bore of the ring")
    thicknesses_mm: Annotated[tuple[Mm, ...], Field(min_length=1, max_length=12)] = key(
        "Thicknesses inside it", quantity="lengths"
    )
    edge_mm: MmOrZero = key("Hole to edge", 0.0)
    play_mm: MmOrZero = key("Play wanted", 0.3)
    links: Annotated[int, Field(ge=0, le=1000)] = key("Quarter-turn links", 1)


class LinkFitFound(Found):
    """Whether a ring fits what it holds, and which way the drop faces."""

    play_mm: float = key("Play")
    fits: bool = key("It fits")
    facing: str = key("The drop faces")


def link_fit(asked: LinkFitKeys, hand: Hand) -> LinkFitFound:
    """Say whether a ring fits: its bore takes all thicknesses and the play, and spans from hole to edge.

    Each link turns the next by a quarter: an odd number turns the drop by 90°.
    """
    inside = sum(asked.thicknesses_mm)
    needed = max(inside, asked.edge_mm + max(asked.thicknesses_mm) / 2 if asked.edge_mm else 0.0)
    play = asked.bore_mm - needed
    fits = play >= asked.play_mm - 1e-9
    told: tuple[SizeCaution, ...] = ()
    if not fits:
        told = (
            caution(
                "does-not-fit",
                f"The bore of {about(asked.bore_mm)} leaves {about(play, 2)} of play; {about(asked.play_mm)} is wanted.",
            ),
        )
    odd = asked.links % 2 == 1
    plates, at = [], -inside / 2
    for one in asked.thicknesses_mm:
        plates.append(box(at, -asked.bore_mm * 0.75, one, asked.bore_mm * 1.5, "fine"))
        at += one
    return LinkFitFound(
        play_mm=play,
        fits=fits,
        facing="turned by a quarter" if odd else "the same way as what it hangs from",
        how=f"{num(asked.bore_mm)} − {num(needed, 2)} = {num(play, 2)} mm of play; {asked.links} quarter turns",
        cautions=told,
        sketch=sketch(
            [circle(0, 0, asked.bore_mm), circle(0, 0, asked.bore_mm * 1.25), *plates],
            [label(0, asked.bore_mm, bare(asked.bore_mm))],
        ),
    )


CALCULATORS = (
    Calculator(
        "ear-wire",
        "Ear wire",
        "Findings",
        "The wire of a hook, its bend marks, and whether it stays hidden.",
        EarWireKeys,
        EarWireFound,
        ear_wire,
        "cut_length_mm",
        {
            "wire_mm": 0.8,
            "dowel_mm": 6,
            "ornament_mm": 22,
            "front_mm": 4,
            "drop_mm": 18,
            "tail_mm": 5,
            "flare_mm": 3,
            "catch_mm": 0,
            "bend": "half-angle",
            "spare_mm": 1,
        },
        {"dowel_mm": 0.5, "wire_mm": 0.1},
    ),
    Calculator(
        "post",
        "Ear post",
        "Findings",
        "How long to cut a post, where to trim it and where its groove goes.",
        PostKeys,
        PostFound,
        post,
        "cut_length_mm",
        {
            "ornament_mm": 12,
            "lobe_mm": 5.5,
            "nut_mm": 2.5,
            "stick_out_mm": 1,
            "post_mm": 0.8,
            "handling_mm": 10,
        },
        {},
    ),
    Calculator(
        "bail",
        "Bail",
        "Findings",
        "A strip bent round a dowel, and whether the chain's end passes.",
        BailKeys,
        BailFound,
        bail,
        "blank_mm",
        {"chain_end_mm": 4, "dowel_mm": 5, "width_mm": 3, "thickness_mm": 0.6, "lap_mm": 4},
        {"thickness_mm": 0.1},
    ),
    Calculator(
        "link-fit",
        "Does the link fit?",
        "Findings",
        "Play of a ring through plates, and which way the drop faces.",
        LinkFitKeys,
        LinkFitFound,
        link_fit,
        "play_mm",
        {"bore_mm": 4, "thicknesses_mm": [1.0, 1.2], "edge_mm": 2, "play_mm": 0.3, "links": 3},
        {},
    ),
)

"""Wire made into rings, links, chain, twists, scrolls and wrapped loops."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import AliasChoices, Field

from ..faults import refuse
from ..forms import Ellipse, Form, Round, Wire, outline_perimeter_mm, wire_length_mm
from ..piece import mass_g
from ..units import about, bare
from ._base import Calculator, Count, Cut, Found, Hand, Keys, Mm, MmOrZero, Record, key, num, tool_answer
from ._sketch import Sketch, SketchLine, bar, circle, label, line, oval, ring, sketch


def round_wire(diameter: float, length: float, *, closed: bool = False) -> Form:
    """Give round wire as a form."""
    return Wire(
        kind="wire", profile=Round(kind="round", diameter_mm=diameter), length_mm=length, closed=closed
    )


class JumpRingsKeys(Keys):
    """Rings wound on a mandrel and sawn apart."""

    inner_diameter_mm: Mm = key("Inner diameter")
    wire_mm: Mm = key("Wire")
    count: Count = key("How many", 1)
    kerf_mm: MmOrZero = key("Kerf of the saw", 0.0)


class JumpRingsFound(Found):
    """The wire of jump rings."""

    length_each_mm: float = key("Each takes")
    wire_total_mm: float = key("Wire in all")
    aspect_ratio: float = key("Inner diameter to wire")
    mandrel_mm: float = key("Mandrel")


def jump_rings(asked: JumpRingsKeys, hand: Hand) -> JumpRingsFound:
    """Give the wire of jump rings: π·(ID + d) each, and a kerf for each in all."""
    each = math.pi * (asked.inner_diameter_mm + asked.wire_mm)
    total = asked.count * (each + asked.kerf_mm)
    kind = "mandrel" if hand.sizes("mandrel") or not hand.sizes("dowel") else "dowel"

    def change(owned: float) -> str:
        return f"the rings come {about(owned)} inside and take {about(math.pi * (owned + asked.wire_mm), 2)} each."

    inner = asked.inner_diameter_mm
    coil = [
        circle(inner / 2 + n * asked.wire_mm * 0.15, inner / 2, inner + asked.wire_mm, "fine") for n in (1, 2)
    ]
    return JumpRingsFound(
        length_each_mm=each,
        wire_total_mm=total,
        aspect_ratio=inner / asked.wire_mm,
        mandrel_mm=inner,
        how=f"π × ({num(inner)} + {num(asked.wire_mm)}) = {num(each)} mm each; {asked.count} × ({num(each)} + {num(asked.kerf_mm)}) = {num(total, 1)} mm",
        tools=(tool_answer(hand, kind, inner, change),),
        cut=Cut(
            title="Jump ring",
            form=round_wire(asked.wire_mm, each, closed=True),
            count=asked.count,
            length_mm=each,
        ),
        sketch=sketch(
            [
                *ring(inner / 2, inner / 2, inner, inner + 2 * asked.wire_mm, split=True),
                *coil,
                *bar(each, asked.wire_mm, -inner),
            ],
            [
                label(inner / 2, inner / 2, bare(inner)),
                label(each / 2, -inner - 1.5 - asked.wire_mm, about(each, 2)),
            ],
        ),
    )


class RoundLink(Record):
    """A round link, by its inside."""

    kind: Literal["round"]
    inner_diameter_mm: Mm = key("Inner diameter", alias=AliasChoices("inner_diameter_mm", "diameter_mm"))


class OvalLink(Record):
    """An oval link, by its inside."""

    kind: Literal["oval"]
    inner_length_mm: Mm = key("Inner length", alias=AliasChoices("inner_length_mm", "length_mm"))
    inner_width_mm: Mm = key("Inner width", alias=AliasChoices("inner_width_mm", "width_mm"))


class ChainKeys(Keys):
    """A chain of links alike."""

    link: Annotated[RoundLink | OvalLink, Field(discriminator="kind")] = key("Link", quantity="link")
    wire_mm: Mm = key("Wire")
    length_mm: Mm = key("Length of the chain")
    metal: str = key("Metal", "sterling-925")


class ChainFound(Found):
    """The links and wire of a chain."""

    links: int = key("Links")
    blank_mm: float = key("Each link takes")
    wire_total_mm: float = key("Wire in all")
    mass_g: float = key("Mass")


def chain(asked: ChainKeys, hand: Hand) -> ChainFound:
    """Give the links and wire of a chain: a link's pitch is its inner length; its blank lies on the centre line.

    n links reach n times the inner length and twice the wire.
    """
    wire, link = asked.wire_mm, asked.link
    long, wide = (
        (link.inner_diameter_mm,) * 2
        if isinstance(link, RoundLink)
        else (link.inner_length_mm, link.inner_width_mm)
    )
    if wide < 2 * wire:
        raise refuse(
            "contradiction",
            "link",
            wide,
            f"two wires of {num(wire)} mm pass through each link",
            "Make the links wider, or the wire thinner.",
        )
    links = max(1, math.ceil(round((asked.length_mm - 2 * wire) / long, 6)))
    blank = outline_perimeter_mm(Ellipse(kind="ellipse", width_mm=long + wire, height_mm=wide + wire))
    form = round_wire(wire, blank, closed=True)
    mass = mass_g(form, hand.metal(asked.metal)) or 0.0
    drawn = [
        oval(n * long, 0, long + more, wide + more) for n in range(min(links, 6)) for more in (0, 2 * wire)
    ]
    return ChainFound(
        links=links,
        blank_mm=blank,
        wire_total_mm=links * blank,
        mass_g=links * mass,
        how=f"({num(asked.length_mm)} − 2 × {num(wire)}) / {num(long)} → {links} links; each on the centre line {num(blank, 2)} mm",
        cut=Cut(title="Link", form=form, metal=asked.metal, count=links, length_mm=blank),
        sketch=sketch(drawn, [label(0, -wide - 2, f"{links} links")]),
    )


class TwistKeys(Keys):
    """Wires twisted together."""

    wire_mm: Mm = key("Wire")
    strands: Annotated[int, Field(ge=2, le=7)] = key("Strands", 2)
    pitch_mm: Mm = key("Pitch, one full turn")
    finished_length_mm: Mm = key("Finished length", 100.0)


class TwistFound(Found):
    """The wire of a twist."""

    cut_length_mm: float = key("Cut each wire")
    outer_mm: float = key("Across the twist")
    turns: float = key("Turns")
    wire_total_mm: float = key("Wire in all")


def twist(asked: TwistKeys, hand: Hand) -> TwistFound:
    """Give the wire of a twist: helix of the strand centres, L·√(1 + (π·dc/p)²), dc = d/sin(π/n).

    Of seven strands one runs straight in the middle.
    """
    wire, length = asked.wire_mm, asked.finished_length_mm
    outer = 6 if asked.strands == 7 else asked.strands
    centres = wire / math.sin(math.pi / outer)
    factor = math.sqrt(1 + (math.pi * centres / asked.pitch_mm) ** 2)
    if asked.pitch_mm < outer * wire:
        raise refuse(
            "contradiction",
            "pitch_mm",
            asked.pitch_mm,
            f"{outer} wires of {num(wire)} mm side by side take at least {num(outer * wire)} mm a turn",
            "Give a longer pitch.",
        )
    form = Wire(
        kind="wire",
        profile=Round(kind="round", diameter_mm=wire),
        length_mm=length,
        strands=asked.strands,
        pitch_mm=asked.pitch_mm,
    )
    return TwistFound(
        cut_length_mm=length * factor,
        outer_mm=centres + wire,
        turns=length / asked.pitch_mm,
        wire_total_mm=wire_length_mm(form),
        how=f"centres on a circle of {num(centres)} mm; {num(length)} × √(1 + (π × {num(centres)} / {num(asked.pitch_mm)})²) = {num(length)} × {num(factor, 4)} = {num(length * factor, 2)} mm",
        cut=Cut(title="Twist", form=form, length_mm=length * factor),
        sketch=_twist_sketch(asked, centres),
    )


def _twist_sketch(asked: TwistKeys, centres: float) -> Sketch:
    shown = min(asked.finished_length_mm, 4 * asked.pitch_mm)
    lines: list[SketchLine] = []
    for strand in range(min(asked.strands, 6)):
        for edge in (-asked.wire_mm / 2, asked.wire_mm / 2):
            spots = []
            for n in range(61):
                x = shown * n / 60
                turn = 2 * math.pi * (x / asked.pitch_mm + strand / min(asked.strands, 6))
                spots.append((x, centres / 2 * math.sin(turn) + edge))
            lines.append(line(*spots, stands="fine"))
    return sketch(lines, [label(shown / 2, -centres - asked.wire_mm - 2, f"{about(asked.pitch_mm)} a turn")])


class ScrollKeys(Keys):
    """A flat spiral of wire."""

    outer_mm: Mm = key("Outer diameter")
    inner_mm: Mm = key("Inner diameter")
    pitch_mm: Mm = key("From turn to turn")


class ScrollFound(Found):
    """The wire of a scroll."""

    length_mm: float = key("Wire")
    turns: float = key("Turns")


def scroll(asked: ScrollKeys, hand: Hand) -> ScrollFound:
    """Give the wire of a flat spiral: π·(Do² − Di²)/(4·p)."""
    outer, inner, pitch = asked.outer_mm, asked.inner_mm, asked.pitch_mm
    if inner >= outer:
        raise refuse(
            "contradiction",
            "inner_mm",
            inner,
            "a scroll's inner diameter is below its outer one",
            "Swap the two?",
        )
    length, turns = math.pi * (outer**2 - inner**2) / (4 * pitch), (outer - inner) / (2 * pitch)
    spots = []
    for n in range(181):
        radius = inner / 2 + (outer - inner) / 2 * n / 180
        turn = 2 * math.pi * turns * n / 180
        spots.append((radius * math.cos(turn), radius * math.sin(turn)))
    return ScrollFound(
        length_mm=length,
        turns=turns,
        how=f"π × ({num(outer)}² − {num(inner)}²) / (4 × {num(pitch)}) = {num(length, 2)} mm",
        cut=Cut(title="Scroll", form=round_wire(pitch * 0.9, length), length_mm=length),
        sketch=sketch([line(*spots)], [label(0, -outer / 2 - 2, f"{num(turns, 1)} turns")]),
    )


class WrappedLoopKeys(Keys):
    """A loop closed by wrapping the wire round its own neck."""

    wire_mm: Mm = key("Wire")
    loop_mm: Mm = key("Loop, inside")
    wraps: Annotated[float, Field(ge=0, le=50)] = key("Wraps", 3.0)
    tail_mm: MmOrZero = key("Tail", 8.0)


class WrappedLoopFound(Found):
    """The wire of a wrapped loop."""

    cut_length_mm: float = key("Wire for the loop")


def wrapped_loop(asked: WrappedLoopKeys, hand: Hand) -> WrappedLoopFound:
    """Give the wire of a wrapped loop: the loop on its neutral line, π·2d for each wrap, and the tail."""
    wire = asked.wire_mm
    loop, wrap = math.pi * (asked.loop_mm + wire), math.pi * 2 * wire
    length = loop + asked.wraps * wrap + asked.tail_mm
    neck = asked.wraps * wire
    turns = [
        line((-wire, -n * wire), (wire, -(n + 0.6) * wire), stands="fine") for n in range(round(asked.wraps))
    ]
    top = asked.loop_mm / 2 + wire
    return WrappedLoopFound(
        cut_length_mm=length,
        how=f"π × ({num(asked.loop_mm)} + {num(wire)}) + {num(asked.wraps)} × π × 2 × {num(wire)} + {num(asked.tail_mm)} = {num(length, 2)} mm",
        tools=(
            tool_answer(
                hand,
                "dowel",
                asked.loop_mm,
                lambda owned: f"the loop takes {about(math.pi * (owned + wire), 2)}.",
            ),
        ),
        cut=Cut(title="Wrapped loop", form=round_wire(wire, length), length_mm=length),
        sketch=sketch(
            [
                *ring(0, top, asked.loop_mm, asked.loop_mm + 2 * wire),
                *turns,
                line((0, 0), (0, -neck - asked.tail_mm)),
            ],
            [label(asked.loop_mm, top, bare(asked.loop_mm))],
        ),
    )


CALCULATORS = (
    Calculator(
        "jump-rings",
        "Jump rings",
        "Wire",
        "Wire for rings wound on a mandrel and sawn apart.",
        JumpRingsKeys,
        JumpRingsFound,
        jump_rings,
        "length_each_mm",
        {"inner_diameter_mm": 4.0, "wire_mm": 0.9, "count": 50, "kerf_mm": 0.26},
        {"inner_diameter_mm": 0.1},
    ),
    Calculator(
        "chain",
        "Chain",
        "Wire",
        "How many links, and the wire that they take.",
        ChainKeys,
        ChainFound,
        chain,
        "links",
        {
            "link": {"kind": "oval", "inner_length_mm": 6, "inner_width_mm": 3.5},
            "wire_mm": 1.0,
            "length_mm": 450,
        },
        {},
    ),
    Calculator(
        "twist",
        "Twisted wire",
        "Wire",
        "What twisting eats of the length, and how thick it comes.",
        TwistKeys,
        TwistFound,
        twist,
        "cut_length_mm",
        {"wire_mm": 1.0, "strands": 2, "pitch_mm": 6, "finished_length_mm": 100},
        {"pitch_mm": 0.5},
    ),
    Calculator(
        "scroll",
        "Scroll",
        "Wire",
        "The wire of a flat spiral.",
        ScrollKeys,
        ScrollFound,
        scroll,
        "length_mm",
        {"outer_mm": 9, "inner_mm": 1, "pitch_mm": 0.7},
        {"pitch_mm": 0.05},
    ),
    Calculator(
        "wrapped-loop",
        "Wrapped loop",
        "Wire",
        "A loop closed by wrapping: the wire to leave for it.",
        WrappedLoopKeys,
        WrappedLoopFound,
        wrapped_loop,
        "cut_length_mm",
        {"wire_mm": 0.8, "loop_mm": 3, "wraps": 3, "tail_mm": 8},
        {"loop_mm": 0.2},
    ),
)

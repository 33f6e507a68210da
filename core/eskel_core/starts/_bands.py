"""Rings of wire and strip: a band, a bar on an open ring."""

from __future__ import annotations

import math
from types import MappingProxyType
from typing import Literal

from ..units import about
from ._base import Asks, FingerSize, Metal, Plain, Silver, Start, ask, must, sized
from ._words import (
    at,
    join,
    part,
    piece,
    square_of,
    strip,
    wire,
    wire_of,
    work,
)


class BandAsks(Asks):
    """A plain band."""

    size: FingerSize = ask("Ring size", "US 7", quantity="ring-size")
    section: Literal["flat", "half-round", "round", "square"] = ask("Section", "flat")
    width_mm: float = ask("Width", 4.0, 1.2, 12)
    thickness_mm: float = ask("Thickness", 1.5, 1.0, 2.6)
    metal: Metal = ask("Metal", "sterling-925")


def _section(asked: BandAsks) -> Plain:
    match asked.section:
        case "flat":
            return {"kind": "rect", "width_mm": asked.width_mm, "height_mm": asked.thickness_mm}
        case "half-round":
            return {"kind": "half-round", "width_mm": asked.width_mm, "height_mm": asked.thickness_mm}
        case "round":
            return {"kind": "round", "diameter_mm": asked.thickness_mm}
        case "square":
            return square_of(asked.thickness_mm)


def band(asked: BandAsks) -> Plain:
    """Make a band: bent, closed at one seam, rounded to its size, finished."""
    must(
        asked.section in ("round", "square") or asked.width_mm >= asked.thickness_mm,
        "width_mm",
        asked.width_mm,
        "a band is at least as wide as it is thick",
        "Make it wider or thinner, or choose a round or square section.",
    )
    flat = asked.section in ("flat", "half-round")
    blank = sized(
        "ring-blank",
        inner_diameter_mm=asked.size,
        thickness_mm=asked.thickness_mm,
        width_mm=asked.width_mm if flat else None,
    )
    long = blank.length_mm
    form = (
        strip(asked.width_mm, asked.thickness_mm, long, closed=True)
        if asked.section == "flat"
        else wire_of(_section(asked), long, closed=True)
    )
    target = {"mm": round(blank.inner_diameter_mm, 2), "what": "inside"}
    return piece(
        "Band",
        [part("Band", asked.metal, form, place=at())],
        [join("Seam", "butt", "band", resized_later=True, visible=True)],
        [
            work("bending", "bend", "band", before=["seam"]),
            work("sizing", "size", "band", after=["seam"], target=target),
            work("sanding", "finish", "band", stage=400),
        ],
    )


class BarRingAsks(Asks):
    """A bar on an open ring."""

    size: FingerSize = ask("Ring size", "US 7", quantity="ring-size")
    wire_mm: float = ask("Wire", 1.6, 1.2, 2.4)
    opening_mm: float = ask("Opening", 7.0, 4, 14)
    bar_mm: float = ask("Bar, square", 2.0, 1.2, 3.5)
    bar_long_mm: float = ask("Bar, long", 14.0, 8, 24)
    metal: Silver = ask("Metal", "sterling-925")


def bar_ring(asked: BarRingAsks) -> Plain:
    """Make a bar saddled on the two ends of an open ring."""
    reach = asked.opening_mm / 2
    must(
        asked.bar_long_mm >= asked.opening_mm + asked.wire_mm,
        "bar_long_mm",
        asked.bar_long_mm,
        f"the bar reaches over both ends, {about(asked.opening_mm + asked.wire_mm)}",
        "Make the bar longer, or the opening narrower.",
    )
    hoop = sized("open-ring", size=math.pi * asked.size, wire_mm=asked.wire_mm, chord_mm=asked.opening_mm)
    across = asked.size + asked.wire_mm
    sag = math.sqrt(across**2 - asked.opening_mm**2) / 2
    top = across / 2 + sag + asked.wire_mm
    left, right = (round(-reach, 3), 0.0), (round(reach, 3), 0.0)
    return piece(
        "Bar ring",
        [
            part(
                "Hoop",
                asked.metal,
                wire(asked.wire_mm, hoop.length_mm, path=_open_ring(across, asked.opening_mm)),
                place=at(upright=True),
            ),
            part("Bar", asked.metal, wire_of(square_of(asked.bar_mm), asked.bar_long_mm), place=at(z=top)),
        ],
        [
            join("Left end", "seat", "hoop", "bar", at=list(left), structural=True),
            join("Right end", "seat", "hoop", "bar", at=list(right), structural=True),
        ],
        [
            work("bending", "bend", "hoop", before=["left-end", "right-end"]),
            work(
                "sizing",
                "size",
                "hoop",
                after=["left-end", "right-end"],
                target={"mm": round(asked.size, 2), "what": "inside"},
            ),
            work("sanding", "finish", "hoop", "bar", stage=400),
        ],
    )


def _open_ring(across: float, opening: float) -> list[list[float]]:
    """Give the line of a ring that is open at its top, y running down the page."""
    half = math.asin(opening / across)
    turns = [half + (2 * math.pi - 2 * half) * n / 48 for n in range(49)]
    radius = across / 2
    return [[round(radius * math.sin(turn), 3), round(-radius * math.cos(turn), 3)] for turn in turns]


STARTS = (
    Start(
        "band",
        "Plain band",
        "Rings",
        "A band of flat, half-round, round or square stock, closed at one seam.",
        BandAsks,
        band,
        {"size": "US 8 1/2", "width_mm": 5},
        ("ring", "wedding", "shank", "plain"),
        MappingProxyType(
            {
                "thickness_mm": lambda told: (
                    1.5 if told.section == "flat" else 1.7 if told.section == "half-round" else 2.0
                ),
                "width_mm": lambda told: 3.2 if told.section == "half-round" else 4.0,
            }
        ),
        MappingProxyType(
            {
                "ring-blank": {
                    "size": "size",
                    "thickness_mm": "thickness_mm",
                    "width_mm": "width_mm",
                    "section": "section",
                }
            }
        ),
    ),
    Start(
        "bar-ring",
        "Bar on an open ring",
        "Rings",
        "A square bar laid over the two ends of an open ring.",
        BarRingAsks,
        bar_ring,
        {"size": "US 7", "bar_long_mm": 16},
        ("ring", "bar", "open"),
        MappingProxyType(
            {
                "bar_mm": lambda told: round(1.25 * told.wire_mm, 1),
                "bar_long_mm": lambda told: 2 * told.opening_mm,
            }
        ),
        MappingProxyType({"open-ring": {"size": "size", "wire_mm": "wire_mm", "chord_mm": "opening_mm"}}),
    ),
)

"""Rings that hold a stone: in a cup, in balled claws."""

from __future__ import annotations

import math
from types import MappingProxyType

from ..units import about
from ._base import Asks, FingerSize, Plain, Silver, Start, ask, must, must_lie, sized
from ._words import (
    at,
    join,
    oval,
    oval_path,
    part,
    piece,
    sheet,
    spots,
    stone,
    strip,
    wire,
    wire_of,
    work,
)

FINE = "fine-silver-999"


CUP_MM = 0.35


SHANK_MM = (3.2, 1.7)


class BezelRingAsks(Asks):
    """A stone in a cup on a plate, with or without a shank."""

    stone_long_mm: float = ask("Stone, long", 14.0, 4, 30)
    stone_wide_mm: float = ask("Stone, wide", 10.0, 4, 30)
    stone_high_mm: float = ask("Stone, high", 4.0, 1.5, 12)
    border_mm: float = ask("Border of the plate", 1.0, 0, 5)
    shank: bool = ask("With a shank", True)
    size: FingerSize = ask("Ring size", "US 7", quantity="ring-size")
    metal: Silver = ask("Metal", "sterling-925")


def bezel_ring(asked: BezelRingAsks) -> Plain:
    """Make a cup of fine silver on a plate, and under it a half-round shank where one is wanted; the stone last."""
    long, wide = asked.stone_long_mm, asked.stone_wide_mm
    must_lie(long, wide)
    outline = oval(long, wide)
    cup = sized("bezel-strip", outline=outline, thickness_mm=CUP_MM)
    wall = min(asked.stone_high_mm * 0.55, 4.0)
    height = sized(
        "bezel-height",
        seat_mm=0.6,
        wall_mm=wall,
        overlap_mm=0.4,
        bezel_outside_mm=long + 2 * CUP_MM,
        border_mm=asked.border_mm,
        trim_mm=0.8,
    )
    ease = 2 * (CUP_MM + asked.border_mm)
    plate, rough = oval(long + ease, wide + ease), oval(long + ease + 1.6, wide + ease + 1.6)
    thick = 0.7 if long < 18 else 0.9
    tall = asked.size + 2 * SHANK_MM[1] if asked.shank else 0.0
    above = at(z=tall)
    parts = [
        part(
            "Cup",
            FINE,
            strip(
                height.height_mm,
                CUP_MM,
                cup.length_mm,
                closed=True,
                path=oval_path(long + CUP_MM, wide + CUP_MM),
            ),
            place=at(z=tall + thick),
        ),
        part("Plate", asked.metal, sheet(plate, thick), rough=sheet(rough, thick), place=above),
        stone("Stone", long, wide, asked.stone_high_mm, place=at(z=tall + thick + 0.6)),
    ]
    joins = [
        join("Cup seam", "butt", "cup", holds="seated", visible=True, at=[0.0, round(wide / 2, 3)]),
        join("Cup foot", "edge", "cup", "plate", after=["cup-seam"], structural=True),
    ]
    jobs = [
        work("bending", "bend", "cup", before=["cup-seam"]),
        work("trimming", "trim", "plate", after=["cup-foot"]),
    ]
    if asked.shank:
        under = _shank_under(asked.size, asked.metal)
        parts.append(under[0])
        joins += under[1]
        jobs[-1]["before"] = ["seat"]
        jobs += under[2]
    jobs += [
        work("sanding", "finish", "plate", *(["shank"] if asked.shank else []), stage=400),
        work("setting", "set", "stone", "cup"),
    ]
    return piece("Bezel ring" if asked.shank else "Stone in a cup", parts, joins, jobs)


def _shank_under(size: float, metal: str) -> tuple[Plain, list[Plain], list[Plain]]:
    """Give a shank under the plate of a cup, its joins and its work."""
    joins = [
        join("Shank seam", "butt", "shank", resized_later=True, structural=True),
        join(
            "Seat", "seat", "shank", "plate", face="back", after=["shank-seam", "cup-foot"], structural=True
        ),
    ]
    target = {"mm": round(size, 2), "what": "inside"}
    jobs = [
        work("rounding", "bend", "shank", before=["shank-seam"]),
        work("sizing", "size", "shank", after=["shank-seam"], before=["seat"], target=target),
    ]
    return part("Shank", metal, _shank(size), place=at(upright=True)), joins, jobs


class ClawRingAsks(Asks):
    """A stone in balled claws."""

    stone_long_mm: float = ask("Stone, long", 10.0, 6, 14)
    stone_wide_mm: float = ask("Stone, wide", 8.0, 5, 14)
    stone_high_mm: float = ask("Stone, high", 4.5, 2, 10)
    wire_mm: float = ask("Claw wire", 1.0, 0.8, 1.4)
    ball_mm: float = ask("Balls of the claws", 1.8, 1.2, 2.8)
    size: FingerSize = ask("Ring size", "US 7", quantity="ring-size")
    metal: Silver = ask("Metal", "sterling-925")


def claw_ring(asked: ClawRingAsks) -> Plain:
    """Make two wires crossed, an oval seat on them, a shank below; each claw ends in a ball."""
    long, wide, thin = asked.stone_long_mm, asked.stone_wide_mm, asked.wire_mm
    must_lie(long, wide)
    must(
        asked.ball_mm >= 1.3 * thin,
        "ball_mm",
        asked.ball_mm,
        f"a ball is clearly thicker than its wire, at least {about(1.3 * thin)}",
        "Make the ball larger or the wire thinner.",
    )
    reach = math.hypot(long, wide) / 2 / math.sqrt(2) + asked.stone_high_mm
    claw = sized("prong", metal=asked.metal, reach_mm=reach, wire_mm=thin, ball_mm=asked.ball_mm)
    seat_long, seat_wide = 0.82 * long, 0.82 * wide
    seat = sized("bezel-strip", outline=oval(seat_long - thin, seat_wide - thin), thickness_mm=thin)
    tall = asked.size + 2 * SHANK_MM[1]
    turn = round(math.degrees(math.atan2(wide, long)), 1)
    reaches = spots(*((x * seat_long * 0.35, y * seat_wide * 0.35) for x in (-1, 1) for y in (-1, 1)))
    return piece(
        "Claw ring",
        [
            part("Claw", asked.metal, wire(thin, 2 * claw.snip_mark_mm), place=at(z=tall, turn=turn)),
            part("Cross claw", asked.metal, wire(thin, 2 * claw.snip_mark_mm), place=at(z=tall, turn=-turn)),
            part(
                "Oval seat",
                asked.metal,
                wire(thin, seat.length_mm, closed=True, path=oval_path(seat_long, seat_wide)),
                place=at(z=tall + thin),
            ),
            part("Shank", asked.metal, _shank(asked.size), place=at(upright=True)),
            stone("Stone", long, wide, asked.stone_high_mm, place=at(z=tall + 2 * thin)),
        ],
        _claw_joins(reaches),
        [
            work("balling", "ball", "claw", "cross-claw", ball_mm=asked.ball_mm, before=["crossing"]),
            work(
                "balling-the-other-ends",
                "ball",
                "claw",
                "cross-claw",
                ball_mm=asked.ball_mm,
                after=["balling"],
                before=["crossing"],
            ),
            work("rounding", "bend", "shank", before=["shank-seam"]),
            work("raising", "bend", "claw", "cross-claw", after=["foot"], dowel_mm=3),
            work("sanding", "finish", "shank", stage=400),
            work("setting", "set", "stone"),
        ],
    )


def _claw_joins(reaches: list[list[float]]) -> list[Plain]:
    """Give the joins of crossed claws, the oval seat on them where they reach it, and the shank below."""
    return [
        join("Seat seam", "butt", "oval-seat", holds="seated"),
        join("Shank seam", "butt", "shank", resized_later=True, structural=True),
        join("Crossing", "cross", "claw", "cross-claw", holds="seated", at=[0.0, 0.0], structural=True),
        join(
            "Rim",
            "cross",
            "oval-seat",
            "claw",
            "cross-claw",
            holds="seated",
            at=reaches,
            after=["seat-seam", "crossing"],
        ),
        join(
            "Foot",
            "seat",
            "claw",
            "shank",
            holds="seated",
            at=[0.0, 0.0],
            after=["rim", "shank-seam"],
            structural=True,
        ),
    ]


def _shank(size: float) -> Plain:
    profile = {"kind": "half-round", "width_mm": SHANK_MM[0], "height_mm": SHANK_MM[1]}
    blank = sized("ring-blank", inner_diameter_mm=size, thickness_mm=SHANK_MM[1], width_mm=SHANK_MM[0])
    return wire_of(profile, blank.length_mm, closed=True)


STARTS = (
    Start(
        "bezel-ring",
        "Stone in a cup",
        "Rings",
        "A cup of fine silver on a plate, with or without a border and a shank.",
        BezelRingAsks,
        bezel_ring,
        {"stone_long_mm": 14, "stone_wide_mm": 10, "stone_high_mm": 4},
        ("ring", "stone", "cabochon", "bezel", "setting", "cup"),
        MappingProxyType(
            {
                "stone_wide_mm": lambda told: min(
                    told.stone_long_mm, max(4.0, round(told.stone_long_mm * 5 / 7, 1))
                )
            }
        ),
        MappingProxyType({"bezel-strip": {}, "bezel-height": {"border_mm": "border_mm"}}),
    ),
    Start(
        "claw-ring",
        "Stone in balled claws",
        "Rings",
        "Two crossed wires with balled ends, an oval seat on them, a shank below.",
        ClawRingAsks,
        claw_ring,
        {"stone_long_mm": 10, "stone_wide_mm": 8},
        ("ring", "stone", "prong", "claw", "facet", "setting"),
        MappingProxyType(
            {
                "stone_wide_mm": lambda told: min(told.stone_long_mm, round(told.stone_long_mm * 0.8, 1)),
                "ball_mm": lambda told: round(1.8 * told.wire_mm, 1),
            }
        ),
        MappingProxyType({"prong": {"wire_mm": "wire_mm", "ball_mm": "ball_mm"}}),
    ),
)

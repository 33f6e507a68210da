"""Small things: pins with heads, dots on a plate."""

from __future__ import annotations

import math
from types import MappingProxyType
from typing import Literal

from ..units import about
from ._base import Asks, Metal, Plain, Start, Steady, ask, must, sized
from ._words import around, at, ball, disc, join, part, piece, rect, spots, wire, work


class HeadpinsAsks(Asks):
    """Wires with a ball at one end."""

    wire_mm: float = ask("Wire", 0.8, 0.5, 1.4)
    ball_mm: float = ask("Ball", 1.9, 0.9, 3.0)
    long_mm: float = ask("Finished length", 45.0, 15, 120)
    count: int = ask("How many", 6, 1, 200)
    metal: Metal = ask("Metal", "sterling-925")


def headpins(asked: HeadpinsAsks) -> Plain:
    """Make pins: a ball drawn up on each, straightened and tumbled hard."""
    must(
        asked.ball_mm >= 1.4 * asked.wire_mm,
        "ball_mm",
        asked.ball_mm,
        f"a head is clearly thicker than its wire, at least {about(1.4 * asked.wire_mm)}",
        "Make the ball larger or the wire thinner.",
    )
    found = sized(
        "balled-end",
        metal=asked.metal,
        wire_mm=asked.wire_mm,
        ball_mm=asked.ball_mm,
        finished_length_mm=asked.long_mm,
    )
    must(
        asked.ball_mm <= found.drop_limit_mm,
        "ball_mm",
        asked.ball_mm,
        f"a heavier ball lets go of its wire: at most {about(found.drop_limit_mm)}",
        "Make the ball smaller or the wire thicker.",
    )
    return piece(
        "Headpins",
        [
            part(
                "Headpin",
                asked.metal,
                wire(asked.wire_mm, found.cut_length_mm),
                count=asked.count,
                place=at(),
            )
        ],
        [],
        [
            work("balling", "ball", "headpin", ball_mm=asked.ball_mm),
            work("straightening", "straighten", "headpin", after=["balling"]),
            work("tumbling", "tumble", "headpin", after=["straightening"]),
        ],
    )


class DottedPlateAsks(Asks):
    """Balls or discs on a plate."""

    wide_mm: float = ask("Plate, wide", 25.0, 12, 40)
    high_mm: float = ask("Plate, high", 25.0, 12, 40)
    thickness_mm: float = ask("Thickness", 0.9, 0.7, 1.4)
    dots: Literal["balls", "discs"] = ask("Dots", "balls")
    dot_mm: float = ask("Dot, across", 1.6, 1.2, 5)
    count: int = ask("How many", 12, 1, 24)
    metal: Steady = ask("Metal", "sterling-925")


def dotted_plate(asked: DottedPlateAsks) -> Plain:
    """Make a plate with a ring of dots, all in one heat: balls in their dimples with paste, discs tinned first."""
    circle = min(asked.wide_mm, asked.high_mm) - 2 * asked.dot_mm - 2
    must(
        circle > 2 * asked.dot_mm,
        "dot_mm",
        asked.dot_mm,
        "the dots stand within the plate, a millimetre from its edge",
        "Take smaller dots or a larger plate.",
    )
    room = math.pi * circle / (asked.dot_mm + 0.6)
    must(
        asked.count <= room,
        "count",
        asked.count,
        f"the dots stand in a ring of {about(circle)} with a gap between them: at most {int(room)}",
        "Take fewer or smaller dots.",
    )
    places = spots(*(around(asked.count, circle / 2) if asked.count > 1 else [(0.0, 0.0)]))
    balls = asked.dots == "balls"
    form = ball(asked.dot_mm) if balls else disc(asked.dot_mm, 0.6)
    dots = part("Dot", asked.metal, form, count=asked.count, place=at(z=asked.thickness_mm))
    dimples = [work("dimples", "dimple", "plate", before=["dots"])] if balls else []
    how = (
        {"kind": "tee", "holds": "seated", "placing": "paste", "grade": "medium"}
        if balls
        else {"kind": "overlay", "placing": "sweat"}
    )
    return piece(
        "Dotted plate",
        [
            part(
                "Plate", asked.metal, rect(asked.wide_mm, asked.high_mm, asked.thickness_mm, 2.0), place=at()
            ),
            dots,
        ],
        [
            join(
                "Dots",
                how.pop("kind"),
                "dot",
                "plate",
                at=places if len(places) > 1 else places[0],
                visible=True,
                **how,
            )
        ],
        [*dimples, work("sanding", "finish", "plate", stage=400)],
    )


STARTS = (
    Start(
        "headpins",
        "Headpins",
        "Small things",
        "Wires with a ball at one end, for beads.",
        HeadpinsAsks,
        headpins,
        {"wire_mm": 0.8, "long_mm": 45, "count": 12},
        ("pin", "ball", "bead", "finding"),
        MappingProxyType({"ball_mm": lambda told: round(2.2 * told.wire_mm, 1)}),
        MappingProxyType(
            {
                "balled-end": {
                    "metal": "metal",
                    "wire_mm": "wire_mm",
                    "ball_mm": "ball_mm",
                    "finished_length_mm": "long_mm",
                }
            }
        ),
    ),
    Start(
        "dotted-plate",
        "Dots on a plate",
        "Small things",
        "A ring of balls or discs on a plate, all in one heat.",
        DottedPlateAsks,
        dotted_plate,
        {"wide_mm": 25, "high_mm": 25, "count": 12},
        ("plate", "ball", "granules", "disc", "dots"),
        MappingProxyType(
            {
                "high_mm": lambda told: told.wide_mm,
                "dot_mm": lambda told: 1.6 if told.dots == "balls" else 3.0,
            }
        ),
    ),
)

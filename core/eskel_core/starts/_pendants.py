"""Pendants: a ball with rings, an overlay with a stone."""

from __future__ import annotations

from types import MappingProxyType

from ..units import about
from ._base import NARROW_FLAME, Asks, Metal, Plain, Start, Steady, ask, must, must_lie, sized
from ._stones import CUP_MM, FINE
from ._words import (
    at,
    ball,
    join,
    oval,
    oval_path,
    part,
    piece,
    rect,
    stone,
    strip,
    wire,
    work,
)

_HEAVY_BALL_MM = 5.0


class BallPendantAsks(Asks):
    """A ball that hangs by a ring."""

    ball_mm: float = ask("Ball", 8.0, 4, 9)
    wire_mm: float = ask("Wire of the rings", 1.0, 0.8, 1.4)
    ring_mm: float = ask("Rings, inside", 3.0, 2.5, 6)
    bar_long_mm: float = ask("Hanging bar, long", 24.0, 8, 50)
    chain_end_mm: float = ask("End of the chain that must pass", 4.0, 2, 8)
    metal: Steady = ask("Metal", "sterling-925")


def ball_pendant(asked: BallPendantAsks) -> Plain:
    """Make a ball with a ring above and a ring below; a bar hangs from the one, a folded bail holds the other."""
    thin, inside = asked.wire_mm, asked.ring_mm
    ring = sized("jump-rings", inner_diameter_mm=inside, wire_mm=thin)
    dowel = asked.chain_end_mm + 1
    fold = sized(
        "bail", chain_end_mm=asked.chain_end_mm, dowel_mm=dowel, width_mm=4, thickness_mm=0.7, lap_mm=3
    )
    eye = sized("wrapped-loop", wire_mm=thin, loop_mm=2.5, wraps=0, tail_mm=0)
    out = asked.ball_mm / 2 + inside / 2 + thin / 2
    bar = asked.bar_long_mm + eye.cut_length_mm
    closing = "fuse" if asked.metal == FINE else "butt"
    closed, level = wire(thin, ring.length_each_mm, closed=True), asked.ball_mm / 2 - thin / 2
    return piece(
        "Ball pendant",
        [
            part("Ball", asked.metal, ball(asked.ball_mm), cast=True, place=at()),
            part("Upper ring", asked.metal, closed, place=at(y=-out, z=level)),
            part("Lower ring", asked.metal, closed, place=at(y=out, z=level)),
            part(
                "Bar",
                asked.metal,
                wire(1.2 * thin, bar),
                place=at(y=out + inside / 2 + bar / 2, z=level, turn=90),
            ),
            part(
                "Bail",
                asked.metal,
                strip(4.0, 0.7, fold.blank_mm),
                moves=True,
                place=at(y=-out - inside / 2 - fold.blank_mm / 4, turn=90),
            ),
        ],
        [
            join("Upper seam", closing, "upper-ring", holds="seated"),
            join("Lower seam", closing, "lower-ring", holds="seated"),
            _ring_foot("Upper", -asked.ball_mm / 2),
            _ring_foot("Lower", asked.ball_mm / 2),
            join("Bail", "ring-open", "bail", "bail", through=["upper-ring"], after=["upper-foot"]),
            join("Bar eye", "ring-open", "bar", "bar", through=["lower-ring"], after=["lower-foot"]),
        ],
        [
            work("folding", "bend", "bail", dowel_mm=dowel, before=["bail"]),
            work("hammering", "flatten", "bar", before=["bar-eye"]),
            work("sanding", "finish", "ball", stage=400),
        ],
        bench={"torch": NARROW_FLAME} if asked.ball_mm >= _HEAVY_BALL_MM else None,
    )


def _ring_foot(which: str, y: float) -> Plain:
    """Give the join of a ring to the ball."""
    ring = which.lower()
    return join(
        f"{which} foot",
        "tee",
        f"{ring}-ring",
        "ball",
        face="edge",
        holds="seated",
        at=[0.0, y],
        after=[f"{ring}-seam"],
        structural=True,
    )


class OverlayPendantAsks(Asks):
    """A plate with an overlay, a cup and bails."""

    wide_mm: float = ask("Plate, wide", 24.0, 16, 40)
    high_mm: float = ask("Plate, high", 30.0, 16, 48)
    overlay_pct: float = ask("Overlay, in the plate's size", 70.0, 40, 90, quantity="percent")
    stone_long_mm: float = ask("Stone, long", 10.0, 4, 20)
    stone_wide_mm: float = ask("Stone, wide", 8.0, 4, 20)
    chain_end_mm: float = ask("End of the chain that must pass", 4.0, 2, 8)
    overlay_metal: Metal = ask("Metal of the overlay", "copper")


def overlay_pendant(asked: OverlayPendantAsks) -> Plain:
    """Make a plate with an overlay sweated on, a cup on the overlay, and a folded bail on the back."""
    share = asked.overlay_pct / 100
    wide, high = share * asked.wide_mm, share * asked.high_mm
    long, short = asked.stone_long_mm, asked.stone_wide_mm
    must_lie(long, short)
    least = min(wide, high) - 2
    must(
        long <= least,
        "stone_long_mm",
        long,
        f"the cup stands on the overlay with a millimetre round it: at most {about(least)}",
        "Take a smaller stone or a larger plate.",
    )
    cup = sized("bezel-strip", outline=oval(long, short), thickness_mm=CUP_MM)
    dowel = asked.chain_end_mm + 1
    bail = sized(
        "bail", chain_end_mm=asked.chain_end_mm, dowel_mm=dowel, width_mm=5, thickness_mm=0.8, lap_mm=4
    )
    up = -asked.high_mm / 2
    return piece(
        "Overlay pendant",
        [
            part("Plate", "sterling-925", rect(asked.wide_mm, asked.high_mm, 0.9, 2.0), place=at()),
            part("Overlay", asked.overlay_metal, rect(wide, high, 0.7, 1.0), place=at(z=0.9)),
            part(
                "Cup",
                FINE,
                strip(3.0, CUP_MM, cup.length_mm, closed=True, path=oval_path(long + CUP_MM, short + CUP_MM)),
                place=at(z=1.6),
            ),
            part("Bail", "sterling-925", strip(5.0, 0.8, bail.blank_mm), place=at(y=up + 2, z=-0.8, turn=90)),
            stone("Stone", long, short, 0.4 * short, place=at(z=1.8)),
        ],
        [
            join("Overlay", "overlay", "overlay", "plate", placing="sweat", visible=True),
            join("Cup seam", "butt", "cup", holds="seated", visible=True),
            join("Cup foot", "edge", "cup", "overlay", after=["cup-seam", "overlay"], structural=True),
            join(
                "Bail foot",
                "line",
                "bail",
                "plate",
                face="back",
                holds="own-weight",
                seam_mm=18.0,
                contact_mm2=20.0,
                at=[0.0, round(up + 3, 3)],
                after=["cup-foot"],
                structural=True,
            ),
        ],
        [
            work("folding", "bend", "bail", dowel_mm=dowel, before=["bail-foot"]),
            work("sanding", "finish", "plate", stage=400),
            work("setting", "set", "stone", "cup"),
        ],
    )


STARTS = (
    Start(
        "ball-pendant",
        "Ball between rings",
        "Pendants",
        "A ball with a ring above and below, a hanging bar and a folded bail.",
        BallPendantAsks,
        ball_pendant,
        {"ball_mm": 8},
        ("pendant", "ball", "bail", "bar"),
        MappingProxyType({"ring_mm": lambda told: max(2.5, 3 * told.wire_mm)}),
        MappingProxyType(
            {
                "jump-rings": {"inner_diameter_mm": "ring_mm", "wire_mm": "wire_mm"},
                "bail": {"chain_end_mm": "chain_end_mm"},
            }
        ),
    ),
    Start(
        "overlay-pendant",
        "Overlay with a stone",
        "Pendants",
        "A plate, an overlay on it, a cup on that, a folded bail behind.",
        OverlayPendantAsks,
        overlay_pendant,
        {"wide_mm": 24, "high_mm": 30},
        ("pendant", "overlay", "stone", "bezel", "cup", "bail"),
        MappingProxyType(
            {
                "stone_wide_mm": lambda told: min(
                    told.stone_long_mm, max(4.0, round(0.8 * told.stone_long_mm, 1))
                )
            }
        ),
        MappingProxyType({"bezel-strip": {}, "bail": {"chain_end_mm": "chain_end_mm"}}),
    ),
)

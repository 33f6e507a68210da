"""Boxes: walls with a top and a bottom."""

from __future__ import annotations

from types import MappingProxyType

from ..units import about
from ._base import LARGE_FLAME, Asks, Plain, Start, Steady, ask, must, sized
from ._words import at, ball, box_path, join, part, piece, rect, strip, wire, work


class StrapTipAsks(Asks):
    """A flat box for the end of a strap."""

    long_mm: float = ask("Box, long", 28.0, 16, 40)
    wide_mm: float = ask("Box, wide", 16.0, 10, 28)
    deep_mm: float = ask("Walls, high", 4.0, 2.5, 6)
    thickness_mm: float = ask("Thickness of all", 0.8, 0.7, 1.0)
    rope_mm: float = ask("Strands of the border (0: none)", 0.6, 0, 1.0)
    boss_mm: float = ask("Boss (0: none)", 4.0, 0, 8)
    metal: Steady = ask("Metal", "sterling-925")


def strap_tip(asked: StrapTipAsks) -> Plain:
    """Make a box: walls closed, the top on them, border and boss on that, the vented bottom last: the box always stands."""
    long, wide, thick, rope = asked.long_mm, asked.wide_mm, asked.thickness_mm, asked.rope_mm
    must(
        wide <= long, "wide_mm", wide, f"the box is no wider than it is long, {about(long)}", "Swap the two."
    )
    must(
        rope == 0 or rope >= 0.4,
        "rope_mm",
        rope,
        "strands of a border are 0.4 mm or more",
        "Take thicker wire, or 0 for none.",
    )
    must(
        asked.boss_mm == 0 or asked.boss_mm >= 2,
        "boss_mm",
        asked.boss_mm,
        "a boss is 2 mm or more",
        "Make it larger, or 0 for none.",
    )
    inside = wide - 4 * rope - 2
    must(
        asked.boss_mm <= inside,
        "boss_mm",
        asked.boss_mm,
        f"the boss stands within the border, {about(inside)}",
        "Make it smaller.",
    )
    around = {"kind": "rect", "width_mm": long - 2 * thick, "height_mm": wide - 2 * thick}
    walls = sized("bezel-strip", outline=around, thickness_mm=thick, height_mm=asked.deep_mm)
    upper = thick + asked.deep_mm
    parts = [
        part(
            "Walls",
            asked.metal,
            strip(
                asked.deep_mm, thick, walls.length_mm, closed=True, path=box_path(long - thick, wide - thick)
            ),
            place=at(z=thick),
        ),
        part("Top", asked.metal, rect(long, wide, thick), place=at(z=upper)),
        part("Bottom", asked.metal, rect(long, wide, thick), place=at()),
    ]
    joins = [join("Walls seam", "butt", "walls", holds="seated")]
    jobs = [work("folding", "bend", "walls", before=["walls-seam"])]
    crowns = ["top-line"]
    if rope:
        line = (long - 4 * rope, wide - 4 * rope)
        twisted = sized("twist", wire_mm=rope, strands=2, pitch_mm=7 * rope, finished_length_mm=2 * sum(line))
        border = wire(
            rope, 2 * sum(line), closed=True, path=box_path(*line), strands=2, pitch_mm=round(7 * rope, 2)
        )
        parts.append(part("Border", asked.metal, border, place=at(z=upper + thick)))
        joins += [
            join("Border seam", "butt", "border", holds="seated"),
            join("Border", "line", "border", "top", after=["border-seam", "top-line"], visible=True),
        ]
        jobs.append(
            work("twisting", "twist", "border", turns=round(twisted.turns, 1), before=["border-seam"])
        )
        crowns.append("border")
    if asked.boss_mm:
        parts.append(part("Boss", asked.metal, ball(asked.boss_mm), place=at(z=upper + thick)))
        joins.append(
            join(
                "Boss", "tee", "boss", "top", holds="seated", at=[0.0, 0.0], visible=True, after=["top-line"]
            )
        )
        crowns.append("boss")
    joins += [
        join(
            "Top line",
            "edge",
            "walls",
            "top",
            encloses="tip",
            after=["walls-seam"],
            structural=True,
        ),
        join(
            "Bottom line",
            "edge",
            "bottom",
            "walls",
            encloses="tip",
            after=crowns,
            visible=True,
        ),
    ]
    return piece(
        "Strap tip",
        parts,
        joins,
        [
            *jobs,
            work("vent", "drill", "bottom", vents=["tip"], before=["bottom-line"]),
            work("sanding", "finish", "top", stage=400),
        ],
        bench={"torch": LARGE_FLAME},
    )


STARTS = (
    Start(
        "strap-tip",
        "Strap tip",
        "Boxes",
        "A flat box: walls, top and bottom, with a rope border and a boss.",
        StrapTipAsks,
        strap_tip,
        {"long_mm": 28, "wide_mm": 16},
        ("box", "belt", "strap", "tip", "walls", "hollow"),
        MappingProxyType(
            {
                "wide_mm": lambda told: round(max(10.0, 0.57 * told.long_mm), 1),
                "boss_mm": lambda told: round(max(2.0, told.wide_mm / 4), 1),
            }
        ),
        MappingProxyType(
            {
                "bezel-strip": {"thickness_mm": "thickness_mm", "height_mm": "deep_mm"},
                "twist": {"wire_mm": "rope_mm"},
            }
        ),
    ),
)

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
    _fits(asked)
    long, wide, thick = asked.long_mm, asked.wide_mm, asked.thickness_mm
    around = {"kind": "rect", "width_mm": long - 2 * thick, "height_mm": wide - 2 * thick}
    walls = sized("bezel-strip", outline=around, thickness_mm=thick, height_mm=asked.deep_mm)
    course = box_path(long - thick, wide - thick)
    on_show = [*([_border(asked)] if asked.rope_mm else []), *([_boss(asked)] if asked.boss_mm else [])]
    closed = {"encloses": "tip"}
    return piece(
        "Strap tip",
        [
            part(
                "Walls",
                asked.metal,
                strip(asked.deep_mm, thick, walls.length_mm, closed=True, path=course),
                place=at(z=thick),
            ),
            part("Top", asked.metal, rect(long, wide, thick), place=at(z=thick + asked.deep_mm)),
            part("Bottom", asked.metal, rect(long, wide, thick), place=at()),
            *(made for made, _, _ in on_show),
        ],
        [
            join("Walls seam", "butt", "walls", holds="seated"),
            *(one for _, joins, _ in on_show for one in joins),
            join("Top line", "edge", "walls", "top", after=["walls-seam"], structural=True, **closed),
            join(
                "Bottom line",
                "edge",
                "bottom",
                "walls",
                after=["top-line", *(made["id"] for made, _, _ in on_show)],
                visible=True,
                **closed,
            ),
        ],
        [
            work("folding", "bend", "walls", before=["walls-seam"]),
            *(one for _, _, jobs in on_show for one in jobs),
            work("vent", "drill", "bottom", vents=["tip"], before=["bottom-line"]),
            work("sanding", "finish", "top", stage=400),
        ],
        bench={"torch": LARGE_FLAME},
    )


def _fits(asked: StrapTipAsks) -> None:
    long, wide, rope, boss = asked.long_mm, asked.wide_mm, asked.rope_mm, asked.boss_mm
    must(
        wide <= long, "wide_mm", wide, f"the box is no wider than it is long, {about(long)}", "Swap the two."
    )
    thin = "strands of a border are 0.4 mm or more"
    must(rope == 0 or rope >= 0.4, "rope_mm", rope, thin, "Take thicker wire, or 0 for none.")
    must(boss == 0 or boss >= 2, "boss_mm", boss, "a boss is 2 mm or more", "Make it larger, or 0 for none.")
    inside = wide - 4 * rope - 2
    must(
        boss <= inside,
        "boss_mm",
        boss,
        f"the boss stands within the border, {about(inside)}",
        "Make it smaller.",
    )


Crown = tuple[Plain, list[Plain], list[Plain]]


def _border(asked: StrapTipAsks) -> Crown:
    """Give a rope round the top: its part, its joins and its work."""
    rope, pitch = asked.rope_mm, round(7 * asked.rope_mm, 2)
    line = (asked.long_mm - 4 * rope, asked.wide_mm - 4 * rope)
    long = 2 * sum(line)
    twisted = sized("twist", wire_mm=rope, strands=2, pitch_mm=pitch, finished_length_mm=long)
    form = wire(rope, long, closed=True, path=box_path(*line), strands=2, pitch_mm=pitch)
    joins = [
        join("Border seam", "butt", "border", holds="seated"),
        join("Border", "line", "border", "top", after=["border-seam", "top-line"], visible=True),
    ]
    turns = round(twisted.turns, 1)
    return (
        part("Border", asked.metal, form, place=at(z=_upper(asked))),
        joins,
        [work("twisting", "twist", "border", turns=turns, before=["border-seam"])],
    )


def _boss(asked: StrapTipAsks) -> Crown:
    """Give a ball in the middle of the top."""
    foot = join("Boss", "tee", "boss", "top", holds="seated", at=[0.0, 0.0], visible=True, after=["top-line"])
    return part("Boss", asked.metal, ball(asked.boss_mm), place=at(z=_upper(asked))), [foot], []


def _upper(asked: StrapTipAsks) -> float:
    """Give how high the upper face of the top is, mm."""
    return 2 * asked.thickness_mm + asked.deep_mm


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

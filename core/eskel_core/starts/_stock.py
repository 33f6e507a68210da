"""Stock of one's own: scrap poured and drawn to wire, grains."""

from __future__ import annotations

from types import MappingProxyType

from ..units import about
from ._base import Asks, Metal, Plain, Start, ask, must, sized
from ._words import at, ball, part, piece, round_of, square_of, wire_of, work

MELTING_FLAME = "oxy-propane-rosebud"


class PourToWireAsks(Asks):
    """Scrap made into wire."""

    scrap_g: float = ask("Scrap at hand", 40.0, 10, 120)
    bar_mm: float = ask("Bar, square", 6.0, 4, 10)
    milled_mm: float = ask("Milled down to, square", 3.0, 2, 8)
    wire_mm: float = ask("Drawn to, round", 2.0, 0.8, 6)
    metal: Metal = ask("Metal", "sterling-925")


def pour_to_wire(asked: PourToWireAsks) -> Plain:
    """Make wire: melt, pour, mill square pass by pass, draw round, annealed before each limit."""
    must(
        asked.milled_mm <= 0.9 * asked.bar_mm,
        "milled_mm",
        asked.milled_mm,
        f"milling makes the bar thinner: at most {about(0.9 * asked.bar_mm)}",
        "Mill it further, or pour a thicker bar.",
    )
    must(
        asked.wire_mm <= asked.milled_mm,
        "wire_mm",
        asked.wire_mm,
        f"drawing makes it thinner: at most {about(asked.milled_mm)}",
        "Draw it further, or mill it less.",
    )
    bar, middle, end = square_of(asked.bar_mm), square_of(asked.milled_mm), round_of(asked.wire_mm)
    poured = sized("pour", metal=asked.metal, profile=bar, scrap_g=asked.scrap_g)
    drawn = sized("draw-down", metal=asked.metal, start=bar, end=end, length_mm=poured.length_mm)
    must(
        drawn.end_length_mm <= 5000,
        "wire_mm",
        asked.wire_mm,
        "it comes to at most five metres of wire",
        "Draw it less, or pour less.",
    )
    grams = round(poured.mass_g, 2)
    return piece(
        "Scrap into wire",
        [
            part(
                "Bar",
                asked.metal,
                wire_of(end, drawn.end_length_mm),
                rough=wire_of(bar, poured.length_mm),
                place=at(),
            )
        ],
        [],
        [
            work("melting", "melt", "bar", mass_g=round(asked.scrap_g, 2)),
            work("pouring", "pour", "bar", after=["melting"], mass_g=grams),
            work("milling", "roll", "bar", after=["pouring"], **{"from": bar, "to": middle}),
            work("drawing", "draw", "bar", after=["milling"], **{"from": middle, "to": end}),
        ],
        bench={"torch": MELTING_FLAME},
    )


class GrainsAsks(Asks):
    """Many equal small balls."""

    ball_mm: float = ask("Grain", 1.2, 0.7, 3)
    wire_mm: float = ask("Of wire", 0.5, 0.4, 1.0)
    count: int = ask("How many", 40, 1, 500)
    metal: Metal = ask("Metal", "fine-silver-999")


def grains(asked: GrainsAsks) -> Plain:
    """Make grains: equal snips of wire, each drawn up to a ball."""
    must(
        asked.ball_mm >= 1.3 * asked.wire_mm,
        "wire_mm",
        asked.wire_mm,
        f"a grain is clearly thicker than its wire: at most {about(asked.ball_mm / 1.3)}",
        "Take thinner wire.",
    )
    found = sized(
        "granules", metal=asked.metal, ball_mm=asked.ball_mm, wire_mm=asked.wire_mm, count=asked.count
    )
    return piece(
        "Grains",
        [
            part(
                "Grain",
                asked.metal,
                ball(asked.ball_mm),
                count=asked.count,
                rough=wire_of(round_of(asked.wire_mm), found.snip_mm),
                place=at(),
            )
        ],
        [],
        [work("snipping", "divide", "grain", before=["melting"]), work("melting", "melt", "grain")],
    )


STARTS = (
    Start(
        "pour-to-wire",
        "Scrap into wire",
        "Stock",
        "Melt, pour, mill and draw the year's offcuts.",
        PourToWireAsks,
        pour_to_wire,
        {"scrap_g": 40},
        ("wire", "scrap", "ingot", "pour", "melt", "draw", "mill"),
        MappingProxyType(
            {
                "milled_mm": lambda told: round(max(2.0, told.bar_mm / 2), 1),
                "wire_mm": lambda told: round(max(0.8, 0.7 * told.milled_mm), 1),
            }
        ),
        MappingProxyType({"pour": {"scrap_g": "scrap_g", "metal": "metal"}, "draw-down": {"metal": "metal"}}),
    ),
    Start(
        "grains",
        "Grains",
        "Stock",
        "Equal snips drawn up to many small balls.",
        GrainsAsks,
        grains,
        {"ball_mm": 1.2, "count": 40},
        ("ball", "granules", "shot", "dots"),
        MappingProxyType({"wire_mm": lambda told: round(min(1.0, max(0.4, 0.45 * told.ball_mm)), 2)}),
        MappingProxyType(
            {"granules": {"ball_mm": "ball_mm", "wire_mm": "wire_mm", "count": "count", "metal": "metal"}}
        ),
    ),
)

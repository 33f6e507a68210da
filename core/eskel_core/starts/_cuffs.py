"""Cuffs: a rope, a forged bar, a hollow tube."""

from __future__ import annotations

import math
from types import MappingProxyType

from ..metals import metals
from ..units import about
from ._base import LARGE_FLAME, Asks, Metal, Plain, Silver, Start, ask, must, sized
from ._words import at, disc, join, part, piece, square_of, strip, tube, wire, wire_of, work


class RopeCuffAsks(Asks):
    """A cuff of twisted strands, milled flat."""

    wrist_mm: float = ask("Wrist, around", 165.0, 120, 220)
    opening_mm: float = ask("Opening", 28.0, 15, 45)
    wire_mm: float = ask("Strands, of wire", 1.8, 1.2, 2.4)
    strands: int = ask("Strands", 2, 2, 4)
    pitch_mm: float = ask("Pitch, one full turn", 12.0, 6, 30)
    milled_pct: float = ask("Milled flat by", 25.0, 0, 40, quantity="percent")
    metal: Metal = ask("Metal", "sterling-925")


def rope_cuff(asked: RopeCuffAsks) -> Plain:
    """Make a cuff: strands bound and sealed at both ends, twisted, milled, bent round."""
    must(
        asked.pitch_mm >= 4 * asked.wire_mm,
        "pitch_mm",
        asked.pitch_mm,
        f"strands do not lie steeper than that: at least {about(4 * asked.wire_mm)}",
        "Twist it less, or take thinner wire.",
    )
    thick = 2 * asked.wire_mm * (1 - asked.milled_pct / 100)
    cuff = sized("cuff", wrist_mm=asked.wrist_mm, opening_mm=asked.opening_mm, thickness_mm=thick)
    # What is milled flat grows longer by what it loses of its section.
    rope = cuff.length_mm * (1 - asked.milled_pct / 100)
    found = sized(
        "twist",
        wire_mm=asked.wire_mm,
        strands=asked.strands,
        pitch_mm=asked.pitch_mm,
        finished_length_mm=rope,
    )
    long = found.cut_length_mm + 10
    milling = work("milling", "roll", "strand", reduction_pct=asked.milled_pct, after=["twisting"])
    bound = {"holds": "bound", "bound_with": "steel"}
    return piece(
        "Rope cuff",
        [part("Strand", asked.metal, wire(asked.wire_mm, long), count=asked.strands, place=at())],
        [
            join("Near end", "bundle", "strand", at=[0.0, 0.0], **bound),
            join("Far end", "bundle", "strand", at=[round(long, 3), 0.0], **bound),
        ],
        [
            work("twisting", "twist", "strand", turns=round(found.turns, 1), after=["near-end", "far-end"]),
            *([milling] if asked.milled_pct else []),
            work("bending", "bend", "strand", after=["milling" if asked.milled_pct else "twisting"]),
            work("sanding", "finish", "strand", stage=400),
        ],
        bench={"torch": LARGE_FLAME},
    )


class ForgedCuffAsks(Asks):
    """A cuff forged of one bar."""

    wrist_mm: float = ask("Wrist, around", 165.0, 120, 220)
    opening_mm: float = ask("Opening", 28.0, 15, 45)
    width_mm: float = ask("Finished width", 8.0, 4, 16)
    thickness_mm: float = ask("Finished thickness", 2.4, 1.6, 4)
    reduction_pct: float = ask("Forged down by", 50.0, 10, 60, quantity="percent")
    metal: Metal = ask("Metal", "sterling-925")


def forged_cuff(asked: ForgedCuffAsks) -> Plain:
    """Make a cuff: a square bar forged flat, annealed whenever it is due, bent round."""
    wide, thick = asked.width_mm, asked.thickness_mm
    must(
        wide >= 1.5 * thick,
        "width_mm",
        wide,
        f"a forged cuff is flat: at least {about(1.5 * thick)} wide",
        "Make it wider or thinner.",
    )
    cuff = sized(
        "cuff", wrist_mm=asked.wrist_mm, opening_mm=asked.opening_mm, thickness_mm=thick, width_mm=wide
    )
    side = math.sqrt(wide * thick / (1 - asked.reduction_pct / 100))
    after = {"kind": "rect", "width_mm": wide, "height_mm": thick}
    before = square_of(side)
    bar = cuff.length_mm * (1 - asked.reduction_pct / 100)
    grown = sized("forge", metal=asked.metal, before=before, after=after, length_mm=bar)
    return piece(
        "Forged cuff",
        [
            part(
                "Bar",
                asked.metal,
                strip(wide, thick, grown.length_mm),
                rough=wire_of(before, bar),
                place=at(),
            )
        ],
        [],
        [
            work("forging", "forge", "bar", **{"from": before, "to": after}),
            work("bending", "bend", "bar", after=["forging"]),
            work("sanding", "finish", "bar", stage=400),
        ],
        bench={"torch": LARGE_FLAME},
    )


class TubeCuffAsks(Asks):
    """A cuff of closed tube."""

    wrist_mm: float = ask("Wrist, around", 165.0, 120, 220)
    opening_mm: float = ask("Opening", 28.0, 15, 45)
    tube_mm: float = ask("Tube, outside", 5.0, 4, 7)
    wall_mm: float = ask("Wall", 0.6, 0.5, 0.9)
    cap_mm: float = ask("Caps, thickness", 0.8, 0.6, 1.2)
    metal: Silver = ask("Metal", "sterling-925")


def tube_cuff(asked: TubeCuffAsks) -> Plain:
    """Make a cuff of tube, bent, capped at both ends and vented through one cap."""
    outer = asked.tube_mm
    cuff = sized(
        "cuff", wrist_mm=asked.wrist_mm, opening_mm=asked.opening_mm, thickness_mm=outer, width_mm=outer
    )
    half = round(cuff.length_mm / 2, 3)
    cap = disc(outer, asked.cap_mm)
    # Hard runs so far up that a long tube of thin wall leads the heat away before either end is there.
    closed = {"encloses": "cuff", "holds": "bound", "bound_with": "steel", "grade": "medium"}
    return piece(
        "Tube cuff",
        [
            part("Cuff", asked.metal, tube(outer, asked.wall_mm, cuff.length_mm), place=at()),
            part("Near cap", asked.metal, cap, place=at(x=-half, turn=90, upright=True)),
            part("Far cap", asked.metal, cap, place=at(x=half, turn=90, upright=True)),
        ],
        [
            join("Near end", "edge", "cuff", "near-cap", at=[-half, 0.0], **closed),
            join("Far end", "edge", "cuff", "far-cap", at=[half, 0.0], **closed),
        ],
        [
            work("bending", "bend", "cuff", before=["near-end", "far-end"]),
            work("vent", "drill", "far-cap", vents=["cuff"], before=["far-end"]),
            work("sanding", "finish", "cuff", stage=400),
        ],
        bench={"torch": LARGE_FLAME},
    )


STARTS = (
    Start(
        "rope-cuff",
        "Rope cuff",
        "Wire and cuffs",
        "Strands bound and sealed, twisted, milled flat and bent round.",
        RopeCuffAsks,
        rope_cuff,
        {"wrist_mm": 165, "strands": 2},
        ("cuff", "bracelet", "twist", "rope", "bangle"),
        MappingProxyType({"pitch_mm": lambda told: 7 * told.wire_mm}),
        MappingProxyType(
            {
                "cuff": {"wrist_mm": "wrist_mm", "opening_mm": "opening_mm"},
                "twist": {"wire_mm": "wire_mm", "strands": "strands", "pitch_mm": "pitch_mm"},
            }
        ),
    ),
    Start(
        "forged-cuff",
        "Forged cuff",
        "Wire and cuffs",
        "A square bar forged flat and bent round, annealed whenever it is due.",
        ForgedCuffAsks,
        forged_cuff,
        {"wrist_mm": 165},
        ("cuff", "bracelet", "forge", "hammer", "bangle"),
        MappingProxyType({"reduction_pct": lambda told: min(50.0, metals()[told.metal].max_reduction_pct)}),
        MappingProxyType(
            {
                "cuff": {
                    "wrist_mm": "wrist_mm",
                    "opening_mm": "opening_mm",
                    "thickness_mm": "thickness_mm",
                    "width_mm": "width_mm",
                },
                "forge": {"metal": "metal"},
            }
        ),
    ),
    Start(
        "tube-cuff",
        "Tube cuff",
        "Wire and cuffs",
        "Tube bent round, capped at both ends and vented.",
        TubeCuffAsks,
        tube_cuff,
        {"wrist_mm": 165},
        ("cuff", "bracelet", "tube", "hollow", "bangle"),
        MappingProxyType({}),
        MappingProxyType({"cuff": {"wrist_mm": "wrist_mm", "opening_mm": "opening_mm"}}),
    ),
)

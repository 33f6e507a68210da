"""Settings and domes: bezels round stones, discs sunk to domes."""

from __future__ import annotations

import math

from ..faults import refuse
from ..forms import Disc, Outline, Polygon, Sheet, Strip, outline_perimeter_mm, outline_rings
from ..units import about, bare
from ._base import (
    Calculator,
    Coordinate,
    Cut,
    Found,
    Hand,
    Keys,
    Mm,
    MmOrZero,
    ToolAnswer,
    key,
    num,
    one_of,
    tool_answer,
)
from ._sketch import SketchLine, arc, bar, box, circle, label, line, sketch


class BezelStripKeys(Keys):
    """The outline of a stone, or its measured perimeter, and the strip that goes round it."""

    outline: Outline | None = key("Outline of the stone", None, quantity="outline")
    perimeter_mm: Mm | None = key("or its perimeter, measured", None)
    thickness_mm: Mm = key("Thickness of the strip")
    ease_mm: Coordinate = key("Ease", 0.0)
    height_mm: Mm = key("Height of the strip", 3.0)


class BezelStripFound(Found):
    """The strip of a bezel."""

    length_mm: float = key("Cut the strip")
    outline_mm: float = key("Round the stone")


def bezel_strip(asked: BezelStripKeys, hand: Hand) -> BezelStripFound:
    """Give the strip of a bezel: perimeter + π·t (+ ease), which holds for any convex outline (Steiner's formula)."""
    drawn = []
    if one_of(asked, "outline", "perimeter_mm") == "outline" and asked.outline is not None:
        _check_convex(asked.outline)
        around = outline_perimeter_mm(asked.outline)
        drawn = [line(*ring, closed=True) for ring in outline_rings(asked.outline)]
    else:
        around = asked.perimeter_mm or 0.0
        drawn = [circle(0, 0, around / math.pi, "hidden")]
    length = around + math.pi * asked.thickness_mm + asked.ease_mm
    if length <= 0:
        raise refuse(
            "contradiction", "ease_mm", asked.ease_mm, "the strip keeps some length", "Give less ease."
        )
    below = min(y for one in drawn for _, y in one.points) - asked.height_mm - 3
    ease = f" + {num(asked.ease_mm)}" if asked.ease_mm else ""
    return BezelStripFound(
        length_mm=length,
        outline_mm=around,
        how=f"{num(around)} + π × {num(asked.thickness_mm)}{ease} = {num(length, 2)} mm",
        cut=Cut(
            title="Bezel",
            form=Strip(
                kind="strip",
                width_mm=asked.height_mm,
                thickness_mm=asked.thickness_mm,
                length_mm=length,
                closed=True,
            ),
            length_mm=length,
        ),
        sketch=sketch(
            [*drawn, *bar(length, asked.height_mm, below)],
            [label(length / 2, below - 3, about(length, 2))],
        ),
    )


def _check_convex(outline: Outline) -> None:
    if not isinstance(outline, Polygon):
        return
    points = outline.points
    turns = []
    for n, (bx, by) in enumerate(points):
        (ax, ay), (cx, cy) = points[n - 1], points[(n + 1) % len(points)]
        turns.append((bx - ax) * (cy - by) - (by - ay) * (cx - bx))
    if min(turns) < 0 < max(turns):
        raise refuse(
            "contradiction",
            "outline",
            None,
            "a bezel by this formula goes round a convex outline",
            "Measure the perimeter and give perimeter_mm.",
        )


class BezelHeightKeys(Keys):
    """The parts of a bezel's height, and the plate under it."""

    seat_mm: MmOrZero = key("Seat below the stone")
    wall_mm: Mm = key("Wall up to the fold")
    overlap_mm: MmOrZero = key("Folded over")
    bezel_outside_mm: Mm | None = key("Bezel, outside", None)
    border_mm: MmOrZero = key("Border of the plate", 0.0)
    trim_mm: MmOrZero = key("To trim", 0.0)
    sheet_mm: Mm | None = key("Sheet at hand, its shorter side", None)
    loose_mm: Coordinate = key("Bezel found loose by (tight: below 0)", 0.0)


class BezelHeightFound(Found):
    """The height of a bezel, the plate, and what a bezel found loose or tight wants."""

    height_mm: float = key("Height of the strip")
    plate_mm: float | None = key("Plate, across", None)
    length_change_mm: float = key("Change of the bezel's length")


def bezel_height(asked: BezelHeightKeys, hand: Hand) -> BezelHeightFound:
    """Give a bezel's height: seat + wall + overlap; plate = outside + 2·(border + trim); a looseness of Δ changes the length by −π·Δ."""
    height = asked.seat_mm + asked.wall_mm + asked.overlap_mm
    plate = None
    if asked.bezel_outside_mm is not None:
        plate = asked.bezel_outside_mm + 2 * (asked.border_mm + asked.trim_mm)
        if asked.sheet_mm is not None and plate > asked.sheet_mm:
            raise refuse(
                "contradiction",
                "sheet_mm",
                asked.sheet_mm,
                f"the plate is cut from a sheet of at least {num(plate)} mm",
                "Take a larger sheet, or less border.",
            )
    outside = asked.bezel_outside_mm or 10.0
    wide = plate or outside
    drawn = [
        box(-outside / 2, 0, 0.4, height),
        box(outside / 2 - 0.4, 0, 0.4, height),
        box(-wide / 2, -0.8, wide, 0.8),
    ]
    drawn += [
        line((-outside / 2, at), (outside / 2, at), stands="hidden")
        for at in (asked.seat_mm, asked.seat_mm + asked.wall_mm)
    ]
    return BezelHeightFound(
        height_mm=height,
        plate_mm=plate,
        length_change_mm=-math.pi * asked.loose_mm,
        how=f"{num(asked.seat_mm)} + {num(asked.wall_mm)} + {num(asked.overlap_mm)} = {num(height)} mm",
        sketch=sketch(drawn, [label(outside / 2 + 1, height / 2, bare(height, 2), "start")]),
    )


class DomeKeys(Keys):
    """A disc to be sunk to a depth, or to a whole hemisphere."""

    disc_mm: Mm = key("Disc")
    thickness_mm: Mm = key("Thickness")
    depth_mm: Mm | None = key("Depth", None)
    hemisphere: bool = key("A whole hemisphere", False)
    metal: str = key("Metal", "sterling-925")


class DomeFound(Found):
    """How wide a dome comes, and what it is sunk in."""

    across_low_mm: float = key("Across, at least")
    across_high_mm: float = key("Across, at most")
    hole_mm: float = key("Hollow of the block")
    punch_mm: float = key("Punch")
    edge_flat_note: str = key("The rim")


def dome(asked: DomeKeys, hand: Hand) -> DomeFound:
    """Give how wide a dome comes: between the bound that keeps the meridian and the one that keeps the area.

    Meridian: 2·R·θ = disc and R·(1 − cos θ) = depth; area: a² + depth² = (disc/2)². The hollow is the sphere of the
    second; the punch is smaller by twice the thickness.
    """
    half = asked.disc_mm / 2
    low, high, angle, depth = _bounds_of_dome(asked)
    hole = (high**2 / 4 + depth**2) / depth
    punch = hole - 2 * asked.thickness_mm
    if punch <= 0:
        raise refuse(
            "contradiction",
            "thickness_mm",
            asked.thickness_mm,
            "a punch still fits in the hollow",
            "Take thinner sheet.",
        )
    filed = asked.thickness_mm * math.cos(angle)
    return DomeFound(
        across_low_mm=low,
        across_high_mm=high,
        hole_mm=hole,
        punch_mm=punch,
        edge_flat_note=f"File about {about(filed, 2)} off the rim until its edge lies flat all round."
        if filed > 0.01
        else "The rim lies flat.",
        how=f"meridian kept: {num(low, 2)} mm; area kept: 2 × √({num(half)}² − {num(depth, 2)}²) = {num(high, 2)} mm; punch {num(hole, 2)} − 2 × {num(asked.thickness_mm)} = {num(punch, 2)} mm",
        tools=(_block(hand, hole, asked.thickness_mm),),
        cut=Cut(
            title="Dome",
            form=Sheet(
                kind="sheet",
                thickness_mm=asked.thickness_mm,
                outline=Disc(kind="disc", diameter_mm=asked.disc_mm),
                domed_mm=min(depth, half),
            ),
            metal=asked.metal,
        ),
        sketch=sketch(
            [
                *_cap(high, depth, hole / 2),
                line((-half, -3), (half, -3)),
                line((-high / 2, 0), (high / 2, 0), stands="hidden"),
            ],
            [
                label(0, -6, f"disc {bare(asked.disc_mm)}"),
                label(0, -1.5, f"{bare(low, 1)} to {bare(high, 1)}"),
            ],
        ),
    )


def _bounds_of_dome(asked: DomeKeys) -> tuple[float, float, float, float]:
    """Give the least and the most that a dome comes across, mm, the angle of its rim, and its depth, mm."""
    half = asked.disc_mm / 2
    if asked.hemisphere == (asked.depth_mm is not None):
        raise refuse(
            "contradiction",
            "depth_mm",
            asked.depth_mm,
            "a depth is given, or hemisphere is true",
            "Give one of the two.",
        )
    if asked.hemisphere:
        widest = asked.disc_mm / math.sqrt(2)
        return asked.disc_mm * 2 / math.pi, widest, math.pi / 2, half / math.sqrt(2)
    depth = asked.depth_mm or 0.0
    most = asked.disc_mm / math.pi
    if depth > most:
        raise refuse(
            "contradiction",
            "depth_mm",
            depth,
            f"a dome is at most a hemisphere: {num(most, 2)} mm deep from this disc",
            "Make it shallower, or the disc larger.",
        )
    angle = _cap_angle(asked.disc_mm, depth)
    return 2 * half / angle * math.sin(angle), 2 * math.sqrt(half**2 - depth**2), angle, depth


def _block(hand: Hand, hole: float, thickness: float) -> ToolAnswer:
    return tool_answer(
        hand, "dapping-pair", hole, lambda owned: f"the punch for it is {about(owned - 2 * thickness, 2)}."
    )


def _cap_angle(disc: float, depth: float) -> float:
    """Solve (1 − cos θ)/θ = 2·depth/disc for the half angle of a cap that keeps its meridian."""
    low, high = 1e-9, math.pi / 2
    for _ in range(60):
        middle = (low + high) / 2
        if (1 - math.cos(middle)) / middle < 2 * depth / disc:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _cap(across: float, depth: float, radius: float) -> list[SketchLine]:
    half = math.degrees(math.asin(min(1.0, across / 2 / radius)))
    return [line(*arc((0, depth - radius), radius, 90 + half, 90 - half))]


CALCULATORS = (
    Calculator(
        "bezel-strip",
        "Bezel strip",
        "Settings",
        "The strip round a stone of any convex outline.",
        BezelStripKeys,
        BezelStripFound,
        bezel_strip,
        "length_mm",
        {"outline": {"kind": "ellipse", "width_mm": 14, "height_mm": 10}, "thickness_mm": 0.35},
        {"thickness_mm": 0.1, "perimeter_mm": 0.5},
    ),
    Calculator(
        "bezel-height",
        "Bezel height and plate",
        "Settings",
        "How high the strip, how large the plate.",
        BezelHeightKeys,
        BezelHeightFound,
        bezel_height,
        "height_mm",
        {
            "seat_mm": 1,
            "wall_mm": 2.2,
            "overlap_mm": 0.5,
            "bezel_outside_mm": 14.7,
            "border_mm": 1,
            "trim_mm": 0.5,
        },
        {},
    ),
    Calculator(
        "dome",
        "Dome from a disc",
        "Settings",
        "How wide a sunk disc comes, its hollow and its punch.",
        DomeKeys,
        DomeFound,
        dome,
        "across_high_mm",
        {"disc_mm": 18, "thickness_mm": 0.5, "hemisphere": True},
        {"depth_mm": 0.5, "disc_mm": 0.5},
    ),
)

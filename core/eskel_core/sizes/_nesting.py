"""Outlines nested on sheet, edge first, and drawn at 1:1.

Packing is done by rectpack (a kept library) on the boxes that hold the outlines, each grown by the kerf; what is left
over stays in one piece at the far side.
"""

from __future__ import annotations

import math
from typing import Annotated, Any

from pydantic import Field, model_validator

from ..faults import refuse
from ..forms import Outline, outline_area_mm2, outline_box, outline_rings
from ._base import Calculator, Count, Found, Hand, Keys, Mm, MmOrZero, Record, SizeCaution, caution, key, num
from ._sketch import SketchLine, Spot, box, line, sketch

SCALE_BAR_MM = 20.0
_STEPS_PER_MM = 100
MOST_AT_ONCE = 2000


class NestedOutline(Record):
    """An outline, and how many of it are cut."""

    outline: Outline = key("Outline", quantity="outline")
    count: Count = key("How many", 1)
    name: Annotated[str, Field(max_length=60)] = key("Name", "")

    @model_validator(mode="before")
    @classmethod
    def _outline_told_flat(cls, plain: Any) -> Any:
        """Take an outline's own keys beside `count` and `name`."""
        if isinstance(plain, dict) and "outline" not in plain and "kind" in plain:
            own = {name: value for name, value in plain.items() if name not in ("count", "name")}
            return {"outline": own, **{name: plain[name] for name in ("count", "name") if name in plain}}
        return plain


class SheetSize(Record):
    """A sheet of metal."""

    width_mm: Mm = key("Width")
    height_mm: Mm = key("Height")


class NestKeys(Keys):
    """Outlines to be cut from a sheet."""

    outlines: Annotated[tuple[NestedOutline, ...], Field(min_length=1, max_length=200)] = key(
        "Outlines", quantity="outlines"
    )
    sheet: SheetSize = key("Sheet", quantity="sheet")
    kerf_mm: MmOrZero = key("Kerf", 0.3)
    margin_mm: MmOrZero = key("Margin at the edge", 0.5)


class NestedPlace(Record):
    """One outline where it lies: its box's lower left corner, mm, and whether it is turned by a quarter."""

    outline: int
    name: str
    x_mm: float
    y_mm: float
    turned: bool


class NestFound(Found):
    """What found room on the sheet."""

    placed: tuple[NestedPlace, ...] = key("Placed")
    left_over: int = key("Found no room")
    used_pct: float = key("Of the sheet used")
    left_width_mm: float = key("Left whole, width")
    left_height_mm: float = key("and height")
    svg: str = key("Drawing at 1:1")


def nest(asked: NestKeys, hand: Hand) -> NestFound:
    """Lay outlines on a sheet, the first edge first, with a kerf between any two and a margin all round."""
    wanted = sum(outline.count for outline in asked.outlines)
    if wanted > MOST_AT_ONCE:
        raise refuse(
            "out-of-range",
            "outlines",
            wanted,
            f"at most {MOST_AT_ONCE} outlines are laid at once",
            "Lay them sheet by sheet.",
        )
    boxes = [outline_box(outline.outline) for outline in asked.outlines]
    wide, high = asked.sheet.width_mm - 2 * asked.margin_mm, asked.sheet.height_mm - 2 * asked.margin_mm
    for n, (low, top) in enumerate(boxes):
        across, up = top[0] - low[0], top[1] - low[1]
        if min(across, up) > min(wide, high) + 1e-9 or max(across, up) > max(wide, high) + 1e-9:
            raise refuse(
                "contradiction",
                f"outlines[{n}]",
                None,
                f"an outline of {num(across, 2)} × {num(up, 2)} mm fits within the sheet less its margins, {num(wide, 2)} × {num(high, 2)}",
                "Take a larger sheet.",
            )
    placed = _pack(asked, boxes, (wide, high))
    area = sum(outline_area_mm2(asked.outlines[one.outline].outline) for one in placed)
    sheet_area = asked.sheet.width_mm * asked.sheet.height_mm
    left = _left_whole(asked, boxes, placed)
    told: tuple[SizeCaution, ...] = ()
    if len(placed) < wanted:
        told = (caution("does-not-fit", f"{wanted - len(placed)} of {wanted} find no room on this sheet."),)
    drawn = [ring for one in placed for ring in placed_rings(asked.outlines[one.outline].outline, one)]
    return NestFound(
        placed=placed,
        left_over=wanted - len(placed),
        used_pct=area / sheet_area * 100,
        left_width_mm=left[0],
        left_height_mm=left[1],
        svg=sheet_svg(asked.sheet, drawn),
        how=f"{len(placed)} outlines of {num(area, 1)} mm² on {num(sheet_area, 1)} mm² = {num(area / sheet_area * 100, 1)} %",
        cautions=told,
        sketch=sketch(
            [
                box(0, 0, asked.sheet.width_mm, asked.sheet.height_mm, "fine"),
                *(_outline_line(ring) for ring in drawn),
            ]
        ),
    )


def _outline_line(ring: list[Spot]) -> SketchLine:
    return line(*ring, closed=True)


def _left_whole(
    asked: NestKeys, boxes: list[tuple[Spot, Spot]], placed: tuple[NestedPlace, ...]
) -> tuple[float, float]:
    """Give the larger of the two strips that stay whole: beyond the last column, or above the last row."""
    sheet, right, top = asked.sheet, 0.0, 0.0
    for one in placed:
        low, high = boxes[one.outline]
        wide, tall = high[0] - low[0], high[1] - low[1]
        right = max(right, one.x_mm + (tall if one.turned else wide) + asked.kerf_mm)
        top = max(top, one.y_mm + (wide if one.turned else tall) + asked.kerf_mm)
    strips = [(sheet.width_mm - right, sheet.height_mm), (sheet.width_mm, sheet.height_mm - top)]
    return max(((max(0.0, w), max(0.0, h)) for w, h in strips), key=lambda one: one[0] * one[1])


def _pack(
    asked: NestKeys, boxes: list[tuple[Spot, Spot]], room: tuple[float, float]
) -> tuple[NestedPlace, ...]:
    """Pack the boxes; sizes are whole hundredths of a mm, grown by the kerf, so that no rounding overlaps them."""
    from rectpack import MaxRectsBl, PackingMode, newPacker

    packer = newPacker(mode=PackingMode.Offline, pack_algo=MaxRectsBl, rotation=True)
    kerf = asked.kerf_mm
    for n, (one, (low, high)) in enumerate(zip(asked.outlines, boxes, strict=True)):
        for copy in range(one.count):
            packer.add_rect(_steps(high[0] - low[0] + kerf), _steps(high[1] - low[1] + kerf), (n, copy))
    packer.add_bin(_steps(room[0] + kerf), _steps(room[1] + kerf))
    packer.pack()
    places = []
    for _, x, y, wide, _, (n, _) in sorted(packer.rect_list(), key=lambda one: (one[1], one[2], one[5])):
        low, high = boxes[n]
        turned = wide != _steps(high[0] - low[0] + kerf)
        at = (x / _STEPS_PER_MM + asked.margin_mm, y / _STEPS_PER_MM + asked.margin_mm)
        places.append(
            NestedPlace(outline=n, name=asked.outlines[n].name, x_mm=at[0], y_mm=at[1], turned=turned)
        )
    return tuple(places)


def _steps(mm: float) -> int:
    return math.ceil(mm * _STEPS_PER_MM - 1e-6)


def placed_rings(outline: Outline, place: NestedPlace) -> list[list[Spot]]:
    """Give the lines of an outline where it was placed, mm from the sheet's lower left corner."""
    (left, low), (_, top) = outline_box(outline)
    rings = []
    for ring in outline_rings(outline):
        moved = [((top - y, x - left) if place.turned else (x - left, y - low)) for x, y in ring]
        rings.append([(x + place.x_mm, y + place.y_mm) for x, y in moved])
    return rings


def sheet_svg(sheet: SheetSize, rings: list[list[Spot]]) -> str:
    """Draw a sheet at 1:1 as SVG, with a bar of 20 mm to check the print by."""
    wide, high = sheet.width_mm, sheet.height_mm
    flipped = [" ".join(f"{num(x)},{num(high - y)}" for x, y in ring) for ring in rings]
    polygons = "".join(f'<polygon points="{points}"/>' for points in flipped)
    foot = high + 6
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{num(wide)}mm" height="{num(high + 10)}mm" viewBox="0 0 {num(wide)} {num(high + 10)}">'
        f'<g fill="none" stroke="black" stroke-width="0.1"><rect width="{num(wide)}" height="{num(high)}" stroke-dasharray="1 1"/>{polygons}'
        f'<path d="M0 {num(foot)}H{num(SCALE_BAR_MM)}M0 {num(foot - 1)}V{num(foot + 1)}M{num(SCALE_BAR_MM)} {num(foot - 1)}V{num(foot + 1)}"/></g>'
        f'<text x="0" y="{num(foot + 3.5)}" font-size="2.5">{num(SCALE_BAR_MM)} mm: measure this bar after printing</text></svg>'
    )


CALCULATORS = (
    Calculator(
        "nest",
        "Nest on sheet",
        "Stock",
        "Outlines laid on a sheet, edge first, to print at 1:1.",
        NestKeys,
        NestFound,
        nest,
        "used_pct",
        {
            "outlines": [{"outline": {"kind": "disc", "diameter_mm": 22}, "count": 4}],
            "sheet": {"width_mm": 100, "height_mm": 60},
            "kerf_mm": 0.3,
            "margin_mm": 0.5,
        },
        {},
    ),
)

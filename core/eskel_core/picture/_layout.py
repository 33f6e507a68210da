"""Draw the parts of a piece where they lie in plan, and mark its joins; and the same from the front."""

from __future__ import annotations

import itertools
import math

from pydantic import BaseModel, ConfigDict

from ..forms import ViewLine, plan_view
from ..piece import Join, Piece, base_id, pairs_of, part_of
from ._front import FrontMark, FrontPart, FrontPicture, front_lines
from ._heights import ends_of, levels_of
from ._placing import (
    Page,
    Spot,
    half_extent,
    nodes_named,
    nodes_of_part,
    put_by_hand,
    put_the_rest,
    stands_of,
    told_spots,
)


class PlacedPart(BaseModel):
    """One part (or one of several alike) drawn where it lies; `lines` are in the picture's mm.

    From `low_mm` to `high_mm` above the ground. A batch of alike parts that nothing ties to another is shown by its first,
    for so many `alike`; its others, of which that is 0, lie where they are and are not drawn.
    """

    model_config = ConfigDict(frozen=True)

    node: str
    part: str
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    lines: tuple[ViewLine, ...]
    low_mm: float = 0.0
    high_mm: float = 0.0
    alike: int = 1


class JoinMark(BaseModel):
    """Where a join is, by its number in the list: one spot for each place that is joined."""

    model_config = ConfigDict(frozen=True)

    join: str
    number: int
    spots: tuple[Spot, ...]


class Picture(BaseModel):
    """The picture of a piece from above and the box that holds it, mm; and the same from the front."""

    model_config = ConfigDict(frozen=True)

    parts: tuple[PlacedPart, ...]
    joins: tuple[JoinMark, ...]
    left_mm: float
    top_mm: float
    width_mm: float
    height_mm: float
    front: FrontPicture = FrontPicture()


def draw(piece: Piece) -> Picture:
    """Lay a piece out and draw it to scale."""
    page = Page(piece, {})
    for part in piece.parts:
        for node in nodes_of_part(part):
            page.views[node] = plan_view(part.form, stands_of(piece, part))
    put_by_hand(page)
    put_the_rest(page)
    shown = _shown(piece)
    levels = levels_of(
        piece, frozenset(part.id for part in piece.parts if stands_of(piece, part) == "upright")
    )
    parts = tuple(_placed(page, node, levels, shown) for node in page.views)
    joins = tuple(
        JoinMark(join=join.id, number=n + 1, spots=_seen_spots(page, join, shown))
        for n, join in enumerate(piece.joins)
    )
    return _framed(parts, joins).model_copy(update={"front": _front(page, parts, joins)})


def _shown(piece: Piece) -> dict[str, int]:
    """Give of each single part for how many it stands: a batch that nothing ties to another is drawn once."""
    tied = {end for join in piece.joins for ends in [ends_of(join)] if len(ends) > 1 for end in ends}
    shown: dict[str, int] = {}
    for part in piece.parts:
        nodes = nodes_of_part(part)
        batch = part.count > 1 and part.id not in tied
        shown |= {node: (part.count if n == 0 else 0) if batch else 1 for n, node in enumerate(nodes)}
    return shown


def _front(page: Page, parts: tuple[PlacedPart, ...], joins: tuple[JoinMark, ...]) -> FrontPicture:
    """Draw the same from the front; a join is as high as its parts meet."""
    piece, seen = page.piece, []
    under = _rims_below(piece)
    for one in parts:
        part = part_of(piece, one.part)
        upright = stands_of(piece, part) == "upright"
        turn = page.at[one.node].turn_deg
        lines = front_lines(
            part.form, one.x_mm, one.width_mm, (one.low_mm, one.high_mm), upright, turn, one.part not in under
        )
        seen.append(FrontPart(node=one.node, part=one.part, lines=lines))
    heights = {one.part: (one.low_mm, one.high_mm) for one in parts}
    marks = tuple(
        FrontMark(join=mark.join, number=mark.number, spots=_at_height(mark.spots, _meets_at(join, heights)))
        for mark, join in zip(joins, piece.joins, strict=True)
    )
    drawn = [line for one, placed in zip(seen, parts, strict=True) if placed.alike for line in one.lines]
    return FrontPicture(parts=tuple(seen), joins=marks, **_box_of(drawn))


def _rims_below(piece: Piece) -> set[str]:
    """Give the domes that lie with their hollow up: the lower one of two that meet rim on rim."""
    rims = [join for join in piece.joins if join.kind == "butt" and len(ends_of(join)) == 2]
    return {ends_of(join)[1] for join in rims}


def _at_height(spots: tuple[Spot, ...], z: float) -> tuple[Spot, ...]:
    return tuple(dict.fromkeys((x, round(-z, 3)) for x, _ in spots))


def _meets_at(join: Join, heights: dict[str, tuple[float, float]]) -> float:
    """Give how high the parts of a join meet, mm: where their heights overlap, or touch."""
    levels = [heights[end] for end in ends_of(join)]
    return (max(low for low, _ in levels) + min(high for _, high in levels)) / 2


def distance_mm(picture: Picture, spots: tuple[Spot, ...], node: str) -> float:
    """Give how far a part's lines are from the nearest of some spots, mm."""
    lines = next(part.lines for part in picture.parts if part.node == node)
    points = [point for line in lines for point in line.points]
    return min((math.dist(spot, point) for spot in spots for point in points), default=math.inf)


def _placed(
    page: Page,
    node: str,
    levels: dict[str, tuple[float, float]] | None = None,
    shown: dict[str, int] | None = None,
) -> PlacedPart:
    view, place = page.views[node], page.at[node]
    low, high = (levels or {}).get(base_id(node), (0.0, 0.0))
    turn = math.radians(place.turn_deg)
    cos, sin = math.cos(turn), math.sin(turn)

    def moved(point: Spot) -> Spot:
        x, y = point
        return round(place.x_mm + x * cos - y * sin, 3), round(place.y_mm + x * sin + y * cos, 3)

    lines = tuple(
        line.model_copy(update={"points": tuple(moved(point) for point in line.points)})
        for line in view.lines
    )
    return PlacedPart(
        node=node,
        part=base_id(node),
        x_mm=place.x_mm,
        y_mm=place.y_mm,
        width_mm=abs(view.width_mm * cos) + abs(view.height_mm * sin),
        height_mm=abs(view.width_mm * sin) + abs(view.height_mm * cos),
        lines=lines,
        low_mm=round(low, 3),
        high_mm=round(high, 3),
        alike=(shown or {}).get(node, 1),
    )


def _seen_spots(page: Page, join: Join, shown: dict[str, int]) -> tuple[Spot, ...]:
    """Give where a join is marked: of a batch that is drawn once, on the one that is drawn."""
    spots = _spots(page, join)
    nodes = nodes_named(page, join.between[0])
    if len(set(join.between)) == 1 and len(spots) == len(nodes):
        return tuple(spot for spot, node in zip(spots, nodes, strict=True) if shown[node])
    return spots


def _spots(page: Page, join: Join) -> tuple[Spot, ...]:
    told = told_spots(join)
    if told:
        return tuple(told)
    if len(set(join.between)) == 1:
        return tuple(_seam_spot(page, node) for node in nodes_named(page, join.between[0]))
    sides = [nodes_named(page, reference) for reference in join.between]
    return tuple(
        _meeting(page, one, other) for a, b in itertools.pairwise(sides) for one, other in pairs_of(a, b)
    )


def _seam_spot(page: Page, node: str) -> Spot:
    """Give the spot where a closed part shows its seam: the top of its line."""
    part = _placed(page, node)
    x, y = max(part.lines[0].points, key=lambda point: (-point[1], -abs(point[0] - part.x_mm)))
    return x, y


def _meeting(page: Page, one: str, other: str) -> Spot:
    a, b = page.at[one], page.at[other]
    if frozenset((one, other)) in page.met:
        return page.met[frozenset((one, other))]
    for node in (one, other):
        if node in page.on_top:
            return page.at[node].x_mm, page.at[node].y_mm
    turn = math.atan2(b.y_mm - a.y_mm, b.x_mm - a.x_mm)
    reach, apart = half_extent(page.views[one], turn), math.hypot(b.x_mm - a.x_mm, b.y_mm - a.y_mm)
    reach = min(reach, apart)
    return round(a.x_mm + reach * math.cos(turn), 3), round(a.y_mm + reach * math.sin(turn), 3)


def _framed(parts: tuple[PlacedPart, ...], joins: tuple[JoinMark, ...]) -> Picture:
    return Picture(
        parts=parts, joins=joins, **_box_of([line for part in parts if part.alike for line in part.lines])
    )


def _box_of(lines: list[ViewLine]) -> dict[str, float]:
    """Give the box that holds some lines, as a picture has it."""
    boxes = [
        (x - line.width_mm / 2, y - line.width_mm / 2, x + line.width_mm / 2, y + line.width_mm / 2)
        for line in lines
        for x, y in line.points
    ] or [(0.0, 0.0, 10.0, 10.0)]
    left, top = min(box[0] for box in boxes), min(box[1] for box in boxes)
    right, low = max(box[2] for box in boxes), max(box[3] for box in boxes)
    return {"left_mm": left, "top_mm": top, "width_mm": right - left, "height_mm": low - top}

"""Lay the parts of a piece out in plan and mark its joins.

Several alike parts that are put by hand stand in a row, or each at its own spot where a join tells them all.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, field
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..forms import PlanView, ViewLine, plan_view, tip_of
from ..piece import Join, Part, Piece, Place, base_id, pairs_of, part_of
from ._front import FrontMark, FrontPart, FrontPicture, front_lines
from ._heights import ends_of, levels_of

_ON_TOP_KINDS = frozenset({"seat", "overlay", "tee", "line", "edge", "cross"})
# Straight runs that meet one another so are put crosswise, or along each other.
_CROSSWISE = frozenset({"tee", "cross", "line"})
_SHARED_OUT = (0.0, -0.25, 0.25, -0.4, 0.4, -0.12, 0.12)
_GAP_MM = 4.0
_DIRECTIONS = (0, 180, 270, 90, 315, 225, 45, 135, 20, 200, 290, 110, 340, 160, 250, 70)
_GOLDEN_DEG = 137.50776
Spot = tuple[float, float]


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


@dataclass
class _Sheet:
    """The page while it is being laid out."""

    piece: Piece
    views: dict[str, PlanView]
    at: dict[str, Place] = field(default_factory=dict)
    on_top: set[str] = field(default_factory=set)
    met: dict[frozenset[str], Spot] = field(default_factory=dict)


def draw(piece: Piece) -> Picture:
    """Lay a piece out and draw it to scale."""
    page = _Sheet(piece, {})
    for part in piece.parts:
        for node in nodes_of_part(part):
            page.views[node] = plan_view(part.form, stands_of(piece, part))
    _put_by_hand(page)
    _put_the_rest(page)
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


def _front(page: _Sheet, parts: tuple[PlacedPart, ...], joins: tuple[JoinMark, ...]) -> FrontPicture:
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


def nodes_of_part(part: Part) -> list[str]:
    """Give the names of the single pieces of a part."""
    return [part.id] if part.count == 1 else [f"{part.id}#{n + 1}" for n in range(part.count)]


def stands_of(piece: Piece, part: Part) -> Literal["flat", "upright"]:
    """Say whether a part lies flat or stands on its end: as told, else straight wire and tube on a face stand."""
    if part.place is not None:
        return part.place.stands
    straight = part.form.kind in ("wire", "tube") and not getattr(part.form, "closed", False)
    on_a_face = any(
        join.kind == "tee" and part.id in map(base_id, join.between) and _meets_sheet(piece, join, part)
        for join in piece.joins
    )
    return "upright" if straight and on_a_face else "flat"


def _meets_sheet(piece: Piece, join: Join, part: Part) -> bool:
    return any(
        part_of(piece, other).form.kind == "sheet" and join.face != "edge"
        for other in join.between
        if base_id(other) != part.id
    )


def _put_by_hand(page: _Sheet) -> None:
    for part in page.piece.parts:
        if part.place is None:
            continue
        spots = _spots_for(page.piece, part)
        for n, node in enumerate(nodes_of_part(part)):
            step = n * (page.views[node].width_mm + _GAP_MM / 2)
            put = {"x_mm": _tame(part.place.x_mm + step)}
            if spots:
                put = {"x_mm": spots[n][0], "y_mm": spots[n][1]}
            page.at[node] = part.place.model_copy(update=put)


def _spots_for(piece: Piece, part: Part) -> list[Spot]:
    """Give the spots of the first join that tells one for each of several alike parts, or none."""
    if part.count > 1:
        for join in piece.joins:
            spots = _told_spots(join)
            if part.id in join.between and len(spots) == part.count:
                return spots
    return []


def _put_the_rest(page: _Sheet) -> None:
    """Set each part on or beside one that it joins; begin again with the largest where none is near."""
    neighbours = _neighbours(page)
    bases = list(page.at)
    apart = iter(sorted(page.views, key=lambda one: -page.views[one].width_mm * page.views[one].height_mm))
    right = -math.inf
    looked_at = 0
    while len(page.at) < len(page.views):
        for base in itertools.islice(bases, looked_at, None):
            looked_at += 1
            right = max(right, page.at[base].x_mm + page.views[base].width_mm / 2)
            for node, join in neighbours[base]:
                if node not in page.at:
                    _put_near(page, node, base, join)
                    bases.append(node)
            break
        else:
            node = next(one for one in apart if one not in page.at)
            half = page.views[node].width_mm / 2
            page.at[node] = Place(x_mm=_tame(0.0 if right == -math.inf else right + _GAP_MM + half))
            bases.append(node)


def _neighbours(page: _Sheet) -> dict[str, list[tuple[str, Join]]]:
    near: dict[str, list[tuple[str, Join]]] = {node: [] for node in page.views}
    for join in page.piece.joins:
        sides = [_nodes(page, reference) for reference in join.between]
        hangs = [_nodes(page, reference) for reference in join.through]
        for group, linked in ((sides, False), (sides[:1] + hangs, True)):
            for a, b in itertools.pairwise(group):
                for one, other in pairs_of(a, b):
                    if one != other and not (linked and not hangs):
                        near[one].append((other, join))
                        near[other].append((one, join))
    return near


def _nodes(page: _Sheet, reference: str) -> list[str]:
    if reference in page.views:
        return [reference]
    return nodes_of_part(part_of(page.piece, reference))


def _put_near(page: _Sheet, node: str, base: str, join: Join) -> None:
    if _is_straight(page, node) and _is_straight(page, base) and join.kind in _CROSSWISE:
        _put_crosswise(page, node, base, join)
        return
    view, ground = page.views[node], page.views[base]
    lies_on = (
        join.kind in _ON_TOP_KINDS
        and node not in [one for reference in join.through for one in _nodes(page, reference)]
        and max(view.width_mm, view.height_mm) <= max(ground.width_mm, ground.height_mm)
        and part_of(page.piece, base).form.kind in ("sheet", "lump")
    )
    spots = _told_spots(join)
    if spots and (lies_on or join.kind in _ON_TOP_KINDS):
        x, y = spots[min(_number(node), len(spots)) - 1]
        page.on_top.add(node)
    elif lies_on:
        x, y = _spot_on(page, node, base)
        page.on_top.add(node)
    else:
        x, y = _spot_beside(page, node, base)
    page.at[node] = Place(x_mm=_tame(x), y_mm=_tame(y))


def _is_straight(page: _Sheet, node: str) -> bool:
    """Say whether a part is a straight run that lies flat."""
    part = part_of(page.piece, base_id(node))
    run = part.form.kind in ("wire", "strip", "tube") and not getattr(part.form, "closed", False)
    return run and getattr(part.form, "path", None) is None and stands_of(page.piece, part) == "flat"


def _put_crosswise(page: _Sheet, node: str, base: str, join: Join) -> None:
    """Put a straight run that meets another one: its end against that, or that one's end against it; over it; along it.

    Several on one run share it out: in its middle, at a quarter, at three quarters, on the one side and on the other.
    """
    place, long, wide = page.at[base], _long_mm(page.views[base]), page.views[base].height_mm
    mine, deep = _long_mm(page.views[node]), page.views[node].height_mm
    before = sum(1 for pair in page.met if base in pair)
    told = _told_spots(join)
    ends = (
        min((node, base), key=lambda one: tip_of(part_of(page.piece, base_id(one)).form).area_mm2)
        if join.kind == "tee"
        else None
    )
    # Where on the base, from its middle along and across it, the two meet; and from there the middle of the node.
    side = 1 if before % 2 == 0 else -1
    if join.kind == "line":
        meets, middle, turn = (0.0, side * wide / 2), (0.0, side * (wide + deep) / 2), 0.0
    elif ends == base:
        meets, middle, turn = (side * long / 2, 0.0), (side * (long + deep) / 2, 0.0), 90.0
    else:
        along = long * _SHARED_OUT[(before // 2) % len(_SHARED_OUT)]
        if told:
            spot = told[min(_number(node), len(told)) - 1]
            along = _turned((spot[0] - place.x_mm, spot[1] - place.y_mm), -place.turn_deg)[0]
        out = 0.0 if join.kind == "cross" else side * (wide + mine) / 2
        meets = (along, 0.0 if join.kind == "cross" else side * wide / 2)
        middle, turn = (along, out), 90.0
    x, y = _turned(middle, place.turn_deg)
    page.at[node] = Place(
        x_mm=_tame(place.x_mm + x), y_mm=_tame(place.y_mm + y), turn_deg=(place.turn_deg + turn) % 180
    )
    x, y = _turned(meets, place.turn_deg)
    page.met[frozenset((node, base))] = (round(place.x_mm + x, 3), round(place.y_mm + y, 3))


def _long_mm(view: PlanView) -> float:
    """Give how long a run is from end to end: its lines are drawn with round ends past those."""
    xs = [x for line in view.lines for x, _ in line.points]
    return max(xs) - min(xs)


def _turned(point: Spot, degrees: float) -> Spot:
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return point[0] * cos - point[1] * sin, point[0] * sin + point[1] * cos


def _tame(value: float) -> float:
    """Keep a place within the bounds of the page type, whatever the size of the parts."""
    return max(-5000.0, min(5000.0, round(value, 3)))


def _told_spots(join: Join) -> list[Spot]:
    if join.at is None:
        return []
    points: list[Spot] = []
    for point in (join.at,) if isinstance(join.at[0], float | int) else join.at:
        if isinstance(point, tuple):
            points.append((float(point[0]), float(point[1])))
    return points


def _number(node: str) -> int:
    return int(node.partition("#")[2] or 1)


def _spot_on(page: _Sheet, node: str, base: str) -> Spot:
    """Put a large part in the middle of its base, small ones round about by the golden angle."""
    ground, view, place = page.views[base], page.views[node], page.at[base]
    around = sum(1 for other in page.on_top if page.at[other].z_mm == 0 and _lies_within(page, other, base))
    large = max(view.width_mm, view.height_mm) > 0.4 * max(ground.width_mm, ground.height_mm)
    if large or around == 0:
        return place.x_mm, place.y_mm
    turn = math.radians(_GOLDEN_DEG * around - 90)
    reach = 0.34 if view.width_mm < 0.25 * ground.width_mm else 0.25
    return (
        place.x_mm + reach * ground.width_mm * math.cos(turn),
        place.y_mm + reach * ground.height_mm * math.sin(turn),
    )


def _lies_within(page: _Sheet, node: str, base: str) -> bool:
    ground, place, there = page.views[base], page.at[base], page.at[node]
    return (
        abs(there.x_mm - place.x_mm) <= ground.width_mm / 2
        and abs(there.y_mm - place.y_mm) <= ground.height_mm / 2
    )


def _spot_beside(page: _Sheet, node: str, base: str) -> Spot:
    place = page.at[base]
    best: tuple[float, Spot] | None = None
    for degrees in _DIRECTIONS:
        turn = math.radians(degrees)
        reach = _half_extent(page.views[base], turn) + _half_extent(page.views[node], turn)
        spot = (place.x_mm + reach * math.cos(turn), place.y_mm + reach * math.sin(turn))
        overlap = _overlap(page, node, base, spot)
        if overlap == 0:
            return spot
        if best is None or overlap < best[0]:
            best = (overlap, spot)
    return best[1] if best else (place.x_mm, place.y_mm)


def _half_extent(view: PlanView, turn: float) -> float:
    across, along = abs(math.cos(turn)), abs(math.sin(turn))
    return min(
        view.width_mm / 2 / across if across > 1e-9 else math.inf,
        view.height_mm / 2 / along if along > 1e-9 else math.inf,
    )


def _overlap(page: _Sheet, node: str, base: str, spot: Spot) -> float:
    view, total = page.views[node], 0.0
    for other, place in page.at.items():
        if other == base:
            continue
        there = page.views[other]
        x = (view.width_mm + there.width_mm) / 2 - abs(spot[0] - place.x_mm)
        y = (view.height_mm + there.height_mm) / 2 - abs(spot[1] - place.y_mm)
        if x > 0.01 and y > 0.01:
            total += x * y
    return total


def _placed(
    page: _Sheet,
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


def _seen_spots(page: _Sheet, join: Join, shown: dict[str, int]) -> tuple[Spot, ...]:
    """Give where a join is marked: of a batch that is drawn once, on the one that is drawn."""
    spots = _spots(page, join)
    nodes = _nodes(page, join.between[0])
    if len(set(join.between)) == 1 and len(spots) == len(nodes):
        return tuple(spot for spot, node in zip(spots, nodes, strict=True) if shown[node])
    return spots


def _spots(page: _Sheet, join: Join) -> tuple[Spot, ...]:
    told = _told_spots(join)
    if told:
        return tuple(told)
    if len(set(join.between)) == 1:
        return tuple(_seam_spot(page, node) for node in _nodes(page, join.between[0]))
    sides = [_nodes(page, reference) for reference in join.between]
    return tuple(
        _meeting(page, one, other) for a, b in itertools.pairwise(sides) for one, other in pairs_of(a, b)
    )


def _seam_spot(page: _Sheet, node: str) -> Spot:
    """Give the spot where a closed part shows its seam: the top of its line."""
    part = _placed(page, node)
    x, y = max(part.lines[0].points, key=lambda point: (-point[1], -abs(point[0] - part.x_mm)))
    return x, y


def _meeting(page: _Sheet, one: str, other: str) -> Spot:
    a, b = page.at[one], page.at[other]
    if frozenset((one, other)) in page.met:
        return page.met[frozenset((one, other))]
    for node in (one, other):
        if node in page.on_top:
            return page.at[node].x_mm, page.at[node].y_mm
    turn = math.atan2(b.y_mm - a.y_mm, b.x_mm - a.x_mm)
    reach, apart = _half_extent(page.views[one], turn), math.hypot(b.x_mm - a.x_mm, b.y_mm - a.y_mm)
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

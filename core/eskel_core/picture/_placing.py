"""Put the parts of a piece where they lie in plan: by hand where that was told, else on, across or beside what they join.

Several alike parts that are put by hand stand in a row, or each at its own spot where a join tells them all.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, field
from typing import Literal

from ..forms import PlanView, tip_of
from ..piece import Join, Part, Piece, Place, base_id, pairs_of, part_of

_ON_TOP_KINDS = frozenset({"seat", "overlay", "tee", "line", "edge", "cross"})
# Straight runs that meet one another so are put crosswise, or along each other.
_CROSSWISE = frozenset({"tee", "cross", "line"})
_SHARED_OUT = (0.0, -0.25, 0.25, -0.4, 0.4, -0.12, 0.12)
_GAP_MM = 4.0
_DIRECTIONS = (0, 180, 270, 90, 315, 225, 45, 135, 20, 200, 290, 110, 340, 160, 250, 70)
_GOLDEN_DEG = 137.50776
Spot = tuple[float, float]


@dataclass
class Page:
    """The page while it is being laid out."""

    piece: Piece
    views: dict[str, PlanView]
    at: dict[str, Place] = field(default_factory=dict)
    on_top: set[str] = field(default_factory=set)
    met: dict[frozenset[str], Spot] = field(default_factory=dict)


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


def put_by_hand(page: Page) -> None:
    """Put the parts whose places were told."""
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
            spots = told_spots(join)
            if part.id in join.between and len(spots) == part.count:
                return spots
    return []


def put_the_rest(page: Page) -> None:
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


def _neighbours(page: Page) -> dict[str, list[tuple[str, Join]]]:
    near: dict[str, list[tuple[str, Join]]] = {node: [] for node in page.views}
    for join in page.piece.joins:
        sides = [nodes_named(page, reference) for reference in join.between]
        hangs = [nodes_named(page, reference) for reference in join.through]
        for group, linked in ((sides, False), (sides[:1] + hangs, True)):
            for a, b in itertools.pairwise(group):
                for one, other in pairs_of(a, b):
                    if one != other and not (linked and not hangs):
                        near[one].append((other, join))
                        near[other].append((one, join))
    return near


def nodes_named(page: Page, reference: str) -> list[str]:
    """Give the single pieces that a reference names."""
    if reference in page.views:
        return [reference]
    return nodes_of_part(part_of(page.piece, reference))


def _put_near(page: Page, node: str, base: str, join: Join) -> None:
    if _is_straight(page, node) and _is_straight(page, base) and join.kind in _CROSSWISE:
        _put_crosswise(page, node, base, join)
        return
    view, ground = page.views[node], page.views[base]
    lies_on = (
        join.kind in _ON_TOP_KINDS
        and node not in [one for reference in join.through for one in nodes_named(page, reference)]
        and max(view.width_mm, view.height_mm) <= max(ground.width_mm, ground.height_mm)
        and part_of(page.piece, base).form.kind in ("sheet", "lump")
    )
    spots = told_spots(join)
    if spots and (lies_on or join.kind in _ON_TOP_KINDS):
        x, y = spots[min(_number(node), len(spots)) - 1]
        page.on_top.add(node)
    elif lies_on:
        x, y = _spot_on(page, node, base)
        page.on_top.add(node)
    else:
        x, y = _spot_beside(page, node, base)
    page.at[node] = Place(x_mm=_tame(x), y_mm=_tame(y))


def _is_straight(page: Page, node: str) -> bool:
    """Say whether a part is a straight run that lies flat."""
    part = part_of(page.piece, base_id(node))
    run = part.form.kind in ("wire", "strip", "tube") and not getattr(part.form, "closed", False)
    return run and getattr(part.form, "path", None) is None and stands_of(page.piece, part) == "flat"


def _put_crosswise(page: Page, node: str, base: str, join: Join) -> None:
    """Put a straight run that meets another one: its end against that, or that one's end against it; over it; along it.

    Several on one run share it out: in its middle, at a quarter, at three quarters, on the one side and on the other.
    """
    place, long, wide = page.at[base], _long_mm(page.views[base]), page.views[base].height_mm
    mine, deep = _long_mm(page.views[node]), page.views[node].height_mm
    before = sum(1 for pair in page.met if base in pair)
    told = told_spots(join)
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


def told_spots(join: Join) -> list[Spot]:
    """Give the spots that a join tells, mm; none where it tells none."""
    if join.at is None:
        return []
    points: list[Spot] = []
    for point in (join.at,) if isinstance(join.at[0], float | int) else join.at:
        if isinstance(point, tuple):
            points.append((float(point[0]), float(point[1])))
    return points


def _number(node: str) -> int:
    return int(node.partition("#")[2] or 1)


def _spot_on(page: Page, node: str, base: str) -> Spot:
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


def _lies_within(page: Page, node: str, base: str) -> bool:
    ground, place, there = page.views[base], page.at[base], page.at[node]
    return (
        abs(there.x_mm - place.x_mm) <= ground.width_mm / 2
        and abs(there.y_mm - place.y_mm) <= ground.height_mm / 2
    )


def _spot_beside(page: Page, node: str, base: str) -> Spot:
    place = page.at[base]
    best: tuple[float, Spot] | None = None
    for degrees in _DIRECTIONS:
        turn = math.radians(degrees)
        reach = half_extent(page.views[base], turn) + half_extent(page.views[node], turn)
        spot = (place.x_mm + reach * math.cos(turn), place.y_mm + reach * math.sin(turn))
        overlap = _overlap(page, node, base, spot)
        if overlap == 0:
            return spot
        if best is None or overlap < best[0]:
            best = (overlap, spot)
    return best[1] if best else (place.x_mm, place.y_mm)


def half_extent(view: PlanView, turn: float) -> float:
    """Give how far a part reaches from its middle in a direction, rad, mm."""
    across, along = abs(math.cos(turn)), abs(math.sin(turn))
    return min(
        view.width_mm / 2 / across if across > 1e-9 else math.inf,
        view.height_mm / 2 / along if along > 1e-9 else math.inf,
    )


def _overlap(page: Page, node: str, base: str, spot: Spot) -> float:
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

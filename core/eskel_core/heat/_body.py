"""From a piece and one of its heats to the network that is heated."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from ..cooling import wire_convection_w_m2k
from ..faults import refuse
from ..metals import Surface
from ..picture import JoinMark, draw, nodes_of_part, set_on, stands_of
from ..piece import Join, Piece, contact_at, metal_of, pairs_of, part_of
from ._cells import Cells
from ._cut import cells_of, spread_mm
from ._gathered import Gather, Gathered, gather, gathered
from ._holders import hold, in_hand
from ._levels import Levels, Lies
from ._network import Ground, Network, Touch, assemble
from ._touch import closes, owner_of, touch_between, touch_itself

MOST_PARTS = 400
_COAT = 0.6
# How much of its round a bundle of like wires fills: 0.65 of three, 0.69 of four, 0.78 of seven.
_FILLED = 0.7
_LEAST_SIZE_MM, _MOST_SIZE_MM = 0.2, 25.0


@dataclass(frozen=True)
class Body:
    """What is heated: the network, the parts without a metal that were left out of it, and how it was gathered."""

    network: Network
    left_out: tuple[str, ...]
    gathered: Gathered | None = None


def body_of(
    piece: Piece,
    nodes: frozenset[str],
    *,
    making: tuple[str, ...],
    made: tuple[str, ...],
    surface: Surface,
    lies: Lies = "front-up",
    cells: int = 200,
    how: Gather | None = None,
) -> Body:
    """Build the body of a heat: its parts, the joins being made and those made before, on a surface.

    `nodes` name parts, or one of several alike (`link#2`); a part named without a number stands for all of it.
    About so many `cells` are used. A single long wire is laid in a coil, or all of it as a charge, where `how` says so. Parts without a metal (stones) are left out of the metal's heat and named.
    Raises Refused when there is no metal in it, or more single parts than can be reckoned.
    """
    picture = draw(piece)
    wanted = [
        node for part in piece.parts for node in nodes_of_part(part) if node in nodes or part.id in nodes
    ]
    with_metal = _with_metal(piece, nodes, wanted)
    size = _size_mm(piece, with_metal, cells)
    placed = {one.node: one for one in picture.parts}
    parts: dict[str, Cells] = {}
    for node in with_metal:
        part, metal = part_of(piece, node), metal_of(piece, node)
        if metal is not None:
            parts[node] = cells_of(part.form, metal, placed[node], stands_of(piece, part), size)
    _lay_bundles(parts, [join for join in piece.joins if join.id in {*making, *made}], piece)
    starts = dict(zip(parts, np.cumsum([0, *(len(one) for one in parts.values())]), strict=False))
    marks = {mark.join: mark for mark in picture.joins}
    joins = {join.id: join for join in piece.joins}
    touches = [
        touch
        for name in (*made, *making)
        for touch in _touches(piece, joins[name], marks[name], parts, starts, name in made)
    ]
    _lay_along(parts, touches, starts)
    upper = {name: set_on(piece, joins[name]) for name in (*made, *making)}
    levels = Levels(parts, touches, joins, starts, lies, upper)
    for small, large in levels.upon.items():
        if parts[large].ball:
            # What sits upon a ball is as high as that is.
            parts[small] = replace(parts[small], z_mm=parts[small].z_mm + parts[large].across_mm)
    network = assemble(
        parts,
        tuple(touches),
        Ground(surface.effusivity_w_s05_m2k, surface.contact_w_m2k),
        lying=levels.lying(),
        sinks=(*_sinks(parts, touches, starts, surface), *in_hand(parts, touches, starts, joins)),
        coat=_COAT,
    )
    network = hold(network, piece.joins)
    to = None
    if how in ("charge", "melt") or (how == "coil" and len(parts) == 1):
        form = part_of(piece, with_metal[0]).form
        to = gathered(how, form, sum(float(one.volume_m3.sum()) for one in parts.values()) * 1e9)
        if to is not None:
            network = gather(network, to, spread_mm(form)[0])
    return Body(network, tuple(node for node in wanted if node not in parts), to)


def _with_metal(piece: Piece, nodes: frozenset[str], wanted: list[str]) -> list[str]:
    """Give the single parts that have a metal; refuse none of them, and too many."""
    found = [node for node in wanted if metal_of(piece, node) is not None]
    if not found:
        raise refuse(
            "contradiction",
            "parts",
            ", ".join(sorted(nodes)),
            "a heat has metal in it",
            "Give a part a metal.",
        )
    if len(found) > MOST_PARTS:
        raise refuse(
            "out-of-range",
            "parts",
            len(found),
            f"a body of at most {MOST_PARTS} single parts is rehearsed",
            "Rehearse a smaller group of them.",
        )
    return found


def _size_mm(piece: Piece, nodes: list[str], cells: int) -> float:
    """Choose the size of cells, mm, that gives about so many of them."""
    spread = [spread_mm(part_of(piece, node).form) for node in nodes]
    low, high = _LEAST_SIZE_MM, max(_MOST_SIZE_MM, 1.0)

    def count(size: float) -> float:
        return sum(
            max(4.0, length / size) if length else max(9.0, area / size**2) if area else 1.0
            for length, area in spread
        )

    for _ in range(40):
        middle = (low * high) ** 0.5
        low, high = (middle, high) if count(middle) > cells else (low, middle)
    return high


def _touches(
    piece: Piece, join: Join, mark: JoinMark, parts: dict[str, Cells], starts: dict[str, int], made: bool
) -> list[Touch]:
    """Give every place at which a join ties parts of the body together."""
    contact = contact_at(piece, join)
    if contact is None:
        return []
    sides = [_nodes(piece, reference) for reference in join.between]
    if join.kind == "bundle" and len(set(join.between)) == 1:
        # Several alike, bundled among themselves: each with the next.
        sides = [[node] for node in sides[0]]
    if closes(join):
        inside = [node for node in sides[0] if node in parts]
        return [
            touch_itself(
                join, _place(join, n, len(inside)), parts[node], starts[node], contact.area_mm2, made
            )
            for n, node in enumerate(inside)
        ]
    ties = [
        (one, other, number, len(pairs))
        for a, b in pairwise(sides)
        for pairs in [pairs_of(a, b)]
        for number, (one, other) in enumerate(pairs)
        if one != other and one in parts and other in parts
    ]
    every = [
        (one, other, spot, len(spots) > 1)
        for one, other, number, pairs in ties
        for spots in [_spots(join, mark, number, pairs, parts[one], parts[other])]
        for spot in spots
    ]
    # Where a pair meets in several spots the contact is shared among them.
    area = contact.area_mm2 * len(ties) / max(1, len(every))
    return [
        touch_between(
            join,
            _place(join, n, len(every)),
            (parts[one], starts[one]),
            (parts[other], starts[other]),
            spot,
            area,
            made,
            alone=alone,
        )
        for n, (one, other, spot, alone) in enumerate(every)
    ]


def _lay_bundles(parts: dict[str, Cells], joins: list[Join], piece: Piece) -> None:
    """Lay rows that are bundled against each other, their ends together, however they are drawn.

    Inside a bundle there is no flame and no air: together they show what one round rod of their section and gaps shows,
    and the gas goes round them as round that.
    """
    for join in joins:
        if join.kind != "bundle":
            continue
        every = dict.fromkeys(node for one in join.between for node in _nodes(piece, one))
        nodes = [
            node
            for node in every
            if node in parts and parts[node].row and math.isfinite(parts[node].across_mm)
        ]
        if len(nodes) < 2:
            continue
        first, wide = parts[nodes[0]], math.ceil(math.sqrt(len(nodes)))
        section = sum(float(parts[node].volume_m3[0] / (2 * parts[node].run_m)) for node in nodes)
        round_mm = 2000 * math.sqrt(section / _FILLED / math.pi)
        around = sum(float(parts[node].surface_m2[1] / (2 * parts[node].run_m)) for node in nodes)
        shown = min(1.0, math.pi * round_mm / 1000 / around)
        for n, node in enumerate(nodes):
            cells = parts[node]
            parts[node] = replace(
                cells,
                x_mm=first.x_mm[0] + np.hypot(cells.x_mm - cells.x_mm[0], cells.y_mm - cells.y_mm[0]),
                y_mm=first.y_mm[0] + n % wide * cells.across_mm + np.zeros(len(cells)),
                z_mm=n // wide * cells.across_mm + np.zeros(len(cells)),
                rests_m2=cells.rests_m2 * (n < wide),
                surface_m2=cells.surface_m2 * shown,
                wash_m2=cells.wash_m2 * shown,
                above_m2=cells.above_m2 * shown,
                below_m2=cells.below_m2 * shown,
                across_mm=round_mm,
                convection_w_m2k=wire_convection_w_m2k(round_mm),
            )


def _lay_along(parts: dict[str, Cells], touches: list[Touch], starts: dict[str, int]) -> None:
    """Mark the wires that lie along sheet: they are within the slow gas that a flame has over the sheet."""
    for touch in touches:
        small, large = (owner_of(int(cells[0]), starts) for cells in (touch.i, touch.j))
        wire, sheet = parts[small], parts[large]
        if wire.row and wire.foot.all() and len(sheet) > 8 and not sheet.row and 2 * len(touch.i) > len(wire):
            parts[small] = replace(wire, along=True)


def _place(join: Join, number: int, of: int) -> str:
    return join.id if of == 1 else f"{join.id}#{number + 1}"


def _nodes(piece: Piece, reference: str) -> list[str]:
    return [reference] if "#" in reference else nodes_of_part(part_of(piece, reference))


def _spots(
    join: Join, mark: JoinMark, number: int, pairs: int, one: Cells, other: Cells
) -> list[tuple[float, float] | None]:
    """Give where a pair meets: its own spot where each has one, all that are told of a single pair, else the nearest to the
    lighter part.
    """
    if not mark.spots:
        return [None]
    if len(mark.spots) == pairs:
        return [mark.spots[number]]
    if pairs == 1 and join.at is not None:
        return list(mark.spots)
    small = one if one.volume_m3.sum() <= other.volume_m3.sum() else other
    return [
        min(mark.spots, key=lambda spot: float(np.hypot(small.x_mm - spot[0], small.y_mm - spot[1]).min()))
    ]


def _sinks(
    parts: dict[str, Cells], touches: list[Touch], starts: dict[str, int], surface: Surface
) -> tuple[tuple[int, float], ...]:
    """Let a grip draw heat from the cell of the heaviest part that is farthest from the joins being made."""
    if surface.sink_w_k <= 0:
        return ()
    node = max(parts, key=lambda one: (float(parts[one].volume_m3.sum()), one))
    cells = parts[node]
    seams = [cell for touch in touches if not touch.made for cell in touch.seam]
    xs = np.concatenate([part.x_mm for part in parts.values()])
    ys = np.concatenate([part.y_mm for part in parts.values()])
    if not seams:
        return ((starts[node], surface.sink_w_k),)
    far = np.hypot(cells.x_mm[:, None] - xs[seams], cells.y_mm[:, None] - ys[seams]).min(axis=1)
    return ((starts[node] + int(far.argmax()), surface.sink_w_k),)

"""The work before anything is done to it, but for what the piece says is made or done already."""

from __future__ import annotations

from collections.abc import Iterator

from ..forms import Tube
from ..metals import solders
from ..piece import HOLDING_WORK, House, Join, Part, Piece, base_id
from ._anatomy import Anatomy, anatomy
from ._types import Closed, Condition, Ground, Group, Hollow, Seam, State

ENDS = ("one end", "the other end")


def begin(piece: Piece, house: House) -> State:
    """Give the state of a piece of which nothing is done beyond what its file says is `made` or `done`."""
    nodes = anatomy(piece)
    group = Group(
        copies=tuple(range(1, piece.copies + 1)),
        seams={join.id: (_seam(join, house),) for join in piece.joins},
        parts={node: _condition(part) for part in piece.parts for node in nodes.nodes[part.id]},
        hollows={hollow.name: hollow for hollow in (*_of_parts(piece, nodes), *_enclosed(piece, nodes))},
        fixed=frozenset(work.id for work in piece.work if work.done and work.kind in HOLDING_WORK),
    )
    return State(Ground(piece, house, nodes), (group,))


def runs_c(flow_c: float, house: House) -> float:
    """Give the temperature from which a join counts as running again, °C: one that has run once runs a little higher."""
    return flow_c + house.remelt_allowance_c - house.margin_c


def _seam(join: Join, house: House) -> Seam:
    if not join.made:
        return Seam()
    if not join.heated:
        return Seam(stage="cold")
    solder = solders().get(join.solder or "")
    if solder is None:
        return Seam(stage="fused")
    return Seam(
        stage="soldered",
        solder=solder.id,
        solidus_c=solder.solidus_c,
        runs_c=runs_c(solder.flow_c, house),
    )


def _condition(part: Part) -> Condition:
    if isinstance(part.temper, str):
        return Condition(temper=part.temper, reduction_pct=0.0 if part.temper == "soft" else None)
    return Condition(temper=part.temper, reduction_pct=part.temper.reduction_pct)


def _enclosed(piece: Piece, nodes: Anatomy) -> Iterator[Hollow]:
    names = dict.fromkeys(join.encloses for join in piece.joins if join.encloses is not None)
    for name in names:
        joins = [join for join in piece.joins if join.encloses == name]
        wide = frozenset(join.id for join in joins if not join.made)
        ways = wide | {work.id for work in piece.work if work.done and name in work.vents}
        closed = None if ways else Closed("heat", _hottest(joins))
        around = nodes.of(tuple(end for join in joins for end in join.between))
        yield Hollow(name, around, None, ways, wide, closed)


def _hottest(joins: list[Join]) -> float | None:
    """Give how hot a hollow was when it was closed, °C, as far as its solders tell: as the coolest of them."""
    flows = [solder.flow_c for join in joins if (solder := solders().get(join.solder or ""))]
    return min(flows, default=None)


def _of_parts(piece: Piece, nodes: Anatomy) -> Iterator[Hollow]:
    for part in piece.parts:
        sealing = [work for work in piece.work if part.id in map(base_id, work.seals)]
        tube = isinstance(part.form, Tube)
        if not (tube or sealing):
            continue
        ends = part.form.sealed_ends if isinstance(part.form, Tube) else 0
        shut = any(work.done for work in sealing)
        wide = frozenset() if shut else frozenset(ENDS[ends:])
        opened = (work for work in piece.work if work.done and opens(piece, work.id, part.id))
        ways = wide | {work.id for work in opened}
        closed = None if ways else Closed("cold" if shut else "bought")
        yield Hollow(part.id, frozenset(nodes.nodes[part.id]), part.id, ways, wide, closed)


def opens(piece: Piece, name: str, part: str) -> bool:
    """Say whether work leaves a way out of the inside of a part.

    A hole that is drilled does. A saw cut does only where it is told to vent the part, or is told to come after its ends
    are shut: what is sawn before is shut with them.
    """
    work = next(work for work in piece.work if work.id == name)
    if part in work.vents:
        return True
    if part not in map(base_id, work.parts) or work.kind not in ("drill", "saw"):
        return False
    sealing = [other for other in piece.work if part in map(base_id, other.seals)]
    told = bool(work.before or work.after)
    return work.kind == "drill" or (told and all(_told_after(piece, name, other.id) for other in sealing))


def _told_after(piece: Piece, later: str, earlier: str) -> bool:
    """Say whether the smith told that something comes after something else, if only by way of others."""
    before = {join.id: set(join.after) for join in piece.joins}
    before |= {work.id: set(work.after) for work in piece.work}
    for work in piece.work:
        for name in work.before:
            before.setdefault(name, set()).add(work.id)
    seen, left = {later}, [later]
    while left:
        fresh = before.get(left.pop(), set()) - seen
        seen |= fresh
        left += fresh
    return earlier in seen

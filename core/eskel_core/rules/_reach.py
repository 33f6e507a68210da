"""How far a small flame reaches: which earlier joins a local heat, a balled end or a fused seam leaves cooler.

A pick or fed wire is set under a small flame that warms only what lies near; an end is balled, a seam fused, a part annealed with
the flame on it alone. How far a join lies off is taken in a straight line between places that were told (`at`, or the place
of both parts): along the metal it is as far at the least. Seams count from their nearer end; where nobody told, nothing is far.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from ..picture import Picture, draw, stands_of
from ..piece import HEAT_WORK, House, Join, Piece, Work, base_id, contact_at, part_of
from ..state import CONTACT_COOLER_C

Spot = tuple[float, float]
LOCAL_PLACINGS = frozenset({"pick", "fed-wire"})
FIRM_C = 1000.0  # cooler by so much that nothing melts
WORK_COOLER_C = 150.0
_AT_THE_END_MM = 1.0
_ONE_END = frozenset({"ball", "anneal"})


@dataclass(frozen=True)
class Reach:
    """By how many °C an earlier join stays cooler than a heat in which a task alone is done: by (join, task).

    `contact_c` holds the same for joins on a part that the task's own part hangs through: no solder ties them, one flame reaches
    both.
    """

    cooler_c: dict[tuple[str, str], float] = field(default_factory=dict)
    contact_c: dict[tuple[str, str], float] = field(default_factory=dict)

    def of(self, join: str, tasks: tuple[str, ...]) -> float:
        """Give how much cooler a join stays in a heat of some tasks, °C: as the one that reaches it best leaves it."""
        return min((self.cooler_c.get((join, task), 0.0) for task in tasks), default=0.0)


def reach_of(piece: Piece, house: House) -> Reach:
    """Give what the local heats and heated ends of a piece leave cooler."""
    joins = [join for join in piece.joins if join.heated]
    told = [join for join in joins if _is_told(piece, join)]
    local = [join for join in told if join.kind == "fuse" or is_local(join, house)]
    works = [work for work in piece.work if work.kind in HEAT_WORK & _ONE_END]
    touching = _contacts(piece, joins)
    if not (local or works):
        return Reach(contact_c=touching)
    picture = draw(piece)
    spots = {mark.join: mark.spots for mark in picture.joins}
    cooler: dict[tuple[str, str], float] = {}
    for earlier in joins:
        for join in local if earlier in told else ():
            apart = _least(spots[earlier.id], spots[join.id]) - _half(piece, earlier) - _half(piece, join)
            if earlier is not join and apart > house.local_reach_mm:
                cooler[earlier.id, join.id] = WORK_COOLER_C if join.kind == "fuse" else FIRM_C
        for work in works:
            if _from_work(piece, picture, earlier, spots[earlier.id], work) > house.local_reach_mm:
                cooler[earlier.id, work.id] = WORK_COOLER_C
    return Reach(cooler, touching)


def _contacts(piece: Piece, joins: list[Join]) -> dict[tuple[str, str], float]:
    """Give the joins on what hangs in a part while its own seam is soldered; a seam that closes a ring is turned away."""
    return {
        (earlier.id, join.id): CONTACT_COOLER_C
        for join in joins
        if join.through and join.kind != "fuse"
        for earlier in joins
        if earlier is not join
        and len(set(earlier.between)) > 1
        and {base_id(end) for end in earlier.between} & {base_id(end) for end in join.through}
        and not {base_id(end) for end in earlier.between} & {base_id(end) for end in join.between}
    }


def _is_told(piece: Piece, join: Join) -> bool:
    placed = all(part_of(piece, base_id(end)).place is not None for end in join.between)
    return placed or join.at is not None


def is_local(join: Join, house: House) -> bool:
    """Say whether a join is made in a local heat, by its placing and the house."""
    soldered = join.heated and join.kind != "fuse"
    return soldered and house.local_heat == "yes" and (join.placing or house.placing) in LOCAL_PLACINGS


def is_in_hand(join: Join, house: House) -> bool:
    """Say whether a join is held in the hand until its solder has set; what is picked or fed is held for its own touch alone."""
    return join.holds == "hand" and (join.placing or house.placing) not in LOCAL_PLACINGS


def _least(some: tuple[Spot, ...], others: tuple[Spot, ...]) -> float:
    return min((math.dist(a, b) for a in some for b in others), default=0.0)


def _half(piece: Piece, join: Join) -> float:
    touch = contact_at(piece, join)
    return 0.0 if touch is None else touch.seam_mm / 2


def _from_work(piece: Piece, picture: Picture, join: Join, spots: tuple[Spot, ...], work: Work) -> float:
    """Give how far a join lies from what work heats: the part that is annealed, the end that is balled, whichever it is."""
    found = []
    for reference in work.parts:
        drawn = [one for one in picture.parts if one.node == reference or one.part == base_id(reference)]
        lines = [line.points for one in drawn for line in one.lines]
        heated = (
            [points[end] for points in lines for end in (0, -1)] if work.kind == "ball" else sum(lines, ())
        )
        plan = [math.dist(spot, point) for spot in spots for point in heated]
        own = base_id(reference) in {base_id(end) for end in join.between}
        part = part_of(piece, base_id(reference))
        if work.kind == "ball" and stands_of(piece, part) == "upright":
            # The tip is so far above the face that it stands on, and all else lies farther.
            found.append(float(getattr(part.form, "length_mm", 0.0)))
        elif part.place is None or not _is_told(piece, join) or (own and work.kind == "anneal"):
            found.append(0.0)
        else:
            # The end at which it is joined is not the one that is balled.
            found.append(min((mm for mm in plan if not own or mm > _AT_THE_END_MM), default=0.0))
    return min(found, default=0.0) - _half(piece, join)

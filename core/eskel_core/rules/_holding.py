"""What holds a join, in its own heat and in later ones."""

from __future__ import annotations

from ..piece import Join, Piece
from ._course import Lie
from ._lying import rests_turned_over

_LIE_OF_FACE: dict[str, Lie] = {"front": "front-up", "back": "back-up", "edge": "on-edge"}
_TURNED: dict[str, Lie] = {"front": "back-up", "back": "front-up"}
ALL_LIES: tuple[Lie, ...] = ("front-up", "back-up", "on-edge")


def lies_for(join: Join) -> tuple[Lie, ...]:
    """Give the lies of the work in which a join can be made; one inside can be made in any."""
    lie = _LIE_OF_FACE.get(join.face)
    return ALL_LIES if lie is None else (lie,)


def lies_that_hold(piece: Piece, join: Join) -> tuple[Lie, ...]:
    """Give the lies in which its own weight holds a join: its face up, or turned over where the one part lies on the other."""
    own = lies_for(join)
    over = _TURNED.get(join.face)
    return (*own, over) if over and rests_turned_over(piece, join) else own


def comes_off(piece: Piece, join: Join) -> bool:
    """Say whether what holds a join is off again by a later heat.

    Clips and weights do not outlast water, the pot, turning over and work on the piece. Steel comes off before every pot;
    binding wire of unknown stuff is taken as steel, other stays until an `unbind` on the join's parts.
    """
    if join.holds in ("clipped", "weighted"):
        return True
    unbound = any(work.kind == "unbind" and set(join.between) <= set(work.parts) for work in piece.work)
    return join.holds == "bound" and (join.bound_with != "other" or unbound)


def is_steel(join: Join) -> bool:
    """Say whether what holds a join is taken to be of steel, which never goes into the pot."""
    return join.holds in ("bound", "clipped", "weighted") and (
        join.bound_with == "steel" or (join.bound_with is None and join.holds != "weighted")
    )


def can_be_protected(join: Join) -> bool:
    """Say whether the planner may put a join's hold on again in a later heat."""
    return join.holds in ("bound", "clipped", "weighted")


def holds_at_all(piece: Piece, join: Join, lie: Lie) -> bool:
    """Say whether a join is held in a later heat with that lie, unless it is protected by hand."""
    match join.holds:
        case "seated":
            return True
        case "own-weight":
            return lie in lies_that_hold(piece, join)
        case "bound":
            return not comes_off(piece, join)
        case _:
            return False


def loaded_when_soft(join: Join, held: bool) -> bool:
    """Say whether something pulls on a join once soft: as told, else whenever it is not held."""
    return (not held) if join.loaded is None else join.loaded

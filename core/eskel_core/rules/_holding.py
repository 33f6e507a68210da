"""What holds a join, in its own heat and in later ones."""

from __future__ import annotations

from ..piece import Join, Piece
from ._course import Lie

_LIE_OF_FACE: dict[str, Lie] = {"front": "front-up", "back": "back-up", "edge": "on-edge"}
ALL_LIES: tuple[Lie, ...] = ("front-up", "back-up", "on-edge")


def lies_for(join: Join) -> tuple[Lie, ...]:
    """Give the lies of the work in which a join can be made; one inside can be made in any."""
    lie = _LIE_OF_FACE.get(join.face)
    return ALL_LIES if lie is None else (lie,)


def face_up(join: Join, lie: Lie) -> bool:
    """Say whether a join's face is up in a lie; a face inside rests in any."""
    return lie in lies_for(join)


def comes_off(piece: Piece, join: Join) -> bool:
    """Say whether what holds a join is off again by a later heat.

    Steel comes off before every pot. Binding wire and clips of unknown stuff are taken as steel;
    weights, and what is of other metal, stay until an `unbind` on the join's parts.
    """
    if join.holds not in ("bound", "clipped", "weighted"):
        return False
    stuff = join.bound_with or ("other" if join.holds == "weighted" else "steel")
    unbound = any(work.kind == "unbind" and set(join.between) <= set(work.parts) for work in piece.work)
    return stuff == "steel" or unbound


def can_be_protected(join: Join) -> bool:
    """Say whether the planner may put a join's hold on again in a later heat."""
    return join.holds in ("bound", "clipped", "weighted")


def holds_at_all(piece: Piece, join: Join, lie: Lie) -> bool:
    """Say whether a join is held in a later heat with that lie, unless it is protected by hand."""
    match join.holds:
        case "seated":
            return True
        case "own-weight":
            return face_up(join, lie)
        case "bound" | "clipped" | "weighted":
            return not comes_off(piece, join)
        case _:
            return False


def loaded_when_soft(join: Join, held: bool) -> bool:
    """Say whether something pulls on a join once soft: as told, else whenever it is not held."""
    return (not held) if join.loaded is None else join.loaded

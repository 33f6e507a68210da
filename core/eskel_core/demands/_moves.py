"""Moves by hand: the smith's own choices on the ladder, laid over the piece."""

from __future__ import annotations

from ..piece import Join, Piece


def moved_joins(piece: Piece) -> tuple[str, ...]:
    """Give the ids of the joins that were moved by hand."""
    return tuple(join.id for join in piece.joins if join.by_hand is not None)


def with_moves(piece: Piece) -> Piece:
    """Give a piece in which grades and orders by hand stand as the smith's own; sharing stays with `by_hand`."""
    if not moved_joins(piece):
        return piece
    return piece.model_copy(update={"joins": tuple(_moved(join) for join in piece.joins)})


def without_moves(piece: Piece) -> Piece:
    """Give a piece as the planner would have it."""
    joins = tuple(join.model_copy(update={"by_hand": None}) for join in piece.joins)
    return piece.model_copy(update={"joins": joins})


def _moved(join: Join) -> Join:
    moved = join.by_hand
    if moved is None:
        return join
    own = {"grade": moved.grade, "solder": None} if moved.grade is not None else {}
    after = tuple(dict.fromkeys((*join.after, *moved.after)))
    return join.model_copy(update={**own, "after": after})

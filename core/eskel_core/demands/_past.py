"""What is made already of a piece: the solver gives it heats of its own, before all that is to come, and they are cut off.

So the heats to come meet every join that is made with the solder that it was made with, and nothing is asked of how it was made.
"""

from __future__ import annotations

from ..piece import HEAT_WORK, HOLDING_WORK, Piece
from ._problem import Demand


def still_to_do(piece: Piece) -> Piece:
    """Give a piece without the work that is done, but for what every heat to come meets: a hollow opened or closed, a part set in or hung on."""
    if not any(work.done for work in piece.work):
        return piece
    kept = (work for work in piece.work if not work.done or work.is_of_hollows or work.kind in HOLDING_WORK)
    return piece.model_copy(update={"work": tuple(kept)})


def past_of(piece: Piece) -> frozenset[str]:
    """Give the ids of the joins that are made, and of the work that is done: no order holds for them any more."""
    return frozenset(
        [*(join.id for join in piece.joins if join.made), *(work.id for work in piece.work if work.done)]
    )


def made_first(piece: Piece) -> list[Demand]:
    """Give the orders by which all that takes a heat comes after the joins that are made."""
    made = [join for join in piece.joins if join.heated and join.made]
    ahead = [join for join in piece.joins if join.heated and not join.made]
    works = [work for work in piece.work if work.kind in HEAT_WORK and not work.done]
    return [
        Demand(
            "made",
            "order",
            (join.id, later.id),
            f"{join.title} is made already, before {later.title}.",
            f"Take {join.title} apart, and make it again later.",
        )
        for join in made
        for later in (*ahead, *works)
    ]

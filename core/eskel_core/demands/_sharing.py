"""What keeps joins together or apart: moves by hand, sides, holds, bodies, orders."""

from __future__ import annotations

from ..piece import Join, Piece, base_id
from ..rules import lies_for
from ._graph import nearest_first
from ._problem import Demand, Problem


def sharing_demands(piece: Piece) -> list[Demand]:
    """Give what was moved by hand on the ladder: which joins share a heat, and which are kept apart."""
    names, demands, made = titles_of(piece), [], {join.id for join in piece.joins if join.made}
    for join in piece.joins:
        if join.by_hand is None or join.made:
            continue
        for name in (one for one in join.by_hand.shares if one not in made):
            text = f"{join.title} was moved into the heat of {names[name]}{_but(piece, join, name)}."
            demands.append(Demand("by-hand", "shares", (join.id, name), text, "Take the move back."))
        for name in (one for one in join.by_hand.apart if one not in made):
            text = f"{join.title} was given a heat without {names[name]}."
            demands.append(Demand("by-hand", "apart", (join.id, name), text, "Take the move back."))
    return demands


def _but(piece: Piece, join: Join, name: str) -> str:
    """Say what keeps two joins from sharing a heat whatever else is planned."""
    other = next(one for one in piece.joins if one.id == name)
    reason = why_apart(piece, join, other)
    return f", but {reason}" if reason else ""


def why_apart(piece: Piece, one: Join, other: Join) -> str | None:
    """Say why two joins can never share a heat: side, hold, a fuse, two bodies; None where nothing forbids it."""
    for join in (one, other):
        if join.kind == "fuse":
            return f"{join.title} is fused, which has a heat of its own"
        if join.holds == "nothing":
            return f"nothing holds {join.title}, so it is made alone"
    if not set(lies_for(one)) & set(lies_for(other)):
        return f"they lie on different sides, {one.face} and {other.face}"
    if not in_one_body(piece, one, other):
        return "nothing ties the two together, and a heat is one body"
    return None


def in_one_body(piece: Piece, one: Join, other: Join) -> bool:
    """Say whether the parts of two joins come to lie in one body when all is made."""
    ties = {tuple(base_id(end) for end in join.between) for join in piece.joins if join.heated}
    ways = {
        end: [(other_end, None) for tie in ties if end in tie for other_end in tie]
        for tie in ties
        for end in tie
    }
    near = {base_id(one.between[0])}
    near |= {node for node, _, _ in nearest_first(near, lambda node: ways.get(node, ()))}
    return base_id(other.between[0]) in near


def apart_by_order(problem: Problem, one: str, other: str) -> str | None:
    """Say how the orders keep two joins from one heat: one comes after the other, or nothing has tied their bodies by then."""
    titles = {join.id: join.title for join in problem.piece.joins}
    for earlier, later in ((one, other), (other, one)):
        if (earlier, later) in problem.orders:
            return f"{titles[later]} comes after {titles[earlier]}"
    too_late = {b for a, b in problem.orders if a in (one, other)}
    ties = [task.id for task in problem.tasks if task.join is not None and task.id not in too_late]
    body = problem.anatomy.body(problem.anatomy.joins[one].nodes, ties)
    if not problem.anatomy.joins[other].nodes <= body:
        return "nothing ties the two together by then, and a heat is one body"
    return None


def titles_of(piece: Piece) -> dict[str, str]:
    return {one.id: one.title for one in [*piece.joins, *piece.work]}

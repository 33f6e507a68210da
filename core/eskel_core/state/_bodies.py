"""What hangs together: by solder, and by what was put in, on or through without it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from collections.abc import Set as AbstractSet

from ..piece import base_id
from ._types import Group, Hollow, State


def body_of(state: State, group: Group, seeds: frozenset[str], making: Iterable[str] = ()) -> frozenset[str]:
    """Give the nodes that are in one piece with some seeds, with the joins that are being made."""
    made = group.tied | frozenset(making)
    known, key = state.ground.known, ("body", seeds, made)
    if key not in known:
        known[key] = state.anatomy.body(seeds, [name for name in made if state.joins[name].heated])
    return known[key]


def hung_on(state: State, group: Group, body: frozenset[str], making: Iterable[str] = ()) -> frozenset[str]:
    """Give the nodes that are in, on or through a body without solder: set, wrapped, riveted, hung, strung."""
    made = group.tied | frozenset(making)
    known, key = state.ground.known, ("hung", body, made, group.fixed)
    if key not in known:
        parts = {base_id(node) for node in body}
        reached = together(parts, _ties(state, made, group.fixed)) - parts
        known[key] = frozenset(node for part in reached for node in state.anatomy.nodes[part])
    return known[key]


def together(parts: AbstractSet[str], ties: Iterable[AbstractSet[str]]) -> set[str]:
    """Give every part that hangs together with some parts by ties, each of which names the parts that it holds."""
    body, left, grown = set(parts), list(ties), True
    while grown:
        grown = False
        for tie in left:
            if tie & body and not tie <= body:
                body |= tie
                grown = True
    return body


def _ties(state: State, made: frozenset[str], fixed: frozenset[str]) -> Iterator[set[str]]:
    """Give the parts that each join holds which is made, what hangs through it with them, and what work put together."""
    for name in made:
        join = state.joins[name]
        yield {base_id(end) for end in (*join.between, *join.through)}
    for work in state.piece.work:
        if work.id in fixed:
            yield {base_id(part) for part in work.parts}


def hollows_in(group: Group, body: frozenset[str]) -> list[Hollow]:
    """Give the hollows that lie in a body, in the order in which the piece names them."""
    return [hollow for hollow in group.hollows.values() if hollow.nodes & body]

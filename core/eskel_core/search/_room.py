"""The room of a heat, counted in the level model: what is of one level in one body shares one."""

from __future__ import annotations

from collections.abc import Iterable

from ..demands import Bodies, nearest_first
from ..solver import Term, no
from ._levels import Levels
from ._one_body import Pair

Tree = tuple[dict[str, tuple[str, int]], dict[str, list[int]]]


def room_in_bodies(levels: Levels, along: Iterable[Pair] = ()) -> None:
    """Keep what is of one level in one body within the room of one heat, counted up along a tree of the ties.

    Ties that close a circle are left out of the count: it may come out short, never over. It is not short of the ties `along`
    which a solution counted too little, and which come into the tree before all others. Counted are places, and what is held in
    the hand.
    """
    tree = _tree_of_ties(levels, along)
    widest = max(task.limit for task in levels.tasks)
    places = [widest if task.alone else min(widest, task.places) for task in levels.tasks]
    _count_up(levels, tree, places, widest)
    hands = min(task.hands for task in levels.tasks)
    held = [int(task.in_hand) for task in levels.tasks]
    if sum(held) > hands:
        _count_up(levels, tree, held, hands)


def _count_up(levels: Levels, tree: Tree, room: list[int], widest: int) -> None:
    """Count what tasks take of the room of a heat, level by level, from the leaves of a tree to its root."""
    model = levels.model
    above, own = tree
    for f in range(len(levels.fillers)):
        counts = {node: model.integer(0, widest) for node in levels.nodes}
        below: dict[str, list[Term]] = {node: [] for node in levels.nodes}
        for node, (parent, t) in above.items():
            carried = model.integer(0, widest)
            model.at_most([(1, counts[node]), (-1, carried)], 0, [levels.tied_by(t, f)])
            below[parent].append((1, carried))
        for node, tasks in own.items():
            for t in tasks:
                if room[t] and f in levels.made_with[t]:
                    below[node].append((room[t], _made_last(levels, t, f)))
        for node, terms in below.items():
            if terms:
                model.at_most([*terms, (-1, counts[node])], 0)


def _made_last(levels: Levels, t: int, f: int) -> int:
    """Give the literal that a task is of a level and does not run again."""
    own = levels.made_with[t][f]
    if t not in levels.again:
        return own
    last = levels.model.boolean()
    levels.model.clause(no(own), levels.again[t], last)
    return last


def _tree_of_ties(levels: Levels, along: Iterable[Pair]) -> Tree:
    """Give, for each node, the node above it with the task that ties them; and the node at which each task counts.

    A task counts at the upper node of one of its ties that are in the tree, or, with none there, at any node of its
    own, where its body reaches. Of ties that close a circle those `along` are taken first.
    """
    ties: dict[str, list[tuple[str, int]]] = {node: [] for node in levels.nodes}
    every = {
        (a, b): t
        for t, task in enumerate(levels.tasks)
        for a, b in levels.problem.anatomy.joins[task.id].ties
    }
    tree = Bodies()
    for a, b in dict.fromkeys((*(pair for pair in along if pair in every), *every)):
        if tree.of(a) != tree.of(b):
            tree.tie(a, b)
            ties[a].append((b, every[a, b]))
            ties[b].append((a, every[a, b]))
    above: dict[str, tuple[str, int]] = {}
    own: dict[str, list[int]] = {node: [] for node in levels.nodes}
    seen: set[str] = set()
    counted: set[int] = set()
    for root in levels.nodes:
        if root in seen:
            continue
        seen.add(root)
        for other, here, t in nearest_first([root], ties.__getitem__):
            seen.add(other)
            above[other] = here, t
            if t not in counted:
                own[here].append(t)
                counted.add(t)
    for t, task in enumerate(levels.tasks):
        if t not in counted:
            own[min(task.seeds)].append(t)
    return above, own

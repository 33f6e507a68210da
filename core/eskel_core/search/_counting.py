"""The heats and rounds of the level model, counted.

What of one level lies in one body is one heat. Bodies are counted as the nodes in the flame less the ties between them that
close no circle, so that the count is linear in the model; a circle of counted ties is cut off where a solution shows one. A
round is as late as the longest chain of heats that must come before it: by the body, or by an order.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from itertools import pairwise

from ..demands import Task, nearest_first, way_back
from ..solver import Term, no
from ._levels import Levels, Tree
from ._one_body import Pair, beyond_ties

# Of a node, a level and a number of rounds: that there have been more than so many.
Late = dict[tuple[str, int, int], int]


def count_heats(levels: Levels) -> None:
    """Count the heats, and those that come near to the solidus of something thin."""
    bodies = list(_never_tied(levels))
    for f, filler in enumerate(levels.fillers):
        hot = {node: levels.hot[node, f] for node in levels.nodes}
        terms = _bodies(levels, f, hot)
        levels.heats += terms
        for body in bodies:
            _room(levels, f, body, terms)
        near = [node for node in levels.nodes if levels.problem.is_near(filler, node)]
        if near:
            levels.near += _bodies(levels, f, _reached(levels, f, near))
    _cut(levels, _known_circles(levels))


def _bodies(levels: Levels, f: int, lit: dict[str, int]) -> list[Term]:
    """Give the number of bodies of a level whose nodes are lit, at the least, as a sum."""
    model = levels.model
    tree = Tree(f, {})
    for pair, made in _made(levels, f).items():
        counted = model.boolean()
        model.at_least([*((1, one) for one in made), (-1, counted)], 0)
        for node in pair:
            model.clause(no(counted), lit[node])
        tree.counted[pair] = counted
    levels.trees.append(tree)
    return [*((1, one) for one in lit.values()), *((-1, one) for one in tree.counted.values())]


def _made(levels: Levels, f: int) -> dict[Pair, list[int]]:
    """Give, for each pair of nodes, what ties it in a heat of a level: joins of it and hotter ones; or one heat of both."""
    made: dict[Pair, list[int]] = {}
    for t, task in enumerate(levels.tasks):
        ties = levels.problem.anatomy.joins[task.id].ties
        for a, b in ties:
            made.setdefault((min(a, b), max(a, b)), []).append(levels.made_by[t][f])
        if f in levels.made_with[t]:
            for a, b in beyond_ties(task, ties):
                made.setdefault((min(a, b), max(a, b)), []).append(levels.made_with[t][f])
    return made


def _reached(levels: Levels, f: int, near: list[str]) -> dict[str, int]:
    """Give, for each node, the literal that its body holds one of some nodes that is in the flame of a level."""
    model = levels.model
    reached = {node: model.boolean() for node in levels.nodes}
    for node in near:
        model.clause(no(levels.hot[node, f]), reached[node])
    for (a, b), made in _made(levels, f).items():
        for one in made:
            model.clause(no(one), no(reached[a]), reached[b])
            model.clause(no(one), no(reached[b]), reached[a])
    return reached


def _never_tied(levels: Levels) -> Iterator[frozenset[str]]:
    """Give the nodes that something may tie together, body by body."""
    around: dict[str, list[tuple[str, None]]] = {node: [] for node in levels.nodes}
    for task in levels.tasks:
        first, *others = sorted(task.seeds)
        for other in others:
            around[first].append((other, None))
            around[other].append((first, None))
    seen: set[str] = set()
    for node in levels.nodes:
        if node not in seen:
            body = {node, *(other for other, _, _ in nearest_first([node], around.__getitem__))}
            seen |= body
            yield frozenset(body)


def _room(levels: Levels, f: int, body: frozenset[str], terms: list[Term]) -> None:
    """Bind the heats of a level in a body from below: one for each join alone, and room for the rest by faces.

    That follows from the rest, but lets the solver count.
    """
    model = levels.model
    inside = set(body)
    own = {levels.hot[node, f] for node in body}
    tree = levels.trees[-1]
    counted = {literal for pair, literal in tree.counted.items() if set(pair) <= inside}
    here = [term for term in terms if term[1] in own or term[1] in counted]
    least: list[Term] = []
    by_face: dict[str, list[tuple[Task, int]]] = {}
    for t, task in enumerate(levels.tasks):
        if f not in levels.made_with[t] or not task.seeds <= body:
            continue
        literal = levels.made_with[t][f]
        model.at_least([*here, (-1, literal)], 0)
        if task.alone:
            least.append((1, literal))
        elif task.join is not None and task.join.face != "inside":
            by_face.setdefault(task.join.face, []).append((task, literal))
    for group in by_face.values():
        widest = max(task.limit for task, _ in group)
        heats = model.integer(0, math.ceil(sum(min(task.places, task.limit) for task, _ in group) / widest))
        room: list[Term] = [(min(task.places, task.limit), literal) for task, literal in group]
        model.at_most([*room, (-widest, heats)], 0)
        least.append((1, heats))
    model.at_least([*here, *((-c, one) for c, one in least)], 0)


def count_rounds(levels: Levels, most: int) -> None:
    """Count the rounds, of which a plan is known that takes so many.

    `late` of a node, a level and a number says that there have been more rounds than that at the node by the level; it is the
    same all over a body in the flame, and true at least where it must be.
    """
    model = levels.model
    taken = [model.boolean() for _ in range(most)]
    for earlier, later in pairwise(taken):
        model.clause(no(later), earlier)
    late: Late = {}
    for f in range(len(levels.fillers)):
        for node in levels.nodes:
            _rounds_at(levels, (node, f), late, taken)
        for (a, b), made in _made(levels, f).items():
            for one in made:
                for mine, theirs in ((a, b), (b, a)):
                    for r in range(most):
                        model.clause(
                            no(one), no(levels.hot[theirs, f]), no(late[theirs, f, r]), late[mine, f, r]
                        )
    _rounds_by_orders(levels, late, most)
    levels.rounds = [(1, one) for one in taken]


def _rounds_at(levels: Levels, at: tuple[str, int], late: Late, taken: list[int]) -> None:
    """Bind how many rounds there have been at a node by a level: as by the one before, and one more where it is in the flame."""
    model, (node, f), hot = levels.model, at, levels.hot[at]
    for r, one in enumerate(taken):
        own = late[node, f, r] = model.boolean()
        model.clause(no(own), one)
        if r:
            model.clause(no(own), late[node, f, r - 1])
        if f:
            model.clause(no(late[node, f - 1, r]), own)
    model.clause(no(hot), late[node, f, 0])
    if f:
        for r in range(len(taken) - 1):
            model.clause(no(late[node, f - 1, r]), no(hot), late[node, f, r + 1])
        model.clause(no(late[node, f - 1, len(taken) - 1]), no(hot))


def _rounds_by_orders(levels: Levels, late: Late, most: int) -> None:
    """Let what an order puts later have a later round: `after` of a task and a number is as `late` where it is made."""
    model = levels.model
    number = {task.id: t for t, task in enumerate(levels.tasks)}
    after: dict[tuple[int, int], int] = {}
    for t in sorted({number[name] for pair in levels.problem.orders for name in pair}):
        node = min(levels.tasks[t].seeds)
        for r in range(most):
            own = after[t, r] = model.boolean()
            if r:
                model.clause(no(own), after[t, r - 1])
            for f, literal in levels.made_with[t].items():
                model.clause(no(literal), no(late[node, f, r]), own)
                model.clause(no(literal), no(own), late[node, f, r])
        model.clause(after[t, 0])
    for earlier, later in sorted(levels.problem.orders):
        for r in range(most - 1):
            model.clause(no(after[number[earlier], r]), after[number[later], r + 1])
        model.clause(no(after[number[earlier], most - 1]))


def cut_circles(levels: Levels, values: tuple[int, ...]) -> bool:
    """Keep ties that are counted from closing a circle, as some do in a solution, at every level; say whether there was one."""
    circles = [
        circle
        for tree in levels.trees
        for circle in _circles(pair for pair, literal in tree.counted.items() if values[literal])
    ]
    _cut(levels, circles)
    return bool(circles)


def _cut(levels: Levels, circles: Iterable[list[Pair]]) -> None:
    for circle in circles:
        for tree in levels.trees:
            if all(pair in tree.counted for pair in circle):
                levels.model.at_most([(1, tree.counted[pair]) for pair in circle], len(circle) - 1)


def _known_circles(levels: Levels) -> Iterator[list[Pair]]:
    """Give a short circle for each tie that closes one in the whole piece: most of what would be cut off later."""
    pairs = sorted({pair for tree in levels.trees for pair in tree.counted})
    around: dict[str, list[tuple[str, None]]] = {}
    for a, b in pairs:
        around.setdefault(a, []).append((b, None))
        around.setdefault(b, []).append((a, None))
    told: set[frozenset[Pair]] = set()
    for pair in pairs:
        circle = _circle_through(pair, around)
        if circle and frozenset(circle) not in told:
            told.add(frozenset(circle))
            yield circle


def _circle_through(pair: Pair, around: dict[str, list[tuple[str, None]]]) -> list[Pair]:
    """Give the shortest circle through a tie; nothing where there is none."""
    a, b = pair

    def ways(node: str) -> Iterator[tuple[str, None]]:
        return (one for one in around[node] if {node, one[0]} != {a, b})

    came = {a: a}
    for node, here, _ in nearest_first([a], ways):
        came[node] = here
    if b not in came:
        return []
    return [pair, *((min(x, y), max(x, y)) for x, y in pairwise(way_back(came, b)))]


def _circles(counted: Iterable[Pair]) -> Iterator[list[Pair]]:
    """Give a circle for each counted tie that joins what others tie already."""
    around: dict[str, list[tuple[str, None]]] = {}
    for a, b in counted:
        came = {a: a}
        for node, here, _ in nearest_first([a], lambda node: around.get(node, ())):
            came[node] = here
        if b in came:
            way = way_back(came, b)
            yield [(a, b), *((min(x, y), max(x, y)) for x, y in pairwise(way))]
        else:
            around.setdefault(a, []).append((b, None))
            around.setdefault(b, []).append((a, None))

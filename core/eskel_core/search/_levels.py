"""A piece planned by levels: which join takes which solder, when no join may run again.

Where no join is to run again, joins that touch must be made the hotter before the softer, and those of one solder
that come to lie in one body must share a heat. So the order of the heats follows from the solders, and a model
needs one *level* for each solder instead of one variable for each join and heat: it is small, it has none of the
symmetry of heats that could change places, and every plan without running joins is one of its solutions. A heat is
one body under one flame, so what of one level lies in one body is one heat, and nothing is left to be shared out.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import combinations

from ..piece import Join, metal_of
from ..rules import ALL_LIES, Filler, Lie, can_be_protected, comes_off, lies_for, reflow_c, state_at
from ..solver import Model, Term, no
from ._earlier import held_as_it_lies
from ._graph import nearest_first
from ._one_body import Pair
from ._problem import Problem, Task


@dataclass(frozen=True)
class Tree:
    """Bodies of a level counted as nodes less ties: the literals of ties that count, by their pair of nodes, and no circle of them."""

    level: int
    counted: dict[Pair, int]


@dataclass
class Levels:
    """The model of one problem: `made_with[t][f]` says that task t is of level f, the hottest level being 0.

    `made_by[t][f]`: of that level or a hotter one. `hot[n, f]`: node n is in the flame of some heat of that level.
    `up[n, f]`: the lie of that heat. `soft` and `guard` as in the model of heats, for each task and level.
    """

    problem: Problem
    model: Model
    tasks: tuple[Task, ...]
    fillers: tuple[Filler, ...]
    nodes: tuple[str, ...]
    made_with: list[dict[int, int]] = field(default_factory=list)
    made_by: list[list[int]] = field(default_factory=list)
    hot: dict[tuple[str, int], int] = field(default_factory=dict)
    up: dict[tuple[str, int], dict[Lie, int]] = field(default_factory=dict)
    one_way_up: bool = False
    soft: dict[tuple[int, int], int] = field(default_factory=dict)
    guard: dict[tuple[int, int], int] = field(default_factory=dict)
    used_filler: list[int] = field(default_factory=list)
    heats: list[Term] = field(default_factory=list)
    near: list[Term] = field(default_factory=list)
    rounds: list[Term] = field(default_factory=list)
    trees: list[Tree] = field(default_factory=list)


def can_be_levelled(problem: Problem) -> bool:
    """Say whether a problem's heats are ordered by their solders: no shields, no local heats, no other heated work, runs counted.

    Of any two solders exactly one can follow the other, and none can follow itself.
    """
    if problem.house.grade_policy == "same-while-held" or problem.reach.cooler_c:
        return False
    names = {task.id for task in problem.tasks}
    for task in problem.tasks:
        if task.join is None or any(shield.during in names for shield in task.join.shields):
            return False
    fillers = fillers_of(problem)
    return all(
        (later.working_c < reflow_c(earlier, problem.house)) == (a < b)
        for a, earlier in enumerate(fillers)
        for b, later in enumerate(fillers)
    )


def fillers_of(problem: Problem) -> tuple[Filler, ...]:
    """Give every filler that some task may take, the hottest first."""
    by_key = {filler.key: filler for task in problem.tasks for filler in task.options}
    return tuple(sorted(by_key.values(), key=lambda one: (-one.working_c, one.key)))


def build_levels(problem: Problem) -> Levels:
    """Build the model of a problem that `can_be_levelled`."""
    nodes = tuple(node for group in problem.anatomy.nodes.values() for node in group)
    levels = Levels(problem, Model(relaxed=2), problem.tasks, fillers_of(problem), nodes)
    _take_levels(levels)
    _bodies(levels)
    _lies(levels)
    _neighbours(levels)
    _orders_in_bodies(levels)
    _room_in_bodies(levels)
    _earlier_joins(levels)
    _moved_together(levels)
    return levels


def _take_levels(levels: Levels) -> None:
    model = levels.model
    levels.used_filler = [model.boolean() for _ in levels.fillers]
    for task in levels.tasks:
        chosen = {f: model.boolean() for f, one in enumerate(levels.fillers) if one in task.options}
        model.exactly_one(list(chosen.values()))
        for f, literal in chosen.items():
            model.clause(no(literal), levels.used_filler[f])
        by: list[int] = []
        for f in range(len(levels.fillers)):
            by.append(model.boolean())
            terms: list[Term] = [(1, by[f])]
            terms += [(-1, by[f - 1])] if f else []
            terms += [(-1, chosen[f])] if f in chosen else []
            model.between(0, terms, 0)
        levels.made_with.append(chosen)
        levels.made_by.append(by)


def moved_pairs(levels: Levels, kind: str) -> list[tuple[int, int]]:
    """Give the pairs of tasks that a move by hand keeps in one heat (`shares`), or out of it (`apart`)."""
    number = {task.id: t for t, task in enumerate(levels.tasks)}
    return [
        (number[demand.ids[0]], number[demand.ids[1]])
        for demand in levels.problem.standing
        if demand.kind == kind and set(demand.ids) <= number.keys()
    ]


def _moved_together(levels: Levels) -> None:
    for one, other in moved_pairs(levels, "shares"):
        mine, theirs = levels.made_with[one], levels.made_with[other]
        for f in mine.keys() | theirs.keys():
            if f in mine and f in theirs:
                levels.model.clause(no(mine[f]), theirs[f])
                levels.model.clause(mine[f], no(theirs[f]))
            else:
                levels.model.clause(no(mine.get(f, theirs.get(f, 0))))


def _bodies(levels: Levels) -> None:
    """Bring into the flame of a level what its joins touch, and what hotter ones have tied to that."""
    model, problem = levels.model, levels.problem
    for f, filler in enumerate(levels.fillers):
        for node in levels.nodes:
            hot = levels.hot[node, f] = model.boolean()
            part = problem.anatomy.part(node)
            melts = filler.melts(metal_of(problem.piece, part))
            if (melts and problem.asks("melt", part)) or problem.asks("tender", part):
                model.clause(no(hot))
        for t, task in enumerate(levels.tasks):
            for node in sorted(task.seeds) if f in levels.made_with[t] else ():
                model.clause(no(levels.made_with[t][f]), levels.hot[node, f])
            for a, b in problem.anatomy.joins[task.id].ties:
                model.clause(no(levels.made_by[t][f]), no(levels.hot[a, f]), levels.hot[b, f])
                model.clause(no(levels.made_by[t][f]), no(levels.hot[b, f]), levels.hot[a, f])


def _lies(levels: Levels) -> None:
    """Let each body of a level lie one way up, that suits its joins; all alike where one way suits all."""
    model = levels.model
    shared = [lie for lie in ALL_LIES if all(lie in lies_for(_join(task)) for task in levels.tasks)]
    if shared:
        always = {lie: model.true if lie == shared[0] else no(model.true) for lie in ALL_LIES}
        levels.up, levels.one_way_up = dict.fromkeys(levels.hot, always), True
        return
    for at in levels.hot:
        levels.up[at] = {lie: model.boolean() for lie in ALL_LIES}
        model.exactly_one(list(levels.up[at].values()))
    for t, task in enumerate(levels.tasks):
        for f in range(len(levels.fillers)):
            first, *others = sorted(task.seeds)
            if f in levels.made_with[t]:
                own = levels.made_with[t][f]
                model.clause(no(own), *(levels.up[first, f][lie] for lie in lies_for(_join(task))))
                for other in others:
                    _alike(levels, [no(own)], first, other, f)
            for a, b in levels.problem.anatomy.joins[task.id].ties:
                _alike(levels, [no(levels.made_by[t][f]), no(levels.hot[a, f])], a, b, f)


def _alike(levels: Levels, unless: list[int], a: str, b: str, f: int) -> None:
    for lie in ALL_LIES:
        levels.model.clause(*unless, no(levels.up[a, f][lie]), levels.up[b, f][lie])
        levels.model.clause(*unless, no(levels.up[b, f][lie]), levels.up[a, f][lie])


def _neighbours(levels: Levels) -> None:
    """Keep joins that touch apart where they could not share a heat, and in the order that was told."""
    model = levels.model
    touching = [
        (i, j)
        for i, j in combinations(range(len(levels.tasks)), 2)
        if levels.tasks[i].seeds & levels.tasks[j].seeds
    ]
    for i, j in touching:
        if not can_share([levels.tasks[i], levels.tasks[j]]):
            for f in levels.made_with[i].keys() & levels.made_with[j].keys():
                model.clause(no(levels.made_with[i][f]), no(levels.made_with[j][f]))
        for first, second in ((i, j), (j, i)):
            if (levels.tasks[first].id, levels.tasks[second].id) in levels.problem.orders:
                for f, literal in levels.made_with[second].items():
                    model.clause(no(literal), *([levels.made_by[first][f - 1]] if f else []))


def _orders_in_bodies(levels: Levels) -> None:
    """Keep a join that is made after another from being as hot or hotter in one body with it.

    The way between the two is a shortest one along the ties; in a piece without circles there is no other.
    """
    model = levels.model
    ties: dict[str, list[tuple[str, int]]] = {node: [] for node in levels.nodes}
    for t, task in enumerate(levels.tasks):
        for a, b in levels.problem.anatomy.joins[task.id].ties:
            ties[a].append((b, t))
            ties[b].append((a, t))
    number = {task.id: t for t, task in enumerate(levels.tasks)}
    later: dict[int, list[int]] = {}
    for before, then in sorted(levels.problem.orders):
        later.setdefault(number[before], []).append(number[then])
    for earlier, others in later.items():
        ways = _ways(levels, ties, earlier)
        for after in others:
            way = min(
                (ways[node] for node in levels.tasks[after].seeds if node in ways), key=len, default=None
            )
            if way is None:
                continue
            between = set(way) - {earlier, after}
            for f, literal in levels.made_with[earlier].items():
                model.clause(
                    no(literal), no(levels.made_by[after][f]), *(no(levels.made_by[t][f]) for t in between)
                )


def _ways(levels: Levels, ties: dict[str, list[tuple[str, int]]], start: int) -> dict[str, tuple[int, ...]]:
    """Give, for each node that is tied to a task, the tasks on a shortest way to it."""
    ways: dict[str, tuple[int, ...]] = dict.fromkeys(sorted(levels.tasks[start].seeds), ())
    for other, here, t in nearest_first(list(ways), ties.__getitem__):
        ways[other] = (*ways[here], t)
    return ways


def can_share(tasks: list[Task]) -> bool:
    """Say whether joins may be made in one heat as far as their holds, faces and placings go."""
    if len(tasks) == 1:
        return True
    places = sum(task.places for task in tasks)
    return (
        not any(task.alone for task in tasks)
        and places <= min(task.limit for task in tasks)
        and any(all(lie in lies_for(_join(task)) for task in tasks) for lie in ALL_LIES)
    )


def _room_in_bodies(levels: Levels) -> None:
    """Keep what is of one level in one body within the room of one heat, counted up along a tree of the ties.

    Ties that close a circle are left out of the count: it may come out short, never over.
    """
    model = levels.model
    widest = max(task.limit for task in levels.tasks)
    above, own = _tree_of_ties(levels)
    for f in range(len(levels.fillers)):
        counts = {node: model.integer(0, widest) for node in levels.nodes}
        below: dict[str, list[Term]] = {node: [] for node in levels.nodes}
        for node, (parent, t) in above.items():
            carried = model.integer(0, widest)
            model.at_most([(1, counts[node]), (-1, carried)], 0, [levels.made_by[t][f]])
            below[parent].append((1, carried))
        for node, tasks in own.items():
            for t in tasks:
                if f in levels.made_with[t]:
                    task = levels.tasks[t]
                    room = widest if task.alone else min(widest, task.places)
                    below[node].append((room, levels.made_with[t][f]))
        for node, terms in below.items():
            if terms:
                model.at_most([*terms, (-1, counts[node])], 0)


def _tree_of_ties(levels: Levels) -> tuple[dict[str, tuple[str, int]], dict[str, list[int]]]:
    """Give, for each node, the node above it with the task that ties them; and the node at which each task counts.

    A task counts at the upper node of one of its ties that are in the tree, or, with none there, at any node of its
    own, where its body reaches.
    """
    ties: dict[str, list[tuple[str, int]]] = {node: [] for node in levels.nodes}
    for t, task in enumerate(levels.tasks):
        for a, b in levels.problem.anatomy.joins[task.id].ties:
            ties[a].append((b, t))
            ties[b].append((a, t))
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


def _earlier_joins(levels: Levels) -> None:
    """Say which joins are soft while loaded in a level softer than their own, and which are protected then."""
    problem, model = levels.problem, levels.model
    for i, task in enumerate(levels.tasks):
        join = _join(task)
        node = min(problem.anatomy.joins[join.id].nodes)
        for g, own in levels.made_with[i].items():
            for f in range(g + 1, len(levels.fillers)):
                working = levels.fillers[f].working_c
                if state_at(levels.fillers[g], working, problem.house) == "soft":
                    loaded = _loaded(levels, i, join, node, f)
                    if (i, f) not in levels.soft:
                        levels.soft[i, f] = model.boolean()
                    model.clause(no(own), no(levels.hot[node, f]), no(loaded), levels.soft[i, f])


def _loaded(levels: Levels, i: int, join: Join, node: str, f: int) -> int:
    """Give the literal that says whether something pulls on a join in the heat of a level."""
    true = levels.model.true
    if join.loaded is not None:
        return true if join.loaded else no(true)
    if can_be_protected(join) and comes_off(levels.problem.piece, join):
        if (i, f) not in levels.guard:
            levels.guard[i, f] = levels.model.boolean()
        return no(levels.guard[i, f])
    return no(held_as_it_lies(levels.problem, join, levels.up[node, f], true))


def _join(task: Task) -> Join:
    assert task.join is not None
    return task.join

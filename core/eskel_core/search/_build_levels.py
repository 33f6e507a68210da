"""Build the level model of a problem: everything that a plan in which no join runs again must keep, or one with exceptions."""

from __future__ import annotations

from itertools import combinations

from ..demands import Problem, nearest_first
from ..piece import Join, metal_of
from ..rules import ALL_LIES, Lie, can_be_protected, comes_off, lies_for, state_at
from ..solver import Model, Term, no
from ._earlier import held_as_it_lies
from ._levels import Levels, can_run_again, can_share, fillers_of, is_held_always, join_of, moved_pairs
from ._room import room_in_bodies


def build_levels(problem: Problem) -> Levels:
    """Build the model of a problem that `can_be_levelled`."""
    levels = _empty(problem)
    _take_levels(levels)
    _bodies(levels)
    _lies(levels)
    _neighbours(levels)
    _orders_in_bodies(levels)
    room_in_bodies(levels)
    _earlier_joins(levels)
    _moved_together(levels)
    return levels


def build_with_exceptions(problem: Problem) -> Levels:
    """Build the model in which joins that are held may run again: what keeps a join from that binds all others.

    Of a level in a body, what does not run again shares one heat, the last of them: were there two such heats, the last join
    on the way between them would run the joins of the earlier one. So the exceptions of a solution are a bound on how many
    joins run again in any plan. What is soft while loaded is not in this model.
    """
    levels = _empty(problem)
    _take_levels(levels)
    for t, task in enumerate(levels.tasks):
        if can_run_again(problem, task):
            levels.again[t] = levels.model.boolean()
            levels.followed[t] = [
                o
                for o, other in enumerate(levels.tasks)
                if (task.id, other.id) in problem.orders and task.seeds & other.seeds
            ]
    _bodies(levels)
    _lies(levels)
    _neighbours(levels)
    _orders_in_bodies(levels)
    room_in_bodies(levels)
    return levels


def _empty(problem: Problem) -> Levels:
    ties = (tie for task in problem.tasks for tie in problem.anatomy.joins[task.id].ties)
    touched = {node for task in problem.tasks for node in task.seeds} | {node for tie in ties for node in tie}
    every = (node for group in problem.anatomy.nodes.values() for node in group)
    nodes = tuple(node for node in every if node in touched)
    return Levels(problem, Model(relaxed=2), problem.tasks, fillers_of(problem), nodes)


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
                tied = levels.tied_by(t, f)
                model.clause(no(tied), no(levels.hot[a, f]), levels.hot[b, f])
                model.clause(no(tied), no(levels.hot[b, f]), levels.hot[a, f])


def _lies(levels: Levels) -> None:
    """Let each body of a level lie one way up, that suits its joins; all alike where one way suits all."""
    model = levels.model
    shared = [lie for lie in ALL_LIES if all(lie in lies_for(join_of(task)) for task in levels.tasks)]
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
                unless = [no(levels.made_with[t][f]), *_again(levels, t)]
                model.clause(*unless, *(levels.up[first, f][lie] for lie in lies_for(join_of(task))))
                for other in others:
                    _alike(levels, unless, first, other, f)
                _held_again(levels, t, levels.up[first, f], levels.made_with[t][f])
            for a, b in levels.problem.anatomy.joins[task.id].ties:
                _alike(levels, [no(levels.tied_by(t, f)), no(levels.hot[a, f])], a, b, f)


def _held_again(levels: Levels, t: int, up: dict[Lie, int], made: int) -> None:
    """Let what runs again be held in the last heat of its level in its body, unless it can be protected there."""
    if t in levels.again and not is_held_always(levels.problem, levels.tasks[t]):
        holding = levels.problem.lies_that_hold[levels.tasks[t].id]
        levels.model.clause(no(made), no(levels.again[t]), *(up[lie] for lie in holding))


def _alike(levels: Levels, unless: list[int], a: str, b: str, f: int) -> None:
    for lie in ALL_LIES:
        levels.model.clause(*unless, no(levels.up[a, f][lie]), levels.up[b, f][lie])
        levels.model.clause(*unless, no(levels.up[b, f][lie]), levels.up[a, f][lie])


def _again(levels: Levels, *tasks: int) -> list[int]:
    """Give the literals of which any says that one of some joins may run again."""
    return [levels.again[t] for t in tasks if t in levels.again]


def _again_in(levels: Levels, earlier: int, later: int) -> list[int]:
    """Give the literal that a join may run again in the heat of another that touches it, if it is held in any that this can have."""
    task, lies = levels.tasks[earlier], lies_for(join_of(levels.tasks[later]))
    held = is_held_always(levels.problem, task) or set(lies) & set(levels.problem.lies_that_hold[task.id])
    return _again(levels, earlier) if held else []


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
                model.clause(no(levels.made_with[i][f]), no(levels.made_with[j][f]), *_again(levels, i, j))
        for first, second in ((i, j), (j, i)):
            if (levels.tasks[first].id, levels.tasks[second].id) in levels.problem.orders:
                for f, literal in levels.made_with[second].items():
                    sooner = [levels.made_by[first][f - 1]] if f else []
                    model.clause(no(literal), *sooner, *_again_in(levels, first, second))


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
                apart = (no(levels.tied_by(t, f)) for t in between)
                model.clause(no(literal), no(levels.made_by[after][f]), *apart, *_again(levels, earlier))


def _ways(levels: Levels, ties: dict[str, list[tuple[str, int]]], start: int) -> dict[str, tuple[int, ...]]:
    """Give, for each node that is tied to a task, the tasks on a shortest way to it."""
    ways: dict[str, tuple[int, ...]] = dict.fromkeys(sorted(levels.tasks[start].seeds), ())
    for other, here, t in nearest_first(list(ways), ties.__getitem__):
        ways[other] = (*ways[here], t)
    return ways


def _earlier_joins(levels: Levels) -> None:
    """Say which joins are soft while loaded in a level softer than their own, and which are protected then."""
    problem, model = levels.problem, levels.model
    for i, task in enumerate(levels.tasks):
        join = join_of(task)
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

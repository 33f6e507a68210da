"""A heat is one body under one flame, and a round the heats that share one pot: what that asks of the model of heats."""

from __future__ import annotations

from collections.abc import Iterator

from ..demands import Task, nearest_first
from ..solver import Term, no
from ._grid import Grid

Pair = tuple[str, str]


def one_body_each(grid: Grid) -> None:
    """Let what is in the flame of a heat hang together: a tree of ties from one node to all others."""
    round_about = _has_circle(grid)
    for h in grid.span:
        made: dict[Pair, list[int]] = {}
        for t, task in enumerate(grid.tasks):
            ties = grid.problem.anatomy.joins[task.id].ties if task.join else ()
            for a, b in ties:
                made.setdefault((min(a, b), max(a, b)), []).append(grid.done[t][h])
            for a, b in beyond_ties(task, ties):
                made.setdefault((min(a, b), max(a, b)), []).append(grid.takes[t][h])
        counted = _counted_round_about(grid, h, made) if round_about else _counted(grid, h, made)
        hot: list[Term] = [(1, grid.hot[node, h]) for node in grid.nodes]
        grid.model.at_most([*hot, *((-1, one) for one in counted)], 1)


def _counted(grid: Grid, h: int, made: dict[Pair, list[int]]) -> list[int]:
    """Give a literal for each tie that counts in the tree of a heat, where no ties could close a circle."""
    counted = []
    for pair, by in made.items():
        one = grid.model.boolean()
        grid.model.clause(no(one), *by)
        for node in pair:
            grid.model.clause(no(one), grid.hot[node, h])
        counted.append(one)
    return counted


def _counted_round_about(grid: Grid, h: int, made: dict[Pair, list[int]]) -> list[int]:
    """Give the same with a direction, away from the first node, so that no circle counts: each node is one farther on."""
    model, most = grid.model, len(grid.nodes)
    far = {node: model.integer(0, most) for node in grid.nodes}
    into: dict[str, list[int]] = {node: [] for node in grid.nodes}
    counted = []
    for (a, b), by in made.items():
        for here, there in ((a, b), (b, a)):
            one = model.boolean()
            model.clause(no(one), *by)
            model.clause(no(one), grid.hot[here, h])
            model.clause(no(one), grid.hot[there, h])
            model.at_least([(1, far[there]), (-1, far[here])], 1, [one])
            into[there].append(one)
            counted.append(one)
    for arriving in into.values():
        model.at_most([(1, one) for one in arriving], 1)
    return counted


def _has_circle(grid: Grid) -> bool:
    """Say whether ties, or heats of several bodies, could close a circle."""
    pairs = {
        (min(a, b), max(a, b))
        for task in grid.tasks
        for ties in [grid.problem.anatomy.joins[task.id].ties if task.join else ()]
        for a, b in [*ties, *beyond_ties(task, ties)]
    }
    around: dict[str, list[tuple[str, None]]] = {}
    for a, b in sorted(pairs):
        if b in {node for node, _, _ in nearest_first([a], lambda node: around.get(node, ()))}:
            return True
        around.setdefault(a, []).append((b, None))
        around.setdefault(b, []).append((a, None))
    return False


def beyond_ties(task: Task, ties: tuple[Pair, ...]) -> Iterator[Pair]:
    """Give pairs that tie together what a task heats at once without tying it."""
    first, *others = sorted(task.seeds) or [""]
    met = {first}
    around: dict[str, list[tuple[str, None]]] = {}
    for a, b in ties:
        around.setdefault(a, []).append((b, None))
        around.setdefault(b, []).append((a, None))
    met |= {node for node, _, _ in nearest_first([first], lambda node: around.get(node, ()))}
    for other in others:
        if other not in met:
            yield first, other
            met |= {
                other,
                *(node for node, _, _ in nearest_first([other], lambda node: around.get(node, ()))),
            }


def count_rounds(grid: Grid) -> None:
    """Number the rounds: a heat comes after every heat of what is in its body, and after what an order puts before it.

    `by` is, for each node and heat, the round of the last heat that it was in.
    """
    model, most = grid.model, max(1, grid.heats)
    grid.rounds = model.integer(1, most)
    grid.round_of = [model.integer(1, most) for _ in grid.span]
    for h, own in enumerate(grid.round_of):
        model.at_most([(1, own), (-1, grid.rounds)], 0)
        if h:
            model.at_least([(1, own), (-1, grid.round_of[h - 1])], 0)
    for node in grid.nodes:
        by = [model.integer(0, most) for _ in grid.span]
        for h in grid.span:
            before: list[Term] = [(-1, by[h - 1])] if h else []
            model.at_least([(1, grid.round_of[h]), *before], 1, [grid.hot[node, h]])
            model.at_least([(1, by[h]), (-1, grid.round_of[h])], 0, [grid.hot[node, h]])
            model.at_least([(1, by[h]), *before], 0)
    _rounds_by_orders(grid)


def _rounds_by_orders(grid: Grid) -> None:
    model, most = grid.model, max(1, grid.heats)
    number = {task.id: t for t, task in enumerate(grid.tasks)}
    ordered = sorted({number[name] for pair in grid.problem.orders for name in pair})
    round_of = {t: model.integer(1, most) for t in ordered}
    for t, own in round_of.items():
        for h in grid.span:
            model.between(0, [(1, own), (-1, grid.round_of[h])], 0, [grid.takes[t][h]])
    for earlier, later in sorted(grid.problem.orders):
        model.at_least([(1, round_of[number[later]]), (-1, round_of[number[earlier]])], 1)

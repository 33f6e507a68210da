"""Build the solver's model of a problem: everything that a plan must keep."""

from __future__ import annotations

from collections.abc import Sequence

from ..demands import Demand, Problem, Task
from ..piece import metal_of
from ..rules import Filler, lies_for
from ..solver import Model, Term, no
from ._earlier import bind_earlier_joins
from ._grid import LIES, Grid
from ._one_body import count_rounds, one_body_each


def build_grid(problem: Problem, heats: int) -> Grid:
    """Build the model of a problem in which every demand stands that was not let go."""
    return _build(Grid(problem, Model(), problem.tasks, *_fillers_and_nodes(problem, problem.tasks), heats))


def build_open_grid(
    problem: Problem,
    open_: Sequence[Demand],
    *,
    heats: int | None = None,
    widened: frozenset[str] | None = None,
    tasks_too: bool = False,
) -> Grid:
    """Build a model in which some demands have literals of their own, `standing`, and may be kept or let go.

    Solders that only those demands bar come in for every join, or for those `widened` alone. With `tasks_too`,
    tasks may be left out as well: `present` says which are done.
    """
    freed = problem.without(problem.dropped | set(open_)).tasks
    if widened is not None:
        freed = tuple(
            free if free.id in widened or not firm.options else firm
            for free, firm in zip(freed, problem.tasks, strict=True)
        )
    grid = Grid(problem, Model(), freed, *_fillers_and_nodes(problem, freed), heats or len(freed))
    grid.standing = {one: grid.model.boolean() for one in open_}
    grid.present = {task.id: grid.model.boolean() for task in grid.tasks if tasks_too}
    return _build(grid)


def _fillers_and_nodes(
    problem: Problem, tasks: tuple[Task, ...]
) -> tuple[tuple[Filler, ...], tuple[str, ...]]:
    by_key = {filler.key: filler for task in tasks for filler in task.options}
    fillers = tuple(sorted(by_key.values(), key=lambda one: (-one.working_c, one.key)))
    return fillers, tuple(node for group in problem.anatomy.nodes.values() for node in group)


def _build(grid: Grid) -> Grid:
    _place_tasks(grid)
    _fill_heats(grid)
    _orders(grid)
    _bodies(grid)
    one_body_each(grid)
    _ceilings(grid)
    if not grid.standing and not grid.present:
        count_rounds(
            grid
        )  # what is asked of a model whose demands may be let go is only whether there is a plan
    _near_melting(grid)
    _sharing(grid)
    _moves(grid)
    bind_earlier_joins(grid)
    return grid


def _place_tasks(grid: Grid) -> None:
    """Give each task one heat: over by heat h or not, never undone, over at the last."""
    model = grid.model
    for task in grid.tasks:
        done = [model.boolean() for _ in grid.span]
        takes = [model.boolean() for _ in grid.span]
        for h in grid.span:
            before: list[Term] = [(-1, done[h - 1])] if h else []
            model.between(0, [(1, done[h]), *before, (-1, takes[h])], 0)
        model.clause(done[-1], *grid.absent(task.id))
        grid.done.append(done)
        grid.takes.append(takes)


def _fill_heats(grid: Grid) -> None:
    """Give each heat in use one filler; heats in use come first; a join takes its heat's filler."""
    model = grid.model
    for h in grid.span:
        fills = [model.boolean() for _ in grid.fillers]
        model.at_most([(1, fill) for fill in fills], 1)
        if h:
            model.at_least([*((1, one) for one in grid.fills[h - 1]), *((-1, fill) for fill in fills)], 0)
        grid.fills.append(fills)
        grid.at_least.append(_prefixes(model, fills))
    grid.used_filler = [model.boolean() for _ in grid.fillers]
    for t, task in enumerate(grid.tasks):
        allowed = [f for f, filler in enumerate(grid.fillers) if filler in task.options]
        chosen = {f: model.boolean() for f in allowed}
        model.exactly_one(list(chosen.values()))
        for f, literal in chosen.items():
            model.clause(no(literal), grid.used_filler[f])
            _bar(grid, task, grid.fillers[f], literal)
            for h in grid.span:
                model.clause(no(grid.takes[t][h]), no(literal), grid.fills[h][f])
                model.clause(no(grid.takes[t][h]), literal, no(grid.fills[h][f]))
        grid.made_with.append(chosen)
    for h in grid.span:
        for f in range(len(grid.fillers)):
            model.clause(no(grid.fills[h][f]), *(takes[h] for takes in grid.takes))


def _bar(grid: Grid, task: Task, filler: Filler, chosen: int) -> None:
    """Keep a solder from a join as long as a demand stands that bars it; where all stand firm it is no option."""
    if grid.standing and task.join is not None and filler.solder is not None:
        for bar in grid.problem.bars(filler.solder, task.join):
            for unless in grid.unless(*bar):
                grid.model.clause(no(chosen), *unless)


def _prefixes(model: Model, literals: list[int]) -> list[int]:
    """Give, for each literal of a list, one that is true when it or any before it is."""
    prefixes: list[int] = []
    for literal in literals:
        so_far = model.boolean()
        before: list[Term] = [(-1, prefixes[-1])] if prefixes else []
        model.between(0, [(1, so_far), (-1, literal), *before], 0)
        prefixes.append(so_far)
    return prefixes


def _orders(grid: Grid) -> None:
    """Keep the orders; work that takes no heat is over before a heat begins, or not."""
    model = grid.model
    over = {task.id: done for task, done in zip(grid.tasks, grid.done, strict=True)}
    for earlier, later in grid.problem.order_edges:
        for name in (earlier, later):
            if name not in over:
                over[name] = [model.boolean() for _ in grid.span]
    tasks = {task.id for task in grid.tasks}
    for earlier, later in grid.problem.order_edges:
        lag = 1 if earlier in tasks else 0
        for unless in grid.unless("order", earlier, later):
            for h in grid.span:
                before = [over[earlier][h - lag]] if h >= lag else []
                model.clause(no(over[later][h]), *before, *unless, *grid.absent(earlier))


def _bodies(grid: Grid) -> None:
    """Bring into the flame what a heat's joins touch, and what is tied to that by joins made so far."""
    model = grid.model
    for h in grid.span:
        for node in grid.nodes:
            grid.hot[node, h] = model.boolean()
        for t, task in enumerate(grid.tasks):
            for node in sorted(task.seeds):
                model.clause(no(grid.takes[t][h]), grid.hot[node, h])
            ties = grid.problem.anatomy.joins[task.id].ties if task.join else ()
            for a, b in ties:
                model.clause(no(grid.done[t][h]), no(grid.hot[a, h]), grid.hot[b, h])
                model.clause(no(grid.done[t][h]), no(grid.hot[b, h]), grid.hot[a, h])


def _ceilings(grid: Grid) -> None:
    """Keep every body below the solidus of its metals, and tender parts out of every heat."""
    problem = grid.problem
    for node in grid.nodes:
        part = problem.anatomy.part(node)
        for unless in grid.unless("tender", part):
            for h in grid.span:
                grid.model.clause(no(grid.hot[node, h]), *unless)
        metal = metal_of(problem.piece, part)
        too_hot = [f for f, filler in enumerate(grid.fillers) if filler.melts(metal)]
        for unless in grid.unless("melt", part):
            for h in grid.span:
                for f in too_hot:
                    grid.model.clause(no(grid.hot[node, h]), no(grid.fills[h][f]), *unless)


def _near_melting(grid: Grid) -> None:
    """Say which heats come near to the solidus of something thin."""
    near = {
        (f, node)
        for f, one in enumerate(grid.fillers)
        for node in grid.nodes
        if grid.problem.is_near(one, node)
    }
    for h in grid.span if near else ():
        grid.near.append(grid.model.boolean())
        for f, node in sorted(near):
            grid.model.clause(no(grid.hot[node, h]), no(grid.fills[h][f]), grid.near[h])


def _moves(grid: Grid) -> None:
    """Keep together, or apart, what was moved so by hand."""
    number = {task.id: t for t, task in enumerate(grid.tasks)}
    for demand in grid.problem.standing:
        if demand.kind not in ("shares", "apart") or not set(demand.ids) <= number.keys():
            continue
        one, other = (grid.takes[number[name]] for name in demand.ids)
        for unless in grid.unless(demand.kind, *demand.ids):
            for mine, theirs in zip(one, other, strict=True):
                if demand.kind == "apart":
                    grid.model.clause(no(mine), no(theirs), *unless)
                else:
                    grid.model.clause(no(mine), theirs, *unless)
                    grid.model.clause(mine, no(theirs), *unless)


def _hands(grid: Grid) -> None:
    """Keep what is held in the hand in one heat to as many things as there are hands."""
    held = [t for t, task in enumerate(grid.tasks) if task.in_hand]
    most = grid.problem.house.hands
    for unless in grid.unless("hands") if len(held) > most else ():
        for h in grid.span:
            grid.model.at_most([(1, grid.takes[t][h]) for t in held], most, [no(one) for one in unless])


def _sharing(grid: Grid) -> None:
    """Let joins share a heat only where each is held, the lie suits all, and the placing's limit allows."""
    model = grid.model
    _hands(grid)
    for h in grid.span:
        up = {lie: model.boolean() for lie in LIES}
        model.exactly_one(list(up.values()))
        grid.up.append(up)
        widest = max(task.limit for task in grid.tasks)
        taken = [(min(task.places, task.limit), grid.takes[t][h]) for t, task in enumerate(grid.tasks)]
        model.at_most(taken, widest)  # follows from the rest, but lets the solver count
        for t, task in enumerate(grid.tasks):
            others: list[Term] = [
                (other.places, grid.takes[o][h]) for o, other in enumerate(grid.tasks) if o != t
            ]
            if task.join is not None:
                model.clause(no(grid.takes[t][h]), *(up[lie] for lie in lies_for(task.join)))
            room = 0 if task.alone else max(0, task.limit - task.places)
            if others:
                model.at_most(others, room, [grid.takes[t][h]])

"""The solver's model of a problem: its variables, and everything that a plan must keep.

`done[t][h]` (task t is over by the end of heat h; its step places it: `takes`), `fills[h][f]` (heat h is of filler
f), `with_[t][f]`, `hot[n][h]` (node n is in the flame), `up[h][lie]`, and for each earlier join and heat `runs`,
`soft` (soft while loaded) and `guard` (protected by hand). A literal that only hurts is bound from one side: it is
true at least where it must be.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from ..piece import Join, metal_of
from ..rules import (
    MOST_SHIELD_C,
    Filler,
    Lie,
    State,
    can_be_protected,
    comes_off,
    lies_for,
    reflow_c,
    state_at,
)
from ._demands import Problem, Task
from ._model import Model, Term, no

LIES: tuple[Lie, ...] = ("front-up", "back-up", "on-edge")
TENTHS = 10


@dataclass
class Grid:
    """The variables of one model."""

    problem: Problem
    model: Model
    tasks: tuple[Task, ...]
    fillers: tuple[Filler, ...]
    nodes: tuple[str, ...]
    heats: int
    done: list[list[int]] = field(default_factory=list)
    takes: list[list[int]] = field(default_factory=list)
    fills: list[list[int]] = field(default_factory=list)
    at_least: list[list[int]] = field(default_factory=list)
    with_: list[dict[int, int]] = field(default_factory=list)
    hot: dict[tuple[str, int], int] = field(default_factory=dict)
    up: list[dict[Lie, int]] = field(default_factory=list)
    runs: dict[tuple[int, int], int] = field(default_factory=dict)
    soft: dict[tuple[int, int], int] = field(default_factory=dict)
    guard: dict[tuple[int, int], int] = field(default_factory=dict)
    used_filler: list[int] = field(default_factory=list)

    @property
    def true(self) -> int:
        """A literal that is always true: the first task is over by the last heat."""
        return self.done[0][-1]

    @property
    def span(self) -> range:
        """The heats, from 0."""
        return range(self.heats)


def build_grid(problem: Problem, heats: int) -> Grid:
    tasks = problem.tasks
    by_key = {filler.key: filler for task in tasks for filler in task.options}
    fillers = tuple(sorted(by_key.values(), key=lambda one: (-one.working_c, one.key)))
    nodes = tuple(node for group in problem.anatomy.nodes.values() for node in group)
    grid = Grid(problem, Model(), tasks, fillers, nodes, heats)
    _place_tasks(grid)
    _fill_heats(grid)
    _orders(grid)
    _bodies(grid)
    _ceilings(grid)
    _sharing(grid)
    _earlier_joins(grid)
    return grid


def _place_tasks(grid: Grid) -> None:
    """Give each task one heat: over by heat h or not, never undone, over at the last."""
    model = grid.model
    for _ in grid.tasks:
        done = [model.bool() for _ in grid.span]
        takes = [model.bool() for _ in grid.span]
        for h in grid.span:
            before: list[Term] = [(-1, done[h - 1])] if h else []
            model.between(0, [(1, done[h]), *before, (-1, takes[h])], 0)
        model.clause(done[-1])
        grid.done.append(done)
        grid.takes.append(takes)


def _fill_heats(grid: Grid) -> None:
    """Give each heat in use one filler; heats in use come first; a join takes its heat's filler."""
    model = grid.model
    for h in grid.span:
        fills = [model.bool() for _ in grid.fillers]
        model.at_most([(1, one) for one in fills], 1)
        if h:
            model.at_least([*((1, one) for one in grid.fills[h - 1]), *((-1, one) for one in fills)], 0)
        grid.fills.append(fills)
        grid.at_least.append(_prefixes(model, fills))
    grid.used_filler = [model.bool() for _ in grid.fillers]
    for t, task in enumerate(grid.tasks):
        allowed = [f for f, filler in enumerate(grid.fillers) if filler in task.options]
        chosen = {f: model.bool() for f in allowed}
        model.exactly_one(list(chosen.values()))
        for f, literal in chosen.items():
            model.clause(no(literal), grid.used_filler[f])
            for h in grid.span:
                model.clause(no(grid.takes[t][h]), no(literal), grid.fills[h][f])
                model.clause(no(grid.takes[t][h]), literal, no(grid.fills[h][f]))
        grid.with_.append(chosen)
    for h in grid.span:
        for f in range(len(grid.fillers)):
            model.clause(no(grid.fills[h][f]), *(takes[h] for takes in grid.takes))


def _prefixes(model: Model, literals: list[int]) -> list[int]:
    """Give, for each literal of a list, one that is true when it or any before it is."""
    prefixes: list[int] = []
    for literal in literals:
        so_far = model.bool()
        before: list[Term] = [(-1, prefixes[-1])] if prefixes else []
        model.between(0, [(1, so_far), (-1, literal), *before], 0)
        prefixes.append(so_far)
    return prefixes


def _orders(grid: Grid) -> None:
    place = {task.id: t for t, task in enumerate(grid.tasks)}
    for earlier, later in sorted(grid.problem.orders):
        a, b = grid.done[place[earlier]], grid.done[place[later]]
        for h in grid.span:
            grid.model.clause(no(b[h]), *([a[h - 1]] if h else []))


def _bodies(grid: Grid) -> None:
    """Bring into the flame what a heat's joins touch, and what is tied to that by joins made so far."""
    model = grid.model
    for h in grid.span:
        for node in grid.nodes:
            grid.hot[node, h] = model.bool()
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
        if problem.asks("tender", part):
            for h in grid.span:
                grid.model.clause(no(grid.hot[node, h]))
        solidus = _solidus_c(problem, part)
        if solidus is None or not problem.asks("melt", part):
            continue
        for f, filler in enumerate(grid.fillers):
            if filler.heats_evenly and filler.working_c >= solidus:
                for h in grid.span:
                    grid.model.clause(no(grid.hot[node, h]), no(grid.fills[h][f]))


def _solidus_c(problem: Problem, part: str) -> float | None:
    metal = metal_of(problem.piece, part)
    return None if metal is None else metal.solidus_c


def _sharing(grid: Grid) -> None:
    """Let joins share a heat only where each is held, the lie suits all, and the placing's limit allows."""
    model = grid.model
    for h in grid.span:
        up = {lie: model.bool() for lie in LIES}
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


def _earlier_joins(grid: Grid) -> None:
    """Bind what every heat does to the joins made before it."""
    for i, task in enumerate(grid.tasks):
        if task.join is None:
            continue
        for h in grid.span[1:]:
            grid.runs[i, h] = grid.model.bool()
            grid.soft[i, h] = grid.model.bool()
            if can_be_protected(task.join) and comes_off(grid.problem.piece, task.join):
                grid.guard[i, h] = grid.model.bool()
            _earlier_join(grid, i, task.join, h)


def _earlier_join(grid: Grid, i: int, join: Join, h: int) -> None:
    held = _held(grid, i, join, h)
    loaded = no(held) if join.loaded is None else grid.true if join.loaded else no(grid.true)
    if grid.problem.asks("hold", join.id):
        grid.model.clause(no(grid.runs[i, h]), held)
    node = min(grid.problem.anatomy.joins[join.id].nodes)
    places = {task.id: t for t, task in enumerate(grid.tasks)}
    shield = [
        (round(one.degrees_c * TENTHS), grid.takes[places[one.during]][h])
        for one in join.shields
        if one.during in places
    ]
    for f, literal in grid.with_[i].items():
        states = [state_at(grid.fillers[f], heat.working_c, grid.problem.house) for heat in grid.fillers]
        when = [grid.done[i][h - 1], grid.hot[node, h], literal]
        if not shield:
            _bind_states(grid, (i, h), states, when, loaded)
            continue
        for g, heat in enumerate(grid.fillers):
            if states[g] != "firm":
                _bind_shielded(
                    grid, (i, h), (grid.fillers[f], heat), [*when, grid.fills[h][g]], loaded, shield
                )


def _bind_states(grid: Grid, at: tuple[int, int], states: list[State], when: list[int], loaded: int) -> None:
    """Bind `runs` and `soft` of a join with one filler: heats are sorted, the hottest first."""
    model, runs, soft = grid.model, grid.runs[at], grid.soft[at]
    never = [no(literal) for literal in when]
    flowing, warm = states.count("flows"), len(states) - states.count("firm")
    hot_enough = [grid.at_least[at[1]][flowing - 1]] if flowing else []
    if flowing:
        model.clause(*never, no(hot_enough[0]), runs)
    model.clause(*never, no(runs), *hot_enough)
    if warm > flowing:
        model.clause(*never, no(grid.at_least[at[1]][warm - 1]), *hot_enough, soft, no(loaded))


def _held(grid: Grid, i: int, join: Join, h: int) -> int:
    """Give the literal that says whether a join is held in a heat later than its own."""
    if join.holds == "own-weight":
        lies = lies_for(join)
        return grid.true if len(lies) > 1 else grid.up[h][lies[0]]
    if (i, h) in grid.guard:
        return grid.guard[i, h]
    return grid.true if join.holds in ("seated", "bound", "clipped", "weighted") else no(grid.true)


def _bind_shielded(
    grid: Grid,
    at: tuple[int, int],
    pair: tuple[Filler, Filler],
    when: list[int],
    loaded: int,
    shield: list[Term],
) -> None:
    """Let `runs` and `soft` be true where the join runs again, or is soft while loaded, shields counted."""
    filler, heat = pair
    house, runs, soft = grid.problem.house, grid.runs[at], grid.soft[at]
    to_stay_put = _tenths_over(heat.working_c, reflow_c(filler, house))
    to_stay_firm = _tenths_over(heat.working_c, filler.solidus_c)
    if to_stay_put > 0:
        _unless_shielded(grid, [*when, no(runs)], shield, to_stay_put)
        if shield:
            grid.model.at_most(shield, to_stay_put - 1, [*when, runs])
            _unless_shielded(grid, [*when, no(runs), no(soft), loaded], shield, to_stay_firm)
    else:
        _unless_shielded(grid, [*when, no(soft), loaded], shield, to_stay_firm)


def _unless_shielded(grid: Grid, never: list[int], shield: list[Term], needed: int) -> None:
    """Forbid that some literals are all true, unless the shields in force come to what is needed."""
    if not shield or needed > MOST_SHIELD_C * TENTHS:
        grid.model.clause(*(no(literal) for literal in never))
    else:
        grid.model.at_least(shield, needed, never)


def _tenths_over(temperature_c: float, limit_c: float) -> int:
    """Give by how many tenths of a degree a temperature must fall to lie below a limit; 0 or less: it does."""
    return round((temperature_c - limit_c) * TENTHS) + 1

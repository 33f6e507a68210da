"""The exact optimisation: which heat each task takes, and with which solder.

Variables: `done[t][h]` (task t is over by the end of heat h; its steps place it), `fills[h][f]` (heat h
is of filler f), `with_[t][f]`, `hot[n][h]` (node n is in the flame), `up[h][lie]`, and for each earlier join and heat
`runs`, `soft` (soft while loaded) and `guard` (protected by hand). A literal that only hurts is bound from one
side: it is true at least where it must be. The seven objectives of the rules are solved one after another, each kept at
its best before the next.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from ..piece import FORMING_WORK, Join, base_id, metal_of
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
from ._demands import Problem, Task, closure
from ._model import Answer, Model, Term, no

LIES: tuple[Lie, ...] = ("front-up", "back-up", "on-edge")
OBJECTIVES = (
    "joins-run-again",
    "heats",
    "soft-while-loaded",
    "protected",
    "flow-of-chosen",
    "flow-of-rest",
    "solders",
)
TENTHS = 10


@dataclass(frozen=True)
class ObjectiveValue:
    """One objective in order of preference: what the plan reaches, and what no plan can beat."""

    name: str
    value: float
    bound: float

    @property
    def proven(self) -> bool:
        """Whether no plan does better."""
        return self.value == self.bound


@dataclass(frozen=True)
class Assignment:
    """A solved plan: the tasks of each heat with its filler, lie, and the joins protected in it."""

    heats: tuple[tuple[tuple[str, ...], Filler, Lie, frozenset[str]], ...]
    objectives: tuple[ObjectiveValue, ...]


@dataclass
class _Grid:
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


def solve(problem: Problem, effort: float = 10.0) -> Assignment | None:
    """Find the best plan by the seven objectives; None when the demands cannot all be met.

    Few heats are tried first: a model with the fewest heats that can do, in which no join runs again,
    is small, and when it has a solution the first two objectives are proven at once. Only when some join
    must run again is the model opened to as many heats as there are tasks.
    """
    if any(not task.options for task in problem.tasks):
        return None
    if not problem.tasks:
        return Assignment((), tuple(ObjectiveValue(name, 0, 0) for name in OBJECTIVES))
    settled = problem.house.grade_policy == "same-while-held"
    least = _longest_chain(problem) - 1
    for heats in _spans(problem) if settled else _spans(problem)[:2]:
        grid = _build(problem, heats)
        if not settled:
            grid.model.at_most(_objectives(grid)[OBJECTIVES[0]], 0)
        first = grid.model.feasible(effort)
        if first.values is not None:
            return _lexicographic(grid, first, effort, {OBJECTIVES[0]: 0, OBJECTIVES[1]: least + 1})
        least = heats if first.proven else least
    return _with_runs(problem, effort)


def can_be_met(problem: Problem, effort: float = 10.0) -> bool:
    """Say whether the demands of a problem can all be met."""
    if any(not task.options for task in problem.tasks):
        return False
    return not problem.tasks or _build(problem, len(problem.tasks)).model.feasible(effort).values is not None


def _spans(problem: Problem) -> list[int]:
    """Give the numbers of heats to try: the longest chain of orders and a little more, then all."""
    tasks = len(problem.tasks)
    least = _longest_chain(problem)
    return sorted({min(tasks, least + more) for more in (0, 1, 2, 3, 5)} | {tasks})


def _longest_chain(problem: Problem) -> int:
    """Give the number of heats in the longest chain of orders, or that of all tasks if it is a circle."""
    length = {task.id: 1 for task in problem.tasks}
    for _ in problem.tasks:
        changed = False
        for earlier, later in problem.orders:
            if length[later] <= length[earlier]:
                length[later], changed = length[earlier] + 1, True
        if not changed:
            return max(length.values())
    return len(problem.tasks)


def _with_runs(problem: Problem, effort: float) -> Assignment | None:
    """Solve where some held join must run again: as few of those as can be, then as few heats."""
    whole = _build(problem, len(problem.tasks))
    counted = _objectives(whole)[OBJECTIVES[0]]
    fewest = whole.model.minimise(counted, effort)
    if fewest.values is None:
        return None
    runs = _value(counted, fewest.values)
    least = _longest_chain(problem) - 1
    for heats in _spans(problem):
        grid = _build(problem, heats)
        grid.model.at_most(_objectives(grid)[OBJECTIVES[0]], runs)
        first = grid.model.feasible(effort)
        if first.values is not None:
            bound = runs if fewest.proven else fewest.bound
            return _lexicographic(grid, first, effort, {OBJECTIVES[0]: bound, OBJECTIVES[1]: least + 1})
        least = heats if first.proven else least
    return None


def _build(problem: Problem, heats: int) -> _Grid:
    tasks = problem.tasks
    by_key = {filler.key: filler for task in tasks for filler in task.options}
    fillers = tuple(sorted(by_key.values(), key=lambda one: (-one.working_c, one.key)))
    nodes = tuple(node for group in problem.anatomy.nodes.values() for node in group)
    grid = _Grid(problem, Model(), tasks, fillers, nodes, heats)
    _place_tasks(grid)
    _fill_heats(grid)
    _orders(grid)
    _bodies(grid)
    _ceilings(grid)
    _sharing(grid)
    _earlier_joins(grid)
    return grid


def _place_tasks(grid: _Grid) -> None:
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


def _fill_heats(grid: _Grid) -> None:
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


def _orders(grid: _Grid) -> None:
    place = {task.id: t for t, task in enumerate(grid.tasks)}
    for earlier, later in sorted(grid.problem.orders):
        a, b = grid.done[place[earlier]], grid.done[place[later]]
        for h in grid.span:
            grid.model.clause(no(b[h]), *([a[h - 1]] if h else []))


def _bodies(grid: _Grid) -> None:
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


def _ceilings(grid: _Grid) -> None:
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


def _sharing(grid: _Grid) -> None:
    """Let joins share a heat only where each is held, the lie suits all, and the placing's limit allows."""
    model = grid.model
    for h in grid.span:
        up = {lie: model.bool() for lie in LIES}
        model.exactly_one(list(up.values()))
        grid.up.append(up)
        for t, task in enumerate(grid.tasks):
            others: list[Term] = [
                (other.places, grid.takes[o][h]) for o, other in enumerate(grid.tasks) if o != t
            ]
            if task.join is not None:
                model.clause(no(grid.takes[t][h]), *(up[lie] for lie in lies_for(task.join)))
            alone = task.join is None or task.join.holds == "nothing" or task.join.kind == "fuse"
            room = 0 if alone else max(0, task.limit - task.places)
            if others:
                model.at_most(others, room, [grid.takes[t][h]])


def _earlier_joins(grid: _Grid) -> None:
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


def _earlier_join(grid: _Grid, i: int, join: Join, h: int) -> None:
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


def _bind_states(grid: _Grid, at: tuple[int, int], states: list[State], when: list[int], loaded: int) -> None:
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


def _held(grid: _Grid, i: int, join: Join, h: int) -> int:
    """Give the literal that says whether a join is held in a heat later than its own."""
    if join.holds == "own-weight":
        lies = lies_for(join)
        return grid.true if len(lies) > 1 else grid.up[h][lies[0]]
    if (i, h) in grid.guard:
        return grid.guard[i, h]
    return grid.true if join.holds in ("seated", "bound", "clipped", "weighted") else no(grid.true)


def _bind_shielded(
    grid: _Grid,
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


def _unless_shielded(grid: _Grid, never: list[int], shield: list[Term], needed: int) -> None:
    """Forbid that some literals are all true, unless the shields in force come to what is needed."""
    if not shield or needed > MOST_SHIELD_C * TENTHS:
        grid.model.clause(*(no(literal) for literal in never))
    else:
        grid.model.at_least(shield, needed, never)


def _tenths_over(temperature_c: float, limit_c: float) -> int:
    """Give by how many tenths of a degree a temperature must fall to lie below a limit; 0 or less: it does."""
    return round((temperature_c - limit_c) * TENTHS) + 1


def _objectives(grid: _Grid) -> dict[str, list[Term]]:
    """Give each objective as a sum to be made smallest."""
    house = grid.problem.house
    sign = 1 if house.grade_policy == "easiest-that-serves" else -1
    chosen: list[Term] = []
    rest: list[Term] = []
    for t, task in enumerate(grid.tasks):
        if task.join is not None:
            terms = [
                (sign * round(grid.fillers[f].flow_c), literal)
                for f, literal in grid.with_[t].items()
                if grid.fillers[f].solder
            ]
            (chosen if is_chosen(grid.problem, task.join) else rest).extend(terms)
    solders = [
        literal for filler, literal in zip(grid.fillers, grid.used_filler, strict=True) if filler.solder
    ]
    counted = [] if house.grade_policy == "same-while-held" else grid.runs.values()
    sums: tuple[list[Term], ...] = (
        [(1, one) for one in counted],
        [(1, one) for fills in grid.fills for one in fills],
        [(1, one) for one in grid.soft.values()],
        [(1, one) for one in grid.guard.values()],
        chosen,
        rest,
        [(1, one) for one in solders],
    )
    return dict(zip(OBJECTIVES, sums, strict=True))


def is_chosen(problem: Problem, join: Join) -> bool:
    """Say whether a join is one that deserves the higher grade: seen, stressed, resized or formed later."""
    return join.visible or join.structural or join.resized_later or _formed_later(problem, join)


def _formed_later(problem: Problem, join: Join) -> bool:
    """Say whether forming work on the join's parts is told to come after it."""
    later = {
        b for a, b in closure({one.ids for one in problem.demands if one.kind == "order"}) if a == join.id
    }
    parts = {base_id(one) for one in join.between}
    return any(
        work.kind in FORMING_WORK and work.id in later and parts & {base_id(one) for one in work.parts}
        for work in problem.piece.work
    )


def _lexicographic(grid: _Grid, first: Answer, effort: float, known: dict[str, int]) -> Assignment:
    """Make each objective its best in turn, keeping those before it; some bounds may be `known` already."""
    values = first.values or ()
    sums = _objectives(grid)
    bounds = dict(known)
    for group in _GROUPS:
        if all(_value(sums[name], values) == bounds.get(name, _FLOOR.get(name)) for name in group):
            bounds |= {name: _value(sums[name], values) for name in group}
            continue
        values = _together(grid, [sums[name] for name in group], values, effort, bounds, group)
    for terms in sums.values():
        if terms:
            grid.model.at_most(terms, _value(terms, values))
    tie = [(t - len(grid.tasks), done) for t in range(len(grid.tasks)) for done in grid.done[t]]
    values = grid.model.minimise(tie, effort, values).values or values
    reached = []
    for name, terms in sums.items():
        sign = -1 if any(coefficient < 0 for coefficient, _ in terms) else 1
        value = _value(terms, values)
        reached.append(ObjectiveValue(name, sign * value, sign * bounds.get(name, value)))
    return Assignment(_read_heats(grid, values), tuple(reached))


def _together(
    grid: _Grid,
    sums: list[list[Term]],
    values: tuple[int, ...],
    effort: float,
    bounds: dict[str, int],
    group: tuple[str, ...],
) -> tuple[int, ...]:
    """Solve a few objectives as one weighted sum, each outweighing all after it; singly where that is not proven."""
    weighted: list[Term] = []
    weight = 1
    for terms in reversed(sums):
        weighted += [(weight * coefficient, variable) for coefficient, variable in terms]
        weight *= 1 + sum(abs(coefficient) for coefficient, _ in terms)
    if weight < _HEAVIEST:
        answer = grid.model.minimise(weighted, effort, values)
        if answer.proven and answer.values is not None:
            values = answer.values
            bounds.update({name: _value(terms, values) for name, terms in zip(group, sums, strict=True)})
            for terms in sums:
                if terms:
                    grid.model.at_most(terms, _value(terms, values))
            return values
    for name, terms in zip(group, sums, strict=True):
        answer = grid.model.minimise(terms, effort, values)
        values = answer.values or values
        bounds[name] = _value(terms, values) if answer.proven else answer.bound
        if terms:
            grid.model.at_most(terms, _value(terms, values))
    return values


_GROUPS = (OBJECTIVES[:1], OBJECTIVES[1:2], OBJECTIVES[2:4], OBJECTIVES[4:])
_FLOOR = dict.fromkeys(OBJECTIVES[:4], 0)
_HEAVIEST = 2**40


def _value(terms: list[Term], values: tuple[int, ...]) -> int:
    return sum(coefficient * values[variable] for coefficient, variable in terms)


def _read_heats(
    grid: _Grid, values: tuple[int, ...]
) -> tuple[tuple[tuple[str, ...], Filler, Lie, frozenset[str]], ...]:
    heats = []
    for h in grid.span:
        inside = tuple(task.id for t, task in enumerate(grid.tasks) if values[grid.takes[t][h]])
        if not inside:
            continue
        filler = next(
            filler for filler, literal in zip(grid.fillers, grid.fills[h], strict=True) if values[literal]
        )
        lie = next(lie for lie, literal in grid.up[h].items() if values[literal])
        guarded = frozenset(
            grid.tasks[i].id for (i, at), literal in grid.guard.items() if at == h and values[literal]
        )
        heats.append((inside, filler, lie, guarded))
    return tuple(heats)

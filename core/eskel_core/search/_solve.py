"""The exact optimisation: which heat each task takes, and with which solder.

The objectives of the rules are made best one after another, each kept at its best before the next.
"""

from __future__ import annotations

import math
from dataclasses import replace

from ..demands import Problem, Task, longest_chain
from ..faults import refuse
from ..solver import Answer, Bound, Effort, Term
from ._assignment import Assignment, PlannedHeat, in_rounds
from ._build import build_grid
from ._by_hand import better, by_hand
from ._by_levels import LevelSearch
from ._by_pick import by_pick
from ._exceptions import with_exceptions
from ._grid import Grid
from ._levels import can_be_levelled
from ._measured import calmed, measured, plain_bounds
from ._objectives import (
    DISTURBING,
    GROUPS,
    HEATS,
    NEAR,
    OBJECTIVES,
    OF_SOLDERS,
    PROTECTED,
    ROUNDS,
    RUNS,
    SOFT,
    ObjectiveValue,
    Sums,
    objectives_of,
    span_of,
    value_of,
    weighted_sum,
)

MORE_HEATS = (0, 1, 2, 3, 5)
FEW_TASKS = 12
SOME_TASKS = 18  # of picked work with more joins the model of heats proves nothing in the time that one waits
MANY_TASKS = 40
HUGE_TASKS = 100  # the model of heats takes longer to write down than anybody waits
FULL = 7.0
QUICK = 0.5
EXCEPTING = 2.0  # what the search for few joins that run again may take


def solve(problem: Problem, effort: float = FULL) -> Assignment | None:
    """Find the best plan by the objectives of the rules; None when it is proven that the demands cannot all be met.

    Where the order of heats follows from their solders, levels find the best plan in which no join runs again and
    prove it. What they leave open, and pieces with shields or other heated work, is found by the model of heats. When
    the effort is used up, the best that was found is given with what is known of its bounds.

    Raises Refused where neither a plan nor a proof was found within the effort.
    """
    if any(not task.options for task in problem.tasks):
        return None
    if not problem.tasks:
        return Assignment((), tuple(ObjectiveValue(name, 0, 0) for name in OBJECTIVES))
    search = _Search(problem, Effort(effort))
    found = _by_levels(search) if can_be_levelled(problem) else _by_heats(search)
    if found is None and not search.impossible:
        raise refuse(
            "undecided",
            "joins",
            len(problem.tasks),
            "a plan, or the proof that there is none, is found within the effort allowed",
            "Fix the grades or the order of some joins, or plan the piece in two halves.",
        )
    return None if found is None else calmed(problem, found)


def _by_heats(search: _Search) -> Assignment | None:
    """Find the best plan by the model of heats; of picked work of many joins, a plan made pick by pick."""
    problem = search.problem
    moved = any(one.kind in ("shares", "apart") for one in problem.standing)
    sketch = by_pick(problem) if problem.reach.cooler_c and not moved else None
    if sketch is None:
        return _without_runs(search)
    sketch = _bounded(sketch, fewest_heats(problem))
    if len(problem.tasks) > SOME_TASKS or search.effort.left <= QUICK:
        return sketch
    return better(problem, _without_runs(search), sketch)  # of equals the one that is proven


def _by_levels(search: _Search) -> Assignment | None:
    problem, effort = search.problem, search.effort
    moved = any(one.kind in ("shares", "apart") for one in problem.standing)
    sketch = None if moved else by_hand(problem)
    at_once = effort.left <= QUICK and len(problem.tasks) > MANY_TASKS
    if sketch is not None and at_once:
        return _bounded(sketch, fewest_heats(problem))
    if at_once or len(problem.tasks) > HUGE_TASKS:
        return _with_exceptions(search, sketch, moved=moved, least=0)
    levels = LevelSearch(problem)
    found = levels.best(effort)
    if found.batches is None:
        return _with_exceptions(search, sketch, moved=moved, least=int(found.none))
    made = measured(problem, levels.planned(found))
    return better(problem, *(_known(problem, one, found.bounds or {}, levels.sums) for one in (made, sketch)))


def _with_exceptions(
    search: _Search, sketch: Assignment | None, *, moved: bool, least: int
) -> Assignment | None:
    """Find a plan in which few joins run again, where some must or where levels found none; `least` must at the least."""
    problem, few = search.problem, len(search.problem.tasks) <= SOME_TASKS
    known, plan = least, sketch
    if not moved and search.tasks > FEW_TASKS:
        short = search.effort.left < EXCEPTING
        effort = Effort(EXCEPTING) if short else search.effort
        found = with_exceptions(problem, effort, EXCEPTING, any_plan=short)
        if found.none:
            search.impossible = True
            return None
        known, plan = max(least, found.runs), better(problem, found.plan, sketch)
    if few or (plan is None and search.tasks <= HUGE_TASKS):
        plan = better(problem, _with_runs(search, least=known), plan)
    return _bounded(plan, fewest_heats(problem), known)


def _known(
    problem: Problem, made: Assignment | None, bounds: dict[str, int], sums: Sums
) -> Assignment | None:
    """Give a plan with the bounds that levels found; of what they left open, with plain ones."""
    if made is None:
        return None
    plain = plain_bounds(problem)
    signs = {
        name: -1 if any(c < 0 for c, _ in terms) else 1 for name, terms in sums.items() if name in OF_SOLDERS
    }
    known = {name: signs.get(name, 1) * bound for name, bound in bounds.items()} | {RUNS: 0}
    read = (replace(one, bound=known.get(one.name, plain[one.name])) for one in made.objectives)
    return replace(made, objectives=tuple(read))


def _bounded(found: Assignment | None, heats: int, runs: int = 0) -> Assignment | None:
    """Give a plan that was not proven the best with better bounds on its heats and on what runs again."""
    if found is None:
        return None
    least = {HEATS: heats, RUNS: runs}
    known = (
        replace(one, bound=min(one.value, max(one.bound, least[one.name]))) if one.name in least else one
        for one in found.objectives
    )
    return replace(found, objectives=tuple(known))


def _objective_value(terms: list[Term], name: str, value: int, bound: int) -> ObjectiveValue:
    """Give an objective as it is read: a sum to be made largest was negated for the solver."""
    sign = -1 if any(coefficient < 0 for coefficient, _ in terms) else 1
    return ObjectiveValue(name, sign * value, sign * bound)


def _without_runs(search: _Search) -> Assignment | None:
    """Find the best plan by the model of heats.

    Few heats are tried first: a model with the fewest heats that can do, in which no join runs again,
    is small, and when it has a solution the first two objectives are proven at once. Only when some join
    must run again is it opened to as many heats as there are tasks.
    """
    problem, effort = search.problem, search.effort
    if len(problem.tasks) > HUGE_TASKS:
        return None  # told as undecided at once: the model alone would take longer to write down
    least = fewest_heats(problem) - 1
    for heats in _spans(problem) if search.settled else _spans(problem)[:2]:
        if heats == len(problem.tasks) and not search.settled:
            break
        first = _calm(search.within(heats, 0), effort)
        if first.values is not None:
            grid = search.within(heats, 0)
            known = {RUNS: 0, HEATS: least + 1} | _calm_bounds(grid, first)
            return _lexicographic(grid, first.values, effort, known)
        least = heats if first.proven else least
    return _with_runs(search, least=0)


def can_be_met(problem: Problem, effort: Effort | None = None) -> bool:
    """Say whether the demands of a problem can all be met."""
    if any(not task.options for task in problem.tasks):
        return False
    tasks, effort = len(problem.tasks), effort or Effort(FULL)
    for heats in dict.fromkeys((few_heats(problem), tasks)) if tasks else ():
        if build_grid(problem, heats).model.feasible(effort).values is not None:
            return True
    return not tasks


def few_heats(problem: Problem) -> int:
    """Give a small number of heats in which most pieces can be made."""
    return min(len(problem.tasks), fewest_heats(problem) + 2)


def _spans(problem: Problem) -> list[int]:
    """Give the numbers of heats to try: the fewest that could do and a little more, then all."""
    tasks = len(problem.tasks)
    least = fewest_heats(problem)
    return sorted({min(tasks, least + more) for more in MORE_HEATS} | {tasks})


def fewest_heats(problem: Problem) -> int:
    """Give a number of heats that no plan can do with fewer of: by the chains of orders, and by room in a heat.

    What is made alone takes a heat each; of the rest, joins on different faces never share, and those on one face
    share up to the widest placing's limit.
    """
    alone = [task for task in problem.tasks if task.alone]
    by_face: dict[str, list[Task]] = {}
    for task in problem.tasks:
        if not task.alone and task.join is not None and task.join.face != "inside":
            by_face.setdefault(task.join.face, []).append(task)
    by_room = sum(
        math.ceil(sum(min(task.places, task.limit) for task in group) / max(task.limit for task in group))
        for group in by_face.values()
    )
    return min(len(problem.tasks), max(longest_chain(problem), len(alone) + by_room))


class _Search:
    """The models of one problem, built once: one of few heats to look in first, one of as many heats as tasks."""

    def __init__(self, problem: Problem, effort: Effort) -> None:
        self.problem, self.effort, self.impossible = problem, effort, False
        self.settled = problem.house.grade_policy == "same-while-held"
        self.tasks = len(problem.tasks)
        self._few = min(self.tasks, fewest_heats(problem) + MORE_HEATS[-1])
        self._grids: dict[int, tuple[Grid, Bound]] = {}

    def within(self, heats: int, runs: int) -> Grid:
        """Give the model that has at most so many heats, and at most so many joins that run again."""
        grid, bound = self._built(self._few if heats <= self._few else self.tasks)
        grid.close_after(heats)
        grid.model.rebound(bound, runs)
        return grid

    def few(self) -> Grid:
        """Give the model with a few heats more than the fewest, and any number of joins that run again."""
        return self.within(self._few, self.tasks**2)

    def whole(self) -> Grid:
        """Give the model with as many heats as tasks and any number of joins that run again."""
        return self.within(self.tasks, self.tasks**2)

    def _built(self, heats: int) -> tuple[Grid, Bound]:
        if heats not in self._grids:
            grid = build_grid(self.problem, heats)
            self._grids[heats] = grid, grid.model.at_most(objectives_of(grid)[RUNS], 0)
        return self._grids[heats]


def _calm(grid: Grid, effort: Effort) -> Answer:
    """Find the plan in which fewest joins are soft while loaded, then protected, whatever its solders."""
    terms = weighted_sum([objectives_of(grid)[name] for name in DISTURBING])
    return grid.model.minimise(terms, effort, presolve=_is_large(grid))


def _is_large(grid: Grid) -> bool:
    """Say whether presolving a model pays: for few tasks it costs more than it saves (benchmarks/planning.py)."""
    return len(grid.tasks) > FEW_TASKS


def _with_runs(search: _Search, least: int) -> Assignment | None:
    """Solve where some held join must run again: as few of those as can be, `least` at the least; then as few heats."""
    effort, many = search.effort, len(search.problem.tasks) > MANY_TASKS
    wide = search.few() if many else search.whole()
    counted = objectives_of(wide)[RUNS]
    fewest = wide.model.minimise(counted, effort)
    if fewest.values is None:
        search.impossible = (search.whole().model.feasible(effort) if many else fewest).impossible
        return None
    runs = value_of(counted, fewest.values)
    if search.tasks <= FEW_TASKS:
        whole = search.within(search.tasks, runs)
        return _lexicographic(whole, fewest.values, effort, {RUNS: fewest.bound})
    proven = fewest.bound if not many else 0
    bound = runs if fewest.proven and not many else min(runs, max(least, proven))
    most = fewest_heats(search.problem) - 1
    for heats in _spans(search.problem):
        first = _calm(search.within(heats, runs), effort)
        if first.values is not None:
            grid = search.within(heats, runs)
            known = {RUNS: bound, HEATS: most + 1} | _calm_bounds(grid, first)
            return _lexicographic(grid, first.values, effort, known)
        most = heats if first.proven else most
    return None


def _calm_bounds(grid: Grid, first: Answer) -> dict[str, int]:
    """Give what the plan that disturbs least proves of all plans of as many heats."""
    if not first.proven or first.values is None:
        return {}
    sums = objectives_of(grid)
    return {name: value_of(sums[name], first.values) for name in DISTURBING}


def _lexicographic(grid: Grid, values: tuple[int, ...], effort: Effort, known: dict[str, int]) -> Assignment:
    """Make each objective of a solution its best in turn, keeping those before it; some bounds may be `known` already."""
    sums = objectives_of(grid)
    bounds = {ROUNDS: longest_chain(grid.problem)} | known
    for group in GROUPS:
        if any(value_of(sums[name], values) != bounds.get(name, _FLOOR.get(name)) for name in group):
            values = _together(grid, [sums[name] for name in group], values, effort, bounds, group)
        for name in group:
            grid.model.at_most(sums[name], value_of(sums[name], values))
    tie = [(t - len(grid.tasks), done) for t in range(len(grid.tasks)) for done in grid.done[t]]
    values = grid.model.minimise(tie, effort, values, presolve=_is_large(grid)).values or values
    heats, reached = _read_heats(grid, values), []
    for name, terms in sums.items():
        value = max(one.round for one in heats) if name == ROUNDS else value_of(terms, values)
        one = _objective_value(terms, name, value, bounds.get(name, value))
        sound = one.proven or name not in OF_SOLDERS
        reached.append(one if sound else replace(one, bound=plain_bounds(grid.problem)[name]))
    return Assignment(heats, tuple(reached))


def _together(
    grid: Grid,
    sums: list[list[Term]],
    values: tuple[int, ...],
    effort: Effort,
    bounds: dict[str, int],
    group: tuple[str, ...],
) -> tuple[int, ...]:
    """Solve a few objectives as one weighted sum, each outweighing all after it; singly where that is not proven."""
    if math.prod(span_of(terms) for terms in sums) < _HEAVIEST:
        answer = grid.model.minimise(weighted_sum(sums), effort, values, presolve=_is_large(grid))
        if answer.proven and answer.values is not None:
            values = answer.values
            bounds.update({name: value_of(terms, values) for name, terms in zip(group, sums, strict=True)})
            return values
    for name, terms in zip(group, sums, strict=True):
        answer = grid.model.minimise(terms, effort, values)
        values = answer.values or values
        bounds[name] = value_of(terms, values) if answer.proven else answer.bound
        grid.model.at_most(terms, value_of(terms, values))
    return values


_FLOOR = dict.fromkeys((RUNS, SOFT, PROTECTED, NEAR), 0)
_HEAVIEST = 2**40


def _read_heats(grid: Grid, values: tuple[int, ...]) -> tuple[PlannedHeat, ...]:
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
        heats.append(PlannedHeat(inside, filler, lie, guarded))
    return in_rounds(grid.problem, heats)

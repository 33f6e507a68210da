"""The exact optimisation: which heat each task takes, and with which solder.

The seven objectives of the rules are made best one after another, each kept at its best before the next.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..piece import FORMING_WORK, Join, base_id
from ..rules import Filler, Lie
from ._demands import Problem, Task, closure
from ._grid import Grid, build_grid
from ._model import Answer, Term

OBJECTIVES = (
    "joins-run-again",
    "heats",
    "soft-while-loaded",
    "protected",
    "flow-of-chosen",
    "flow-of-rest",
    "solders",
)


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
    least = _fewest_heats(problem) - 1
    for heats in _spans(problem) if settled else _spans(problem)[:2]:
        grid = build_grid(problem, heats)
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
    return (
        not problem.tasks or build_grid(problem, len(problem.tasks)).model.feasible(effort).values is not None
    )


def _spans(problem: Problem) -> list[int]:
    """Give the numbers of heats to try: the fewest that could do and a little more, then all."""
    tasks = len(problem.tasks)
    least = _fewest_heats(problem)
    return sorted({min(tasks, least + more) for more in (0, 1, 2, 3, 5)} | {tasks})


def _fewest_heats(problem: Problem) -> int:
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
    return min(len(problem.tasks), max(_longest_chain(problem), len(alone) + by_room))


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
    whole = build_grid(problem, len(problem.tasks))
    counted = _objectives(whole)[OBJECTIVES[0]]
    fewest = whole.model.minimise(counted, effort)
    if fewest.values is None:
        return None
    runs = _value(counted, fewest.values)
    least = _fewest_heats(problem) - 1
    for heats in _spans(problem):
        grid = build_grid(problem, heats)
        grid.model.at_most(_objectives(grid)[OBJECTIVES[0]], runs)
        first = grid.model.feasible(effort)
        if first.values is not None:
            bound = runs if fewest.proven else fewest.bound
            return _lexicographic(grid, first, effort, {OBJECTIVES[0]: bound, OBJECTIVES[1]: least + 1})
        least = heats if first.proven else least
    return None


def _objectives(grid: Grid) -> dict[str, list[Term]]:
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


def _lexicographic(grid: Grid, first: Answer, effort: float, known: dict[str, int]) -> Assignment:
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
    grid: Grid,
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
    grid: Grid, values: tuple[int, ...]
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

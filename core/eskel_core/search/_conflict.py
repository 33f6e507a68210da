"""Find an irreducible set of demands that cannot all be met."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import partial
from itertools import groupby
from typing import TypeVar

from ..demands import Demand, Problem, nearest_first
from ..solver import Effort
from ._build import build_open_grid
from ._exceptions import is_impossible
from ._grid import Grid
from ._solve import MANY_TASKS, can_be_met, few_heats

T = TypeVar("T")
# Facts of nature are let go first, so that the smith's own demands are named where either would do.
_FIRST_LET_GO = {
    "melt": 0,
    "suits": 1,
    "family": 2,
    "hold": 3,
    "hands": 3,
    "tender": 4,
    "fixed": 5,
    "stock": 6,
    "order": 7,
    "shares": 8,
    "apart": 8,
}


SOLDER_KINDS = frozenset({"suits", "family", "fixed", "stock"})


def find_conflict(problem: Problem, effort: Effort) -> tuple[Demand, ...]:
    """Give demands of which letting any single one go makes the rest possible.

    First a few tasks are found that cannot be planned even by themselves, which makes the models small; then the
    demands on them are let go one sort after another; and what is left is held against the whole piece once more.
    """
    large = len(problem.tasks) > MANY_TASKS and is_impossible(problem, effort)
    few = problem.among(_few_by_levels(problem, effort) if large else _few_tasks(problem, effort))
    needed = _irreducible(few, [one for one in problem.standing if one.kind not in SOLDER_KINDS], effort)
    needed += [one for one in problem.standing if one.kind in SOLDER_KINDS]
    needed = _irreducible(_with_only(few, needed), needed, effort)
    rest = _with_only(problem, needed)
    if large:
        needed = _sort_by_sort(needed, partial(_impossible_with, rest, effort))
    elif not _each_is_needed(problem, rest, needed, effort):
        needed = _irreducible(rest, needed, effort)
    return tuple(sorted(needed, key=problem.demands.index))


def _impossible_with(problem: Problem, effort: Effort, kept: list[Demand]) -> frozenset[Demand] | None:
    """Say by levels whether some demands cannot all be kept."""
    return frozenset(kept) if is_impossible(_with_only(problem, kept), effort) else None


def _few_by_levels(problem: Problem, effort: Effort) -> frozenset[str]:
    """Give tasks of a large piece that levels prove to be impossible by themselves, none of which could be left out."""

    def blamed(kept: list[str]) -> frozenset[str] | None:
        return frozenset(kept) if is_impossible(problem.among(frozenset(kept)), effort) else None

    return frozenset(_shrink(_side_by_side(problem), [], blamed))


def _side_by_side(problem: Problem) -> list[str]:
    """Give the tasks so that those that touch come near each other: what is left out at once then hangs together."""
    at: dict[str, list[str]] = {}
    for task in problem.tasks:
        for node in task.seeds:
            at.setdefault(node, []).append(task.id)
    near = {task.id: [(o, None) for node in sorted(task.seeds) for o in at[node]] for task in problem.tasks}
    told: dict[str, None] = {}
    for task in problem.tasks:
        if task.id not in told:
            told |= dict.fromkeys([task.id, *(o for o, _, _ in nearest_first([task.id], near.__getitem__))])
    return list(told)


def _each_is_needed(problem: Problem, rest: Problem, needed: list[Demand], effort: Effort) -> bool:
    """Say whether letting any one go makes the whole piece possible, not only the few tasks first looked at.

    A model of few heats, in which only the joins spoken of may take other solders, is asked first: its yes holds.
    """
    spoken_of = frozenset(name for one in needed for name in one.ids)
    by_solder = [one for one in problem.standing if one.kind in SOLDER_KINDS]
    small = _with_only(problem, [*needed, *by_solder])
    grid = build_open_grid(small, needed, heats=few_heats(small), widened=spoken_of)
    ask = partial(_blamed, grid, grid.standing, effort)
    return all(
        ask([other for other in needed if other is not one]) is None
        or can_be_met(rest.without(rest.dropped | {one}), effort)
        for one in needed
    )


def _with_only(problem: Problem, demands: Iterable[Demand]) -> Problem:
    return problem.without(frozenset(problem.demands) - frozenset(demands))


def _few_tasks(problem: Problem, effort: Effort) -> frozenset[str]:
    """Give tasks that cannot be planned by themselves, none of which could be left out."""
    for task in problem.tasks:
        if not task.options:
            return frozenset({task.id})
    return _blamed_tasks(problem, [task.id for task in problem.tasks], effort)


def _blamed_tasks(problem: Problem, names: Sequence[str], effort: Effort) -> frozenset[str]:
    """Leave tasks out as long as the rest cannot be planned, with a smaller model each time that some went."""
    grid = build_open_grid(problem.among(frozenset(names)), (), tasks_too=True)
    ask = partial(_blamed, grid, grid.present, effort)
    for rest in (list(names), *_without_some(list(names))):
        few = ask(rest)
        if few is not None and len(few) < len(names):
            return _blamed_tasks(problem, [one for one in rest if one in few], effort)
    return frozenset(names)


def _without_some(names: list[T]) -> Iterator[list[T]]:
    """Give a list without one half of it or the other, then without each quarter, and so on down to each single one."""
    size = len(names) // 2
    while size:
        yield from (names[:start] + names[start + size :] for start in range(0, len(names), size))
        size //= 2


def _irreducible(problem: Problem, demands: Sequence[Demand], effort: Effort) -> list[Demand]:
    """Let demands go, sort by sort, as long as the rest cannot be met."""
    grid = build_open_grid(problem, demands)
    return _sort_by_sort(demands, partial(_blamed, grid, grid.standing, effort))


def _sort_by_sort(
    demands: Sequence[Demand], blamed: Callable[[list[Demand]], frozenset[Demand] | None]
) -> list[Demand]:
    left = sorted(demands, key=lambda one: (*_sort_of(one), one.ids))
    needed: list[Demand] = []
    for _, group in groupby(tuple(left), _sort_of):
        sort = list(group)
        left = left[len(sort) :]
        needed += _shrink(sort, [*needed, *left], blamed)
    return needed


def _blamed(grid: Grid, literals: Mapping[T, int], effort: Effort, kept: list[T]) -> frozenset[T] | None:
    """Ask whether some can all be kept; None if so, else those of them that the solver blames."""
    answer = grid.model.feasible(effort, [literals[one] for one in kept])
    return frozenset(one for one in kept if literals[one] in answer.blamed) if answer.impossible else None


def _sort_of(demand: Demand) -> tuple[int, str]:
    return _FIRST_LET_GO[demand.kind], demand.code


def _shrink(sort: list[T], rest: list[T], blamed: Callable[[list[T]], frozenset[T] | None]) -> list[T]:
    """Let things of one sort go as long as what is left, with the rest, still fails; none that remains could go.

    Half as many are tried after each that could not go, twice as many after some that could.
    """
    size = max(1, len(sort))
    start = 0
    while start < len(sort):
        few = blamed([*sort[:start], *sort[start + size :], *rest])
        if few is None:
            start += size if size == 1 else 0
            size = max(1, size // 2)
        else:
            sort = [*sort[:start], *(one for one in sort[start + size :] if one in few)]
            size *= 2
    return sort

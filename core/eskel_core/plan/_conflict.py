"""Find an irreducible set of demands that cannot all be met."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from ._demands import Demand, Problem
from ._solve import can_be_met

T = TypeVar("T")
# Facts of nature are let go first, so that the smith's own demands are named where either would do.
_FIRST_LET_GO = {
    "melt": 0,
    "suits": 1,
    "family": 2,
    "hold": 3,
    "tender": 4,
    "fixed": 5,
    "stock": 6,
    "order": 7,
}


def find_conflict(problem: Problem) -> tuple[Demand, ...]:
    """Give demands of which letting any single one go makes the rest possible.

    First the tasks are narrowed down to a few that cannot be planned even by themselves, which makes the
    models small; then their demands; and what is left is held against the whole piece once more.
    """
    tasks = [task.id for task in problem.tasks]
    few = problem.among(frozenset(_shrink(tasks, lambda kept: _impossible(problem.among(frozenset(kept))))))
    standing = set(problem.demands) - problem.dropped
    demands = sorted(standing, key=lambda one: (_FIRST_LET_GO[one.kind], one.code, one.ids))
    demands = _shrink(demands, lambda kept: _impossible(_with_only(few, kept)))
    demands = _shrink(demands, lambda kept: _impossible(_with_only(problem, kept)))
    return tuple(sorted(demands, key=problem.demands.index))


def _impossible(problem: Problem) -> bool:
    return not can_be_met(problem)


def _with_only(problem: Problem, demands: list[Demand]) -> Problem:
    return problem.without(frozenset(problem.demands) - set(demands))


def _shrink(kept: list[T], still: Callable[[list[T]], bool]) -> list[T]:
    """Let things go, in shrinking groups, as long as what is left is still so; none that remains could go."""
    size = max(1, len(kept) // 2)
    while True:
        start = 0
        while start < len(kept):
            rest = kept[:start] + kept[start + size :]
            if still(rest):
                kept = rest
            else:
                start += size
        if size == 1:
            return kept
        size = max(1, size // 2)

"""Find an irreducible set of demands that cannot all be met."""

from __future__ import annotations

from ._demands import Demand, Problem
from ._solve import can_be_met

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

    Demands are let go in shrinking groups as long as the rest stays impossible; what remains cannot
    be made smaller. Facts of nature are let go first, so that the smith's own demands are named.
    """
    kept = sorted(
        set(problem.demands) - problem.dropped, key=lambda one: (_FIRST_LET_GO[one.kind], one.code, one.ids)
    )
    size = max(1, len(kept) // 4)
    while True:
        kept = _let_go(problem, kept, size)
        if size == 1:
            return tuple(sorted(kept, key=problem.demands.index))
        size = max(1, size // 2)


def _let_go(problem: Problem, kept: list[Demand], size: int) -> list[Demand]:
    """Let groups of a size go where the rest stays impossible."""
    start = 0
    while start < len(kept):
        rest = kept[:start] + kept[start + size :]
        if can_be_met(problem.without(frozenset(problem.demands) - set(rest))):
            start += size
        else:
            kept = rest
    return kept

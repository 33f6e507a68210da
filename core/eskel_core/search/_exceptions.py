"""Levels with exceptions: a plan in which as few held joins run again as can be, where some must.

What does not run again is made as the levels say, one heat for each level in a body. An exception is made before what
shares its level in its body, in the heats that there is room for.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..demands import Problem
from ..solver import Effort, Relaxed, Term
from ._assignment import Assignment
from ._build_levels import build_with_exceptions
from ._by_hand import better
from ._excepted import Made
from ._levels import can_be_levelled
from ._measured import gone_through
from ._objectives import value_of

TRIES = 60
# What a search for fewer exceptions may take of what is left: its solution may have to be cut off.
SHARE = 0.5
AT_FIRST = 0.25  # and the search for the first solution, at first
MOST_OF_PROOF = 0.5


@dataclass(frozen=True)
class Excepted:
    """What the levels with exceptions gave: a plan, or none; and how many joins run again in any plan at the least.

    `none`: it is proven that there is no plan.
    """

    plan: Assignment | None
    runs: int
    none: bool = False


def with_exceptions(problem: Problem, effort: Effort, most: float, *, any_plan: bool = False) -> Excepted:
    """Find a plan in which few joins run again, with at most so much of the effort; say what no plan can beat.

    First any plan (which is enough if `any_plan`), then fewer exceptions. A solution whose heats wait for each other in a
    circle, or ask more of a heat than it has room for, is cut off, and so is one in which a join runs where nothing holds it:
    after that, or a cut that is a guess, no more is claimed of the bound.
    """
    levels = build_with_exceptions(problem)
    terms: list[Term] = [(1, one) for one in levels.again.values()]
    ends, runs, fewest, sound = effort.left - most, 0, 0, True
    relaxed: Relaxed = 0
    first = AT_FIRST
    best: Assignment | None = None
    hint: tuple[int, ...] | None = None
    for _ in range(TRIES):
        left = max(0.0, effort.left - ends)
        allowed = left * SHARE if best else min(left, first)
        answer = levels.model.minimise(terms, effort, hint, most=allowed, relaxed=relaxed)
        if answer.values is None and best is None and not answer.proven and allowed < left:
            first *= 2
            continue
        if answer.values is None:
            closed = answer.proven and sound
            return Excepted(best, fewest if closed else runs, closed and best is None)
        hint = answer.values
        runs = max(runs, answer.bound) if sound else runs
        made = Made(levels, answer.values)
        cut = made.cut()
        sound = sound and cut != "guessed"
        if cut:
            continue
        found = gone_through(problem, made.heats())
        if isinstance(found, str):
            levels.model.clause(*made.otherwise(found))
            sound = False
            continue
        relaxed = 2
        best, fewest = better(problem, best, found), value_of(terms, answer.values)
        if any_plan:
            break
        levels.model.at_most(terms, fewest - 1)
    return Excepted(best, runs)


def is_impossible(problem: Problem, effort: Effort) -> bool:
    """Say whether it is proven by levels that there is no plan; of what cannot be levelled it is not."""
    if any(not task.options for task in problem.tasks):
        return True
    if not problem.tasks or not can_be_levelled(problem):
        return False
    return build_with_exceptions(problem).model.minimise((), effort, most=MOST_OF_PROOF, relaxed=0).impossible

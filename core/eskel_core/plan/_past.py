"""What is made already, cut off a plan that was solved whole: the heats that it took are over, and cost nothing any more.

The solver puts every heat of what is made before all that is to come (`demands`), so that they are the first of its heats, and
the sums of the rest are those of the whole less theirs.
"""

from __future__ import annotations

from dataclasses import replace

from ..demands import Problem
from ..rules import Course
from ..search import SOLDERS, Assignment, ObjectiveValue, measured


def without_past(course: Course) -> Course:
    """Give a course without the heats of what is made already; its joins are of heat 0, what was to come after them comes first."""
    made = {join.id for join in course.piece.joins if join.made}
    over = [heat for heat in course.heats if made & set(heat.joins)]
    if not over:
        return course
    heats, rounds = len(over), max(heat.round for heat in over)
    return replace(
        course,
        heats=tuple(
            replace(heat, number=heat.number - heats, round=heat.round - rounds)
            for heat in course.heats
            if heat.number > heats
        ),
        made_in={name: max(0, number - heats) for name, number in course.made_in.items()},
        slots={name: max(0, slot - heats) for name, slot in course.slots.items()},
    )


def left_of(problem: Problem, found: Assignment) -> tuple[ObjectiveValue, ...]:
    """Give the objectives of what is to come. Of the solders all count that the piece has in the end."""
    over = tuple(heat for heat in found.heats if problem.made & set(heat.tasks))
    past = measured(problem, over) if over else None
    if past is None:
        return found.objectives
    return tuple(
        one
        if one.name == SOLDERS
        else replace(one, value=one.value - gone.value, bound=max(0.0, one.bound - gone.value))
        for one, gone in zip(found.objectives, past.objectives, strict=True)
    )

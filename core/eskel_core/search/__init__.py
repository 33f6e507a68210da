"""The exact search: which joins share a heat, in what order, with which solder, proven best by the order of preference.

Concepts: *demands* (what a plan must keep) make a *problem* of a piece; an *assignment* is the answer, its heats and how good
it is. Two models find it. Where no join has to run again, *levels*: one for each solder, whose solutions fall into *batches*
that are shared out among heats; where some must, the same with as few *exceptions* as can be. Else the *grid*: a variable for each join and heat. A quick plan *by hand* stands in where the
effort ends, and *moves* lay the smith's own choices over the piece.
"""

from ._assignment import Assignment, PlannedHeat
from ._conflict import find_conflict
from ._demands import LAST_WORK, apart_by_order, make_problem, tender_last, why_apart
from ._graph import circle, closure
from ._moves import cost_in_words, is_as_good, moved_joins, without_moves
from ._objectives import ObjectiveValue
from ._problem import LIMIT_OF_PLACING, Demand, Problem
from ._solve import FULL, QUICK, can_be_met, solve

__all__ = [
    "FULL",
    "LAST_WORK",
    "LIMIT_OF_PLACING",
    "QUICK",
    "Assignment",
    "Demand",
    "ObjectiveValue",
    "PlannedHeat",
    "Problem",
    "apart_by_order",
    "can_be_met",
    "circle",
    "closure",
    "cost_in_words",
    "find_conflict",
    "is_as_good",
    "make_problem",
    "moved_joins",
    "solve",
    "tender_last",
    "why_apart",
    "without_moves",
]

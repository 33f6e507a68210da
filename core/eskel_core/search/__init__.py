"""The exact search: which joins share a heat, in what order, with which solder, proven best by the order of preference.

Concepts: an *assignment* is the answer to a problem (`demands`), its heats and how good it is. Two models find it. Where no
join has to run again, *levels*: one for each solder, whose solutions fall into *batches* that are shared out among heats; where
some must, the same with as few *exceptions* as can be. Else the *grid*: a variable for each join and heat. A quick plan *by
hand* stands in where the effort ends.
"""

from ._assignment import Assignment, PlannedHeat
from ._conflict import find_conflict
from ._costs import cost_in_words, is_as_good
from ._measured import measured
from ._objectives import SOLDERS, ObjectiveValue
from ._solve import FULL, QUICK, can_be_met, solve

__all__ = [
    "FULL",
    "QUICK",
    "SOLDERS",
    "Assignment",
    "ObjectiveValue",
    "PlannedHeat",
    "can_be_met",
    "cost_in_words",
    "find_conflict",
    "is_as_good",
    "measured",
    "solve",
]

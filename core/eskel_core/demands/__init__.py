"""What is asked of a plan: by the smith, by the stock, by the metals, by the trade's order of work.

Concepts: a *demand* (a rule's code, the ids that it speaks of, the sentence) is what a conflict is made of: any of them could be
let go. A *task* is what takes a heat, a join or heated work. A *problem* is a piece made ready for the search: its tasks, and
every demand that stands. *Moves* by hand are laid over the piece before it is asked.
"""

from ._demands import LAST_WORK, make_problem, tender_last
from ._graph import Bodies, circle, circle_through, closure, nearest_first, way_back
from ._moves import moved_joins, without_moves
from ._problem import LIMIT_OF_PLACING, Demand, Problem, Task, longest_chain
from ._sharing import apart_by_order, why_apart

__all__ = [
    "LAST_WORK",
    "LIMIT_OF_PLACING",
    "Bodies",
    "Demand",
    "Problem",
    "Task",
    "apart_by_order",
    "circle",
    "circle_through",
    "closure",
    "longest_chain",
    "make_problem",
    "moved_joins",
    "nearest_first",
    "tender_last",
    "way_back",
    "why_apart",
    "without_moves",
]

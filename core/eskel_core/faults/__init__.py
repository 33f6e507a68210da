"""What is wrong with an input, told so that it can be put right.

Concepts: a *fault* (one mistake: a stable code, where, what was given, the rule, the remedy), a *refusal* (the
exception that carries every fault found, never only the first), faults of *shape* (what a type found wrong).
"""

from ._faults import Fault, Refused, refuse
from ._shape import shape_faults

__all__ = ["Fault", "Refused", "refuse", "shape_faults"]

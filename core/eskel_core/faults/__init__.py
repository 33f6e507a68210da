"""What is wrong with an input, told so that it can be put right.

Concepts: a *fault* (one mistake: a stable code, where, what was given, the rule, the remedy), a *refusal* (the
exception that carries every fault found, never only the first), faults of *shape* (what a type found wrong), a *kept format* (its number, and how an older document is brought up to date).
"""

from ._faults import Fault, Refused, refuse
from ._kept import KeptFormat, read_kept
from ._shape import shape_faults

__all__ = ["Fault", "KeptFormat", "Refused", "read_kept", "refuse", "shape_faults"]

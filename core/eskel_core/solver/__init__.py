"""A thin way to the constraint solver, for every exact question: the heats of a plan, the cuts of a bar.

Concepts: a *model* under construction (variables, clauses, linear bounds), an *answer* (values and proof), an *effort* that is spent on solving.
"""

from ._model import OPEN, Answer, Bound, Effort, Model, Relaxed, Term, no

__all__ = ["OPEN", "Answer", "Bound", "Effort", "Model", "Relaxed", "Term", "no"]

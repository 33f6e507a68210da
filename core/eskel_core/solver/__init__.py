"""A thin way to the constraint solver, for every exact question: the heats of a plan, the cuts of a bar.

Concepts: a *model* under construction (variables, clauses, linear bounds), an *answer* (values and proof).
"""

from ._model import Answer, Bound, Model, Term, no

__all__ = ["Answer", "Bound", "Model", "Term", "no"]

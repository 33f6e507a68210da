"""Joins by pointing: which join two parts call for, and why.

Concepts: a *proposal* (the join, a line for each choice why it is so, and what else changes with it: an earlier join that
now encloses a hollow). It is read off the forms, off how the parts lie, and off what the piece has already; everything in
it stands until the smith changes it.
"""

from ._propose import Change, Proposal, propose

__all__ = ["Change", "Proposal", "propose"]

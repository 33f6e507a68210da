"""What is written down of a run: the outcomes that a join can have, in the smith's words."""

from ._outcomes import OUTCOMES, Outcome, OutcomeWord

__all__ = ["OUTCOMES", "Outcome", "OutcomeWord"]

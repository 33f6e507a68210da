"""What is written down of a run: the outcomes that a join can have, in the smith's words; and the outcomes of a log as a table."""

from ._outcome_sheet import LoggedOutcome, outcome_csv, outcome_csv_pieces
from ._outcomes import (
    OUTCOMES,
    SOUND,
    WORDS,
    JoinOutcome,
    Outcome,
    OutcomeWord,
    WordSet,
    WorkOutcome,
    outcome_text,
)

__all__ = [
    "OUTCOMES",
    "SOUND",
    "WORDS",
    "JoinOutcome",
    "LoggedOutcome",
    "Outcome",
    "OutcomeWord",
    "WordSet",
    "WorkOutcome",
    "outcome_csv",
    "outcome_csv_pieces",
    "outcome_text",
]

"""The outcomes of a heat: of each join that it makes, or of the work that it does; each set in the order of its keys."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from pydantic import BaseModel, ConfigDict

JoinOutcome = Literal["flowed", "short", "did-not-flow", "flooded", "moved", "opened-another", "melted"]
WorkOutcome = Literal[
    "soft", "still-hard", "too-hot", "size", "dropped", "out-of-round", "full", "short", "fold", "done"
]
Outcome = JoinOutcome | WorkOutcome
WordSet = Literal["join", "anneal", "ball", "pour", "done"]


class OutcomeWord(BaseModel):
    """An outcome, its words, the key that records it, and whether the join stands."""

    model_config = ConfigDict(frozen=True)

    outcome: Outcome
    words: str
    key: str
    sound: bool


OUTCOMES: tuple[OutcomeWord, ...] = (
    OutcomeWord(outcome="flowed", words="Flowed all along", key="1", sound=True),
    OutcomeWord(outcome="short", words="Short: a gap left", key="2", sound=False),
    OutcomeWord(outcome="did-not-flow", words="Did not flow", key="3", sound=False),
    OutcomeWord(outcome="flooded", words="Flooded", key="4", sound=True),
    OutcomeWord(outcome="moved", words="Moved", key="5", sound=False),
    OutcomeWord(outcome="opened-another", words="Opened another", key="6", sound=False),
    OutcomeWord(outcome="melted", words="Melted", key="7", sound=False),
)
_ANNEAL = (
    OutcomeWord(outcome="soft", words="Soft", key="1", sound=True),
    OutcomeWord(outcome="still-hard", words="Still hard", key="2", sound=False),
    OutcomeWord(outcome="too-hot", words="Too hot", key="3", sound=False),
)
_BALL = (
    OutcomeWord(outcome="size", words="To size", key="1", sound=True),
    OutcomeWord(outcome="dropped", words="Dropped off", key="2", sound=False),
    OutcomeWord(outcome="out-of-round", words="Out of round", key="3", sound=False),
)
_POUR = (
    OutcomeWord(outcome="full", words="The mould is full", key="1", sound=True),
    OutcomeWord(outcome="short", words="Short: it did not fill", key="2", sound=False),
    OutcomeWord(outcome="fold", words="A fold or a skin in it", key="3", sound=False),
)
_DONE = (
    OutcomeWord(outcome="done", words="Done", key="1", sound=True),
    OutcomeWord(outcome="short", words="Not far enough", key="2", sound=False),
    OutcomeWord(outcome="too-hot", words="Too hot", key="3", sound=False),
)
WORDS: dict[WordSet, tuple[OutcomeWord, ...]] = {
    "join": OUTCOMES,
    "anneal": _ANNEAL,
    "ball": _BALL,
    "pour": _POUR,
    "done": _DONE,
}
"""The words of each kind of heat; the first of a set is the good one."""
SOUND: dict[str, bool] = {word.outcome: word.sound for words in WORDS.values() for word in words}
"""Whether what a heat did stands, by its outcome."""


def outcome_text(words: Iterable[str], *, wire: str, sheet: str, outcome: str, later_try: bool) -> str:
    """Give all that an outcome is of in words, in small letters, for it to be found by any: what is so thick, how it came out.

    >>> outcome_text(["Reed brooch", "overlay", "medium"], wire="thin", sheet="", outcome="flowed", later_try=False)
    'reed brooch; overlay; medium; thin wire; flowed all along; went well'
    """
    word = next(one for words in WORDS.values() for one in words if one.outcome == outcome)
    told = [
        *words,
        f"{wire} wire" if wire else "",
        f"{sheet} sheet" if sheet else "",
        "again, later try" if later_try else "",
        word.words,
        "went well" if word.sound else "went wrong",
    ]
    return "; ".join(one for one in told if one).lower()

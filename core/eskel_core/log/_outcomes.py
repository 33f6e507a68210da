"""The outcomes of a join in a heat, in the order of the keys that record them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from pydantic import BaseModel, ConfigDict

Outcome = Literal["flowed", "short", "did-not-flow", "flooded", "moved", "opened-another", "melted"]


class OutcomeWord(BaseModel):
    """An outcome, its words, the key that records it, and whether the join stands."""

    model_config = ConfigDict(frozen=True)

    outcome: Outcome
    words: str
    key: str
    sound: bool


OUTCOMES: tuple[OutcomeWord, ...] = (
    OutcomeWord(outcome="flowed", words="Flowed all along", key="space", sound=True),
    OutcomeWord(outcome="short", words="Short: a gap left", key="2", sound=False),
    OutcomeWord(outcome="did-not-flow", words="Did not flow", key="3", sound=False),
    OutcomeWord(outcome="flooded", words="Flooded", key="4", sound=True),
    OutcomeWord(outcome="moved", words="Moved", key="5", sound=False),
    OutcomeWord(outcome="opened-another", words="Opened another", key="6", sound=False),
    OutcomeWord(outcome="melted", words="Melted", key="7", sound=False),
)
SOUND: dict[str, bool] = {word.outcome: word.sound for word in OUTCOMES}
"""Whether a join stands, by its outcome."""


def outcome_text(words: Iterable[str], *, wire: str, sheet: str, outcome: str, later_try: bool) -> str:
    """Give all that an outcome is of in words, in small letters, for it to be found by any: what is so thick, how it came out.

    >>> outcome_text(["Reed brooch", "overlay", "medium"], wire="thin", sheet="", outcome="flowed", later_try=False)
    'reed brooch; overlay; medium; thin wire; flowed all along; went well'
    """
    word = next(one for one in OUTCOMES if one.outcome == outcome)
    told = [
        *words,
        f"{wire} wire" if wire else "",
        f"{sheet} sheet" if sheet else "",
        "again, later try" if later_try else "",
        word.words,
        "went well" if word.sound else "went wrong",
    ]
    return "; ".join(one for one in told if one).lower()

"""The outcomes of a join in a heat, in the order of the keys that record them."""

from __future__ import annotations

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

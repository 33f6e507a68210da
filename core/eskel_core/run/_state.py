"""What a run looks like: its turns, where it stands, and what was set aside because it no longer fitted. Times in ms, the server's clock."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..log import Outcome
from ._events import Measured, Way

Standing = Literal["going", "finished", "stopped"]
WhyAside = Literal["over", "elsewhere", "not-there", "unconfirmed", "open", "unlit", "first", "beyond"]


class _State(BaseModel):
    model_config = ConfigDict(frozen=True)


class Stay(_State):
    """One stay at a turn; `back` where it was left by going back."""

    entered_ms: int
    left_ms: int | None = None
    back: bool = False


class SignAt(_State):
    """A sign that was seen: 0 that the flame is lit, else that of so many stages."""

    stage: int
    at_ms: int
    event: str


class JoinWord(_State):
    """The word that stands on a join, or on the work of a heat without joins; `copies` are those that it is of, none: all."""

    join: str
    outcome: Outcome
    at_ms: int
    event: str
    copies: tuple[int, ...] = ()


class OpenedJoin(_State):
    """A join made before that opened in a heat, in some copies (none: in all)."""

    join: str
    at_ms: int
    event: str
    copies: tuple[int, ...] = ()


class Loss(_State):
    """So many of a part that were lost at a step."""

    part: str
    many: int
    at_ms: int
    event: str


class Note(_State):
    """A note as it stands."""

    event: str
    text: str
    at_ms: int


class Measure(_State):
    """What was measured."""

    what: Measured
    value: float
    at_ms: int
    event: str


class Look(_State):
    """A look, by its number from 1, and whether it passed."""

    check: int
    passes: bool
    at_ms: int
    event: str


class Turn(_State):
    """A step in its place in the run: the plan's `step`, its `again`th try, and all that came of it.

    `ways` and `joins` are what is done otherwise in a try, and for which joins; empty in the first. `off` is the event by which the flame
    was off at `off_ms`.
    """

    id: str
    step: int
    again: int = 1
    ways: tuple[Way, ...] = ()
    joins: tuple[str, ...] = ()
    stays: tuple[Stay, ...] = ()
    skipped: bool = False
    confirmed: bool = False
    signs: tuple[SignAt, ...] = ()
    off_ms: int | None = None
    off: str | None = None
    outcomes: tuple[JoinWord, ...] = ()
    opened: tuple[OpenedJoin, ...] = ()
    losses: tuple[Loss, ...] = ()
    notes: tuple[Note, ...] = ()
    tally: int = 0
    lost: int = 0
    measures: tuple[Measure, ...] = ()
    looks: tuple[Look, ...] = ()
    due_low_ms: int | None = None
    due_high_ms: int | None = None


class Aside(_State):
    """An event that counts for nothing, and why; `other` where it was another device that had acted before it."""

    event: str
    why: WhyAside
    other: bool = False


class RunState(_State):
    """A run as its events have it."""

    standing: Standing
    at: str
    turns: tuple[Turn, ...]
    began_ms: int
    ended_ms: int | None = None
    aside: tuple[Aside, ...] = ()

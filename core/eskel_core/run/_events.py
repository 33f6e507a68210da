"""What happens in a run, as the device that saw it wrote it down: never changed, each with an id of its own.

Times are milliseconds since 1970 by the device's clock; `ahead_ms` is how far that lagged behind the server's when last they spoke.
A `turn` is a step of the plan in its place in the run: "12", or "12.2" for its second try.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, Strict, TypeAdapter

from ..log import Outcome

Id = Annotated[str, Field(min_length=8, max_length=64, pattern=r"^[0-9A-Za-z-]+$")]
# Numbers and yes or no are taken as they are told: "5" and 5.0 are no whole numbers, and 1 is not yes.
Whole = Annotated[int, Strict()]
YesNo = Annotated[bool, Strict()]
TurnId = Annotated[str, Field(max_length=16, pattern=r"^[1-9][0-9]{0,4}(\.[1-9][0-9]{0,3})?$")]
Way = Literal[
    "flux-and-solder",
    "heavy-side",
    "another-tip",
    "another-torch",
    "pickle-first",
    "apart",
    "replace-part",
    "close-gap",
    "softer",
    "close-again",
    "again",
    "melt-again",
    "cut-anew",
    "size-again",
    "as-it-is",
    "rest",
]
Measured = Literal["size_mm", "length_mm", "ball_mm", "mass_g"]
MOST_TEXT = 20_000
_LATEST_MS = 4_102_444_800_000


class _Event(BaseModel):
    """An event; `seq` is its number among those of its device, from 1."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: Id
    device: Id
    seq: Whole = Field(ge=1, le=10_000_000)
    at_ms: Whole = Field(ge=0, le=_LATEST_MS)
    ahead_ms: Whole = Field(default=0, ge=-_LATEST_MS, le=_LATEST_MS)


class _AtTurn(_Event):
    turn: TurnId


class Next(_AtTurn):
    """On to the next turn; a danger was read and `confirmed`, or the step was `skipped`."""

    kind: Literal["next"] = "next"
    confirmed: YesNo = False
    skipped: YesNo = False


class Back(_AtTurn):
    """Back to the turn before."""

    kind: Literal["back"] = "back"


class Lit(_AtTurn):
    """The flame is on: the clock of a heat begins."""

    kind: Literal["lit"] = "lit"


class SignSeen(_AtTurn):
    """The sign of a stage, from 1, is seen."""

    kind: Literal["sign"] = "sign"
    stage: Whole = Field(ge=1, le=100)


class FlameOff(_AtTurn):
    """The flame is off."""

    kind: Literal["off"] = "off"


Copies = Annotated[tuple[Annotated[int, Strict(), Field(ge=1, le=100_000)], ...], Field(max_length=5000)]


class JoinCame(_AtTurn):
    """How a join came out, or the work of a heat without joins; a later word on it counts for the earlier one.

    `copies` are those of all that are alike of which it is said, by their numbers from 1; none: of all.
    """

    kind: Literal["outcome"] = "outcome"
    join: str = Field(max_length=60)
    outcome: Outcome
    copies: Copies = ()


class Opened(_AtTurn):
    """A join that was made before opened in this heat, in some of its `copies` (none: in all)."""

    kind: Literal["opened"] = "opened"
    join: str = Field(max_length=60)
    copies: Copies = ()


class Lost(_AtTurn):
    """So many of a part were lost here."""

    kind: Literal["lost"] = "lost"
    part: str = Field(max_length=60)
    many: Whole = Field(ge=1, le=100_000)


class Undone(_Event):
    """An event is taken back."""

    kind: Literal["undo"] = "undo"
    of: Id


class Noted(_AtTurn):
    """A note is written, in place of an earlier one where it `replaces` that."""

    kind: Literal["note"] = "note"
    text: str = Field(max_length=MOST_TEXT)
    replaces: Id | None = None


class Tallied(_AtTurn):
    """So many of what is alike are done, so many lost."""

    kind: Literal["tally"] = "tally"
    done: Whole = Field(ge=0, le=100_000)
    lost: Whole = Field(default=0, ge=0, le=100_000)


class Sized(_AtTurn):
    """Something was measured."""

    kind: Literal["measure"] = "measure"
    what: Measured
    value: float = Field(gt=0, le=1e6, allow_inf_nan=False, strict=True)


class Inspected(_AtTurn):
    """A look at the work, by its number from 1, passes or does not."""

    kind: Literal["look"] = "look"
    check: Whole = Field(ge=1, le=1000)
    passes: YesNo


class Again(_AtTurn):
    """The heat of this turn, or the heat `of` a turn that a look sends back to, is done again in some `ways`.

    `steps` are the steps that are put in, by their numbers in the sheet; without them those of the plan.
    """

    kind: Literal["again"] = "again"
    of: TurnId | None = None
    ways: tuple[Way, ...] = Field(default=(), max_length=7)
    joins: tuple[Annotated[str, Field(max_length=60)], ...] = Field(default=(), max_length=200)
    steps: tuple[Annotated[int, Strict(), Field(ge=1, le=100_000)], ...] = Field(default=(), max_length=50)


class Stopped(_AtTurn):
    """The run is stopped before its end."""

    kind: Literal["stop"] = "stop"


Event = Annotated[
    Next
    | Back
    | Lit
    | SignSeen
    | FlameOff
    | JoinCame
    | Opened
    | Lost
    | Undone
    | Noted
    | Tallied
    | Sized
    | Inspected
    | Again
    | Stopped,
    Field(discriminator="kind"),
]
_EVENT: TypeAdapter[Event] = TypeAdapter(Event)


def read_event(plain: Any) -> Event:
    """Read an event. Raises pydantic's ValidationError, which names the key and the value."""
    return _EVENT.validate_python(plain)

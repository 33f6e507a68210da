"""A run as a file (`eskel-run/1`), to be taken out of one log and into another: the piece and the plan as they were, and all that happened."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..faults import KeptFormat, read_kept, refuse
from ..piece import piece_from_object
from ..plan import Step, read_plan
from ._events import Event
from ._faces import faces_of
from ._fold import run_state

KEPT = KeptFormat("a run", "eskel-run", 1)
MOST_EVENTS = 20_000


class RunFile(BaseModel):
    """A run: what its piece was called, its piece file and its plan, when it began, ms since 1970, the steps that were put in
    where something went wrong, and its events.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    format: Literal["eskel-run/1"] = "eskel-run/1"
    piece_name: Annotated[str, Field(min_length=1, max_length=120)]
    document: dict[str, Any]
    plan: dict[str, Any]
    began_ms: Annotated[int, Field(ge=0)]
    put_in: Annotated[tuple[Step, ...], Field(max_length=5_000)] = ()
    events: Annotated[tuple[Event, ...], Field(max_length=MOST_EVENTS)] = ()


def read_run_file(plain: Any, now_ms: int) -> RunFile:
    """Read a run from a file; raise `Refused` with what is wrong: in its shape, its piece, its plan, in events that cannot all be of
    one run, or that are still to come by `now_ms`.
    """
    told = read_kept(KEPT, RunFile, plain)
    piece_from_object(told.document)
    plan = read_plan(told.plan)
    if not plan.steps:
        raise refuse(
            "contradiction",
            "plan.steps",
            [],
            "a run follows a plan with steps",
            "Take out a run that was begun.",
        )
    ids = [event.id for event in told.events]
    if len(set(ids)) < len(ids):
        twice = next(one for one in ids if ids.count(one) > 1)
        raise refuse("contradiction", "events", twice, "each event is told once", "Leave out the second.")
    latest = max((event.at_ms + event.ahead_ms for event in told.events), default=told.began_ms)
    if max(latest, told.began_ms) > now_ms:
        path = "began_ms" if told.began_ms > now_ms else "events"
        raise refuse(
            "out-of-range",
            path,
            max(latest, told.began_ms),
            "nothing in a log is still to come",
            "Set the clock right.",
        )
    run_state(faces_of(plan.steps, told.put_in), told.began_ms, told.events)
    return told

"""Runs over HTTP."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router, Schema, Status
from pydantic import Field

from eskel_core.run import Event
from eskel_server.accounts import Clash, Faults, Unreadable
from eskel_server.bodies import Whole
from eskel_server.pieces import piece_of

from .actions import start_run, stop_run
from .following import ms_of, newer_events
from .happened import take
from .mending import Offers, offers_at
from .models import Run
from .queries import marked, run_of, runs_of
from .rail import Rail, rail_of
from .views import RunSheet, RunView, sheet_of, view_of

router = Router(tags=["runs"])
MOST_GOING, MOST_EVENTS = 40, 500
ANSWERS: dict[int, Any] = {200: RunView, 404: Faults, 409: Faults, 422: Faults}


class Confirmed(Schema):
    """A rule that speaks against a plan, and at which step, that the smith has read and goes on with."""

    code: str = Field(max_length=60)
    step: Whole | None = None


class Start(Schema):
    """The piece to run, and what was confirmed of its plan's stops."""

    piece: Whole
    confirmed: list[Confirmed] = Field(default=[], max_length=200)


class AtStep(Schema):
    """The step at which a run was seen to stand."""

    at: Whole


class Happened(Schema):
    """What happened in a run, as a device sends it: each event with an id of its own, so that it may be sent as often as it likes.

    `after` is how far the device knows what others told; `began_ms` when the run began that it means, where it says so.
    """

    events: list[Event] = Field(max_length=MOST_EVENTS)
    after: Whole = Field(default=0, ge=0)
    began_ms: Whole | None = None


class EventsTold(Schema):
    """What was taken of a run after what a device knows, how far that goes (`taken`), and the server's clock, ms."""

    events: list[Event]
    taken: int
    now_ms: int


@router.get("/rail", response=Rail, operation_id="rail")
def rail(request: HttpRequest) -> Rail:
    """Give what runs now."""
    return rail_of(list(marked(runs_of()).filter(state=Run.GOING)[:MOST_GOING]))


@router.post(
    "/runs",
    response={201: RunView, 404: Faults, 409: Faults, 422: Faults},
    operation_id="startRun",
    by_alias=True,
)
def start(request: HttpRequest, chosen: Start) -> Status[RunView]:
    """Start a run."""
    confirmed = frozenset((one.code, one.step) for one in chosen.confirmed)
    return Status(201, view_of(start_run(piece_of(chosen.piece), confirmed)))


@router.get("/runs/{int:key}", response=ANSWERS, operation_id="openRun", by_alias=True)
def open_run(request: HttpRequest, key: int) -> RunView:
    """Give one run."""
    return view_of(run_of(key))


@router.get(
    "/runs/{int:key}/sheet", response={**ANSWERS, 200: RunSheet}, operation_id="runSheet", by_alias=True
)
def sheet(request: HttpRequest, key: int) -> RunSheet:
    """Give what never changes of a run: all that a device needs to go on with it where there is no server."""
    return sheet_of(run_of(key))


@router.get(
    "/runs/{int:key}/events", response={**ANSWERS, 200: EventsTold}, operation_id="runEvents", by_alias=True
)
def events(
    request: HttpRequest,
    key: int,
    after: Annotated[int, Query(ge=0)] = 0,
    began_ms: int | None = None,
) -> EventsTold:
    """Give what happened in a run after what is known."""
    return _told(_meant(key, began_ms), after)


@router.post(
    "/runs/{int:key}/events", response={**ANSWERS, 200: EventsTold}, operation_id="tellRun", by_alias=True
)
def tell(request: HttpRequest, key: int, told: Happened) -> EventsTold:
    """Take what happened in a run, each event once whatever the order, and give what is newer than what is known."""
    run = _meant(key, told.began_ms)
    take(run, told.events)
    return _told(run, told.after)


class AtTurn(Schema):
    """The turn at which a run was seen to stand."""

    turn: str = Field(max_length=16)


@router.post(
    "/runs/{int:key}/offers", response={**ANSWERS, 200: Offers}, operation_id="runOffers", by_alias=True
)
def offers(request: HttpRequest, key: int, at: AtTurn) -> Offers:
    """Give what can be done where something went wrong, by the work as it stands."""
    return offers_at(run_of(key), at.turn)


@router.post("/runs/{int:key}/stop", response={**ANSWERS, 204: None}, operation_id="stopRun", by_alias=True)
def stop(request: HttpRequest, key: int, step: AtStep) -> RunView | Status[None]:
    """Stop a run; one that cannot be read is stopped all the same, and has nothing to show."""
    stopped = stop_run(run_of(key), step.at)
    try:
        return view_of(stopped)
    except Unreadable:
        return Status(204, None)


def _meant(key: int, began_ms: int | None) -> Run:
    """Give a run; raise `Clash` where a device means another of that number, from a database that is no more."""
    run = run_of(key)
    if began_ms not in (None, ms_of(run.started_at)):
        raise Clash(
            "began_ms",
            began_ms,
            "this device keeps another run of that number, from a database that is no longer here",
            "Open the run anew from Work.",
        )
    return run


def _told(run: Run, after: int) -> EventsTold:
    newer, taken = newer_events(run, after)
    return EventsTold(events=newer, taken=taken, now_ms=ms_of(timezone.now()))

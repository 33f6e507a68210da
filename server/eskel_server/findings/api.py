"""The shelf over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from eskel_core.picture import Picture
from eskel_server.accounts import Faults, Unreadable
from eskel_server.bodies import Whole
from eskel_server.pieces import content_of, picture_of, piece_of
from eskel_server.pieces.views import PieceView, answer_with

from .actions import MOST_LEFT, count_anew, put_on_shelf, take_away, take_into
from .models import Finding
from .queries import document_of_finding, finding_at, findings_of

router = Router(tags=["findings"])
MOST_SHOWN, MOST_TAKEN = 200, 20
ANSWERS: dict[int, Any] = {404: Faults, 409: Faults, 422: Faults}


class FindingView(Schema):
    """A finding on the shelf: how many of it are left, what it is of, and its picture; none where it cannot be read any more."""

    id: int
    run: int | None
    name: str
    left: int
    made_at: datetime
    parts: list[str]
    joins: int
    picture: Picture | None


class NewFinding(Schema):
    """What a run has made, by a name of its own, and how many of it go on the shelf."""

    run: Whole
    name: str = Field(default="", max_length=120)
    left: Whole = Field(default=1, ge=1, le=MOST_LEFT)


class Counted(Schema):
    """How many are left, and how many there were by the same counter."""

    was: Whole = Field(ge=0, le=MOST_LEFT)
    left: Whole = Field(ge=0, le=MOST_LEFT)


class Taken(Schema):
    """The piece that a finding is taken into, the revision at which that is, and how many each of it takes."""

    piece: Whole
    revision: Whole
    number: Whole = Field(default=1, ge=1, le=MOST_TAKEN)


@router.get("/findings", response=list[FindingView], operation_id="findings", by_alias=True)
def see_shelf(request: HttpRequest) -> list[FindingView]:
    """Give what is on the shelf."""
    return [_view(row) for row in findings_of()[:MOST_SHOWN]]


@router.post("/findings", response={201: FindingView, **ANSWERS}, operation_id="putOnShelf", by_alias=True)
def put(request: HttpRequest, new: NewFinding) -> Status[FindingView]:
    """Put what a run has made on the shelf."""
    return Status(201, _view(put_on_shelf(new.run, new.name, new.left)))


@router.post(
    "/findings/{int:key}/left",
    response={200: FindingView, **ANSWERS},
    operation_id="countFinding",
    by_alias=True,
)
def count(request: HttpRequest, key: int, counted: Counted) -> FindingView:
    """Count a finding anew."""
    return _view(count_anew(finding_at(key), counted.was, counted.left))


@router.post(
    "/findings/{int:key}/take",
    response={200: PieceView, **ANSWERS},
    operation_id="takeFinding",
    by_alias=True,
)
def take(request: HttpRequest, key: int, taken: Taken) -> HttpResponse:
    """Take a finding off the shelf into a piece."""
    return answer_with(take_into(finding_at(key), piece_of(taken.piece), taken.revision, taken.number))


@router.delete("/findings/{int:key}", response={204: None, 404: Faults}, operation_id="takeFindingAway")
def away(request: HttpRequest, key: int) -> Status[None]:
    """Take a finding off the shelf for good."""
    take_away(finding_at(key))
    return Status(204, None)


def _view(row: Finding) -> FindingView:
    try:
        piece = document_of_finding(row)
    except Unreadable:
        piece = None
    return FindingView(
        id=row.pk,
        run=row.run_id,
        name=row.name,
        left=row.left,
        made_at=row.made_at,
        parts=[part.title for part in piece.parts] if piece else [],
        joins=len(piece.joins) if piece else 0,
        picture=picture_of(content_of(piece)) if piece else None,
    )

"""Starts, lines and proposals over HTTP."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from eskel_core.forms import Bend, Strip, Wire
from eskel_core.joining import Proposal
from eskel_core.piece import Part, piece_object
from eskel_core.starts import start_named
from eskel_server.accounts import Faults, current_workshop
from eskel_server.bodies import YesNo
from eskel_server.pieces.actions import begin_piece
from eskel_server.pieces.views import PieceView, answer_with

from .queries import (
    MOST_LINES,
    begun_from,
    bent,
    gallery,
    lines_of,
    lines_read,
    looked_at,
    proposal,
    start_typed,
)
from .views import LineView, Looked, ProposalView, StartTyped, StartView

router = Router(tags=["beginnings"])

Line = Annotated[str, Field(max_length=300)]


class Typed(Schema):
    """What was typed, key by key; what is empty is left to the start."""

    typed: dict[str, Any] = Field(default_factory=dict)


class Asked(Typed):
    """What was typed, and whether its plan is wanted: the drawing alone is there sooner."""

    plan: YesNo = True


class Lines(Schema):
    """Lines to be read; the part before them, the part that one edits, the ids that are taken."""

    lines: list[Line] = Field(max_length=MOST_LINES)
    last: Part | None = None
    base: Part | None = None
    taken: list[str] = Field(default_factory=list, max_length=2000)


class Parts(Schema):
    """Parts to be written as lines."""

    parts: list[Part] = Field(max_length=2000)


class Bent(Schema):
    """A wire or strip, the bend that it is bent to, and how wide its curve is, mm, where that is wanted."""

    form: Wire | Strip = Field(discriminator="kind")
    bend: Bend
    across_mm: float | None = Field(None, gt=0, le=5000)


class Document(Schema):
    """A piece file."""

    document: dict[str, Any]


class Pointed(Schema):
    """Two parts of a document that were pointed at, or one twice; where, if anywhere, mm."""

    document: dict[str, Any]
    a: str
    b: str
    at: tuple[float, float] | None = None


@router.get("/starts", response=list[StartView], operation_id="listStarts", by_alias=True)
def list_starts(request: HttpRequest) -> list[StartView]:
    """Give every start."""
    return gallery()


@router.post(
    "/starts/{name}/typed",
    response={200: StartTyped, 404: Faults, 422: Faults},
    operation_id="startTyped",
    by_alias=True,
)
def typed(request: HttpRequest, name: str, asked: Asked) -> StartTyped:
    """Give what a start makes of what was typed so far."""
    start_named(name)
    return start_typed(name, asked.typed, planned=asked.plan)


@router.post(
    "/starts/{name}/begin",
    response={201: PieceView, 422: Faults},
    operation_id="beginFromStart",
    by_alias=True,
)
def begin(request: HttpRequest, name: str, asked: Typed) -> HttpResponse:
    """Begin a piece from a start."""
    piece = begun_from(name, asked.typed).piece
    return answer_with(begin_piece(current_workshop(), piece_object(piece), "begun"), status=201)


@router.post("/lines", response=list[LineView], operation_id="readLines", by_alias=True)
def read(request: HttpRequest, asked: Lines) -> list[LineView]:
    """Read lines to parts; each tells what was understood, or where it was not."""
    return lines_read(asked.lines, asked.last, asked.base, asked.taken)


@router.post("/lines/of", response=list[str], operation_id="writeLines", by_alias=True)
def write(request: HttpRequest, asked: Parts) -> list[str]:
    """Write parts as lines."""
    return lines_of(asked.parts)


@router.post("/bend", response={200: Wire | Strip, 422: Faults}, operation_id="bendForm", by_alias=True)
def bend(request: HttpRequest, asked: Bent) -> Wire | Strip:
    """Bend a wire or strip to a named bend, as long as it is."""
    return bent(asked.form, asked.bend, asked.across_mm)


@router.post("/look", response=Looked, operation_id="lookAtPiece", by_alias=True)
def look(request: HttpRequest, asked: Document) -> Looked:
    """Look at a piece file before anything is begun from it."""
    return looked_at(asked.document)


@router.post(
    "/proposal", response={200: ProposalView, 422: Faults}, operation_id="proposeJoin", by_alias=True
)
def propose(request: HttpRequest, asked: Pointed) -> Proposal:
    """Propose the join of two parts that were pointed at."""
    return proposal(asked.document, asked.a, asked.b, asked.at)

"""Pieces over HTTP: each endpoint fetches, calls one action, and gives back the piece as it then stands."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from accounts import Faults, current_workshop
from eskel_core.piece import write_piece

from .actions import begin_empty_piece, begin_piece, put_away, redo, revise_piece, undo
from .models import PieceRow
from .queries import document_of, piece_of
from .views import PieceLine, PieceView, line_of, view_of

router = Router(tags=["pieces"])


class NewPiece(Schema):
    """A piece to begin: empty with a name, or from a piece file."""

    name: str | None = Field(None, min_length=1, max_length=120)
    document: dict[str, Any] | None = None


class Edit(Schema):
    """A changed document, the revision that it was based on, and what was changed, in words."""

    revision: int
    document: dict[str, Any]
    what: str = Field("changed", max_length=200)


class At(Schema):
    """The revision that a step back or forward was asked at."""

    revision: int


class Away(Schema):
    """Whether to put away or take out again."""

    away: bool


ANSWERS: dict[int, Any] = {200: PieceView, 404: Faults, 409: Faults, 422: Faults}


@router.get("/pieces", response=list[PieceLine], operation_id="listPieces", by_alias=True)
def list_pieces(request: HttpRequest) -> list[PieceLine]:
    """Give every piece of the workshop."""
    return [line_of(row) for row in PieceRow.objects.filter(workshop=current_workshop())]


@router.post("/pieces", response={201: PieceView, 422: Faults}, operation_id="beginPiece", by_alias=True)
def begin(request: HttpRequest, new: NewPiece) -> Status[PieceView]:
    """Begin a piece."""
    workshop = current_workshop()
    if new.document is not None:
        row = begin_piece(workshop, new.document, "read from a file")
    else:
        row = begin_empty_piece(workshop, new.name or "New piece")
    return Status(201, view_of(row))


@router.get("/pieces/{int:key}", response=ANSWERS, operation_id="openPiece", by_alias=True)
def open_piece(request: HttpRequest, key: int) -> PieceView:
    """Give one piece."""
    return view_of(piece_of(key))


@router.put("/pieces/{int:key}", response=ANSWERS, operation_id="revisePiece", by_alias=True)
def revise(request: HttpRequest, key: int, edit: Edit) -> PieceView:
    """Change a piece."""
    return view_of(revise_piece(piece_of(key), edit.revision, edit.document, edit.what))


@router.post("/pieces/{int:key}/undo", response=ANSWERS, operation_id="undoPiece", by_alias=True)
def undo_piece(request: HttpRequest, key: int, at: At) -> PieceView:
    """Undo the last change."""
    return view_of(undo(piece_of(key), at.revision))


@router.post("/pieces/{int:key}/redo", response=ANSWERS, operation_id="redoPiece", by_alias=True)
def redo_piece(request: HttpRequest, key: int, at: At) -> PieceView:
    """Do again what was undone."""
    return view_of(redo(piece_of(key), at.revision))


@router.post("/pieces/{int:key}/away", response=ANSWERS, operation_id="putPieceAway", by_alias=True)
def away(request: HttpRequest, key: int, choice: Away) -> PieceView:
    """Put a piece away, or take it out again."""
    return view_of(put_away(piece_of(key), choice.away))


@router.get("/pieces/{int:key}/file", operation_id="pieceFile", include_in_schema=False)
def piece_file(request: HttpRequest, key: int) -> HttpResponse:
    """Give the piece file."""
    row = piece_of(key)
    name = (
        "-".join(word for word in "".join(c if c.isalnum() else " " for c in row.name.lower()).split())
        or "piece"
    )
    answer = HttpResponse(write_piece(document_of(row)), content_type="application/json; charset=utf-8")
    answer["Content-Disposition"] = (
        f'attachment; filename="{name.encode("ascii", "ignore").decode() or "piece"}.eskel.json"'
    )
    return answer

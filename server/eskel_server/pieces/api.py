"""Pieces over HTTP: each endpoint fetches, calls one action, and gives back the piece as it then stands."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from eskel_core.cutting import CutAndSolder, cut_list_csv, outline_svg
from eskel_core.piece import HouseOverrides, write_piece
from eskel_core.plan import JoinWhy, Plan
from eskel_core.shapes import DrawnOutline, DrawnUnit
from eskel_server.accounts import Faults, current_workshop, json_answer
from eskel_server.bodies import Whole, YesNo

from .actions import begin_empty_piece, begin_piece, put_away, redo, revise_piece, undo
from .lines import line_of, list_of, make_line
from .queries import (
    cut_list_of,
    cutting_of,
    document_of,
    outline_from,
    piece_of,
    plan_beside,
    plan_without_moves,
    why_of,
)
from .views import PieceLine, PieceView, answer_with

router = Router(tags=["pieces"])


class NewPiece(Schema):
    """A piece to begin: empty with a name, or from a piece file."""

    name: str | None = Field(None, min_length=1, max_length=120)
    document: dict[str, Any] | None = None


class Edit(Schema):
    """A changed document, the revision that it was based on, and what was changed, in words."""

    revision: Whole
    document: dict[str, Any]
    what: str = Field("changed", max_length=200)


class At(Schema):
    """The revision that a step back or forward was asked at."""

    revision: Whole


class Beside(Schema):
    """What is to be otherwise: some house rules, or no moves by hand."""

    house: HouseOverrides = Field(default_factory=lambda: HouseOverrides())
    without_moves: YesNo = False


class Away(Schema):
    """Whether to put away or take out again."""

    away: YesNo


class Drawing(Schema):
    """The text of a drawing, the name of its file, and its unit where the file does not say it."""

    name: str = Field(max_length=200)
    text: str = Field(max_length=4_500_000)
    unit: DrawnUnit | None = None


ANSWERS: dict[int, Any] = {200: PieceView, 404: Faults, 409: Faults, 422: Faults}


@router.get("/pieces", response=list[PieceLine], operation_id="listPieces", by_alias=True)
def list_pieces(request: HttpRequest) -> HttpResponse:
    """Give every piece of the workshop; a line that is not known yet is asked for by itself."""
    return json_answer(list_of(current_workshop()))


@router.get(
    "/pieces/{int:key}/line",
    response={200: PieceLine, 404: Faults},
    operation_id="pieceLine",
    by_alias=True,
)
def piece_line(request: HttpRequest, key: int) -> HttpResponse:
    """Give the line of one piece, planned for it where it was not yet."""
    row = piece_of(key)
    return json_answer(line_of(row, make_line(row)))


@router.post("/pieces", response={201: PieceView, 422: Faults}, operation_id="beginPiece", by_alias=True)
def begin(request: HttpRequest, new: NewPiece) -> HttpResponse:
    """Begin a piece."""
    workshop = current_workshop()
    if new.document is not None:
        row = begin_piece(workshop, new.document, "read from a file")
    else:
        row = begin_empty_piece(workshop, new.name or "New piece")
    return answer_with(row, status=201)


@router.get("/pieces/{int:key}", response=ANSWERS, operation_id="openPiece", by_alias=True)
def open_piece(request: HttpRequest, key: int, whole: bool = False) -> HttpResponse:
    """Give one piece; with the `whole` plan, of many joins, it may take a while to be proven."""
    return answer_with(piece_of(key), whole=whole)


@router.get(
    "/pieces/{int:key}/why/{join}",
    response={200: JoinWhy, 404: Faults, 422: Faults},
    operation_id="whyJoin",
    by_alias=True,
)
def why(request: HttpRequest, key: int, join: str) -> JoinWhy:
    """Say why a join has its solder and heat, and what else it could be, by asking the solver."""
    return why_of(piece_of(key), join)


@router.post(
    "/pieces/{int:key}/beside",
    response={200: Plan, 404: Faults, 422: Faults},
    operation_id="planBeside",
    by_alias=True,
)
def beside(request: HttpRequest, key: int, other: Beside) -> Plan:
    """Give the plan of a piece as it would be otherwise, to be set beside its own."""
    row = piece_of(key)
    return plan_without_moves(row) if other.without_moves else plan_beside(row, other.house)


@router.put("/pieces/{int:key}", response=ANSWERS, operation_id="revisePiece", by_alias=True)
def revise(request: HttpRequest, key: int, edit: Edit) -> HttpResponse:
    """Change a piece."""
    return answer_with(revise_piece(piece_of(key), edit.revision, edit.document, edit.what))


@router.post("/pieces/{int:key}/undo", response=ANSWERS, operation_id="undoPiece", by_alias=True)
def undo_piece(request: HttpRequest, key: int, at: At) -> HttpResponse:
    """Undo the last change."""
    return answer_with(undo(piece_of(key), at.revision))


@router.post("/pieces/{int:key}/redo", response=ANSWERS, operation_id="redoPiece", by_alias=True)
def redo_piece(request: HttpRequest, key: int, at: At) -> HttpResponse:
    """Do again what was undone."""
    return answer_with(redo(piece_of(key), at.revision))


@router.post("/pieces/{int:key}/away", response=ANSWERS, operation_id="putPieceAway", by_alias=True)
def away(request: HttpRequest, key: int, choice: Away) -> HttpResponse:
    """Put a piece away, or take it out again."""
    return answer_with(put_away(piece_of(key), choice.away))


@router.get(
    "/pieces/{int:key}/cutting",
    response={200: CutAndSolder, 404: Faults},
    operation_id="cutAndSolder",
    by_alias=True,
)
def cutting(request: HttpRequest, key: int) -> CutAndSolder:
    """Give the cut and solder list of a piece."""
    return cutting_of(piece_of(key))


@router.post("/outline", response={200: DrawnOutline, 422: Faults}, operation_id="readOutline", by_alias=True)
def outline(request: HttpRequest, drawing: Drawing) -> DrawnOutline:
    """Read an outline from the text of an SVG or DXF file."""
    return outline_from(drawing.name, drawing.text, drawing.unit)


@router.get("/pieces/{int:key}/cut-list.csv", operation_id="cutListCsv", include_in_schema=False)
def cut_list_as_csv(request: HttpRequest, key: int) -> HttpResponse:
    """Give the cut and solder list as CSV."""
    row = piece_of(key)
    return _file(row.name, "cut-list.csv", "text/csv; charset=utf-8", cut_list_csv(cutting_of(row)).encode())


@router.get("/pieces/{int:key}/cut-list.pdf", operation_id="cutListPdf", include_in_schema=False)
def cut_list_as_pdf(request: HttpRequest, key: int) -> HttpResponse:
    """Give the cut and solder list as PDF, outlines at 1:1."""
    row = piece_of(key)
    return _file(row.name, "cut-list.pdf", "application/pdf", cut_list_of(row))


@router.get("/pieces/{int:key}/outlines/{part}", operation_id="outlineSvg", include_in_schema=False)
def outline_as_svg(request: HttpRequest, key: int, part: str) -> HttpResponse:
    """Give the outline of a sheet part as SVG at 1:1."""
    row = piece_of(key)
    return _file(row.name, f"{part}.svg", "image/svg+xml", outline_svg(document_of(row), part).encode())


@router.get("/pieces/{int:key}/file", operation_id="pieceFile", include_in_schema=False)
def piece_file(request: HttpRequest, key: int) -> HttpResponse:
    """Give the piece file."""
    row = piece_of(key)
    return _file(
        row.name, "eskel.json", "application/json; charset=utf-8", write_piece(document_of(row)).encode()
    )


def _file(name: str, ending: str, kind: str, content: bytes) -> HttpResponse:
    """Answer with a file named after its piece."""
    words = "".join(c if c.isascii() and c.isalnum() else " " for c in name.lower()).split()
    answer = HttpResponse(content, content_type=kind)
    answer["Content-Disposition"] = f'attachment; filename="{"-".join(words) or "piece"}.{ending}"'
    return answer

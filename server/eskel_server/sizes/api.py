"""The calculators over HTTP."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status

from eskel_core.sizes import calculate, calculators
from eskel_server.accounts import Faults, current_workshop
from eskel_server.bodies import Whole, YesNo
from eskel_server.pieces import piece_of
from eskel_server.pieces.actions import keep_cut
from eskel_server.pieces.views import PieceView, answer_with

from .actions import begin_making, mark_off, put_making_away
from .models import Making
from .queries import hand, making_of
from .views import AnswerView, CalculatorView, MakingView, answer_view, calculator_view, making_view

router = Router(tags=["sizes"])


class Typed(Schema):
    """What was typed, key by key; texts are read by the unit that their key carries."""

    typed: dict[str, Any]


class Keep(Typed):
    """What was typed, and the piece that the result is kept to: as a part, or in its cut list."""

    piece: Whole
    kept_as: Literal["part", "cut"] = "part"
    name: str = ""


@router.get("/sizes", response=list[CalculatorView], operation_id="listSizes", by_alias=True)
def list_sizes(request: HttpRequest) -> list[CalculatorView]:
    """Give every calculator."""
    return [calculator_view(calculator) for calculator in calculators().values()]


@router.post("/sizes/{name}", response={200: AnswerView, 422: Faults}, operation_id="size", by_alias=True)
def size(request: HttpRequest, name: str, asked: Typed) -> AnswerView:
    """Ask a calculator."""
    at_hand = hand()
    units = at_hand.house.spoken
    return answer_view(calculate(name, asked.typed, at_hand, units), asked.typed, units)


@router.post(
    "/sizes/{name}/keep",
    response={200: PieceView, 404: Faults, 409: Faults, 422: Faults},
    operation_id="keepSize",
    by_alias=True,
)
def keep(request: HttpRequest, name: str, asked: Keep) -> HttpResponse:
    """Keep the result of a calculator to a piece."""
    at_hand = hand()
    answer = calculate(name, asked.typed, at_hand, at_hand.house.spoken)
    return answer_with(keep_cut(piece_of(asked.piece), answer, asked.kept_as, asked.name))


class Begin(Typed):
    """What was typed into the draw-down, and what the making is called."""

    title: str = ""


class Marks(Schema):
    """How many steps were done when it was asked, and how many are done now."""

    at: Whole
    done: Whole


class Away(Schema):
    """Whether to put away or take out again."""

    away: YesNo


MAKING: dict[int, Any] = {200: MakingView, 404: Faults, 409: Faults, 422: Faults}


@router.get("/makings", response=list[MakingView], operation_id="listMakings", by_alias=True)
def list_makings(request: HttpRequest) -> list[MakingView]:
    """Give every draw-down at the mill, the newest first."""
    return [making_view(row) for row in Making.objects.filter(workshop=current_workshop())]


@router.post("/makings", response={201: MakingView, 422: Faults}, operation_id="beginMaking", by_alias=True)
def begin(request: HttpRequest, asked: Begin) -> Status[MakingView]:
    """Begin a draw-down at the mill."""
    at_hand = hand()
    answer = calculate("draw-down", asked.typed, at_hand, at_hand.house.spoken)
    return Status(201, making_view(begin_making(current_workshop(), answer, asked.title)))


@router.get("/makings/{int:key}", response=MAKING, operation_id="openMaking", by_alias=True)
def open_making(request: HttpRequest, key: int) -> MakingView:
    """Give one making."""
    return making_view(making_of(key))


@router.post("/makings/{int:key}/marks", response=MAKING, operation_id="markMaking", by_alias=True)
def mark(request: HttpRequest, key: int, marks: Marks) -> MakingView:
    """Mark steps off, or take marks back."""
    return making_view(mark_off(making_of(key), marks.at, marks.done))


@router.post("/makings/{int:key}/away", response=MAKING, operation_id="putMakingAway", by_alias=True)
def away(request: HttpRequest, key: int, choice: Away) -> MakingView:
    """Put a making away, or take it out again."""
    return making_view(put_making_away(making_of(key), choice.away))

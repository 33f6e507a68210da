"""The calculators over HTTP."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema

from accounts import Faults
from eskel_core.sizes import calculate, calculators
from pieces import piece_of
from pieces.actions import keep_cut
from pieces.views import PieceView, view_of

from .queries import hand
from .views import AnswerView, CalculatorView, answer_view, calculator_view

router = Router(tags=["sizes"])


class Typed(Schema):
    """What was typed, key by key; texts are read by the unit that their key carries."""

    typed: dict[str, Any]


class Keep(Typed):
    """What was typed, and the piece that the result is kept to: as a part, or in its cut list."""

    piece: int
    kept_as: Literal["part", "cut"] = "part"
    name: str = ""


@router.get("/sizes", response=list[CalculatorView], operation_id="listSizes", by_alias=True)
def list_sizes(request: HttpRequest) -> list[CalculatorView]:
    """Give every calculator."""
    return [calculator_view(one) for one in calculators().values()]


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
def keep(request: HttpRequest, name: str, asked: Keep) -> PieceView:
    """Keep the result of a calculator to a piece."""
    at_hand = hand()
    answer = calculate(name, asked.typed, at_hand, at_hand.house.spoken)
    return view_of(keep_cut(piece_of(asked.piece), answer, asked.kept_as, asked.name))

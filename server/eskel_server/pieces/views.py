"""What the screens are told of a piece."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpResponse
from ninja import Schema

from eskel_core.picture import Picture
from eskel_core.piece import House, Piece, Weights, resolve_house, weigh
from eskel_core.plan import Plan
from eskel_core.units import speak
from eskel_server.accounts import beside, json_answer
from eskel_server.bench import bench_of
from eskel_server.shelf import Shelf

from .lines import Line, keep_line
from .models import PieceRow
from .queries import Standing, picture_of, piece_standing, plan_or_word, standing_of


class _Followed(Schema):
    document: Piece
    house: House
    picture: Picture
    weights: Weights
    plan: Plan


class PieceView(_Followed):
    """A piece as one page shows it: the document, its picture, weights and plan, and what can be undone."""

    id: int
    revision: int
    undo_what: str | None
    redo_what: str | None
    put_away: bool


class PieceLine(Line):
    """A piece as a line of the list. Asked for by itself it has its picture, and its plan where `status` was `unplanned`."""

    id: int
    name: str
    put_away: bool
    changed_at: datetime


def answer_with(row: PieceRow, *, whole: bool = False, status: int = 200) -> HttpResponse:
    """Answer with a `PieceView`: everything that a piece's page shows; what its line shows of it is kept."""
    standing = standing_of(row)
    own = {
        "id": row.pk,
        "revision": row.revision,
        "undo_what": standing.undo_what,
        "redo_what": standing.redo_what,
        "put_away": row.put_away,
    }
    return json_answer(beside(own, _followed(row, standing, whole)), status)


def _followed(row: PieceRow, standing: Standing, whole: bool) -> str:
    """Give as JSON what follows from a piece on its bench; it is kept, but for a plan that was not found in time."""
    house, bench = bench_of(row.workshop)
    name = (standing.digest, house.model_dump_json() + bench.model_dump_json(), whole)
    known = _SHOWN.get(name)
    if known is None:
        piece = piece_standing(row, standing)
        made, picture = plan_or_word(piece, house, bench, whole=whole), picture_of(piece)
        keep_line(row, standing.digest, piece, made, picture)
        own_house = resolve_house(house, piece.house)
        told = _Followed(
            document=piece,
            house=own_house,
            picture=picture,
            weights=weigh(piece),
            plan=made,
        )
        # What a piece sets for itself holds for its sentences too.
        known = speak(told.model_dump_json(by_alias=True), own_house.spoken)
        if made.conflict is None or made.conflict.codes != ("undecided",):
            _SHOWN.put(name, known)
    return known


_SHOWN = Shelf[tuple[str, str, bool], str](most=200)

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

from .contents import content_standing, kept
from .lines import Line, keep_line
from .models import PieceRow
from .queries import Standing, picture_of, plan_or_word, standing_of


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
    name = ("shown", standing.digest, house.model_dump_json(), bench.model_dump_json(), str(whole))
    undecided = False

    def show() -> str:
        nonlocal undecided
        content = content_standing(row, standing.digest)
        made, picture = plan_or_word(content, house, bench, whole=whole), picture_of(content)
        undecided = made.conflict is not None and made.conflict.codes == ("undecided",)
        keep_line(row, content, made, picture)
        own_house = resolve_house(house, content.piece.house)
        told = _Followed(
            document=content.piece,
            house=own_house,
            picture=picture,
            weights=weigh(content.piece),
            plan=made,
        )
        # What a piece sets for itself holds for its sentences too.
        return speak(told.model_dump_json(by_alias=True), own_house.spoken)

    return kept(*name, find=show, lasting=lambda _: not undecided)

"""What the screens are told of a piece."""

from __future__ import annotations

from datetime import datetime

from ninja import Schema

from eskel_core.picture import Picture, draw
from eskel_core.piece import House, Piece, Weights, resolve_house, weigh
from eskel_core.plan import HeatStep, Plan
from eskel_server.bench import bench_of

from .models import PieceRow
from .queries import document_of, plan_for


class PieceView(Schema):
    """A piece as one page shows it: the document, its picture, weights and plan, and what can be undone."""

    id: int
    revision: int
    undo_what: str | None
    redo_what: str | None
    put_away: bool
    document: Piece
    house: House
    picture: Picture
    weights: Weights
    plan: Plan


class PieceLine(Schema):
    """A piece as a line of the list: what it is and what it waits for."""

    id: int
    name: str
    parts: int
    joins: int
    heats: int
    status: str
    waits_for: str
    put_away: bool
    changed_at: datetime
    picture: Picture


def view_of(row: PieceRow, *, whole: bool = False) -> PieceView:
    """Give everything that a piece's page shows."""
    piece = document_of(row)
    house, bench = bench_of(row.workshop)
    whats = dict(
        row.revisions.filter(number__in=(row.revision, row.revision + 1)).values_list("number", "what")
    )
    return PieceView(
        id=row.pk,
        revision=row.revision,
        undo_what=whats.get(row.revision) if row.revisions.filter(number=row.revision - 1).exists() else None,
        redo_what=whats.get(row.revision + 1),
        put_away=row.put_away,
        document=piece,
        house=resolve_house(house, piece.house),
        picture=draw(piece),
        weights=weigh(piece),
        plan=plan_for(piece, house, bench, whole=whole),
    )


def line_of(row: PieceRow) -> PieceLine:
    """Give the line of a piece."""
    piece = document_of(row)
    made = plan_for(piece, *bench_of(row.workshop), whole=False)
    heats = sum(1 for step in made.steps if isinstance(step, HeatStep))
    return PieceLine(
        id=row.pk,
        name=row.name,
        parts=sum(part.count for part in piece.parts),
        joins=len(piece.joins),
        heats=heats,
        status=made.status,
        waits_for=_waits_for(piece, made, heats),
        put_away=row.put_away,
        changed_at=row.changed_at,
        picture=draw(piece),
    )


def _waits_for(piece: Piece, made: Plan, heats: int) -> str:
    if not piece.parts:
        return "its first part"
    if made.conflict is not None:
        return f"a way out: {made.conflict.demands[0].text}"
    if heats == 0:
        return "its joins"
    return f"the torch: {heats} heat{'s' if heats != 1 else ''}"

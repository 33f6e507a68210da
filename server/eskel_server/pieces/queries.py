"""What can be asked of pieces. Plans are kept in memory by the content that they follow from, so never stale."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING

from eskel_core.cutting import CutAndSolder, cut_and_solder
from eskel_core.faults import Refused
from eskel_core.piece import Bench, HouseOverrides, Piece, parse_piece, piece_from_object, write_piece
from eskel_core.plan import FULL, QUICK, JoinWhy, Plan, plan, why_join, without_moves
from eskel_server.accounts import Missing, current_workshop
from eskel_server.bench import bench_of

if TYPE_CHECKING:
    from .models import PieceRow, Revision


def piece_of(key: int) -> PieceRow:
    """Give a piece of this workshop; raise `Missing` when there is none."""
    from .models import PieceRow

    row = PieceRow.objects.filter(workshop=current_workshop(), pk=key).first()
    if row is None:
        raise Missing("piece", key)
    return row


def revision_of(row: PieceRow) -> Revision:
    """Give the revision that a piece stands at."""
    return row.revisions.get(number=row.revision)


def document_of(row: PieceRow) -> Piece:
    """Give a piece as it stands."""
    return piece_from_object(dict(revision_of(row).document))


def plan_of(row: PieceRow) -> Plan:
    """Give the plan of a piece as it stands, on the bench of its workshop."""
    return plan_for(document_of(row), *bench_of(row.workshop))


def cutting_of(row: PieceRow) -> CutAndSolder:
    """Give the cut and solder list of a piece as it stands, on the bench of its workshop."""
    house, bench = bench_of(row.workshop)
    piece = document_of(row)
    return _listed(write_piece(piece), house.model_dump_json(), bench.model_dump_json())


@lru_cache(maxsize=128)
def _listed(piece: str, house: str, bench: str) -> CutAndSolder:
    """List by content, as plans are kept."""
    return cut_and_solder(parse_piece(piece), _planned(piece, house, bench), Bench.model_validate_json(bench))


def plan_for(piece: Piece, house: HouseOverrides, bench: Bench, *, whole: bool = True) -> Plan:
    """Give the plan of a document; of many joins, unless the `whole` is wanted, one that is found at once.

    Where none is found at once, the whole one is given.
    """
    texts = (write_piece(piece), house.model_dump_json(), bench.model_dump_json())
    if whole or len(piece.joins) <= AT_ONCE:
        return _planned(*texts)
    try:
        return _planned(*texts, effort=QUICK)
    except Refused:
        return _planned(*texts)


AT_ONCE = 24


@lru_cache(maxsize=512)
def _planned(piece: str, house: str, bench: str, effort: float = FULL) -> Plan:
    """Plan by content: the three texts are all that a plan depends on."""
    return plan(
        parse_piece(piece),
        HouseOverrides.model_validate_json(house),
        Bench.model_validate_json(bench),
        effort=effort,
    )


def why_of(row: PieceRow, join: str) -> JoinWhy:
    """Say why a join of a piece has its solder and heat, and what else it could be."""
    house, bench = bench_of(row.workshop)
    return _why(write_piece(document_of(row)), join, house.model_dump_json(), bench.model_dump_json())


@lru_cache(maxsize=256)
def _why(piece: str, join: str, house: str, bench: str) -> JoinWhy:
    """Answer by content, as plans are kept."""
    return why_join(
        parse_piece(piece), join, HouseOverrides.model_validate_json(house), Bench.model_validate_json(bench)
    )


def plan_beside(row: PieceRow, other: HouseOverrides) -> Plan:
    """Give the plan of a piece under other house rules."""
    house, bench = bench_of(row.workshop)
    piece = document_of(row)
    own = piece.house.model_copy(update=other.model_dump(exclude_none=True))
    return plan_for(piece.model_copy(update={"house": own}), house, bench)


def plan_without_moves(row: PieceRow) -> Plan:
    """Give the plan of a piece without what was moved by hand."""
    house, bench = bench_of(row.workshop)
    return plan_for(without_moves(document_of(row)), house, bench)

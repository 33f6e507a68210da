"""What can be asked of pieces.

What follows from a piece (its plan, its picture, its lists) is worked out in the workroom and kept in memory by the
content that it follows from, so it is never stale; a refusal is kept there too.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from django.db.models import TextField
from django.db.models.functions import Cast

from eskel_core.cutting import CutAndSolder
from eskel_core.faults import Fault, Refused
from eskel_core.picture import Picture
from eskel_core.piece import Bench, HouseOverrides, Piece, parse_piece, resolve_house, write_piece
from eskel_core.plan import FULL, QUICK, JoinWhy, Plan, not_planned, without_moves
from eskel_core.shapes import DrawnOutline, DrawnUnit
from eskel_server.accounts import Missing, current_workshop
from eskel_server.bench import bench_of
from eskel_server.shelf import Shelf
from eskel_server.workroom import TooLong, room

if TYPE_CHECKING:
    from .models import PieceRow

AT_ONCE = 24
SHORT_S = 10.0
WHOLE_S = 30.0


def piece_of(key: int) -> PieceRow:
    """Give a piece of this workshop; raise `Missing` when there is none."""
    from .models import PieceRow

    row = PieceRow.objects.filter(workshop=current_workshop(), pk=key).select_related("workshop").first()
    if row is None:
        raise Missing("piece", key)
    return row


@dataclass(frozen=True)
class Standing:
    """Where a piece stands: the name of its content, and what the changes before and after it were."""

    digest: str
    undo_what: str | None
    redo_what: str | None


def standing_of(row: PieceRow) -> Standing:
    """Give where a piece stands, without its document."""
    at = row.revision
    near = row.revisions.filter(number__range=(at - 1, at + 1)).values_list("number", "what", "digest")
    known = {number: (what, digest) for number, what, digest in near}
    what, digest = known[at]
    return Standing(digest, what if at - 1 in known else None, known[at + 1][0] if at + 1 in known else None)


def digest_of(text: str) -> str:
    """Give a short name of a content."""
    return hashlib.sha256(text.encode()).hexdigest()


def document_of(row: PieceRow) -> Piece:
    """Give a piece as it stands; raise `Refused` where it cannot be read any more."""
    return piece_standing(row, standing_of(row))


def piece_standing(row: PieceRow, standing: Standing) -> Piece:
    """Give the piece of a revision by the name of its content; read it where it is not at hand."""
    known = _READ.get(standing.digest)
    if known is None:
        kept = row.revisions.filter(number=row.revision).values_list(Cast("document", TextField()), flat=True)
        known = parse_piece(kept.get())
        remember(standing.digest, known)
    return known


def remember(digest: str, piece: Piece) -> None:
    """Have a piece at hand under the name of its content."""
    _READ.put(digest, piece)


_READ = Shelf[str, Piece](most=128)


def plan_of(row: PieceRow) -> Plan:
    """Give the plan of a piece as it stands, on the bench of its workshop."""
    return plan_for(document_of(row), *bench_of(row.workshop))


def plan_for(piece: Piece, house: HouseOverrides, bench: Bench, *, whole: bool = True) -> Plan:
    """Give the plan of a document; of many joins, unless the `whole` is wanted, one that is found at once.

    Raise `Refused` where none is found: neither at once nor with the whole effort.
    """
    silent = piece.model_copy(update={"notes": ""})
    texts = (write_piece(silent), house.model_dump_json(), bench.model_dump_json())
    many = len(piece.joins) > AT_ONCE
    if not many:
        return _planned(*texts, FULL, SHORT_S)
    tries = ((FULL, WHOLE_S), (QUICK, SHORT_S)) if whole else ((QUICK, SHORT_S), (FULL, SHORT_S))
    try:
        return _planned(*texts, *tries[0])
    except (Refused, TooLong):
        return _planned(*texts, *tries[1])


def plan_or_word(piece: Piece, house: HouseOverrides, bench: Bench, *, whole: bool = False) -> Plan:
    """Give the plan of a document, or one without steps that says why none was found: a piece can always be opened."""
    try:
        return plan_for(piece, house, bench, whole=whole)
    except Refused as problem:
        return not_planned(piece, problem.faults)
    except TooLong as problem:
        rule = f"a plan is found within {problem.limit_s:g} s"
        remedy = "Fix some solders or orders, or draw the piece up in fewer parts"
        return not_planned(piece, [Fault(code="undecided", path="", rule=rule, remedy=remedy)])


@lru_cache(maxsize=64)
def _planned(piece: str, house: str, bench: str, effort: float, limit_s: float) -> Plan:
    """Plan by content: the texts and the effort are all that a plan depends on."""
    made: Plan = room().do("plan", piece, house, bench, effort, limit_s=limit_s)
    return made


def picture_of(piece: Piece) -> Picture:
    """Give the picture of a piece: it follows from parts and joins alone."""
    bare = Piece(
        format=piece.format, name="a picture", metals=piece.metals, parts=piece.parts, joins=piece.joins
    )
    return _drawn(write_piece(bare))


@lru_cache(maxsize=64)
def _drawn(piece: str) -> Picture:
    made: Picture = room().do("draw", piece, limit_s=SHORT_S)
    return made


def outline_from(name: str, text: str, unit: DrawnUnit | None) -> DrawnOutline:
    """Read an outline from the text of a drawing; raise `Refused` where there is none."""
    made: DrawnOutline = room().do("outline", name, text, unit, limit_s=SHORT_S)
    return made


def cutting_of(row: PieceRow) -> CutAndSolder:
    """Give the cut and solder list of a piece as it stands, on the bench of its workshop."""
    made: CutAndSolder = _listed("cutting", *_to_cut(row))
    return made


def cut_list_of(row: PieceRow) -> bytes:
    """Give the cut and solder list of a piece as a PDF."""
    units = resolve_house(bench_of(row.workshop)[0], document_of(row).house).spoken
    made: bytes = _listed("cut-list.pdf", *_to_cut(row), units.model_dump_json())
    return made


def _to_cut(row: PieceRow) -> tuple[str, str, str]:
    house, bench = bench_of(row.workshop)
    piece = document_of(row)
    return write_piece(piece), plan_or_word(piece, house, bench).model_dump_json(), bench.model_dump_json()


@lru_cache(maxsize=32)
def _listed(kind: str, *texts: str) -> Any:
    return room().do(kind, *texts, limit_s=SHORT_S)


def why_of(row: PieceRow, join: str) -> JoinWhy:
    """Say why a join of a piece has its solder and heat, and what else it could be."""
    house, bench = bench_of(row.workshop)
    return _why(write_piece(document_of(row)), join, house.model_dump_json(), bench.model_dump_json())


@lru_cache(maxsize=64)
def _why(piece: str, join: str, house: str, bench: str) -> JoinWhy:
    made: JoinWhy = room().do("why", piece, join, house, bench, limit_s=WHOLE_S)
    return made


def plan_beside(row: PieceRow, other: HouseOverrides) -> Plan:
    """Give the plan of a piece under other house rules."""
    house, bench = bench_of(row.workshop)
    piece = document_of(row)
    own = piece.house.model_copy(update={key: value for key, value in other if value is not None})
    return plan_for(piece.model_copy(update={"house": own}), house, bench)


def plan_without_moves(row: PieceRow) -> Plan:
    """Give the plan of a piece without what was moved by hand."""
    house, bench = bench_of(row.workshop)
    return plan_for(without_moves(document_of(row)), house, bench)

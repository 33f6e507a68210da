"""What can be asked of pieces.

What follows from a piece (its plan, its picture, its lists) is worked out in the workroom and kept in memory by the
content that it follows from, so it is never stale; a refusal is kept there too.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from eskel_core.cutting import CutAndSolder
from eskel_core.faults import Fault, Refused
from eskel_core.picture import Picture
from eskel_core.piece import Bench, HouseOverrides, Piece, resolve_house
from eskel_core.plan import FULL, QUICK, JoinWhy, Plan, not_planned, without_moves
from eskel_core.shapes import DrawnOutline, DrawnUnit
from eskel_server.accounts import Missing, current_workshop
from eskel_server.bench import bench_of
from eskel_server.workroom import TooLong, room

from .contents import Content, content_of, content_standing, kept

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


def document_of(row: PieceRow) -> Piece:
    """Give a piece as it stands; raise `Refused` where it cannot be read any more."""
    return content_of_row(row).piece


def content_of_row(row: PieceRow) -> Content:
    """Give the content of a piece as it stands; raise `Refused` where it cannot be read any more."""
    return content_standing(row, standing_of(row).digest)


def plan_of(row: PieceRow) -> Plan:
    """Give the plan of a piece as it stands, on the bench of its workshop."""
    return plan_for(content_of_row(row), *bench_of(row.workshop))


def plan_for(content: Content, house: HouseOverrides, bench: Bench, *, whole: bool = True) -> Plan:
    """Give the plan of a content; of many joins, unless the `whole` is wanted, one that is found at once.

    Raise `Refused` where none is found: neither at once nor with the whole effort.
    """
    texts = (content.silent, house.model_dump_json(), bench.model_dump_json())
    many = len(content.piece.joins) > AT_ONCE
    if not many:
        return _planned(texts, FULL, SHORT_S)
    tries = ((FULL, WHOLE_S), (QUICK, SHORT_S)) if whole else ((QUICK, SHORT_S), (FULL, SHORT_S))
    try:
        return _planned(texts, *tries[0])
    except (Refused, TooLong):
        return _planned(texts, *tries[1])


def plan_or_word(content: Content, house: HouseOverrides, bench: Bench, *, whole: bool = False) -> Plan:
    """Give the plan of a content, or one without steps that says why none was found: a piece can always be opened."""
    try:
        return plan_for(content, house, bench, whole=whole)
    except Refused as problem:
        return not_planned(content.piece, problem.faults)
    except TooLong as problem:
        rule = f"a plan is found within {problem.limit_s:g} s"
        remedy = "Fix some solders or orders, or draw the piece up in fewer parts"
        return not_planned(content.piece, [Fault(code="undecided", path="", rule=rule, remedy=remedy)])


def _planned(texts: tuple[str, str, str], effort: float, limit_s: float) -> Plan:
    """Plan by content: the texts and the effort are all that a plan depends on."""

    def find() -> Plan:
        made: Plan = room().do("plan", *texts, effort, limit_s=limit_s)
        return made

    return kept("plan", *texts, str(effort), find=find)


def picture_of(content: Content) -> Picture:
    """Give the picture of a piece: it follows from parts and joins alone."""

    def find() -> Picture:
        made: Picture = room().do("draw", content.bare, limit_s=SHORT_S)
        return made

    return kept("picture", content.bare, find=find)


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
    content = content_of_row(row)
    return content.text, plan_or_word(content, house, bench).model_dump_json(), bench.model_dump_json()


def _listed(kind: str, *texts: str) -> Any:
    return kept(kind, *texts, find=lambda: room().do(kind, *texts, limit_s=SHORT_S))


def why_of(row: PieceRow, join: str) -> JoinWhy:
    """Say why a join of a piece has its solder and heat, and what else it could be."""
    house, bench = bench_of(row.workshop)
    texts = (content_of_row(row).text, join, house.model_dump_json(), bench.model_dump_json())

    def find() -> JoinWhy:
        made: JoinWhy = room().do("why", *texts, limit_s=WHOLE_S)
        return made

    return kept("why", *texts, find=find)


def plan_beside(row: PieceRow, other: HouseOverrides) -> Plan:
    """Give the plan of a piece under other house rules."""
    house, bench = bench_of(row.workshop)
    piece = document_of(row)
    own = piece.house.model_copy(update={key: value for key, value in other if value is not None})
    return plan_for(content_of(piece.model_copy(update={"house": own})), house, bench)


def plan_without_moves(row: PieceRow) -> Plan:
    """Give the plan of a piece without what was moved by hand."""
    house, bench = bench_of(row.workshop)
    return plan_for(content_of(without_moves(document_of(row))), house, bench)

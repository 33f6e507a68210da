"""What can be done with findings: put on the shelf, counted anew, taken into a piece, taken off it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.db import transaction

from eskel_core.piece import Piece, finding_of, piece_object, with_finding
from eskel_server.accounts import Clash, current_workshop
from eskel_server.pieces import content_of, document_of, picture_of
from eskel_server.pieces.actions import revise_piece
from eskel_server.runs.rest import made_in

from .models import Finding, Taking
from .queries import document_of_finding

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow, Revision

MOST_LEFT = 100_000
GAP_MM = 4.0


def put_on_shelf(run: int, name: str, left: int) -> Finding:
    """Put so many of what a run has made on the shelf."""
    piece = made_in(run)
    kept = finding_of(piece)
    if not kept.parts:
        raise Clash(
            "run", run, "what goes on the shelf is made", "Carry the run on until something of it is there."
        )
    title = name.strip() or piece.name
    return Finding.objects.create(
        workshop=current_workshop(),
        run_id=run,
        name=title,
        document=piece_object(kept.model_copy(update={"name": title})),
        left=left,
    )


@transaction.atomic
def count_anew(row: Finding, was: int, left: int) -> Finding:
    """Let so many of a finding be left, where as many were as its counter saw."""
    row = Finding.objects.select_for_update().get(pk=row.pk)
    if row.left != was:
        raise Clash("left", was, f"{row.left} of {row.name} are left by now", "Count them again.")
    row.left = left
    row.save(update_fields=["left"])
    return row


@transaction.atomic
def take_into(row: Finding, piece: PieceRow, revision: int, number: int) -> PieceRow:
    """Take so many of a finding off the shelf into a piece, each for every copy of it."""
    row = Finding.objects.select_for_update().get(pk=row.pk)
    document = document_of(piece)
    wanted = number * document.copies
    _lift(row, wanted, f" ({number} for each of {document.copies})" if document.copies > 1 else "")
    finding = document_of_finding(row)
    for _ in range(number):
        document = with_finding(document, finding, _room_beside_mm(document, finding))
    revised = revise_piece(piece, revision, piece_object(document), f"took {row.name} off the shelf")
    Taking.objects.create(finding=row, revision=revised.revisions.get(number=revised.revision), number=wanted)
    return revised


def put_back_or_take(*, revision: Revision, undone: bool, **_: object) -> None:
    """Put back what a change of a piece took, where that is undone; take it again where it is done again."""
    taking = Taking.objects.filter(revision=revision).first()
    if taking is None:
        return
    row = Finding.objects.select_for_update().get(pk=taking.finding_id)
    _lift(row, -taking.number if undone else taking.number)


def _lift(row: Finding, wanted: int, each: str = "") -> None:
    """Take so many off the shelf, or put them back; raise `Clash` where there are fewer."""
    if wanted > row.left:
        raise Clash(
            "number",
            wanted,
            f"{row.left} of {row.name} are left on the shelf{each}",
            "Take fewer, or make some more.",
        )
    row.left = min(row.left - wanted, MOST_LEFT)
    row.save(update_fields=["left"])


def _room_beside_mm(piece: Piece, finding: Piece) -> float:
    """Give how far a finding is set down to the right of where it lay, so that it lies beside what is there."""
    if not piece.parts:
        return 0.0
    there, new = picture_of(content_of(piece)), picture_of(content_of(finding))
    return round(there.left_mm + there.width_mm - new.left_mm + GAP_MM, 1)


def take_away(row: Finding) -> None:
    """Take a finding off the shelf for good."""
    row.delete()

"""What can be done with rehearsals: copy one into its piece, and leave a logged heat out."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_core.faults import refuse
from eskel_core.piece import piece_object
from eskel_server.accounts import Missing
from eskel_server.pieces import document_of
from eskel_server.pieces.actions import revise_piece
from eskel_server.runs import has_record
from eskel_server.workroom import Job

from .models import LeftOutHeat

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow


def use_rehearsal(row: PieceRow, revision: int, job: Job) -> PieceRow:
    """Copy what a rehearsal found into a piece, as one change that can be undone."""
    from eskel_core.rehearsal import read_rehearsal, use

    if job.state != "done" or "rehearsal" not in job.result:
        raise refuse(
            "contradiction",
            "rehearsal",
            job.state,
            "a rehearsal that is done is used",
            "Wait until it is done.",
        )
    told = read_rehearsal(job.result["rehearsal"])
    piece = document_of(row)
    known = {join.id for join in piece.joins}
    if not set(told.joins) <= known:
        raise refuse(
            "contradiction",
            "rehearsal",
            ", ".join(told.joins),
            "the joins of the heat are in the piece",
            "Rehearse the heat again.",
        )
    changed = use(piece, told)
    return revise_piece(row, revision, piece_object(changed), f"rehearsal of heat {told.heat_no} used")


def leave_out(record: int, left_out: bool) -> None:
    """Leave a logged heat out of the torch factor, or count it again."""
    if not has_record(record):
        raise Missing("logged heat", record)
    if left_out:
        LeftOutHeat.objects.get_or_create(record_id=record)
    else:
        LeftOutHeat.objects.filter(record_id=record).delete()

"""What can be done with rehearsals: copy one into its piece, and leave a logged heat out."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_core.faults import refuse
from eskel_core.piece import parse_piece, piece_object
from eskel_server.accounts import Missing
from eskel_server.pieces import document_of
from eskel_server.pieces.actions import revise_piece
from eskel_server.runs import has_record

from .models import LeftOutHeat
from .queue import Job

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow


def use_rehearsal(row: PieceRow, revision: int, job: Job) -> PieceRow:
    """Copy what a rehearsal found into a piece, as one change that can be undone."""
    from eskel_core.rehearsal import read_rehearsal, use

    if job.state == "done" and "piece" in job.result:
        return _use_whole(row, revision, job)
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


def _use_whole(row: PieceRow, revision: int, job: Job) -> PieceRow:
    """Copy what was found of every heat into a piece that is the same but for its notes."""
    from eskel_core.rehearsal import carry_over, without_credits

    piece, rehearsed = document_of(row), parse_piece(job.result["piece"])
    bare = {"notes": "", "rehearsals": ()}
    if without_credits(piece.model_copy(update=bare)) != without_credits(rehearsed.model_copy(update=bare)):
        raise refuse(
            "contradiction",
            "rehearsal",
            piece.name,
            "what is used was rehearsed with the piece as it stands",
            "Rehearse it again.",
        )
    return revise_piece(
        row, revision, piece_object(carry_over(piece, rehearsed)), "rehearsal of all heats used"
    )


def leave_out(record: int, left_out: bool) -> None:
    """Leave a logged heat out of the torch factor, or count it again."""
    if not has_record(record):
        raise Missing("logged heat", record)
    if left_out:
        LeftOutHeat.objects.get_or_create(record_id=record)
    else:
        LeftOutHeat.objects.filter(record_id=record).delete()

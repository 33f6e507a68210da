"""What is asked of the desk: a heat of a piece as it stands, on the workshop's bench, with its own torches."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from eskel_core.piece import resolve_bench, write_piece
from eskel_core.rehearsal import HeatRequest, TorchFactor, without_credits
from eskel_server.accounts import Missing
from eskel_server.bench import bench_of
from eskel_server.pieces import document_of, plan_of

from .calibration import factor_of
from .queue import Job, ask, look

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow


def ask_for(
    row: PieceRow,
    kind: str,
    heat_no: int,
    request: HeatRequest,
    *,
    behind: bool = False,
) -> Job:
    """Ask for a rehearsal of a heat or of all of them, or for what would help; names and notes of the piece do not matter to it."""
    piece = document_of(row)
    house, bench = bench_of(row.workshop)
    chosen = resolve_bench(bench, piece.bench)
    plain = piece.model_copy(update={"notes": "", "rehearsals": ()})
    if kind == "piece":
        # All of it on its own bench, from nothing that was rehearsed before.
        plain, heat_no, request = without_credits(plain), 0, HeatRequest()
    known = factor_of(request.torch or chosen.torch or "")
    hand = TorchFactor(round(known.factor, 4), round(known.spread, 4))
    asked: dict[str, Any] = {
        "kind": kind,
        "piece": write_piece(plain),
        "house": house.model_dump_json(),
        "bench": bench.model_dump_json(),
        "heat_no": heat_no,
        "request": request.model_copy(update={"hand": hand}).model_dump(mode="json"),
    }
    return ask(asked, behind=behind)


def job_of(name: str) -> Job:
    """Give a job; raise `Missing` where it is not kept any more."""
    job = look(name)
    if job is None:
        raise Missing("rehearsal", name)
    return job


def stale_heats(row: PieceRow) -> list[int]:
    """Give the heats whose copied rehearsal was made with other forms than the piece has now."""
    piece = document_of(row)
    if not piece.rehearsals:
        return []
    from eskel_core.rehearsal import out_of_date

    planned = plan_of(row)
    return list(out_of_date(piece, planned)) if planned.conflict is None else []

"""What is left of a run, planned anew from the piece as it was made: by another run that goes on from it, or as a piece of its own."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from django.db import transaction

from eskel_core.faults import Refused
from eskel_core.piece import Bench, Piece, piece_from_object, piece_object, resolve_bench
from eskel_core.plan import Plan
from eskel_core.run import Otherwise, as_made, going_on, otherwise
from eskel_server.accounts import Clash, Unreadable
from eskel_server.bench import bench_of
from eskel_server.pieces import content_of, plan_or_word
from eskel_server.pieces.actions import begin_piece

from .actions import begin_run, stop_run
from .following import state_of
from .models import Run
from .queries import plan_of_run, run_of, steps_of_run

if TYPE_CHECKING:
    from eskel_server.pieces import PieceRow


@dataclass(frozen=True)
class Rest:
    """The piece as it was made, with what is otherwise; the plan of what is left of it; the bench of the workshop, laid under the piece's."""

    piece: Piece
    plan: Plan
    bench: Bench


def rest_of(run: Run, told: Otherwise) -> Rest:
    """Plan what is left of a run. Raises `Refused` where the piece has not what is told of, `Unreadable` where the run cannot be read."""
    house, bench = bench_of(run.workshop)
    piece, at_hand = piece_so_far(run, told, bench), bench
    plan = plan_or_word(content_of(piece), house, bench, whole=True)
    if plan.steps and run.state == Run.GOING:
        plan = going_on(_whole_plan(run), state_of(run), plan, piece)
    return Rest(piece, plan, resolve_bench(at_hand, piece.bench))


def piece_so_far(run: Run, told: Otherwise, bench: Bench) -> Piece:
    """Give the piece of a run as it was made so far, with what is otherwise."""
    try:
        piece = piece_from_object(dict(run.document))
    except Refused as problem:
        raise Unreadable("run", run.pk, problem) from problem
    made = as_made(piece, _whole_plan(run), state_of(run))
    return otherwise(made, piece, resolve_bench(bench, piece.bench), told)


def _whole_plan(run: Run) -> Plan:
    """Give the plan of a run with the steps that were put in behind its own."""
    return plan_of_run(run).model_copy(update={"steps": steps_of_run(run)})


def made_in(key: int) -> Piece:
    """Give the piece of a run as it was made so far; raise `Missing` when there is no such run."""
    run = run_of(key)
    return piece_so_far(run, Otherwise(), bench_of(run.workshop)[1])


@transaction.atomic
def go_on(run: Run, turn: str, told: Otherwise, confirmed: frozenset[tuple[str, int | None]]) -> Run:
    """Stop a run at the turn where it stands, and begin one that goes on from it by the plan of what is left."""
    kept = Run.objects.select_for_update().get(pk=run.pk)
    if kept.state != Run.GOING or kept.turn != turn:
        raise Clash(
            "turn", turn, f"the run stands at step {kept.position} by now", "Look again at what is left."
        )
    rest = rest_of(kept, told)
    if rest.plan.conflict is not None:
        raise Clash(
            "piece",
            kept.piece_name,
            "what is left has no plan as it is",
            "Tell what is otherwise: another solder at hand, or a join that is open.",
        )
    if not rest.plan.steps:
        raise Clash("piece", kept.piece_name, "something is left to be done", "Go on to the end of this run.")
    stop_run(kept, kept.position)
    return begin_run(kept.workshop_id, kept.piece, rest.piece, rest.plan, confirmed, continues=kept)


def begin_from(run: Run, told: Otherwise, name: str) -> PieceRow:
    """Begin a piece that is there as far as a run has made it."""
    piece = piece_so_far(run, told, bench_of(run.workshop)[1])
    document = {**piece_object(piece), "name": name or piece.name}
    return begin_piece(run.workshop, document, f"as made in the run of {run.piece_name}")

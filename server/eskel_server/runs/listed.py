"""What a log gives out: its runs as files, the outcomes of its runs as rows."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from eskel_core.log import LoggedOutcome
from eskel_core.plan import HeatStep
from eskel_core.run import RunFile
from eskel_server.accounts import Unreadable

from .asked import Asked, Chosen, find_runs
from .queries import flame_of, marked, plan_of_run, runs_of, standing_outcomes, standing_signs

if TYPE_CHECKING:
    from django.db.models import QuerySet

    from .models import Run

MOST_IN_TABLE = 2_000
MOST_IN_FILE = 500
MOST_AT_ONCE = 50


def runs_in_log() -> int:
    """Give how many runs there are."""
    return runs_of().count()


def files_in_log(asked: Asked, part: int = 1) -> Iterator[RunFile]:
    """Give a part of the runs that are found as files, the newest first; one that cannot be read is left out."""
    from .happened import file_of

    for run in (
        _found(asked)
        .defer(None)[(part - 1) * MOST_IN_FILE : part * MOST_IN_FILE]
        .iterator(chunk_size=MOST_AT_ONCE)
    ):
        try:
            yield file_of(run)
        except Unreadable:
            continue


def _found(asked: Asked) -> QuerySet[Run]:
    runs = runs_of()
    if asked.words or asked.of or asked.since:
        runs = runs.filter(pk__in=[line.id for line in find_runs(Chosen(asked), MOST_IN_TABLE)])
    return runs


def outcomes_in_log(asked: Asked) -> Iterator[LoggedOutcome]:
    """Give the outcomes that stand of the runs that are found: the newest run first, each in the order of its work."""
    for run in marked(_found(asked)).defer("plan").iterator(chunk_size=MOST_AT_ONCE):
        yield from _outcomes_of(run)


def _outcomes_of(run: Run) -> Iterator[LoggedOutcome]:
    rows = (
        run.records.filter(outcomes__taken_back_at=None, outcomes__isnull=False)
        .distinct()
        .order_by("started_at", "pk")
        .select_related("foretold")
        .prefetch_related(standing_signs("signs"), standing_outcomes("outcomes"))
    )
    try:
        steps = {step.n: step for step in plan_of_run(run).steps}
    except Unreadable:
        steps = {}  # what was said stands, though nobody knows any more of which solder it was
    kinds = _kinds_of(run)
    for record in rows:
        step = steps.get(record.n)
        heat = step if isinstance(step, HeatStep) else None
        solders = {row.join: row.solder or "" for row in heat.joins} if heat else {}
        told = {row.join: row.kind for row in heat.joins} if heat else {}
        foretold = getattr(record, "foretold", None)
        lit, off = flame_of(record, foretold.stages if foretold else 0)
        for said in record.outcomes.all():
            yield LoggedOutcome(
                run=run.pk,
                piece_name=run.piece_name,
                began_at=run.started_at,
                step=record.n,
                heat_no=heat.heat_no if heat else None,
                again=record.again,
                join=said.join,
                kind=kinds.get(said.join) or told.get(said.join, ""),
                solder=solders.get(said.join, ""),
                lit_at=lit,
                off_at=off if lit else None,
                said_at=said.at,
                outcome=said.outcome,
                note=record.note,
            )


def _kinds_of(run: Run) -> dict[str, str]:
    """Give the kind of each join of the piece that a run is of, as the file had it."""
    rows = run.document.get("joins", []) if isinstance(run.document, dict) else []
    return {str(row.get("id")): str(row.get("kind", "")) for row in rows if isinstance(row, dict)}

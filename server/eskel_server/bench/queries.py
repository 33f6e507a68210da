"""What can be asked of the bench."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_core.faults import Refused
from eskel_core.piece import Bench, HouseOverrides, KeptBench, read_bench
from eskel_server.accounts import Unreadable
from eskel_server.edge import current_visit

if TYPE_CHECKING:
    from eskel_server.accounts import Workshop

    from .models import BenchRow


def bench_of(workshop: Workshop) -> tuple[HouseOverrides, Bench]:
    """Give a workshop's house rules and bench; what it has not set is left to the shipped ones."""
    kept = current_visit().once(f"bench of {workshop.pk}", lambda: _kept(row_of(workshop)))
    return kept.house, kept.bench


def row_of(workshop: Workshop) -> BenchRow:
    """Give the row in which a workshop's bench is kept."""
    from .models import BenchRow

    return BenchRow.objects.get_or_create(workshop=workshop)[0]


def _kept(row: BenchRow) -> KeptBench:
    try:
        return read_bench({"format": row.format, "house": row.house, "bench": row.bench})
    except Refused as problem:
        raise Unreadable("bench", row.pk, problem) from problem

"""What can be asked of the bench."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_core.piece import Bench, HouseOverrides

if TYPE_CHECKING:
    from eskel_server.accounts.models import Workshop


def bench_of(workshop: Workshop) -> tuple[HouseOverrides, Bench]:
    """Give a workshop's house rules and bench; what it has not set is left to the shipped ones."""
    from .models import BenchRow

    row, _ = BenchRow.objects.get_or_create(workshop=workshop)
    return HouseOverrides.model_validate(row.house), Bench.model_validate(row.bench)

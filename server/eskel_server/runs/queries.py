"""What can be asked of runs."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_core.plan import Plan, Step
from eskel_server.accounts import Missing, current_workshop

if TYPE_CHECKING:
    from django.db.models import QuerySet

    from .models import Run, StepRecord


def runs_of() -> QuerySet[Run]:
    """Give every run of this workshop, the newest first."""
    from .models import Run

    return Run.objects.filter(workshop=current_workshop()).prefetch_related("records__outcomes")


def run_of(key: int) -> Run:
    """Give a run of this workshop; raise `Missing` when there is none."""
    row = runs_of().filter(pk=key).first()
    if row is None:
        raise Missing("run", key)
    return row


def plan_of_run(run: Run) -> Plan:
    """Give the plan that a run follows, as it was when it began."""
    return Plan.model_validate(run.plan)


def step_of(run: Run) -> Step:
    """Give the step at which a run stands."""
    return plan_of_run(run).steps[run.position - 1]


def record_of(run: Run) -> StepRecord:
    """Give the record of the step at which a run stands."""
    return run.records.get(n=run.position)

"""The queue of rehearsals: kept in the database, worked off by any number of workers, stopped at a word.

What was worked out once is there at once. What is being looked at is worked out before what was only asked for behind it;
of the former the one asked for last. A worker that ends in the middle loses nothing: its job is taken up by another.
"""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any, Literal, cast

from django.db import transaction
from django.utils import timezone
from procrastinate.contrib.django import app

from .models import RehearsalRow
from .working import core_stamp

State = Literal["waiting", "running", "done", "stopped", "failed"]
WAITING, MOST_KEPT = "waiting for the one before", 500
TASK = "eskel_server.rehearsals.tasks.rehearse"
# Quarters of a second since then are the order among what is looked at; what is only behind it has none.
_SINCE, _A_SECOND = datetime(2026, 1, 1, tzinfo=UTC), 4


@dataclass(frozen=True)
class Job:
    """One rehearsal asked for: how far it is, and what came of it."""

    id: str
    state: State
    what: str
    share: float
    result: dict[str, Any] = field(default_factory=dict)
    faults: list[dict[str, Any]] = field(default_factory=list)


def ask(asked: dict[str, Any], *, behind: bool = False) -> Job:
    """Ask for a rehearsal; the same one again is the same job, unless it was stopped or failed.

    One that is asked for `behind` another waits until nothing is left that is looked at.
    """
    text = json.dumps(asked, sort_keys=True) + core_stamp()
    content = hashlib.sha256(text.encode()).hexdigest()[:24]
    with transaction.atomic():
        row, new = RehearsalRow.objects.select_for_update().get_or_create(
            content=content, defaults={"asked": asked, "what": WAITING}
        )
        again = row.state in ("stopped", "failed")
        if again:
            row.tries += 1
            row.state, row.what, row.share, row.faults = "waiting", WAITING, 0.0, []
        if new or again or (row.state == "waiting" and not behind):
            _enqueue(row, behind=behind)
        row.looked_at = timezone.now()
        row.save()
    if new:
        _forget()
    return _job(row)


def look(name: str) -> Job | None:
    """Give a job by its name; None where it is not kept, or was asked for anew."""
    content, _, tries = name.rpartition("-")
    row = RehearsalRow.objects.filter(content=content).defer("asked").first()
    return _job(row) if row is not None and str(row.tries) == tries else None


def stop(name: str) -> Job | None:
    """Stop a job: one that waits is not begun, one that is worked on ends at its next breath."""
    with transaction.atomic():
        content, _, tries = name.rpartition("-")
        row = RehearsalRow.objects.select_for_update().filter(content=content).first()
        if row is None or str(row.tries) != tries:
            return None
        if row.state in ("waiting", "running"):
            if row.job is not None:
                app.job_manager.cancel_job_by_id(row.job, abort=True, delete_job=True)
            row.state, row.what, row.job = "stopped", "stopped", None
            row.save()
    return _job(row)


def _enqueue(row: RehearsalRow, *, behind: bool) -> None:
    """Give a row its place in the queue; one that waits further back leaves that place."""
    if row.job is not None:
        app.job_manager.cancel_job_by_id(row.job, delete_job=True)
    priority = 0 if behind else int((timezone.now() - _SINCE).total_seconds() * _A_SECOND)
    row.job = app.configure_task(TASK, priority=priority, lock=row.content).defer(content=row.content)


def _forget() -> None:
    """Let go of what nobody has looked at for longest."""
    ended = RehearsalRow.objects.exclude(state__in=("waiting", "running")).order_by("-looked_at")
    old = list(ended.values_list("pk", flat=True)[MOST_KEPT : MOST_KEPT + 100])
    if old:
        RehearsalRow.objects.filter(pk__in=old).delete()


def _job(row: RehearsalRow) -> Job:
    return Job(row.name, cast(State, row.state), row.what, row.share, row.result, row.faults)

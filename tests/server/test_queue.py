"""The queue of rehearsals: order, stopping, and workers that end in the middle; with real processes on a real database."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

import pytest
from django.db import connection
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

from eskel_server.rehearsals import queue
from eskel_server.rehearsals.models import RehearsalRow
from eskel_server.rehearsals.tasks import HEARTBEAT_S, LOST_AFTER_S, take_up
from eskel_server.rehearsals.worker import work
from eskel_server.rehearsals.working import work_out
from tests.server.conftest import example

pytestmark = pytest.mark.django_db(transaction=True)
ROOT = Path(__file__).parents[2]
PATIENCE_S = 60.0


def asked(heat_no: int = 1, **other: Any) -> dict[str, Any]:
    return {
        "kind": "heat",
        "piece": json.dumps(example("stone-set-finial")),
        "house": "{}",
        "bench": "{}",
        "heat_no": heat_no,
        "request": {"habit": "even", "hand": {"factor": 1.0, "spread": 0.25}} | other,
    }


def work_off() -> None:
    work(wait=False, listen_notify=False, install_signal_handlers=False)


@contextmanager
def worker() -> Iterator[subprocess.Popen[bytes]]:
    """A worker as `bin/demo` starts one, on the database of the tests."""
    process = subprocess.Popen(
        [sys.executable, str(ROOT / "bin" / "lib" / "process.py"), "worker"],
        env={
            **os.environ,
            "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}",
            "DJANGO_SETTINGS_MODULE": "eskel_server.settings",
            "ESKEL_DB_NAME": str(connection.settings_dict["NAME"]),
        },
    )
    try:
        yield process
    finally:
        process.kill()
        process.wait()


def until(come: Callable[[], bool]) -> None:
    """Look again and again until something has come, for a minute at most."""
    late = time.monotonic() + PATIENCE_S
    while not come():
        assert time.monotonic() < late
        time.sleep(0.02)


def state(job: queue.Job) -> str:
    found = queue.look(job.id)
    return "gone" if found is None else found.state


def test_what_is_looked_at_comes_first_and_of_that_what_was_asked_for_last(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    begun: list[int] = []
    monkeypatch.setattr(
        "eskel_server.rehearsals.tasks.work_out", lambda told, _: begun.append(told["heat_no"]) or {}
    )
    queue.ask(asked(1), behind=True)
    queue.ask(asked(2), behind=True)
    queue.ask(asked(3), behind=True)
    queue.ask(asked(4))
    time.sleep(0.26)  # the order is told in quarters of a second
    queue.ask(asked(3))
    work_off()
    assert begun == [3, 4, 1, 2]
    assert set(RehearsalRow.objects.values_list("state", flat=True)) == {"done"}


def test_the_same_is_one_job_and_what_was_stopped_is_asked_for_anew() -> None:
    first = queue.ask(asked())
    assert queue.ask(asked()).id == first.id
    stopped = queue.stop(first.id)
    assert stopped is not None
    assert stopped.state == "stopped"
    again = queue.ask(asked())
    assert again.id != first.id
    assert queue.look(first.id) is None
    work_off()
    assert state(again) == "done"
    assert queue.ask(asked()).id == again.id
    assert queue.stop("nothing-1") is None


def test_what_breaks_is_told_and_can_be_asked_for_again(monkeypatch: pytest.MonkeyPatch) -> None:
    def breaks(*_: Any) -> Any:
        raise ZeroDivisionError("by zero")

    monkeypatch.setattr("eskel_server.rehearsals.tasks.work_out", breaks)
    job = queue.ask(asked())
    work_off()
    told = queue.look(job.id)
    assert told is not None
    assert (told.state, told.what) == ("failed", "ZeroDivisionError: by zero")
    monkeypatch.undo()
    again = queue.ask(asked())
    work_off()
    assert state(again) == "done"


def test_another_core_works_out_anew(monkeypatch: pytest.MonkeyPatch) -> None:
    first = queue.ask(asked())
    monkeypatch.setattr("eskel_server.rehearsals.queue.core_stamp", lambda: "another")
    assert queue.ask(asked()).id != first.id


def test_only_so_many_are_kept(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("eskel_server.rehearsals.queue.MOST_KEPT", 2)
    monkeypatch.setattr("eskel_server.rehearsals.tasks.work_out", lambda told, _: {})
    jobs = []
    for heat_no in range(1, 6):
        jobs.append(queue.ask(asked(heat_no)))
        work_off()
    assert [state(job) for job in jobs] == ["gone", "gone", "done", "done", "done"]


def test_a_job_that_ends_its_workers_is_given_up(monkeypatch: pytest.MonkeyPatch) -> None:
    job = queue.ask(asked())
    row = RehearsalRow.objects.get()
    with connection.cursor() as cursor:
        cursor.execute("UPDATE procrastinate_jobs SET attempts = 5 WHERE id = %s", [row.job])
    work_off()
    assert state(job) == "failed"


def test_what_was_left_behind_is_looked_for_every_few_seconds() -> None:
    (told,) = [one for one in app.periodic_registry.periodic_tasks.values() if one.task.name == take_up.name]
    began = 1_795_000_003.0
    ticks = [told.croniter.get_next(ret_type=float, start_time=began)]
    ticks.append(told.croniter.get_next(ret_type=float, start_time=ticks[0]))
    assert ticks[0] - began <= 5
    assert ticks[1] - ticks[0] == 5
    assert LOST_AFTER_S > 2 * HEARTBEAT_S


@pytest.mark.long
def test_one_that_is_worked_on_is_stopped_and_the_worker_goes_on() -> None:
    with worker():
        first = queue.ask(asked(habit="best"))
        until(lambda: state(first) == "running")
        queue.stop(first.id)
        second = queue.ask(asked(1))
        until(lambda: state(second) == "done")
        assert state(first) == "stopped"


@pytest.mark.long
@pytest.mark.parametrize("how", ["killed", "asked to end"])
def test_a_worker_that_ends_in_the_middle_loses_nothing(how: str) -> None:
    what = asked(habit="best")
    with worker() as first:
        job = queue.ask(what)
        until(lambda: state(job) == "running")
        if how == "killed":
            first.kill()
            first.wait()
        else:
            first.terminate()
            first.wait(PATIENCE_S)
    assert state(job) == "running"
    with connection.cursor() as cursor:
        cursor.execute("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '1 hour'")
    # The worker may have put it into the queue itself.
    with suppress(AlreadyEnqueued):
        take_up.defer(timestamp=0)
    work_off()
    told = queue.look(job.id)
    assert told is not None
    assert told.state == "done"
    assert told.result == work_out(what, lambda *_: None)

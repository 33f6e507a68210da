"""Long answers: sent piece by piece, ended where the reader goes, with the seat lent out; the log's files read in flat memory."""

from __future__ import annotations

import asyncio
import importlib
import threading
from collections.abc import Iterator
from typing import Any

import pytest
from django.db import connection
from django.http import HttpRequest, HttpResponse
from django.test import override_settings
from django.test.utils import CaptureQueriesContext
from django.urls import path

from eskel_server.edge import Edge
from eskel_server.runs.models import OutcomeRecord, Run, StepRecord
from eskel_server.seats import Seats
from eskel_server.streamed import Streamed
from tests.server.conftest import Caller
from tests.server.test_edge import LIMIT_S, Request
from tests.server.test_runs import run

__all__ = ["run"]

ENDED = threading.Event()


def without_end(request: HttpRequest) -> Streamed:
    def pieces() -> Iterator[bytes]:
        ENDED.clear()
        try:
            while True:
                yield b"x" * 1000
        finally:
            ENDED.set()

    return Streamed(pieces(), "text/plain", "long.txt")


def quick(request: HttpRequest) -> HttpResponse:
    return HttpResponse(b"here")


urlpatterns = [path("long", without_end), path("quick", quick)]


def test_a_long_answer_holds_no_seat_and_ends_with_its_reader() -> None:
    async def scenario() -> None:
        served = Edge(Seats(1), longest_s=LIMIT_S)
        reading = Request("long")
        answer = asyncio.create_task(reading.to(served))
        async with asyncio.timeout(LIMIT_S):
            while len(reading.sent) < 3:
                await asyncio.sleep(0.01)
            assert await Request("quick").to(served) == (200, b"here")
            reading.gone.set()
            await answer
            assert await asyncio.to_thread(ENDED.wait, LIMIT_S)
            while len(asyncio.all_tasks()) > 1:
                await asyncio.sleep(0.01)

    with override_settings(ROOT_URLCONF=__name__, MIDDLEWARE=[]):
        asyncio.run(scenario())


def say_of_the_first_heat(run: dict[str, Any], call: Caller) -> None:
    while run["step"]["kind"] != "heat":
        run = call.press(run, "next", confirmed=True)
    call.say(run, "flowed")


@pytest.mark.django_db
def test_the_table_of_outcomes_takes_as_many_questions_for_many_runs_as_for_few(
    run: dict[str, Any], call: Caller
) -> None:
    say_of_the_first_heat(run, call)
    first = Run.objects.get()

    def questions() -> tuple[int, int]:
        with CaptureQueriesContext(connection) as asked:
            rows = call.client.get("/api/log/outcomes.csv").getvalue().count(b"\n") - 1
        return rows, len(asked)

    rows, few = questions()
    assert rows > 0
    for _ in range(150):
        copy_of(first)
    assert questions() == (151 * rows, few)


def copy_of(first: Run) -> None:
    """Put a run like the first one into the log."""
    records = list(StepRecord.objects.filter(run_id=first.pk))
    copied = Run.objects.get(pk=first.pk)
    copied.pk = None
    copied.save()
    for record in records:
        said = list(OutcomeRecord.objects.filter(record_id=record.pk))
        record.pk, record.run = None, copied
        record.save()
        for word in said:
            word.pk, word.run, word.record = None, copied, record
            word.save()


@pytest.mark.django_db
def test_which_heat_a_step_is_of_is_told_of_runs_from_before(run: dict[str, Any], call: Caller) -> None:
    say_of_the_first_heat(run, call)
    was = dict(StepRecord.objects.values_list("turn", "heat_no"))
    assert 1 in was.values()
    assert None in was.values()
    StepRecord.objects.update(heat_no=None)
    told = importlib.import_module("eskel_server.runs.migrations.0014_steprecord_heat_no").TELL_HEATS
    with connection.cursor() as cursor:
        cursor.execute(told)
    assert dict(StepRecord.objects.values_list("turn", "heat_no")) == was

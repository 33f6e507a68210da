"""The demo's three months of runs: what is pressed in them counts, none of it is to come, and they are loaded once."""

from __future__ import annotations

import random
from collections import Counter
from datetime import UTC, datetime
from typing import Any

import pytest
from django.core.management import call_command
from django.utils import timezone

from eskel_core.piece import piece_from_object
from eskel_core.plan import plan
from eskel_core.run import faces_of, run_state
from eskel_server.runs.history import Day, carried_out, days_of
from eskel_server.runs.models import EventRecord, OutcomeRecord, Run
from tests.server.conftest import Caller, example

BEGAN = datetime(2026, 3, 2, 9, 30, tzinfo=UTC)


@pytest.mark.parametrize("seed", range(12))
def test_whatever_the_dice_say_every_press_counts_and_the_run_ends(seed: int) -> None:
    planned = plan(piece_from_object(example("reed-brooch")))
    events = carried_out(planned, BEGAN, Day(slow=1.2, clumsy=6), random.Random(seed), "shown-0001")
    state = run_state(faces_of(planned.steps), round(BEGAN.timestamp() * 1000), events)
    assert state.aside == ()
    assert state.standing in ("finished", "stopped")
    assert [event.seq for event in events] == list(range(1, len(events) + 1))
    times = [event.at_ms for event in events]
    assert times == sorted(times)


def test_bad_days_have_more_tries_than_good_ones() -> None:
    planned = plan(piece_from_object(example("reed-brooch")))
    tries = {
        clumsy: Counter(
            event.kind
            for seed in range(30)
            for event in carried_out(planned, BEGAN, Day(1, clumsy), random.Random(seed), "shown-0001")
        )["again"]
        for clumsy in (0.0, 5.0)
    }
    assert tries[0.0] == 0
    assert tries[5.0] > 10


def test_the_days_are_before_today_and_none_is_a_free_one() -> None:
    days = list(days_of(BEGAN, random.Random(3)))
    assert len(days) > 25
    assert all(began < BEGAN and began.weekday() not in (2, 5, 6) for began, _ in days)
    assert (BEGAN - days[0][0]).days > 80


@pytest.mark.long
@pytest.mark.django_db
def test_the_history_is_loaded_once_and_not_where_anything_was_run(call: Caller) -> None:
    call_command("load_demo")
    call_command("load_history")
    runs = Run.objects.count()
    assert runs > 25
    assert EventRecord.objects.filter(told__at_ms__gt=round(timezone.now().timestamp() * 1000)).count() == 0
    assert not Run.objects.filter(state="going").exists()
    call_command("load_history")
    assert Run.objects.count() == runs
    sums: dict[str, Any] = call.get("/log/sums")[1]
    assert sums["times"] == OutcomeRecord.objects.count()
    assert len(sums["months"]) >= 3
    assert len(sums["heats"]) > 50
    assert len(call.get("/torches")[1]) >= 2


def test_no_history_is_loaded_into_a_workshop_of_ones_own(workshop: Any) -> None:
    call_command("load_history")
    assert not Run.objects.exists()

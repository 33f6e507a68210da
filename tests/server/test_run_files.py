"""Runs out of a log and into another: the same run, whole or not at all, each once; what is broken is told by name."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from eskel_server.runs.models import EventRecord, FacetMonth, Run, StepRecord
from eskel_server.runs.queries import run_of
from tests.server.conftest import Caller
from tests.server.test_log_asked import begun, counted, recounted, through
from tests.server.test_runs_happened import plain, state_of

pytestmark = pytest.mark.django_db


@pytest.fixture
def files(lantern: dict[str, Any], call: Caller) -> list[dict[str, Any]]:
    """Two runs as files, the log empty."""
    through(begun(lantern, call), call, ["short", "flowed", "melted"], note="pin it next time")
    through(begun(lantern, call), call, ["flooded"])
    told = call.get("/log/runs.json")[1]
    assert told["format"] == "eskel-log/1"
    runs: list[dict[str, Any]] = told["runs"]
    assert len(runs) == 2
    return runs


def emptied() -> None:
    Run.objects.all().delete()
    FacetMonth.objects.all().delete()


def test_a_run_that_is_taken_in_is_the_run_that_was_taken_out(
    files: list[dict[str, Any]], call: Caller
) -> None:
    was = {run.started_at: plain(state_of(run_of(run.pk))) for run in Run.objects.all()}
    emptied()
    for file in files:
        status, answer = call.post("/runs/file", **file)
        assert status == 201, answer
    assert {run.started_at: plain(state_of(run_of(run.pk))) for run in Run.objects.all()} == was
    assert call.get("/log/runs.json")[1]["runs"] == files
    assert counted() == recounted()
    assert {run.piece_id for run in Run.objects.all()} == {call.get("/pieces")[1][0]["id"]}
    assert [line["notes"] for line in call.get("/log", words="pin it")[1]] == [1]


def test_a_run_is_taken_in_once(files: list[dict[str, Any]], call: Caller) -> None:
    status, answer = call.post("/runs/file", **files[0])
    assert (status, answer["faults"][0]["value"]) == (409, "Hollow lantern drop")
    assert Run.objects.count() == 2


def late(file: dict[str, Any]) -> dict[str, Any]:
    events = [dict(event) for event in file["events"]]
    events[-1]["at_ms"] = round((timezone.now() + timedelta(days=2)).timestamp() * 1000)
    return file | {"events": events}


@pytest.mark.long
@pytest.mark.parametrize(
    ("broken", "path"),
    [
        (lambda file: file | {"format": "eskel-run/9"}, "format"),
        (lambda file: file | {"piece_name": ""}, "piece_name"),
        (lambda file: file | {"began_ms": "yesterday"}, "began_ms"),
        (lambda file: file | {"began_ms": 10**14}, "began_ms"),
        (lambda file: file | {"document": {}}, "format"),
        (lambda file: file | {"plan": {"format": "eskel-plan/1"}}, "piece"),
        (lambda file: file | {"events": [file["events"][0] | {"kind": "sing"}]}, "events[0]"),
        (lambda file: file | {"events": [file["events"][0]] * 2}, "events"),
        (
            lambda file: file | {"events": [file["events"][0] | {"text": "x" * 1_000_000, "kind": "note"}]},
            "events[0]",
        ),
        (late, "events"),
        (lambda file: file | {"colour": "red"}, "colour"),
    ],
)
def test_a_broken_run_is_refused_by_name_and_nothing_is_kept_of_it(
    broken: Any, path: str, files: list[dict[str, Any]], call: Caller
) -> None:
    emptied()
    status, answer = call.post("/runs/file", **broken(files[0]))
    assert status == 422, answer
    assert answer["faults"][0]["path"].startswith(path), answer
    assert (Run.objects.count(), EventRecord.objects.count(), StepRecord.objects.count()) == (0, 0, 0)


def table(call: Caller) -> str:
    text: str = call.client.get("/api/log/outcomes.csv").getvalue().decode()
    return text


def test_a_table_that_is_taken_in_has_the_outcomes_that_were_taken_out(
    files: list[dict[str, Any]], call: Caller
) -> None:
    text = table(call)
    was = text.splitlines()
    Run.objects.all().delete()
    FacetMonth.objects.all().delete()
    status, told = call.post("/runs/table", text=text)
    assert status == 200, told
    assert (told["of"], told["next"], [one["faults"] for one in told["rows"]]) == (2, None, [[], []])
    # Numbers of runs and steps are others; names, kinds, solders, words and seconds are the same, and the flame went off
    # within the second that a table tells.
    cells = [row.split(",") for row in table(call).splitlines()]
    before = [row.split(",") for row in was]
    assert sorted((*row[6:10], *row[11:]) for row in cells) == sorted(
        (*row[6:10], *row[11:]) for row in before
    )
    assert counted() == recounted()
    assert {run.state for run in Run.objects.all()} == {"finished"}
    view = call.get(f"/runs/{Run.objects.first().pk}")[1]
    assert view["records"]


def test_of_a_table_what_is_there_already_or_broken_is_left_out_by_name(
    files: list[dict[str, Any]], call: Caller
) -> None:
    text = table(call)
    cells = text.splitlines()[1].split(",")
    broken = ",".join([cells[0], "Other", *cells[2:13], "dripped", *cells[14:]])
    told = call.post("/runs/table", text=f"{text}{broken}\n")[1]["rows"]
    assert [one["name"].split(",")[0] for one in told] == ["Hollow lantern drop"] * 2 + ["Other"]
    assert [one["faults"][0]["code"] for one in told[:2]] == ["clash", "clash"]
    assert told[2]["faults"]
    assert Run.objects.count() == 2
    assert call.post("/runs/table", text="x" * 5_000_001)[0] == 422


def test_a_long_table_is_taken_in_parts_and_none_of_it_twice(
    files: list[dict[str, Any]], call: Caller, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("eskel_server.runs.around.LONGEST_TAKING_S", 0.0)
    text = table(call)
    Run.objects.all().delete()
    FacetMonth.objects.all().delete()
    first = call.post("/runs/table", text=text)[1]
    assert (first["of"], first["next"], len(first["rows"])) == (2, 1, 1)
    second = call.post("/runs/table", text=text, skip=1)[1]
    assert (second["next"], [one["faults"] for one in second["rows"]]) == (None, [[]])
    assert Run.objects.count() == 2
    again = call.post("/runs/table", text=text)[1]
    assert [one["faults"][0]["code"] for one in again["rows"]] == ["clash"]
    assert Run.objects.count() == 2
    assert counted() == recounted()

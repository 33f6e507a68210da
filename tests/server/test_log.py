"""What the log knows beside its lines: how long work takes."""

from __future__ import annotations

import csv
from datetime import timedelta
from typing import Any

import pytest

from eskel_server.runs.models import ForetoldHeat, StayRecord, StepRecord
from tests.server.conftest import Caller

pytestmark = pytest.mark.django_db


def test_the_log_knows_how_long_work_takes(workshop: Any, call: Caller) -> None:
    """Three runs of a plate drilled in two alike: 3, 4 and 60 minutes on both; one minute is for laying out."""
    plate = {
        "id": "p",
        "metal": "sterling-925",
        "count": 2,
        "form": {"kind": "sheet", "thickness_mm": 1, "outline": {"kind": "disc", "diameter_mm": 9}},
    }
    work = [
        {"id": "d", "kind": "drill", "parts": ["p"]},
        {"id": "t", "kind": "trim", "parts": ["p"], "after": ["d"]},
    ]
    document = {"format": "eskel-piece/1", "name": "Discs", "parts": [plate], "work": work}
    made = call.post("/pieces", document=document)[1]
    assert call.get("/log/minutes") == (200, [])
    stop = made["plan"]["stops"]
    confirmed = [{"code": one["code"], "step": one["step"]} for one in stop]
    for minutes in (3, 4, 60):
        run = call.post("/runs", piece=made["id"], confirmed=confirmed)[1]
        assert (run["step"]["work_kind"], run["step"]["alike"]) == ("drill", 2)
        call.press(call.press(run, "next"), "next", skipped=True)
        stay = StayRecord.objects.get(record__run_id=run["id"], record__n=1)
        stay.entered_at = stay.left_at - timedelta(minutes=minutes)
        stay.save()
    # (4 − 1) ÷ 2; what was skipped is not known.
    assert call.get("/log/minutes") == (200, [{"kind": "drill", "each": 1.5, "times": 3}])


def test_the_outcomes_of_the_log_go_out_as_a_table(lantern: dict[str, Any], call: Caller) -> None:
    """What stands of every try, with its solder and the seconds from the lit flame to the last sign; of the runs found."""
    run = call.post("/runs", piece=lantern["id"], confirmed=stops_of(lantern))[1]
    while run["step"]["kind"] != "heat":
        run = call.press(run, "next", confirmed=True)
    step = run["step"]
    first = step["joins"][0]
    for outcome in ("moved", "short"):
        call.press(run, "outcome", join=first["join"], outcome=outcome)
    call.press(run, "note", text="=too cool")
    rows = table(call, "")
    assert [(row["join"], row["outcome"], row["sound"], row["note"]) for row in rows] == [
        (first["join"], "short", "no", "'=too cool")
    ]
    kinds = {join["id"]: join["kind"] for join in lantern["document"]["joins"]}
    assert (rows[0]["kind"], rows[0]["solder"]) == (kinds[first["join"]], first["solder"])
    assert (rows[0]["heat"], rows[0]["try"], rows[0]["under the flame s"]) == (str(step["heat_no"]), "1", "")
    record = StepRecord.objects.get(run_id=run["id"], n=run["position"])
    for stage, seconds in ((0, 10), (1, 40), (2, 71.5)):
        record.signs.create(stage=stage, at=record.started_at + timedelta(seconds=seconds))
    ForetoldHeat.objects.create(
        record=record, torch="t", heat_no=1, likely_s=60, factor=1, spread=0.2, stages=2
    )
    assert table(call, "lantern")[0]["under the flame s"] == "61.5"
    # Of a heat that was ended before its last sign the seconds run until it was said how it came out.
    record.signs.filter(stage=2).delete()
    said_at = record.outcomes.get(taken_back_at=None).at
    told = table(call, "")[0]
    assert told["flame off"] == said_at.isoformat(timespec="seconds")
    # Where it was pressed that the flame is out, until then.
    record.off_at = record.started_at + timedelta(seconds=52)
    record.save()
    assert table(call, "")[0]["under the flame s"] == "42.0"
    assert table(call, "gap")[0]["outcome"] == "short"
    assert table(call, "nobody wrote this") == []


def stops_of(view: dict[str, Any]) -> list[dict[str, Any]]:
    return [{"code": one["code"], "step": one["step"]} for one in view["plan"]["stops"]]


def table(call: Caller, words: str) -> list[dict[str, str]]:
    answer = call.client.get("/api/log/outcomes.csv", {"words": words})
    assert answer.status_code == 200
    return list(csv.DictReader(answer.getvalue().decode().splitlines()))

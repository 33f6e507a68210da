"""What a smith tells a run beside its outcomes: stops that are confirmed, a tally, a size."""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.core.pieces import EXAMPLES
from tests.server.conftest import Caller
from tests.server.test_runs import on, set_aside

pytestmark = pytest.mark.django_db


def test_a_run_against_a_stop_begins_when_each_is_confirmed(call: Caller, lantern: dict[str, Any]) -> None:
    """The torch was rehearsed and the work settles below the flow point."""
    document = lantern["document"]
    told = {
        "joins": ["rim"],
        "torch": "butane-pencil",
        "surface": "soft-firebrick",
        "flux": "white-paste",
        "settles_c": 640,
        "solders": ["us-medium"],
    }
    stopped = document | {"rehearsals": [told]}
    status, view = call.put(
        f"/pieces/{lantern['id']}", revision=lantern["revision"], document=stopped, what="told"
    )
    assert status == 200, view
    (stop,) = view["plan"]["stops"]
    assert stop["code"] == "torch-too-small"
    status, answer = call.post("/runs", piece=lantern["id"])
    assert (status, answer["faults"][0]["path"]) == (409, "confirmed")
    assert "settles at 640 °C" in answer["faults"][0]["rule"]
    one = {"code": stop["code"], "step": stop["step"]}
    assert call.post("/runs", piece=lantern["id"], confirmed=[one | {"step": 1}])[0] == 409
    assert call.post("/runs", piece=lantern["id"], confirmed=[one])[0] == 201


def test_what_is_alike_is_counted_and_kept(workshop: Any, call: Caller) -> None:
    """Five links closed one after another; the count outlives the page and goes no further than there are."""
    document = json.loads(next(path for path in EXAMPLES if "toggle" in path.name).read_text())
    status, made = call.post("/pieces", name="Links")
    assert status == 201
    status, view = call.put(
        f"/pieces/{made['id']}", revision=made["revision"], document=document, what="links"
    )
    assert status == 200, view
    run = call.post("/runs", piece=made["id"])[1]
    at = next(step["n"] for step in view["plan"]["steps"] if step["alike"] == 5)
    while run["position"] < at:
        run = on(call, run, skipped=run["step"]["kind"] == "heat")
    assert call.press(run, "tally", done=3)["records"][-1]["tally"] == 3
    assert call.press(run, "tally", done=6)["records"][-1]["tally"] == 3
    assert call.press(run, "tally", done=4, lost=2)["records"][-1]["tally"] == 3
    assert set_aside(run) == ["beyond", "beyond"]
    assert call.press(run, "tally", done=2)["records"][-1]["tally"] == 2


def test_a_size_that_is_checked_is_measured_and_kept(workshop: Any, call: Caller) -> None:
    band = {
        "id": "band",
        "metal": "sterling-925",
        "form": {"kind": "strip", "width_mm": 5, "thickness_mm": 1.5, "length_mm": 58, "closed": True},
    }
    document = {
        "format": "eskel-piece/1",
        "name": "Band",
        "parts": [band],
        "joins": [{"id": "seam", "kind": "butt", "between": ["band", "band"]}],
        "work": [
            {"id": "size", "kind": "size", "parts": ["band"], "after": ["seam"]},
            {
                "id": "own",
                "kind": "size",
                "parts": ["band"],
                "after": ["size"],
                "target": {"mm": 17, "within_mm": 0.2},
            },
        ],
    }
    made = call.post("/pieces", name="Band")[1]
    view = call.put(f"/pieces/{made['id']}", revision=made["revision"], document=document, what="band")[1]
    sized = [step for step in view["plan"]["steps"] if step.get("target")]
    # 58 ÷ π − 1.5 = 16.96
    assert [step["target"] for step in sized] == [
        {"mm": 17.0, "within_mm": 0.1, "what": "inside"},
        {"mm": 17.0, "within_mm": 0.2, "what": ""},
    ]
    run = call.post("/runs", piece=made["id"])[1]
    while run["step"]["n"] < sized[0]["n"]:
        run = on(call, run, skipped=run["step"]["kind"] == "heat")
    at = run["position"]
    measured = call.press(run, "measure", what="size_mm", value=17.3)
    kept = call.last
    assert measured["records"][-1]["measures"] == [{"what": "size_mm", "value": 17.3}]
    assert on(call, run)["records"][at - 1]["measures"] == [{"what": "size_mm", "value": 17.3}]
    assert call.press(run, "undo", of=kept)["records"][at - 1]["measures"] == []

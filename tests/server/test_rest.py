"""What is left of a run, planned anew from the piece as it was made: gone on from, or begun as a piece of its own."""

from __future__ import annotations

from typing import Any

import pytest
from django.utils import timezone

from eskel_core.run import faces_of
from eskel_server.runs.models import EventRecord, Run
from eskel_server.runs.queries import plan_of_run
from tests.core.pieces import US, join, plate, wire
from tests.server.conftest import Caller
from tests.server.test_runs_happened import told

pytestmark = pytest.mark.django_db

# Three joins one after another, each held by hand alone: none may run again.
DOCUMENT = {
    "format": "eskel-piece/1",
    "name": "Reed hook",
    "parts": [plate("base"), wire("post"), wire("arm"), wire("tip")],
    "joins": [
        join("foot", "post", "base", holds="hand"),
        join("elbow", "arm", "post", holds="hand", after=["foot"]),
        join("end", "tip", "arm", holds="hand", after=["elbow"]),
    ],
    "bench": {"solders": US},
}


@pytest.fixture
def run(workshop: Any, call: Caller) -> dict[str, Any]:
    status, piece = call.post("/pieces", document=DOCUMENT)
    assert status == 201, piece
    status, view = call.post("/runs", piece=piece["id"])
    assert status == 201, view
    started: dict[str, Any] = view
    return started


def carried_on(call: Caller, run: dict[str, Any], heat_no: int, word: str = "flowed") -> dict[str, Any]:
    """A run that stands at a heat, with a word on each of its joins; those before it flowed."""
    said: list[tuple[str, dict[str, Any]]] = []
    plan = plan_of_run(Run.objects.get(pk=run["id"]))
    for step, face in zip(plan.steps, faces_of(plan.steps), strict=True):
        turn = {"turn": str(step.n)}
        here = getattr(step, "heat_no", 0) == heat_no
        if face.kind == "heat":
            said.append(("lit", turn))
            said += [
                ("outcome", turn | {"join": name, "outcome": word if here else "flowed"})
                for name in face.joins
            ]
        if here:
            break
        said.append(("next", turn | {"confirmed": True}))
    status, answer = call.post(f"/runs/{run['id']}/events", events=told("tablet-1", *said))
    assert status == 200, answer
    view: dict[str, Any] = call.get(f"/runs/{run['id']}")[1]
    assert view["step"]["heat_no"] == heat_no
    return view


def rest(call: Caller, run: dict[str, Any], **otherwise: Any) -> dict[str, Any]:
    status, view = call.post(f"/runs/{run['id']}/rest", **otherwise)
    assert status == 200, view
    seen: dict[str, Any] = view
    return seen


def made_of(view: dict[str, Any]) -> dict[str, str]:
    return {one["id"]: one["solder"] for one in view["joins"] if one["made"]}


def test_what_is_left_is_told_and_nothing_is_changed_by_it(run: dict[str, Any], call: Caller) -> None:
    carried_on(call, run, 1)
    before = EventRecord.objects.count()
    view = rest(call, run)
    assert made_of(view) == {"foot": "us-hard"}
    assert {one["id"]: one["made"] for one in view["parts"]} == {
        "base": True,
        "post": True,
        "arm": False,
        "tip": False,
    }
    assert [heat["title"] for heat in view["heats"]] == ["elbow", "end"]
    taken = {one["id"]: one["takes"] for one in view["joins"]}
    assert taken["foot"] is None
    assert taken["elbow"] in US
    assert [one["id"] for one in view["solders"]] == US
    assert EventRecord.objects.count() == before
    assert Run.objects.count() == 1


def test_a_solder_that_ran_out_is_gone_round(run: dict[str, Any], call: Caller) -> None:
    carried_on(call, run, 1)
    usual = [heat["named"] for heat in rest(call, run)["heats"]]
    other = rest(call, run, ran_out=["us-medium"])
    assert "medium" not in [heat["named"] for heat in other["heats"]]
    assert [one["id"] for one in other["solders"]] == ["us-hard", "us-easy", "us-extra-easy"]
    assert usual != ["medium", "medium"]


def test_where_there_is_no_plan_it_is_said_why(run: dict[str, Any], call: Caller) -> None:
    carried_on(call, run, 2)
    view = rest(call, run, ran_out=["us-medium", "us-easy", "us-extra-easy"])
    assert view["heats"] == []
    assert any("is in stock" in why for why in view["why_not"])
    status, answer = call.post(
        f"/runs/{run['id']}/go-on",
        turn=view["turn"],
        otherwise={"ran_out": ["us-medium", "us-easy", "us-extra-easy"]},
    )
    assert (status, answer["faults"][0]["path"]) == (409, "piece")
    assert Run.objects.get().state == Run.GOING


def test_a_run_goes_on_by_the_plan_of_what_is_left(run: dict[str, Any], call: Caller) -> None:
    """At the flame, the second join moved: it cools and is pickled, then that join and the last are made; the first stays as it is."""
    here = carried_on(call, run, 2, "moved")
    assert made_of(rest(call, run)) == {"foot": "us-hard"}
    status, view = call.post(f"/runs/{run['id']}/go-on", turn=here["turn"])
    assert status == 201, view
    assert [view["steps"][0], view["steps"][1]] == ["cool", "pickle"]
    sheet = call.get(f"/runs/{view['id']}/sheet")[1]
    heats = [step for step in sheet["steps"] if step["kind"] == "heat"]
    assert [[row["join"] for row in heat["joins"]] for heat in heats] == [["elbow"], ["end"]]
    assert [entry["run"] for entry in call.get("/rail")[1]["entries"]] == [view["id"]]
    assert call.get(f"/runs/{run['id']}")[1]["state"] == "stopped"
    assert call.get(f"/runs/{run['id']}/kin")[1] == {"before": None, "after": view["id"]}
    assert call.get(f"/runs/{view['id']}/kin")[1] == {"before": run["id"], "after": None}
    # What was cut for the whole of it is weighed against, not for the rest alone, nor anything twice.
    assert sheet["weighs_g"] == call.get(f"/runs/{run['id']}/sheet")[1]["weighs_g"]


def test_the_rest_of_a_rest_knows_all_that_is_made(run: dict[str, Any], call: Caller) -> None:
    here = carried_on(call, run, 1)
    second = call.post(f"/runs/{run['id']}/go-on", turn=here["turn"])[1]
    carried_on(call, second, 1)
    assert made_of(rest(call, second)).keys() == {"foot", "elbow"}
    assert [heat["title"] for heat in rest(call, second)["heats"]] == ["end"]


def test_a_run_that_moved_on_meanwhile_is_not_gone_on_from(run: dict[str, Any], call: Caller) -> None:
    here = carried_on(call, run, 1)
    now_ms = round(timezone.now().timestamp() * 1000)
    on = told("tablet-2", ("next", {"turn": here["turn"]}), at_ms=now_ms)
    call.post(f"/runs/{run['id']}/events", events=on)
    status, answer = call.post(f"/runs/{run['id']}/go-on", turn=here["turn"])
    assert (status, answer["faults"][0]["path"]) == (409, "turn")
    assert Run.objects.count() == 1


def test_when_all_is_made_nothing_is_left_to_go_on_with(run: dict[str, Any], call: Caller) -> None:
    here = carried_on(call, run, 3)
    assert rest(call, run)["heats"] == []
    status, answer = call.post(f"/runs/{run['id']}/go-on", turn=here["turn"])
    assert (status, answer["faults"][0]["path"]) == (409, "piece")
    assert Run.objects.get().state == Run.GOING


@pytest.mark.parametrize(
    ("told_of", "path"),
    [
        ({"open": ["nowhere"]}, "open.nowhere"),
        ({"made": {"foot": "wax"}}, "joins[0].solder"),
        ({"lengths_mm": {"post": 1e9}}, "lengths_mm.post"),
        ({"lengths_mm": {"post": "long"}}, "lengths_mm.post"),
        ({"lengths": {}}, "lengths"),
    ],
)
def test_what_makes_no_sense_is_refused_by_name(
    told_of: dict[str, Any], path: str, run: dict[str, Any], call: Caller
) -> None:
    for kind, body in (("rest", told_of), ("go-on", {"turn": "1", "otherwise": told_of})):
        status, answer = call.post(f"/runs/{run['id']}/{kind}", **body)
        assert status == 422
        assert answer["faults"][0]["path"].endswith(path)
    assert Run.objects.get().state == Run.GOING


def test_a_piece_is_begun_from_what_was_made(run: dict[str, Any], call: Caller) -> None:
    carried_on(call, run, 2)
    status, begun = call.post(
        f"/runs/{run['id']}/piece", name="Reed hook, the other end", otherwise={"lengths_mm": {"tip": 8}}
    )
    assert status == 201, begun
    piece = call.get(f"/pieces/{begun['id']}")[1]["document"]
    assert piece["name"] == "Reed hook, the other end"
    assert [one.get("made", False) for one in piece["joins"]] == [True, True, False]
    assert piece["parts"][3]["form"]["length_mm"] == 8
    assert Run.objects.get().state == Run.GOING

"""What is offered in a run where something went wrong: by the work as it stands; its steps are kept with the run, each once."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_server.runs.models import OutcomeRecord, Run
from tests.server.conftest import Caller
from tests.server.test_runs import on, until

pytestmark = pytest.mark.django_db


@pytest.fixture
def heat(lantern: dict[str, Any], call: Caller) -> dict[str, Any]:
    """The first heat of the lantern drop, lit and put out."""
    run = until(call, call.post("/runs", piece=lantern["id"])[1], "heat")
    call.press(run, "lit")
    put_out: dict[str, Any] = call.press(run, "off")
    return put_out


def offers(call: Caller, run: dict[str, Any]) -> dict[str, Any]:
    status, found = call.post(f"/runs/{run['id']}/offers", turn=run["turn"])
    assert status == 200, found
    answer: dict[str, Any] = found
    return answer


def test_nothing_is_offered_where_nothing_went_wrong(heat: dict[str, Any], call: Caller) -> None:
    assert offers(call, heat)["offers"] == []
    assert offers(call, call.say(heat, "flowed"))["offers"] == []


def test_a_way_is_taken_by_its_steps_and_the_run_goes_on_through_them(
    heat: dict[str, Any], call: Caller
) -> None:
    short = call.say(heat, "short")
    found = offers(call, short)
    first = found["offers"][0]
    assert first["way"] == "flux-and-solder"
    planned = len(short["steps"])
    numbers = [n for n in first["steps"] if n > planned]
    assert [step["n"] for step in found["steps"]][: len(numbers)] == numbers
    sheet = call.get(f"/runs/{heat['id']}/sheet")[1]
    assert len(sheet["steps"]) == len(sheet["faces"]) == planned + len(found["steps"])
    assert offers(call, short) == found, "the same steps are kept once"
    run = call.press(short, "again", ways=[first["way"]], joins=first["joins"], steps=first["steps"])
    for n, kind in zip(first["steps"], ("cool", "work", "prepare", "heat"), strict=True):
        assert (run["step"]["n"], run["step"]["kind"]) == (n, kind)
        assert run["position"] == heat["position"], "it stands where it was in the plan"
        if kind == "heat":
            call.say(run, "flowed")
        run = on(call, run)
    assert run["step"]["kind"] == "cool"
    assert call.get("/rail")[1]["entries"][0]["position"] == run["position"]


def test_who_asks_of_another_turn_is_told_where_the_run_stands(heat: dict[str, Any], call: Caller) -> None:
    status, answer = call.post(f"/runs/{heat['id']}/offers", turn="1")
    assert (status, answer["faults"][0]["code"]) == (409, "clash")


def test_a_run_with_steps_put_in_goes_from_one_log_into_another(heat: dict[str, Any], call: Caller) -> None:
    from eskel_core.run import read_run_file
    from eskel_server.runs.happened import file_of, take_in

    short = call.say(heat, "short")
    first = offers(call, short)["offers"][0]
    call.press(short, "again", ways=[first["way"]], joins=first["joins"], steps=first["steps"])
    run = Run.objects.get(pk=heat["id"])
    file = file_of(run)
    assert read_run_file(file.model_dump(mode="json"), 10**13) == file
    run.delete()
    again = take_in(file)
    assert again.turn == Run.objects.get(pk=again.pk).turn == str(first["steps"][0])


def test_an_anneal_has_its_word_in_the_log(call: Caller) -> None:
    part = {
        "id": "bar",
        "metal": "copper",
        "temper": "hard",
        "form": {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 3}, "length_mm": 60},
    }
    work = [{"id": "soften", "kind": "anneal", "parts": ["bar"]}]
    document = {"format": "eskel-piece/1", "name": "Bar", "parts": [part], "work": work}
    piece = call.post("/pieces", document=document)[1]
    run = until(call, call.post("/runs", piece=piece["id"])[1], "heat")
    call.press(run, "lit")
    call.press(run, "off")
    said = call.press(run, "outcome", join="soften", outcome="still-hard")
    assert [one["words"] for one in said["records"][-1]["outcomes"]] == ["Still hard"]
    assert [(row.join, row.outcome) for row in OutcomeRecord.objects.all()] == [("soften", "still-hard")]
    assert [one["way"] for one in offers(call, said)["offers"]] == ["again", "as-it-is"]


def test_a_heat_whose_drying_was_left_out_must_not_be(heat: dict[str, Any], call: Caller) -> None:
    call.say(heat, "flowed")
    run = on(call, heat)
    while run["step"].get("work_kind") != "dry":
        run = on(call, run)
    run = on(call, run, skipped=True)
    while run["step"]["kind"] != "heat":
        run = on(call, run)
    (never,) = offers(call, run)["never"]
    assert never["code"] == "wet-hollow"
    assert never["text"] == "Water may stand in the lantern when heat 2 begins."


def test_steel_that_was_left_on_must_not_go_into_the_pot(heat: dict[str, Any], call: Caller) -> None:
    call.say(heat, "flowed")
    run = until(call, on(call, heat), "work")
    assert run["step"]["work_kind"] == "unbind"
    run = on(call, run, skipped=True)
    assert run["step"]["kind"] == "pickle"
    assert [never["code"] for never in offers(call, run)["never"]] == ["steel-in-pickle"]


def test_a_heat_of_the_plan_may_be(heat: dict[str, Any], call: Caller) -> None:
    call.say(heat, "flowed")
    run = until(call, on(call, heat), "heat")
    assert offers(call, run)["never"] == []

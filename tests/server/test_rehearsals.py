"""Rehearsals over HTTP with a real process beside the server: asked, watched, stopped, used; and the bench's torches."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest

from eskel_server.rehearsals.worker import work
from eskel_server.runs.models import StepRecord
from tests.server.conftest import Caller, example

pytestmark = pytest.mark.django_db(transaction=True)


def ask(call: Caller, piece: dict[str, Any], **what: Any) -> dict[str, Any]:
    status, job = call.post(f"/pieces/{piece['id']}/rehearsals", **({"heat_no": 1} | what))
    assert status == 200, job
    told: dict[str, Any] = job
    return told


def finished(call: Caller, job: dict[str, Any]) -> dict[str, Any]:
    """Have a worker work off what is in the queue, and look at a job as the screen does."""
    work(wait=False, listen_notify=False, install_signal_handlers=False)
    _, ended = call.get(f"/rehearsals/{job['id']}")
    assert ended["state"] not in ("waiting", "running"), ended
    told: dict[str, Any] = ended
    return told


@pytest.fixture
def finial(workshop: Any, call: Caller) -> dict[str, Any]:
    made: dict[str, Any] = call.post("/pieces", document=example("stone-set-finial"))[1]
    return made


def test_a_heat_is_rehearsed_beside_the_server_and_kept(finial: dict[str, Any], call: Caller) -> None:
    job = finished(call, ask(call, finial, habit="even"))
    assert job["state"] == "done"
    told = job["rehearsal"]
    assert (told["heat_no"], told["habit"], told["torch"]) == (1, "even", "propane-air-small")
    assert len(told["cells"]["c"]) == len(told["series"]["time_s"])
    again = ask(call, finial, habit="even")
    assert (again["id"], again["state"]) == (job["id"], "done")
    other = ask(call, finial, habit="even", torch="oxy-propane-fine")
    assert other["id"] != job["id"]
    finished(call, other)


def test_a_name_does_not_matter_and_a_form_does(finial: dict[str, Any], call: Caller) -> None:
    first = finished(call, ask(call, finial, habit="even"))
    document = finial["document"] | {"notes": "polish well"}
    changed = call.put(f"/pieces/{finial['id']}", revision=finial["revision"], document=document)[1]
    assert ask(call, changed, habit="even")["id"] == first["id"]
    document["parts"][0]["form"]["thickness_mm"] = 0.9
    changed = call.put(f"/pieces/{finial['id']}", revision=changed["revision"], document=document)[1]
    other = ask(call, changed, habit="even")
    assert other["id"] != first["id"]
    finished(call, other)


def test_a_rehearsal_can_be_stopped_and_the_next_one_works(finial: dict[str, Any], call: Caller) -> None:
    job = ask(call, finial, heat_no=4)
    stopped = call.post(f"/rehearsals/{job['id']}/stop")[1]
    assert stopped["state"] in ("stopped", "done")
    assert finished(call, ask(call, finial, habit="even"))["state"] == "done"


def test_what_cannot_be_rehearsed_is_told(finial: dict[str, Any], call: Caller) -> None:
    job = finished(call, ask(call, finial, heat_no=99))
    assert job["state"] == "failed"
    assert "heats 1 to" in job["faults"][0]["rule"]
    job = finished(call, ask(call, finial, torch="dragon"))
    assert job["faults"][0]["path"] == "torch"
    assert call.get("/rehearsals/none")[0] == 404


def test_a_rehearsal_is_used_undone_and_goes_out_of_date(finial: dict[str, Any], call: Caller) -> None:
    job = finished(call, ask(call, finial, habit="even"))
    path = f"/pieces/{finial['id']}"
    status, used = call.post(f"{path}/rehearsals/use", revision=finial["revision"], rehearsal=job["id"])
    assert status == 200
    (heat,) = [step for step in used["plan"]["steps"] if step.get("heat_no") == 1]
    likely = job["rehearsal"]["seconds_to_flow"]["likely"]
    assert heat["rehearsed"]["likely_s"] == likely
    assert call.get(f"{path}/rehearsals/stale")[1] == {"heats": []}
    document = used["document"]
    parts = {part["id"]: part for part in document["parts"]}
    parts["bezel"]["form"]["thickness_mm"] = 0.6
    changed = call.put(path, revision=used["revision"], document=document)[1]
    assert call.get(f"{path}/rehearsals/stale")[1] == {"heats": [1]}
    back = call.post(f"{path}/undo", revision=changed["revision"])[1]
    back = call.post(f"{path}/undo", revision=back["revision"])[1]
    assert back["document"]["rehearsals"] == []


def test_an_old_revision_is_not_overwritten(finial: dict[str, Any], call: Caller) -> None:
    job = finished(call, ask(call, finial, habit="even"))
    assert call.post(f"/pieces/{finial['id']}/rehearsals/use", revision=99, rehearsal=job["id"])[0] == 409


@pytest.mark.long
def test_help_is_tried(finial: dict[str, Any], call: Caller) -> None:
    job = finished(call, ask(call, finial, kind="help", torch="butane-pencil"))
    assert job["state"] == "done"
    assert {"torch", "solder"} <= {one["kind"] for one in job["help"]}


def logged_run(
    call: Caller, piece: dict[str, Any], took_s: float, *, lit: bool = True, outcome: str = "flowed"
) -> int:
    """Carry a run out to the end of its first heat, which took so long; give the record of that heat."""
    status, run = call.post("/runs", piece=piece["id"])
    assert status == 201
    while run["step"]["kind"] != "heat":
        run = call.press(run, "next", confirmed=True)
    if lit:
        call.press(run, "lit")
        if run["step"]["stages"]:
            call.press(run, "sign", stage=len(run["step"]["stages"]))
    call.say(run, outcome)
    call.press(run, "next")
    record = StepRecord.objects.get(run_id=run["id"], n=run["position"])
    assert record.ended_at is not None
    record.started_at = record.ended_at - timedelta(seconds=took_s)
    record.save()
    record.stays.update(entered_at=record.started_at)
    if lit:
        last = record.signs.get(stage=len(run["step"]["stages"]))
        record.signs.filter(stage=0).update(at=last.at - timedelta(seconds=took_s))
    return record.pk


@pytest.mark.long
def test_logged_heats_make_the_torch_known_and_a_wild_one_is_left_out(
    finial: dict[str, Any], call: Caller
) -> None:
    assert call.get("/torches")[1] == []
    job = finished(call, ask(call, finial))
    used = call.post(
        f"/pieces/{finial['id']}/rehearsals/use", revision=finial["revision"], rehearsal=job["id"]
    )[1]
    likely = job["rehearsal"]["seconds_to_flow"]["likely"]
    for _ in range(5):
        logged_run(call, used, 1.3 * likely)
    (line,) = call.get("/torches")[1]
    assert line["torch"] == "propane-air-small"
    assert 0.5 < line["factor"] < 0.95
    assert line["next_pct"] < 40
    again = finished(call, ask(call, used))
    assert again["id"] != job["id"]
    assert again["rehearsal"]["factor"] == pytest.approx(line["factor"], abs=1e-3)
    before = line["factor"]
    logged_run(call, used, 60 * likely)
    (line,) = call.get("/torches")[1]
    (wild,) = [heat for heat in line["heats"] if heat["why_not"]]
    assert (wild["why_not"], line["factor"]) == ("interrupted", before)
    status, (line,) = call.put(f"/logged-heats/{wild['record']}", left_out=True)
    assert status == 200
    assert [heat["left_out"] for heat in line["heats"]].count(True) == 1
    assert not any(heat["wild"] for heat in line["heats"])
    assert call.put("/logged-heats/99999", left_out=True)[0] == 404


@pytest.mark.parametrize(
    ("how", "why"), [({"lit": False}, "no-flame"), ({"outcome": "melted"}, "failed"), ({}, None)]
)
def test_a_heat_with_no_flame_or_that_failed_teaches_nothing_and_says_so(
    how: dict[str, Any], why: str | None, finial: dict[str, Any], call: Caller
) -> None:
    job = finished(call, ask(call, finial, habit="even"))
    used = call.post(
        f"/pieces/{finial['id']}/rehearsals/use", revision=finial["revision"], rehearsal=job["id"]
    )[1]
    logged_run(call, used, 1.3 * job["rehearsal"]["seconds_to_flow"]["likely"], **how)
    (line,) = call.get("/torches")[1]
    assert line["heats"][0]["why_not"] == why
    assert (line["factor"] == 1) == (why is not None)


@pytest.mark.long
def test_a_whole_piece_is_rehearsed_and_used_as_one_change(workshop: Any, call: Caller) -> None:
    drop = call.post("/pieces", document=example("hollow-lantern-drop"))[1]
    path = f"/pieces/{drop['id']}"
    job = finished(call, ask(call, drop, kind="piece"))
    assert job["state"] == "done"
    heats = [step for step in drop["plan"]["steps"] if step["kind"] == "heat"]
    assert [one["heat_no"] for one in job["whole"]["heats"]] == [step["heat_no"] for step in heats]
    assert job["whole"]["agreed"]
    status, used = call.post(f"{path}/rehearsals/use", revision=drop["revision"], rehearsal=job["id"])
    assert status == 200
    assert call.get(f"{path}/rehearsals/stale")[1] == {"heats": []}
    for step in used["plan"]["steps"]:
        if step["kind"] == "heat":
            told = [stage["text"] for stage in step["stages"]]
            assert step["lines"][1:] == told
            assert step["stages"][-1]["sign"] == "runs"
    assert ask(call, used, kind="piece")["id"] == job["id"]
    back = call.post(f"{path}/undo", revision=used["revision"])[1]
    assert back["document"]["rehearsals"] == []
    document = used["document"]
    document["parts"][0]["form"]["thickness_mm"] = 0.5
    changed = call.put(path, revision=back["revision"], document=document)[1]
    status, told = call.post(f"{path}/rehearsals/use", revision=changed["revision"], rehearsal=job["id"])
    assert status == 422
    assert "as it stands" in told["faults"][0]["rule"]


def test_the_glow_is_told_in_colour_and_words(call: Caller) -> None:
    rows = call.get("/glow?light=dim")[1]
    assert rows[0]["word"] == "no glow"
    assert rows[-1]["at_c"] == 1200
    assert rows[35]["rgb"][0] > rows[0]["rgb"][0]

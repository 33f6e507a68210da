"""Rehearsals over HTTP with a real process beside the server: asked, watched, stopped, used; and the bench's torches."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest

from eskel_server.runs.models import StepRecord
from eskel_server.workroom.desk import Desk
from eskel_server.workroom.door import Near, room
from tests.server.conftest import Caller, example

pytestmark = pytest.mark.django_db
PATIENCE_S = 120.0


def ask(call: Caller, piece: dict[str, Any], **what: Any) -> dict[str, Any]:
    status, job = call.post(f"/pieces/{piece['id']}/rehearsals", **({"heat_no": 1} | what))
    assert status == 200, job
    told: dict[str, Any] = job
    return told


def desk() -> Desk:
    """The desk of this process."""
    way = room()
    assert isinstance(way, Near)
    return way.room.desk


def finished(call: Caller, job: dict[str, Any]) -> dict[str, Any]:
    """Wait until a job has ended, and look at it as the screen does."""
    desk().wait(job["id"], PATIENCE_S)
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


def logged_run(call: Caller, piece: dict[str, Any], took_s: float) -> int:
    """Carry a run out to the end of its first heat, which took so long; give the record of that heat."""
    status, run = call.post("/runs", piece=piece["id"])
    assert status == 201
    while run["step"]["kind"] != "heat":
        run = call.post(f"/runs/{run['id']}/advance", at=run["position"], confirmed=True)[1]
    for row in run["step"]["joins"]:
        call.post(f"/runs/{run['id']}/outcome", at=run["position"], join=row["join"], outcome="flowed")
    call.post(f"/runs/{run['id']}/advance", at=run["position"])
    record = StepRecord.objects.get(run_id=run["id"], n=run["position"])
    assert record.ended_at is not None
    record.started_at = record.ended_at - timedelta(seconds=took_s)
    record.save()
    record.stays.update(entered_at=record.started_at)
    return record.pk


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


def test_the_glow_is_told_in_colour_and_words(call: Caller) -> None:
    rows = call.get("/glow?light=dim")[1]
    assert rows[0]["word"] == "no glow"
    assert rows[-1]["at_c"] == 1200
    assert rows[35]["rgb"][0] > rows[0]["rgb"][0]


def test_the_process_that_ends_takes_only_its_job(finial: dict[str, Any], call: Caller) -> None:
    finished(call, ask(call, finial, habit="even"))
    job = ask(call, finial, heat_no=3)
    desk()._process.kill()
    assert finished(call, job)["state"] in ("failed", "done")
    assert finished(call, ask(call, finial, habit="join"))["state"] == "done"

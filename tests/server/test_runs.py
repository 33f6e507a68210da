"""Runs over HTTP: step by step to the end, timers as times, outcomes, and the log."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

import pytest
from django.utils import timezone

from eskel_server.runs.following import state_of
from eskel_server.runs.models import EventRecord, Run, StepRecord
from tests.server.conftest import Caller

pytestmark = pytest.mark.django_db


@pytest.fixture
def run(lantern: dict[str, Any], call: Caller) -> dict[str, Any]:
    status, view = call.post("/runs", piece=lantern["id"])
    assert status == 201
    started: dict[str, Any] = view
    return started


def on(call: Caller, run: dict[str, Any], **how: Any) -> dict[str, Any]:
    moved = call.press(run, "next", **how)
    assert moved["turn"] != run["turn"] or moved["state"] == "finished"
    return moved


def until(call: Caller, run: dict[str, Any], kind: str) -> dict[str, Any]:
    """Go on to the next step of a kind, every join flowing."""
    while run["step"]["kind"] != kind:
        if run["step"]["kind"] == "heat":
            call.say(run, "flowed")
        run = on(call, run)
    return run


def set_aside(run: dict[str, Any]) -> list[str]:
    """Why of all that was pressed in a run some counts for nothing."""
    return [one.why for one in state_of(Run.objects.get(pk=run["id"])).aside]


def test_a_run_begins_at_its_first_step_and_shows_in_the_rail(run: dict[str, Any], call: Caller) -> None:
    assert (run["position"], run["step"]["kind"], run["state"]) == (1, "prepare", "going")
    entries = call.get("/rail")[1]["entries"]
    assert [(entry["piece_name"], entry["position"]) for entry in entries] == [("Hollow lantern drop", 1)]


def test_a_pickle_is_timed_by_times_in_the_database(run: dict[str, Any], call: Caller) -> None:
    at_pot = until(call, run, "pickle")
    record = StepRecord.objects.get(n=at_pot["position"])
    assert record.due_low is not None
    assert record.due_high is not None
    low = (record.due_low - record.started_at).total_seconds() / 60
    high = (record.due_high - record.started_at).total_seconds() / 60
    assert (low, high) == pytest.approx((at_pot["step"]["minutes_low"], at_pot["step"]["minutes_high"]))
    entry = call.get("/rail")[1]["entries"][0]
    again = call.get(f"/runs/{run['id']}")[1]
    assert entry["due_low"] == again["records"][-1]["due_low"] == at_pot["records"][-1]["due_low"]
    assert datetime.fromisoformat(entry["due_low"]) < datetime.fromisoformat(entry["due_high"])


def test_a_key_pressed_twice_moves_one_step(run: dict[str, Any], call: Caller) -> None:
    on(call, run)
    assert call.press(run, "next")["position"] == 2
    assert set_aside(run) == ["elsewhere"]


def test_a_heat_is_not_left_before_each_join_has_an_outcome(run: dict[str, Any], call: Caller) -> None:
    heat = until(call, run, "heat")
    assert call.press(heat, "next")["turn"] == heat["turn"]
    assert set_aside(heat) == ["open"]
    join = heat["step"]["joins"][0]["join"]
    said = call.press(heat, "outcome", join=join, outcome="short")
    assert [one["words"] for one in said["records"][-1]["outcomes"]] == ["Short: a gap left"]
    assert call.press(heat, "undo", of=call.last)["records"][-1]["outcomes"] == []
    assert on(call, heat, skipped=True)["records"][heat["position"] - 1]["skipped"]


def test_an_outcome_of_a_join_of_another_heat_is_set_aside(run: dict[str, Any], call: Caller) -> None:
    heat = until(call, run, "heat")
    said = call.press(heat, "outcome", join="nowhere", outcome="flowed")
    assert (said["records"][-1]["outcomes"], set_aside(heat)) == ([], ["beyond"])


def test_back_reopens_a_step_with_its_own_timer(run: dict[str, Any], call: Caller) -> None:
    at_pot = until(call, run, "pickle")
    due = at_pot["records"][-1]["due_low"]
    after = on(call, at_pot)
    back = call.press(after, "back")
    record = back["records"][at_pot["position"] - 1]
    assert (back["position"], record["due_low"], record["ended_at"]) == (at_pot["position"], due, None)
    while back["position"] > 1:
        back = call.press(back, "back")
    assert call.press(back, "back")["position"] == 1
    assert set_aside(run) == ["first"]


def test_going_back_loses_nothing_that_was_written(run: dict[str, Any], call: Caller) -> None:
    at_pot = until(call, run, "pickle")
    (before,) = call.press(at_pot, "note", text="took it out early")["records"][at_pot["position"] - 1 :]
    assert before["note"] == "took it out early"
    back = call.press(at_pot, "back")
    assert back["position"] == at_pot["position"] - 1
    assert back["records"][-1] == before
    again = on(call, back)
    assert again["records"][-1] == before
    stays = StepRecord.objects.get(n=at_pot["position"]).stays
    assert [(stay.went_back, stay.left_at is None) for stay in stays.all()] == [(True, False), (False, True)]


def test_a_word_taken_back_or_replaced_stays_in_the_record(run: dict[str, Any], call: Caller) -> None:
    heat = until(call, run, "heat")
    said = {"join": heat["step"]["joins"][0]["join"]}
    ids = []
    for outcome in ("moved", "short"):
        call.press(heat, "outcome", **said, outcome=outcome)
        ids.append(call.last)
    for one, stands in ((ids[1], ["moved"]), (ids[0], [])):
        view = call.press(heat, "undo", of=one)
        assert [word["outcome"] for word in view["records"][-1]["outcomes"]] == stands
    told = [(one.kind, one.told.get("outcome")) for one in EventRecord.objects.filter(run_id=run["id"])]
    assert told[-4:] == [("outcome", "moved"), ("outcome", "short"), ("undo", None), ("undo", None)]
    assert call.get("/log?words=short")[1] == []


@pytest.mark.parametrize(
    ("replaced", "second", "kept"),
    [
        (False, "pit on the left", "flux ran dry\npit on the left"),
        (True, "flux ran dry, pit on the left", "flux ran dry, pit on the left"),
    ],
    ids=["written elsewhere meanwhile", "gone on from what stands"],
)
def test_two_notes_on_one_step_are_both_kept(
    replaced: bool, second: str, kept: str, run: dict[str, Any], call: Caller
) -> None:
    call.press(run, "note", text="flux ran dry")
    view = call.press(run, "note", text=second, replaces=call.last if replaced else None)
    assert view["records"][0]["note"] == kept
    assert [one.text for one in StepRecord.objects.get(n=1).notes.all()] == kept.split("\n")
    assert [one.told["text"] for one in EventRecord.objects.filter(kind="note")] == ["flux ran dry", second]


@pytest.mark.parametrize("at", ["format", "steps", "objectives"])
def test_a_run_that_cannot_be_read_says_where_and_breaks_nothing_else(
    at: str, run: dict[str, Any], lantern: dict[str, Any], call: Caller
) -> None:
    _, other = call.post("/runs", piece=lantern["id"])
    broken = Run.objects.get(pk=run["id"])
    del broken.plan[at]
    broken.save()
    status, answer = call.get(f"/runs/{run['id']}")
    assert (status, answer["faults"][0]["code"]) == (409, "unreadable")
    assert answer["faults"][0]["path"] == f"run {run['id']}: {at}"
    event = {"id": "tablet-a-0001", "device": "tablet-a", "seq": 1, "at_ms": 1, "kind": "next", "turn": "1"}
    assert call.post(f"/runs/{run['id']}/events", events=[event])[0] == 409
    assert not EventRecord.objects.filter(run_id=run["id"]).exists()
    entries = {entry["run"]: entry for entry in call.get("/rail")[1]["entries"]}
    assert entries[run["id"]]["kind"] == "unreadable"
    assert at in entries[run["id"]]["caution"]
    assert entries[other["id"]]["kind"] == "prepare"
    assert {line["id"] for line in call.get("/log")[1]} == {run["id"], other["id"]}
    for path in ("/torches", "/pieces", f"/runs/{other['id']}"):
        assert call.get(path)[0] == 200
    assert call.post(f"/runs/{run['id']}/stop", at=1) == (204, None)
    assert [entry["run"] for entry in call.get("/rail")[1]["entries"]] == [other["id"]]


def test_many_words_ask_for_each_word_once_and_join_nothing(
    run: dict[str, Any], call: Caller, django_assert_max_num_queries: Any
) -> None:
    # Two for each word, in the notes and in the facets; what of it all the facets and the names hold; the lines.
    with django_assert_max_num_queries(16) as asked:
        call.get("/log?words=stone set finial in the pot")
    searches = [query["sql"] for query in asked.captured_queries if "LIKE" in query["sql"]]
    assert searches
    for search in searches:
        assert "DISTINCT" not in search
        assert '"plan"' not in search
    assert sum('"runs_steprecord"."note"' in search for search in searches) == 4


def test_a_run_to_the_end_is_found_in_the_log(run: dict[str, Any], call: Caller) -> None:
    heat = until(call, run, "heat")
    run = call.press(heat, "note", text="a touch more solder on the left")
    while run["state"] == "going":
        if run["step"]["kind"] == "heat":
            call.say(run, "flooded")
        run = on(call, run)
    assert (run["state"], len(run["records"])) == ("finished", len(run["steps"]))
    assert all(record["ended_at"] for record in run["records"])
    assert call.get("/rail")[1]["entries"] == []
    for words in ("", "lantern", "TOUCH left", "flooded", "finished lantern"):
        assert [line["id"] for line in call.get(f"/log?words={words}")[1]] == [run["id"]]
    assert call.get("/log?words=brooch")[1] == []
    assert call.get("/log")[1][0]["outcomes"] == [
        {"outcome": "flooded", "words": "Flooded", "sound": True, "count": 3}
    ]
    assert call.press(run, "back")["state"] == "finished"
    assert set_aside(run) == ["over"]


def test_a_stopped_run_keeps_what_was_done(run: dict[str, Any], call: Caller) -> None:
    moved = on(call, run)
    stopped = call.post(f"/runs/{run['id']}/stop", at=moved["position"])[1]
    assert (stopped["state"], len(stopped["records"])) == ("stopped", 2)
    status, answer = call.post(f"/runs/{run['id']}/stop", at=moved["position"])
    assert (status, answer["faults"][0]["path"]) == (409, "run")


def test_a_run_that_has_gone_on_is_not_stopped_where_it_was_seen(run: dict[str, Any], call: Caller) -> None:
    on(call, run)
    status, answer = call.post(f"/runs/{run['id']}/stop", at=1)
    assert (status, answer["faults"][0]["path"]) == (409, "step")
    assert call.get(f"/runs/{run['id']}")[1]["state"] == "going"


def test_a_run_follows_the_plan_that_it_began_with(
    run: dict[str, Any], lantern: dict[str, Any], call: Caller
) -> None:
    document = {**lantern["document"], "joins": []}
    call.put(f"/pieces/{lantern['id']}", revision=1, document=document, what="no joins")
    assert call.get(f"/runs/{run['id']}")[1]["steps"] == run["steps"]


def test_a_danger_in_the_piece_waits_to_be_confirmed(lantern: dict[str, Any], call: Caller) -> None:
    document = lantern["document"]
    document["house"] = {"hollow": "sealed-dry"}
    document["work"] = []
    call.put(f"/pieces/{lantern['id']}", revision=1, document=document, what="sealed")
    _, run = call.post("/runs", piece=lantern["id"])
    assert run["step"]["confirm"]
    assert call.press(run, "next")["position"] == 1
    assert call.press(run, "next", skipped=True)["position"] == 1
    assert set_aside(run) == ["unconfirmed", "unconfirmed"]
    assert on(call, run, confirmed=True)["position"] == 2


def test_two_runs_stand_side_by_side_in_the_rail(
    run: dict[str, Any], lantern: dict[str, Any], call: Caller
) -> None:
    at_pot = until(call, run, "pickle")
    _, other = call.post("/runs", piece=lantern["id"])
    entries = {entry["run"]: entry for entry in call.get("/rail")[1]["entries"]}
    assert (entries[run["id"]]["kind"], entries[other["id"]]["kind"]) == ("pickle", "prepare")
    assert entries[run["id"]]["next_text"] == at_pot["next_text"]
    assert entries[other["id"]]["due_low"] is None
    offered = entries[run["id"]]["meanwhile"]
    assert [(one["run"], one["why"]) for one in offered] == [(other["id"], "no-torch")]
    assert offered[0]["text"] == entries[other["id"]]["text"]
    assert entries[other["id"]]["meanwhile"] == []
    on(call, other)
    assert call.get(f"/runs/{run['id']}")[1]["position"] == at_pot["position"]


def test_a_note_is_written_on_an_entered_step_only(run: dict[str, Any], call: Caller) -> None:
    assert call.press(run | {"turn": "7"}, "note", text="too early")["records"][0]["note"] == ""
    assert set_aside(run) == ["not-there"]
    assert (
        call.press(run, "note", text="glasses were cracked")["records"][0]["note"] == "glasses were cracked"
    )


def test_a_second_word_on_a_join_replaces_the_first(run: dict[str, Any], call: Caller) -> None:
    heat = until(call, run, "heat")
    said = {"join": heat["step"]["joins"][0]["join"]}
    call.press(heat, "outcome", **said, outcome="moved")
    again = call.press(heat, "outcome", **said, outcome="flowed")
    assert [one["outcome"] for one in again["records"][-1]["outcomes"]] == ["flowed"]


def test_a_run_outlives_its_piece_being_put_away(
    run: dict[str, Any], lantern: dict[str, Any], call: Caller
) -> None:
    call.post(f"/pieces/{lantern['id']}/away", away=True)
    assert call.get(f"/runs/{run['id']}")[1]["state"] == "going"


def test_the_block_is_hot_from_the_end_of_the_heat_until_it_can_be_touched(
    run: dict[str, Any], call: Caller
) -> None:
    assert call.get("/rail")[1]["entries"][0]["block_until"] is None
    cool = until(call, run, "cool")
    told = call.get("/rail")[1]["entries"][0]
    heat = StepRecord.objects.filter(run_id=run["id"], n=cool["position"] - 1).get()
    assert heat.ended_at is not None
    minutes = cool["step"]["block_minutes"]
    assert minutes > 2
    assert datetime.fromisoformat(told["block_until"]) == heat.ended_at + timedelta(minutes=minutes)
    StepRecord.objects.filter(pk=heat.pk).update(ended_at=heat.ended_at - timedelta(minutes=minutes))
    assert call.get("/rail")[1]["entries"][0]["block_until"] is None


@pytest.mark.parametrize(("hours", "told"), [(0, False), (3, True)])
def test_a_piece_left_in_a_warm_pot_is_told_in_the_rail(
    hours: int, told: bool, run: dict[str, Any], call: Caller
) -> None:
    at_pot = until(call, run, "pickle")
    record = StepRecord.objects.get(run_id=run["id"], n=at_pot["position"])
    record.started_at -= timedelta(hours=hours)
    record.save()
    caution = call.get("/rail")[1]["entries"][0]["caution"]
    assert (caution is not None) is told
    assert not told or "180 minutes" in caution


LED: dict[str, Any] = {
    "joins": [],
    "torch": "propane-air-small",
    "surface": "charcoal",
    "flux": "white-paste",
    "seconds_low": 25,
    "seconds_likely": 35,
    "seconds_high": 50,
    "stages": [
        {
            "text": "Circle the whole work, well off, until the flux is a white crust and still: about 15 s.",
            "sign": "crust",
            "see": "the flux is a white crust and still",
            "seconds_likely": 15,
        },
        {
            "text": "Full flame on the plate, until the bright line has run all along: about 20 s.",
            "sign": "runs",
            "see": "the bright line has run all along",
            "if_late": "Nearer.",
            "seconds_likely": 20,
        },
    ],
}


@pytest.fixture
def led(lantern: dict[str, Any], call: Caller) -> dict[str, Any]:
    """A run that stands at a heat whose programme was rehearsed."""
    (first, *_) = [step for step in lantern["plan"]["steps"] if step["kind"] == "heat"]
    document = lantern["document"] | {
        "rehearsals": [LED | {"joins": [row["join"] for row in first["joins"]]}]
    }
    status, view = call.put(f"/pieces/{lantern['id']}", revision=lantern["revision"], document=document)
    assert status == 200, view
    run = call.post("/runs", piece=lantern["id"])[1]
    return until(call, run, "heat")


def see(call: Caller, run: dict[str, Any], stage: int) -> dict[str, Any]:
    return call.press(run, "sign", stage=stage)


def test_a_heat_is_led_by_the_signs_that_were_rehearsed(led: dict[str, Any], call: Caller) -> None:
    assert [stage["see"] for stage in led["step"]["stages"]] == [one["see"] for one in LED["stages"]]
    assert led["step"]["minutes"] == 1
    unlit = {"signs": [], "next": 0, "done_at": None, "today": ""}
    assert led["flame"] == see(call, led, 1)["flame"] == see(call, led, 3)["flame"] == unlit
    assert set_aside(led) == ["unlit", "beyond"]
    lit = call.press(led, "lit")
    assert (lit["flame"]["next"], lit["flame"]["today"]) == (1, "")
    assert call.press(led, "lit")["flame"]["signs"] == lit["flame"]["signs"]
    assert see(call, led, 2)["flame"]["next"] is None
    assert call.press(led, "undo", of=call.last)["flame"]["next"] == 1


def test_a_sign_that_comes_late_tells_of_a_weak_flame_and_what_is_left(
    led: dict[str, Any], call: Caller
) -> None:
    call.press(led, "lit")
    see(call, led, 1)
    record = StepRecord.objects.get(n=led["position"])
    crust = record.signs.get(stage=1).at
    record.signs.filter(stage=0).update(at=crust - timedelta(seconds=22.5))
    flame = call.get(f"/runs/{led['id']}")[1]["flame"]
    assert flame["today"] == "runs in about 28 s; a weak flame today"
    done = datetime.fromisoformat(flame["done_at"])
    assert (done - crust).total_seconds() == pytest.approx(27.8, abs=0.2)


def test_a_heat_that_was_not_rehearsed_has_its_lit_flame_alone(run: dict[str, Any], call: Caller) -> None:
    heat = until(call, run, "heat")
    assert (heat["flame"]["next"], heat["flame"]["signs"]) == (0, [])
    lit = call.press(heat, "lit")
    assert see(call, heat, 1)["flame"]["signs"] == lit["flame"]["signs"]
    assert set_aside(heat) == ["beyond"]


def test_the_pot_tells_its_loads_since_it_was_mixed(run: dict[str, Any], call: Caller) -> None:
    """One load is out at once, one at its time, one after ten times its longest."""
    assert call.get("/pot")[1]["loads"] == 0
    at_pot = until(call, run, "pickle")
    on(call, at_pot)
    assert call.get("/pot")[1] | {"minutes": 0} == {
        "loads": 1,
        "early": 1,
        "too_long": 0,
        "minutes": 0,
        "pace": None,
        "copper": None,
        "copper_limit_g_l": 30.0,
        "mix_g_per_l": 120.0,
        "low_c": 20.0,
        "high_c": 70.0,
        "usual_c": 60.0,
    }
    record = StepRecord.objects.get(run_id=run["id"], n=at_pot["position"])
    assert record.due_low is not None
    assert record.due_high is not None
    longest = record.due_high - record.started_at
    record.ended_at = record.due_low
    record.save()
    told = call.get("/pot")[1]
    assert (told["early"], told["too_long"]) == (0, 0)
    assert told["minutes"] == pytest.approx((record.due_low - record.started_at).total_seconds() / 60)
    record.ended_at = record.started_at + 10 * longest
    record.save()
    assert (call.get("/pot")[1]["early"], call.get("/pot")[1]["too_long"]) == (0, 1)
    pot = {"mixed_on": (timezone.now() + timedelta(days=1)).date().isoformat(), "litres": 1.5}
    assert call.put("/bench", house={}, bench={"pot": pot})[0] == 200
    assert call.get("/pot")[1]["loads"] == 0


def test_the_pot_tells_its_pace_and_its_copper_by_its_loads(run: dict[str, Any], call: Caller) -> None:
    """Nine loads of half as long again as the middle of their band, six of them before its copper was measured."""
    began = timezone.now() - timedelta(days=2)
    StepRecord.objects.bulk_create(
        StepRecord(
            run_id=run["id"],
            n=n,
            turn=f"9.{n}",
            started_at=began + timedelta(hours=n),
            ended_at=began + timedelta(hours=n, minutes=9),
            due_low=began + timedelta(hours=n, minutes=4),
            due_high=began + timedelta(hours=n, minutes=8),
        )
        for n in range(1, 10)
    )
    measured = (began + timedelta(hours=6, minutes=30)).isoformat()
    pot = {"copper_g_l": 12, "copper_at": measured}
    assert call.put("/bench", house={}, bench={"pot": pot})[0] == 200
    told = call.get("/pot")[1]
    assert (told["loads"], told["pace"]) == (9, 1.5)
    # Two g/l a load: eighteen by now, and six more to thirty.
    assert told["copper"] == {"now_g_l": 18.0, "loads_left": 6}
    # Reckoned with from now on, only what comes after tells.
    pot |= {"pace": 1.5, "paced_at": timezone.now().isoformat()}
    revision = call.get("/bench")[1]["revision"]
    assert call.put("/bench", revision=revision, house={}, bench={"pot": pot})[0] == 200
    assert call.get("/pot")[1]["pace"] is None


def test_the_sheet_tells_what_was_cut_and_laid(run: dict[str, Any], call: Caller) -> None:
    """All parts by their number, and the solder; with a part that nobody can weigh, nothing."""
    stored = Run.objects.get(pk=run["id"])
    cut = sum(line["mass_g"] * line["count"] for line in stored.plan["cut_list"])
    laid = sum(line["mass_g"] for line in stored.plan["solder_list"])
    told = call.get(f"/runs/{run['id']}/sheet")[1]["weighs_g"]
    assert told == pytest.approx(cut + laid, abs=5e-4)
    assert laid > 0
    stored.plan["cut_list"][0]["mass_g"] = None
    stored.save()
    assert call.get(f"/runs/{run['id']}/sheet")[1]["weighs_g"] is None


def test_what_opened_in_a_later_flame_can_be_heated_again_from_there(
    run: dict[str, Any], call: Caller
) -> None:
    """Of the earlier joins in the flame one is said to have opened: its own heat is offered, and on from here afterwards."""
    first = until(call, run, "heat")
    made = first["step"]["joins"][0]
    later = first
    while made["join"] not in later["step"]["states"]:
        call.say(later, "flowed")
        later = until(call, on(call, later), "heat")
    join = later["step"]["joins"][0]["join"]
    call.press(later, "outcome", join=join, outcome="opened-another")
    assert call.get(f"/runs/{run['id']}")[1]["back_to"] == []
    told = call.press(first, "outcome", join=made["join"], outcome="moved")
    heat_no = first["step"]["heat_no"]
    assert told["back_to"] == [{"heat_no": heat_no, "title": made["title"]}]
    assert told["position"] == later["position"]
    again = call.press(told, "again", ways=[], of=first["turn"], joins=[made["join"]])
    assert (again["again"], again["position"] < later["position"]) == (2, True)
    heated = until(call, again, "heat")
    assert [row["join"] for row in heated["step"]["joins"]] == [made["join"]]
    call.press(heated, "outcome", join=made["join"], outcome="flowed")
    assert on(call, heated)["position"] == later["position"] + 1

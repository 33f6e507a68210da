"""What happened in a run, as devices tell it: each event once, in any order, from two of them at once; and of runs from before."""

from __future__ import annotations

import random
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from eskel_core.run import RunState
from eskel_server.runs.following import state_of
from eskel_server.runs.models import EventRecord, OutcomeRecord, Run, SignRecord, StepRecord
from eskel_server.runs.queries import run_of
from tests.server.conftest import Caller

pytestmark = pytest.mark.django_db


@pytest.fixture
def run(lantern: dict[str, Any], call: Caller) -> dict[str, Any]:
    status, view = call.post("/runs", piece=lantern["id"])
    assert status == 201
    started: dict[str, Any] = view
    Run.objects.filter(pk=started["id"]).update(started_at=timezone.now() - timedelta(minutes=2))
    return started


def told(device: str, *said: tuple[str, dict[str, Any]], at_ms: int | None = None) -> list[dict[str, Any]]:
    """Events of one device, a tenth of a second after one another, from a minute ago on."""
    first = round(timezone.now().timestamp() * 1000) - 60_000 if at_ms is None else at_ms
    return [
        {
            "id": f"{device}-{n + 1:04}",
            "device": device,
            "seq": n + 1,
            "at_ms": first + 100 * n,
            "kind": kind,
            **more,
        }
        for n, (kind, more) in enumerate(said)
    ]


def to_the_pot(run: dict[str, Any], call: Caller) -> list[tuple[str, dict[str, Any]]]:
    """What is pressed from the beginning until the first pot, a join of the first heat twice."""
    faces = call.get(f"/runs/{run['id']}/sheet")[1]["faces"]
    said: list[tuple[str, dict[str, Any]]] = []
    for n, face in enumerate(faces):
        turn = {"turn": str(n + 1)}
        if face["kind"] == "pickle":
            return [*said, ("note", turn | {"text": "straight in"})]
        if face["kind"] == "heat":
            said += [("lit", turn), ("off", turn)]
            said += [("outcome", turn | {"join": join, "outcome": "short"}) for join in face["joins"]]
            said += [("outcome", turn | {"join": join, "outcome": "flowed"}) for join in face["joins"]]
        said.append(("next", turn | {"confirmed": True}))
    raise AssertionError("a plan has a pot")


def send(call: Caller, run: dict[str, Any], events: list[dict[str, Any]]) -> dict[str, Any]:
    status, answer = call.post(f"/runs/{run['id']}/events", events=events)
    assert status == 200, answer
    taken: dict[str, Any] = answer
    return taken


def rows(run: dict[str, Any]) -> Any:
    """What the log asks: steps, signs and words as they stand."""
    steps = StepRecord.objects.filter(run_id=run["id"]).values_list("turn", "started_at", "ended_at", "note")
    signs = SignRecord.objects.filter(record__run_id=run["id"]).values_list("stage", "at")
    words = OutcomeRecord.objects.filter(record__run_id=run["id"]).values_list("join", "outcome", "at")
    return list(steps), list(signs), list(words)


def test_what_a_device_tells_at_once_is_as_if_it_had_been_pressed_here(
    run: dict[str, Any], call: Caller
) -> None:
    events = told("tablet-a", *to_the_pot(run, call))
    assert len(send(call, run, events)["events"]) == len(events)
    view = call.get(f"/runs/{run['id']}")[1]
    assert view["step"]["kind"] == "pickle"
    assert view["records"][-1]["note"] == "straight in"
    heat = next(record for record in view["records"] if record["step"]["kind"] == "heat")
    off_ms = next(event["at_ms"] for event in events if event["kind"] == "off")
    off_at = StepRecord.objects.get(run_id=run["id"], turn=heat["turn"]).off_at
    assert off_at is not None
    assert round(off_at.timestamp() * 1000) == off_ms
    assert {one["outcome"] for one in heat["outcomes"]} == {"flowed"}
    assert view["records"][-1]["due_low"] is not None


@pytest.mark.long
@pytest.mark.parametrize("seed", range(6))
def test_each_event_counts_once_in_whatever_order_and_however_often_it_comes(
    seed: int, run: dict[str, Any], lantern: dict[str, Any], call: Caller
) -> None:
    events = told("tablet-a", *to_the_pot(run, call))
    send(call, run, events)
    other = call.post("/runs", piece=lantern["id"])[1]
    Run.objects.filter(pk=other["id"]).update(started_at=Run.objects.get(pk=run["id"]).started_at)
    dice, left = random.Random(seed), [*events, *events]
    dice.shuffle(left)
    while left:
        some = left[: dice.randint(1, 7)]
        left = left[len(some) :]
        answer = send(call, other, some)
    assert [one["id"] for one in sorted(answer["events"], key=lambda one: one["seq"])] == [
        one["id"] for one in events
    ]
    assert EventRecord.objects.filter(run_id=other["id"]).count() == len(events)
    mine, theirs = rows(run), rows(other)
    assert theirs[1:] == mine[1:]
    assert theirs[0][1:] == mine[0][1:]


def test_two_devices_that_go_on_at_once_go_on_once(run: dict[str, Any], call: Caller) -> None:
    at_ms = round(timezone.now().timestamp() * 1000)
    for device in ("tablet-a", "phone-b0"):
        answer = send(call, run, told(device, ("next", {"turn": "1", "confirmed": True}), at_ms=at_ms))
    assert len(answer["events"]) == 2
    assert call.get(f"/runs/{run['id']}")[1]["position"] == 2


@pytest.mark.parametrize(
    ("wrong", "path"),
    [
        ({"kind": "sing"}, "kind"),
        ({"seq": 0}, "seq"),
        ({"id": "short"}, "id"),
        ({"text": "x" * 1_000_000}, "text"),
        ({"at_ms": "soon"}, "at_ms"),
        ({"kind": "again", "ways": ["sing"]}, "ways"),
        ({"kind": "again", "ways": ["apart"] * 8}, "ways"),
        ({"kind": "outcome", "join": "rim", "outcome": "exploded"}, "outcome"),
        ({"kind": "outcome", "join": "rim"}, "outcome"),
        ({"kind": "measure", "what": "size_mm", "value": -1}, "value"),
    ],
)
def test_of_a_post_with_one_event_that_is_none_nothing_is_kept(
    wrong: dict[str, Any], path: str, run: dict[str, Any], call: Caller
) -> None:
    good, bad = told("tablet-a", ("note", {"turn": "1", "text": "a"}), ("note", {"turn": "1", "text": "b"}))
    if "kind" in wrong:
        del bad["text"]
    status, answer = call.post(f"/runs/{run['id']}/events", events=[good, bad | wrong])
    assert status == 422
    assert path in answer["faults"][0]["path"] + answer["faults"][0]["rule"]
    assert not EventRecord.objects.filter(run_id=run["id"]).exists()


def test_what_comes_late_and_was_sooner_leaves_no_record_of_what_never_was(
    run: dict[str, Any], call: Caller
) -> None:
    """One device stopped the run before the other went on, and tells it only afterwards: the events of both are kept."""
    now_ms = round(timezone.now().timestamp() * 1000)
    send(call, run, told("tablet-a", ("next", {"turn": "1", "confirmed": True}), at_ms=now_ms - 10_000))
    assert StepRecord.objects.filter(run_id=run["id"]).count() == 2
    send(call, run, told("phone-b0", ("stop", {"turn": "1"}), at_ms=now_ms - 20_000))
    view = call.get(f"/runs/{run['id']}")[1]
    assert (view["state"], view["position"], [one["n"] for one in view["records"]]) == ("stopped", 1, [1])
    assert EventRecord.objects.filter(run_id=run["id"]).count() == 2


def test_a_clock_that_is_ahead_is_set_right_by_ours(run: dict[str, Any], call: Caller) -> None:
    tomorrow = round(timezone.now().timestamp() * 1000) + 86_400_000
    answer = send(call, run, told("tablet-a", ("next", {"turn": "1", "confirmed": True}), at_ms=tomorrow))
    (event,) = answer["events"]
    assert event["at_ms"] == tomorrow
    assert event["at_ms"] + event["ahead_ms"] <= answer["now_ms"]
    assert StepRecord.objects.get(run_id=run["id"], turn="2").started_at <= timezone.now()


def test_another_try_has_a_record_of_its_own(run: dict[str, Any], call: Caller) -> None:
    said = to_the_pot(run, call)
    heat = next(n for n, (kind, _) in enumerate(said) if kind == "lit")
    turn = said[heat][1]["turn"]
    again = ("again", {"turn": turn, "ways": ["flux-and-solder"]})
    send(call, run, told("tablet-a", *said[: heat + 2], again))
    tries = StepRecord.objects.filter(run_id=run["id"], again=2).values_list("turn", flat=True)
    at = Run.objects.get(pk=run["id"]).turn
    assert list(tries) == [at]
    assert at.endswith(".2")
    assert call.get(f"/runs/{run['id']}")[1]["position"] == int(at.partition(".")[0])


def test_a_join_that_did_not_flow_is_done_again_alone(run: dict[str, Any], call: Caller) -> None:
    """What fits is offered, the try is a record of its own that asks for that join only, and the log keeps both."""
    said = to_the_pot(run, call)
    first = next(n for n, (kind, _) in enumerate(said) if kind == "lit")
    send(call, run, told("tablet-a", *said[:first]))
    heat = call.get(f"/runs/{run['id']}")[1]
    assert (heat["step"]["kind"], heat["ways"], heat["again"]) == ("heat", [], 1)
    at, join = heat["position"], heat["step"]["joins"][0]["join"]
    call.say(heat, "flowed")
    failed = call.press(heat, "outcome", join=join, outcome="did-not-flow")
    assert [one["way"] for one in failed["ways"]][:2] == ["pickle-first", "flux-and-solder"]
    tried = call.press(failed, "again", ways=["flux-and-solder"], joins=[join])
    assert (tried["step"]["kind"], tried["again"]) == ("prepare", 2)
    assert "touch more solder" in tried["told"][0]
    again = call.press(tried, "next", confirmed=True)
    assert (again["position"], [row["join"] for row in again["step"]["joins"]]) == (at, [join])
    assert call.press(again, "next")["turn"] == again["turn"]
    assert call.press(again, "outcome", join="nowhere", outcome="flowed")["records"][-1]["outcomes"] == []
    on = call.press(call.say(again, "flowed"), "next")
    assert (on["position"], on["again"], on["ways"]) == (at + 1, 1, [])
    tries = [
        (record["again"], [one["outcome"] for one in record["outcomes"] if one["join"] == join])
        for record in on["records"]
        if record["n"] == at
    ]
    assert tries == [(1, ["did-not-flow"]), (2, ["flowed"])]


def test_a_look_that_does_not_pass_sends_back_to_its_heat(run: dict[str, Any], call: Caller) -> None:
    """All that led to the look is gone through again, to the look."""
    faces = call.get(f"/runs/{run['id']}/sheet")[1]["faces"]
    send(call, run, told("tablet-a", *to_the_pot(run, call)))
    view = call.get(f"/runs/{run['id']}")[1]
    assert view["back_to"] == []
    while view["step"]["kind"] != "inspect":
        view = call.press(view, "next")
    (heat,) = [record for record in view["records"] if record["step"]["kind"] == "heat"]
    titles = ", ".join(row["title"] for row in heat["step"]["joins"])
    assert view["back_to"] == [{"heat_no": 1, "title": titles}]
    look = view["position"]
    assert call.press(view, "again", of="99")["turn"] == view["turn"]
    view = call.press(view, "again", of=heat["turn"])
    kinds = []
    while view["again"] == 2:
        kinds.append((view["step"]["kind"], view["position"]))
        if view["step"]["kind"] == "heat":
            call.say(view, "flowed")
        view = call.press(view, "next", confirmed=True)
    assert kinds[0][0] == "prepare"
    assert kinds[-1] == ("inspect", look)
    assert [faces[n - 1]["kind"] for _, n in kinds] == [kind for kind, _ in kinds]
    assert view["position"] == look + 1


def plain(state: RunState) -> Any:
    """A run without the ids of its events, its times to the millisecond."""
    told = state.model_dump(mode="json")
    for turn in told["turns"]:
        for key in ("signs", "outcomes", "notes", "measures", "looks"):
            for one in turn[key]:
                del one["event"], one["at_ms"]
        del turn["off_ms"], turn["off"]
    return told


def test_a_run_from_before_is_told_from_what_was_kept_of_it_and_gone_on_with(
    run: dict[str, Any], call: Caller
) -> None:
    """Back and forth, words taken back, a note, a size: without its events it is still the same run."""
    key, said = run["id"], to_the_pot(run, call)
    send(call, run, told("tablet-a", *said))
    at_pot = call.get(f"/runs/{key}")[1]
    at, before = at_pot["position"], call.press(at_pot, "back")
    call.press(before, "measure", what="size_mm", value=17.25)
    was = state_of(run_of(key))
    EventRecord.objects.filter(run_id=key).delete()
    assert plain(state_of(run_of(key))) == plain(was)
    assert call.press(before, "next")["position"] == at
    kinds = list(EventRecord.objects.filter(run_id=key).values_list("kind", flat=True))
    assert kinds[-1] == "next"
    assert kinds.count("outcome") == sum(kind == "outcome" for kind, _ in said) / 2
    assert call.post(f"/runs/{key}/stop", at=at)[1]["state"] == "stopped"

"""What the log is asked: by words and by what outcomes are of; every sum held against the rows that it is of, counted one by one."""

from __future__ import annotations

import math
import random
from collections import Counter
from datetime import UTC, date, timedelta
from typing import Any

import pytest
from django.core.management import call_command
from django.utils import timezone

from eskel_core.log import OUTCOMES
from eskel_server.log.queries import some
from eskel_server.runs.following import moment_of, ms_of
from eskel_server.runs.models import Facet, FacetMonth, OutcomeRecord, Run, SignRecord, StepMonth, StepRecord
from tests.server.conftest import Caller, example
from tests.server.test_runs_happened import send, told

pytestmark = pytest.mark.django_db
MINUTE_MS = 60_000


@pytest.fixture
def run(lantern: dict[str, Any], call: Caller) -> dict[str, Any]:
    return begun(lantern, call)


@pytest.fixture
def finial(lantern: dict[str, Any], call: Caller) -> dict[str, Any]:
    status, view = call.post("/pieces", document=example("stone-set-finial"))
    assert status == 201
    made: dict[str, Any] = view
    return made


def begun(piece: dict[str, Any], call: Caller) -> dict[str, Any]:
    stops = [{"code": one["code"], "step": one["step"]} for one in piece["plan"]["stops"]]
    status, view = call.post("/runs", piece=piece["id"], confirmed=stops)
    assert status == 201
    # To the millisecond, as runs begin.
    began = moment_of(ms_of(timezone.now() - timedelta(hours=2)))
    Run.objects.filter(pk=view["id"]).update(started_at=began)
    started: dict[str, Any] = view
    return started


def through(run: dict[str, Any], call: Caller, outcomes: list[str], note: str = "") -> None:
    """Go through a whole run: the outcomes in turn, half a minute from the lit flame to each; a note at the first step."""
    said: list[tuple[str, dict[str, Any]]] = []
    left = iter(outcomes)
    for n, face in enumerate(call.get(f"/runs/{run['id']}/sheet")[1]["faces"]):
        turn = {"turn": str(n + 1)}
        if n == 0 and note:
            said.append(("note", turn | {"text": note}))
        if face["kind"] == "heat":
            said.append(("lit", turn))
            said += [
                ("outcome", turn | {"join": join, "outcome": next(left, "flowed")}) for join in face["joins"]
            ]
        said.append(("next", turn | {"confirmed": True}))
    send(call, run, told(f"device-{run['id']}", *said))


def recounted() -> Counter[tuple[int, date]]:
    rows = OutcomeRecord.objects.filter(taken_back_at=None).values_list("facet_id", "at")
    return Counter((facet, at.astimezone(UTC).date().replace(day=1)) for facet, at in rows)


def counted() -> dict[tuple[int, date], int]:
    rows = FacetMonth.objects.exclude(times=0).values_list("facet_id", "month", "times")
    return {(facet, month): times for facet, month, times in rows}


def test_of_whatever_is_pressed_what_stands_is_counted_once(run: dict[str, Any], call: Caller) -> None:
    """Words said, said otherwise, taken back, a heat done again, back and forth: 200 presses by dice, told a few at a time."""
    dice = random.Random(4)
    faces = call.get(f"/runs/{run['id']}/sheet")[1]["faces"]
    heats = [n for n, face in enumerate(faces, 1) if face["kind"] == "heat"]
    words = [one.outcome for one in OUTCOMES]
    said: list[tuple[str, dict[str, Any]]] = [
        ("next", {"turn": str(n), "confirmed": True}) for n in range(1, heats[0])
    ]
    for _ in range(200):
        n = dice.choice([*heats[:2], heats[0] + 1])
        joins = faces[heats[0] - 1]["joins"] + faces[heats[1] - 1]["joins"]
        outcome = {"turn": str(n), "join": dice.choice(joins), "outcome": dice.choice(words)}
        turn = {"turn": dice.choice([str(n), f"{n}.2"])}
        kind = dice.choice(["lit", "outcome", "outcome", "undo", "next", "back", "again"])
        if kind == "undo":
            said.append(("undo", {"of": f"tablet-a-{dice.randint(1, len(said)):04}"}))
        else:
            said.append(
                (kind, {"outcome": outcome}.get(kind, turn) | ({"confirmed": True} if kind == "next" else {}))
            )
    events = told("tablet-a", *said)
    while events:
        some_of = events[: dice.randint(1, 20)]
        events = events[len(some_of) :]
        send(call, run, some_of)
        assert counted() == recounted()
    assert recounted()
    ended = StepRecord.objects.filter(ended_at__isnull=False, skipped=False)
    assert sum(StepMonth.objects.values_list("times", flat=True)) == ended.count()
    seconds = sum(
        (stay.left_at - stay.entered_at).total_seconds()
        for record in ended
        for stay in record.stays.all()
        if stay.left_at
    )
    assert sum(StepMonth.objects.values_list("seconds", flat=True)) == pytest.approx(seconds, abs=1e-6)


def test_the_sums_are_of_what_is_asked_for(
    lantern: dict[str, Any], finial: dict[str, Any], call: Caller
) -> None:
    through(begun(lantern, call), call, ["short", "flowed"], note="stone rocked a little, short of flux")
    through(begun(finial, call), call, ["flowed", "melted"])
    rows = list(OutcomeRecord.objects.select_related("facet"))
    everything = call.get("/log/sums")[1]
    assert (everything["times"], everything["sound"]) == (
        len(rows),
        sum(row.outcome in ("flowed", "flooded") for row in rows),
    )
    of = Counter((row.facet.kind, row.facet.grade) for row in rows if row.facet)
    assert {(one["kind"], one["grade"]): one["times"] for one in everything["joins"]} == dict(of)
    laid = sum(sum(month["solder_mg"].values()) for month in everything["months"])
    assert laid == pytest.approx(sum(row.solder_mg for row in rows))
    assert laid > 0
    kind, grade = of.most_common(1)[0][0]
    for asked, belongs in [
        ({"kind": kind}, lambda row: row.facet.kind == kind),
        ({"grade": grade, "kind": kind}, lambda row: (row.facet.kind, row.facet.grade) == (kind, grade)),
        ({"piece": "Stone-set finial"}, lambda row: row.run.piece_name == "Stone-set finial"),
        ({"outcome": "wrong"}, lambda row: row.outcome in ("short", "melted")),
        ({"outcome": "melted"}, lambda row: row.outcome == "melted"),
        ({"words": "melted"}, lambda row: row.outcome == "melted"),
        ({"words": "finial went well"}, lambda row: row.run.piece_name[0] == "S" and row.outcome == "flowed"),
        # A note belongs to its whole run, whatever else of it holds the other words.
        ({"words": "rocked"}, lambda row: row.run.piece_name == "Hollow lantern drop"),
        ({"words": "rocked flowed"}, lambda row: row.run.piece_name[0] == "H" and row.outcome == "flowed"),
        (
            {"words": "rocked", "outcome": "well"},
            lambda row: row.run.piece_name[0] == "H" and row.outcome == "flowed",
        ),
        # What both a facet and the note of its run hold is counted once.
        ({"words": "short"}, lambda row: row.run.piece_name[0] == "H"),
        ({"words": "nobody wrote this"}, lambda row: False),
        ({"since": "2999-01-01"}, lambda row: False),
        # Of a month all is counted: it is asked from its first day on.
        ({"since": rows[0].at.date().isoformat()}, lambda row: True),
    ]:
        told_of = [row for row in rows if belongs(row)]
        status, sums = call.get("/log/sums", **asked)
        assert status == 200
        assert sums["times"] == len(told_of), asked
        runs = {line["id"] for line in call.get("/log", **asked)[1]}
        assert runs == {row.run_id for row in told_of}, asked


def test_where_nothing_is_found_it_is_told_which_word_to_leave_out(
    lantern: dict[str, Any], call: Caller
) -> None:
    through(begun(lantern, call), call, ["short"])
    times = OutcomeRecord.objects.count()
    asked = call.get("/log/sums", words="lantern flowed melted")[1]
    assert asked["without"] == [{"word": "melted", "times": times - 1}]
    assert call.get("/log/sums", words="lantern nowhere")[1]["without"] == [
        {"word": "nowhere", "times": times}
    ]
    assert call.get("/log/sums", words="lantern")[1]["without"] == []
    assert call.get("/log/sums", words="neither nor")[1]["without"] == []


def test_by_what_the_log_can_be_asked_is_what_is_in_it(lantern: dict[str, Any], call: Caller) -> None:
    assert set(call.get("/log/choices")[1]["piece"]) == set()
    through(begun(lantern, call), call, ["short"])
    told_of = call.get("/log/choices")[1]
    assert told_of["piece"] == ["Hollow lantern drop"]
    assert set(told_of["grade"]) == {row.facet.grade for row in OutcomeRecord.objects.all() if row.facet}
    assert set(told_of["outcome"]) == {"short", "flowed"}


def test_a_rehearsed_heat_tells_what_was_foretold_and_what_it_took(run: dict[str, Any], call: Caller) -> None:
    """The second time twice as long as foretold, on the same day: at the geometric mean the heats took √2 times as long."""
    stored = Run.objects.get(pk=run["id"])
    for step in stored.plan["steps"]:
        if step["kind"] == "heat":
            told_of = {"low_s": 40, "likely_s": 60, "high_s": 90, "torch": "butane-kitchen"}
            step["rehearsed"] = {**told_of, "factor": 1.0, "spread": 0.2}
    stored.save()
    faces = call.get(f"/runs/{run['id']}/sheet")[1]["faces"]
    first, second = [n for n, face in enumerate(faces, 1) if face["kind"] == "heat"][:2]
    at_ms = round(timezone.now().timestamp() * 1000) - 60 * MINUTE_MS
    for n in range(1, second + 1):
        took = {first: 60_000, second: 120_000}.get(n)
        said = []
        if took:
            join = faces[n - 1]["joins"][0]
            send(call, run, told(f"lit-{n:04}", ("lit", {"turn": str(n)}), at_ms=at_ms))
            at_ms += took
            said = [("outcome", {"turn": str(n), "join": join, "outcome": "flowed"})]
        send(call, run, told(f"on-{n:05}", *said, ("next", {"turn": str(n), "confirmed": True}), at_ms=at_ms))
        at_ms += 1000
    sums = call.get("/log/sums")[1]
    assert [(heat["told_s"], heat["took_s"]) for heat in sums["heats"]] == [(60.0, 120.0), (60.0, 60.0)]
    assert [(one["torch"], one["heats"]) for one in sums["torches"]] == [("butane-kitchen", 2)]
    assert sums["torches"][0]["ratio"] == pytest.approx(math.sqrt(2))
    assert {one["kind"] for one in sums["steps"]} >= {"heat", "prepare"}
    assert call.get("/log/sums", torch="butane-pencil")[1]["heats"] == []


def test_a_run_from_before_is_counted_when_eskel_starts_and_only_then(
    run: dict[str, Any], call: Caller
) -> None:
    through(run, call, ["short", "moved"])
    was, steps = recounted(), set(StepMonth.objects.values_list("kind", "times"))
    facets = set(Facet.objects.values_list("text", flat=True))
    OutcomeRecord.objects.update(facet=None, solder_mg=0)
    for model in (FacetMonth, StepMonth, Facet):
        model._default_manager.all().delete()
    Run.objects.update(counted=False)
    for _ in range(2):
        call_command("count_runs")
        assert set(StepMonth.objects.values_list("kind", "times")) == steps
        assert sum(counted().values()) == sum(was.values())
        assert set(Facet.objects.values_list("text", flat=True)) == facets
    assert SignRecord.objects.count() > 0


@pytest.mark.parametrize(
    ("question", "words"),
    [
        ("What went well with medium on thin wire?", ("went", "well", "medium", "thin wire")),
        ('"touch more" left', ("touch more", "left")),
        ('half a "quote', ("half", "quote")),
        ("", ()),
        ("what of the", ()),
    ],
)
def test_a_question_is_asked_by_its_words(question: str, words: tuple[str, ...]) -> None:
    assert some(question) == words


@pytest.mark.parametrize(
    ("name", "value"), [("since", "soon"), ("wire", "fat"), ("words", "x" * 201), ("since", "2026-13-01")]
)
def test_what_cannot_be_asked_is_refused_by_name(name: str, value: str, workshop: Any, call: Caller) -> None:
    for path in ("/log", "/log/sums"):
        status, answer = call.get(path, **{name: value})
        assert status == 422
        assert name in answer["faults"][0]["path"]

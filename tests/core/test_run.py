"""A run as its events have it: the same whatever the order they come in; what no longer fits is set aside, nothing is lost."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from eskel_core.log import OUTCOMES, OutcomeWord
from eskel_core.plan import plan
from eskel_core.run import Event, Face, RunState, Turn, faces_of, in_order, read_event, run_state, ways_for

from .pieces import EXAMPLES, join, piece, plate, wire

SHARED = json.loads((Path(__file__).parents[1] / "shared" / "runs.json").read_text(encoding="utf-8"))
# Made ready, heated (two joins, three stages), cooled, in the pot, looked at twice; then work on three alike.
FACES = (
    Face(kind="prepare", confirm=True),
    Face(kind="heat", joins=("a", "b"), stages=3),
    Face(kind="cool", waits_low_ms=60_000, waits_high_ms=60_000),
    Face(kind="pickle", waits_low_ms=180_000, waits_high_ms=420_000),
    Face(kind="inspect", checks=2),
    Face(kind="work", alike=3),
)


def events(*told: Told, device: str = "tablet-1", start: int = 1) -> list[Event]:
    """Events of one device, a second after one another; a turn is that at which they say it is."""
    return [
        read_event(
            {
                "id": f"{device}-{start + n:04}",
                "device": device,
                "seq": start + n,
                "at_ms": 1000 * (start + n),
                "kind": kind,
                **more,
            }
        )
        for n, (kind, more) in enumerate(told)
    ]


def state(*told: Told) -> RunState:
    return run_state(FACES, 0, events(*told))


def turn(of: RunState, name: str) -> Turn:
    return next(one for one in of.turns if one.id == name)


Told = tuple[str, dict[str, Any]]
READY: Told = ("next", {"turn": "1", "confirmed": True})
BOTH: list[Told] = [("outcome", {"turn": "2", "join": name, "outcome": "flowed"}) for name in "ab"]


@pytest.mark.parametrize("case", SHARED, ids=[case["name"] for case in SHARED])
def test_the_same_here_as_on_the_device(case: dict[str, Any]) -> None:
    faces = [Face.model_validate(face) for face in case["faces"]]
    told = run_state(faces, case["began_ms"], [read_event(event) for event in case["events"]])
    assert told.model_dump(mode="json") == case["state"]


@pytest.mark.parametrize(
    ("told", "why"),
    [
        ([("next", {"turn": "1"})], "unconfirmed"),
        ([READY, ("next", {"turn": "2"})], "open"),
        ([READY, BOTH[0], ("next", {"turn": "2"})], "open"),
        ([READY, ("next", {"turn": "1", "confirmed": True})], "elsewhere"),
        ([("back", {"turn": "1"})], "first"),
        ([("note", {"turn": "5", "text": "x"})], "not-there"),
        ([("note", {"turn": "99", "text": "x"})], "not-there"),
        ([READY, ("sign", {"turn": "2", "stage": 1})], "unlit"),
        ([READY, ("off", {"turn": "2"})], "unlit"),
        ([READY, ("lit", {"turn": "2"}), ("sign", {"turn": "2", "stage": 4})], "beyond"),
        ([READY, ("outcome", {"turn": "2", "join": "c", "outcome": "flowed"})], "beyond"),
        ([("lit", {"turn": "1"})], "beyond"),
        ([("tally", {"turn": "1", "done": 2})], "beyond"),
        ([("look", {"turn": "1", "check": 1, "passes": True})], "beyond"),
        ([("again", {"turn": "1"})], "beyond"),
        ([READY, ("again", {"turn": "2", "joins": ["z"]})], "beyond"),
        ([("undo", {"of": "nothing-there"})], "not-there"),
        ([("stop", {"turn": "1"}), ("next", {"turn": "1", "confirmed": True})], "over"),
    ],
)
def test_what_does_not_fit_is_set_aside_and_why(told: list[Told], why: str) -> None:
    found = state(*told)
    assert [(one.why, one.other) for one in found.aside] == [(why, False)]
    without = run_state(FACES, 0, events(*told[:-1]))
    assert found.turns == without.turns
    assert found.at == without.at


def test_a_run_from_end_to_end() -> None:
    found = state(
        READY,
        ("lit", {"turn": "2"}),
        ("sign", {"turn": "2", "stage": 1}),
        ("sign", {"turn": "2", "stage": 3}),
        ("off", {"turn": "2"}),
        *BOTH,
        ("next", {"turn": "2"}),
        ("next", {"turn": "3"}),
        ("next", {"turn": "4"}),
        ("look", {"turn": "5", "check": 2, "passes": True}),
        ("measure", {"turn": "5", "what": "size_mm", "value": 17.2}),
        ("next", {"turn": "5"}),
        ("tally", {"turn": "6", "done": 2, "lost": 1}),
        ("next", {"turn": "6"}),
    )
    assert (found.standing, found.at, found.ended_ms, found.aside) == ("finished", "6", 15_000, ())
    heat = turn(found, "2")
    assert [(sign.stage, sign.at_ms) for sign in heat.signs] == [(0, 2000), (1, 3000), (3, 4000)]
    assert (heat.off_ms, [word.join for word in heat.outcomes]) == (5000, ["a", "b"])
    assert (turn(found, "3").due_low_ms, turn(found, "4").due_high_ms) == (8000 + 60_000, 9000 + 420_000)
    assert (turn(found, "6").tally, turn(found, "6").lost) == (2, 1)
    assert [(look.check, look.passes) for look in turn(found, "5").looks] == [(2, True)]


def test_what_is_taken_back_gives_way_to_what_was_said_before() -> None:
    again: list[Told] = [
        READY,
        ("outcome", {"turn": "2", "join": "a", "outcome": "short"}),
        ("outcome", {"turn": "2", "join": "a", "outcome": "flowed"}),
        ("lit", {"turn": "2"}),
        ("sign", {"turn": "2", "stage": 1}),
    ]
    assert turn(state(*again), "2").outcomes[0].outcome == "flowed"
    back = turn(state(*again, ("undo", {"of": "tablet-1-0003"}), ("undo", {"of": "tablet-1-0004"})), "2")
    assert [word.outcome for word in back.outcomes] == ["short"]
    # Signs count from the lit flame: without it none stands.
    assert back.signs == ()


def test_a_note_takes_the_place_of_the_one_that_it_replaces_and_of_no_other() -> None:
    first = ("note", {"turn": "1", "text": "thin flux"})
    second = ("note", {"turn": "1", "text": "thin flux, again", "replaces": "tablet-1-0001"})
    assert [note.text for note in turn(state(first, second), "1").notes] == ["thin flux, again"]
    # Written on two devices over the same one, both stand.
    other = events(
        ("note", {"turn": "1", "text": "wet", "replaces": "tablet-1-0001"}), device="phone-0001", start=2
    )
    both = run_state(FACES, 0, [*events(first, second), *other])
    assert {note.text for note in turn(both, "1").notes} == {"thin flux, again", "wet"}


@pytest.mark.parametrize(
    ("at", "ways", "turns"),
    [
        # At flame off: made ready and heated again, then on as planned.
        ("2", [], ["1", "2", "1.2", "2.2", "3", "4", "5", "6"]),
        ("2", ["pickle-first"], ["1", "2", "3.2", "4.2", "1.2", "2.2", "3", "4", "5", "6"]),
        # From the look: all that led to it.
        ("5", [], ["1", "2", "3", "4", "5", "1.2", "2.2", "3.2", "4.2", "5.2", "6"]),
    ],
)
def test_another_try_is_a_full_new_record(at: str, ways: list[str], turns: list[str]) -> None:
    led: list[Told] = [READY, ("outcome", {"turn": "2", "join": "a", "outcome": "flowed"})]
    led += [("outcome", {"turn": "2", "join": "b", "outcome": "did-not-flow"})]
    led += [("next", {"turn": str(n)}) for n in range(2, int(at))]
    said = {"turn": at, "of": "2", "ways": [*ways, "flux-and-solder"], "joins": ["b"]}
    found = state(*led, ("again", said))
    assert [one.id for one in found.turns] == turns
    assert found.at == turns[turns.index(at) + 1]
    # The danger that was confirmed once is confirmed again; only the join that is done again has to come out.
    tried = turn(found, "2.2")
    assert (tried.again, tried.joins, tried.ways[-1]) == (2, ("b",), "flux-and-solder")
    more = state(*led, ("again", said), ("next", {"turn": found.at}))
    assert [one.why for one in more.aside] == (["unconfirmed"] if found.at == "1.2" else [])


@pytest.mark.parametrize(
    ("kinds", "heat", "turns"),
    [
        # All of a round are made ready first, in the order of their heats; what comes before those is another step.
        ("PppphhhcI", "5", ["2.2", "5.2", "8.2", "9.2"]),
        ("PppphhhcI", "7", ["4.2", "7.2", "8.2", "9.2"]),
        ("phphcI", "2", ["1.2", "2.2", "5.2", "6.2"]),
        ("phphcI", "4", ["3.2", "4.2", "5.2", "6.2"]),
        # Where fewer were made ready than heats follow, nobody knows for which.
        ("phhcI", "2", ["2.2", "4.2", "5.2"]),
        ("phhcI", "3", ["1.2", "3.2", "4.2", "5.2"]),
        ("hcI", "1", ["1.2", "2.2", "3.2"]),
    ],
)
def test_a_try_is_made_ready_for_as_its_heat_was(kinds: str, heat: str, turns: list[str]) -> None:
    names: dict[str, Any] = {"p": "prepare", "P": "prepare", "h": "heat", "c": "cool", "I": "inspect"}
    faces = [Face(kind=names[kind]) for kind in kinds]
    walked: list[Told] = [("next", {"turn": str(n + 1)}) for n in range(len(kinds) - 1)]
    sent = ("again", {"turn": str(len(kinds)), "of": heat})
    found = run_state(faces, 0, events(*walked, sent))
    assert [one.id for one in found.turns][len(kinds) :] == turns


def test_a_try_is_begun_anew_before_its_heat() -> None:
    """Said while it is made ready for the second: no heat lies before that in the plan."""
    again = ("again", {"turn": "2"}), ("again", {"turn": "1.2", "of": "2"})
    found = state(READY, *again)
    assert [one.id for one in found.turns][:6] == ["1", "2", "1.2", "1.3", "2.3", "2.2"]
    assert found.at == "1.3"


def test_a_third_try_has_a_number_of_its_own() -> None:
    again = ("again", {"turn": "2"}), ("next", {"turn": "1.2", "confirmed": True}), ("again", {"turn": "2.2"})
    found = state(READY, *again)
    assert [one.id for one in found.turns][:6] == ["1", "2", "1.2", "2.2", "1.3", "2.3"]
    assert found.at == "1.3"


def test_two_devices_that_press_at_once_go_on_once_and_it_is_told() -> None:
    mine = events(READY)
    theirs = events(READY, device="phone-0001")
    found = run_state(FACES, 0, [*mine, *theirs])
    assert found.at == "2"
    ((one),) = found.aside
    assert (one.event, one.why, one.other) == ("tablet-1-0001", "elsewhere", True)


@pytest.mark.parametrize("jump_ms", [-3_600_000, 3_600_000])
def test_a_clock_that_is_put_right_keeps_the_order_of_its_device(jump_ms: int) -> None:
    first, *rest = events(READY, *BOTH, ("next", {"turn": "2"}))
    moved = [
        event.model_copy(update={"at_ms": max(0, event.at_ms + jump_ms), "ahead_ms": -jump_ms})
        for event in rest
    ]
    for these in (moved, [event.model_copy(update={"ahead_ms": 0}) for event in moved]):
        assert run_state(FACES, 0, [first, *these]).at == "3"
    assert [at for at, _ in in_order([first, *moved])][1:] == (
        [2000, 3000, 4000] if jump_ms > 0 else [3_600_000, 3_600_000, 3_600_000]
    )


_KINDS: dict[str, dict[str, Any]] = {
    "next": {"confirmed": st.booleans(), "skipped": st.booleans()},
    "back": {},
    "lit": {},
    "sign": {"stage": st.integers(1, 4)},
    "off": {},
    "outcome": {"join": st.sampled_from(["a", "b"]), "outcome": st.sampled_from(["flowed", "short"])},
    "note": {"text": st.sampled_from(["", "one", "two"])},
    "tally": {"done": st.integers(0, 4), "lost": st.integers(0, 1)},
    "look": {"check": st.integers(1, 3), "passes": st.booleans()},
    "measure": {"what": st.just("mass_g"), "value": st.floats(0.1, 9)},
    "again": {"ways": st.just(["pickle-first"]), "of": st.sampled_from([None, "1", "2", "2.2"])},
}


@st.composite
def _many(draw: st.DrawFn) -> list[Event]:
    made: list[Event] = []
    for n in range(draw(st.integers(0, 25))):
        kind = draw(st.sampled_from([*_KINDS, "undo"]))
        device = draw(st.sampled_from(["tablet-1", "phone-0001"]))
        seq = 1 + sum(one.device == device for one in made)
        more: dict[str, Any] = {"of": made[draw(st.integers(0, n - 1))].id if n else "nothing-there"}
        if kind != "undo":
            more = {key: draw(value) for key, value in _KINDS[kind].items()}
            more["turn"] = draw(st.sampled_from(["1", "2", "3", "4", "5", "6", "1.2", "2.2"]))
        plain = {"id": f"{device}-{seq:04}", "device": device, "seq": seq, "kind": kind, **more}
        made.append(read_event(plain | {"at_ms": draw(st.integers(0, 50)) * 100}))
    return made


@settings(max_examples=150, deadline=None)
@given(_many(), st.randoms(use_true_random=False))
def test_the_order_in_which_events_come_counts_for_nothing(made: list[Event], dice: Any) -> None:
    """In any order, and each as often as it likes; and every event counts or is set aside."""
    found = run_state(FACES, 0, made)
    mixed = [*made, *dice.sample(made, len(made) // 2)]
    dice.shuffle(mixed)
    assert run_state(FACES, 0, mixed) == found
    assert found.at in {one.id for one in found.turns}
    assert len({one.id for one in found.turns}) == len(found.turns)
    here = turn(found, found.at)
    assert (here.stays[-1].left_ms is None) == (found.standing == "going")
    assert sum(stay.left_ms is None for one in found.turns for stay in one.stays) <= 1
    assert {one.event for one in found.aside} <= {one.id for one in made}


@pytest.mark.parametrize(
    ("outcomes", "ways"),
    [
        (["flowed", "flooded"], []),
        (["did-not-flow"], ["pickle-first", "flux-and-solder", "another-tip", "heavy-side"]),
        (
            ["flowed", "moved", "short"],
            ["apart", "flux-and-solder", "heavy-side", "pickle-first", "another-tip"],
        ),
        (["melted"], ["replace-part", "apart"]),
    ],
)
def test_what_can_be_tried_fits_what_went_wrong(outcomes: list[Any], ways: list[str]) -> None:
    assert [one.way for one in ways_for(outcomes)] == ways


@pytest.mark.parametrize("word", OUTCOMES, ids=lambda word: word.outcome)
def test_there_is_a_way_from_every_outcome_that_is_not_sound(word: OutcomeWord) -> None:
    assert bool(ways_for([word.outcome])) is not word.sound


@pytest.mark.parametrize(
    "wrong",
    [
        {"id": "x"},
        {"kind": "sing"},
        {"seq": 0},
        {"turn": "2.0"},
        {"turn": "0"},
        {"at_ms": -1},
        {"mood": "good"},
        {"ahead_ms": "5"},
        {"ahead_ms": 5.0},
        {"ahead_ms": True},
        {"seq": "1"},
    ],
)
def test_what_is_no_event_is_refused_by_its_key(wrong: dict[str, Any]) -> None:
    plain = {"id": "tablet-1-0001", "device": "tablet-1", "seq": 1, "at_ms": 0, "kind": "lit", "turn": "2"}
    read_event(plain)
    with pytest.raises(ValidationError) as told:
        read_event(plain | wrong)
    assert next(iter(wrong)) in str(told.value)


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.stem)
def test_the_faces_of_a_plan_are_its_steps(path: Path) -> None:
    from eskel_core.piece import read_piece

    steps = plan(read_piece(path)).steps
    faces = faces_of(steps)
    assert [face.kind for face in faces] == [step.kind for step in steps]
    assert all((face.waits_low_ms is not None) == (face.kind in ("cool", "pickle")) for face in faces)


def test_a_plan_is_run_by_its_faces() -> None:
    made = piece([plate("base"), wire("post")], [join("foot", "post", "base")])
    faces = faces_of(plan(made).steps)
    heat = next(n for n, face in enumerate(faces) if face.kind == "heat")
    assert faces[heat].joins == ("foot",)
    assert run_state(faces, 5, []).turns[0].stays[0].entered_ms == 5

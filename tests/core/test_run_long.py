"""Long runs: what is told costs what is told, one event more costs that one, and it comes to the same in whatever order."""

from __future__ import annotations

import sys
from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.run import Event, Face, Telling, read_event, run_state

FACES = (
    Face(kind="prepare"),
    Face(kind="heat", joins=("rim",), stages=2),
    Face(kind="cool"),
    Face(kind="pickle"),
    Face(kind="inspect", checks=2),
)
LONG, SHORT = 2_400, 300


def event(n: int, kind: str, **more: Any) -> Event:
    return read_event(
        {"id": f"tablet-1-{n:06}", "device": "tablet-1", "seq": n, "at_ms": n, "kind": kind, **more}
    )


def notes(count: int) -> list[Event]:
    return [event(n, "note", turn="1", text="dry") for n in range(1, count + 1)]


def written_and_taken_back(count: int) -> list[Event]:
    return [
        event(n, "note", turn="1", text="dry") if n % 2 else event(n, "undo", of=f"tablet-1-{n - 1:06}")
        for n in range(1, count + 1)
    ]


def to_and_fro(count: int) -> list[Event]:
    return [event(n, *(("next",) if n % 2 else ("back",)), turn=str(2 - n % 2)) for n in range(1, count + 1)]


def again_and_again(count: int) -> list[Event]:
    return [
        event(1, "next", turn="1"),
        *(event(n, "again", turn="2" if n == 2 else f"2.{n - 1}") for n in range(2, count + 1)),
    ]


def calls(do: Callable[[], object]) -> int:
    """Count the calls that Python makes while something is done: the same on every machine, however busy."""
    count = 0

    def counted(_frame: object, what: str, _of: object) -> None:
        nonlocal count
        count += what in ("call", "c_call")

    sys.setprofile(counted)
    try:
        do()
    finally:
        sys.setprofile(None)
    return count


@pytest.mark.parametrize("made", [notes, written_and_taken_back, to_and_fro, again_and_again])
def test_eight_times_as_much_takes_eight_times_as_many_calls(made: Callable[[int], list[Event]]) -> None:
    """What is quadratic takes 64 times as many. The seconds are measured by `bin/bench attack`."""
    few, many = made(SHORT), made(LONG)
    short, long = (calls(lambda events=events: run_state(FACES, 0, events)) for events in (few, many))
    assert 6 * short < long < 10 * short


def test_an_event_more_costs_a_small_part_of_all() -> None:
    all_of_them = notes(LONG)
    telling = Telling(FACES, 0)
    whole = calls(lambda: (telling.add(all_of_them[:-20]), telling.state))
    each = [calls(lambda last=last: (telling.add([last]), telling.state)) for last in all_of_them[-20:]]
    assert max(each) < whole / 50
    assert len(telling.state.turns[0].notes) == LONG


def test_turns_that_did_not_change_are_the_same_ones() -> None:
    telling = Telling(FACES, 0, [event(1, "next", turn="1")])
    was = telling.state
    telling.add([event(2, "note", turn="2", text="slow")])
    assert [now is before for now, before in zip(telling.state.turns, was.turns, strict=True)] == [
        True,
        False,
        True,
        True,
        True,
    ]


def test_a_try_with_the_pot_before_and_after_it_has_a_turn_for_each() -> None:
    """The pot before the heat and the pot after it are two turns, each with an id of its own."""
    moves = [event(n, "next", turn=str(n)) for n in range(1, 5)]
    for n in range(2, 5):
        moves[n - 1] = event(n, "next", turn=str(n), skipped=True)
    state = run_state(FACES, 0, [*moves, event(5, "again", turn="5", of="2", ways=["pickle-first"])])
    ids = [turn.id for turn in state.turns]
    assert len(set(ids)) == len(ids)
    assert ids[5:] == ["3.2", "4.2", "1.2", "2.2", "3.3", "4.3", "5.2"]
    assert state.at == "3.2"


KINDS = st.sampled_from(["next", "back", "note", "lit", "off", "outcome", "undo", "again"])


@given(st.lists(st.tuples(KINDS, st.integers(1, 5), st.integers(0, 40)), max_size=25), st.data())
def test_events_come_to_the_same_however_they_arrive(told: Any, data: st.DataObject) -> None:
    made = [pressed(n, *one) for n, one in enumerate(told, start=1)]
    at_once = run_state(FACES, 0, made)
    telling = Telling(FACES, 0)
    left = data.draw(st.permutations(made))
    while left:
        count = data.draw(st.integers(1, len(left)))
        telling.add(left[:count])
        left = left[count:]
    assert telling.state == at_once


def pressed(n: int, kind: str, turn: int, at_ms: int) -> Event:
    """A press on one of two tablets."""
    device = f"tablet-{n % 2}"
    more: dict[str, Any] = {"turn": str(turn)}
    if kind == "undo":
        more = {"of": f"tablet-{turn % 2}-{turn:06}"}
    if kind == "note":
        more |= {"text": "slow"}
    if kind == "outcome":
        more |= {"join": "rim", "outcome": "flowed"}
    if kind == "next":
        more |= {"skipped": True}
    return read_event(
        {"id": f"{device}-{n:06}", "device": device, "seq": n, "at_ms": at_ms, "kind": kind, **more}
    )

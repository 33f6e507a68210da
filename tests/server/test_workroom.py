"""The workroom: time limits, ending what nobody waits for, refusals kept; near and through its socket."""

from __future__ import annotations

import secrets
import threading
import time
from collections.abc import Iterator
from multiprocessing.connection import Client
from pathlib import Path
from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_server.edge import _VISIT, Visit
from eskel_server.workroom import Broken, TooLong, room, tasks
from eskel_server.workroom.door import Far, Near, Way, serve
from eskel_server.workroom.room import Room
from tests.server.workroom_tasks import carry_out

LIMIT_S = 30.0


@pytest.fixture(scope="module")
def far(tmp_path_factory: pytest.TempPathFactory) -> Way:
    """A workroom behind its socket."""
    path, key = str(tmp_path_factory.mktemp("room") / "s"), secrets.token_bytes(8)
    threading.Thread(target=serve, args=(path, key, Room(carry_out=carry_out)), daemon=True).start()
    began = time.monotonic()
    while not Path(path).exists():
        assert time.monotonic() - began < LIMIT_S
    return Far(path, key)


@pytest.fixture(params=["near", "far"])
def way(request: pytest.FixtureRequest) -> Way:
    """Each way to a workroom."""
    chosen: Way = request.getfixturevalue(request.param)
    return chosen


@pytest.fixture(scope="module")
def near() -> Iterator[Way]:
    """A workroom of this process."""
    own = Room(carry_out=carry_out)
    yield Near(own)
    own.close()


def piece(name: str) -> str:
    return f'{{"format": "eskel-piece/1", "name": "{name}"}}'


def test_a_task_is_done_and_a_refusal_told(way: Way) -> None:
    assert way.do("draw", piece("Nothing yet"), limit_s=LIMIT_S).parts == ()
    with pytest.raises(Refused) as told:
        way.do("draw", "{}", limit_s=LIMIT_S)
    assert told.value.faults[0].path == "format"


def test_what_takes_too_long_is_ended_and_the_next_goes_on(way: Way) -> None:
    with pytest.raises(TooLong):
        way.do("rest", LIMIT_S, secrets.token_hex(4), limit_s=0.3)
    assert way.do("draw", piece(secrets.token_hex(4)), limit_s=LIMIT_S).parts == ()


def test_what_nobody_waits_for_is_ended(way: Way) -> None:
    visit = Visit()
    _VISIT.set(visit)
    threading.Timer(0.2, visit.end).start()
    began = time.monotonic()
    with pytest.raises(Broken):
        way.do("rest", LIMIT_S, secrets.token_hex(4), limit_s=LIMIT_S)
    _VISIT.set(None)
    assert time.monotonic() - began < LIMIT_S / 2
    # Both processes are free again: three tasks more than there are processes go through.
    for n in range(3):
        assert way.do("draw", piece(f"After {n} {secrets.token_hex(4)}"), limit_s=LIMIT_S).parts == ()


def test_one_who_leaves_does_not_end_what_another_waits_for() -> None:
    shared, told, gone = Room(workers=1, carry_out=carry_out), [], []
    name = secrets.token_hex(4)
    done = threading.Event()
    shared.begin("rest", (0.4, name), LIMIT_S, gone.append)
    shared.begin("rest", (0.4, name), LIMIT_S, lambda outcome: (told.append(outcome), done.set()))
    shared.leave("rest", (0.4, name), gone.append)
    assert done.wait(LIMIT_S)
    assert told == [("done", None)]
    assert gone == []
    shared.close()


def test_a_refusal_is_worked_out_once() -> None:
    shared = Room(workers=1, carry_out=carry_out)
    outcomes: list[Any] = []
    for _ in range(2):
        done = threading.Event()
        shared.begin(
            "draw", ("{}",), LIMIT_S, lambda outcome, done=done: (outcomes.append(outcome), done.set())
        )
        assert done.wait(LIMIT_S)
    assert outcomes[0][0] == "refused"
    assert outcomes[0] is outcomes[1]
    shared.close()


def test_a_process_that_dies_takes_its_task_alone(way: Way) -> None:
    with pytest.raises(Broken, match="process ended"):
        way.do("die", secrets.token_hex(4), limit_s=LIMIT_S)
    assert way.do("draw", piece(secrets.token_hex(4)), limit_s=LIMIT_S).parts == ()


def test_a_workroom_that_stays_away_is_told(tmp_path: Path) -> None:
    with pytest.raises(Broken, match="cannot be reached"):
        Far(str(tmp_path / "none"), b"key", patience_s=0).do("draw", piece("Any"), limit_s=LIMIT_S)
    assert isinstance(room(), Near)


def test_a_workroom_that_is_just_beginning_is_waited_for(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path, key = str(tmp_path / "s"), secrets.token_bytes(8)
    tried = threading.Event()

    def client(*asked: Any, **how: Any) -> Any:
        try:
            return Client(*asked, **how)
        except FileNotFoundError:
            tried.set()
            raise

    def begin() -> None:
        tried.wait(LIMIT_S)
        serve(path, key)

    monkeypatch.setattr("eskel_server.workroom.door.Client", client)
    threading.Thread(target=begin, daemon=True).start()
    assert Far(path, key).do("draw", piece("Waited for"), limit_s=LIMIT_S).parts == ()
    assert tried.is_set()


def waited(shared: Room, *asked: Any, limit_s: float) -> Any:
    """Have a task carried out and give its outcome."""
    done, told = threading.Event(), []
    shared.begin("rest", asked, limit_s, lambda outcome: (told.append(outcome), done.set()))
    assert done.wait(LIMIT_S)
    return told[0]


def test_what_was_not_found_in_time_is_told_again_at_once_unless_there_is_more_time() -> None:
    shared, name = Room(workers=1, carry_out=carry_out), secrets.token_hex(4)
    assert waited(shared, 1.0, name, limit_s=0.3) == ("late", 0.3)
    began = time.monotonic()
    assert waited(shared, 1.0, name, limit_s=0.3) == ("late", 0.3)
    assert time.monotonic() - began < 0.2
    assert waited(shared, 1.0, name, limit_s=LIMIT_S) == ("done", None)
    assert waited(shared, 1.0, name, limit_s=0.3) == ("done", None)
    shared.close()


def test_a_task_is_late_by_its_processor_time(monkeypatch: pytest.MonkeyPatch) -> None:
    """Work that waits is not late; work that reckons is."""

    def reckon(seconds: float) -> str:
        began = time.process_time()
        while time.process_time() - began < seconds:
            pass
        return "reckoned"

    monkeypatch.setitem(tasks.TASKS, "reckon", reckon)
    monkeypatch.setitem(tasks.TASKS, "wait", lambda: threading.Event().wait(0.4))
    assert tasks.carry_out("reckon", (0.05,), 5.0) == ("done", "reckoned")
    assert tasks.carry_out("reckon", (5.0,), 0.2) == ("late", 0.2)
    assert tasks.carry_out("wait", (), 0.2) == ("done", False)

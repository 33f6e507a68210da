"""A run by presses: what each writes, what is refused, how the work stands by it."""

from __future__ import annotations

import io
import json
from pathlib import Path
from typing import Any

import pytest

from eskel_core.cli import main
from eskel_core.faults import Refused
from eskel_core.piece import parse_piece
from eskel_core.plan import plan
from eskel_core.run import Presses, shown_run
from tests.core.pieces import EXAMPLES, piece, wire

DROP = next(path for path in EXAMPLES if path.name.startswith("hollow-lantern-drop"))


def run(*presses: str, path: Path = DROP) -> Presses:
    made = parse_piece(path.read_bytes())
    found = Presses(made, plan(made))
    for press in presses:
        found.press(press)
    return found


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_every_example_runs_to_its_end_by_good_outcomes(path: Path) -> None:
    done = run("to-end", path=path)
    shown = shown_run(done)
    assert (shown["format"], shown["standing"], shown["step"], shown["offers"]) == (
        "eskel-run-state/1",
        "finished",
        None,
        [],
    )
    heats = [step for step in done.plan.steps if step.kind == "heat"]
    rows = [row for row in shown["log"] if row["heat_no"] is not None]
    joins = [row.join for step in heats for row in step.joins]
    assert [row["join"] for row in rows if row["copy"] == 1] == [
        name for step in heats for name in ([row.join for row in step.joins] or [step.work or step.purpose])
    ]
    assert len(rows) == sum(row.alike for step in heats for row in step.joins) + sum(
        step.alike for step in heats if not step.joins
    )
    assert {row["outcome"] for row in shown["log"]} <= {"flowed", "soft", "size", "full", "done"}
    (group,) = shown["state"]["groups"]
    assert {seam["stage"] for name in joins for seam in group["joins"][name]} <= {"soldered", "fused"}


def test_to_heat_stands_before_it_is_lit() -> None:
    here = run("to-heat 2")
    assert (here.step.kind, here.turn.signs) == ("heat", ())
    assert "lit" in here.possible()
    assert shown_run(here)["state"]["groups"][0]["joins"]["rim"][0]["stage"] == "soldered"
    assert shown_run(here)["state"]["groups"][0]["joins"]["crown"][0]["stage"] == "not-yet"


@pytest.mark.parametrize(
    ("kind", "expected"),
    [("heat", "heat"), ("dry", "work"), ("drill", "work"), ("solder", "heat"), ("pickle", "pickle")],
)
def test_to_step_goes_by_kind_work_and_purpose(kind: str, expected: str) -> None:
    assert run(f"to-step {kind}").step.kind == expected


def test_a_fault_is_mended_by_a_way_and_its_tries_keep_their_words() -> None:
    here = run("to-heat 2", "lit", "off", "outcome crown short")
    assert next(offer["way"] for offer in shown_run(here)["offers"]) == "flux-and-solder"
    here.press("way flux-and-solder")
    here.press("to-heat 2")
    for press in ("lit", "off", "outcome all flowed", "next"):
        here.press(press)
    rows = [
        (row["try"], row["outcome"], row["way"]) for row in shown_run(here)["log"] if row["join"] == "crown"
    ]
    assert rows == [(1, "short", None), (2, "flowed", "flux-and-solder")]


@pytest.mark.parametrize(
    ("before", "press"),
    [
        (["to-heat 1", "lit", "off"], "next"),
        (["to-heat 1", "lit"], "next"),
        (["to-heat 1", "lit", "off", "outcome rim short"], "next"),
        (["to-heat 1", "lit", "off", "outcome rim flowed"], "way apart"),
        (["to-heat 1"], "off"),
        (["to-heat 1"], "outcome crown flowed"),
        (["to-heat 1", "lit", "off"], "outcome rim well"),
        ([], "lit"),
        ([], "early"),
        ([], "back"),
        ([], "to-heat 9"),
        ([], "to-step dance"),
        ([], "lost nothing 1"),
        ([], "measure inside 17"),
        ([], "wait long"),
        ([], "undo"),
        ([], "press"),
        ([], ""),
        (["to-end"], "next"),
    ],
)
def test_a_press_that_means_nothing_there_is_refused_with_what_could_be_pressed(
    before: list[str], press: str
) -> None:
    here = run(*before)
    known = len(here.events)
    with pytest.raises(Refused) as problem:
        here.press(press)
    assert problem.value.faults[0].code == "not-here"
    assert problem.value.faults[0].remedy.startswith("Could be pressed: ")
    assert len(here.events) == known or press.startswith("to-"), "nothing is written of it"


def test_going_on_waits_until_what_is_waited_for_is_over_and_early_does_not() -> None:
    waited, early = run("to-step cool", "next"), run("to-step cool", "early")
    assert waited.now_ms - early.now_ms >= 60_000


def test_the_last_thing_written_is_taken_back() -> None:
    here = run("to-heat 1", "lit", "off", "outcome rim short", "undo", "outcome rim flowed", "next")
    assert [row["outcome"] for row in shown_run(here)["log"]] == ["flowed"]


def test_what_is_lost_carries_on_as_left() -> None:
    row = {"id": "balls", "kind": "ball", "parts": ["pin"], "ball_mm": 1.8}
    made = piece([wire("pin", count=12)], [], work=[row])
    here = Presses(made, plan(made))
    for press in ("to-heat 1", "lit", "off", "lost pin 2"):
        here.press(press)
    (left,) = shown_run(here)["left"]
    assert (left["part"], left["count"]) == ("pin", 2)
    assert shown_run(here)["state"]["groups"][0]["parts"]["pin"]["lost"] == 2


def told(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], said: Any, path: Path = DROP
) -> tuple[int, Any]:
    class Input:
        buffer = io.BytesIO(json.dumps(said).encode())

    monkeypatch.setattr("sys.stdin", Input())
    code = main(["run", str(path)])
    return code, json.loads(capsys.readouterr().out)


def test_the_command_prints_the_run_and_refuses_what_means_nothing(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    code, shown = told(monkeypatch, capsys, {"presses": ["to-heat 1", "lit"]})
    assert (code, shown["step"]["heat_no"], shown["keys"]["Space"]["press"]) == (0, 1, "off")
    code, faults = told(monkeypatch, capsys, {"presses": ["lit"]})
    assert (code, faults[0]["code"]) == (2, "not-here")
    code, faults = told(monkeypatch, capsys, {"press": "lit"})
    assert (code, faults[0]["code"]) == (2, "wrong-type")


def test_the_command_state_tells_the_work_after_each_step(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["state", str(DROP)]) == 0
    rows = json.loads(capsys.readouterr().out)
    assert [row["n"] for row in rows] == list(range(1, len(rows) + 1))
    assert {row["state"]["format"] for row in rows} == {"eskel-state/1"}
    assert [row["state"]["groups"][0]["joins"]["rim"][0]["stage"] for row in (rows[0], rows[-1])] == [
        "not-yet",
        "soldered",
    ]

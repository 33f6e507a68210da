"""Runs out of a table: as the log writes it, each whole or not at all; what is broken is told by its row."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from eskel_core.log import LoggedOutcome, outcome_csv
from eskel_core.plan import HeatStep, read_plan
from eskel_core.run import RunState, TableRun, faces_of, facets_of, read_run_file, read_table, run_state

NOW_MS = 1_790_000_000_000
HEAD = "run,piece,run began,step,heat,try,join,kind,solder,flame lit,flame off,said,outcome,note"
DAY = "2026-03-01T09:"


def row(join: str, at: str, outcome: str = "flowed", **more: str) -> str:
    told = {"run": "1", "piece": "Reed brooch", "began": f"{DAY}00:00Z", "step": "4", "try": "1"} | more
    cells = (
        *(told[key] for key in ("run", "piece", "began", "step")),
        told.get("heat", "1"),
        told["try"],
        join,
        told.get("kind", "tee"),
        told.get("solder", "us-hard"),
        told.get("lit", ""),
        told.get("off", ""),
        told.get("said", f"{DAY}{at}Z"),
        outcome,
        told.get("note", ""),
    )
    return ",".join(cells)


def read(*rows: str, head: str = HEAD) -> list[TableRun]:
    return read_table("\n".join([head, *rows]), NOW_MS)


def state_of(one: TableRun) -> RunState:
    assert one.run is not None, one.faults
    told = read_run_file(one.run.model_dump(mode="json"), NOW_MS)
    state = run_state(faces_of(read_plan(told.plan).steps), told.began_ms, told.events)
    assert state.aside == ()
    return state


def test_a_run_of_two_heats_with_a_second_try_is_told_as_it_was() -> None:
    [one] = read(
        row("stem", "10:30", "short", lit=f"{DAY}10:00Z", off=f"{DAY}10:25Z", note="too little"),
        row("leaf", "10:31"),
        row("stem", "20:30", **{"try": "2", "lit": f"{DAY}20:00Z", "off": f"{DAY}20:20Z"}),
        row("pin", "30:00", step="9", heat="2", solder="us-easy", kind="butt"),
    )
    state = state_of(one)
    assert state.standing == "finished"
    assert [(turn.id, [(word.join, word.outcome) for word in turn.outcomes]) for turn in state.turns] == [
        ("1", [("stem", "short"), ("leaf", "flowed")]),
        ("1.2", [("stem", "flowed")]),
        ("2", [("pin", "flowed")]),
    ]
    first = state.turns[0]
    assert first.off_ms is not None
    assert first.off_ms - first.signs[0].at_ms == 25_000
    assert [note.text for note in first.notes] == ["too little"]
    assert one.run is not None
    heats = [step for step in read_plan(one.run.plan).steps if isinstance(step, HeatStep)]
    assert [(heat.heat_no, [row.grade for row in heat.joins]) for heat in heats] == [
        (1, ["hard", "hard"]),
        (2, ["easy"]),
    ]
    assert [facet.kind for heat in heats for facet in facets_of(None, read_plan(one.run.plan), heat)] == [
        "tee",
        "tee",
        "butt",
    ]


def test_what_the_log_writes_is_read() -> None:
    at = datetime(2026, 3, 1, 9, 10, tzinfo=UTC)
    told = LoggedOutcome(
        run=7,
        piece_name="=Sum of parts",
        began_at=at,
        step=4,
        heat_no=2,
        again=1,
        join="rim",
        kind="butt",
        solder="us-medium",
        lit_at=at,
        off_at=at.replace(minute=11),
        said_at=at.replace(minute=12),
        outcome="flooded",
        note='a "fine" day, once',
    )
    [one] = read_table(outcome_csv([told]), NOW_MS)
    assert one.run is not None
    assert one.run.piece_name == "=Sum of parts"
    [turn] = state_of(one).turns
    assert (turn.outcomes[0].outcome, turn.notes[0].text) == ("flooded", 'a "fine" day, once')


def test_runs_stand_each_for_itself() -> None:
    good, bad = row("stem", "10:30"), row("stem", "10:30", "melted away", run="2", began=f"{DAY}05:00Z")
    first, second = read(good, bad)
    assert first.run is not None
    assert second.run is None
    assert [fault.path for fault in second.faults] == ["row 3, outcome"]


@pytest.mark.parametrize(
    ("rows", "path"),
    [
        ([row("stem", "10:30", said="noon")], "row 2, said"),
        ([row("stem", "10:30", said="2036-01-01T00:00:00Z")], "row 2, said"),
        ([row("stem", "10:30", lit="late")], "row 2, flame lit"),
        ([row("stem", "10:30", began="spring")], "row 2, run began"),
        ([row("stem", "10:30", began="9999-12-31T00:00Z")], "row 2, run began"),
        ([row("stem", "10:30", began="9999-12-31")], "row 2, run began"),
        ([row("stem", "10:30", piece="")], "row 2, piece"),
        ([row("", "10:30")], "row 2, join"),
        ([row("stem", "10:30", step="0")], "row 2, step"),
        ([row("stem", "10:30", step="²")], "row 2, step"),
        ([row("stem", "10:30", step="٣")], "row 2, step"),
        ([row("stem", "10:30", **{"try": "two"})], "row 2, try"),
        ([row("stem", "10:30", kind="glued")], "row 2, kind"),
        ([row("stem", "10:30", solder="tin")], "row 2, solder"),
        ([row("stem", "10:30", note="x" * 4001)], "row 2, note"),
        ([row("stem", "10:30", **{"try": "2"})], "row 2, try"),
        ([row("stem", "10:30", step="9"), row("leaf", "20:30", step="4")], "row 2, step"),
    ],
)
def test_what_makes_no_sense_is_told_by_its_row(rows: list[str], path: str) -> None:
    [one] = read(*rows)
    assert one.run is None
    assert [fault.path for fault in one.faults] == [path]
    assert all(fault.rule and fault.remedy for fault in one.faults)


@pytest.mark.parametrize("text", ["", "no table", "a,b\n1,2", "\x00\x01"])
def test_what_is_no_table_says_what_one_has(text: str) -> None:
    [one] = read_table(text, NOW_MS)
    assert [fault.code for fault in one.faults] == ["missing"]


def test_a_cell_too_large_is_told() -> None:
    [one] = read(row("stem", "10:30"), row("x" * 200_000, "11:30"))
    assert one.run is None
    assert "cells of at most" in one.faults[0].rule


def test_columns_may_stand_in_any_order_and_be_left_out() -> None:
    head = "outcome,said,join,run began,piece,run"
    [one] = read(f"flowed,{DAY}10:00Z,stem,{DAY}00:00Z,Ring,1", head=head)
    assert [word.join for word in state_of(one).turns[0].outcomes] == ["stem"]


def test_a_row_that_is_cut_short_is_told() -> None:
    [one] = read(f"1,Ring,{DAY}00:00Z,4")
    assert {fault.path for fault in one.faults} == {"row 2, said", "row 2, join", "row 2, outcome"}

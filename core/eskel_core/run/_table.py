"""Runs out of a table of outcomes, as the log writes it or somebody kept by hand: one row for each word on a join.

A table has no plan in it: a run that is read from one has its heats alone, each as one step, with what was said of them.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from hashlib import sha256
from typing import Any, get_args

from ..faults import Fault
from ..log import OUTCOMES
from ..metals import solders
from ..piece import JoinKind
from ..plan import HeatJoin, HeatStep, Plan
from ._file import RunFile

NEEDED = ("run", "piece", "run began", "join", "said", "outcome")
_OUTCOMES = frozenset(word.outcome for word in OUTCOMES)
_KINDS = frozenset(get_args(JoinKind)) | {""}
_ID_LENGTH = 60
# By what the events of a run that came out of a table are known.
FROM_TABLE = "table-"
_FORMULA = frozenset("=+-@")


@dataclass(frozen=True)
class TableRun:
    """A run of a table: what it is called there, and the run, or every fault of its rows."""

    name: str
    run: RunFile | None
    faults: tuple[Fault, ...]


@dataclass(frozen=True)
class _Row:
    """A row that makes sense; times in ms since 1970."""

    step: int
    again: int
    heat_no: int
    join: str
    kind: str
    solder: str | None
    lit_ms: int | None
    off_ms: int | None
    said_ms: int
    outcome: str
    note: str


def read_table(text: str, now_ms: int) -> list[TableRun]:
    """Read the runs of a table, in its order, each whole or not at all; raise nothing: a table that is none is one run with its fault."""
    rows = csv.DictReader(io.StringIO(text.removeprefix("\ufeff")))
    head = [name.strip().lower() for name in rows.fieldnames or ()]
    missing = [name for name in NEEDED if name not in head]
    if missing:
        rule = f"a table of outcomes has the columns {', '.join(NEEDED)}"
        return [
            TableRun("", None, (_fault(1, missing[0], None, rule, "Write them as the log does.", "missing"),))
        ]
    rows.fieldnames = head
    found: dict[tuple[str, str, str], list[tuple[int, Mapping[str, str]]]] = {}
    try:
        for row in rows:
            told = {key: _plain(value or "") for key, value in row.items() if isinstance(key, str)}
            run = (told["run"], told["piece"], told["run began"])
            found.setdefault(run, []).append((rows.line_num, told))
    except csv.Error as problem:
        rule = f"a table is CSV with cells of at most {csv.field_size_limit()} signs ({problem})"
        return [TableRun("", None, (_fault(rows.line_num, "run", None, rule, "Write it as the log does."),))]
    runs: list[TableRun] = []
    alike: dict[tuple[str, str], int] = {}
    for (_, piece, began), of_run in found.items():
        # Begun in the same second, they are told apart by a millisecond.
        later_ms = alike.get((piece, began), 0)
        alike[piece, began] = later_ms + 1
        runs.append(_run(piece, began, of_run, now_ms, later_ms))
    return runs


def _plain(cell: str) -> str:
    """Give a cell as it was before it was kept from being reckoned as a formula."""
    told = cell.strip()
    return told[1:] if told[:1] == "'" and told[1:2] in _FORMULA else told


def _run(
    piece: str, began: str, told: Sequence[tuple[int, Mapping[str, str]]], now_ms: int, later_ms: int
) -> TableRun:
    first = told[0][0]
    name = f"{piece or 'without a name'}, {began}"
    faults: list[Fault] = []
    began_ms = _moment(began)
    if not 1 <= len(piece) <= 120:
        faults.append(_fault(first, "piece", piece, "a piece has a name of at most 120 signs", "Name it."))
    if began_ms is None:
        faults.append(_fault(first, "run began", began, *_TIME))
    elif began_ms > now_ms:
        faults.append(_fault(first, "run began", began, *_TO_COME))
    rows: list[_Row] = []
    for line, row in told:
        wrong = list(_wrong(line, row, now_ms))
        faults += wrong
        if not wrong:
            rows.append(_sound(row))
    tries = {} if faults else _tries(rows)
    if not faults:
        faults += _out_of_order(first, tries)
    if faults or began_ms is None:
        return TableRun(name, None, tuple(faults))
    return TableRun(name, _as_file(piece, began_ms + later_ms, tries), ())


def _wrong(line: int, row: Mapping[str, str], now_ms: int) -> Iterator[Fault]:
    for key in ("said", "flame lit", "flame off"):
        value = row.get(key, "")
        moment = _moment(value) if value else None
        if (key == "said" or value) and moment is None:
            yield _fault(line, key, value, *_TIME)
        elif moment is not None and moment > now_ms:
            yield _fault(line, key, value, *_TO_COME)
    for key in ("step", "heat", "try"):
        value = row.get(key, "")
        if value and not (value.isascii() and value.isdigit() and 1 <= int(value) <= 10_000):
            yield _fault(line, key, value, "a whole number from 1", "Number it.")
    if not 1 <= len(row["join"]) <= _ID_LENGTH:
        rule = f"a join has a name of at most {_ID_LENGTH} signs"
        yield _fault(line, "join", row["join"], rule, "Name it.")
    if row["outcome"] not in _OUTCOMES:
        rule = f"one of {', '.join(word.outcome for word in OUTCOMES)}"
        yield _fault(line, "outcome", row["outcome"], rule, "Write one of them.")
    if row.get("kind", "") not in _KINDS:
        yield _fault(
            line, "kind", row["kind"], "a kind of join, or nothing", "Leave it empty where it is another."
        )
    if row.get("solder", "") and row["solder"] not in solders():
        yield _fault(
            line,
            "solder",
            row["solder"],
            "a solder of the table, by its id",
            "Leave it empty where it is another.",
        )
    if len(row.get("note", "")) > 4000:
        yield _fault(line, "note", row["note"], "a note has at most 4000 signs", "Make it shorter.")


def _sound(row: Mapping[str, str]) -> _Row:
    step = int(row.get("step") or row.get("heat") or 1)
    return _Row(
        step=step,
        again=int(row.get("try") or 1),
        heat_no=int(row.get("heat") or step),
        join=row["join"],
        kind=row.get("kind", ""),
        solder=row.get("solder") or None,
        lit_ms=_moment(row.get("flame lit", "")),
        off_ms=_off_ms(row),
        said_ms=_moment(row["said"]) or 0,
        outcome=row["outcome"],
        note=row.get("note", ""),
    )


def _off_ms(row: Mapping[str, str]) -> int | None:
    """Give when the flame was off: by how long it was lit where that is told, which is finer than the time of day."""
    lit, seconds = _moment(row.get("flame lit", "")), row.get("under the flame s", "")
    if lit is not None and re.fullmatch(r"[0-9]{1,6}(\.[0-9]{1,3})?", seconds):
        return lit + round(float(seconds) * 1000)
    return _moment(row.get("flame off", ""))


def _tries(rows: Sequence[_Row]) -> dict[tuple[int, int], list[_Row]]:
    """Give the rows of each try of a heat, in the order in which they were done."""
    tries: dict[tuple[int, int], list[_Row]] = {}
    for row in sorted(rows, key=lambda one: (_begun(one), one.step, one.again)):
        tries.setdefault((row.step, row.again), []).append(row)
    return tries


def _begun(row: _Row) -> int:
    return row.said_ms if row.lit_ms is None else min(row.lit_ms, row.said_ms)


def _out_of_order(line: int, tries: Mapping[tuple[int, int], Sequence[_Row]]) -> Iterator[Fault]:
    """Say where the heats of a run do not follow one another: by their steps, and each try after the one before it."""
    last, seen = 0, dict[int, int]()
    for step, again in tries:
        if again != seen.get(step, 0) + 1:
            rule = f"try {again} of step {step} comes after the one before it"
            yield _fault(line, "try", again, rule, "Number the tries as they were done.")
        elif again == 1 and step < last:
            yield _fault(
                line, "step", step, "the steps of a run follow one another", "Set their times right."
            )
        seen[step] = again
        last = max(last, step)


def _as_file(piece: str, began_ms: int, tries: Mapping[tuple[int, int], Sequence[_Row]]) -> RunFile:
    """Give a run with a step for each heat and what was said of it."""
    steps = sorted({step for step, _ in tries})
    device = f"{FROM_TABLE}{sha256(f'{piece}|{began_ms}'.encode()).hexdigest()[:16]}"
    events: list[dict[str, Any]] = []

    def happened(at_ms: int, kind: str, **more: Any) -> None:
        seq = len(events) + 1
        at_ms = max(at_ms, began_ms, *(event["at_ms"] for event in events[-1:]))
        events.append(
            {"id": f"{device}-{seq:06}", "device": device, "seq": seq, "at_ms": at_ms, "kind": kind, **more}
        )

    here, at_ms = "1", began_ms
    for number, ((step, again), rows) in enumerate(tries.items()):
        place = steps.index(step) + 1
        turn = str(place) if again == 1 else f"{place}.{again}"
        if again > 1:
            happened(at_ms, "again", turn=here, of=str(place), joins=sorted({row.join for row in rows}))
        elif number:
            happened(at_ms, "next", turn=here)
        lit = min((row.lit_ms for row in rows if row.lit_ms is not None), default=None)
        off = max((row.off_ms for row in rows if row.off_ms is not None), default=None)
        if lit is not None:
            happened(lit, "lit", turn=turn)
        if lit is not None and off is not None:
            # Where it was lit before what is told before it, it burnt as long all the same.
            happened(off + max(0, events[-1]["at_ms"] - lit), "off", turn=turn)
        for row in sorted(rows, key=lambda one: one.said_ms):
            happened(row.said_ms, "outcome", turn=turn, join=row.join, outcome=row.outcome)
        at_ms = max(at_ms, *(row.said_ms for row in rows))
        for note in dict.fromkeys(row.note for row in rows if row.note):
            happened(at_ms, "note", turn=turn, text=note)
        here = turn
    happened(at_ms, "next", turn=here)
    document = {"format": "eskel-piece/1", "name": piece}
    plan = _plan(piece, steps, [row for rows in tries.values() for row in rows])
    return RunFile.model_validate(
        {
            "piece_name": piece,
            "document": document,
            "plan": plan.model_dump(mode="json"),
            "began_ms": began_ms,
            "events": events,
        }
    )


def _plan(piece: str, steps: Sequence[int], rows: Sequence[_Row]) -> Plan:
    heats = []
    for n, step in enumerate(steps, start=1):
        own = [row for row in rows if row.step == step]
        joins = {row.join: row for row in own}
        flows = [solders()[row.solder].flow_c for row in own if row.solder]
        heats.append(
            HeatStep(
                n=n,
                parts=(),
                text="As it was written down.",
                minutes=0.0,
                heat_no=own[0].heat_no,
                purpose="solder",
                joins=tuple(_heat_join(row) for row in joins.values()),
                lies="front-up",
                working_c=max(flows, default=0.0),
                ceiling_c=None,
                ceiling_by=None,
                margin_c=None,
                melts_c=None,
                melts_by=None,
                states={},
                protect=(),
                look_for=(),
            )
        )
    return Plan(
        piece=piece,
        status="good",
        objectives=(),
        bound_gap=None,
        conflict=None,
        steps=tuple(heats),
        cautions=(),
        cut_list=(),
        solder_list=(),
        why=(),
        bands=(),
    )


def _heat_join(row: _Row) -> HeatJoin:
    solder = solders()[row.solder] if row.solder else None
    return HeatJoin(
        join=row.join,
        title=row.join,
        kind=row.kind,
        solder=row.solder,
        grade=solder.grade if solder else None,
        placing=None,
        amount=None,
    )


def _moment(text: str) -> int | None:
    """Read a time as the log writes it, ms since 1970; one without a zone is in UTC. None where it is none."""
    try:
        read = datetime.fromisoformat(text)
    except ValueError:
        return None
    moment = read if read.tzinfo else read.replace(tzinfo=UTC)
    told_ms = round(moment.timestamp() * 1000)
    return told_ms if told_ms >= 0 else None


_TO_COME = ("nothing in a log is still to come", "Set the clock right.")
_TIME = ("a time as 2026-03-01T09:30:00+00:00", "Write it so.")


def _fault(line: int, key: str, value: Any, rule: str, remedy: str, code: str = "out-of-range") -> Fault:
    shown = f"{value[:40]}…" if isinstance(value, str) and len(value) > 40 else value
    return Fault(code=code, path=f"row {line}, {key}", value=shown, rule=rule, remedy=remedy)

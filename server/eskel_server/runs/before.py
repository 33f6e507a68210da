"""What happened in a run from before its events were kept, told from what was: its stays, signs, words, notes, tallies and sizes."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from typing import TYPE_CHECKING, Any

from eskel_core.plan import HeatStep
from eskel_core.run import Event, read_event

from .queries import LIT, plan_of_run

if TYPE_CHECKING:
    from .models import Run, StepRecord

DEVICE = "before-events"
Told = tuple[datetime, dict[str, Any]]


def told_from_before(run: Run) -> list[Event]:
    """Give what happened in a run as its tables have it, in its order: nothing of one that was only begun."""
    records = list(run.records.prefetch_related("stays", "signs", "outcomes", "notes"))
    stays = sorted(
        ((stay, record) for record in records for stay in record.stays.all()),
        key=lambda one: (one[0].entered_at, one[0].pk),
    )
    written = {record.pk: sorted(_written(record), key=lambda one: one[0]) for record in records}
    made: list[Told] = []
    for stay, record in stays:
        mine = written[record.pk]
        while mine and (stay.left_at is None or mine[0][0] <= stay.left_at):
            made.append(mine.pop(0))
        if stay.left_at is not None:
            made.append((stay.left_at, _left(run, record, back=stay.went_back, last=stay is stays[-1][0])))
    # A note may be written after a step was left.
    made += sorted((one for rest in written.values() for one in rest), key=lambda one: one[0])
    return [
        read_event(
            {
                "id": told.pop("id", f"{DEVICE}-{n + 1}"),
                "device": DEVICE,
                "seq": n + 1,
                "at_ms": round(at.timestamp() * 1000),
                **told,
            }
        )
        for n, (at, told) in enumerate(made)
    ]


def _left(run: Run, record: StepRecord, *, back: bool, last: bool) -> dict[str, Any]:
    if back:
        return {"kind": "back", "turn": record.turn}
    if last and run.state == run.STOPPED:
        return {"kind": "stop", "turn": record.turn}
    step = plan_of_run(run).steps[record.n - 1]
    said = {word.join for word in record.outcomes.all() if word.taken_back_at is None}
    missing = isinstance(step, HeatStep) and any(row.join not in said for row in step.joins)
    return {"kind": "next", "turn": record.turn, "confirmed": True, "skipped": record.skipped or missing}


def _written(record: StepRecord) -> Iterator[Told]:
    """Give what was written of a step, and what of it was taken back."""
    turn = {"turn": record.turn}
    for sign in record.signs.all():
        kind = {"kind": "lit"} if sign.stage == LIT else {"kind": "sign", "stage": sign.stage}
        yield from _maybe_back(f"{DEVICE}-sign-{sign.pk}", sign.at, sign.taken_back_at, turn | kind)
    for word in record.outcomes.all():
        said = {"kind": "outcome", "join": word.join, "outcome": word.outcome}
        yield from _maybe_back(f"{DEVICE}-word-{word.pk}", word.at, word.taken_back_at, turn | said)
    replaces: str | None = None
    for note in record.notes.all():
        name = f"{DEVICE}-note-{note.pk}"
        yield note.at, turn | {"kind": "note", "id": name, "text": note.text, "replaces": replaces}
        replaces = name
    end = record.ended_at or record.started_at
    if record.note and replaces is None:
        yield end, turn | {"kind": "note", "text": record.note}
    if record.tally:
        yield end, turn | {"kind": "tally", "done": record.tally}
    if record.measured_mm:
        yield end, turn | {"kind": "measure", "what": "size_mm", "value": record.measured_mm}


def _maybe_back(name: str, at: datetime, back_at: datetime | None, told: dict[str, Any]) -> Iterator[Told]:
    yield at, told | {"id": name}
    if back_at is not None:
        yield back_at, {"kind": "undo", "of": name}

"""The rows of a turn, written as it now is: what did not change since it was written last stays as it is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, Any, TypeVar

from eskel_core.run import Note, SignAt, Stay, Turn

from .following import moment_of
from .models import NoteRecord, SignRecord, StayRecord, StepRecord

if TYPE_CHECKING:
    from django.db.models import Model, QuerySet

M = TypeVar("M", bound="Model")
S = TypeVar("S")
# Of notes the log looks through so many signs of a step.
MOST_TEXT = 4_000


def write_rows(record: StepRecord, was: Turn, turn: Turn, *, new: bool) -> None:
    """Write the stays, notes and signs of a turn that was written before as it `was`, or of a `new` record for the first time."""
    _follow(
        None if new else record.stays.all(),
        StayRecord,
        was.stays,
        turn.stays,
        lambda stay: _stay_row(record, stay),
    )
    _follow(
        None if new else record.notes.all(),
        NoteRecord,
        was.notes,
        turn.notes,
        lambda note: _note_row(record, note),
    )
    standing = None if new else record.signs.filter(taken_back_at=None)
    _follow(standing, SignRecord, was.signs, turn.signs, lambda sign: _sign_row(record, sign))


def notes_in_short(turn: Turn) -> str:
    """Give the notes of a turn as the log looks for words in them: the newest, as far as there is room."""
    told: list[str] = []
    room = MOST_TEXT
    for note in reversed(turn.notes):
        if told and len(note.text) > room:
            break
        told.append(note.text)
        room -= len(note.text) + 1
    return "\n".join(reversed(told))


def _stay_row(record: StepRecord, stay: Stay) -> StayRecord:
    left = None if stay.left_ms is None else moment_of(stay.left_ms)
    return StayRecord(record=record, entered_at=moment_of(stay.entered_ms), left_at=left, went_back=stay.back)


def _note_row(record: StepRecord, note: Note) -> NoteRecord:
    return NoteRecord(record=record, text=note.text, at=moment_of(note.at_ms))


def _sign_row(record: StepRecord, sign: SignAt) -> SignRecord:
    return SignRecord(record=record, stage=sign.stage, at=moment_of(sign.at_ms))


def _follow(
    rows: QuerySet[M] | None, model: type[M], was: Sequence[S], now: Sequence[S], row_of: Callable[[S], M]
) -> None:
    """Let rows follow what they are of: those of which nothing changed stay, the others are written. None where there are none yet."""
    same = _same(was, now)
    if same == len(was) == len(now):
        return
    if rows is not None and (len(was) > same or rows.count() != len(was)):
        if rows.count() != len(was):
            # Written before there were events: nobody knows which row is of which.
            same = 0
        model._default_manager.filter(pk__in=_keys_after(rows, same)).delete()
    if len(now) > same:
        model._default_manager.bulk_create(map(row_of, now[same:]))


def _same(was: Sequence[S], now: Sequence[S]) -> int:
    """Give how many are the same from the first on."""
    if now[: len(was)] == was:  # As a rule: thousands of notes are compared at once.
        return len(was)
    return next((n for n, (old, new) in enumerate(zip(was, now, strict=False)) if old != new), len(now))


def _keys_after(rows: QuerySet[Any], count: int) -> list[int]:
    return list(rows.order_by("pk").values_list("pk", flat=True)[count:])

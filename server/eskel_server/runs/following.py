"""Runs followed: told by their events, and kept between one press and the next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import TYPE_CHECKING, Any

from eskel_core.plan import Step
from eskel_core.run import Event, Face, RunState, Telling, Turn, faces_of, read_event, step_of
from eskel_server.shelf import Shelf

from .before import told_from_before
from .queries import plan_of_run, steps_of_run

if TYPE_CHECKING:
    from .models import Run


def ms_of(moment: datetime) -> int:
    """Give a moment as a run counts, ms since 1970."""
    return round(moment.timestamp() * 1000)


def moment_of(ms: int) -> datetime:
    """Give the moment of so many ms since 1970."""
    return datetime.fromtimestamp(ms / 1000, UTC)


def state_of(run: Run) -> RunState:
    """Give what a run looks like by all that happened in it."""
    followed = followed_of(run)
    state = followed.telling.state
    keep_followed(run, followed)
    return state


@dataclass
class Followed:
    """A run as it was told so far, and the last of its events that were read from the database: its key there and its id."""

    telling: Telling
    read: tuple[int, str] | None = None


# Runs that are looked at or pressed in: one event more of them costs that one. Who uses one takes it off the shelf meanwhile.
_FOLLOWED = Shelf[tuple[int, int], Followed](most=32)


def keep_followed(run: Run, followed: Followed) -> None:
    """Keep a run as it was told, for the next who asks."""
    _FOLLOWED.put(_name_of(run), followed)


def forget_followed(run: Run) -> None:
    """Have a run told anew, whose steps are not those that it was told by."""
    _FOLLOWED.take(_name_of(run))


def _name_of(run: Run) -> tuple[int, int]:
    return run.pk, ms_of(run.started_at)


def followed_of(run: Run) -> Followed:
    """Give a run told by all of its events, off the shelf; of one from before there were events as far as it was kept."""
    kept = _FOLLOWED.take(_name_of(run))
    if kept is not None and kept.read is not None:
        rows = _rows_from(run, kept.read[0])
        # What was read last is still there: else this is another database, or one that was set back.
        if rows and rows[0][:2] == kept.read:
            return _read_on(kept, rows[1:])
    followed = _read_on(Followed(Telling(faces_of_run(run), ms_of(run.started_at))), _rows_from(run, 0))
    if followed.read is None:
        followed.telling.add(told_from_before(run))
    return followed


def _rows_from(run: Run, key: int) -> list[tuple[int, str, Any]]:
    return list(run.events.filter(pk__gte=key).values_list("pk", "event", "told"))


def _read_on(followed: Followed, rows: Sequence[tuple[int, str, Any]]) -> Followed:
    if rows:
        followed.telling.add([read_event(told) for _, _, told in rows])
        followed.read = rows[-1][:2]
    return followed


def step_at(run: Run, turn: Turn) -> Step:
    """Give the step of a turn: of another try of a heat with the joins alone that it is for."""
    return step_of(steps_of_run(run), turn)


def faces_of_run(run: Run) -> tuple[Face, ...]:
    """Give what counts in a run of each step of its plan. Raises `Unreadable` where that cannot be read."""
    steps, planned = steps_of_run(run), len(plan_of_run(run).steps)
    return faces_of(steps[:planned], steps[planned:])


def events_of(run: Run) -> list[Event]:
    """Give all that happened in a run; of one from before, as far as it was kept."""
    kept = [read_event(told) for told in run.events.values_list("told", flat=True)]
    return kept or told_from_before(run)


def newer_events(run: Run, after: int) -> tuple[list[Event], int]:
    """Give what was taken of a run after a place in the order of taking, and how far that goes; all of a run from before."""
    rows = list(run.events.filter(pk__gt=after).values_list("pk", "told"))
    if not rows and not run.events.exists():
        return told_from_before(run), 0
    return [read_event(told) for _, told in rows], max((key for key, _ in rows), default=after)

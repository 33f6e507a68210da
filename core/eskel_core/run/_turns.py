"""The turns of a run in their order, while it is told: any of them is found, and more are put in, at the cost of those alone."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from typing import Any

from ._events import Way
from ._state import Stay, Turn
from ._written import Writing

# Places are numbers far apart, so that further turns fit between any two: all are numbered anew when once they do not.
_APART = 1 << 2048


class TurnTold:
    """A turn as it is told so far."""

    def __init__(
        self, step: int, again: int, ways: tuple[Way, ...] = (), joins: tuple[str, ...] = ()
    ) -> None:
        self.id = str(step) if again == 1 else f"{step}.{again}"
        self.step, self.again, self.ways, self.joins = step, again, ways, joins
        self.place = 0
        self.before: TurnTold | None = None
        self.after: TurnTold | None = None
        self.writing = Writing()
        self.skipped = self.confirmed = False
        self.due_low_ms: int | None = None
        self.due_high_ms: int | None = None
        self._stays: list[Stay] = []
        self._told: Turn | None = None

    @property
    def entered(self) -> bool:
        """Whether the run ever stood here."""
        return bool(self._stays)

    def changed(self) -> None:
        """Have it told anew."""
        self._told = None

    def enter(self, at_ms: int) -> None:
        """Begin a stay."""
        self._stays.append(Stay(entered_ms=at_ms))
        self.skipped = False
        self.changed()

    def leave(self, at_ms: int, *, back: bool) -> None:
        """End the stay."""
        self._stays[-1] = self._stays[-1].model_copy(update={"left_ms": at_ms, "back": back})
        self.changed()

    def told(self) -> Turn:
        """Give the turn; the same one as long as nothing changed."""
        if self._told is None:
            fields: dict[str, Any] = self.writing.stands()
            self._told = Turn.model_construct(
                id=self.id,
                step=self.step,
                again=self.again,
                ways=self.ways,
                joins=self.joins,
                stays=tuple(self._stays),
                skipped=self.skipped,
                confirmed=self.confirmed,
                due_low_ms=self.due_low_ms,
                due_high_ms=self.due_high_ms,
                **fields,
            )
        return self._told


class Turns:
    """The turns of a run: first each step once, then whatever is done again."""

    def __init__(self, steps: int) -> None:
        """Begin with so many steps, each once; further ones come in when they are put in."""
        self._by_id: dict[str, TurnTold] = {}
        self._times: Counter[int] = Counter()
        self.first = self._new(1)
        last = self.first
        for step in range(2, steps + 1):
            last = self._put_after(last, self._new(step))
        self._number_anew()

    def __iter__(self) -> Iterator[TurnTold]:
        turn: TurnTold | None = self.first
        while turn is not None:
            yield turn
            turn = turn.after

    def get(self, name: str) -> TurnTold | None:
        """Give the turn of an id."""
        return self._by_id.get(name)

    def put_in(
        self, here: TurnTold, steps: Sequence[int], ways: tuple[Way, ...], joins: tuple[str, ...]
    ) -> None:
        """Put further tries of some steps in after a turn."""
        last = here
        for step in steps:
            last = self._put_after(last, self._new(step, ways, joins))
        end = here.place + _APART if last.after is None else last.after.place
        apart = (end - here.place) // (len(steps) + 1)
        if apart == 0:
            self._number_anew()
            return
        turn = here
        for _ in steps:
            assert turn.after is not None
            turn.after.place = turn.place + apart
            turn = turn.after

    def _new(self, step: int, ways: tuple[Way, ...] = (), joins: tuple[str, ...] = ()) -> TurnTold:
        self._times[step] += 1
        turn = TurnTold(step, self._times[step], ways, joins)
        self._by_id[turn.id] = turn
        return turn

    @staticmethod
    def _put_after(turn: TurnTold, new: TurnTold) -> TurnTold:
        new.before, new.after = turn, turn.after
        if turn.after is not None:
            turn.after.before = new
        turn.after = new
        return new

    def _number_anew(self) -> None:
        for n, turn in enumerate(self):
            turn.place = n * _APART

"""What stands of all that was written of a turn: of each sign the first, of each join, measure and look the last, notes as replaced.

An event is added at the cost of itself. One that is taken back has the turn read anew, once, when it is next looked at.
"""

from __future__ import annotations

from collections import Counter
from typing import Any

from ._events import FlameOff, Inspected, JoinCame, Lit, Noted, SignSeen, Sized, Tallied
from ._state import JoinWord, Look, Measure, Note, SignAt

LIT = 0
Written = Lit | SignSeen | FlameOff | JoinCame | Noted | Tallied | Sized | Inspected


class Writing:
    """The events that were written of one turn, and what stands of them."""

    def __init__(self) -> None:
        self._events: dict[str, tuple[int, Written]] = {}
        self._lit = 0
        self._said: Counter[str] = Counter()
        self._stands = _Stands()
        self._stale = False

    @property
    def lit(self) -> bool:
        """Whether the flame was lit."""
        return self._lit > 0

    def said_of(self, join: str) -> bool:
        """Tell whether a word stands on a join."""
        return self._said[join] > 0

    def add(self, at_ms: int, event: Written) -> None:
        """Add what was written at a time, ms."""
        self._events[event.id] = (at_ms, event)
        self._count(event, 1)
        if not self._stale:
            self._stands.take(at_ms, event)

    def take_back(self, event: str) -> None:
        """Take an event back."""
        self._count(self._events.pop(event)[1], -1)
        self._stale = True

    def stands(self) -> dict[str, Any]:
        """Give what stands, by the fields of a `Turn`."""
        if self._stale:
            self._stands, self._stale = _Stands(), False
            for at_ms, event in self._events.values():
                self._stands.take(at_ms, event)
        return self._stands.fields()

    def _count(self, event: Written, by: int) -> None:
        match event:
            case Lit():
                self._lit += by
            case JoinCame():
                self._said[event.join] += by
            case _:
                pass


class _Stands:
    """What stands of some events."""

    def __init__(self) -> None:
        self._signs: dict[int, SignAt] = {}
        self._words: dict[str, JoinWord] = {}
        self._notes: dict[str, Note] = {}
        self._measures: dict[str, Measure] = {}
        self._looks: dict[int, Look] = {}
        self._plain: dict[str, Any] = {"off_ms": None, "off": None, "tally": 0, "lost": 0}

    def take(self, at_ms: int, event: Written) -> None:
        match event:
            case Lit():
                self._signs.setdefault(LIT, SignAt(stage=LIT, at_ms=at_ms, event=event.id))
            case SignSeen() if LIT in self._signs:
                self._signs.setdefault(event.stage, SignAt(stage=event.stage, at_ms=at_ms, event=event.id))
            case FlameOff() if LIT in self._signs:
                self._plain |= {"off_ms": at_ms, "off": event.id}
            case JoinCame():
                self._words.pop(event.join, None)
                self._words[event.join] = JoinWord(
                    join=event.join, outcome=event.outcome, at_ms=at_ms, event=event.id
                )
            case Noted():
                self._notes.pop(event.replaces or "", None)
                if event.text:
                    self._notes[event.id] = Note(event=event.id, text=event.text, at_ms=at_ms)
            case Tallied():
                self._plain |= {"tally": event.done, "lost": event.lost}
            case Sized():
                self._measures[event.what] = Measure(
                    what=event.what, value=event.value, at_ms=at_ms, event=event.id
                )
            case Inspected():
                self._looks[event.check] = Look(
                    check=event.check, passes=event.passes, at_ms=at_ms, event=event.id
                )
            case _:
                pass

    def fields(self) -> dict[str, Any]:
        return self._plain | {
            "signs": tuple(self._signs[n] for n in sorted(self._signs)),
            "notes": tuple(self._notes.values()),
            "outcomes": tuple(self._words.values()),
            "measures": tuple(self._measures[what] for what in sorted(self._measures)),
            "looks": tuple(self._looks[check] for check in sorted(self._looks)),
        }

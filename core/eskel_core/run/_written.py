"""What stands of all that was written of a turn: of each sign the first, of each join, measure and look the last, notes as replaced.

An event is added at the cost of itself. One that is taken back has the turn read anew, once, when it is next looked at.
"""

from __future__ import annotations

from collections import Counter
from typing import Any

from ._events import FlameOff, Inspected, JoinCame, Lit, Lost, Noted, Opened, SignSeen, Sized, Tallied
from ._state import JoinWord, Look, Loss, Measure, Note, OpenedJoin, SignAt

LIT = 0
# By what a word is counted that is said of all that are alike.
_ALL = 0
Written = Lit | SignSeen | FlameOff | JoinCame | Opened | Lost | Noted | Tallied | Sized | Inspected


class Writing:
    """The events that were written of one turn, and what stands of them."""

    def __init__(self) -> None:
        self._events: dict[str, tuple[int, Written]] = {}
        self._lit = 0
        self._said: dict[str, Counter[int]] = {}
        self._stands = _Stands()
        self._stale = False

    @property
    def lit(self) -> bool:
        """Whether the flame was lit."""
        return self._lit > 0

    def said_of(self, join: str, alike: int) -> bool:
        """Tell whether a word stands on a join, in each of so many that are alike."""
        said = self._said.get(join, Counter())
        return said[_ALL] > 0 or sum(1 for times in said.values() if times > 0) >= alike

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
                said = self._said.setdefault(event.join, Counter())
                for copy in event.copies or (_ALL,):
                    said[copy] += by
            case _:
                pass


class _Stands:
    """What stands of some events."""

    def __init__(self) -> None:
        self._signs: dict[int, SignAt] = {}
        self._words: dict[str, JoinWord] = {}
        self._opened: dict[str, OpenedJoin] = {}
        self._losses: list[Loss] = []
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
                self._say(at_ms, event)
            case Opened():
                self._opened[event.join] = OpenedJoin(
                    join=event.join, at_ms=at_ms, event=event.id, copies=event.copies
                )
            case Lost():
                self._losses.append(Loss(part=event.part, many=event.many, at_ms=at_ms, event=event.id))
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

    def _say(self, at_ms: int, event: JoinCame) -> None:
        """Let a word stand: of all that are alike in place of every earlier word, of some in place of those on them."""
        for name, word in list(self._words.items()):
            left = tuple(copy for copy in word.copies if copy not in event.copies)
            if word.join != event.join or (event.copies and left == word.copies):
                continue
            del self._words[name]
            if event.copies and left:
                self._words[name] = word.model_copy(update={"copies": left})
        self._words[event.id] = JoinWord(
            join=event.join, outcome=event.outcome, at_ms=at_ms, event=event.id, copies=event.copies
        )

    def fields(self) -> dict[str, Any]:
        return self._plain | {
            "signs": tuple(self._signs[n] for n in sorted(self._signs)),
            "notes": tuple(self._notes.values()),
            "outcomes": tuple(self._words.values()),
            "opened": tuple(self._opened.values()),
            "losses": tuple(self._losses),
            "measures": tuple(self._measures[what] for what in sorted(self._measures)),
            "looks": tuple(self._looks[check] for check in sorted(self._looks)),
        }

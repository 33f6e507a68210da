"""From the steps of a plan and the events of a run to what the run looks like: one pure function, mirrored on the device.

The order in which events arrive counts for nothing, and one that arrives twice counts once. They are taken in the order of their
times by the server's clock as each device knew it; those of one device always in the order in which it wrote them, whatever
its clock did. Two devices that act at once so come to the same, and what no longer fitted when its turn came is set aside.

The cost is that of the events, one by one: a `Telling` that has 20,000 of them takes one more at the cost of that one.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import assert_never

from ..log import OUTCOMES, WORDS
from ._events import (
    Again,
    Back,
    Event,
    FlameOff,
    Inspected,
    JoinCame,
    Lit,
    Lost,
    Next,
    Noted,
    Opened,
    SignSeen,
    Sized,
    Stopped,
    Tallied,
    Undone,
)
from ._faces import Face
from ._order import Order
from ._state import Aside, RunState, Standing, WhyAside
from ._turns import Turns, TurnTold
from ._written import Written

_OF_JOINS = frozenset(word.outcome for word in OUTCOMES)
_INTO_THE_POT, _AFTER = ("cool", "pickle"), ("cool", "pickle", "inspect")
Moving = Next | Back | Stopped | Again


def run_state(faces: Sequence[Face], began_ms: int, events: Iterable[Event]) -> RunState:
    """Give what a run looks like that began at a time, ms, at the first of the steps.

    >>> run_state([Face(kind="work"), Face(kind="cool")], 0, []).at
    '1'
    """
    return Telling(faces, began_ms, events).state


class Telling:
    """A run as it is told by its events, to which more may come.

    >>> telling = Telling([Face(kind="work"), Face(kind="cool")], 0)
    >>> telling.add([Next(id="tablet-1-1", device="tablet-1", seq=1, at_ms=5, turn="1")])
    >>> telling.state.at
    '2'
    """

    def __init__(self, faces: Sequence[Face], began_ms: int, events: Iterable[Event] = ()) -> None:
        self._faces, self._began_ms = tuple(faces), began_ms
        self._events: dict[str, Event] = {}
        self._state: RunState | None = None
        self._begin()
        self.add(events)

    @property
    def state(self) -> RunState:
        """What the run looks like; turns that did not change are those of the state before."""
        if self._state is None:
            self._state = self._tale.told()
        return self._state

    def has(self, event: str) -> bool:
        """Tell whether an event of that id was told."""
        return event in self._events

    def __len__(self) -> int:
        """Count the events."""
        return len(self._events)

    def add(self, events: Iterable[Event]) -> None:
        """Add events, each once. What comes before one that is there already has all of it told anew."""
        new = {event.id: event for event in events}
        fresh = [event for name, event in new.items() if name not in self._events]
        if not fresh:
            return
        self._events.update((event.id, event) for event in fresh)
        timed = self._order.after(fresh)
        if timed is None:
            self._begin()
            timed = self._order.after(self._events.values())
            assert timed is not None  # After nothing comes everything.
        for at_ms, event in timed:
            # Nothing happens in a run before it begins, whatever a clock says.
            self._tale.take(event, max(self._began_ms, at_ms))
        self._state = None

    def _begin(self) -> None:
        self._order = Order()
        self._tale = _Tale(self._faces, self._began_ms)
        self._state = None


class _Tale:
    """A run as it is being told: its turns, where it stands, what was set aside."""

    def __init__(self, faces: tuple[Face, ...], began_ms: int) -> None:
        self.faces, self.began_ms = faces, began_ms
        self.kinds = [face.kind for face in faces]
        self.turns = Turns(sum(1 for face in faces if not face.extra))
        self.here = self.turns.first
        self.standing: Standing = "going"
        self.ended_ms: int | None = None
        self.aside: list[Aside] = []
        # Who moved the run on last; of which turn each event is that was written.
        self.mover: str | None = None
        self.belongs: dict[str, TurnTold] = {}
        self._enter(self.here, began_ms)

    def told(self) -> RunState:
        return RunState.model_construct(
            standing=self.standing,
            at=self.here.id,
            turns=tuple(turn.told() for turn in self.turns),
            began_ms=self.began_ms,
            ended_ms=self.ended_ms,
            aside=tuple(self.aside),
        )

    def take(self, event: Event, at_ms: int) -> None:
        """Let an event count, or set it aside."""
        why = self._wrong(event)
        if why is not None:
            moved = why in ("elsewhere", "over") and self.mover not in (None, event.device)
            self.aside.append(Aside(event=event.id, why=why, other=moved))
            return
        match event:
            case Next() | Back() | Stopped() | Again():
                self._move(event, at_ms)
                self.mover = event.device
            case Undone():
                turn = self.belongs.pop(event.of)
                turn.writing.take_back(event.of)
                turn.changed()
            case _:
                turn = self._turn(event.turn)
                turn.writing.add(at_ms, event)
                turn.changed()
                self.belongs[event.id] = turn

    def _wrong(self, event: Event) -> WhyAside | None:
        """Say why an event cannot count as the run stands, if so."""
        if isinstance(event, Undone):
            return None if event.of in self.belongs else "not-there"
        turn = self.turns.get(event.turn)
        if turn is None or not turn.entered:
            return "not-there"
        match event:
            case Next() | Back() | Stopped() | Again():
                if self.standing != "going":
                    return "over"
                return self._stays(event) if turn is self.here else "elsewhere"
            case _:
                return self._beyond(event, turn)

    def _stays(self, event: Moving) -> WhyAside | None:
        """Say why a run that stands at a turn cannot be moved from it so."""
        turn = self.here
        match event:
            case Next():
                if self._face(turn).confirm and not event.confirmed and not turn.confirmed:
                    return "unconfirmed"
                if not event.skipped and not self._is_said(turn):
                    return "open"
            case Back():
                return "first" if turn.before is None else None
            case Again():
                return None if self._can_be_put_in(event) else "beyond"
        return None

    def _can_be_put_in(self, event: Again) -> bool:
        """Tell whether another try is of steps that there are, for joins that they make."""
        if event.steps:
            if max(event.steps) > len(self.faces):
                return False
            made = {join for step in event.steps for join in self.faces[step - 1].joins}
            return set(event.joins) <= made
        heat = self._heat_of(event)
        return heat is not None and set(event.joins) <= set(self.faces[heat].joins)

    def _is_said(self, turn: TurnTold) -> bool:
        """Tell whether a word stands on each join that a turn makes, in all that are alike."""
        face = self._face(turn)
        each = dict(zip(face.joins, face.each, strict=False))
        return all(turn.writing.said_of(join, each.get(join, 1)) for join in self._joins(turn))

    def _beyond(self, event: Written, turn: TurnTold) -> WhyAside | None:
        """Say why something cannot be written of a turn."""
        face, lit = self._face(turn), turn.writing.lit
        match event:
            case Lit():
                return None if face.kind == "heat" else "beyond"
            case SignSeen():
                return "beyond" if event.stage > face.stages else None if lit else "unlit"
            case FlameOff():
                return None if lit else "unlit"
            case JoinCame():
                return None if self._fits(event, turn) else "beyond"
            case Opened():
                return None if face.kind == "heat" and lit else "beyond"
            case Lost():
                return None
            case Tallied():
                return None if event.done + event.lost <= face.alike else "beyond"
            case Inspected():
                return None if event.check <= face.checks else "beyond"
            case Noted() | Sized():
                return None
            case _:
                assert_never(event)

    def _fits(self, event: JoinCame, turn: TurnTold) -> bool:
        """Tell whether a turn can have a word: on a join of it, or on its work, in copies that there are."""
        face = self._face(turn)
        if event.join == face.work:
            known = {word.outcome for word in WORDS[face.words]}
            return event.outcome in known and max(event.copies, default=0) <= face.alike
        if event.join not in self._joins(turn) or event.outcome not in _OF_JOINS:
            return False
        each = dict(zip(face.joins, face.each, strict=False))
        return max(event.copies, default=0) <= each.get(event.join, 1)

    def _move(self, event: Moving, at_ms: int) -> None:
        here = self.here
        match event:
            case Next():
                here.leave(at_ms, back=False)
                here.skipped, here.confirmed = event.skipped, here.confirmed or event.confirmed
                if here.after is None:
                    self._end("finished", at_ms)
                else:
                    self._enter(here.after, at_ms)
            case Back():
                assert here.before is not None
                here.leave(at_ms, back=True)
                self._enter(here.before, at_ms)
            case Stopped():
                here.leave(at_ms, back=False)
                self._end("stopped", at_ms)
            case Again():
                here.leave(at_ms, back=False)
                self._put_in(event)
                assert here.after is not None
                self._enter(here.after, at_ms)

    def _end(self, standing: Standing, at_ms: int) -> None:
        self.standing, self.ended_ms = standing, at_ms

    def _enter(self, turn: TurnTold, at_ms: int) -> None:
        """Stand at a turn: at a new one its time begins, one that is come to again goes on with all that it has."""
        face = self._face(turn)
        if not turn.entered:
            turn.due_low_ms = None if face.waits_low_ms is None else at_ms + face.waits_low_ms
            turn.due_high_ms = None if face.waits_high_ms is None else at_ms + face.waits_high_ms
        turn.enter(at_ms)
        self.here = turn

    def _heat_of(self, event: Again) -> int | None:
        """Give the place in the plan of the heat that is done again: this one, or that a look sends back to."""
        turn = self.turns.get(event.of or event.turn)
        if turn is None or turn.place > self.here.place or self._face(turn).kind != "heat":
            return None
        return turn.step - 1

    def _put_in(self, event: Again) -> None:
        """Put another try in: into the pot first where that is wanted, made ready, heated, and on to where it was said."""
        if event.steps:
            self.turns.put_in(self.here, event.steps, event.ways, event.joins)
            return
        heat, here = self._heat_of(event), self.here.step - 1
        if heat is None:
            raise AssertionError("what is done again is a heat of this run")
        kinds = self.kinds
        steps = [*_made_ready(kinds, heat), heat]
        if "pickle-first" in event.ways:
            first = (kinds.index(kind, heat) for kind in _INTO_THE_POT if kind in kinds[heat:])
            steps = [*first, *steps]
        last = max((n for n in range(here + 1) if kinds[n] == "heat"), default=-1)
        steps += [n for n in range(last + 1, here + 1) if kinds[n] in _AFTER]
        joins = event.joins or self.faces[heat].joins
        self.turns.put_in(self.here, [n + 1 for n in steps], event.ways, joins)

    def _turn(self, name: str) -> TurnTold:
        turn = self.turns.get(name)
        assert turn is not None
        return turn

    def _face(self, turn: TurnTold) -> Face:
        return self.faces[turn.step - 1]

    def _joins(self, turn: TurnTold) -> tuple[str, ...]:
        """Give the joins that a turn makes: in another try those that it is for."""
        joins = self._face(turn).joins
        return joins if turn.again == 1 else tuple(join for join in joins if join in turn.joins)


def _made_ready(kinds: Sequence[str], heat: int) -> list[int]:
    """Give where a heat is made ready for: of heats one after another all are, in their order, before the first of them."""
    first, last = heat, heat
    while first and kinds[first - 1] == "heat":
        first -= 1
    while last + 1 < len(kinds) and kinds[last + 1] == "heat":
        last += 1
    at = first - 1 - (last - heat)
    row = kinds[at:first]
    return [at] if at >= 0 and row and all(kind == "prepare" for kind in row) else []

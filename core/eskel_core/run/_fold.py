"""From the steps of a plan and the events of a run to what the run looks like: one pure function, mirrored on the device.

The order in which events arrive counts for nothing, and one that arrives twice counts once. They are taken in the order of their
times by the server's clock as each device knew it; those of one device always in the order in which it wrote them, whatever
its clock did. Two devices that act at once so come to the same, and what no longer fitted when its turn came is set aside.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any, assert_never

from ._events import (
    Again,
    Back,
    Event,
    FlameOff,
    Inspected,
    JoinCame,
    Lit,
    Next,
    Noted,
    SignSeen,
    Sized,
    Stopped,
    Tallied,
    Undone,
)
from ._faces import Face
from ._state import (
    Aside,
    JoinWord,
    Look,
    Measure,
    Note,
    RunState,
    SignAt,
    Standing,
    Stay,
    Turn,
    WhyAside,
)

LIT = 0
_INTO_THE_POT, _AFTER = ("cool", "pickle"), ("cool", "pickle", "inspect")
Moving = Next | Back | Stopped | Again
Written = Lit | SignSeen | FlameOff | JoinCame | Noted | Tallied | Sized | Inspected


def run_state(faces: Sequence[Face], began_ms: int, events: Iterable[Event]) -> RunState:
    """Give what a run looks like that began at a time, ms, at the first of the steps.

    >>> run_state([Face(kind="work"), Face(kind="cool")], 0, []).at
    '1'
    """
    tale = _Tale(tuple(faces), began_ms)
    for at_ms, event in in_order(events):
        # Nothing happens in a run before it begins, whatever a clock says.
        tale.take(event, max(began_ms, at_ms))
    return tale.told()


def in_order(events: Iterable[Event]) -> list[tuple[int, Event]]:
    """Give events, each once, in the order in which they count, with their times by the server's clock, ms."""
    mine: dict[str, list[Event]] = {}
    for event in sorted({one.id: one for one in events}.values(), key=lambda one: (one.seq, one.id)):
        mine.setdefault(event.device, []).append(event)
    timed: list[tuple[int, str, int, Event]] = []
    for device, written in mine.items():
        latest = 0
        for n, event in enumerate(written):
            latest = max(latest, event.at_ms + event.ahead_ms)
            timed.append((latest, device, n, event))
    return [(at_ms, event) for at_ms, _, _, event in sorted(timed, key=lambda one: one[:3])]


@dataclass
class _Tale:
    """A run as it is being told: its turns by their ids, in their order."""

    faces: tuple[Face, ...]
    began_ms: int
    turns: list[Turn] = field(init=False)
    here: int = 0
    standing: Standing = "going"
    ended_ms: int | None = None
    aside: list[Aside] = field(default_factory=list)
    # Who moved the run on last; what was written of each turn, and of which turn each of that is.
    mover: str | None = None
    written: dict[str, list[tuple[int, Written]]] = field(default_factory=dict)
    belongs: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.turns = [Turn(id=str(n + 1), step=n + 1) for n in range(len(self.faces))]
        self._enter(0, self.began_ms)

    def told(self) -> RunState:
        return RunState(
            standing=self.standing,
            at=self.turns[self.here].id,
            turns=tuple(self.turns),
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
                self._undo(event.of)
            case _:
                self._write(event, at_ms)
                self.belongs[event.id] = event.turn

    def _wrong(self, event: Event) -> WhyAside | None:
        """Say why an event cannot count as the run stands, if so."""
        if isinstance(event, Undone):
            return None if event.of in self.belongs else "not-there"
        at = self._place(event.turn)
        if at is None or not self.turns[at].stays:
            return "not-there"
        match event:
            case Next() | Back() | Stopped() | Again():
                if self.standing != "going":
                    return "over"
                if at != self.here:
                    return "elsewhere"
                return self._stays(event)
            case _:
                return self._beyond(event, self.turns[at])

    def _stays(self, event: Moving) -> WhyAside | None:
        """Say why a run that stands at a turn cannot be moved from it so."""
        turn = self.turns[self.here]
        face = self._face(turn)
        match event:
            case Next():
                if face.confirm and not event.confirmed and not turn.confirmed:
                    return "unconfirmed"
                said = {word.join for word in turn.outcomes}
                if not event.skipped and not set(self._joins(turn)) <= said:
                    return "open"
            case Back():
                return "first" if self.here == 0 else None
            case Again():
                heat = self._heat_of(event)
                if heat is None or not set(event.joins) <= set(self.faces[heat].joins):
                    return "beyond"
        return None

    def _beyond(self, event: Written, turn: Turn) -> WhyAside | None:
        """Say why something cannot be written of a turn."""
        face = self._face(turn)
        lit = any(sign.stage == LIT for sign in turn.signs)
        match event:
            case Lit():
                return None if face.kind == "heat" else "beyond"
            case SignSeen():
                return "beyond" if event.stage > face.stages else None if lit else "unlit"
            case FlameOff():
                return None if lit else "unlit"
            case JoinCame():
                return None if event.join in self._joins(turn) else "beyond"
            case Tallied():
                return None if event.done + event.lost <= face.alike else "beyond"
            case Inspected():
                return None if event.check <= face.checks else "beyond"
            case Noted() | Sized():
                return None
            case _:
                assert_never(event)

    def _move(self, event: Moving, at_ms: int) -> None:
        match event:
            case Next():
                self._change(
                    self.here, skipped=event.skipped, confirmed=self._here.confirmed or event.confirmed
                )
                self._leave(at_ms)
                if self.here + 1 == len(self.turns):
                    self.standing, self.ended_ms = "finished", at_ms
                else:
                    self._enter(self.here + 1, at_ms)
            case Back():
                self._leave(at_ms, back=True)
                self._enter(self.here - 1, at_ms)
            case Stopped():
                self._leave(at_ms)
                self.standing, self.ended_ms = "stopped", at_ms
            case Again():
                self._leave(at_ms)
                self.turns[self.here + 1 : self.here + 1] = self._tries(event)
                self._enter(self.here + 1, at_ms)

    @property
    def _here(self) -> Turn:
        return self.turns[self.here]

    def _heat_of(self, event: Again) -> int | None:
        """Give the place in the plan of the heat that is done again: this one, or that a look sends back to."""
        at = self._place(event.of or event.turn)
        if at is None or at > self.here or self._face(self.turns[at]).kind != "heat":
            return None
        return self.turns[at].step - 1

    def _tries(self, event: Again) -> list[Turn]:
        """Give the turns of another try: into the pot first where that is asked, made ready, heated, and on to where it was said."""
        heat, here = self._heat_of(event), self._here.step - 1
        if heat is None:
            raise AssertionError("what is done again is a heat of this run")
        kinds = [face.kind for face in self.faces]
        steps = [*_made_ready(kinds, heat), heat]
        if "pickle-first" in event.ways:
            first = (kinds.index(kind, heat) for kind in _INTO_THE_POT if kind in kinds[heat:])
            steps = [*first, *steps]
        last = max((n for n in range(here + 1) if kinds[n] == "heat"), default=-1)
        steps += [n for n in range(last + 1, here + 1) if kinds[n] in _AFTER]
        return [self._try(n, event, event.joins or self.faces[heat].joins) for n in steps]

    def _try(self, n: int, event: Again, joins: tuple[str, ...]) -> Turn:
        times = 1 + sum(turn.step == n + 1 for turn in self.turns)
        return Turn(id=f"{n + 1}.{times}", step=n + 1, again=times, ways=event.ways, joins=joins)

    def _write(self, event: Written, at_ms: int) -> None:
        self.written.setdefault(event.turn, []).append((at_ms, event))
        self._rewrite(event.turn)

    def _undo(self, of: str) -> None:
        turn = self.belongs.pop(of)
        self.written[turn] = [(at_ms, one) for at_ms, one in self.written[turn] if one.id != of]
        self._rewrite(turn)

    def _rewrite(self, turn: str) -> None:
        at = self._place(turn)
        if at is not None:
            self._change(at, **_written(self.written.get(turn, [])))

    def _enter(self, at: int, at_ms: int) -> None:
        """Stand at a turn: at a new one its time begins, one that is come to again goes on with all that it has."""
        self.here, turn = at, self.turns[at]
        if not turn.stays:
            face = self._face(turn)
            for key, waits in (("due_low_ms", face.waits_low_ms), ("due_high_ms", face.waits_high_ms)):
                if waits is not None:
                    self._change(at, **{key: at_ms + waits})
        self._change(at, skipped=False, stays=(*turn.stays, Stay(entered_ms=at_ms)))

    def _leave(self, at_ms: int, *, back: bool = False) -> None:
        *before, last = self._here.stays
        left = last.model_copy(update={"left_ms": at_ms, "back": back})
        self._change(self.here, stays=(*before, left))

    def _change(self, at: int, **told: Any) -> None:
        self.turns[at] = self.turns[at].model_copy(update=told)

    def _place(self, turn: str) -> int | None:
        return next((n for n, one in enumerate(self.turns) if one.id == turn), None)

    def _face(self, turn: Turn) -> Face:
        return self.faces[turn.step - 1]

    def _joins(self, turn: Turn) -> tuple[str, ...]:
        """Give the joins that a turn makes: in another try those that it is for."""
        face = self._face(turn)
        return tuple(join for join in face.joins if turn.again == 1 or join in turn.joins)


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


def _written(events: Sequence[tuple[int, Written]]) -> dict[str, Any]:
    """Give what stands of all that was written of a turn: of each sign the first, of each join, measure and look the last."""
    signs, notes = dict[int, SignAt](), dict[str, Note]()
    words, measures, looks = dict[str, JoinWord](), dict[str, Measure](), dict[int, Look]()
    told: dict[str, Any] = {"off_ms": None, "off": None, "tally": 0, "lost": 0}
    for at_ms, event in events:
        match event:
            case Lit():
                signs.setdefault(LIT, SignAt(stage=LIT, at_ms=at_ms, event=event.id))
            case SignSeen() if LIT in signs:
                signs.setdefault(event.stage, SignAt(stage=event.stage, at_ms=at_ms, event=event.id))
            case FlameOff() if LIT in signs:
                told |= {"off_ms": at_ms, "off": event.id}
            case JoinCame():
                words.pop(event.join, None)
                words[event.join] = JoinWord(
                    join=event.join, outcome=event.outcome, at_ms=at_ms, event=event.id
                )
            case Noted():
                notes.pop(event.replaces or "", None)
                if event.text:
                    notes[event.id] = Note(event=event.id, text=event.text, at_ms=at_ms)
            case Tallied():
                told |= {"tally": event.done, "lost": event.lost}
            case Sized():
                measures[event.what] = Measure(
                    what=event.what, value=event.value, at_ms=at_ms, event=event.id
                )
            case Inspected():
                looks[event.check] = Look(check=event.check, passes=event.passes, at_ms=at_ms, event=event.id)
            case _:
                continue
    return told | {
        "signs": tuple(signs[n] for n in sorted(signs)),
        "notes": tuple(notes.values()),
        "outcomes": tuple(words.values()),
        "measures": tuple(measures[what] for what in sorted(measures)),
        "looks": tuple(looks[check] for check in sorted(looks)),
    }

"""A run by presses, as from a shell: each press becomes the event that a device would write, and is refused where it means nothing.

The clock is the run's own: a press takes a second, and a press that goes on waits until what is waited for is over.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any, NoReturn, get_args

from pydantic import ValidationError

from ..faults import Refused, refuse
from ..log import Outcome
from ..piece import Piece, base_id
from ..plan import HeatStep, InspectStep, Plan, Step, WorkStep
from ._events import Event, Measured, Way, read_event
from ._faces import Face, faces_of
from ._fold import run_state
from ._state import RunState, Turn
from ._ways import ways_for

DEVICE = "shell-press"
SECOND_MS = 1000
_SOUND: frozenset[str] = frozenset({"flowed", "flooded"})
_LONGEST = 10_000


class Presses:
    """A run that is followed press by press. `events` are what a device would have kept."""

    def __init__(self, piece: Piece, plan: Plan) -> None:
        self.piece, self.plan = piece, plan
        self.faces: tuple[Face, ...] = faces_of(plan.steps)
        self.events: list[Event] = []
        self.now_ms = 0
        self.run: RunState = run_state(self.faces, 0, ())

    @property
    def turn(self) -> Turn:
        """The turn at which the run stands."""
        return next(turn for turn in self.run.turns if turn.id == self.run.at)

    @property
    def step(self) -> Step:
        """The step of the plan at which the run stands."""
        return self.plan.steps[self.turn.step - 1]

    def press(self, press: str) -> None:
        """Do one press. Raises Refused where it means nothing there, with what could be pressed."""
        word, _, rest = press.strip().partition(" ")
        said = rest.split()
        does = _PRESSES.get(word)
        if does is None:
            self._refuse(press, "a press is a known word")
        try:
            does(self, said)
        except Refused:
            raise
        except (ValueError, IndexError, ValidationError):
            self._refuse(press, "the press has what belongs to it")

    def possible(self) -> dict[str, str]:
        """Give what can be pressed here, each with its words."""
        if self.run.standing != "going":
            return {}
        step, turn = self.step, self.turn
        found = {"next": "go on"} if self._stuck() is None else {}
        if isinstance(step, HeatStep) and not turn.signs:
            found["lit"] = "the flame is lit"
        if isinstance(step, HeatStep) and turn.signs and turn.off_ms is None:
            if len(turn.signs) <= len(step.stages):
                found["sign"] = "the sign is seen"
            found["off"] = "flame off"
        for row in step.joins if isinstance(step, HeatStep) and turn.off_ms is not None else ():
            found[f"outcome {row.join} flowed"] = f"{row.title}: how it came out"
        for way in ways_for([word.outcome for word in turn.outcomes]):
            found[f"way {way.way}"] = way.offered
        if isinstance(step, InspectStep):
            found |= {f"look {n} fails": check.about for n, check in enumerate(step.checks, start=1)}
        if turn.due_low_ms is not None and self.now_ms < turn.due_low_ms:
            found["early"] = "leave it before its time"
        return found | {"back": "the step before", "skip": "leave it out", "undo": "take the last press back"}

    def _refuse(self, press: str, rule: str) -> NoReturn:
        can = ", ".join(self.possible()) or "nothing: the run is over"
        raise refuse("not-here", "presses", press, rule, f"Could be pressed: {can}.")

    def _stuck(self) -> str | None:
        """Say why the run cannot be gone on with, if so."""
        step, turn = self.step, self.turn
        if self.run.standing != "going":
            return "the run is not over"
        if not isinstance(step, HeatStep):
            return None
        if turn.signs and turn.off_ms is None:
            return "the flame is off before it goes on"
        words = {word.join: word.outcome for word in turn.outcomes}
        wanted = turn.joins if turn.again > 1 else tuple(row.join for row in step.joins)
        if turn.off_ms is not None and not set(wanted) <= words.keys():
            return "each join has its outcome before it goes on"
        if any(words[name] not in _SOUND for name in wanted if name in words):
            return "a fault is mended by a way before it goes on"
        return None

    def write(self, kind: str, *, at: bool = True, **more: Any) -> None:
        """Write an event down. Raises Refused where the run cannot take it."""
        self.now_ms += SECOND_MS
        seq = len(self.events) + 1
        plain = {"kind": kind, "id": f"{DEVICE}-{seq}", "device": DEVICE, "seq": seq, "at_ms": self.now_ms}
        event = read_event(plain | ({"turn": self.run.at} if at else {}) | more)
        later = run_state(self.faces, 0, [*self.events, event])
        if any(aside.event == event.id for aside in later.aside):
            self._refuse(f"{kind}", "the run can take it as it stands")
        self.events.append(event)
        self.run = later

    def go_on(self) -> None:
        """Go on: confirm what waits, wait for what takes its time, pass what is looked at."""
        stuck = self._stuck()
        if stuck is not None:
            self._refuse("next", stuck)
        due = self.turn.due_low_ms
        if due is not None:
            self.now_ms = max(self.now_ms, due)
        for n in range(1, len(self.step.checks) + 1) if isinstance(self.step, InspectStep) else ():
            if n not in {look.check for look in self.turn.looks}:
                self.write("look", check=n, passes=True)
        self.write("next", confirmed=self.faces[self.turn.step - 1].confirm)

    def by_good_outcomes(self) -> None:
        """Do what stands here as it is meant to be done, and go on."""
        step = self.step
        if isinstance(step, HeatStep):
            if not self.turn.signs:
                self.write("lit")
            if self.turn.off_ms is None:
                self.write("off")
            known = {word.join for word in self.turn.outcomes}
            wanted = self.turn.joins if self.turn.again > 1 else tuple(row.join for row in step.joins)
            for name in wanted:
                if name not in known:
                    self.write("outcome", join=name, outcome="flowed")
        self.go_on()

    def until(self, there: Callable[[Step], bool], press: str) -> None:
        """Go on by good outcomes until a step is there; its danger is confirmed with those before it."""
        for _ in range(_LONGEST):
            if self.run.standing != "going":
                self._refuse(press, "the plan has such a step ahead")
            if there(self.step):
                return
            self.by_good_outcomes()


def _outcome(presses: Presses, said: Sequence[str]) -> None:
    name, word = said[0].partition("#")[0], said[1]
    step = presses.step
    if word not in get_args(Outcome) or not isinstance(step, HeatStep):
        raise ValueError(word)
    names = [row.join for row in step.joins] if name == "all" else [name]
    for join in names:
        presses.write("outcome", join=join, outcome=word)


def _way(presses: Presses, said: Sequence[str]) -> None:
    outcomes = {word.join: word.outcome for word in presses.turn.outcomes}
    open_ = [name for name, word in outcomes.items() if word not in _SOUND]
    if said[0] not in get_args(Way) or said[0] not in {way.way for way in ways_for(outcomes.values())}:
        raise ValueError(said[0])
    presses.write("again", ways=[said[0]], joins=open_)


def _sign(presses: Presses, _: Sequence[str]) -> None:
    seen = [sign.stage for sign in presses.turn.signs]
    presses.write("sign", stage=max(seen, default=0) + 1)


def _look(presses: Presses, said: Sequence[str]) -> None:
    presses.write("look", check=int(said[0]), passes={"passes": True, "fails": False}[said[1]])


def _lost(presses: Presses, said: Sequence[str]) -> None:
    if said[0] not in {base_id(part) for part in presses.step.parts}:
        raise ValueError(said[0])
    turn = presses.turn
    presses.write("tally", done=turn.tally, lost=turn.lost + int(said[1]))


def _measure(presses: Presses, said: Sequence[str]) -> None:
    measure = presses.step.measure
    what = said[0]
    if what not in get_args(Measured):
        work = presses.step.work if isinstance(presses.step, WorkStep | HeatStep) else None
        targets = [row.target.what for row in presses.piece.work if row.id == work and row.target]
        if measure is None or what not in (*targets, measure.words):
            raise ValueError(what)
        what = measure.what
    presses.write("measure", what=what, value=float(said[1]))


def _undo(presses: Presses, _: Sequence[str]) -> None:
    gone = {event.of for event in presses.events if event.kind == "undo"}
    left = [event.id for event in presses.events if event.kind != "undo" and event.id not in gone]
    presses.write("undo", at=False, of=left[-1])


def _wait(presses: Presses, said: Sequence[str]) -> None:
    seconds = float(said[0])
    if not 0 <= seconds <= 1e6:
        raise ValueError(said[0])
    presses.now_ms += round(seconds * 1000)


def _to_heat(presses: Presses, said: Sequence[str]) -> None:
    number = int(said[0])
    presses.until(lambda step: isinstance(step, HeatStep) and step.heat_no == number, f"to-heat {number}")


def kinds_of(step: Step) -> Iterator[str]:
    """Give the words by which a step is gone to: its kind, its work's kind, its purpose."""
    yield step.kind
    if isinstance(step, WorkStep):
        yield step.work_kind
    if isinstance(step, HeatStep):
        yield step.purpose


def _to_step(presses: Presses, said: Sequence[str]) -> None:
    presses.until(lambda step: said[0] in kinds_of(step), f"to-step {said[0]}")


def _to_end(presses: Presses, _: Sequence[str]) -> None:
    while presses.run.standing == "going":
        presses.by_good_outcomes()


def _early(presses: Presses, _: Sequence[str]) -> None:
    if presses.turn.due_low_ms is None:
        raise ValueError("early")
    presses.write("next")


_PRESSES: dict[str, Callable[[Presses, Sequence[str]], None]] = {
    "next": lambda presses, _: presses.go_on(),
    "lit": lambda presses, _: presses.write("lit"),
    "sign": _sign,
    "off": lambda presses, _: presses.write("off"),
    "outcome": _outcome,
    "way": _way,
    "look": _look,
    "tick": lambda presses, said: presses.write("tally", done=int(said[0]), lost=presses.turn.lost),
    "lost": _lost,
    "measure": _measure,
    "early": _early,
    "back": lambda presses, _: presses.write("back"),
    "skip": lambda presses, _: presses.write("next", skipped=True),
    "undo": _undo,
    "note": lambda presses, said: presses.write("note", text=" ".join(said)),
    "wait": _wait,
    "to-heat": _to_heat,
    "to-step": _to_step,
    "to-end": _to_end,
}

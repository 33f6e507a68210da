"""A run by presses, as from a shell: each press becomes the events that a device would write, and is refused where it means nothing.

The clock is the run's own: a press takes a second, and a press that goes on waits until what is waited for is over.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any, NoReturn, get_args

from pydantic import ValidationError

from ..faults import Refused, refuse
from ..piece import Piece
from ..plan import HeatStep, InspectStep, Plan, Step, WorkStep, plan
from ._as_made import as_made, going_on
from ._events import Event, Measured, read_event
from ._here import Here, Leg
from ._offers import Offer

DEVICE = "shell-press"
SECOND_MS = 1000
_LONGEST = 10_000


class Presses(Here):
    """A run that is followed press by press. `events` are what a device would have kept."""

    def __init__(self, piece: Piece, made: Plan) -> None:
        """Begin a run of a plan."""
        super().__init__(piece, made)
        self._marks: list[int] = []

    @property
    def events(self) -> list[Event]:
        """What was written since the plan began."""
        return self.leg.events

    def press(self, press: str) -> None:
        """Do one press. Raises Refused where it means nothing there, with what could be pressed."""
        word, _, rest = press.strip().partition(" ")
        said = rest.split()
        does = _PRESSES.get(word)
        if does is None:
            self._refuse(press, "a press is a known word")
        begun = len(self.events)
        try:
            does(self, said)
        except Refused:
            raise
        except (ValueError, IndexError, ValidationError):
            self._refuse(press, "the press has what belongs to it")
        if word != "undo" and len(self.events) > begun:
            self._marks.append(begun)

    def _refuse(self, press: str, rule: str) -> NoReturn:
        can = ", ".join(self.possible()) or "nothing: the run is over"
        raise refuse("not-here", "presses", press, rule, f"Could be pressed: {can}.")

    def write(self, kind: str, *, at: bool = True, **more: Any) -> None:
        """Write an event down. Raises Refused where the run cannot take it."""
        self.now_ms += SECOND_MS
        seq = sum(len(leg.events) for leg in self.legs) + 1
        plain = {"kind": kind, "id": f"{DEVICE}-{seq}", "device": DEVICE, "seq": seq, "at_ms": self.now_ms}
        event = read_event(plain | ({"turn": self.run.at} if at else {}) | more)
        if not self.leg.write(event):
            self._refuse(f"{kind}", "the run can take it as it stands")
        self._known = {}

    def go_on(self) -> None:
        """Go on: confirm what waits, wait for what takes its time, pass what is looked at."""
        stuck = self.stuck()
        if stuck is not None:
            self._refuse("next", stuck)
        self.leave()

    def leave(self, *, waits: bool = True) -> None:
        """Leave the step as it is."""
        due = self.turn.due_low_ms
        if due is not None and waits:
            self.now_ms = max(self.now_ms, due)
        for n in range(1, len(self.step.checks) + 1) if isinstance(self.step, InspectStep) else ():
            if n not in {look.check for look in self.turn.looks}:
                self.write("look", check=n, passes=True)
        self.write("next", confirmed=self.face.confirm)

    def by_good_outcomes(self) -> None:
        """Do what stands here as it is meant to be done, and go on."""
        if isinstance(self.step, HeatStep):
            if not self.turn.signs:
                _lit(self, ())
            if self.turn.off_ms is None:
                self.write("off")
            for name in self.unsaid():
                self.write("outcome", join=name, outcome=self.words()[0].outcome)
        self.go_on()

    def until(self, there: Callable[[Step], bool], press: str) -> None:
        """Go on by good outcomes until a step is there; its danger is confirmed with those before it."""
        for _ in range(_LONGEST):
            if self.run.standing != "going":
                self._refuse(press, "the plan has such a step ahead")
            if there(self.step):
                return
            self.by_good_outcomes()

    def take(self, offer: Offer) -> None:
        """Take an offer: its steps come next."""
        if offer.way == "as-it-is":
            self.leave()
            return
        if offer.way == "rest":
            self.plan_the_rest()
            return
        steps = self.numbers(offer)
        joins = [join for join in offer.joins if any(join in self.leg.faces[n - 1].joins for n in steps)]
        self.write("again", ways=[offer.way], joins=joins, steps=steps)

    def plan_the_rest(self) -> None:
        """Plan what is left from the piece as it was made, and go on by that."""
        whole = self.plan.model_copy(update={"steps": tuple(self.leg.steps)})
        piece = as_made(self.piece, whole, self.run)
        made = plan(piece)
        if made.conflict is not None:
            rule = " ".join(demand.text for demand in made.conflict.demands)
            self._refuse("rest", f"what is left can be planned: {rule}")
        if not made.steps:
            self._refuse("rest", "something is left to be done")
        self.legs.append(Leg(piece, going_on(whole, self.run, made, piece)))
        self._known = {}
        self._marks = []


def _lit(presses: Presses, _: Sequence[str]) -> None:
    never = presses.never()
    if never:
        presses._refuse("lit", f"{never[0].text} {never[0].remedy}")
    presses.write("lit")


def _numbered(text: str) -> tuple[str, list[int]]:
    """Read an id with the number of a copy behind it, or without."""
    name, mark, number = text.partition("#")
    if mark and not number.isascii():
        raise ValueError(text)
    return name, [int(number)] if mark else []


def _outcome(presses: Presses, said: Sequence[str]) -> None:
    (name, copies), word = _numbered(said[0]), said[1]
    asked = presses.asked()
    if not presses.can_be_said() or word not in {one.outcome for one in presses.words()}:
        raise ValueError(word)
    names = list(asked) if name == "all" else [name]
    for each in names:
        if any(not 1 <= copy <= asked.get(each, 0) for copy in copies):
            raise ValueError(said[0])
    for each in names:
        presses.write("outcome", join=each, outcome=word, copies=copies)


def _opened(presses: Presses, said: Sequence[str]) -> None:
    name, copies = _numbered(said[0])
    if name not in presses.could_open():
        raise ValueError(said[0])
    presses.write("opened", join=name, copies=copies)


def _way(presses: Presses, said: Sequence[str]) -> None:
    offer = next((one for one in presses.offers() if one.way == said[0]), None)
    if offer is None:
        raise ValueError(said[0])
    presses.take(offer)


def _sign(presses: Presses, _: Sequence[str]) -> None:
    seen = [sign.stage for sign in presses.turn.signs]
    presses.write("sign", stage=max(seen, default=0) + 1)


def _look(presses: Presses, said: Sequence[str]) -> None:
    presses.write("look", check=int(said[0]), passes={"passes": True, "fails": False}[said[1]])


def _lost(presses: Presses, said: Sequence[str]) -> None:
    (part,) = (part for part in presses.piece.parts if part.id == said[0])
    many = int(said[1]) if len(said) > 1 else 1
    there = part.count * presses.piece.copies - presses.lost().get(part.id, 0)
    if not 1 <= many <= there:
        raise ValueError(said[1])
    presses.write("lost", part=part.id, many=many)


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
    """Take back what the last press wrote: words are taken back, a move is gone back from."""
    written = presses.events[presses._marks.pop() :]
    if any(event.kind in ("next", "again") for event in written):
        presses.write("back")
        return
    gone = {event.of for event in presses.events if event.kind == "undo"}
    for event in reversed(written):
        if event.kind not in ("undo", "back") and event.id not in gone:
            presses.write("undo", at=False, of=event.id)


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
        yield step.work_kind or step.purpose


def _to_step(presses: Presses, said: Sequence[str]) -> None:
    presses.until(lambda step: said[0] in kinds_of(step), f"to-step {said[0]}")


def _to_end(presses: Presses, _: Sequence[str]) -> None:
    while presses.run.standing == "going":
        presses.by_good_outcomes()


def _early(presses: Presses, _: Sequence[str]) -> None:
    due = presses.turn.due_low_ms
    if due is None:
        raise ValueError("early")
    why = presses.waits() if presses.now_ms < due else None
    if why is not None:
        presses._refuse("early", why)
    if presses.stuck() is not None:
        raise ValueError("early")
    presses.write("next")


_PRESSES: dict[str, Callable[[Presses, Sequence[str]], None]] = {
    "next": lambda presses, _: presses.go_on(),
    "lit": _lit,
    "sign": _sign,
    "off": lambda presses, _: presses.write("off"),
    "outcome": _outcome,
    "opened": _opened,
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
    "rest": lambda presses, _: presses.plan_the_rest(),
    "to-heat": _to_heat,
    "to-step": _to_step,
    "to-end": _to_end,
}

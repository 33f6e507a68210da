"""A run by presses, as from a shell: each press becomes the events that a device would write, and is refused where it means nothing.

The clock is the run's own: a press takes a second, and a press that goes on waits until what is waited for is over.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any, NoReturn, get_args

from pydantic import ValidationError

from ..faults import refuse
from ..log import SOUND, WORDS, Outcome, OutcomeWord
from ..piece import House, Piece, base_id, resolve_house
from ..plan import CoolStep, HeatStep, InspectStep, Measuring, PickleStep, Plan, Step, WorkStep, acts_of, plan
from ..state import Remark, State, after, forbidden
from ._as_made import as_made, going_on
from ._events import Event, Measured, read_event
from ._faces import Face, faces_of
from ._fold import run_state
from ._mending import Fault, fault_at
from ._offers import AS_IT_IS, Offer, lost_offers, offers_for, size_offers
from ._standing import Came, heated_later, step_of, work_of_run
from ._state import JoinWord, RunState, Turn

DEVICE = "shell-press"
SECOND_MS = 1000
_LONGEST = 10_000


class Leg:
    """A run of one plan, and what was written of it; what is left of it can be planned anew, and is another leg then."""

    def __init__(self, piece: Piece, made: Plan) -> None:
        self.piece, self.plan = piece, made
        self.steps: list[Step] = list(made.steps)
        self.extras: list[Step] = []
        self.events: list[Event] = []
        self.run: RunState = run_state(self.faces, 0, ())

    @property
    def faces(self) -> tuple[Face, ...]:
        """What counts in the run of each step, of those put in too."""
        return faces_of(self.plan.steps, self.extras)

    def number(self, step: Step) -> int:
        """Give the number of a step; one that is put in gets the next that is free."""
        if step.n:
            return step.n
        known = next((one for one in self.extras if one.model_copy(update={"n": 0}) == step), None)
        if known is not None:
            return known.n
        new = step.model_copy(update={"n": len(self.steps) + 1})
        self.extras.append(new)
        self.steps.append(new)
        return new.n


class Presses:
    """A run that is followed press by press. `events` are what a device would have kept."""

    def __init__(
        self, piece: Piece, made: Plan, extras: Sequence[Step] = (), run: RunState | None = None
    ) -> None:
        """Begin a run of a plan; or stand where a `run` does that is kept elsewhere, with the steps that were put in."""
        leg = Leg(piece, made)
        leg.extras, leg.steps = list(extras), [*made.steps, *extras]
        leg.run = leg.run if run is None else run
        self.legs = [leg]
        self.now_ms = 0
        self._marks: list[int] = []
        self._known: dict[str, Any] = {}

    @property
    def leg(self) -> Leg:
        """The run of the plan that is followed now."""
        return self.legs[-1]

    @property
    def piece(self) -> Piece:
        """The piece that is made."""
        return self.leg.piece

    @property
    def plan(self) -> Plan:
        """The plan that is followed."""
        return self.leg.plan

    @property
    def run(self) -> RunState:
        """What the run looks like."""
        return self.leg.run

    @property
    def events(self) -> list[Event]:
        """What was written since the plan began."""
        return self.leg.events

    @property
    def turn(self) -> Turn:
        """The turn at which the run stands."""
        return next(turn for turn in self.run.turns if turn.id == self.run.at)

    @property
    def step(self) -> Step:
        """The step at which the run stands."""
        return step_of(self.leg.steps, self.turn)

    @property
    def face(self) -> Face:
        """What counts in the run of the step at which it stands."""
        return self.leg.faces[self.turn.step - 1]

    @property
    def later(self) -> tuple[Step, ...]:
        """The steps that are still to be done after this one."""
        turns = self.run.turns
        here = next(n for n, turn in enumerate(turns) if turn.id == self.run.at)
        return tuple(step_of(self.leg.steps, turn) for turn in turns[here + 1 :])

    @property
    def state(self) -> State:
        """The work as it stands."""
        found: State = self._once("state", lambda: work_of_run(self.piece, self.leg.steps, self.run))
        return found

    def _once(self, name: str, find: Callable[[], Any]) -> Any:
        if name not in self._known:
            self._known[name] = find()
        return self._known[name]

    def asked(self) -> dict[str, int]:
        """Give what is asked of the heat at hand, each with how many are alike: its joins, or the work that it does."""
        return asked_of(self.face, self.turn)

    def words(self) -> tuple[OutcomeWord, ...]:
        """Give the words that the heat at hand can have."""
        return WORDS[self.face.words]

    def unsaid(self) -> list[str]:
        """Give what still waits for its word."""
        return [name for name, alike in self.asked().items() if not _is_said(self.turn, name, alike)]

    def came(self) -> tuple[Came, ...]:
        """Give what came out badly: what, how, in which copies."""
        return tuple(bad_words(self.turn, self.asked()))

    def opened(self) -> list[str]:
        """Give the earlier joins that opened here and were not closed since."""
        return [one.join for one in self.turn.opened]

    def lost(self) -> dict[str, int]:
        """Give what is lost by now, and how many of each part."""
        found: dict[str, int] = {}
        for group in self.state.groups:
            for node, now in group.parts.items():
                if now.lost:
                    found[base_id(node)] = found.get(base_id(node), 0) + now.lost * len(group.copies)
        return found

    def off_by(self) -> tuple[Measuring, float] | None:
        """Give what was measured here and is off by more than is told, and by how much, mm or g."""
        wanted = self.step.measure
        told = [one.value for one in self.turn.measures if wanted is not None and one.what == wanted.what]
        if wanted is None or not told or abs(told[-1] - wanted.to_be) <= wanted.within + 1e-9:
            return None
        return wanted, round(told[-1] - wanted.to_be, 3)

    def offers(self) -> list[Offer]:
        """Give what can be done about what went wrong here, the best first."""
        found: list[Offer] = self._once("offers", lambda: list(self._offers()))
        return found

    def _offers(self) -> Iterator[Offer]:
        came, opened = self.came(), self.opened()
        if (opened or (came and came[0][1] != "opened-another")) and not self.unsaid():
            yield from offers_for(self.fault(self.step, came), opened)
        off = self.off_by()
        if off is not None:
            yield from size_offers(self.fault(self.step, ()), *off)
        found = list(self.found_by_look())
        for heat, words in found:
            yield from offers_for(self.fault(heat, words, self._on_to_here(heat)))
        if not found and any(not look.passes for look in self.turn.looks):
            yield AS_IT_IS
        if self.lost() and not came:
            done = {turn.step for turn in self.run.turns if turn.off_ms is not None}
            heats = [heat for heat in self.heats() if not heat.joins and heat.n in done]
            yield from lost_offers(self.fault(self.step, ()), self.lost(), heats)

    def heats(self) -> list[HeatStep]:
        """Give the heats of the plan."""
        return [step for step in self.plan.steps if isinstance(step, HeatStep)]

    def fault(self, step: Step, came: Sequence[Came], back: Sequence[Step] = ()) -> Fault:
        """Give what went wrong at a step as the ways out of it are found by."""
        steps = self.plan.steps
        return fault_at(self.piece, self.house, steps, self.state, step, came, self.later, back)

    def found_by_look(self) -> Iterator[tuple[HeatStep, tuple[Came, ...]]]:
        """Give the heats that the look at hand finds something wrong of, and what: the word on it, or that it is short."""
        if not isinstance(self.step, InspectStep):
            return
        failed = {self.step.checks[look.check - 1].about for look in self.turn.looks if not look.passes}
        for heat in self.heats():
            turns = [turn for turn in self.run.turns if turn.off_ms is not None or turn.outcomes]
            last = next((turn for turn in reversed(turns) if self._is_of(turn, heat)), None)
            if last is None or heat.heat_no not in self.step.heats:
                continue
            asked = asked_of(self.leg.faces[last.step - 1], last)
            words = [word for word in bad_words(last, asked) if word[0] in failed]
            told = {name for name, _, _ in words}
            plain: list[Came] = [(name, "short", ()) for name in asked if name in failed and name not in told]
            if words or plain:
                yield heat, (*words, *plain)

    def _is_of(self, turn: Turn, heat: HeatStep) -> bool:
        step = self.leg.steps[turn.step - 1]
        return isinstance(step, HeatStep) and step.heat_no == heat.heat_no

    def _on_to_here(self, heat: HeatStep) -> list[Step]:
        """Give the steps that lead on from a heat to the look at hand: cooling, steel off, the pot, the look."""
        last = max((one.n for one in self.heats() if one.n <= self.step.n), default=heat.n)
        steps = (step for step in self.plan.steps if last < step.n <= self.step.n)
        return [
            step
            for step in steps
            if isinstance(step, CoolStep | PickleStep | InspectStep)
            or (isinstance(step, WorkStep) and step.work_kind == "unbind")
        ]

    @property
    def house(self) -> House:
        """The house rules of the piece."""
        return resolve_house(self.piece.house)

    def never(self) -> tuple[Remark, ...]:
        """Give why the step at hand must not be done to the work as it stands, if so."""
        found: tuple[Remark, ...] = self._once("never", self._never)
        return found

    def _never(self) -> tuple[Remark, ...]:
        turn = self.turn
        if turn.off_ms is not None or turn.outcomes:
            return ()
        state, found = self.state, list[Remark]()
        for act in acts_of(state, self.step, again=heated_later(state, self.step, self.later)):
            found += forbidden(state, act)
            state = after(state, act)
        return tuple(found)

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
        except (ValueError, IndexError, ValidationError):
            self._refuse(press, "the press has what belongs to it")
        if word != "undo" and len(self.events) > begun:
            self._marks.append(begun)

    def possible(self) -> dict[str, str]:
        """Give what can be pressed here, each with its words."""
        return self._once("possible", self._possible) if self.run.standing == "going" else {}

    def _possible(self) -> dict[str, str]:
        step, turn = self.step, self.turn
        found = {"next": "go on"} if self.stuck() is None else {}
        if isinstance(step, HeatStep) and not turn.signs and not self.never():
            found["lit"] = "the flame is lit"
        if isinstance(step, HeatStep) and turn.signs and turn.off_ms is None:
            if len(turn.signs) <= len(step.stages):
                found["sign"] = "the sign is seen"
            found["off"] = "flame off"
        if self.can_be_said():
            for word in self.words():
                found[f"outcome all {word.outcome}"] = word.words
            for name in self.could_open():
                found[f"opened {name}"] = f"{self.state.joins[name].title} opened"
        for offer in self.offers():
            found[f"way {offer.way}"] = offer.title
        if isinstance(step, InspectStep):
            for n, check in enumerate(step.checks, start=1):
                found |= {
                    f"look {n} passes": f"{check.about}: {check.passes}",
                    f"look {n} fails": check.about,
                }
        if turn.due_low_ms is not None and self.now_ms < turn.due_low_ms and not self.never():
            found["early"] = "leave it before its time"
        more = {"skip": "leave it out", "undo": "take the last press back", "rest": "plan the rest anew"}
        return found | ({} if self.run.turns[0].id == self.run.at else {"back": "the step before"}) | more

    def could_open(self) -> list[str]:
        """Give the joins made before that may have opened in the heat at hand: those that it did not make."""
        if not isinstance(self.step, HeatStep) or self.turn.off_ms is None:
            return []
        asked, gone = self.asked(), set(self.opened())
        made = [name for group in self.state.groups for name in group.tied if self.state.joins[name].heated]
        return sorted(name for name in dict.fromkeys(made) if name not in asked and name not in gone)

    def can_be_said(self) -> bool:
        """Tell whether what the step at hand did can have its word now."""
        return bool(self.asked()) and (self.turn.off_ms is not None or not isinstance(self.step, HeatStep))

    def _refuse(self, press: str, rule: str) -> NoReturn:
        can = ", ".join(self.possible()) or "nothing: the run is over"
        raise refuse("not-here", "presses", press, rule, f"Could be pressed: {can}.")

    def stuck(self) -> str | None:
        """Say why the run cannot be gone on with, if so."""
        if self.run.standing != "going":
            return "the run is not over"
        if isinstance(self.step, HeatStep):
            if self.turn.signs and self.turn.off_ms is None:
                return "the flame is off before it goes on"
            if self.turn.off_ms is not None and self.unsaid():
                return "each join, or the work of the heat, has its outcome before it goes on"
        if not self.opened() and any(word == "opened-another" for _, word, _ in self.came()):
            return "it is said which join opened, before it goes on"
        if self.came() or self.opened() or self.off_by() or any(not look.passes for look in self.turn.looks):
            return "a fault is mended by a way before it goes on"
        never = self.never()
        return f"{never[0].text} {never[0].remedy}" if never else None

    def write(self, kind: str, *, at: bool = True, **more: Any) -> None:
        """Write an event down. Raises Refused where the run cannot take it."""
        self.now_ms += SECOND_MS
        seq = sum(len(leg.events) for leg in self.legs) + 1
        plain = {"kind": kind, "id": f"{DEVICE}-{seq}", "device": DEVICE, "seq": seq, "at_ms": self.now_ms}
        event = read_event(plain | ({"turn": self.run.at} if at else {}) | more)
        later = run_state(self.leg.faces, 0, [*self.events, event])
        if any(aside.event == event.id for aside in later.aside):
            self._refuse(f"{kind}", "the run can take it as it stands")
        self.events.append(event)
        self.leg.run = later
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

    def numbers(self, offer: Offer) -> list[int]:
        """Give the numbers of an offer's steps; those that are not there yet are put with the others."""
        return [self.leg.number(step) for step in offer.steps]

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


def asked_of(face: Face, turn: Turn) -> dict[str, int]:
    """Give what is asked of a turn, each with how many are alike: its joins, or the work that it does."""
    if face.work is not None:
        return {face.work: face.alike}
    each = dict(zip(face.joins, face.each, strict=False))
    joins = face.joins if turn.again == 1 else tuple(join for join in face.joins if join in turn.joins)
    return {join: each.get(join, 1) for join in joins}


def bad_words(turn: Turn, asked: dict[str, int]) -> Iterator[Came]:
    """Give the words of a turn that are not sound, each with the copies on which it stands (none: on all)."""
    for name, alike in asked.items():
        by_copy = _by_copy(turn, name, alike)
        for word in dict.fromkeys(by_copy.values()):
            if not SOUND[word]:
                copies = tuple(copy for copy, has in by_copy.items() if has == word)
                yield (name, word, () if len(copies) == alike else copies)


def _by_copy(turn: Turn, name: str, alike: int) -> dict[int, Outcome]:
    found: dict[int, Outcome] = {}
    for word in _words_of(turn, name):
        for copy in word.copies or range(1, alike + 1):
            found[copy] = word.outcome
    return dict(sorted(found.items()))


def _words_of(turn: Turn, name: str) -> list[JoinWord]:
    return [word for word in turn.outcomes if word.join == name]


def _is_said(turn: Turn, name: str, alike: int) -> bool:
    return len(_by_copy(turn, name, alike)) >= alike


def outcome_rows(turn: Turn, asked: dict[str, int]) -> Iterator[tuple[str, int, Outcome, int]]:
    """Give each outcome of a turn, copy by copy: of what, which copy, how, and when, ms."""
    for name, alike in asked.items():
        at = {word.outcome: word.at_ms for word in _words_of(turn, name)}
        for copy, outcome in _by_copy(turn, name, alike).items():
            yield name, copy, outcome, at[outcome]


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
    if isinstance(presses.step, CoolStep) and presses.now_ms < due and any(_is_closed(presses)):
        presses._refuse(
            "early", "what is closed cools in air to the end: it must not go hot into water or acid"
        )
    if presses.stuck() is not None:
        raise ValueError("early")
    presses.write("next")


def _is_closed(presses: Presses) -> Iterator[bool]:
    """Give whether each hollow that is cooling is closed."""
    inside = presses.state.anatomy.of(presses.step.parts)
    for group in presses.state.groups:
        for hollow in group.hollows.values():
            if hollow.nodes & inside:
                yield not hollow.open


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

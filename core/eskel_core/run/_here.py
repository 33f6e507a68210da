"""Where a run stands: what is asked there, what is offered, what must not be done. Presses and the server read it alike."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any, Literal

from ..log import WORDS, OutcomeWord
from ..piece import House, Piece, base_id, resolve_house
from ..plan import CoolStep, HeatStep, InspectStep, Measuring, PickleStep, Plan, Step, WorkStep, acts_of
from ..state import Cool, Remark, State, after, forbidden
from ._events import Event
from ._faces import Face, faces_of
from ._fold import Telling, run_state
from ._mending import Fault, closed_in, fault_at
from ._offers import AS_IT_IS, Offer, lost_offers, offers_for, size_offers
from ._said import asked_of, bad_words, is_said
from ._standing import Came, heated_later, step_of, work_of_run
from ._state import RunState, Turn


class Leg:
    """A run of one plan, and what was written of it; what is left of it can be planned anew, and is another leg then."""

    def __init__(self, piece: Piece, made: Plan) -> None:
        self.piece, self.plan = piece, made
        self.steps: list[Step] = list(made.steps)
        self.extras: list[Step] = []
        self.events: list[Event] = []
        self._faces: tuple[Face, ...] = ()
        self._telling: Telling | None = None
        self.run: RunState = run_state(self.faces, 0, ())

    @property
    def faces(self) -> tuple[Face, ...]:
        """What counts in the run of each step, of those put in too."""
        if len(self._faces) != len(self.steps):
            self._faces, self._telling = faces_of(self.plan.steps, self.extras), None
        return self._faces

    def write(self, event: Event) -> bool:
        """Write an event down; say whether the run could take it, else nothing is written."""
        faces = self.faces
        telling = self._telling or Telling(faces, 0, self.events)
        telling.add([event])
        later = telling.state
        if any(aside.event == event.id for aside in later.aside):
            self._telling = None
            return False
        self._telling, self.run = telling, later
        self.events.append(event)
        return True

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


class Here:
    """Where a run stands: the step at hand, the work as it stands, what can be done and what must not. It changes nothing."""

    def __init__(
        self, piece: Piece, made: Plan, extras: Sequence[Step] = (), run: RunState | None = None
    ) -> None:
        """Begin a run of a plan; or stand where a `run` does that is kept elsewhere, with the steps that were put in."""
        leg = Leg(piece, made)
        leg.extras, leg.steps = list(extras), [*made.steps, *extras]
        leg.run = leg.run if run is None else run
        self.legs = [leg]
        self.now_ms = 0
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
        return [name for name, alike in self.asked().items() if not is_said(self.turn, name, alike)]

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
        elif came and not self.could_open() and not self.unsaid():
            # None was there that could have opened.
            yield AS_IT_IS
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

    def numbers(self, offer: Offer) -> list[int]:
        """Give the numbers of an offer's steps; those that are not there yet are put with the others."""
        return [self.leg.number(step) for step in offer.steps]

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
            earlier = self.could_open() or self.opened()
            for word in (word for word in self.words() if earlier or word.outcome != "opened-another"):
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
        if (
            turn.due_low_ms is not None
            and self.now_ms < turn.due_low_ms
            and not self.never()
            and not self.waits()
        ):
            found["early"] = "leave it before its time"
        more = {"skip": "leave it out", "undo": "take the last press back", "rest": "plan the rest anew"}
        return found | ({} if self.run.turns[0].id == self.run.at else {"back": "the step before"}) | more

    def waits(self) -> str | None:
        """Say why the step at hand must not be left before its time, if so."""
        if not isinstance(self.step, CoolStep):
            return None
        if closed_in(self.state, self.step.parts):
            return "what is closed cools in air to the end: it must not go hot into water or acid"
        inside = self.state.anatomy.of(self.step.parts)
        how: Literal["air", "quench"] = "air" if self.step.how == "air-cool" else "quench"
        never = forbidden(self.state, Cool(inside, how, too_early=True))
        return f"{never[0].text} {never[0].remedy}" if never else None

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

    def stuck(self) -> str | None:
        """Say why the run cannot be gone on with, if so."""
        if self.run.standing != "going":
            return "the run is not over"
        if isinstance(self.step, HeatStep):
            if self.turn.signs and self.turn.off_ms is None:
                return "the flame is off before it goes on"
            if self.turn.off_ms is not None and self.unsaid():
                return "each join, or the work of the heat, has its outcome before it goes on"
        opened = any(word == "opened-another" for _, word, _ in self.came())
        if opened and not self.opened() and self.could_open():
            return "it is said which join opened, before it goes on"
        if self.came() or self.opened() or self.off_by() or any(not look.passes for look in self.turn.looks):
            return "a fault is mended by a way before it goes on"
        never = self.never()
        return f"{never[0].text} {never[0].remedy}" if never else None

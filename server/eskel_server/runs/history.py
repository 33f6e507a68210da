"""Three months of runs for the demo's workshop, drawn from a seed: what a smith pressed on good days and bad ones, told as devices tell it."""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, time, timedelta
from typing import Any

from eskel_core.log import Outcome
from eskel_core.plan import HeatStep, InspectStep, Plan, Step, WorkStep
from eskel_core.run import Event, Turn, Way, faces_of, read_event, run_state, ways_for

DAYS = 92
DEVICE = "bench-tablet"
# How often a join does not come out sound by its grade, on a plain day (ours): hard on small work is the riskiest.
_FAILS = {"hard": 0.13, "medium": 0.08, "easy": 0.05, "extra-easy": 0.06}
_GOES_WRONG: tuple[tuple[Outcome, float], ...] = (
    ("short", 5),
    ("did-not-flow", 3),
    ("moved", 2),
    ("opened-another", 1),
    ("melted", 0.7),
)
_NOTES: dict[Outcome, tuple[str, ...]] = {
    "flowed": (
        "ran all at once, left to right",
        "a third less solder would have done",
        "charcoal turned over first: much quicker",
        "sat better with the resist thinner",
    ),
    "flooded": ("too many chips, filed it back", "use two chips next time"),
    "short": ("left end starved", "light showed through there before", "moved the flame on too soon"),
    "did-not-flow": ("flux went brown", "block was damp, took for ever", "gas nearly out"),
    "moved": ("tweezers slipped", "it rolled as the flux rose", "pin it next time"),
    "opened-another": ("lower seam opened, no resist on it", "came too far round with the flame"),
    "melted": ("looked away for a breath", "wire end went: a smaller flame"),
}


@dataclass(frozen=True)
class Day:
    """How a day went: how many times as long as foretold heats took, and how many times as much went wrong."""

    slow: float
    clumsy: float


@dataclass
class Told:
    """What is pressed in a run, on one device: each press a little after the one before."""

    at_ms: int
    prefix: str
    events: list[Event] = field(default_factory=list)

    def press(self, kind: str, after_s: float, **more: Any) -> None:
        """Press something so many seconds after what was pressed before."""
        self.at_ms += max(1, round(after_s * 1000))
        seq = len(self.events) + 1
        self.events.append(
            read_event(
                {"id": f"{self.prefix}-{seq:05}", "device": DEVICE, "seq": seq, "at_ms": self.at_ms}
                | {"kind": kind, **more}
            )
        )


def days_of(now: datetime, dice: random.Random) -> Iterator[tuple[datetime, Day]]:
    """Give when runs were begun in the months before now: four days a week, one or two a day, and how each day went."""
    for n in range(DAYS, 0, -1):
        day = (now - timedelta(days=n)).date()
        if day.weekday() in (2, 5, 6):
            continue
        went = Day(slow=dice.lognormvariate(0.06, 0.18), clumsy=dice.choice((0.4, 0.7, 1, 1, 1.5, 3.2)))
        begins = datetime.combine(day, time(9, dice.randrange(60)), UTC)
        for run in range(dice.choice((0, 1, 1, 2))):
            yield begins + timedelta(hours=3.5 * run), went


def carried_out(plan: Plan, began: datetime, went: Day, dice: random.Random, prefix: str) -> list[Event]:
    """Give what was pressed in a run of a plan on such a day. One in twelve is stopped before its end."""
    faces, began_ms = faces_of(plan.steps), round(began.timestamp() * 1000)
    told = Told(began_ms, prefix)
    stops_at = dice.randrange(2, len(plan.steps)) if dice.random() < 1 / 12 else None
    while True:
        state = run_state(faces, began_ms, told.events)
        if state.standing != "going":
            return told.events
        turn = next(one for one in state.turns if one.id == state.at)
        if turn.step == stops_at:
            told.press("note", 60, turn=turn.id, text="called away; begun anew another day")
            told.press("stop", 5, turn=turn.id)
            continue
        _step(told, plan.steps[turn.step - 1], turn, went, dice)


def _step(told: Told, step: Step, turn: Turn, went: Day, dice: random.Random) -> None:
    """Press what a step asks, and go on; or have a heat done again."""
    at = {"turn": turn.id}
    lasts_s = step.minutes * 60 * dice.lognormvariate(0.0, 0.25)
    match step:
        case HeatStep():
            again = _heat(told, step, turn, went, dice)
            if again:
                told.press("again", 8, **at, of=turn.id, ways=[again], joins=_unsound(told, turn))
                return
            lasts_s = 6.0
        case InspectStep():
            for check in range(1, len(step.checks) + 1):
                told.press("look", lasts_s / len(step.checks), **at, check=check, passes=True)
            lasts_s = 2.0
        case WorkStep() if step.target is not None:
            size = step.target.mm + dice.gauss(0, 0.05)
            told.press("measure", lasts_s, **at, what="size_mm", value=round(max(0.05, size), 2))
            lasts_s = 5.0
        case _ if step.alike > 4:
            lost = 1 if dice.random() < 0.3 else 0
            told.press("tally", lasts_s, **at, done=step.alike - lost, lost=lost)
            lasts_s = 5.0
        case _:
            pass
    told.press("next", max(lasts_s, _waits_s(step)), **at, confirmed=True)


def _waits_s(step: Step) -> float:
    return step.minutes * 60 if step.kind in ("cool", "pickle") else 0.0


def _heat(told: Told, step: HeatStep, turn: Turn, went: Day, dice: random.Random) -> Way | None:
    """Press the signs of a heat and how each join came out; give how it is done again, where that is."""
    at = {"turn": turn.id}
    told.press("lit", 20, **at)
    each = [stage.likely_s for stage in step.stages] or [step.minutes * 30]
    for n, seconds in enumerate(each, 1):
        took = seconds * went.slow * dice.lognormvariate(0.0, 0.12)
        if step.stages:
            told.press("sign", took, **at, stage=n)
        else:
            told.at_ms += round(took * 1000)
    told.press("off", 1, **at)
    wanted = turn.joins or tuple(row.join for row in step.joins)
    said = [
        (row.join, _outcome(row.grade or "", went, turn.again, dice))
        for row in step.joins
        if row.join in wanted
    ]
    for join, outcome in said:
        told.press("outcome", 3, **at, join=join, outcome=outcome)
    if not said:
        return None
    worst = next((outcome for _, outcome in said if ways_for([outcome])), said[0][1])
    if dice.random() < (0.12 if worst == "flowed" else 0.6):
        told.press("note", 20, **at, text=dice.choice(_NOTES[worst]))
    ways = ways_for([worst])
    return ways[0].way if ways and turn.again < 4 and dice.random() < 0.85 else None


def _outcome(grade: str, went: Day, again: int, dice: random.Random) -> Outcome:
    fails = min(0.6, _FAILS.get(grade, 0.06) * went.clumsy)
    if dice.random() < (fails if again == 1 else 0.25):
        words, weights = zip(*_GOES_WRONG, strict=True)
        chosen: Outcome = dice.choices(words, weights)[0]
        return chosen
    return "flooded" if dice.random() < 0.05 else "flowed"


def _unsound(told: Told, turn: Turn) -> Sequence[str]:
    words = [one for one in told.events if one.kind == "outcome" and one.turn == turn.id]
    return [one.join for one in words if one.kind == "outcome" and ways_for([one.outcome])]

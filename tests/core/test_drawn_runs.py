"""Drawn pieces pressed through with drawn outcomes: whatever went wrong, nothing that must never be is asked of the smith."""

from __future__ import annotations

import random
from collections.abc import Iterator

import pytest

from eskel_core.faults import Refused
from eskel_core.plan import HeatStep, acts_of, plan
from eskel_core.run import Presses
from eskel_core.state import Remark, after, forbidden
from tests.core.pieces import seeds, standing_work

MOST_STEPS = 400
BADLY, THE_REST = 0.3, 0.03
"""How often an outcome is not the good one; how often the rest is planned anew where something else can be done."""


def never(here: Presses) -> Iterator[Remark]:
    """Give what must never be in the steps ahead, one after another from the work as it stands."""
    state, steps = here.state, (here.step, *here.later)
    for place, step in enumerate(steps):
        later = {part for other in steps[place + 1 :] if isinstance(other, HeatStep) for part in other.parts}
        again = state.anatomy.of(tuple(part for part in step.parts if part in later))
        for act in acts_of(state, step, again=again):
            yield from forbidden(state, act)
            state = after(state, act)


def heated(here: Presses, dice: random.Random) -> None:
    """Light the heat at hand, put it out, and say of each how it came out, some of it badly."""
    for press in ("lit", "off"):
        here.press(press)
    for name, alike in here.asked().items():
        words = here.words()
        word = dice.choice(words) if dice.random() < BADLY else words[0]
        here.press(f"outcome {name} {words[0].outcome}")
        copy = f"#{dice.randint(1, alike)}" if alike > 1 and dice.random() < 0.5 else ""
        here.press(f"outcome {name}{copy} {word.outcome}")
    if here.could_open() and any(word == "opened-another" for _, word, _ in here.came()):
        here.press(f"opened {dice.choice(here.could_open())}")


def mended(here: Presses, dice: random.Random) -> bool:
    """Take what is offered; say whether it could be: the rest cannot always be planned."""
    offers = here.offers()
    assert offers, here.stuck()
    others = [offer for offer in offers if offer.way != "rest"]
    way = dice.choice(others).way if others and dice.random() > THE_REST else offers[-1].way
    if way != "rest":
        here.press(f"way {way}")
        return True
    try:
        here.press("rest")
    except Refused as problem:
        return "what is left can be planned" not in problem.faults[0].rule
    return True


@pytest.mark.parametrize("seed", [29, 42, *seeds(120, quick=4)])
def test_a_run_with_drawn_outcomes_comes_to_its_end_and_nothing_in_it_is_forbidden(seed: int) -> None:
    """29 and 42: what is left was planned anew after a pot that a closed hollow must not have."""
    dice, made = random.Random(seed), standing_work(seed)
    try:
        found = plan(made, effort=0.1)
    except Refused:
        return
    if not found.steps:
        return
    here = Presses(made, found)
    for _ in range(MOST_STEPS):
        if here.run.standing != "going":
            return
        if isinstance(here.step, HeatStep) and here.turn.off_ms is None:
            heated(here, dice)
        if here.stuck() is None:
            here.press("next")
            continue
        if not mended(here, dice):
            return
        if here.run.standing == "going":
            assert [remark.text for remark in never(here)] == []
    pytest.fail("the run comes to its end")

"""The forty pieces: order, grades, rounds, work put in, and what must and must not be said."""

from __future__ import annotations

from collections import Counter
from itertools import groupby

import pytest

from eskel_core.piece import piece_from_object
from eskel_core.plan import HeatStep, Plan, plan
from eskel_core.units import speak
from tests.core.reference.boxes_and_stock import BOXES, SCHOOLS, STOCK
from tests.core.reference.closures_and_wire import CLOSURES, WIRES
from tests.core.reference.ears_and_pendants import EARS, PENDANTS
from tests.core.reference.forms import Reference
from tests.core.reference.rings import RINGS

REFERENCES = (*RINGS, *EARS, *PENDANTS, *CLOSURES, *WIRES, *BOXES, *STOCK, *SCHOOLS)


def heat_in_words(step: HeatStep) -> str:
    """A heat as the references have it: its grade or purpose, and what it is done on."""
    grade = next((str(join.grade) for join in step.joins if join.grade), step.purpose)
    return f"{grade}: {', '.join(_counted([join.join for join in step.joins]) or [step.work or ', '.join(step.parts)])}"


def _counted(joins: list[str]) -> list[str]:
    """Joins by name; those told apart by number alone as `6 × pick`, since any six will do."""
    stems = Counter(name.rstrip("0123456789") for name in joins)
    return [
        f"{many} × {stem}" if many > 1 else next(n for n in joins if n.startswith(stem))
        for stem, many in stems.items()
    ]


def rounds_in_words(made: Plan) -> str:
    """All heats of a plan as the references have them."""
    heats = [step for step in made.steps if isinstance(step, HeatStep)]
    rounds = [sorted(map(heat_in_words, group)) for _, group in groupby(heats, lambda step: step.round)]
    return " / ".join(" + ".join(one) for one in rounds)


def in_any_order(rounds: str) -> list[list[str]]:
    """Rounds with their heats and joins in one order, whichever it was written in."""

    def tidy(heat: str) -> str:
        grade, _, joins = heat.partition(": ")
        return f"{grade}: {', '.join(sorted(joins.split(', ')))}"

    return [sorted(map(tidy, one.split(" + "))) for one in rounds.split(" / ")]


@pytest.mark.parametrize("reference", REFERENCES, ids=lambda one: one.name)
def test_it_is_done_as_a_smith_would(reference: Reference) -> None:
    made = plan(piece_from_object(reference.piece))
    assert made.status == "best", reference.why
    assert in_any_order(rounds_in_words(made)) == in_any_order(reference.rounds), reference.why
    said, begin = speak(" ".join(step.text for step in made.steps)), 0
    for words in reference.steps:
        found = said.find(words, begin)
        assert found >= 0, f"{words!r} is not said (in its place) in: {said}"
        begin = found + len(words)
    spoken = {caution.code for caution in made.cautions}
    assert set(reference.speaks) <= spoken, reference.why
    assert not spoken & set(reference.silent), reference.why


def test_there_are_forty() -> None:
    assert len({one.name for one in REFERENCES}) == len(REFERENCES) >= 40

"""What is done while a piece waits: reckoned by hand from minutes and solders."""

from __future__ import annotations

import pytest

from eskel_core.piece import read_piece
from eskel_core.plan import CoolStep, HeatStep, InspectStep, PickleStep, PrepareStep, Step, WorkStep, plan
from eskel_core.run import AtHand, meanwhile
from tests.core.pieces import EXAMPLES

FILE = next(path for path in EXAMPLES if path.name.startswith("reed-brooch"))
STEPS = plan(read_piece(FILE)).steps
HEATS = [step for step in STEPS if isinstance(step, HeatStep)]
POT = next(step for step in STEPS if isinstance(step, PickleStep))


def prepare(minutes: float) -> Step:
    return PrepareStep(n=1, parts=(), text="Fit it.", minutes=minutes)


def work(minutes: float) -> Step:
    return WorkStep(n=1, parts=(), text="File it.", minutes=minutes, work="f", work_kind="finish")


LOOK = InspectStep(n=1, parts=(), text="Look.", minutes=1, checks=())
COOL = CoolStep(n=1, parts=(), text="Cool.", minutes=3, how="air-cool")


@pytest.mark.parametrize(
    ("others", "told"),
    [
        ([], []),
        # Six minutes are left: what fits, the longest first; then what does not, the shortest first.
        ([prepare(2), work(5), LOOK, prepare(20), work(9)], [1, 0, 2, 4, 3]),
        # What waits itself is not done meanwhile.
        ([COOL, POT, prepare(6)], [2]),
    ],
)
def test_what_needs_no_torch_is_offered_as_it_fits_the_time(others: list[Step], told: list[int]) -> None:
    at_hand = [AtHand(run, step, ()) for run, step in enumerate(others)]
    offered = meanwhile(AtHand(99, POT, (), left_min=6), at_hand)
    assert [one.run for one in offered] == told
    assert all(one.why == "no-torch" for one in offered)


def test_a_heat_is_offered_where_it_takes_the_solder_of_the_next() -> None:
    after = [step for step in STEPS if step.n > POT.n]
    ahead = next(step for step in after if isinstance(step, HeatStep))
    same = [
        heat for heat in HEATS if {row.solder for row in heat.joins} & {row.solder for row in ahead.joins}
    ]
    other = [heat for heat in HEATS if heat not in same]
    assert same
    assert other
    offered = meanwhile(
        AtHand(99, POT, after, left_min=6),
        [AtHand(1, same[0], ()), AtHand(2, other[0], ()), AtHand(3, LOOK, ())],
    )
    assert [(one.run, one.why) for one in offered] == [(3, "no-torch"), (1, "same-solder")]


def test_what_does_not_wait_needs_nothing_beside_it() -> None:
    assert meanwhile(AtHand(99, prepare(3), STEPS, left_min=9), [AtHand(1, LOOK, ())]) == ()

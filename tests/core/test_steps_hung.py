"""The steps by what is held in the hand, hangs in another part, and goes into one bath together."""

from typing import Any

import pytest

from eskel_core.piece import Piece
from eskel_core.plan import CoolStep, HeatStep, PickleStep, PrepareStep, plan
from tests.core.pieces import join, piece, plate, wire


@pytest.mark.parametrize(
    ("house", "most", "third"),
    [({}, 2, 1), ({"third_hands": 0}, 1, 0), ({"third_hands": 2}, 3, 2), ({"torch_stand": "yes"}, 3, 1)],
)
def test_a_heat_holds_no_more_in_the_hand_than_there_are_hands(
    house: dict[str, Any], most: int, third: int
) -> None:
    rows = [join(f"foot-{name}", name, "plate", holds="hand") for name in "abc"]
    made = plan(piece([plate("plate"), *map(wire, "abc")], rows, house=house))
    assert made.status == "best"
    assert max(len(heat.joins) for heat in made.steps if isinstance(heat, HeatStep)) == most
    told = " ".join(step.text for step in made.steps if isinstance(step, PrepareStep))
    assert told.count("third hand") == third, "a third hand is named where no hand is left"


def test_what_is_picked_is_held_for_its_own_touch_alone() -> None:
    rows = [join(f"foot-{name}", name, "plate", holds="hand", placing="pick") for name in "abc"]
    made = plan(piece([plate("plate"), *map(wire, "abc")], rows, house={"third_hands": 0}))
    assert [len(heat.joins) for heat in made.steps if isinstance(heat, HeatStep)] == [3]
    assert not any("third hand" in step.text for step in made.steps)


def hung_drop(**crown: Any) -> Piece:
    """A loop that is closed through a collar, which sits on a plate with one join."""
    return piece(
        [plate("plate"), wire("collar"), wire("loop", moves=True)],
        [
            join("crown", "collar", "plate", solder="us-extra-easy", **crown),
            {
                "id": "hang",
                "kind": "butt",
                "between": ["loop", "loop"],
                "through": ["collar"],
                "after": ["crown"],
            },
        ],
    )


@pytest.mark.parametrize(
    ("crown", "hottest"),
    # extra easy runs at 653 + 15 - 5 = 663 again; what hangs is 60 cooler, and easy works at 728: 668, medium at 748
    [({"holds": "own-weight"}, 663), ({"holds": "hand"}, 663), ({"holds": "seated"}, 798)],
)
def test_one_flame_reaches_what_hangs_in_what_it_solders(crown: dict[str, Any], hottest: float) -> None:
    made = plan(hung_drop(**crown))
    assert made.status == "best"
    last = [step for step in made.steps if isinstance(step, HeatStep)][-1]
    assert [join.join for join in last.joins] == ["hang"]
    assert last.working_c <= hottest
    assert last.cooler_c == {"crown": 60}
    assert (last.states["crown"] == "flows") == (last.working_c - 60 >= 663)


def test_the_seam_of_a_ring_is_turned_away_from_what_hangs_in_it() -> None:
    links = [wire(f"link{n}", moves=True) for n in range(3)]
    rows: list[dict[str, Any]] = [
        {"id": f"seam{n}", "kind": "butt", "between": [f"link{n}", f"link{n}"], "holds": "own-weight"}
        | ({"through": [f"link{n - 1}"], "after": [f"seam{n - 1}"]} if n else {})
        for n in range(3)
    ]
    made = plan(piece(links, rows))
    assert {step.working_c for step in made.steps if isinstance(step, HeatStep)} == {798}, (
        "a chain stays a chain"
    )


def test_what_hangs_together_cools_and_is_pickled_together() -> None:
    """The bail is thin and may be quenched; the ball of 6 mm that hangs on it may not."""
    ball = {"id": "ball", "metal": "sterling-925", "form": {"kind": "ball", "diameter_mm": 6}}
    peg = join("peg-foot", "peg", "ball", kind="tee")
    bail = {
        "id": "close",
        "kind": "butt",
        "between": ["bail", "bail"],
        "through": ["peg"],
        "after": ["peg-foot"],
    }
    made = plan(
        piece(
            [ball, wire("peg"), wire("bail", moves=True)], [peg, bail], house={"cooling": "quench-when-black"}
        )
    )
    last = [step for step in made.steps if isinstance(step, CoolStep)][-1]
    assert last.how == "air-cool"
    assert set(last.parts) == {"ball", "peg", "bail"}
    assert set([step for step in made.steps if isinstance(step, PickleStep)][-1].parts) == {
        "ball",
        "peg",
        "bail",
    }


@pytest.mark.parametrize(("metal", "pots"), [("sterling-925", 1), ("fine-silver-999", 0)])
def test_what_is_melted_and_scales_meets_the_pot(metal: str, pots: int) -> None:
    grain = {"id": "grain", "metal": metal, "form": {"kind": "ball", "diameter_mm": 4}}
    made = plan(piece([grain], [], work=[{"id": "draw", "kind": "melt", "parts": ["grain"]}]))
    assert sum(isinstance(step, PickleStep) for step in made.steps) == pots

"""The rules of vessels, pot, water, steel and acid, each on a course small enough to see through."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_core.demands import make_problem
from eskel_core.faults import Refused
from eskel_core.piece import Bench, Piece, parse_piece, resolve_house
from eskel_core.plan import plan
from eskel_core.plan._course import make_course
from eskel_core.plan._in_turn import found_in_turn
from eskel_core.rules import Course, Done, over_pickle
from eskel_core.search import solve
from tests.core.pieces import EXAMPLES, US, chain, join, piece, plate, wire

DROP = next(path for path in EXAMPLES if path.name.startswith("hollow-lantern-drop"))


def codes(made: Piece) -> set[str]:
    return {caution.code for caution in plan(made).cautions}


def with_bench(**bench: Any) -> Piece:
    return piece(
        [plate("base"), wire("post")], [join("foot", "base", "post")], bench={"solders": US, **bench}
    )


@pytest.mark.parametrize(
    ("vessel", "fits"),
    [
        ({"kind": "pot", "length_mm": 30}, True),
        ({"kind": "pot", "length_mm": 19}, False),
        ({"kind": "hearth", "length_mm": 30, "width_mm": 15}, False),
        ({"kind": "quench-bowl", "length_mm": 20, "width_mm": 20}, True),
    ],
)
def test_a_plate_of_20_mm_fits_or_not(vessel: dict[str, Any], fits: bool) -> None:
    assert ("does-not-fit" in codes(with_bench(vessels=[vessel]))) is not fits


@pytest.mark.parametrize(("copper", "speaks"), [(0, False), (20, False), (25, True)])
def test_a_bath_near_its_limit(copper: float, speaks: bool) -> None:
    """The bisulphate bath takes 30 g/l: four fifths of it are 24."""
    assert ("bath-spent" in codes(with_bench(pot={"copper_g_l": copper}))) is speaks


def test_copper_in_the_pot_makes_pickling_longer_and_past_its_limit_is_refused() -> None:
    minutes = [
        next(
            step.minutes_high
            for step in plan(with_bench(pot={"copper_g_l": load})).steps
            if step.kind == "pickle"
        )
        for load in (0, 15)
    ]
    assert minutes[1] > 1.5 * minutes[0]
    with pytest.raises(Refused, match="limit of the bath"):
        with_bench(pot={"copper_g_l": 400})


def test_a_cooler_or_a_slow_pot_takes_longer_in_the_plan() -> None:
    """15 °C less doubles it, its own loads' pace is a factor."""
    minutes = [
        next(step.minutes_high for step in plan(with_bench(pot=pot)).steps if step.kind == "pickle")
        for pot in ({}, {"bath_c": 45}, {"pace": 1.5})
    ]
    assert minutes[1:] == pytest.approx([2 * minutes[0], 1.5 * minutes[0]], abs=0.06)


def test_iron_in_the_pot_plates_pink() -> None:
    assert "pink-plating" in codes(with_bench(pot={"iron_touched": True}))
    assert "pink-plating" not in codes(with_bench())


@pytest.mark.parametrize(
    ("minutes", "warm", "speaks"), [(29, True, False), (31, True, True), (300, False, False)]
)
def test_too_long_in_a_warm_pot(minutes: float, warm: bool, speaks: bool) -> None:
    assert bool(list(over_pickle(minutes, 10, warm=warm))) is speaks


def course_of(made: Piece) -> Course:
    problem = make_problem(made, resolve_house(made.house))
    found = solve(problem)
    assert found is not None
    return make_course(problem, found)


BOUND = chain(2, [join("a", "w0", "w1", holds="bound", bound_with="steel")])
DONE: list[tuple[Done, int]] = [("heat", 1), ("quench", 1), ("unbind", 1), ("pickle", 1)]


@pytest.mark.parametrize(
    ("done", "expected"),
    [
        (DONE, []),
        ([(kind, heat) for kind, heat in DONE if kind != "unbind"], ["steel-in-pickle"]),
        ([DONE[0], DONE[2], DONE[3]], ["hot-into-acid"]),
        ([DONE[0], DONE[3]], ["steel-in-pickle", "hot-into-acid"]),
    ],
)
def test_steel_comes_off_and_water_comes_first(done: list[tuple[Done, int]], expected: list[str]) -> None:
    assert sorted(finding.code for finding in found_in_turn(course_of(BOUND), Bench(), done)) == sorted(
        expected
    )


def test_a_hollow_that_was_wet_is_dried_before_the_next_heat() -> None:
    course = course_of(parse_piece(DROP.read_bytes()))
    found = [finding.code for finding in found_in_turn(course, Bench(), [*DONE, ("heat", 2)])]
    assert found.count("wet-hollow") == 1
    found = [finding.code for finding in found_in_turn(course, Bench(), [*DONE, ("dry", 2), ("heat", 2)])]
    assert "wet-hollow" not in found


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_no_plan_of_an_example_leaves_water_steel_or_heat_where_it_hurts(path: Any) -> None:
    made = {caution.code for caution in plan(parse_piece(path.read_bytes())).cautions}
    assert not made & {"wet-hollow", "steel-in-pickle", "hot-into-acid"}

"""Every calculator against figures worked by hand: the trade's formula sheet first, then others with their working."""

from typing import Any

import pytest

from eskel_core.sizes import calculate, calculators

from .worked_sizes import WORKED, S, rnd, square


@pytest.mark.parametrize(
    ("name", "given", "key", "value", "tolerance"),
    WORKED,
    ids=[f"{row[0]}-{row[2]}-{n}" for n, row in enumerate(WORKED)],
)
def test_agrees_with_what_was_worked_by_hand(
    name: str, given: dict[str, Any], key: str, value: Any, tolerance: float
) -> None:
    found = getattr(calculate(name, given).found, key)
    if isinstance(value, bool | str):
        assert found == value
    else:
        assert found == pytest.approx(value, abs=tolerance)


def test_every_calculator_was_worked_by_hand() -> None:
    assert {row[0] for row in WORKED} == set(calculators())


def test_the_passes_of_a_draw_down_keep_the_metal_and_never_pass_its_limit() -> None:
    found = calculate("draw-down", {"metal": S, "start": square(3), "end": rnd(1), "mass_g": 40}).found
    assert all(one.reduction_since_anneal_pct <= 55 for one in found.passes)
    assert all(one.reduction_pct <= 15 + 1e-9 for one in found.passes)
    assert [one.by for one in found.passes] == sorted((one.by for one in found.passes), reverse=True)
    assert found.passes[-1].size_mm == pytest.approx(1.0)
    lengths = [one.length_mm for one in found.passes]
    assert lengths == sorted(lengths)


def test_a_bar_that_is_hard_already_is_annealed_first() -> None:
    soft = {"metal": S, "start": rnd(2), "end": rnd(1.9), "length_mm": 100}
    assert calculate("draw-down", soft).found.passes[0].anneal_before is False
    assert calculate("draw-down", {**soft, "hardness_start_pct": 54}).found.passes[0].anneal_before is True


def test_marks_lie_where_things_go() -> None:
    assert calculate("layout", {"along": "edge", "length_mm": 40, "count": 4}).found.marks == (5, 15, 25, 35)
    assert calculate("layout", {"along": "row", "length_mm": 42, "count": 5, "size_mm": 2}).found.marks == (
        1,
        11,
        21,
        31,
        41,
    )


def test_each_prong_has_its_own_marks() -> None:
    wanted = [{"reach_mm": reach, "wire_mm": 1, "ball_mm": 1.5} for reach in (8, 9, 10.5)]
    found = calculate("prong", {"metal": S, "prongs": wanted}).found
    assert [prong.snip_mark_mm for prong in found.prongs] == pytest.approx([8.75, 9.75, 11.25])


def test_an_odd_number_of_quarter_turns_turns_the_drop() -> None:
    faces = [
        calculate("link-fit", {"bore_mm": 4, "thicknesses_mm": [1], "links": n}).found.facing
        for n in range(4)
    ]
    assert faces[0] == faces[2] != faces[1] == faces[3]


@pytest.mark.parametrize(
    ("given", "choice"),
    [({"making_hours": 0.5}, "make"), ({"making_hours": 3}, "buy")],
)
def test_wire_is_made_or_bought_by_what_it_costs(given: dict[str, float], choice: str) -> None:
    """100 g at 1.00, or bought at 1.50: fifty to be earned at 28 an hour."""
    asked = {
        "metal": S,
        "metal_g": 100,
        "price_per_g": 1,
        "labour_per_hour": 28,
        "bought_wire_price_per_g": 1.5,
    }
    assert calculate("cost", {**asked, **given}).found.make_or_buy.startswith(choice)

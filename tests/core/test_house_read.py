"""House choices that change what is told: the sign of an anneal, the hand, the thinnest pin."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from eskel_core.metals import fluxes
from eskel_core.piece import House, Piece, piece_from_object
from eskel_core.plan import HeatStep, PrepareStep, plan
from eskel_core.rehearsal import HeatRequest, rehearse_heat
from eskel_core.rules import anneal_end
from tests.core.pieces import join, piece, plate, wire


def annealed(metal: str, **house: Any) -> Piece:
    rod = wire("rod", metal)
    rod["form"] = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 2.0}, "length_mm": 60}
    return piece([rod], [], work=[{"id": "soft", "kind": "anneal", "parts": ["rod"]}], house=house)


def heat_of(made: Piece) -> HeatStep:
    return next(step for step in plan(made).steps if isinstance(step, HeatStep))


@pytest.mark.parametrize(
    ("sign", "metal", "says", "at_c"),
    [
        ("glow", "sterling-925", "first dull red", 620.0),
        ("marker", "sterling-925", "the marker line has burnt off", 620.0),
        ("flux", "sterling-925", "clear like glass", fluxes()["white-paste"].clear_c),
        # Fine gold is annealed far below either: what tells there is its glow.
        ("marker", "gold-fine", "first dull red", 325.0),
        ("flux", "gold-fine", "first dull red", 325.0),
    ],
)
def test_an_anneal_ends_by_the_sign_of_the_house_where_that_tells(
    sign: str, metal: str, says: str, at_c: float
) -> None:
    step = heat_of(annealed(metal, anneal_sign=sign))
    assert says in step.signs[-1].words
    assert step.signs[-1].at_c == pytest.approx(at_c)
    ready = {"marker": "felt pen", "flux": "Brush flux"}.get(sign, "even flame")
    assert (ready in step.text) is (metal == "sterling-925")


def test_the_rehearsal_of_an_anneal_ends_by_the_same_sign() -> None:
    told = rehearse_heat(annealed("sterling-925", anneal_sign="marker"), 1, HeatRequest(habit="even"))
    assert told.programme[-1].see == "the marker line has burnt off"
    assert told.hands.well > 32


@pytest.mark.parametrize(
    ("low", "high", "by"), [(590, 650, "marker"), (630, 700, "glow"), (560, 640, "glow")]
)
def test_a_marker_tells_only_within_what_the_metal_is_annealed_at(low: float, high: float, by: str) -> None:
    assert anneal_end(House(anneal_sign="marker"), [(low, high)], fluxes()["white-paste"]).by == by


@pytest.mark.parametrize("hand", ["right", "left"])
def test_what_is_fed_lies_ready_in_the_hand_that_picks(hand: str) -> None:
    made = piece(
        [plate("base"), wire("post")],
        [join("foot", "post", "base", placing="fed-wire")],
        house={"handed": hand},
        bench={"solders": [{"solder": "us-easy", "form": "wire"}]},
    )
    ready = [step.text for step in plan(made).steps if isinstance(step, PrepareStep)]
    assert any(f"for the {hand} hand" in text for text in ready)


@pytest.mark.parametrize(
    ("across", "least", "told"), [(0.7, 0.8, True), (0.8, 0.8, False), (0.7, 0.6, False)]
)
def test_a_springy_wire_thinner_than_the_pins_of_the_house_is_told(
    across: float, least: float, told: bool
) -> None:
    pin = wire("pin")
    pin |= {
        "form": {"kind": "wire", "profile": {"kind": "round", "diameter_mm": across}, "length_mm": 40},
        "spring": True,
    }
    thinnest = {"pin-stem": least}
    made = piece([plate("base"), pin], [join("foot", "pin", "base")], house={"thinnest_mm": thinnest})
    assert any(one.code == "too-thin" for one in plan(made).cautions) is told


def test_the_page_of_choices_is_written_from_the_rows() -> None:
    from docs.house_table import house_table

    page = Path(__file__).parents[2] / "docs" / "house.md"
    assert page.read_text(encoding="utf-8") == house_table()


def test_a_piece_is_read_with_every_choice_of_the_house() -> None:
    assert piece_from_object({"format": "eskel-piece/1", "name": "n", "house": {"anneal_sign": "flux"}})

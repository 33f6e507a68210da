"""Every sentence of the core holds its quantities as data, and is spoken right in both systems of units."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.cutting import cut_and_solder, cut_list_csv, cut_list_pdf
from eskel_core.piece import piece_from_object, read_piece
from eskel_core.plan import plan, spoken, why_join
from eskel_core.rehearsal import HeatRequest, rehearse_heat
from eskel_core.rules import examples, rules
from eskel_core.sizes import calculate, calculators
from eskel_core.units import (
    METRIC,
    SpokenQuantity,
    Units,
    about,
    celsius,
    difference,
    grams,
    length,
    parts_of,
    sizes,
    speak,
)
from tests.core.pieces import EXAMPLES

OTHER = Units(length="inch", gauge=False, temperature="f", mass="troy")
# A formula is told in one unit, with the numbers that went into it; areas and volumes are told as the trade sells them.
FORMULAS = {"how", "note", "method", "sensitivity"}
FIGURE = re.compile(r"\d ?(?:°C|mm(?![²³])|g(?!/))\b")


@pytest.mark.parametrize(
    ("mark", "metric", "other"),
    [
        (celsius(788), "788 °C", "1450 °F"),
        (difference(70), "70 °C", "126 °F"),
        (celsius(-40), "-40 °C", "-40 °F"),
        (length(12.7, 2), "12.70 mm", "0.500 in"),
        (about(12.7), "12.7 mm", "0.5 in"),
        (about(10), "10 mm", "0.3937 in"),
        (about(100), "100 mm", "3.937 in"),
        (sizes(25.4, 12.7), "25.4 × 12.7 mm", "1 × 0.5 in"),
        (grams(3.11034), "3.11 g", "2.00 dwt"),
        (grams(0.0019), "0.0019 g", "0.0012 dwt"),
        (grams(0.04, 1), "0.04 g", "0.03 dwt"),
        (grams(0.0), "0.00 g", "0.00 dwt"),
        (grams(62.207), "62.21 g", "2.000 ozt"),
    ],
)
def test_a_quantity_is_spoken_in_the_units_of_the_house(mark: str, metric: str, other: str) -> None:
    assert (speak(f"It is {mark}."), speak(f"It is {mark}.", OTHER)) == (
        f"It is {metric}.",
        f"It is {other}.",
    )


def test_a_sentence_has_parts() -> None:
    text = f"It flows {difference(70)} harder, at {celsius(788)}."
    assert parts_of(text) == (
        "It flows ",
        SpokenQuantity("difference", (70.0,)),
        " harder, at ",
        SpokenQuantity("temperature", (788.0,)),
        ".",
    )
    assert parts_of("plain") == ("plain",)
    assert parts_of("") == ()


@given(st.text(max_size=40), st.floats(min_value=-200, max_value=4000))
def test_words_around_a_quantity_stay_what_they_are(words: str, value: float) -> None:
    assert speak(words, OTHER) == words or "⦃" in words
    assert speak(json.dumps({"text": words + celsius(value)}, ensure_ascii=False)).endswith('°C"}')


def sentences(told: Any, key: str = "") -> Iterator[str]:
    """Every text in something told, but for formulas and for what the smith wrote."""
    if isinstance(told, str) and key not in FORMULAS:
        yield told
    elif isinstance(told, dict):
        for inner, value in told.items():
            yield from sentences(value, inner)
    elif isinstance(told, list | tuple):
        for value in told:
            yield from sentences(value, key)


def said_by_plans() -> Iterator[str]:
    for path in EXAMPLES:
        piece = read_piece(path)
        made = plan(piece)
        yield from sentences(made.model_dump(mode="json"))
        yield from sentences(cut_and_solder(piece, made).model_dump(mode="json"))
    drop = next(path for path in EXAMPLES if path.name.startswith("hollow"))
    yield from sentences(why_join(read_piece(drop), "crown").model_dump(mode="json"))


def said_by_rules() -> Iterator[str]:
    for code in rules():
        for example in examples()[code]:
            yield from (words for one in spoken(example) for words in one.words)
            if example.piece is not None and not example.doings:
                yield from sentences(plan(piece_from_object(dict(example.piece))).model_dump(mode="json"))


def said_by_sizes() -> Iterator[str]:
    for calculator in calculators().values():
        found = calculate(calculator.name, dict(calculator.example)).found.model_dump(mode="json")
        yield from sentences({key: value for key, value in found.items() if key != "svg"})


def said_by_a_rehearsal() -> Iterator[str]:
    finial = next(path for path in EXAMPLES if path.name.startswith("stone-set"))
    for habit in ("even", "light"):
        yield from sentences(
            rehearse_heat(read_piece(finial), 1, HeatRequest(habit=habit)).model_dump(mode="json")
        )


@pytest.mark.parametrize(
    "told", [said_by_plans, said_by_rules, said_by_sizes, said_by_a_rehearsal], ids=lambda one: one.__name__
)
def test_no_sentence_holds_a_figure_in_a_unit_of_its_own(told: Any) -> None:
    said = list(told())
    held = [
        text for text in said if FIGURE.search("".join(one for one in parts_of(text) if isinstance(one, str)))
    ]
    assert held == []
    spoken_ = [speak(text, OTHER) for text in said]
    assert not [text for text in spoken_ if re.search(r"°C|\d mm\b(?!²|³)", text)]
    assert not [
        text for text in (speak(one, METRIC) for one in said) if "⦃" in text or re.search(r"°F|\d in\b", text)
    ]


def test_the_figures_of_a_drawing_are_in_the_units_of_the_house() -> None:
    drawn = calculate("ring-blank", {"size": "US 9", "thickness_mm": 1.8}).found.sketch
    assert drawn is not None
    assert [speak(label.text) for label in drawn.labels[:2]] == ["18.95", "65.17 mm"]
    assert [speak(label.text, OTHER) for label in drawn.labels[:2]] == ["0.746", "2.566 in"]


def test_lists_are_spoken_on_paper_too() -> None:
    piece = read_piece(EXAMPLES[0])
    whole = cut_and_solder(piece, plan(piece))
    assert "⦃" not in cut_list_csv(whole)
    metric, other = cut_list_pdf(whole, piece), cut_list_pdf(whole, piece, OTHER)
    assert metric[:4] == b"%PDF"
    assert len(metric) != len(other)

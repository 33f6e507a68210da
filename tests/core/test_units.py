"""Quantities as smiths type them."""

import json
import math
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.faults import Refused
from eskel_core.units import (
    Reading,
    Units,
    c_of_f,
    f_of_c,
    gauge_of_mm,
    mm_of_gauge,
    read_length,
    read_mass,
    read_quantity,
    read_ring_size,
    read_temperature,
    read_typed,
    say_gauge,
    say_length,
    say_mass,
    say_temperature,
    show_length,
    speak,
)

INCH = Units(length="inch", temperature="f", mass="troy")

# Gauge sizes: the definition of the B&S (American) wire gauge; inch fractions: 25.4 mm to the inch.
LENGTHS = [
    ("0.8", 0.8),
    ("0.8mm", 0.8),
    ("0,8 mm", 0.8),
    ("1 cm", 10.0),
    ("21 ga", 0.723),
    ("15 gauge", 1.450),
    ("18 AWG", 1.024),
    ("7/16 in", 11.1125),
    ('5/32"', 3.9688),
    ("1 1/2 in", 38.1),
    ("1½ in", 38.1),
    ("2-1/4 in", 57.15),
    ("0000 ga", 11.684),
    ("000 ga", 10.405),
    ("0 ga", 8.251),
    (".5", 0.5),
    ("½ in.", 12.7),
    ("2 ft", 609.6),
    ("  3 MM ", 3.0),
    ("40 ga", 0.080),
    ("300 µm", 0.3),
    ("1 m", 1000.0),
]


@pytest.mark.parametrize(("text", "mm"), LENGTHS)
def test_reads_lengths_as_smiths_type_them(text: str, mm: float) -> None:
    assert read_length(text).value == pytest.approx(mm, abs=5e-4)


# °F by definition; troy ounce 31.1035 g of 20 pennyweight of 24 grains; metric carat 0.2 g.
OTHERS = [
    ("temperature", "1205F", 651.667),
    ("temperature", "1205 °F", 651.667),
    ("temperature", "650", 650.0),
    ("temperature", "650 C", 650.0),
    ("temperature", "-20 c", -20.0),
    ("temperature", "32f", 0.0),
    ("mass", "1 ozt", 31.1035),
    ("mass", "2 dwt", 3.1103),
    ("mass", "12.5", 12.5),
    ("mass", "250 mg", 0.25),
    ("mass", "1.2 kg", 1200.0),
    ("mass", "5 ct", 1.0),
    ("mass", "24 grains", 1.5552),
    ("mass", "½ oz t", 15.5518),
    ("ring-size", "US 9", 18.9452),
    ("ring-size", "US 6 1/2", 16.9132),
    ("ring-size", "us6.25", 16.71),
    ("ring-size", "UK P", 17.9049),
    ("ring-size", "UK N½", 17.3079),
    ("ring-size", "uk n 1/2", 17.3079),
    ("ring-size", "UK Z+2", 22.6796),
    ("ring-size", "JP 7", 15.0),
    ("ring-size", "JP 13", 17.0),
    ("ring-size", "54", 17.1887),
    ("ring-size", "ISO 54", 17.1887),
    ("ring-size", "54.5", 17.3479),
    ("ring-size", "17.3 mm", 17.3),
    ("number", "12", 12.0),
    ("number", "15 %", 15.0),
    ("number", "1/2", 0.5),
]


@pytest.mark.parametrize(("quantity", "text", "value"), OTHERS)
def test_reads_other_quantities_as_smiths_type_them(quantity: str, text: str, value: float) -> None:
    reading = read_quantity(text, quantity)
    assert reading.value == pytest.approx(value, abs=5e-4)
    assert reading.understood


NONSENSE = [
    *(
        ("length", text)
        for text in (
            "",
            "thick",
            "12 furlongs",
            "1/0 in",
            "-3",
            "0",
            "41 ga",
            "9999 in",
            "1 2 mm",
            "1e3",
            "00000 ga",
        )
    ),
    *(("temperature", text) for text in ("", "hot", "650 K", "99999", "-60 C", "20 mm")),
    *(("mass", text) for text in ("", "heavy", "1 oz", "0", "-2 g", "3 lb", "200 kg")),
    *(
        ("ring-size", text)
        for text in (
            "",
            "9",
            "US",
            "US 6.3",
            "US 17",
            "UK",
            "UK 7",
            "UK N+2",
            "JP 0",
            "JP 6½",
            "99",
            "XX 4",
            "5 mm",
        )
    ),
    *(("number", text) for text in ("", "few", "3 mm", "1/0")),
]


@pytest.mark.parametrize(("quantity", "text"), NONSENSE)
def test_refuses_nonsense_with_a_reason(quantity: str, text: str) -> None:
    with pytest.raises(Refused) as caught:
        read_quantity(text, quantity, "parts[0].form.thickness_mm")
    (fault,) = caught.value.faults
    assert (fault.path, fault.value) == ("parts[0].form.thickness_mm", text)
    assert fault.rule
    assert fault.remedy


@pytest.mark.parametrize(
    ("reading", "words"),
    [
        (read_length("0.8"), "0.8 mm = 0.0315 in, near 20 ga"),
        (read_length("5/32 in"), "0.1563 in = 3.9688 mm, near 6 ga"),
        (read_length("21 ga"), "21 gauge (B&S) = 0.723 mm = 0.02846 in"),
        (read_temperature("650"), "650 °C = 1202 °F"),
        (read_mass("2 dwt"), "2 dwt = 3.11 g"),
        (read_ring_size("UK P"), "UK P: 17.90 mm inside = US 7.75 = UK P = ISO 56.2"),
    ],
)
def test_says_what_it_understood_with_the_other_unit_beside_it(reading: Reading, words: str) -> None:
    assert speak(reading.understood) == words


def test_a_bare_number_is_in_the_unit_of_the_house() -> None:
    assert read_length("1/4", units=INCH).value == 6.35
    assert read_temperature("1202", units=INCH).value == pytest.approx(650)
    assert read_mass("1", units=INCH).value == pytest.approx(1.5552)
    assert read_length("3 mm", units=INCH).value == 3
    assert show_length(1, Units(gauge=False)) == "1 mm = 0.03937 in"


@given(st.floats(min_value=-3, max_value=40))
def test_gauge_and_mm_agree_both_ways(gauge: float) -> None:
    assert gauge_of_mm(mm_of_gauge(gauge)) == pytest.approx(gauge, abs=1e-6)


@given(st.floats(min_value=-200, max_value=3000))
def test_degrees_agree_both_ways(celsius: float) -> None:
    assert c_of_f(f_of_c(celsius)) == pytest.approx(celsius, abs=1e-9)


@given(st.floats(min_value=0.05, max_value=900))
def test_what_is_written_in_the_houses_unit_reads_back(value: float) -> None:
    for units in (Units(), INCH):
        assert read_length(say_length(value, units.length, 4), units=units).value == pytest.approx(
            value, abs=2e-3
        )
        assert read_mass(say_mass(value, units.mass, 4), units=units).value == pytest.approx(value, rel=6e-3)
        assert read_temperature(say_temperature(value, units.temperature)).value == pytest.approx(
            value, abs=0.6
        )


@given(st.integers(0, 64))
def test_ring_sizes_of_every_system_grow_with_their_number(quarter: int) -> None:
    here, above = (read_ring_size(f"US {n / 4:g}").value for n in (min(quarter, 63), min(quarter, 63) + 1))
    assert above - here == pytest.approx(0.8128 / 4, abs=2e-4)
    iso = f"{math.pi * here:.1f}"
    assert read_ring_size(iso).value == pytest.approx(here, abs=0.02)


def test_writes_in_the_unit_of_the_house() -> None:
    assert [say_length(12.7), say_length(12.7, "inch")] == ["12.7 mm", "0.5 in"]
    assert [say_temperature(650), say_temperature(650, "f")] == ["650 °C", "1202 °F"]
    assert [say_gauge(n) for n in (18, 0, -3)] == ["18", "0", "0000"]


def test_a_typed_object_is_read_by_the_units_of_its_keys() -> None:
    typed = {
        "size": "US 9",
        "wire_mm": "21 ga",
        "bath_c": "140 F",
        "mass_g": "1 ozt",
        "count": "12",
        "price_per_g": "0.9",
        "loss_pct": "3 %",
        "outline": {"kind": "ellipse", "width_mm": "1/2 in", "height_mm": 9},
        "reach_mm": ["8", "-1"],
    }
    assert read_typed(typed) == {
        "size": "US 9",
        "wire_mm": 0.723,
        "bath_c": 60.0,
        "mass_g": 31.1035,
        "count": 12.0,
        "price_per_g": 0.9,
        "loss_pct": 3.0,
        "outline": {"kind": "ellipse", "width_mm": 12.7, "height_mm": 9},
        "reach_mm": [8.0, -1.0],
    }
    with pytest.raises(Refused) as caught:
        read_typed({"wire_mm": "thin", "outline": {"width_mm": "wide"}, "reach_mm": ["1", "far"]})
    assert [fault.path for fault in caught.value.faults] == ["wire_mm", "outline.width_mm", "reach_mm[1]"]


SHARED = json.loads((Path(__file__).parents[1] / "shared" / "lengths.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize("case", SHARED, ids=lambda one: f"{one['text']}-{one['unit']}")
def test_the_cases_that_the_web_reads_by_are_the_cores_own(case: dict[str, Any]) -> None:
    """The field on screen reads lengths by itself; `web/tests/lengths.test.ts` holds it to the same file."""
    units = Units(length=case["unit"], gauge=case["gauge"])
    if case["value"] is None:
        with pytest.raises(Refused):
            read_length(case["text"], units=units)
    else:
        read = read_length(case["text"], units=units)
        assert (read.value, read.understood) == (case["value"], case["understood"])

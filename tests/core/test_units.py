"""Lengths as smiths type them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.faults import Refused
from eskel_core.units import c_of_f, f_of_c, gauge_of_mm, mm_of_gauge, read_length, say_length

# Gauge sizes: the definition of the B&S (American) wire gauge; inch fractions: 25.4 mm to the inch.
TYPED = [
    ("0.8", 0.8), ("0.8mm", 0.8), ("0,8 mm", 0.8), ("1 cm", 10.0), ("21 ga", 0.723), ("15 gauge", 1.450),
    ("18 AWG", 1.024), ("7/16 in", 11.1125), ('5/32"', 3.9688), ("1 1/2 in", 38.1), ("1½ in", 38.1),
    ("2-1/4 in", 57.15), ("0000 ga", 11.684), ("000 ga", 10.405), (".5", 0.5),
]  # fmt: skip


@pytest.mark.parametrize(("text", "mm"), TYPED)
def test_reads_what_smiths_type(text: str, mm: float) -> None:
    assert read_length(text).mm == pytest.approx(mm, abs=5e-4)


@pytest.mark.parametrize(
    "text", ["", "thick", "12 furlongs", "1/0 in", "-3", "0", "41 ga", "9999 in", "1 2 mm", "1e3"]
)
def test_refuses_nonsense_with_a_reason(text: str) -> None:
    with pytest.raises(Refused) as caught:
        read_length(text, "parts[0].form.thickness_mm")
    fault = caught.value.faults[0]
    assert fault.rule
    assert fault.remedy


@given(st.floats(min_value=-3, max_value=40))
def test_gauge_and_mm_agree_both_ways(gauge: float) -> None:
    assert gauge_of_mm(mm_of_gauge(gauge)) == pytest.approx(gauge, abs=1e-6)


@given(st.floats(min_value=-200, max_value=3000))
def test_degrees_agree_both_ways(celsius: float) -> None:
    assert c_of_f(f_of_c(celsius)) == pytest.approx(celsius, abs=1e-9)


def test_writes_in_the_unit_of_the_house() -> None:
    assert say_length(12.7) == "12.7 mm"
    assert say_length(12.7, "inch") == "0.5 in"

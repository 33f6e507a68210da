"""What the signs pressed so far say of the rest of a heat: reckoned by hand, and by what must hold of any."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.run import told_anew

SECONDS = st.floats(1, 300)


# The spread of the torch is 0.25, of a press a tenth and 1 s: after 15 s foretold, off = hypot(0.1, 1/15) = 0.1202, and the press
# weighs 0.0625 / (0.0625 + 0.01444) = 0.8123; 1.5 ** 0.8123 = 1.390.
@pytest.mark.parametrize(
    ("pressed", "longer", "left", "words"),
    [
        ({0: 22.5}, 1.39, 27.8, "runs in about 28 s; a weak flame today"),
        ({0: 15.0}, 1.0, 20.0, "runs in about 20 s"),
        ({0: 10.0}, 0.72, 14.4, "runs in about 14 s; a strong flame today"),
    ],
)
def test_late_and_early_signs(pressed: dict[int, float], longer: float, left: float, words: str) -> None:
    told = told_anew([15.0, 20.0], pressed)
    assert told is not None
    assert (told.longer, told.left_s, told.words) == (longer, left, words)


@pytest.mark.parametrize("pressed", [{}, {1: 40.0}, {0: 10.0, 1: 30.0}, {7: 3.0}])
def test_nothing_is_told_before_the_first_sign_nor_after_the_last(pressed: dict[int, float]) -> None:
    assert told_anew([15.0, 20.0], pressed) is None


@given(stages=st.lists(SECONDS, min_size=2, max_size=4), times=st.floats(0.2, 5))
def test_what_is_left_goes_with_the_time_it_took_but_never_further(stages: list[float], times: float) -> None:
    told = told_anew(stages, {0: times * stages[0]})
    assert told is not None
    assert min(1, times) - 0.01 <= told.longer <= max(1, times) + 0.01
    assert told.left_s == pytest.approx(
        told.longer * math.fsum(stages[1:]), abs=0.06 + 0.006 * math.fsum(stages[1:])
    )


def test_a_sign_passed_over_counts_with_the_next() -> None:
    told = told_anew([10.0, 10.0, 30.0], {1: 20.0})
    assert told is not None
    assert told.words == "runs in about 30 s"

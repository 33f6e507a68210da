"""The torch factor from logged heats: what it comes to, how it tightens, and that a wild time does not spoil it."""

from __future__ import annotations

import math
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.rehearsal import LoggedHeat, TorchFactor, calibrate

PRIOR = math.log(1.4)


def heat(actual: float, likely: float = 20.0, spread: float = PRIOR) -> LoggedHeat:
    """A heat whose time goes as one over the torch's factor."""
    return LoggedHeat(likely / math.exp(spread), likely, likely * math.exp(spread), 1.0, spread, actual)


def logged(factor: float, count: int, noise: float, seed: int = 1) -> list[LoggedHeat]:
    dice = random.Random(seed)
    return [heat(20.0 / factor * math.exp(dice.gauss(0, noise))) for _ in range(count)]


def test_nothing_logged_is_the_table_within_40_percent() -> None:
    assert calibrate([]).torch == TorchFactor(1.0, pytest.approx(PRIOR))


@pytest.mark.parametrize("factor", [0.7, 1.0, 1.3])
def test_many_heats_find_the_factor(factor: float) -> None:
    assert calibrate(logged(factor, 20, 0.1)).torch.factor == pytest.approx(factor, rel=0.06)


def test_predictions_tighten() -> None:
    rows = logged(0.8, 12, 0.08)
    spreads = [calibrate(rows[:n]).torch.spread for n in range(len(rows) + 1)]
    assert spreads[0] == pytest.approx(PRIOR)
    assert spreads[-1] < 0.4 * spreads[0]


@pytest.mark.parametrize(
    ("actual", "reason"),
    [(7.1, "clicked-through"), (7.2, None), (20.0, None), (83.9, None), (84.1, "interrupted")],
)
def test_a_heat_that_no_hand_would_make_teaches_nothing(actual: float, reason: str | None) -> None:
    """Predicted 14.3 to 28 s: half of the one is 7.14 s, three times the other 84 s."""
    sound = logged(0.8, 6, 0.05)
    made = calibrate([*sound, heat(actual)])
    assert made.why_not == (None,) * 6 + (reason,)
    assert (made.torch == calibrate(sound).torch) is (reason is not None)
    assert (made.weights[-1] == 0) is (reason is not None)


@pytest.mark.parametrize("wild", [8.0, 80.0])
def test_one_wild_time_does_not_spoil_it(wild: float) -> None:
    sound = logged(0.8, 8, 0.08)
    plain, spoiled = calibrate(sound), calibrate([*sound, heat(wild)])
    assert spoiled.torch.factor == pytest.approx(plain.torch.factor, rel=0.08)
    assert spoiled.wild == (False,) * 8 + (True,)


@pytest.mark.parametrize(
    ("low", "high", "actual", "speaks_for"),
    [
        (None, None, 40.0, 0.5),  # twice as long, and no band: half as strong
        (None, None, 10.0, 2.0),
        (14.0, 28.0, 20.0, 1.0),
        (14.0, 28.0, 14.0, 1.4),  # at the band's ends it is as strong and as weak as those were reckoned with
        (14.0, 28.0, 28.0, 1 / 1.4),
        (14.0, None, 14.0, 1.4),
        (None, 28.0, 28.0, 1 / 1.4),
    ],
)
def test_what_a_time_speaks_for(
    low: float | None, high: float | None, actual: float, speaks_for: float
) -> None:
    """Predicted 20 s by the table's torch, with the prior's 40 % either way."""
    told = calibrate([LoggedHeat(low, 20.0, high, 1.0, PRIOR, actual)])
    assert told.speaks_for[0] == pytest.approx(speaks_for)


@pytest.mark.parametrize("count", [1, 3, 6, 20])
def test_what_is_known_is_never_wider_than_what_is_next(count: int) -> None:
    made = calibrate(logged(0.9, count, 0.1))
    assert 0 < made.known < made.torch.spread
    assert all(0 <= weight <= 1 for weight in made.weights)


def test_a_heat_predicted_with_a_factor_is_read_beside_the_table() -> None:
    """Predicted 20 s with a torch already taken as 0.8: it takes 20 s, so 0.8 is right."""
    one = LoggedHeat(16.0, 20.0, 25.0, 0.8, 0.2, 20.0)
    assert calibrate([one]).speaks_for[0] == pytest.approx(0.8)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(0.01, 1e5), max_size=12))
def test_any_times_give_a_finite_factor_and_spread(times: list[float]) -> None:
    made = calibrate([heat(time) for time in times])
    assert math.isfinite(made.torch.factor)
    assert made.torch.factor > 0
    assert 0 < made.torch.spread < 40
    assert made.known <= PRIOR + 1e-9


def test_the_order_of_heats_does_not_matter_to_the_factor() -> None:
    rows = logged(1.2, 9, 0.2)
    assert calibrate(rows).torch.factor == pytest.approx(calibrate(rows[::-1]).torch.factor, rel=1e-6)

"""What the loads of a pot tell of it, and how its strength, its warmth and its own pace make the minutes."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.metals import pickles
from eskel_core.piece import read_bench
from eskel_core.pot import Load, copper_by_loads, pace_of, pickle_minutes


def loads(*took: float) -> list[Load]:
    """Loads that were to be in for four to eight minutes, six at the middle."""
    return [Load(took=one, low=4, high=8) for one in took]


@pytest.mark.parametrize(
    ("took", "pace"),
    [
        ([6, 6, 6, 6, 6], 1.0),
        ([9, 9, 9, 9, 12], 1.5),
        ([9, 9, 9, 9], None),  # too few
        ([9, 9, 9, 9, 3.9], None),  # out before its time: tells nothing
        ([9, 9, 9, 9, 24], None),  # forgotten: three times too long
        ([4, 5, 6, 7, 23], 1.0),  # the median, not the mean
        ([5, 5, 5, 5, 5], 0.83),
    ],
)
def test_pace_is_what_loads_that_were_watched_took(took: list[float], pace: float | None) -> None:
    assert pace_of(loads(*took), 3) == pace


@pytest.mark.parametrize(
    ("measured", "before", "since", "now", "left"),
    [
        (10, 40, 0, 10, 80),
        (10, 40, 40, 20, 40),
        (10, 40, 80, 30, 0),
        (10, 40, 100, 35, 0),
        (12, 5, 1, 14.4, 6),
    ],
)
def test_copper_goes_on_as_it_came(measured: float, before: int, since: int, now: float, left: int) -> None:
    """Of 30 g/l: each load is taken to bring what those before the measure brought."""
    found = copper_by_loads(measured, before, since, 30)
    assert found is not None
    assert (found.now_g_l, found.loads_left) == (now, left)


@pytest.mark.parametrize(("measured", "before"), [(0, 40), (10, 4), (10, 0)])
def test_too_few_loads_tell_nothing_of_the_copper(measured: float, before: int) -> None:
    assert copper_by_loads(measured, before, 20, 30) is None


@pytest.mark.parametrize(
    ("pot", "times"),
    [({}, 1), ({"strength_pct": 50}, 2), ({"strength_pct": 200}, 0.5), ({"pace": 1.5}, 1.5)],
)
def test_a_weak_or_slow_pot_takes_longer(pot: dict[str, Any], times: float) -> None:
    """Bisulphate, 4 min at 60 °C: half as strong takes twice as long (of the first order in the acid: ours)."""
    found = pickle_minutes(pickles()["bisulphate"], 60, "medium", hot_piece=True, **pot)
    assert (found.low, found.high) == pytest.approx((4 * times * 0.7, 4 * times * 1.5))


@pytest.mark.parametrize(
    ("acid", "bath_c", "sound"),
    [("bisulphate", 70, True), ("bisulphate", 71, False), ("sulphuric", 60, False), ("sulphuric", 50, True)],
)
def test_a_pot_is_kept_as_warm_as_its_acid_bears(acid: str, bath_c: float, sound: bool) -> None:
    from eskel_core.metals import metals
    from eskel_core.piece import bench_faults

    bench = read_bench(
        {"format": "eskel-bench/1", "bench": {"pickle": acid, "pot": {"bath_c": bath_c}}}
    ).bench
    assert [fault.path for fault in bench_faults(bench, metals())] == ([] if sound else ["bench.pot.bath_c"])


@pytest.mark.parametrize(
    ("pot", "path"),
    [
        ({"strength_pct": 5}, "bench.pot.strength_pct"),
        ({"pace": 0}, "bench.pot.pace"),
        ({"copper_at": "yesterday"}, "bench.pot.copper_at"),
        ({"copper_at": "2026-11-01T10:00:00"}, "bench.pot.copper_at"),
    ],
)
def test_a_pot_that_makes_no_sense_is_refused(pot: dict[str, Any], path: str) -> None:
    with pytest.raises(Refused) as refused:
        read_bench({"format": "eskel-bench/1", "bench": {"pot": pot}})
    assert [fault.path for fault in refused.value.faults] == [path]

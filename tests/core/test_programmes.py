"""The search for a programme: what it leaves unfollowed could not have been the best, and what it draws can be followed."""

from __future__ import annotations

from functools import cache
from itertools import islice

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.heat import Hunt, Ways, best_programme
from eskel_core.heat._follow import both
from eskel_core.heat._programmes import (
    MOST_CHANGES,
    MOST_STAGES,
    allowed,
    alone,
    beside,
    brought,
    drawn,
    varied,
)
from eskel_core.heat._ways import ALL, RISES, SETTINGS, at_best, goodness, hopeless_s
from eskel_core.plan import plan
from eskel_core.rehearsal import TorchFactor
from eskel_core.rehearsal._facts import facts_of, tools_of
from eskel_core.rehearsal._scene import scene_of

from .pieces import join, piece, plate, wire


@cache
def ways(torch: str = "propane-air-small") -> Ways:
    """A post on a plate, on the rough body."""
    made = piece(
        [plate("base"), wire("post")], [join("foot", "post", "base")], bench={"solders": ["us-easy"]}
    )
    return scene_of(
        made, facts_of(made, plan(made), 1), tools_of(made, None, torch, None), TorchFactor(), 60
    ).rough


def some(count: int, seed: int = 3) -> list[tuple[tuple[int, int, int, int], ...]]:
    return list(islice(drawn(ways(), np.random.default_rng(seed)), count))


@settings(max_examples=30)
@given(st.integers(0, 10_000))
def test_what_is_drawn_and_varied_can_be_followed(seed: int) -> None:
    draw = np.random.default_rng(seed)
    for genes in [*islice(drawn(ways(), draw), 8), *brought(ways(), draw, 8)]:
        child = varied(genes, ways(), draw)
        for one in (genes, child):
            assert one[-1][2] == 0
            for aim, setting, sign, rise in one:
                assert 0 <= aim < len(ways().aims)
                assert 0 <= setting < len(SETTINGS)
                assert 0 <= sign < len(ways().signs)
                assert 0 <= rise < len(RISES)
        assert allowed(genes, ways())
        assert len(genes) + len(ways().dry) <= MOST_STAGES


def test_what_lies_beside_differs_in_one_thing() -> None:
    (genes,) = some(1)
    near = beside(genes, ways())
    assert near
    for other in near:
        told = [(a, b) for one, two in zip(genes, other, strict=True) for a, b in zip(one, two, strict=True)]
        assert sum(a != b for a, b in told) == 1


def test_the_setting_changes_twice_at_most() -> None:
    up_and_down = tuple((0, setting, 0, 0) for setting in (7, 0, 7))
    assert not allowed(up_and_down, ways())
    assert MOST_CHANGES == 2


@pytest.mark.parametrize("those", [ALL[:1], ALL[:8], ALL[:30], ALL])
def test_no_programme_is_better_than_it_could_be_by_some_of_its_hands(those: np.ndarray) -> None:
    """Whatever the hands do that have not followed it yet."""
    stages = [ways().stages(genes) for genes in [*some(12), *alone(ways())[::9]]]
    every = ways().ready.follow_all(stages, ALL, ways().start)
    part = ways().ready.follow_all(stages, those, ways().start)
    for one, all_of_it in zip(part, every, strict=True):
        assert goodness(ways(), one) + at_best(one) >= goodness(ways(), all_of_it) - 1e-9
    if len(those) == len(ALL):
        assert at_best(part[0]) == pytest.approx(0.0)


def test_a_programme_that_takes_longer_than_its_bound_is_not_as_good() -> None:
    every = ways().ready.follow_all([ways().stages(genes) for genes in some(24)], ALL, ways().start)
    late = [
        (one, other)
        for one in every
        for other in every
        if one.done_s[0] > hopeless_s(ways(), goodness(ways(), other))
    ]
    assert late
    for one, other in late:
        assert goodness(ways(), one) <= goodness(ways(), other)


def test_hands_that_followed_in_two_goes_are_put_in_order() -> None:
    (genes,) = some(1)
    stages = ways().stages(genes)
    odd, even = (ways().ready.follow(stages, ALL[n::2], ways().start) for n in (1, 0))
    whole, put = ways().ready.follow(stages, ALL, ways().start), both(odd, even)
    assert (put.who == whole.who).all()
    for one, other in zip(put.came, whole.came, strict=True):
        np.testing.assert_array_equal(one, other)


def test_what_is_left_unfollowed_is_not_the_best() -> None:
    """The best of a handful, some of it given up half way, is the best of all followed by all."""
    hunt = Hunt(ways())
    hunt.race(alone(ways()))
    first = hunt.ranked(10)
    found = hunt.by_all(first)
    every = ways().ready.follow_all([ways().stages(genes) for genes in first], ALL, ways().start)
    assert hunt.beaten
    assert goodness(ways(), found) == pytest.approx(max(goodness(ways(), one) for one in every))


def test_the_same_body_has_the_same_programme() -> None:
    one, other = (best_programme(ways(), ways(), generations=3) for _ in range(2))
    assert one.stages == other.stages
    assert one.well == other.well

"""The search for a programme: what it leaves unfollowed could not have been the best, and what it draws can be followed."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import islice

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.heat import Followable, Hunt, Sign, Stage, Ways, best_programme
from eskel_core.heat._asked import ENDED_S, TOOK
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
from eskel_core.heat._settles import too_weak
from eskel_core.heat._ways import ALL, RISES, SETTINGS, at_best, goodness, hopeless_s
from eskel_core.plan import plan
from eskel_core.rehearsal import HeatRequest
from eskel_core.rehearsal._facts import facts_of, tools_of
from eskel_core.rehearsal._scene import scene_of

from .everyday import BUTANE
from .pieces import join, piece, plate, wire

pytestmark = pytest.mark.long


@cache
def ways(torch: str = "propane-air-small") -> Ways:
    """A post on a plate, on the rough body."""
    made = piece(
        [plate("base"), wire("post")], [join("foot", "post", "base")], bench={"solders": ["us-easy"]}
    )
    return scene_of(
        made, facts_of(made, plan(made), 1), tools_of(made, None, torch, None), HeatRequest(), 60
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


def test_hands_come_to_the_same_on_one_core_and_on_three(monkeypatch: pytest.MonkeyPatch) -> None:
    stages = [ways().stages(genes) for genes in some(7)]
    came = []
    for cores in ({0}, {0, 1, 2}):
        monkeypatch.setattr("os.sched_getaffinity", lambda _, cores=cores: cores)
        came.append(ways().ready.follow_all(stages, ALL[:9], ways().start, noted_every_s=5.0))
    for one, other in zip(*came, strict=True):
        for alone_, shared in zip(one.came, other.came, strict=True):
            np.testing.assert_array_equal(alone_, shared)


def test_what_is_left_unfollowed_is_not_the_best() -> None:
    """The best of a handful, some of it given up half way, is the best of all followed by all."""
    hunt = Hunt(ways())
    hunt.race(alone(ways()))
    first = hunt.ranked(10)
    found = hunt.by_all(first)
    every = ways().ready.follow_all([ways().stages(genes) for genes in first], ALL, ways().start)
    assert hunt.beaten
    assert goodness(ways(), found) == pytest.approx(max(goodness(ways(), one) for one in every))


@pytest.mark.parametrize(
    ("thick_mm", "torch", "weak"),
    [(20, "butane-pencil", True), (20, "oxy-propane-rosebud", False), (1, "butane-kitchen", False)],
)
def test_a_flame_that_is_too_weak_for_a_body_is_known_before_long(
    thick_mm: float, torch: str, weak: bool
) -> None:
    """A cube of 20 mm weighs 83 g: no pocket torch brings it to 700 °C, so that no way has to be sought."""
    base = plate("base")
    base["form"] |= {"thickness_mm": thick_mm}
    made = piece([base, wire("post")], [join("foot", "post", "base")], bench={"solders": ["us-easy"]})
    facts = facts_of(made, plan(made), 1)
    scene = scene_of(made, facts, tools_of(made, None, torch, None), HeatRequest(), 120)
    assert too_weak(scene.rough) is weak
    hunt = Hunt(scene.rough)
    hunt.go_on(3)
    assert hunt.weak is weak
    assert (len(hunt.found) == len(alone(scene.rough))) is weak
    assert not weak or best_programme(scene.fine, scene.rough, generations=3).well == 0


def test_a_flame_stays_at_the_last_place_and_is_given_up_where_another_is_left() -> None:
    """It was pointed anew at every step there: steps of a thirtieth of a second, to the end of all patience."""
    posts = [wire("post", place={"x_mm": x, "y_mm": 0, "z_mm": 1, "stands": "upright"}) for x in (-8.0, 8.0)]
    parts = [plate("base"), *(post | {"id": name} for name, post in zip("ab", posts, strict=True))]
    made = piece(
        parts, [join("a-on", "a", "base"), join("b-on", "b", "base")], bench={"solders": ["us-easy"]}
    )
    planned = plan(made)
    assert len(facts_of(made, planned, 1).making) == 2
    scene = scene_of(made, facts_of(made, planned, 1), tools_of(made, None, BUTANE, None), HeatRequest(), 60)
    ready = scene.rough.ready
    there = next(aim for aim in scene.rough.aims if aim.key == "circle::above")
    cells = ready.setup.goals[0].cells
    only = replace(there, places=((ready.setup.goals[0].id, there.spots, cells),))
    runs = Sign("runs")
    cold = tuple(replace(goal, reach_c=1_200.0) for goal in ready.setup.goals[1:])
    hard = Followable(
        replace(ready.setup, goals=(*ready.setup.goals[:1], *cold), limits=(), flux=None, wet=False)
    )
    for stage in (Stage(only, 0.6, runs), Stage(only, 0.3, runs, nearer=0.05)):
        came = hard.follow((stage,), ALL[:1]).came
        seconds, steps = came.of[0, ENDED_S], came.of[0, TOOK]
        assert np.isfinite(came.reached_s[0, 0])
        assert steps < 5 * seconds
        assert seconds < 200


def test_the_same_body_has_the_same_programme() -> None:
    one, other = (best_programme(ways(), ways(), generations=3) for _ in range(2))
    assert one.stages == other.stages
    assert one.well == other.well

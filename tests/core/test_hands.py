"""Hands: how they are drawn, what they make of a programme, and what the search finds for them."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from eskel_core.heat import HANDS, Followable, Sign, Stage, all_hands, goodness, hands_of
from eskel_core.heat._asked import COUNTS, LATE_S, MISREAD_C, SETTING, STRENGTH
from eskel_core.heat._hands import OFF_X, OFF_Y
from eskel_core.piece import Piece, piece_from_object
from eskel_core.plan import plan
from eskel_core.rehearsal import Habit, HeatRequest, Rehearsal, rehearse_heat
from eskel_core.rehearsal._facts import facts_of, tools_of
from eskel_core.rehearsal._hands import counted, verdict_of
from eskel_core.rehearsal._scene import Scene, found_for, scene_of
from eskel_core.rehearsal._types import Hands
from eskel_core.rehearsal._words import late_words
from tests.core import everyday
from tests.core.everyday import BUTANE, PROPANE

pytestmark = pytest.mark.long

RUNS = Sign("runs")


def scene(plain: dict[str, Any], torch: str = BUTANE, heat_no: int = 1, **more: Any) -> Scene:
    """Make a heat of a piece ready."""
    made = piece_from_object(plain)
    facts = facts_of(made, plan(made), heat_no)
    return scene_of(made, facts, tools_of(made, None, torch, None), HeatRequest(), **more)


# How they are drawn.


def test_hands_are_as_they_are_told() -> None:
    """The brief's hands: the torch never under three quarters, 0.4 to 1.6 s late and 0.8 in the middle, and so on."""
    hands = hands_of()
    assert hands.shape == (HANDS, 7) == (64, 7)
    assert hands[:, STRENGTH].min() >= 0.75
    assert np.median(hands[:, STRENGTH]) == pytest.approx(1.0, abs=0.02)
    assert np.log(hands[:, STRENGTH]).std() == pytest.approx(np.log(1.25), abs=0.03)
    assert 0.4 <= hands[:, LATE_S].min() < 0.45
    assert 1.5 < hands[:, LATE_S].max() <= 1.6
    assert np.median(hands[:, LATE_S]) == pytest.approx(0.8, abs=0.03)
    for column, most in ((MISREAD_C, 25.0), (SETTING, 0.1)):
        assert np.abs(hands[:, column]).max() <= most
        assert hands[:, column].mean() == pytest.approx(0.0, abs=0.05 * most)
    assert 0.8 <= hands[:, COUNTS].min() < hands[:, COUNTS].max() <= 1.25
    assert np.hypot(hands[:, OFF_X], hands[:, OFF_Y]).max() <= 0.25


@pytest.mark.parametrize("column", range(5))
def test_hands_are_even_in_every_one_of_their_faults(column: int) -> None:
    """Of a low-discrepancy sequence every eighth of the range holds about an eighth of the hands."""
    ranks = np.sort(hands_of()[:, column])
    cuts = np.quantile(ranks, np.arange(1, 8) / 8)
    held = np.histogram(ranks, bins=[-np.inf, *cuts, np.inf])[0]
    assert held.min() >= 7
    assert held.max() <= 9


def test_the_middle_hand_has_no_fault_but_being_late() -> None:
    assert all_hands()[0].tolist() == [1.0, 0.8, 0.0, 0.0, 1.0, 0.0, 0.0]


@pytest.mark.parametrize(("spread", "widest"), [(0.02, 1.06), (0.1, 1.35), (2.0, 2.0)])
def test_a_torch_that_is_known_differs_less_from_hand_to_hand(spread: float, widest: float) -> None:
    strength = hands_of(spread)[:, STRENGTH]
    assert 1 < strength.max() < widest


# What comes of them.


@pytest.mark.parametrize(
    ("well", "verdict"),
    [(64, "sure"), (56, "sure"), (55, "care"), (32, "care"), (31, "luck"), (1, "luck"), (0, "never")],
)
def test_the_verdict_is_the_share(well: int, verdict: str) -> None:
    """Seven of eight and more: sure; half: care; fewer: luck; none: never (the brief's hands)."""
    assert verdict_of(Hands(tried=64, well=well, short=64 - well, spoilt=())) == verdict


def test_a_late_hand_goes_farther_over() -> None:
    """On one body and by one programme the hand that is later comes hotter, by its lateness times the pace."""
    made = scene(everyday.jump_ring())
    ready, middle = made.fine.ready, np.zeros(1, np.int64)

    def hottest(late_s: float) -> float:
        ready.strengths = ready.strengths.copy()
        ready.strengths[0, LATE_S] = late_s
        stage = Stage(made.fine.aims[0], 0.3, RUNS, wait_s=0.0)
        return float(ready.follow((stage,), middle, made.fine.start, stop=False).came.hottest.max())

    assert hottest(1.6) > hottest(0.8) + 5


def test_wet_flux_that_is_heated_fast_boils_and_spoils_it() -> None:
    made = scene(everyday.jump_ring())
    ready = made.fine.ready
    boiled = ready.follow((Stage(made.fine.aims[0], 1.0, RUNS),), np.arange(65))
    assert {ready.hand(boiled, row).why for row in range(65)} == {"boils"}
    fed = Followable(replace(ready.setup, wet=False))
    seen = fed.follow((Stage(made.fine.aims[0], 1.0, RUNS),), np.arange(65))
    assert "boils" not in {fed.hand(seen, row).why for row in range(65)}


def test_a_sign_that_stays_away_is_helped_by_a_notch() -> None:
    """At three tenths a copper ring stalls; with a tenth more every eight seconds it runs."""
    made = scene(everyday.jump_ring(2.2, 17.5, everyday.COPPER))
    circle = next(aim for aim in made.fine.aims if aim.kind == "circle")

    def comes_to(wait_s: float) -> float:
        stage = Stage(circle, 0.3, RUNS, wait_s=wait_s)
        ready, start = made.fine.ready, made.fine.start
        came = ready.follow((stage,), np.zeros(1, np.int64), start, stop=False, noted_every_s=1.0).came
        return float(came.history[0, : int(came.noted[0])].max())

    assert comes_to(8.0) > comes_to(0.0) + 50


@pytest.mark.long
def test_a_part_that_is_brought_in_stays_cold_until_the_solder_is_liquid() -> None:
    made = everyday.post("us-hard", brought_in=True)
    told = rehearse_heat(piece_from_object(made), 1, HeatRequest(torch=PROPANE))
    assert told.brought_in == "post"
    assert "bring post in" in told.programme[-1].text
    lines = {line.id: line for line in told.series.parts}
    disc, post = np.array(lines["disc"].c), np.array(lines["post"].c)
    assert post[disc < 700].max() < 30
    assert post[-1] > 300
    standing = rehearse_heat(
        piece_from_object(everyday.post("us-hard", brought_in=False)), 1, HeatRequest(torch=PROPANE)
    )
    assert standing.brought_in is None


@pytest.mark.parametrize(
    ("kind", "setting", "nearer", "words"),
    [
        (
            "circle",
            1.0,
            0.0,
            "after about 60 s, this flame is too small",
        ),  # the slowest of nine hands in ten take 40 s
        ("circle", 0.6, 0.0, "Open the flame a tenth more every 8 s"),
        ("brush", 1.0, 0.0, "Leave the flame on it longer every 8 s"),
        ("circle", 1.0, 0.05, "go on nearer"),
    ],
)
def test_what_to_do_if_a_sign_stays_away(kind: Any, setting: float, nearer: float, words: str) -> None:
    aim = replace(scene(everyday.jump_ring()).fine.aims[0], kind=kind)
    assert words in late_words(Stage(aim, setting, RUNS, nearer=nearer), 40.0)


# What the search finds.

PROGRAMMES = [everyday.jump_ring(), everyday.band(), everyday.post("us-medium"), everyday.tube_on_plate()]


def found(plain: dict[str, Any]) -> Rehearsal:
    return rehearse_heat(piece_from_object(plain), 1, HeatRequest(torch=PROPANE))


@pytest.mark.long
@pytest.mark.parametrize("plain", PROGRAMMES, ids=lambda plain: plain["parts"][0]["id"])
def test_a_programme_can_be_followed(plain: dict[str, Any]) -> None:
    """At most four stages, none shorter than three seconds, the setting changed at most twice, drying first, each ended by a sign."""
    told = found(plain)
    stages = told.programme
    assert 2 <= len(stages) <= 4
    assert all(stage.seconds.likely >= 3 for stage in stages)
    settings = [stage.setting for stage in stages]
    assert sum(one != other for one, other in pairwise(settings)) <= 2
    assert (stages[0].aim, stages[0].until.sign) == ("dry", "crust")
    assert stages[-1].until.sign == "runs"
    assert all(stage.if_late for stage in stages)
    for one, other in pairwise(stages):
        assert (one.aim, one.about, one.setting) != (other.aim, other.about, other.setting)


@pytest.mark.long
def test_the_same_heat_has_the_same_programme() -> None:
    one, other = (found(everyday.band()).model_dump_json() for _ in range(2))
    assert one == other


@pytest.mark.long
@pytest.mark.parametrize("plain", PROGRAMMES[:3], ids=lambda plain: plain["parts"][0]["id"])
def test_hands_by_another_generator_fare_about_as_well(plain: dict[str, Any]) -> None:
    """Two hundred hands drawn by dice instead: the share is within a tenth."""
    made = scene(plain, PROPANE)
    best = found_for(made)
    dice = np.random.default_rng(11)
    many = 200
    drawn = np.stack(
        [
            np.maximum(0.75, np.exp(np.log(1.25) * dice.standard_normal(many))),
            np.interp(dice.random(many), [0, 0.5, 1], [0.4, 0.8, 1.6]),
            dice.uniform(-25, 25, many),
            dice.uniform(-0.1, 0.1, many),
            np.exp(dice.uniform(np.log(0.8), np.log(1.25), many)),
            *(dice.uniform(-0.17, 0.17, many) for _ in range(2)),
        ],
        -1,
    )
    others = Followable(made.fine.ready.setup)
    others.hands = others.pointed.hands = np.concatenate([all_hands()[:1], drawn])
    others.strengths = np.ascontiguousarray(others.hands[:, :5])
    share = others.follow((*made.fine.dry, *best.stages), np.arange(1, many + 1)).well
    ours = counted(made.fine.ready, best).well / 64
    assert share == pytest.approx(ours, abs=0.1)


@pytest.mark.long
def test_the_programme_is_no_worse_than_any_habit() -> None:
    made = scene(everyday.tube_on_plate(), PROPANE)
    best = goodness(made.fine, found_for(made))
    habits: tuple[Habit, ...] = ("join", "even", "light")
    for habit in habits:
        assert best >= goodness(made.fine, found_for(made.asked(HeatRequest(habit=habit)))) - 0.02


def turned(face: str) -> Piece:
    """A post on one face of a plate, and one on the other, in one heat."""
    parts = [everyday.plate("plate", 20, 20, 1.0), everyday.wire("post", 1.0, 8.0)]
    joins = [everyday.tie("foot", "tee", "post", "plate", holds="seated", face=face)]
    return piece_from_object(everyday.piece(parts, joins, ["us-easy"]))


@pytest.mark.parametrize("face", ["front", "back"])
def test_no_flame_is_pointed_at_what_faces_the_block(face: str) -> None:
    made = turned(face)
    planned = plan(made)
    facts = facts_of(made, planned, 1)
    ready = scene_of(made, facts, tools_of(made, None, PROPANE, None), HeatRequest())
    hidden = (face == "front") != (facts.lies == "front-up")
    assert any(aim.about == "post" for aim in ready.fine.aims) is not hidden

"""Numbers that everything rests on, each with where it is from: none of them changes unnoticed.

What follows from them is tested where it is used; but a reference that is reckoned with the same number as the thing
it is held against cannot tell when that number is wrong.
"""

from __future__ import annotations

from dataclasses import replace

import pytest

from eskel_core.cooling import _touch
from eskel_core.demands import LIMIT_OF_PLACING, make_problem
from eskel_core.heat import _asked, _body, _cells, _glow, _holders, _march, _network, _seen, _setup
from eskel_core.metals import _melted, surfaces
from eskel_core.piece import resolve_house
from eskel_core.plan import _cooling
from eskel_core.plan._course import make_course
from eskel_core.rehearsal import _calibrate, _facts, _show, _show_series, _words
from eskel_core.rules import find_all
from eskel_core.search import solve
from tests.core.pieces import chain, join

NUMBERS = [
    (_march.SIGMA, 5.670374419e-8, "Stefan-Boltzmann constant, W/m²K⁴: CODATA 2018"),
    (_march.KELVIN, 273.15, "0 °C in K: its definition"),
    (_march.ROOM_C, 20.0, "the room, °C: ours"),
    (_body._COAT, 0.6, "emissivity under a coat of flux: brief, physics"),
    (_touch.CONVECTION_W_M2K, 12.0, "natural convection, W/m²K: brief, physics"),
    (_touch._WIRE_CONVECTION_W_MK, 0.033, "what wire has more, W/mK over its diameter: brief, physics"),
    (_network.DRY_W_M2K, 5_000.0, "contact at a dry join, W/m²K: brief, physics"),
    (_network.GLASSY_W_M2K, 20_000.0, "contact through glassy flux, W/m²K: brief, physics"),
    (_body._FILLED, 0.7, "how much of its round a bundle fills: seven wires 7/9, four 0.69"),
    (_holders.HOLDERS["clipped"].mass_g, 2.0, "a sprung clip, g: ours"),
    (_holders.HOLDERS["weighted"].mass_g, 10.0, "a small weight on a foot, g: ours"),
    (_holders._JAW_W_K, 0.006, "a face of steel some 2 × 1 mm that presses, W/K: brief, physics"),
    (_holders._JAW_MM[0], 2.0, "how long a jaw of tweezers lies against what it holds, mm: brief, physics"),
    (_holders._AGAINST_A_ROUND, 1 / 3, "of a round wire, how much of its thickness a jaw touches: ours"),
    (
        _network.FACING_W_M2K,
        60.0,
        "4·σ·(723 K)³·0.47 of glow and 0.06 W/mK over 3 mm of air, W/m²K: Stefan and Boltzmann",
    ),
    (_holders._STEEL_J_GK, 0.49, "carbon steel, J/gK"),
    (_show.NEXT_AFTER_S, 20.0, "until the next of several alike is laid down, s: ours"),
    (_setup.MOST_TAKEN, 0.5, "the share of a torch's heat that the work takes at most: brief, physics"),
    (
        _seen.FLOW_HOLD_S,
        0.5,
        "how long a seam is above its flow point until it has run, s: brief, physics",
    ),
    (_setup.LIQUID_SHARE, 0.15, "the share of a part that is liquid when it slumps: brief, hands"),
    (_setup.BOILS_C_S, 15.0, "how fast flux may pass its boiling, °C/s: brief, hands"),
    (_setup.WAIT_S, 8.0, "how long a sign may stay away, s: brief, hands"),
    (_setup.NOTCH, 0.1, "how much more the flame is opened then: brief, hands"),
    (_asked.GIVES_UP_S, 240.0, "after how long it is short, s: brief, hands"),
    (_facts.SUPERHEAT_C, 75.0, "how far over its liquidus metal is poured, °C: brief, physics, 60 to 90"),
    (_words.GRAIN_C, 60.0, "from how far over its range an anneal is warned of, °C: brief, physics"),
    (surfaces()["third-hand"].sink_w_k, 0.012, "two jaws of cross-lock tweezers, W/K: brief, physics"),
    (_show_series.STAIN_C, 700.0, "from where silver with copper in it stains in air, °C: brief, rules"),
    (_calibrate.TIMING_SPREAD, 0.15, "how far a smith's timing is off, of its logarithm: ours"),
    (_calibrate._WILD, 0.35, "below which weight a logged heat is told as wild: ours"),
    (_cells.LYING_SHARE, 0.3, "the share of its width on which what is round lies on the block: ours"),
    (_melted.GRAVITY_M_S2, 9.81, "standard gravity, m/s², to three figures"),
    (_glow._LUMENS, 683.0, "lumens in a watt of green light: the definition of the candela"),
    (_cooling.THICK_MM, 3.0, "from how thick it is not quenched hot, mm: brief, rules"),
]


@pytest.mark.parametrize(("number", "known", "source"), NUMBERS, ids=[source for _, _, source in NUMBERS])
def test_a_number_is_what_its_source_says(number: float, known: float, source: str) -> None:
    assert number == known, source


def test_a_placing_has_room_for_so_many_joins() -> None:
    """The brief's rules: six by chips and sweat, twenty-four by paste."""
    assert {LIMIT_OF_PLACING[one] for one in ("chips-under", "chips-over", "sweat")} == {6}
    assert LIMIT_OF_PLACING["paste"] == 24


@pytest.mark.parametrize(
    ("below", "code"),
    [(25.1, None), (24.9, "melt-risk"), (0.1, "melt-risk"), (0.0, "melt-certain"), (-0.1, "melt-certain")],
)
def test_a_heat_that_reaches_a_solidus_melts(below: float, code: str | None) -> None:
    """Sterling begins to melt at 802 °C; the planner never proposes such a heat, the rule judges any."""
    piece = chain(2, [join("a", "w0", "w1", solder="us-hard")])
    problem = make_problem(piece, resolve_house(piece.house))
    found = solve(problem)
    assert found is not None
    course = make_course(problem, found)
    (heat,) = course.heats
    hot = replace(course, heats=(replace(heat, filler=replace(heat.filler, working_c=802 - below)),))
    told = {one.code for one in find_all(hot)} & {"melt-risk", "melt-certain"}
    assert told == ({code} if code else set())

"""The model of heat beside closed forms and finite elements; what holds of it whatever the body."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import partial

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.forms import Ball, Disc, Sheet, Strip, Tube, measure
from eskel_core.heat import (
    MIDDLE,
    Flame,
    Followable,
    Goal,
    Ground,
    HeatSetup,
    Lying,
    March,
    Network,
    Sign,
    Stage,
    aims_of,
    assemble,
    cooled,
    glow_rgb,
    glow_word,
    grow_ball,
    luminance_cd_m2,
)
from eskel_core.metals import fluxes, metals, torches

from .heat_bodies import Case, cut, march_to, round_wire
from .heat_cases import CASES

STERLING = "sterling-925"
SMALL = torches()["propane-air-small"]
FORMS = {
    "wire": round_wire(1.2, 30),
    "ring": Strip(kind="strip", width_mm=3, thickness_mm=0.5, length_mm=50, closed=True),
    "disc": Sheet(kind="sheet", thickness_mm=0.6, outline=Disc(kind="disc", diameter_mm=22)),
    "dome": Sheet(kind="sheet", thickness_mm=0.45, outline=Disc(kind="disc", diameter_mm=22), domed_mm=6),
    "tube": Tube(kind="tube", outer_mm=4, wall_mm=0.4, length_mm=12),
    "ball": Ball(kind="ball", diameter_mm=5),
}


def named(case: Callable[[], Case]) -> str:
    """Tell a case of the table by its function and its figures."""
    return f"{case.func.__name__}-{'-'.join(map(str, case.args))}" if isinstance(case, partial) else ""


@pytest.mark.parametrize(
    "case", [*CASES[:-4], *(pytest.param(case, marks=pytest.mark.long) for case in CASES[-4:])], ids=named
)
def test_beside_a_reference(case: Callable[[], Case]) -> None:
    made = case()
    assert made.error <= made.bound, f"{made.name}: {made.error:.2%}"


@pytest.mark.parametrize("name", FORMS)
@pytest.mark.parametrize("size_mm", [0.7, 2.0])
def test_cells_hold_the_whole_form(name: str, size_mm: float) -> None:
    measured, cells = measure(FORMS[name]), cut(FORMS[name], size_mm=size_mm)
    assert cells.volume_m3.sum() * 1e9 == pytest.approx(measured.volume_mm3, rel=1e-3)
    assert cells.surface_m2.sum() * 1e6 == pytest.approx(measured.surface_mm2, rel=0.03)
    assert (cells.above_m2 <= cells.surface_m2).all()
    assert cells.above_m2.sum() <= cells.surface_m2.sum() / 2 * 1.001


def lit(network: Network, share: float = 1.0) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    """Give a flame that is stronger on the one side."""
    x = network.x_mm - network.x_mm.mean()
    strength = np.exp(-((x - 3) ** 2) / 100)
    made = network.above_m2 * 420 * share * strength
    return np.asarray(made)


@pytest.mark.parametrize("name", FORMS)
@pytest.mark.parametrize("ground", [None, Ground(160, 120), Ground(0, 15)], ids=["air", "charcoal", "mesh"])
def test_energy_closes(name: str, ground: Ground | None) -> None:
    """What went in is what was lost, passed on and held: the flows summed over the states, by the trapezoid rule."""
    cells = cut(FORMS[name])
    network = assemble({"part": cells}, ground=ground, lying=Lying(resting={"part": cells.rests_m2}))
    march = March(network, Flame(1650, 200))
    march.aim(lit(network))
    march_to(march, 6.0)
    assert abs(left_over_j(march)) <= 5e-4 * march.energy.given


def left_over_j(march: March) -> float:
    """Give what is missing in the account of energy, J."""
    energy = march.energy
    return energy.given - energy.lost - energy.sunk - march.stored_j(20.0)


def test_energy_closes_while_it_melts() -> None:
    network = assemble({"wire": cut(FORMS["wire"])})
    march = March(network, Flame(2400))
    march.aim(lit(network))
    while march.t.max() < 1000:
        march.step()
    assert abs(left_over_j(march)) <= 5e-4 * march.energy.given


def test_energy_closes_from_aim_to_aim() -> None:
    """The flame is moved in the middle of the way, the joins change what they pass, and neither loses a joule."""
    network = assemble({"disc": cut(FORMS["disc"])})
    film = lit(network)
    march = March(network, Flame(1650))
    for n in range(6):
        march.aim(film * (0.3 + 0.7 * (n % 2)))
        march_to(march, march.seconds + 0.7)
        march.join(network.conduction * (0.5 if n % 2 else 0.0))
    assert abs(left_over_j(march)) <= 5e-4 * march.energy.given


def test_melting_takes_its_heat() -> None:
    """A ball passes its melting range later by its latent heat over what it is given."""
    network = assemble({"ball": cut(FORMS["ball"])}, lossless=True)
    film = network.above_m2 * 300

    def until(body: Network, to_c: float) -> float:
        march = March(body, Flame(1600))
        march.aim(film)
        while march.t[0] < to_c:
            march.step()
        return march.seconds

    later = until(network, 900) - until(replace(network, latent_j=np.zeros(1)), 900)
    given_w = float(film[0]) * (1600 - 850)
    assert later == pytest.approx(float(network.latent_j[0]) / given_w, rel=0.05)


@pytest.mark.parametrize("name", ["wire", "ring", "disc", "dome", "tube"])
def test_halving_the_cells_changes_little(name: str) -> None:
    def seconds(size_mm: float) -> float:
        network = assemble({"part": cut(FORMS[name], size_mm=size_mm)})
        goal = Goal("all", np.arange(len(network)), 718.0)
        setup = HeatSetup(network, SMALL, (goal,), (), fluxes()["white-paste"])
        stages = (Stage(aims_of(network, SMALL)[0], 1.0, Sign("runs")),)
        return float(Followable(setup).follow(stages, MIDDLE).done_s[0])

    assert seconds(0.8) == pytest.approx(seconds(1.6), rel=0.03)


def test_the_same_to_the_last_digit() -> None:
    def temperatures() -> bytes:
        network = assemble({"disc": cut(FORMS["disc"])})
        march = March(network, Flame(1650))
        march.aim(lit(network))
        march_to(march, 5.0)
        return march.t.tobytes()

    assert temperatures() == temperatures()


def test_the_flame_gives_at_most_what_it_has() -> None:
    network = assemble({"disc": cut(FORMS["disc"])})
    film = network.above_m2 * 5000
    march = March(network, Flame(1650, 100.0))
    march.aim(film)
    march_to(march, 1.0)
    assert march.energy.given == pytest.approx(100.0, rel=5e-3)


def test_a_block_stays_hot_and_forgets() -> None:
    """Work laid on a block that is hot from the last heat comes up sooner, and less so the longer one waits."""
    cells = cut(FORMS["disc"])
    network = assemble(
        {"disc": cells}, ground=Ground(160, 120), lying=Lying(resting={"disc": cells.rests_m2})
    )
    film = lit(network)

    def after(block: np.ndarray[tuple[int, int], np.dtype[np.float64]] | None) -> March:
        march = March(network, Flame(1650), block=block)
        march.aim(film)
        march_to(march, 6.0)
        return march

    cold = after(None)
    block = cold.modes.copy()
    soon, later = (float(after(cooled(block, wait)).t.mean()) for wait in (2.0, 300.0))
    assert soon > later > float(cold.t.mean())


@settings(max_examples=25, deadline=None)
@given(
    thickness=st.floats(0.05, 6), across=st.floats(1, 300), film=st.floats(50, 4000), gas=st.floats(900, 2400)
)
def test_never_hotter_than_the_gas_nor_colder_than_the_room(
    thickness: float, across: float, film: float, gas: float
) -> None:
    form = Sheet(kind="sheet", thickness_mm=thickness, outline=Disc(kind="disc", diameter_mm=across))
    network = assemble({"disc": cut(form, size_mm=across / 8)})
    taken = network.above_m2 * film
    march = March(network, Flame(gas))
    march.aim(taken)
    for _ in range(60):
        march.step()
        assert np.isfinite(march.t).all()
        assert march.t.min() >= 20 - 1e-6
        assert march.t.max() <= gas + 1e-6


@pytest.mark.parametrize(("light", "from_c"), [("dark", 480), ("dim", 550), ("daylight", 640)])
def test_glow_is_seen_where_its_name_begins(light: str, from_c: int) -> None:
    cold, dull, hot = (np.array(glow_rgb(t, light), float) for t in (200, from_c + 40, 1000))
    assert abs(dull - cold).max() >= 2
    assert hot[0] - hot[2] > dull[0] - dull[2] >= cold[0] - cold[2]
    assert glow_word(from_c - 1, light) == "no glow"


def test_luminance_follows_planck() -> None:
    """Platinum at its freezing point, a black body of 2041.4 K, was 600 000 cd/m²: the old candle (CIPM 1948)."""
    assert luminance_cd_m2(2041.4 - 273.15, 1.0) == pytest.approx(600_000, rel=0.03)
    assert math.isfinite(luminance_cd_m2(20.0))


@pytest.mark.parametrize("wire_mm", [0.8, 1.2])
def test_a_ball_grows_keeps_its_energy_and_lets_go_at_its_limit(wire_mm: float) -> None:
    """The limit is where its weight is six tenths of the pull at the neck; the ball passes it before it can grow on."""
    grown = grow_ball(metals()[STERLING], wire_mm, 40, torches()["oxy-propane-fine"])
    assert grown.melts_s is not None
    assert grown.drops_s is not None
    assert grown.drops_s > grown.melts_s
    assert (np.diff(grown.diameter_mm) >= -1e-9).all()
    assert grown.limit_mm <= grown.diameter_mm[-1] < 1.05 * grown.limit_mm
    assert abs(grown.given_j - grown.lost_j - grown.stored_j) < 1e-6 * grown.given_j


def test_a_thicker_wire_melts_later_and_a_weak_flame_never() -> None:
    fine, thick = (grow_ball(metals()[STERLING], one, 40, SMALL).melts_s for one in (0.5, 1.2))
    assert fine is not None
    assert thick is not None
    assert fine < thick
    weak = grow_ball(metals()["copper"], 4.0, 60, torches()["butane-pencil"])
    assert weak.melts_s is None
    assert weak.tip_c.max() < 1065


def test_a_ball_of_a_wanted_size_is_lifted_in_time() -> None:
    grown = grow_ball(metals()["fine-silver-999"], 0.8, 40, torches()["oxy-propane-fine"], ball_mm=2.0)
    assert grown.lifts_s is not None
    assert grown.drops_s is None
    assert grown.diameter_mm[-1] == pytest.approx(2.0, rel=0.03)


@pytest.mark.parametrize("name", FORMS)
@pytest.mark.parametrize("ground", [None, Ground(160, 120)], ids=["air", "charcoal"])
def test_steps_of_its_own_choice_are_as_good_as_fine_ones(name: str, ground: Ground | None) -> None:
    """Beside steps of 2 ms: no cell is off by more than 0.3 K at any time, and the account comes to the same."""
    cells = cut(FORMS[name])
    network = assemble({"part": cells}, ground=ground, lying=Lying(resting={"part": cells.rests_m2}))
    film = lit(network, 0.4)
    own, fine = March(network, Flame(1650)), March(network, Flame(1650), longest_s=0.002)
    own.aim(film)
    fine.aim(film)
    while own.seconds < 6.0 - 1e-9:
        own.step(6.0)
        march_to(fine, own.seconds)
        assert np.abs(own.t - fine.t).max() < 0.3
    for ours, theirs in (
        (own.energy.given, fine.energy.given),
        (own.energy.lost, fine.energy.lost),
        (own.stored_j(20.0), fine.stored_j(20.0)),
    ):
        assert ours == pytest.approx(theirs, abs=5e-4 * fine.energy.given)

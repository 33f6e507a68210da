"""From a piece to the body that is heated: what lies where, what touches what, where a flame can be, and what gathers."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.forms import Disc, Round, Sheet, Strip, Wire
from eskel_core.heat import (
    Aim,
    Body,
    Energy,
    Found,
    Goal,
    HeatSetup,
    Limit,
    Stage,
    Trace,
    Trials,
    aims_of,
    best_programme,
    body_of,
    rank_of,
    run,
)
from eskel_core.heat._gathered import gathered
from eskel_core.heat._trials import SETTINGS, Programme
from eskel_core.metals import fluxes, metals, surfaces, torches
from eskel_core.piece import Piece
from eskel_core.rehearsal import rehearse_heat

from .pieces import join, piece, plate, wire

SMALL, LARGE = torches()["propane-air-small"], torches()["propane-air-large"]
STERLING = metals()["sterling-925"]


def body(
    made: Piece, *nodes: str, making: tuple[str, ...] = (), done: tuple[str, ...] = (), **more: Any
) -> Body:
    surface = surfaces()[more.pop("surface", "charcoal")]
    return body_of(made, frozenset(nodes), making=making, made=done, surface=surface, **more)


def posts(count: int, at: list[list[float]] | None = None) -> Piece:
    """So many posts alike on a plate."""
    pin = wire("post", count=count)
    tie = join("foot", "post", "base")
    if at is not None:
        tie["at"] = at
    return piece([plate("base"), pin], [tie])


@pytest.mark.parametrize("count", [1, 2, 5])
def test_every_one_of_several_alike_has_its_place(count: int) -> None:
    made = body(posts(count), "base", "post", making=("foot",))
    names = [touch.place for touch in made.network.touches]
    assert names == (["foot"] if count == 1 else [f"foot#{n + 1}" for n in range(count)])
    assert len(made.network.nodes) == 1 + count


@pytest.mark.parametrize("cells", [60, 200, 400])
def test_a_body_holds_its_metal_whatever_its_cells(cells: int) -> None:
    made = body(posts(2), "base", "post", making=("foot",), cells=cells)
    volume = 20 * 20 * 1 + 2 * 20 * math.pi / 4
    per_mm3 = STERLING.density_g_cm3 / 1000 * STERLING.specific_heat_j_kgk
    assert made.network.capacity_j_k.sum() == pytest.approx(volume * per_mm3 / 1000, rel=2e-3)
    assert 0.4 * cells < len(made.network) < 1.6 * cells + 20


def test_what_is_joined_conducts_and_what_is_being_joined_touches() -> None:
    two = piece(
        [plate("base"), wire("a"), wire("b")],
        [join("one", "a", "base"), join("two", "b", "base", after=["one"])],
    )
    made = body(two, "base", "a", "b", making=("two",), done=("one",)).network
    assert [touch.place for touch in made.touches] == ["two"]
    assert [touch.place for touch in made.earlier] == ["one"]
    base, a, b = (made.cells(name) for name in ("base", "a", "b"))
    assert made.conduction[base][:, a].nnz
    assert not made.conduction[base][:, b].nnz
    assert np.abs(made.conduction.sum(axis=1)).max() < 1e-9


def test_metal_passes_as_much_as_its_length_and_section_let_it() -> None:
    """A wire of round section between its ends: k·A/L, from the inverse of its matrix."""
    made = body(piece([wire("w")], []), "w").network
    count, row = len(made), np.argsort(made.x_mm)
    k = made.conduction.toarray()[np.ix_(row, row)]
    flow = np.zeros(count)
    flow[0], flow[-1] = 1.0, -1.0
    t = np.linalg.lstsq(k, flow, rcond=None)[0]
    ends_mm = float(np.ptp(made.x_mm))
    wanted = STERLING.conductivity_w_mk * math.pi / 4 * 1e-6 / (ends_mm / 1000)
    assert 1 / (t[0] - t[-1]) == pytest.approx(wanted, rel=1e-6)


def test_a_touch_covers_what_it_touches() -> None:
    """A disc soldered flat upon another loses no heat through their faces."""
    sheet = {"kind": "sheet", "thickness_mm": 1, "outline": {"kind": "disc", "diameter_mm": 10}}
    upon = {"id": "upon", "metal": "sterling-925", "form": sheet}
    tie = {"id": "on", "kind": "overlay", "between": ["upon", "base"], "holds": "seated"}
    made = piece([plate("base"), upon], [tie])
    open_ = body(made, "base", "upon").network
    closed = body(made, "base", "upon", making=("on",)).network
    face = math.pi * 25e-6
    bare, covered = (one.surface_m2.sum() + one.ground_m2.sum() for one in (open_, closed))
    assert bare - covered == pytest.approx(2 * face, rel=0.05)
    assert sum(touch.area_m2.sum() for touch in closed.touches) == pytest.approx(face, rel=0.05)


def test_bodies_that_nothing_ties_together_feel_no_common_flame() -> None:
    made = body(piece([plate("base"), wire("w")], []), "base", "w").network
    at = next(aim for aim in aims_of(made, SMALL) if aim.key == "part:w:above")
    assert at.share_m2[made.cells("w")].max() > 0
    assert at.share_m2[made.cells("base")].max() == 0
    assert np.ptp(made.drawn_x_mm) < 100 < np.ptp(made.x_mm)


def test_a_turned_over_body_rests_on_less() -> None:
    rests = {
        lies: float(body(posts(1), "base", "post", making=("foot",), lies=lies).network.ground_m2.sum())
        for lies in ("front-up", "back-up", "on-edge")
    }
    assert rests["front-up"] > rests["back-up"] > rests["on-edge"] > 0


@pytest.mark.parametrize("surface", surfaces())
def test_a_grip_is_away_from_the_join(surface: str) -> None:
    made = body(posts(1), "base", "post", making=("foot",), surface=surface).network
    drawn_w_k = surfaces()[surface].sink_w_k
    assert [w_k for _, w_k in made.sinks] == ([drawn_w_k] if drawn_w_k > 0 else [])
    for cell, _ in made.sinks:
        assert cell in made.cells("base")
        assert cell not in made.touches[0].seam


# Where a flame can be.


def aim(aims: tuple[Aim, ...], key: str) -> Aim:
    return next(one for one in aims if one.key == key)


def test_a_flame_takes_by_where_it_is() -> None:
    made = body(posts(3), "base", "post", making=("foot",)).network
    aims = aims_of(made, SMALL)
    base, post = made.cells("base"), made.cells("post#1")

    def mean(one: Aim, cells: Any) -> float:
        return float(one.share_m2[cells].sum() / made.above_m2[cells].sum())

    assert mean(aim(aims, "part:post#1:above"), post) > mean(aim(aims, "circle::above"), post)
    assert mean(aim(aims, "beyond:base:above"), base) < mean(aim(aims, "far:base:above"), base)
    brushed, circled = aim(aims, "brush::above").share_m2, aim(aims, "circle::above").share_m2
    assert brushed == pytest.approx(circled / 4)
    assert all(
        (one.share_m2 >= 0).all() and (one.share_m2 <= made.above_m2 * (1 + 1e-9)).all() for one in aims
    )


def test_beside_a_place_is_on_the_heavier_part() -> None:
    """In turn, on the plate beside each post: the plate takes more of that flame, for what the post takes, than on the seam."""
    made = body(posts(3), "base", "post", making=("foot",)).network
    aims = aims_of(made, SMALL)
    on, beside = aim(aims, "each:foot:above"), aim(aims, "beside:foot:above")
    assert (
        [place for place, _ in on.places]
        == [place for place, _ in beside.places]
        == ["foot#1", "foot#2", "foot#3"]
    )
    base = made.cells("base")
    for n, (_, share) in enumerate(beside.places):
        post = made.cells(f"post#{n + 1}")
        seam = on.places[n][1]
        assert share[base].sum() / share[post].sum() > seam[base].sum() / seam[post].sum()


def test_from_below_only_what_lies_lowest_is_seen() -> None:
    made = body(posts(1), "base", "post", making=("foot",), surface="mesh-tripod").network
    below = [one for one in aims_of(made, SMALL, ("below",)) if one.kind == "circle"]
    assert len(below) == 1
    assert below[0].share_m2[made.cells("base")].sum() > 0
    assert below[0].share_m2[made.cells("post")].sum() == 0


# What is gathered to be heated.


@settings(max_examples=60, deadline=None)
@given(thick=st.floats(0.3, 4), length=st.floats(20, 5000))
def test_a_coil_holds_the_wire(thick: float, length: float) -> None:
    """A ring of diameter D and thickness D/5 of the wire's volume, wound at least one and a half times round."""
    volume = math.pi * thick**2 / 4 * length
    form = Wire(kind="wire", profile=Round(kind="round", diameter_mm=thick), length_mm=length)
    coil = gathered("coil", form, volume)
    if coil is None:
        return
    across = coil.across_mm
    assert math.pi * across * math.pi * (across / 5) ** 2 / 4 == pytest.approx(volume)
    assert length >= max(150, 1.5 * math.pi * across)


@pytest.mark.parametrize(
    ("form", "coiled"),
    [
        (Wire(kind="wire", profile=Round(kind="round", diameter_mm=1), length_mm=1000), True),
        (Wire(kind="wire", profile=Round(kind="round", diameter_mm=1), length_mm=140), False),
        (Wire(kind="wire", profile=Round(kind="round", diameter_mm=1), length_mm=1000, closed=True), False),
        (Wire(kind="wire", profile=Round(kind="round", diameter_mm=12), length_mm=200), False),
        (Strip(kind="strip", width_mm=4, thickness_mm=0.4, length_mm=600), True),
        (Sheet(kind="sheet", thickness_mm=1, outline=Disc(kind="disc", diameter_mm=40)), False),
    ],
)
def test_what_is_long_is_wound(form: Any, coiled: bool) -> None:
    volume = (
        1000.0 if not isinstance(form, Wire) else form.profile.diameter_mm**2 * math.pi / 4 * form.length_mm
    )
    assert (gathered("coil", form, volume) is not None) == coiled
    charge = gathered("charge", form, volume)
    assert charge is not None
    assert math.pi / 6 * charge.across_mm**3 == pytest.approx(volume)


def long_wire(mm: float, work: str, **more: Any) -> Piece:
    made = wire("w")
    made["form"]["length_mm"] = mm
    return piece([made], [], work=[{"id": "it", "kind": work, "parts": ["w"], **more}])


def test_a_coil_keeps_its_metal_and_shows_less() -> None:
    made = long_wire(2000, "anneal")
    straight, coil = body(made, "w").network, body(made, "w", how="coil").network
    assert coil.capacity_j_k.sum() == pytest.approx(straight.capacity_j_k.sum())
    assert coil.surface_m2.sum() < straight.surface_m2.sum()
    assert np.ptp(coil.x_mm) < 40 < np.ptp(straight.x_mm)
    assert (coil.drawn_x_mm == straight.drawn_x_mm).all()


def test_long_wire_is_annealed_in_a_coil_and_longer_wire_takes_longer() -> None:
    told = [rehearse_heat(long_wire(mm, "anneal"), torch="propane-air-large") for mm in (1000, 2000)]
    assert all("coil" in one.says for one in told)
    assert all(not stage.marks for one in told for stage in one.programme)
    shorter, longer = (one.seconds_to_flow for one in told)
    assert shorter is not None
    assert longer is not None
    assert 1.2 < longer.likely / shorter.likely < 2.5
    short = rehearse_heat(long_wire(60, "anneal"), torch="propane-air-large")
    assert "coil" not in short.says


def test_a_charge_melts_when_it_has_its_heat() -> None:
    """Not sooner than half the face of its ball, in the middle of the flame, can take what it needs to melt."""
    made = long_wire(2000, "pour", mass_g=16.0)
    told = rehearse_heat(made, torch="oxy-propane-rosebud")
    assert told.purpose == "melt"
    assert told.seconds_to_flow is not None
    assert "one charge" in told.says
    mass = math.pi / 4 * 2000 * STERLING.density_g_cm3 / 1e6
    needs = mass * (STERLING.specific_heat_j_kgk * (STERLING.liquidus_c - 20) + STERLING.latent_kj_kg * 1000)
    torch = torches()["oxy-propane-rosebud"]
    face = math.pi / 2 * (6 * math.pi / 4 * 2000 / math.pi) ** (2 / 3) * 1e-6
    most_w = min(torch.heat_w / 2, face * torch.film_w_m2k * (torch.gas_temp_c - 20))
    assert needs / most_w < told.seconds_to_flow.likely < 6 * needs / most_w


# Programmes beside the full rehearsal, and how they are weighed.


def asked_for(made: Piece, torch: Any = SMALL, reach_c: float = 711.0) -> HeatSetup:
    network = body(made, "base", "post", making=("foot",), cells=90).network
    goals = tuple(Goal(touch.place, touch.seam, reach_c) for touch in network.touches)
    limits = tuple(Limit(node, "part", network.cells(node), 802.0) for node in network.nodes)
    return HeatSetup(network, torch, goals, limits, fluxes()["white-paste"])


@pytest.mark.parametrize("setting", [5, 7])
@pytest.mark.parametrize("key", ["circle::above", "near:base:above"])
def test_side_by_side_is_as_alone(setting: int, key: str) -> None:
    """The simpler march, in even steps and with flux as good as glassy, is within a tenth of the full rehearsal."""
    setup = asked_for(posts(1), LARGE)
    aims = aims_of(setup.network, LARGE)
    number = next(n for n, one in enumerate(aims) if one.key == key)
    one = Programme((number,), (setting,), (0.0,))
    tried = Trials(replace(setup, limits=()), aims, 120.0, 0.0).march([one])[0]
    alone = run(replace(setup, limits=()), (Stage(aims[number], float(SETTINGS[setting]), None),), 120.0, 0.0)
    assert alone.done_s is not None
    assert tried.done_s == pytest.approx(alone.done_s, rel=0.1, abs=0.3)


@pytest.mark.long
def test_the_same_search_finds_the_same() -> None:
    setup = asked_for(posts(2))
    aims = aims_of(setup.network, SMALL)
    plain = run(setup, (Stage(aims[0], 1.0, None),), 120.0, 5.0)
    found = [best_programme(setup, aims, (setup, aims), plain, 60.0, 5.0, generations=3) for _ in range(2)]
    told = [[(stage.aim.key, stage.setting, stage.seconds) for stage in one.stages] for one in found]
    assert told[0] == told[1]
    assert found[0].trace.t_c.tobytes() == found[1].trace.t_c.tobytes()
    assert rank_of(found[0], 5.0) <= rank_of(plain, 5.0)


def judged(works: bool, done_s: float | None, margin_c: float, short_c: float, stages: int) -> Found:
    nothing = Aim("circle", None, "above", np.zeros((1, 2)), np.zeros(1))
    trace = Trace(np.zeros(1), np.zeros((1, 1)), [], {}, None, Energy(), 0.0, np.zeros((1, 1)), [])
    return Found((Stage(nothing, 1.0, None),) * stages, trace, done_s, margin_c, short_c, short_c, works)


@pytest.mark.parametrize(
    ("better", "worse"),
    [
        ((True, 30.0, 6.0, 0.0, 2), (True, 32.0, 20.0, 0.0, 1)),
        ((True, 30.4, 6.0, 0.0, 1), (True, 30.0, 6.0, 0.0, 2)),
        ((True, 200.0, 6.0, 0.0, 6), (False, 10.0, 4.0, 0.0, 1)),
        ((False, 40.0, 4.0, 0.0, 1), (False, 10.0, 2.0, 0.0, 1)),
        ((False, 40.0, 3.5, 0.0, 1), (False, 40.0, 4.0, 0.0, 2)),
        ((False, 40.0, 0.5, 0.0, 6), (False, 40.0, -1.0, 0.0, 1)),
        ((False, None, 50.0, 10.0, 1), (False, None, 50.0, 20.0, 1)),
        ((False, None, 50.0, 30.0, 1), (False, 40.0, -30.0, 0.0, 1)),
    ],
)
def test_how_programmes_are_weighed(better: Any, worse: Any) -> None:
    """What works before what is tight before what fails; then time, degrees and words."""
    assert rank_of(judged(*better), 5.0) < rank_of(judged(*worse), 5.0)

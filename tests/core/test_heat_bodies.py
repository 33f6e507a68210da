"""From a piece to the body that is heated: what lies where, what touches what, where a flame can be, and what gathers."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.forms import Disc, Round, Sheet, Strip, Wire
from eskel_core.heat import (
    Body,
    Flame,
    March,
    Pointed,
    aims_of,
)
from eskel_core.heat._gathered import gathered
from eskel_core.metals import metals, surfaces, torches
from eskel_core.piece import Piece
from eskel_core.rehearsal import HeatRequest, rehearse_heat

from .heat_bodies import body, march_to, posts
from .pieces import join, piece, plate, wire

pytestmark = pytest.mark.long

SMALL, LARGE = torches()["propane-air-small"], torches()["propane-air-large"]
STERLING = metals()["sterling-925"]


@pytest.mark.parametrize("count", [1, 2, 5])
def test_every_one_of_several_alike_has_its_place(count: int) -> None:
    made = body(posts(count), "base", "post", making=("foot",))
    names = [touch.place for touch in made.network.touches]
    assert names == (["foot"] if count == 1 else [f"foot#{n + 1}" for n in range(count)])
    assert len(made.network.nodes) == 1 + count


def test_two_parts_meet_in_every_spot_that_is_told_and_share_the_contact() -> None:
    """A wire laid on a plate, soldered at both ends and in the middle: three places, a third of the contact each."""
    strip = wire("strip")
    tie = join("foot", "strip", "base", kind="line", contact_mm2=6.0)
    one = body(piece([plate("base"), strip], [tie]), "base", "strip", making=("foot",)).network
    three = tie | {"at": [[-8, 0], [0, 0], [8, 0]]}
    made = body(piece([plate("base"), strip], [three]), "base", "strip", making=("foot",)).network
    assert [touch.place for touch in made.touches] == ["foot#1", "foot#2", "foot#3"]
    assert sum(float(touch.area_m2.sum()) for touch in made.touches) == pytest.approx(6e-6, rel=1e-6)
    assert float(one.touches[0].area_m2.sum()) == pytest.approx(6e-6, rel=1e-6)
    assert all(len(touch.i) == 1 for touch in made.touches)
    at = [float(made.x_mm[touch.seam].mean()) for touch in made.touches]
    # The wire ends at 1.3 mm: the third spot is at its end.
    assert at[0] == pytest.approx(-8, abs=1)
    assert at[1] == pytest.approx(0, abs=1)
    assert at[2] > at[1]


HELD = {"own-weight": 0, "clipped": 2, "weighted": 1}


def held_body(holds: str) -> Body:
    tie = join("foot", "strip", "base", kind="line") | {"holds": holds}
    return body(piece([plate("base"), wire("strip")], [tie]), "base", "strip", making=("foot",))


@pytest.mark.parametrize(("holds", "sides"), HELD.items())
def test_a_clip_presses_on_both_parts_and_a_weight_on_the_upper_one(holds: str, sides: int) -> None:
    """Steel of its own, 0.006 W/K where it presses; no flame is aimed at it, and no part takes it for its own."""
    network = held_body(holds).network
    own = np.flatnonzero(network.node_of < 0)
    assert len(own) == (1 if sides else 0)
    assert len(network.cells("base")) + len(network.cells("strip")) + len(own) == len(network)
    if sides:
        pressed = network.conduction[own[0]].tocoo().col
        assert {network.nodes[network.node_of[n]] for n in pressed if n != own[0]} == (
            {"base", "strip"} if sides == 2 else {"strip"}
        )
        assert network.conduction[own[0], own[0]] == pytest.approx(0.006 * sides)
        assert np.abs(network.conduction.sum(axis=1)).max() < 1e-9
        film, _, _ = Pointed(network, SMALL).at(aims_of(network, SMALL, ("above",))[0])
        assert film[0][own[0]] == 0.0
        assert film[0][: own[0]].max() > 0.0


@pytest.mark.parametrize("holds", HELD)
def test_energy_closes_with_what_holds(holds: str) -> None:
    network = held_body(holds).network
    march = March(network, Flame(1650))
    march.aim(network.above_m2 * 420.0)
    march_to(march, 8.0)
    energy = march.energy
    left = energy.given - energy.lost - energy.sunk - march.stored_j(20.0)
    assert abs(left) <= 5e-4 * energy.given
    own = network.node_of < 0
    if own.any():
        assert 20.0 < march.t[own].min() < march.t[~own].min()


def test_a_clip_takes_longer_than_a_weight_and_both_longer_than_none() -> None:
    made = {}
    for holds in HELD:
        tie = join("foot", "strip", "base", kind="line") | {"holds": holds}
        told = rehearse_heat(
            piece([plate("base"), wire("strip")], [tie]),
            1,
            HeatRequest(torch="propane-air-small", habit="even"),
            with_cells=True,
        )
        assert told.seconds_to_flow is not None
        made[holds] = told.seconds_to_flow.likely
        assert told.cells is not None
        assert set(told.cells.node) == {"base", "strip"}
    # A clip presses on both sides, a weight on one.
    assert made["own-weight"] < made["weighted"] < made["clipped"]


@pytest.mark.parametrize("count", [2, 3, 4, 7])
def test_a_bundle_shows_the_flame_what_a_round_rod_would(count: int) -> None:
    """Wires fill some 0.7 of the round that they are bound to: of n that is the root of n/0.7 wires across."""
    rods = piece(
        [wire("rod", count=count)],
        [join("ends", *(f"rod#{n + 1}" for n in range(count)), kind="bundle")],
    )
    made = body(rods, "rod", making=("ends",)).network
    thick = 1.0
    round_mm = thick * math.sqrt(count / 0.7)
    assert made.across_mm == pytest.approx(np.full(len(made), round_mm))
    lone = body(piece([wire("rod")], []), "rod").network
    per_mm = [
        float(np.median(one.wash_m2)) * len(one) / rods_in for one, rods_in in ((made, count), (lone, 1))
    ]
    assert per_mm[0] / per_mm[1] == pytest.approx(min(1.0, round_mm / count), rel=0.02)
    # In rows upon each other, the lowest on the block.
    lying = made.node_of[made.ground]
    assert len(set(lying.tolist())) == math.ceil(math.sqrt(count))
    assert len(made.cells("rod#1")) * count == len(made)


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


def test_a_turned_over_body_rests_on_less() -> None:
    passes = {}
    for lies in ("front-up", "back-up", "on-edge"):
        made = body(posts(1), "base", "post", making=("foot",), lies=lies).network
        passes[lies] = float((made.ground_m2 * made.contact_w_m2k).sum())
    assert passes["front-up"] > passes["back-up"] > passes["on-edge"] > 0


def test_what_faces_the_block_glows_at_it_and_not_at_the_room() -> None:
    """A plate that lies on what is upon it looks at the block with all else of its face; over open air it loses to the room."""
    on_block = body(posts(1), "base", "post", making=("foot",), lies="back-up").network
    in_air = body(posts(1), "base", "post", making=("foot",), lies="back-up", surface="mesh-tripod").network
    shows = [float(one.surface_m2[one.cells("base")].sum()) for one in (on_block, in_air)]
    face = float(on_block.below_m2[on_block.cells("base")].sum())
    assert shows[0] < shows[1] - 0.5 * face
    # It rests on three tenths of its face by 120 W/m²K, and glows at the block with most of the rest by 60.
    plate_ = np.isin(on_block.ground, on_block.cells("base"))
    passes = np.unique(on_block.contact_w_m2k[plate_].round(6))
    assert passes == pytest.approx([0.3 * 120 + 0.7 * 60])
    on_edge = body(posts(1), "base", "post", making=("foot",), lies="on-edge").network
    assert on_edge.contact_w_m2k[np.isin(on_edge.ground, on_edge.cells("base"))] == pytest.approx(120)
    total = [float(one.surface_m2.sum() + one.ground_m2.sum()) for one in (on_block, in_air)]
    assert total[0] == pytest.approx(total[1], rel=0.02)


@pytest.mark.parametrize(
    ("holds", "across", "drawn_w_k"), [("hand", 0.85, 0.00385), ("hand", 4.0, 0.0075), ("seated", 0.85, 0)]
)
def test_tweezers_draw_heat_from_what_they_hold_as_far_as_they_touch_it(
    holds: str, across: float, drawn_w_k: float
) -> None:
    """A jaw of 0.006 W/K behind a dry line of 2 mm by a third of the wire: 0.0028 W/K of 0.85 mm, 0.01 where it lies flat."""
    pin = wire("post", across_mm=across, place={"x_mm": 0, "y_mm": 0, "z_mm": 1, "stands": "upright"})
    made = piece([plate("base"), pin], [join("foot", "post", "base") | {"holds": holds}])
    network = body(made, "base", "post", making=("foot",)).network
    assert sum(w_k for _, w_k in network.sinks) == pytest.approx(drawn_w_k, rel=0.01)
    for cell, _ in network.sinks:
        assert cell in network.cells("post")
        assert cell not in network.touches[0].seam


@pytest.mark.parametrize("other", [None, "base"], ids=["its own seam", "on a plate"])
def test_tweezers_hold_a_ring_opposite_the_seam(other: str | None) -> None:
    """Both ends of a ring's line are at its own seam: what holds it there would keep the seam cold while the rest slumps."""
    ring = wire("ring", place={"x_mm": 13.2, "y_mm": 0})
    ring["form"] |= {"closed": True}
    between = ("ring", other or "ring")
    made = piece([plate("base"), ring], [join("seam", *between) | {"kind": "butt", "holds": "hand"}])
    network = body(made, *set(between), making=("seam",)).network
    mine = network.cells("ring")
    seam = np.intersect1d(network.touches[0].seam, mine)
    far = np.hypot(
        network.x_mm[mine, None] - network.x_mm[seam], network.y_mm[mine, None] - network.y_mm[seam]
    ).min(axis=1)
    ((held, _),) = network.sinks
    assert held in mine
    assert far[list(mine).index(held)] == pytest.approx(far.max(), rel=0.02)


@pytest.mark.parametrize("surface", surfaces())
def test_a_grip_is_away_from_the_join(surface: str) -> None:
    made = body(posts(1), "base", "post", making=("foot",), surface=surface).network
    drawn_w_k = surfaces()[surface].sink_w_k
    assert [w_k for _, w_k in made.sinks] == ([drawn_w_k] if drawn_w_k > 0 else [])
    for cell, _ in made.sinks:
        assert cell in made.cells("base")
        assert cell not in made.touches[0].seam


# Where a flame can be.


# Thin things in a flame.


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
    told = [
        rehearse_heat(long_wire(mm, "anneal"), 1, HeatRequest(torch="propane-air-large", habit="even"))
        for mm in (1000, 2000)
    ]
    assert all("coil" in one.says for one in told)
    assert all(not stage.marks for one in told for stage in one.programme)
    shorter, longer = (one.seconds_to_flow for one in told)
    assert shorter is not None
    assert longer is not None
    assert 1.2 < longer.likely / shorter.likely < 2.5
    short = rehearse_heat(long_wire(60, "anneal"), 1, HeatRequest(torch="propane-air-large"))
    assert "coil" not in short.says


def test_a_charge_melts_when_it_has_its_heat() -> None:
    """Not sooner than half the face of its ball, in the middle of the flame, can take what it needs to melt."""
    made = long_wire(2000, "pour", mass_g=16.0)
    told = rehearse_heat(made, 1, HeatRequest(torch="oxy-propane-rosebud"))
    assert told.purpose == "melt"
    assert told.seconds_to_flow is not None
    assert "one charge" in told.says
    mass = math.pi / 4 * 2000 * STERLING.density_g_cm3 / 1e6
    needs = mass * (STERLING.specific_heat_j_kgk * (STERLING.liquidus_c - 20) + STERLING.latent_kj_kg * 1000)
    torch = torches()["oxy-propane-rosebud"]
    face = math.pi / 2 * (6 * math.pi / 4 * 2000 / math.pi) ** (2 / 3) * 1e-6
    most_w = min(torch.heat_w / 2, face * torch.film_w_m2k * (torch.gas_temp_c - 20))
    assert needs / most_w < told.seconds_to_flow.likely < 6 * needs / most_w


def ring_on_plate(stands: str) -> Piece:
    """A ring of 1 mm wire, 63 mm long, seated on the back of a plate that is lighter than nothing else."""
    ring = wire("ring", place={"stands": stands, "z_mm": 0})
    ring["form"] |= {"length_mm": 62.83, "closed": True}
    made = [ring, plate("base", place={"z_mm": 21})]
    return piece(made, [join("seat", "ring", "base", kind="seat", face="back")])


def test_a_ring_that_stands_on_its_rim_stands_in_the_model_too() -> None:
    network = body(ring_on_plate("upright"), "ring", "base", making=("seat",)).network
    ring = np.flatnonzero(network.node_of == network.nodes.index("ring"))
    assert np.ptp(network.z_mm[ring]) == pytest.approx(20, abs=0.5)
    assert np.ptp(network.drawn_x_mm[ring]) == pytest.approx(20, abs=1.2)
    assert np.ptp(network.drawn_y_mm[ring]) == pytest.approx(0, abs=1e-6)


def test_a_ring_on_its_rim_touches_at_one_place_and_a_lying_one_all_round() -> None:
    """Filed to sit by a tenth of its thickness, a ring 21 mm wide has a flat 2·√(21 · 0.1) = 2.9 mm long and 1 mm wide."""
    areas = {
        stands: sum(float(touch.area_m2.sum()) for touch in made.network.touches) * 1e6
        for stands in ("upright", "flat")
        for made in [body(ring_on_plate(stands), "ring", "base", making=("seat",))]
    }
    assert areas["upright"] == pytest.approx(2.9, abs=0.1)
    assert areas["flat"] == pytest.approx(62.83 / 3, rel=0.01)


def test_a_dome_that_is_heavier_than_its_back_still_lies_on_it() -> None:
    """The flame from above sees the dome; the back under it is shaded, however light it is."""
    front = {
        "kind": "sheet",
        "thickness_mm": 0.5,
        "outline": {"kind": "disc", "diameter_mm": 14},
        "domed_mm": 3.5,
    }
    back = {"kind": "sheet", "thickness_mm": 0.5, "outline": {"kind": "disc", "diameter_mm": 12.1}}
    parts = [
        {"id": name, "metal": "sterling-925", "form": form}
        for name, form in (("front", front), ("back", back))
    ]
    made = piece(parts, [join("rim", "front", "back", kind="edge")])
    network = body(made, "front", "back", making=("rim",)).network
    seen = {node: network.above_m2[network.node_of == n].sum() for n, node in enumerate(network.nodes)}
    assert seen["back"] < 0.2 * seen["front"]


def test_a_strip_lapped_over_itself_is_joined_where_its_laps_lie() -> None:
    """Four millimetres of lap on a strip 5 mm wide: 20 mm², and not the whole face of the strip."""
    form = {"kind": "strip", "width_mm": 5, "thickness_mm": 0.8, "length_mm": 20}
    bail = {"id": "bail", "metal": "sterling-925", "form": form}
    made = piece([bail], [{"id": "lap", "kind": "overlay", "between": ["bail", "bail"]}])
    touch = body(made, "bail", making=("lap",)).network.touches[0]
    assert float(touch.area_m2.sum()) * 1e6 == pytest.approx(20)

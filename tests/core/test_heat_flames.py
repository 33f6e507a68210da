"""What a flame reaches of a body as it lies, from where it points, and its film."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest

from eskel_core.heat import (
    Aim,
    Pointed,
    aims_of,
    gas_speed_m_s,
    washed_film_w_m2k,
)
from eskel_core.heat._shown import shown_m2
from eskel_core.heat._wash import layer_mm, thinness
from eskel_core.metals import torches
from eskel_core.plan import plan
from eskel_core.rehearsal import HeatRequest
from eskel_core.rehearsal._facts import facts_of, tools_of
from eskel_core.rehearsal._scene import scene_of

from .heat_bodies import body, posts
from .pieces import join, piece, plate, wire

SMALL, LARGE = torches()["propane-air-small"], torches()["propane-air-large"]


def taken(made: Any, one: Aim, place: int = -1) -> Any:
    """What each cell takes from a flame in the middle hand, W/K."""
    return Pointed(made, SMALL).at(one, place)[0][0]


def test_bodies_that_nothing_ties_together_feel_no_common_flame() -> None:
    made = body(piece([plate("base"), wire("w")], []), "base", "w").network
    at = taken(made, next(aim for aim in aims_of(made, SMALL) if aim.key == "part:w:above"))
    assert at[made.cells("w")].max() > 0
    assert at[made.cells("base")].max() == 0
    assert np.ptp(made.drawn_x_mm) < 100 < np.ptp(made.x_mm)


@pytest.mark.parametrize("across", [0.6, 1.0, 2.5])
def test_wire_that_lies_along_sheet_is_in_part_within_the_sheets_own_layer(across: float) -> None:
    """The layer of a round jet on a face, 1.95·√(ν·D/U): Schlichting, stagnation flow. 1.0 mm under the large tip."""
    assert layer_mm(LARGE) == pytest.approx(1.0, abs=0.05)
    shown = {}
    for kind in ("line", "tee"):
        made = piece(
            [
                plate("base", place={"x_mm": 0, "y_mm": 0}),
                wire("border", across_mm=across, place={"x_mm": 0, "y_mm": 0, "z_mm": 1}),
            ],
            [join("along", "border", "base", kind=kind)],
        )
        network = body(made, "base", "border", making=("along",)).network
        cells = network.cells("border")
        assert network.along[cells].all() == (kind == "line")
        shown[kind] = shown_m2(network, LARGE, "above")[1][cells].sum() / network.above_m2[cells].sum()
    washed = (shown["line"] - 1) / (shown["tee"] - 1)
    # The join hides a little more of what it ties along its length.
    assert washed == pytest.approx(max(0.0, 1 - layer_mm(LARGE) / across), abs=0.1)


def aim(aims: tuple[Aim, ...], key: str) -> Aim:
    return next(one for one in aims if one.key == key)


def test_a_flame_takes_by_where_it_is() -> None:
    made = body(posts(3), "base", "post", making=("foot",)).network
    aims = aims_of(made, SMALL)
    base, post = made.cells("base"), made.cells("post#1")

    def mean(one: Aim, cells: Any) -> float:
        return float(taken(made, one)[cells].sum())

    assert mean(aim(aims, "part:post#1:above"), post) > mean(aim(aims, "circle::above"), post)
    assert mean(aim(aims, "beyond:base:above"), base) < mean(aim(aims, "far:base:above"), base)
    brushed, circled = (taken(made, aim(aims, key)) for key in ("brush::above", "circle::above"))
    assert brushed == pytest.approx(circled / 4)
    better = washed_film_w_m2k(1.0, SMALL, ball=False)
    for one in aims:
        assert (taken(made, one) >= 0).all()
        assert (taken(made, one)[base] <= made.above_m2[base] * SMALL.film_w_m2k * (1 + 1e-9)).all()
        assert (taken(made, one)[post] <= made.wash_m2[post] * better * (1 + 1e-9)).all()


def test_beside_a_place_is_on_the_heavier_part() -> None:
    """In turn, on the plate beside each post: the plate takes more of that flame, for what the post takes, than on the seam."""
    made = body(posts(3), "base", "post", making=("foot",)).network
    aims = aims_of(made, SMALL)
    on, beside = aim(aims, "each:foot:above"), aim(aims, "beside:foot:above")
    names = ["foot#1", "foot#2", "foot#3"]
    assert [place for place, _, _ in on.places] == [place for place, _, _ in beside.places] == names
    base = made.cells("base")
    for n in range(3):
        post = made.cells(f"post#{n + 1}")
        at, seam = taken(made, beside, n), taken(made, on, n)
        assert at[base].sum() / at[post].sum() > seam[base].sum() / seam[post].sum()


def test_from_below_what_lies_lowest_is_seen_and_the_rest_is_in_its_lee() -> None:
    made = body(posts(1), "base", "post", making=("foot",), surface="mesh-tripod").network
    below = [one for one in aims_of(made, SMALL, ("below",)) if one.kind == "circle"]
    assert len(below) == 1
    film = taken(made, below[0]) / made.surface_m2
    assert film[made.cells("post")].max() < 0.5 * film[made.cells("base")].min()
    assert not any(one.about == "post" and one.kind == "part" for one in aims_of(made, SMALL, ("below",)))


@pytest.mark.parametrize(
    ("across_mm", "surface", "least", "most"),
    [
        (6, "mesh-tripod", 0.4, 0.6),  # 0.6 of its face, at its middle three tenths of a footprint within
        (14, "mesh-tripod", 0.3, 0.5),
        (60, "mesh-tripod", 0.0, 0.15),  # what is wide beside the flame has none at its middle
        (6, "charcoal", 0.0, 0.0),
    ],
)
def test_gas_gets_round_what_is_small_beside_the_flame(
    across_mm: float, surface: str, least: float, most: float
) -> None:
    """A cylinder's lee takes 0.057·Re^(2/3) beside the 0.37·Re^(1/2) of its face (Richardson 1963): 0.6 at this torch's Re."""
    base = plate("base")
    base["form"]["outline"] = {"kind": "disc", "diameter_mm": across_mm}
    network = body(piece([base], []), "base", surface=surface).network
    reached, _ = shown_m2(network, SMALL, "above")
    share = reached.sum() / network.above_m2.sum() - 1
    assert least - 1e-9 <= share <= most
    if share > 0:
        middle = np.hypot(network.x_mm - network.x_mm.mean(), network.y_mm - network.y_mm.mean()).argmin()
        assert reached[middle] / network.above_m2[middle] == (reached / network.above_m2).min()


def test_a_part_that_hangs_beneath_takes_nothing_from_above() -> None:
    """A plate turned over with a post on its front: the flame is on its back, and none is pointed at the post."""
    made = body(posts(1), "base", "post", making=("foot",), lies="back-up").network
    aims = aims_of(made, SMALL)
    assert not any(one.about == "post" for one in aims)
    circle = taken(made, aim(aims, "circle::above"))
    assert circle[made.cells("post")].max() == 0
    assert circle[made.cells("base")].max() > 0


@pytest.mark.parametrize("thickness", [0.3, 5.0])
@pytest.mark.parametrize(
    ("face", "lies", "bare"),
    [("front", "back-up", True), ("back", "front-up", True), ("front", "front-up", False)],
)
def test_what_hangs_beneath_covers_nothing_of_the_face_above(
    face: str, lies: Any, bare: bool, thickness: float
) -> None:
    """A disc of 12 on a plate of 20 × 20, lighter or heavier than that: turned over, the plate shows its whole back."""

    def at(height: float) -> dict[str, float]:
        return {"x_mm": 0.0, "y_mm": 0.0, "z_mm": height}

    disc = {"kind": "sheet", "thickness_mm": thickness, "outline": {"kind": "disc", "diameter_mm": 12}}
    upon = {
        "id": "upon",
        "metal": "sterling-925",
        "form": disc,
        "place": at(1.0 if face == "front" else -thickness),
    }
    tie = join("on", "upon", "base", kind="overlay", face=face)
    made = piece([plate("base", place=at(0.0)), upon], [tie])
    network = body(made, "base", "upon", making=("on",), lies=lies).network
    shown = 1e6 * float(network.above_m2[network.cells("base")].sum())
    if bare:
        assert shown == pytest.approx(400, rel=0.01)
        assert network.above_m2[network.cells("upon")].sum() == 0
    else:
        assert shown == pytest.approx(400 - math.pi * 36, rel=0.15)


def test_a_plate_covers_no_more_than_what_it_lies_on() -> None:
    """Half of a disc of 12 hangs over the edge of a plate of 20 × 20: as much of that as the cells at its edge can tell."""
    disc = {"kind": "sheet", "thickness_mm": 0.5, "outline": {"kind": "disc", "diameter_mm": 12}}
    upon = {"id": "upon", "metal": "sterling-925", "form": disc, "place": {"x_mm": 10, "y_mm": 0, "z_mm": 1}}
    base = plate("base", place={"x_mm": 0, "y_mm": 0, "z_mm": 0})
    tie = join("on", "upon", "base", kind="overlay", contact_mm2=1.0)
    network = body(piece([base, upon], [tie]), "base", "upon", making=("on",)).network
    shown = 1e6 * float(network.above_m2[network.cells("base")].sum())
    assert shown == pytest.approx(400 - math.pi * 36 / 2, rel=0.1)


@pytest.mark.parametrize("brought", [False, True])
def test_a_light_part_that_is_brought_in_is_not_aimed_at_before(brought: bool) -> None:
    ties = [join("foot", "post", "base", holds="hand")]
    made = piece([plate("base"), wire("post")], ties)
    facts, tools = facts_of(made, plan(made), 1), tools_of(made, None, "propane-air-small", None)
    scene = scene_of(made, facts, tools, HeatRequest(), brought=brought)
    assert any(one.about == "post" for one in scene.fine.aims) is not brought


def test_a_part_that_stands_up_is_washed_as_far_as_the_flame_reaches() -> None:
    """With the flame on the plate at its foot a post takes less the higher: as the footprint's bell has it."""
    made = body(posts(1), "base", "post", making=("foot",)).network
    aims = aims_of(made, SMALL)
    post = made.cells("post")
    at = taken(made, aim(aims, "join:foot:above"))[post] / np.maximum(made.wash_m2[post], 1e-12)
    height = made.z_mm[post]
    inner = (height > 1) & (height < 15)
    slope = np.polyfit(height[inner] ** 2, np.log(at[inner]), 1)[0]
    assert slope == pytest.approx(-1 / SMALL.footprint_mm**2, rel=0.1)


def test_the_speed_of_a_flame_is_that_of_its_burnt_gas() -> None:
    """1.4 kW of butane, 46 MJ/kg, burns 30 mg/s to 0.51 g/s of gas, at 1,600 °C 0.18 kg/m³, through a disc of 12 mm."""
    speed = gas_speed_m_s(torches()["butane-kitchen"])
    assert speed == pytest.approx(0.51e-3 / 0.182 / (math.pi * 0.006**2), rel=0.03)
    for torch in torches().values():
        assert 15 < gas_speed_m_s(torch) < 80


def test_the_film_of_thin_wire_is_that_of_a_cylinder() -> None:
    """1 mm in gas at 1,150 °C, 24.5 m/s: Re = 24.5·0.001/2.06e-4 = 119, Nu = 5.8, k = 0.087 W/mK."""
    film = washed_film_w_m2k(1.0, torches()["butane-kitchen"], ball=False)
    assert film == pytest.approx(5.8 * 0.087 / 0.001, rel=0.05)
    assert washed_film_w_m2k(6.0, torches()["butane-kitchen"], ball=False) == 420


def stagnation_w_m2k(name: str, flames: int = 1) -> float:
    """The film in the middle of a round jet on a face: Nu = 0.763·Re^0.5·Pr^0.4 (Sibulkin 1952), of one of so many flames."""
    torch = torches()[name]
    kelvin = (torch.gas_temp_c + 700) / 2 + 273
    viscosity = 1.716e-5 * (kelvin / 273) ** 1.5 * 384 / (kelvin + 111) / (353 / kelvin)
    conductivity = 0.0241 * (kelvin / 273) ** 0.8
    wide = 2 * torch.footprint_mm / 1000 / math.sqrt(flames)
    return 0.763 * math.sqrt(gas_speed_m_s(torch) * wide / viscosity) * 0.7**0.4 * conductivity / wide


@pytest.mark.parametrize(
    ("small", "others"),
    [
        (
            "propane-air-small",
            {"propane-air-large": 1, "acetylene-air-small": 1, "acetylene-air-large": 1},
        ),
        ("oxy-propane-fine", {"oxy-propane-medium": 1, "oxy-propane-rosebud": 7}),
    ],
)
def test_the_film_of_a_larger_tip_follows_from_its_smaller_one(small: str, others: dict[str, int]) -> None:
    """Flames with air, and with oxygen, are each by one factor better than still gas would be: turbulence and recombination."""
    factor = torches()[small].film_w_m2k / stagnation_w_m2k(small)
    assert 1.5 < factor < 3
    for name, flames in others.items():
        assert torches()[name].film_w_m2k == pytest.approx(factor * stagnation_w_m2k(name, flames), rel=0.02)


@pytest.mark.parametrize(("across", "shows"), [(1.0, 1.0), (3.9, 1.0), (6.1, 0.0), (20.0, 0.0)])
def test_what_is_narrower_than_a_third_of_the_footprint_is_thin(across: float, shows: float) -> None:
    assert thinness(across, torches()["butane-kitchen"]) == shows

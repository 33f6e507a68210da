"""How long the work and what it lay on stay too hot to touch: against closed forms, and against what a bench knows."""

from __future__ import annotations

import math

import pytest

from eskel_core.cooling import TOUCH_C, block_touch_s, body_touch_s
from eskel_core.metals import metals, surfaces
from eskel_core.plan import CoolStep, plan
from tests.core.pieces import join, piece, plate, wire

ROOM_C = 20.0


@pytest.mark.parametrize(("from_c", "wire_mm", "film"), [(700, None, 12), (400, None, 12), (700, 1.0, 45)])
def test_without_radiation_a_body_cools_as_an_exponential(
    from_c: float, wire_mm: float | None, film: float
) -> None:
    """C/(h·A)·ln((T − room)/(48 − room)); a wire of 1 mm loses 12 + 0.033/0.001 W/m²K."""
    found = body_touch_s(2.0, 0.001, from_c, emissivity=0, wire_mm=wire_mm)
    assert found == pytest.approx(
        2.0 / (film * 0.001) * math.log((from_c - ROOM_C) / (TOUCH_C - ROOM_C)), rel=0.01
    )


def test_by_radiation_too_a_body_cools_sooner_and_one_that_is_cool_needs_no_time() -> None:
    assert body_touch_s(2.0, 0.001, 700, emissivity=0.5) < body_touch_s(2.0, 0.001, 700, emissivity=0)
    assert body_touch_s(2.0, 0.001, 40, emissivity=0.5) == 0


@pytest.mark.parametrize(("held_c", "held_s"), [(650, 60), (750, 20)])
def test_a_block_that_loses_next_to_nothing_forgets_by_its_closed_form(held_c: float, held_s: float) -> None:
    """(2/π)·asin√(held/(held + t)) of its rise, where what it loses is nothing beside what it holds (a huge effusivity)."""
    share = (TOUCH_C - ROOM_C) / (held_c - ROOM_C)
    exact = held_s * (1 / math.sin(math.pi / 2 * share) ** 2 - 1)
    assert block_touch_s(1e7, held_c, held_s) == pytest.approx(exact, rel=0.08)


# What a bench knows: charcoal and brick are touched after some minutes, a board after a quarter of an hour.
@pytest.mark.parametrize(
    ("surface", "least", "most"),
    [("charcoal", 3, 8), ("soft-firebrick", 6, 13), ("ceramic-board", 10, 20), ("pumice-pan", 8, 16)],
)
def test_a_block_after_a_minute_under_the_flame(surface: str, least: float, most: float) -> None:
    minutes = block_touch_s(surfaces()[surface].effusivity_w_s05_m2k, 730, 60) / 60
    assert least < minutes < most


def test_longer_hotter_and_denser_is_hot_for_longer_and_a_mesh_is_no_block() -> None:
    usual = block_touch_s(300, 700, 60)
    assert block_touch_s(300, 700, 240) > 1.5 * usual
    assert block_touch_s(300, 800, 60) > usual
    assert block_touch_s(450, 700, 60) > usual
    assert block_touch_s(0, 700, 60) == 0


def rod(across_mm: float, metal: str = "copper") -> list[CoolStep]:
    made = plan(
        piece(
            [wire("rod", metal, across_mm=across_mm)],
            [{"id": "seam", "kind": "butt", "between": ["rod", "rod"]}],
            house={"cooling": "air-cool"},
        )
    )
    return [step for step in made.steps if isinstance(step, CoolStep)]


def test_in_air_thick_copper_stays_hot_for_longer_than_thin() -> None:
    """The thin wire is cold before one has put the torch down, the rod only after half an hour."""
    [thin], [thick] = rod(1.0), rod(8.0)
    assert thin.minutes == max(1.0, thin.touch_minutes)
    assert thin.minutes < 5
    assert 20 < thick.minutes < 60
    assert thick.minutes == thick.touch_minutes


def test_out_of_the_water_it_can_be_touched_but_the_block_cannot() -> None:
    made = plan(
        piece(
            [plate("base"), wire("post")],
            [join("foot", "post", "base")],
            house={"cooling": "quench-when-black"},
        )
    )
    [cool] = [step for step in made.steps if isinstance(step, CoolStep)]
    assert (cool.minutes, cool.touch_minutes) == (1.0, 0.0)
    assert cool.block_minutes > 3


def test_after_two_heats_on_it_the_block_is_hot_for_longer_than_after_one() -> None:
    def cooled(*joins: dict[str, object]) -> CoolStep:
        parts = [plate("base"), wire("post"), plate("other"), wire("pin")]
        [cool] = [step for step in plan(piece(parts, list(joins))).steps if isinstance(step, CoolStep)]
        return cool

    first, second = join("foot", "post", "base"), join("side", "pin", "other")
    both = cooled(first, second)
    assert len(both.heats) == 2
    assert both.block_minutes > 1.2 * cooled(first).block_minutes


def test_on_a_mesh_there_is_no_block_and_both_sides_cool() -> None:
    def cool_on(surface: str) -> CoolStep:
        made = plan(
            piece(
                [plate("base"), wire("post")],
                [join("foot", "post", "base")],
                house={"cooling": "air-cool"},
                bench={"surface": surface, "solders": ["us-hard"]},
            )
        )
        return next(step for step in made.steps if isinstance(step, CoolStep))

    mesh, block = cool_on("mesh-tripod"), cool_on("charcoal")
    assert mesh.block_minutes == 0
    assert mesh.touch_minutes < 0.7 * block.touch_minutes


def test_every_metal_cools() -> None:
    for metal in metals().values():
        assert 0 < body_touch_s(1.0, 0.001, metal.solidus_c - 20, emissivity=metal.emissivity_heated) < 3600

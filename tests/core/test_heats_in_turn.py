"""Heats one after another: bodies alike each in its turn, and what follows straight upon a heat, on the block that it warmed."""

from __future__ import annotations

import math

import pytest

from eskel_core.piece import Piece
from eskel_core.plan import plan
from eskel_core.rehearsal import HeatRequest, read_rehearsal, rehearse_heat, use
from eskel_core.rehearsal._facts import facts_of
from eskel_core.rehearsal._use import _straight_upon

from .pieces import join, piece, plate, wire

pytestmark = pytest.mark.long


def links(count: int, surface: str = "charcoal") -> Piece:
    """So many links to be closed."""
    form = {
        "kind": "wire",
        "profile": {"kind": "round", "diameter_mm": 1.2},
        "length_mm": 25,
        "closed": True,
    }
    link = {"id": "link", "metal": "sterling-925", "count": count, "form": form}
    bench = {"solders": ["us-hard"], "surface": surface, "torch": "butane-kitchen"}
    return piece([link], [join("close", "link", "link", kind="butt", holds="seated")], bench=bench)


@pytest.mark.parametrize("surface", ["charcoal", "mesh-tripod"])
def test_bodies_alike_are_done_in_their_turn_and_the_next_on_the_warm_block(surface: str) -> None:
    one, six = (
        rehearse_heat(links(count, surface), 1, HeatRequest(habit="even", setting=0.4)) for count in (1, 6)
    )
    assert (one.bodies, six.bodies) == (1, 6)
    assert (six.hands.well, six.hands.short) == (one.hands.well, one.hands.short)
    assert one.next_ones is None
    assert "six alike, each in its turn" in six.says
    if surface == "mesh-tripod":
        # There is nothing that keeps warm.
        assert six.next_ones is None
        assert not any(six.block_k)
        return
    assert six.next_ones is not None
    assert six.next_ones.seconds is not None
    assert six.seconds_to_flow is not None
    assert six.next_ones.seconds.likely < six.seconds_to_flow.likely
    assert sum(six.block_k) > 5.0


def test_what_is_tied_is_one_body_and_what_is_unlike_is_laid_apart() -> None:
    two = piece([plate("base"), wire("post", count=2)], [join("foot", "post", "base")])
    assert facts_of(two, plan(two), 1).bodies == 1
    unlike = piece([wire("a"), wire("b", count=2)], [join("one", "a", "b#1", kind="butt")])
    assert facts_of(unlike, plan(unlike), 1).bodies == 1


def test_a_heat_that_follows_straight_upon_another_finds_its_block_warm() -> None:
    """The same link again is quicker the sooner the block is warm; upon another surface it begins cold."""
    made = links(1)
    first = rehearse_heat(made, 1, HeatRequest(habit="even"))
    again = rehearse_heat(made, 1, HeatRequest(habit="even"), after=first)
    elsewhere = rehearse_heat(made, 1, HeatRequest(habit="even", surface="soft-firebrick"), after=first)
    cold = rehearse_heat(made, 1, HeatRequest(habit="even", surface="soft-firebrick"))
    assert again.after == 1
    assert elsewhere.after is None
    assert first.seconds_to_flow is not None
    assert again.seconds_to_flow is not None
    assert again.seconds_to_flow.likely < first.seconds_to_flow.likely
    assert elsewhere.seconds_to_flow == cold.seconds_to_flow
    assert read_rehearsal(again.model_dump(mode="json")) == again


def test_minutes_are_those_of_all_bodies_alike() -> None:
    made = links(6)
    told = rehearse_heat(made, 1, HeatRequest(habit="even", setting=0.4))
    used = use(made, told)
    (kept,) = used.rehearsals
    assert kept.bodies == 6
    assert told.next_ones is not None
    assert told.next_ones.seconds is not None
    assert kept.seconds_likely is not None
    each = told.next_ones.seconds.likely + 20.0
    assert kept.seconds_next == pytest.approx(each)
    (heat,) = [step for step in plan(used).steps if step.kind == "heat"]
    seconds = kept.seconds_likely + 5 * each
    assert heat.minutes == math.ceil(seconds / 30) / 2
    assert heat.text.startswith("Bring close to ")
    assert "; each of the six, one after another." in heat.text


def test_grains_of_a_tray_are_drawn_up_without_a_pause() -> None:
    """Forty of 0.7 mm, a second or two each: a tray is no quarter of an hour."""
    snip = {
        "id": "snip",
        "metal": "sterling-925",
        "count": 40,
        "form": {"kind": "lump", "mass_g": 0.0019, "surface_mm2": 2.0},
    }
    work = [{"id": "draw", "kind": "ball", "parts": ["snip"]}]
    tray = piece([snip], [], work=work, bench={"torch": "butane-kitchen", "solders": ["us-hard"]})
    told = rehearse_heat(tray)
    used = use(tray, told)
    (kept,) = used.rehearsals
    assert told.bodies == 40
    assert kept.seconds_next == kept.seconds_likely
    (heat,) = [step for step in plan(used).steps if step.kind == "heat"]
    assert heat.minutes <= 4


def test_a_heat_follows_straight_upon_another_when_nothing_is_cooled_between() -> None:
    """Seen on a plan from which the cooling is taken out: what is laid ready between them does not count."""
    two = piece(
        [plate("base"), wire("a"), wire("b")],
        [join("one", "a", "base"), join("two", "b", "base", after=["one"])],
        bench={"solders": ["us-hard", "us-easy"]},
    )
    planned = plan(two)
    assert [step.kind for step in planned.steps].count("heat") == 2
    assert _straight_upon(planned) == {}
    hot = planned.model_copy(
        update={"steps": tuple(step for step in planned.steps if step.kind in ("heat", "prepare"))}
    )
    assert _straight_upon(hot) == {2: 1}

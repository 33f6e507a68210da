"""The rules' own arithmetic and units: temperatures, holding, anatomy, contact amounts, pot and cold work."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eskel_core.coldwork import compounded_pct, profile_reduction_pct, start_reduction_pct
from eskel_core.faults import Refused
from eskel_core.metals import metals, pickles, solders, temper_reduction_pct
from eskel_core.piece import House, Piece, Work, contact_at, shipped_bench, stocked_solders
from eskel_core.plan import plan
from eskel_core.plan._amounts import amount_of, say_amount, solder_of_join_mm3
from eskel_core.pot import pickle_minutes, scale_of
from eskel_core.rules import (
    anatomy,
    capacity_near_j_k,
    comes_off,
    filler_of_fuse,
    filler_of_solder,
    filler_of_work,
    holds_at_all,
    lies_for,
    loaded_when_soft,
    reflow_c,
    shield_c,
    state_at,
)
from eskel_core.units import speak
from tests.core.pieces import chain, join, piece, plate, wire

HOUSE = House()


def only(made: Piece) -> Any:
    return made.joins[0]


# Working temperature = flow + 10; runs again = flow + 15 − 5. The us family, from its table.
@pytest.mark.parametrize(
    ("solder", "working", "again"),
    [
        ("us-it", 820, 820),
        ("us-hard", 798, 798),
        ("us-medium", 748, 748),
        ("us-easy", 728, 728),
        ("us-extra-easy", 663, 663),
    ],
)
def test_a_solder_makes_its_heat(solder: str, working: float, again: float) -> None:
    filler = filler_of_solder(solders()[solder], HOUSE)
    assert (filler.working_c, reflow_c(filler, HOUSE)) == (working, again)


@pytest.mark.parametrize(
    ("made_with", "heated_with", "state"),
    [
        ("us-hard", "us-hard", "flows"),
        ("us-hard", "us-medium", "soft"),
        ("us-hard", "us-easy", "firm"),
        ("us-medium", "us-easy", "soft"),
        ("us-medium", "us-extra-easy", "firm"),
        ("us-easy", "us-extra-easy", "firm"),
        ("us-easy", "us-medium", "flows"),
        ("uk-hard", "uk-medium", "soft"),
        ("uk-medium", "uk-easy", "soft"),
        ("uk-easy", "uk-extra-easy", "soft"),
        ("us-extra-easy", "uk-extra-easy", "flows"),
    ],
)
def test_the_state_of_an_earlier_join(made_with: str, heated_with: str, state: str) -> None:
    """Firm below the solidus, soft from it, running again from flow + allowance − margin."""
    heat = filler_of_solder(solders()[heated_with], HOUSE)
    assert state_at(filler_of_solder(solders()[made_with], HOUSE), heat.working_c, HOUSE) == state


def test_house_numbers_move_the_states() -> None:
    wide = House(overshoot_c=0, margin_c=0, remelt_allowance_c=30)
    filler = filler_of_solder(solders()["us-hard"], wide)
    assert (filler.working_c, reflow_c(filler, wide), state_at(filler, 788, wide)) == (788, 818, "soft")


@given(st.floats(min_value=0, max_value=1200), st.floats(min_value=0, max_value=1200))
def test_a_hotter_join_is_never_firmer(one: float, other: float) -> None:
    rank = {"firm": 0, "soft": 1, "flows": 2}
    filler = filler_of_solder(solders()["us-medium"], HOUSE)
    low, high = sorted((one, other))
    assert rank[state_at(filler, low, HOUSE)] <= rank[state_at(filler, high, HOUSE)]


def test_a_fused_join_takes_the_lower_solidus_of_its_parts() -> None:
    made = piece(
        [wire("a"), wire("b", "fine-silver-999")], [{"id": "f", "kind": "fuse", "between": ["a", "b"]}]
    )
    filler = filler_of_fuse(made, only(made))
    assert (filler.working_c, filler.solidus_c, filler.flow_c) == (802, 802, 802)


@pytest.mark.parametrize(
    ("kind", "working"), [("anneal", 620), ("deplete", 620), ("ball", 903), ("melt", 903), ("pour", 903)]
)
def test_heated_work_has_its_temperature(kind: str, working: float) -> None:
    """Sterling: the middle of 590 to 650; above its liquidus of 893 by the overshoot."""
    made = piece([wire("a")], [])
    work = Work.model_validate({"id": "w", "kind": kind, "parts": ("a",)})
    assert filler_of_work(made, work, HOUSE).working_c == working


def test_shields_add_up_to_sixty_degrees_at_most() -> None:
    shields = [{"during": name, "degrees_c": 40, "how": "sink"} for name in ("b", "c")]
    made = chain(4, [join("a", "w0", "w1", shields=shields), join("b", "w1", "w2"), join("c", "w2", "w3")])
    first = only(made)
    assert [shield_c(first, during) for during in (("b",), ("b", "c"), ("x",), ())] == [40, 60, 0, 0]


HOLDS = [
    ({"holds": "seated"}, True, False),
    ({"holds": "own-weight"}, True, False),
    ({"holds": "nothing"}, False, False),
    ({"holds": "hand"}, False, False),
    ({"holds": "bound", "bound_with": "steel"}, False, True),
    ({"holds": "bound", "bound_with": "other"}, True, False),
    ({"holds": "bound"}, False, True),
    ({"holds": "clipped"}, False, True),
    ({"holds": "weighted"}, False, True),
    ({"holds": "clipped", "bound_with": "other"}, False, True),
    ({"holds": "own-weight", "face": "back"}, False, False),
    ({"holds": "own-weight", "face": "inside"}, True, False),
]


@pytest.mark.parametrize(("how", "held", "off"), HOLDS)
def test_what_holds_in_a_later_heat_that_lies_front_up(how: dict[str, str], held: bool, off: bool) -> None:
    made = chain(2, [join("a", "w0", "w1", **how)])
    assert (holds_at_all(made, only(made), "front-up"), comes_off(made, only(made))) == (held, off)


def test_an_unbinding_takes_other_than_steel_off_too() -> None:
    work = [{"id": "u", "kind": "unbind", "parts": ["w0", "w1"]}]
    made = chain(2, [join("a", "w0", "w1", holds="bound", bound_with="other")], work=work)
    assert comes_off(made, only(made))


def test_loaded_is_what_is_told_else_what_is_not_held() -> None:
    made = chain(
        2, [join("a", "w0", "w1"), join("b", "w0", "w1", loaded=True), join("c", "w0", "w1", loaded=False)]
    )
    a, b, c = made.joins
    assert [loaded_when_soft(one, held) for one in (a, b, c) for held in (True, False)] == [
        False,
        True,
        True,
        True,
        False,
        False,
    ]


def test_faces_suit_lies() -> None:
    made = chain(2, [join(face, "w0", "w1", face=face) for face in ("front", "back", "edge", "inside")])
    assert [len(lies_for(one)) for one in made.joins] == [1, 1, 1, 3]


def test_alike_parts_are_one_node_until_somebody_tells_them_apart() -> None:
    parts = [wire("a", count=3), plate("p")]
    together = anatomy(piece(parts, [join("j", "a", "p")]))
    assert (together.joins["j"].ties, together.joins["j"].places) == ((("a", "p"),), 3)
    apart = anatomy(piece(parts, [join("j", "a#1", "p"), join("k", "a", "p")]))
    assert apart.joins["j"].places == 1
    assert set(apart.joins["k"].ties) == {("a#1", "p"), ("a#2", "p"), ("a#3", "p")}


def test_pairs_join_pair_by_pair() -> None:
    parts = [wire("a", count=2), wire("b", count=2), plate("p")]
    told = anatomy(piece(parts, [join("j", "a", "b"), join("k", "a#1", "p")]))
    assert set(told.joins["j"].ties) == {("a#1", "b#1"), ("a#2", "b#2")}
    assert told.body(frozenset({"p"}), ["k", "j"]) == {"p", "a#1", "b#1"}


def test_links_that_close_on_themselves_are_tied_to_nothing() -> None:
    links = {"id": "c", "kind": "butt", "between": ["l", "l"], "holds": "seated"}
    told = anatomy(piece([wire("l", count=5)], [links]))
    assert (told.joins["c"].ties, told.joins["c"].places) == ((), 5)


def test_solder_for_a_post_on_a_plate() -> None:
    """Post 0.9 on a plate, gap 0.05, fillet 0.25: 0.0837 mm³ (the trade's check value)."""
    post = {
        **wire("post"),
        "form": {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 0.9}, "length_mm": 10},
    }
    made = piece([post, plate("p")], [join("j", "post", "p")])
    assert solder_of_join_mm3(made, only(made)) == pytest.approx(0.0837, abs=5e-5)


@pytest.mark.parametrize(
    ("placing", "words"),
    [
        ("chips-under", "2 chips of 0.7 × 0.7 mm"),
        ("paste", "dots of"),
        ("fed-wire", "mm of 0.8 mm wire"),
        ("sweat", "2 chips"),
    ],
)
def test_an_amount_is_told_in_the_supply_of_its_placing(placing: str, words: str) -> None:
    made = piece([wire("a"), plate("p")], [join("j", "a", "p")])
    assert words in speak(say_amount(amount_of(made, only(made), 2, placing, solders()["us-hard"])))


def test_measured_contact_wins_over_reckoned() -> None:
    made = piece([wire("a"), plate("p")], [join("j", "a", "p", contact_mm2=3, seam_mm=7, gap_mm=0)])
    touch = contact_at(made, only(made))
    assert touch is not None
    assert (touch.area_mm2, touch.seam_mm) == (3, 7)


def test_capacity_near_a_join_stops_at_ten_millimetres() -> None:
    long = {**wire("long"), "form": {**wire("x")["form"], "length_mm": 500}}
    made = piece([long, wire("short")], [])
    assert capacity_near_j_k(made, "long") == pytest.approx(capacity_near_j_k(made, "short"))


# Bisulphate: 4 min at 60 °C; twice that for 15 °C less; heavy 1.8; a cold piece 1.4; half the copper limit doubles it.
@pytest.mark.parametrize(
    ("bath_c", "scale", "hot", "copper", "likely"),
    [
        (60, "medium", True, 0, 4),
        (45, "medium", True, 0, 8),
        (60, "heavy", True, 0, 7.2),
        (60, "light", False, 0, 3.36),
        (60, "medium", True, 15, 8),
    ],
)
def test_pickle_minutes(bath_c: float, scale: Any, hot: bool, copper: float, likely: float) -> None:
    found = pickle_minutes(pickles()["bisulphate"], bath_c, scale, hot_piece=hot, copper_g_l=copper)
    assert (found.low, found.high) == pytest.approx((likely * 0.7, likely * 1.5))


def test_a_spent_bath_is_refused() -> None:
    with pytest.raises(Refused) as caught:
        pickle_minutes(pickles()["citric"], 60, "light", hot_piece=True, copper_g_l=20)
    assert caught.value.faults[0].code == "bath-spent"


def test_scale_follows_the_worst_metal_and_the_flux() -> None:
    sterling, fine = metals()["sterling-925"], metals()["fine-silver-999"]
    assert [scale_of(m, fluxed=f) for m in ([fine], [fine, sterling]) for f in (True, False)] == [
        "light",
        "light",
        "medium",
        "heavy",
    ]


@given(st.lists(st.floats(min_value=0, max_value=95), max_size=6))
def test_reductions_compound_in_any_order_and_never_reach_all(reductions: list[float]) -> None:
    together = compounded_pct(*reductions)
    assert compounded_pct(*reversed(reductions)) == pytest.approx(together)
    assert max(reductions, default=0) - 1e-9 <= together < 100


def test_reductions_of_sections_and_tempers() -> None:
    """3.0 square to 1.0 round is 91.3 % in all; half-hard wire stands for 37 %."""
    made = piece(
        [wire("a")],
        [],
        work=[
            {
                "id": "d",
                "kind": "draw",
                "parts": ["a"],
                "from": {"kind": "square", "side_mm": 3},
                "to": {"kind": "round", "diameter_mm": 1},
            }
        ],
    )
    work = made.work[0]
    assert work.from_profile is not None
    assert work.to_profile is not None
    assert profile_reduction_pct(work.from_profile, work.to_profile) == pytest.approx(91.27, abs=0.01)
    assert profile_reduction_pct(work.to_profile, work.from_profile) == 0
    assert (
        temper_reduction_pct("wire", "half-hard"),
        start_reduction_pct("unknown", made.parts[0].form),
    ) == (37, 60)


def test_stock_leaves_out_what_is_used_up_and_keeps_the_tables_order() -> None:
    rows = [
        "us-easy",
        {"solder": "us-hard", "form": "wire", "left": 0},
        {"solder": "us-medium", "form": "sheet"},
    ]
    made = chain(2, [], bench={"solders": rows})
    assert made.bench is not None
    assert [solder.id for solder, _ in stocked_solders(made.bench)] == ["us-medium", "us-easy"]
    usual = [solder.id for solder, _ in stocked_solders(shipped_bench())]
    assert usual == ["us-hard", "us-medium", "us-easy", "us-extra-easy"]
    assert [solder.id for solder, _ in stocked_solders(shipped_bench("mixed"))] == usual
    assert next(solder.grade for solder, _ in stocked_solders(shipped_bench("uk"))) == "hard"


def test_an_own_metal_of_the_file_is_used_and_wins() -> None:
    own = {
        "id": "my-silver",
        "name": "My silver",
        "family": "silver",
        "density_g_cm3": 10.3,
        "solidus_c": 760,
        "liquidus_c": 880,
        "anneal_low_c": 560,
        "anneal_high_c": 620,
    }
    made = piece([wire("a", "my-silver"), wire("b")], [join("x", "a", "b")], metals=[own])
    heat = next(step for step in plan(made).steps if step.kind == "heat")
    assert (heat.working_c, heat.ceiling_by, heat.ceiling_c) == (748, "a", 760)


SPRING = wire("s", temper="spring")
HARDEN = {"id": "again", "kind": "harden", "parts": ["s"]}
SOFT = {"id": "soft", "kind": "anneal", "parts": ["s"]}
ROLL = {"id": "roll", "kind": "roll", "parts": ["p"], "after": ["j"]}


@pytest.mark.parametrize(
    ("parts", "work", "code", "times"),
    [
        ([SPRING, plate("p")], [], "spring-softened", 1),
        ([SPRING, plate("p")], [HARDEN], "spring-softened", 0),  # the plan answers it
        ([SPRING], [SOFT], "spring-softened", 0),  # that was asked for
        ([wire("s"), plate("p")], [ROLL], "form-through-join", 1),
        (
            [wire("s"), plate("p")],
            [ROLL, {"id": "turned", "kind": "twist", "parts": ["p"], "after": ["roll"]}],
            "form-through-join",
            1,
        ),  # once a part
        ([wire("s"), plate("p")], [ROLL], "wet-on-steel", 1),
        (
            [wire("s"), plate("p")],
            [{"id": "saw", "kind": "saw", "parts": ["p"], "after": ["j"]}, {**ROLL, "after": ["saw"]}],
            "wet-on-steel",
            0,
        ),  # it is dry by then
    ],
)
def test_a_caution_is_silent_where_the_plan_answers_it(
    parts: list[dict[str, Any]], work: list[dict[str, Any]], code: str, times: int
) -> None:
    made = plan(piece(parts, [join("j", "s", "p")] if len(parts) > 1 else [], work=work))
    assert [caution.code for caution in made.cautions].count(code) == times


def test_what_holds_for_every_heat_of_a_bench_is_told_once() -> None:
    rows = [join("a", "w0", "w1"), join("b", "w2", "w3"), join("c", "w4", "w5")]
    risks = [caution for caution in plan(chain(6, rows)).cautions if caution.code == "melt-risk"]
    assert len(risks) == 1

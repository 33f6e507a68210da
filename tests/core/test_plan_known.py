"""Pieces whose right plan follows by hand from the temperatures of the us family (hard 788, medium 738, easy 718)."""

from typing import Any

import pytest

from eskel_core.piece import Piece
from eskel_core.plan import HeatStep, Plan, plan
from eskel_core.units import speak
from tests.core.pieces import US, chain, join, piece, plate, wire


def heats(made: Plan) -> list[HeatStep]:
    return [step for step in made.steps if isinstance(step, HeatStep)]


def grades(made: Plan) -> dict[str, str]:
    return {row.join: str(row.grade) for step in heats(made) for row in step.joins}


def codes(made: Plan) -> set[str]:
    return {caution.code for caution in made.cautions}


def test_a_lone_join_takes_the_hardest() -> None:
    made = plan(chain(2, [join("a", "w0", "w1")]))
    assert made.status == "best"
    assert grades(made) == {"a": "hard"}
    assert (heats(made)[0].working_c, heats(made)[0].ceiling_c, heats(made)[0].margin_c) == (798, 802, 4)


def test_loose_joins_step_down() -> None:
    """Hard again would reach 798 = 788 + 15 − 5 and flow; medium warms to 748, where hard is only soft."""
    loose = {"holds": "nothing", "loaded": False}
    made = plan(
        chain(
            4,
            [
                join("a", "w0", "w1", **loose),
                join("b", "w1", "w2", after=["a"], **loose),
                join("c", "w2", "w3", after=["b"], **loose),
            ],
        )
    )
    assert grades(made) == {"a": "hard", "b": "medium", "c": "easy"}
    assert heats(made)[1].states == {"a": "soft"}
    assert [step.ceiling_by for step in heats(made)] == ["w0", "a", "b"]


def test_a_loaded_join_is_not_left_soft() -> None:
    """Unheld means loaded: medium (748) would soften hard (741), easy (728) does not."""
    rows = [join("a", "w0", "w1", holds="nothing"), join("b", "w1", "w2", after=["a"], holds="nothing")]
    assert grades(plan(chain(3, rows))) == {"a": "hard", "b": "easy"}


@pytest.mark.parametrize(
    ("joins", "wanted", "soft"),
    [
        (2, ["hard", "easy"], 0),
        (3, ["hard", "easy", "extra-easy"], 0),
        (4, ["hard", "medium", "easy", "extra-easy"], 2),
    ],
)
def test_a_harder_grade_where_it_is_seen_never_buys_a_soft_join(
    joins: int, wanted: list[str], soft: int
) -> None:
    """The last join is visible, which calls for a hard grade; that earlier ones stay firm comes before it."""
    rows = [
        join(
            f"j{n}",
            f"w{n}",
            f"w{n + 1}",
            holds="nothing",
            visible=n == joins - 1,
            after=[f"j{n - 1}"] * (n > 0),
        )
        for n in range(joins)
    ]
    made = plan(chain(joins + 1, rows))
    assert list(grades(made).values()) == wanted
    assert {objective.name: objective.value for objective in made.objectives}["soft-while-loaded"] == soft


def test_held_joins_share_a_heat_when_nothing_orders_them_apart() -> None:
    made = plan(chain(3, [join("a", "w0", "w1"), join("b", "w1", "w2")]))
    assert [[row.join for row in step.joins] for step in heats(made)] == [["a", "b"]]


def test_joins_on_two_faces_do_not_share() -> None:
    made = plan(chain(3, [join("a", "w0", "w1"), join("b", "w1", "w2", face="back")]))
    assert sorted(step.lies for step in heats(made)) == ["back-up", "front-up"]


def test_chips_and_picks_share_up_to_six_places_and_paste_more() -> None:
    rows = [join(f"j{n}", "w0", f"w{n + 1}") for n in range(7)]
    assert len(heats(plan(chain(8, rows)))) == 2
    assert len(heats(plan(chain(4, rows[:3], house={"placing": "fed-wire"})))) == 1
    assert len(heats(plan(chain(4, rows[:3], house={"placing": "fed-wire", "picks_per_heat": 1})))) == 3
    assert len(heats(plan(chain(8, rows, house={"placing": "paste"})))) == 1


def test_the_hottest_solder_stays_below_the_lowest_solidus_in_the_body() -> None:
    """Coin silver begins to melt at 779: hard (798) is out, medium (748) is not."""
    made = plan(piece([wire("a"), wire("b", "coin-900")], [join("x", "a", "b")]))
    assert grades(made) == {"x": "medium"}
    assert heats(made)[0].ceiling_by == "b"


def test_a_part_joined_later_does_not_limit_an_earlier_heat() -> None:
    parts = [wire("a", "copper"), wire("b", "copper"), wire("c", "coin-900")]
    made = plan(piece(parts, [join("first", "a", "b"), join("second", "b", "c", after=["first"])]))
    assert grades(made) == {"first": "hard", "second": "medium"}


def test_joins_in_unconnected_bodies_do_not_disturb_each_other() -> None:
    rows = [join("a", "w0", "w1", holds="nothing"), join("b", "w2", "w3", holds="nothing", after=["a"])]
    assert grades(plan(chain(4, rows))) == {"a": "hard", "b": "hard"}


def test_same_while_held_keeps_one_grade() -> None:
    rows = [join("a", "w0", "w1"), join("b", "w1", "w2", after=["a"])]
    assert grades(plan(chain(3, rows))) == {"a": "hard", "b": "medium"}
    made = plan(chain(3, rows, house={"grade_policy": "same-while-held"}))
    assert grades(made) == {"a": "hard", "b": "hard"}
    assert "same-grade-held" in codes(made)


def test_easiest_that_serves_takes_the_softest() -> None:
    made = plan(chain(2, [join("a", "w0", "w1")], house={"grade_policy": "easiest-that-serves"}))
    assert grades(made) == {"a": "extra-easy"}


def test_a_fixed_grade_and_a_fixed_solder_are_kept() -> None:
    rows = [join("a", "w0", "w1", grade="easy"), join("b", "w1", "w2", solder="us-extra-easy", after=["a"])]
    assert grades(plan(chain(3, rows))) == {"a": "easy", "b": "extra-easy"}


def test_a_shield_keeps_an_earlier_join() -> None:
    """50 °C less at the earlier join: 748 reads as 698, below hard's 741."""
    shield = [{"during": "b", "degrees_c": 50, "how": "sink"}]
    rows = [
        join("a", "w0", "w1", holds="nothing", shields=shield),
        join("b", "w1", "w2", holds="nothing", after=["a"]),
    ]
    made = plan(chain(3, rows))
    assert grades(made) == {"a": "hard", "b": "medium"}
    assert heats(made)[1].states == {"a": "firm"}


def test_the_easy_family_is_chosen_by_the_house() -> None:
    row = [join("a", "w0", "w1")]
    made = plan(chain(2, row, bench={"solders": ["us-hard", "uk-medium"]}, house={"family": "uk"}))
    assert grades(made) == {"a": "medium"}


def test_copper_phosphorus_only_on_copper() -> None:
    stock = {"bench": {"solders": ["cu-p", "us-easy"]}}
    made = plan(piece([wire("a", "copper"), wire("b", "brass-c260")], [join("x", "a", "b")], **stock))
    assert made.solder_list[0].solder == "cu-p"
    made = plan(piece([wire("a", "copper"), wire("b")], [join("x", "a", "b")], **stock))
    assert made.solder_list[0].solder == "us-easy"


def test_a_fused_ring_comes_before_its_soldered_neighbours() -> None:
    """Fine silver fuses at 961.8 °C, and the fused seam itself never runs again under solder."""
    fuse = {"id": "f", "kind": "fuse", "between": ["ring", "ring"], "holds": "nothing"}
    made = plan(piece([wire("ring", "fine-silver-999"), wire("b")], [join("x", "ring", "b"), fuse]))
    assert [step.purpose for step in heats(made)] == ["fuse", "solder"]
    assert heats(made)[0].working_c == pytest.approx(961.8)
    assert heats(made)[1].states == {"f": "firm"}


CONFLICTS: list[tuple[Piece, set[str], set[str]]] = [
    (
        chain(
            3,
            [join("a", "w0", "w1", holds="nothing"), join("b", "w1", "w2", after=["a"])],
            bench={"solders": ["us-easy"]},
        ),
        {"no-stock", "order", "remelt-flows"},
        {"a", "b"},
    ),
    (
        chain(3, [join("a", "w0", "w1", after=["b"]), join("b", "w1", "w2", after=["a"])]),
        {"order"},
        {"a", "b"},
    ),
    (
        piece([wire("a", "coin-900"), wire("b")], [join("x", "a", "b", grade="hard")]),
        {"fixed", "melt-certain"},
        {"x", "a"},
    ),
    (piece([wire("a"), wire("s", heat_safe=False)], [join("x", "a", "s")]), {"stone-in-heat"}, {"s"}),
    (piece([wire("a"), wire("s", "pewter")], [join("x", "a", "s")]), {"contaminated"}, {"s"}),
    (piece([wire("a"), wire("s", "unknown")], [join("x", "a", "s")]), {"unknown-metal"}, {"s"}),
    (
        piece([wire("s", "aluminium")], [], work=[{"id": "soften", "kind": "anneal", "parts": ["s"]}]),
        {"contaminated"},
        {"s"},
    ),
    (chain(2, [join("x", "w0", "w1")], bench={"solders": ["cu-p"]}), {"no-stock"}, {"x"}),
    (
        piece(
            [plate("p"), wire("b")],
            [join("x", "p", "b")],
            work=[{"id": "dome", "kind": "dome", "parts": ["p"], "after": ["x"]}],
        ),
        {"order", "form-before-seat"},
        {"x", "dome"},
    ),
]


@pytest.mark.parametrize(("made", "wanted_codes", "wanted_ids"), CONFLICTS)
def test_an_impossible_demand_is_named(made: Piece, wanted_codes: set[str], wanted_ids: set[str]) -> None:
    answer = plan(made)
    assert answer.status == "impossible"
    assert answer.conflict is not None
    assert set(answer.conflict.codes) == wanted_codes
    assert set(answer.conflict.ids) == wanted_ids
    assert all(demand.text and demand.remedy for demand in answer.conflict.demands)


def test_the_reason_names_what_was_ruled_out() -> None:
    made = plan(chain(3, [join("a", "w0", "w1"), join("b", "w1", "w2", after=["a"])]))
    reasons = {row.solder: row.reason for row in made.why[1].ruled_out}
    assert "run again" in reasons["us-hard"]
    assert "preferred" in reasons["us-easy"]
    assert speak(made.why[1].grade).startswith("Medium, since hard would bring a to 798 °C")
    assert "us-it" not in {row.solder for row in made.why[0].ruled_out}
    assert sorted({row.solder for row in made.why[0].ruled_out} | {"us-hard"}, key=US.index) == US


def claws(length_mm: float, **more: Any) -> Plan:
    """Wires that stand on a plate, which a ring is joined to; their tips are balled last."""
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1}, "length_mm": length_mm}
    parts = [{"id": "claw", "metal": "sterling-925", "count": 4, "form": form}, plate("seat"), wire("ring")]
    rows = [
        join("claws", "claw", "seat", **more),
        join("shank", "ring", "seat", face="back", after=["claws"], **more),
    ]
    tips = {"id": "tips", "kind": "ball", "parts": ["claw"], "ball_mm": 1.6, "after": ["shank"]}
    return plan(piece(parts, rows, work=[tips]))


def test_a_balled_tip_leaves_joins_cooler_that_lie_farther_than_a_flame_reaches() -> None:
    """903 °C at the tip is 753 at a join 14 mm below: hard (741 to 788) is soft there, and runs where it is as hot as the tip."""
    last = heats(claws(14))[-1]
    assert last.purpose == "ball"
    assert last.states == {"claws": "soft", "shank": "soft"}
    assert heats(claws(6))[-1].states == {"claws": "flows", "shank": "flows"}


PICKED = {"house": {"placing": "pick"}}


@pytest.mark.parametrize(
    ("apart_mm", "more", "wanted"),
    [
        (16, PICKED, {"a": "hard", "b": "hard"}),
        (14, PICKED, {"a": "hard", "b": "easy"}),
        (16, {"house": {"placing": "pick", "local_heat": "no"}}, {"a": "hard", "b": "easy"}),
        (14, {"house": {"placing": "pick", "local_reach_mm": 10}}, {"a": "hard", "b": "hard"}),
        (16, {}, {"a": "hard", "b": "easy"}),
    ],
)
def test_a_picked_join_leaves_others_firm_beyond_the_reach_of_its_flame(
    apart_mm: float, more: dict[str, Any], wanted: dict[str, str]
) -> None:
    """Ends of wire of 1 mm: each seam is 3.1 mm round, so 16 mm between middles are 12.9 between seams."""
    rows = [
        join("a", "w0", "w1", holds="nothing", at=[0, 0]),
        join("b", "w1", "w2", holds="nothing", at=[apart_mm, 0], after=["a"]),
    ]
    assert grades(plan(chain(3, rows, **more))) == wanted


def test_six_are_picked_in_a_heat_where_each_reaches_only_itself() -> None:
    rows = [join(f"j{n}", "spine", f"w{n}", at=[20 * n, 0]) for n in range(14)]
    made = plan(piece([wire("spine"), *(wire(f"w{n}") for n in range(14))], rows, **PICKED))
    assert {row.grade for step in heats(made) for row in step.joins} == {"hard"}
    assert sorted(len(step.joins) for step in heats(made)) == [2, 6, 6]

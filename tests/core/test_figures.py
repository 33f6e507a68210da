"""Figures of rules and steps worked by hand: the heat near a join, amounts of solder, ceilings, goes, minutes."""

import math
from typing import Any, get_args

import pytest

from eskel_core.forms import measure
from eskel_core.metals import metals, pickles, solders
from eskel_core.piece import HEAT_WORK, Piece, WorkKind, contact_at
from eskel_core.plan import (
    CoolStep,
    HeatStep,
    InspectStep,
    PickleStep,
    Plan,
    PrepareStep,
    WorkStep,
    plan,
)
from eskel_core.plan._amounts import amount_of, solder_of_join_mm3
from eskel_core.plan._minutes import paces
from eskel_core.pot import pickle_minutes
from eskel_core.rules import anatomy, capacity_near_j_k, thickness_mm
from eskel_core.rules._loose_rules import across_mm
from eskel_core.units import speak
from tests.core.pieces import US, join, piece, plate, wire

STERLING = metals()["sterling-925"]
ROUND = {"kind": "round", "diameter_mm": 1.0}


def one(form: dict[str, Any], metal: str = "sterling-925") -> Piece:
    return piece([{"id": "it", "metal": metal, "form": form}], [])


@pytest.mark.parametrize(
    ("form", "near_mm3"),
    [
        # wire as 10 mm to each side, never more than the part: π/4 × 1² × 20, or × 12; two strands are twice that
        ({"kind": "wire", "profile": ROUND, "length_mm": 80}, 15.708),
        ({"kind": "wire", "profile": ROUND, "length_mm": 12}, 9.4248),
        ({"kind": "wire", "profile": ROUND, "length_mm": 80, "strands": 2, "pitch_mm": 5}, 31.416),
        ({"kind": "strip", "width_mm": 4, "thickness_mm": 0.5, "length_mm": 60}, 40.0),
        ({"kind": "strip", "width_mm": 4, "thickness_mm": 0.5, "length_mm": 15}, 30.0),
        # sheet as a disc of 10 mm radius: π × 10² × 0.6, or all of a small one: π × 6² × 0.6
        ({"kind": "sheet", "thickness_mm": 0.6, "outline": {"kind": "disc", "diameter_mm": 40}}, 188.496),
        ({"kind": "sheet", "thickness_mm": 0.6, "outline": {"kind": "disc", "diameter_mm": 12}}, 67.858),
        # the wall of a tube: π × (4 − 0.5) × 0.5 × 20, or × 8
        ({"kind": "tube", "outer_mm": 4, "wall_mm": 0.5, "length_mm": 50}, 109.956),
        ({"kind": "tube", "outer_mm": 4, "wall_mm": 0.5, "length_mm": 8}, 43.982),
        ({"kind": "ball", "diameter_mm": 3}, 14.137),
        ({"kind": "lump", "mass_g": 5.18, "surface_mm2": 300}, 500.0),
    ],
)
def test_the_heat_that_a_join_meets(form: dict[str, Any], near_mm3: float) -> None:
    """Within 10 mm of it: 10.36 g/cm³ and 265 J/kgK of sterling for so much of the part."""
    assert capacity_near_j_k(one(form), "it") == pytest.approx(near_mm3 * 10.36e-6 * 265, rel=1e-4)


def test_a_stone_takes_no_heat() -> None:
    stone = {"id": "it", "metal": None, "heat_safe": False, "form": {"kind": "ball", "diameter_mm": 4}}
    assert capacity_near_j_k(piece([stone], []), "it") == 0


@pytest.mark.parametrize(
    ("form", "thick", "across"),
    [
        ({"kind": "wire", "profile": ROUND, "length_mm": 30}, 1.0, 30.0),
        ({"kind": "wire", "profile": ROUND, "length_mm": 30, "closed": True}, 1.0, 30 / math.pi),
        (
            {"kind": "wire", "profile": {"kind": "rect", "width_mm": 3, "height_mm": 1.2}, "length_mm": 9},
            1.2,
            9.0,
        ),
        ({"kind": "strip", "width_mm": 4, "thickness_mm": 0.5, "length_mm": 15}, 0.5, 15.0),
        (
            {
                "kind": "sheet",
                "thickness_mm": 0.6,
                "outline": {"kind": "rect", "width_mm": 7, "height_mm": 9},
            },
            0.6,
            9.0,
        ),
        ({"kind": "tube", "outer_mm": 4, "wall_mm": 0.5, "length_mm": 3}, 0.5, 4.0),
        ({"kind": "tube", "outer_mm": 4, "wall_mm": 0.5, "length_mm": 8}, 0.5, 8.0),
        ({"kind": "ball", "diameter_mm": 2.5}, 2.5, 2.5),
        # a lump as a ball of 0.01 g to the mm³: 0.01 g × π/6 × 4³ = 0.3351 g
        ({"kind": "lump", "mass_g": 0.33510, "surface_mm2": 50}, 4.0, 4.0),
    ],
)
def test_how_thick_and_how_large_a_form_is(form: dict[str, Any], thick: float, across: float) -> None:
    shape = one(form).parts[0].form
    assert thickness_mm(shape) == pytest.approx(thick, rel=1e-4)
    assert across_mm(shape) == pytest.approx(across, rel=1e-4)


@pytest.mark.parametrize(
    ("between", "kind", "places"),
    [
        (("a", "base"), "tee", 1),
        (("many", "base"), "tee", 4),
        (("many#2", "base"), "tee", 1),
        # three wires in a row have two places, four of them three; with four alike at one end there are four
        (("a", "b", "c"), "bundle", 2),
        (("a", "b", "c", "d"), "bundle", 3),
        (("a", "b", "many"), "bundle", 4),
        # four alike joined to each other have three places between them; each closed on itself has one of its own
        (("many", "many"), "line", 3),
        (("many", "many"), "butt", 4),
        (("a", "a"), "butt", 1),
    ],
)
def test_how_many_places_are_soldered(between: tuple[str, ...], kind: str, places: int) -> None:
    ends = [wire(name) for name in "abcd"]
    made = piece([plate("base"), wire("many", count=4), *ends], [join("it", *between, kind=kind)])
    assert anatomy(made).joins["it"].places == places


def post(**more: Any) -> Piece:
    return piece([plate("base"), wire("post", count=3)], [join("foot", "post", "base", **more)])


# A round wire of 1 mm on a face: π/4 × 0.05 mm of gap, and a fillet of 0.25²·(1 − π/4) along π mm; a fifth more.
ONE_FOOT_MM3 = 1.2 * (math.pi / 4 * 0.05 + 0.25**2 * (1 - math.pi / 4) * math.pi)


@pytest.mark.parametrize(
    ("placing", "amount"),
    [
        # 9.49 mg to the mm³ of easy solder, 85 parts of metal in a hundred of paste
        # with the binder 0.247 mm³ a place, in half a ball of 0.98 mm, the next tenth above
        (
            "paste",
            {
                "paste_mg": 3 * ONE_FOOT_MM3 * 9.49 / 0.85,
                "dots": 3,
                "dot_mm": 1.0,
                "words": "3 dots of 1 mm across",
            },
        ),
        # wire of 0.8 mm: π/4 × 0.64 mm³ to the mm
        ("fed-wire", {"feed_mm": 3 * ONE_FOOT_MM3 / 0.502655, "words": "0.6 mm of 0.8 mm wire"}),
        # a ball of ∛(6 × 0.0977 / π) = 0.571
        (
            "pick",
            {
                "feed_mm": 3 * ONE_FOOT_MM3 / 0.502655,
                "balls": 3,
                "ball_mm": 0.6,
                "words": "3 balls of 0.6 mm",
            },
        ),
        # one chip for each place, of sheet of 0.25 mm: a side of √(0.0977 / 0.25) = 0.63, the next tenth above
        ("chips-under", {"chips": 3, "chip_mm": 0.7, "words": "3 chips of 0.7 × 0.7 mm"}),
        ("chips-over", {"chips": 3, "chip_mm": 0.7, "words": "3 chips of 0.7 × 0.7 mm"}),
    ],
)
def test_the_solder_of_three_feet(placing: str, amount: dict[str, float | str]) -> None:
    made = post()
    told = amount_of(made, made.joins[0], 3, placing, solders()["us-easy"]).model_dump()
    assert told["volume_mm3"] == pytest.approx(3 * ONE_FOOT_MM3, rel=1e-6)
    given = {key: value for key, value in told.items() if value is not None and key != "volume_mm3"}
    assert speak(given.pop("words")) == amount["words"]
    figures = {key: value for key, value in amount.items() if key != "words"}
    assert given == {key: pytest.approx(value, rel=1e-5) for key, value in figures.items()}


@pytest.mark.parametrize(("contact", "chips"), [(60, 15), (64, 16), (4, 1)])
def test_chips_are_as_many_as_the_volume_fills(contact: float, chips: int) -> None:
    """A quarter of a mm³ each; with no seam 1.2 × 0.05 mm³ to the mm² of contact."""
    made = post(contact_mm2=contact, seam_mm=0.001)
    told = amount_of(made, made.joins[0], 1, "chips-under", solders()["us-hard"])
    assert told.volume_mm3 == pytest.approx(contact * 0.06, rel=1e-3)
    assert told.chips == math.ceil(told.volume_mm3 / 0.25) == chips


@pytest.mark.parametrize(("gap", "wanted"), [(None, 0.05), (0.1, 0.1), (0.02, 0.02)])
def test_a_wider_gap_takes_more(gap: float | None, wanted: float) -> None:
    made = post(contact_mm2=10, seam_mm=0.001, gap_mm=gap)
    assert solder_of_join_mm3(made, made.joins[0]) == pytest.approx(10 * wanted * 1.2, rel=1e-3)


def test_a_fuse_takes_no_solder() -> None:
    made = piece([wire("ring", "fine-silver-999")], [join("seam", "ring", "ring", kind="fuse")])
    assert solder_of_join_mm3(made, made.joins[0]) == 0


def test_each_solder_in_all_for_every_copy() -> None:
    made = plan(post().model_copy(update={"copies": 4}))
    (line,) = made.solder_list
    assert line.volume_mm3 == pytest.approx(4 * 3 * ONE_FOOT_MM3, rel=1e-6)
    density = solders()[line.solder].density_g_cm3
    assert line.mass_g == pytest.approx(4 * 3 * ONE_FOOT_MM3 * density / 1000, rel=1e-6)


def test_each_part_is_cut_for_every_copy() -> None:
    made = post().model_copy(update={"copies": 4})
    cut = {row.part: row for row in plan(made).cut_list}
    assert {name: row.count for name, row in cut.items()} == {"base": 4, "post": 12}
    volume = measure(made.parts[1].form).volume_mm3
    assert volume == pytest.approx(math.pi / 4 * 20, rel=1e-6)
    assert cut["post"].mass_g == pytest.approx(volume * STERLING.density_g_cm3 / 1000, rel=0.02)


def bent(reduction: float, metal: str = "sterling-925") -> str:
    made = piece(
        [wire("it", metal)],
        [],
        work=[{"id": "draw", "kind": "draw", "parts": ["it"], "reduction_pct": reduction}],
    )
    return " ".join(speak(step.text) for step in plan(made).steps if isinstance(step, WorkStep))


@pytest.mark.parametrize(
    ("reduction", "goes"),
    [
        (54.9, None),
        (55, None),
        # What one go of 55 % leaves is 0.45; two leave 0.2025, three 0.0911.
        (56, 2),
        (79.75, 2),
        (79.8, 3),
        (90.8, 3),
        (91, 4),
    ],
)
def test_more_than_a_metal_bears_is_done_in_goes(reduction: float, goes: int | None) -> None:
    told = bent(reduction)
    assert (f"In {goes} goes at least" in told) if goes else ("goes at least" not in told)


def steps(made: Plan, kind: type) -> list[Any]:
    return [step for step in made.steps if isinstance(step, kind)]


def two_heats(**more: Any) -> Plan:
    base, ends = plate("base"), [wire("a"), wire("b")]
    rows = [join("first", "a", "base", **more), join("second", "b", "base", after=["first"])]
    return plan(piece([base, *ends], rows))


def test_minutes_of_each_kind_of_step() -> None:
    """Three to make ready and one for each place, two for a look at each heat; a heat takes one and 0.12 for each g: 4.3 g, 4.5 g."""
    made = two_heats()
    assert [step.minutes for step in steps(made, PrepareStep)][:3] == [2, 4, 4]
    assert [step.minutes for step in steps(made, HeatStep)] == [1.5, 1.5]
    together = plan(
        piece(
            [plate("base"), wire("a", count=2), wire("b")], [join("x", "a", "base"), join("y", "b", "base")]
        )
    )
    fitted = [step for step in steps(together, PrepareStep) if "base" in step.parts]
    assert [step.minutes for step in fitted][-1] == 6


@pytest.mark.parametrize(
    ("work", "more", "minutes"),
    [
        ({"kind": "saw", "parts": ["p"]}, {}, 1 + 0.5 + 80 * 0.06),  # a square of 20 mm all round
        ({"kind": "saw", "parts": ["p"]}, {"copies": 2}, 1 + 2 * (0.5 + 80 * 0.06)),
        ({"kind": "drill", "parts": ["a"]}, {}, 1 + 12 * 0.75),  # twelve alike
        ({"kind": "divide", "parts": ["a"]}, {"copies": 75}, 1 + 900 * 0.05),
        ({"kind": "tumble", "parts": ["a"]}, {"copies": 10}, 60),
        ({"kind": "darken", "parts": ["p"], "times": 3}, {}, 5 + 3),
        (
            {"kind": "bend", "parts": ["p"]},
            {"house": {"minutes": {"bend": 4}}},
            1 + 4,
        ),  # the house knows better
    ],
)
def test_minutes_of_work_by_its_kind_size_count_and_copies(
    work: dict[str, Any], more: dict[str, Any], minutes: float
) -> None:
    made = plan(piece([plate("p"), wire("a", count=12)], [], work=[{"id": "it", **work}], **more))
    assert [step.minutes for step in steps(made, WorkStep)] == pytest.approx([minutes], abs=0.05)


def test_copies_multiply_what_is_done_piece_by_piece_and_not_the_pot() -> None:
    one, pair = (
        plan(piece([wire("a"), wire("b")], [join("j", "a", "b")], copies=copies)) for copies in (1, 2)
    )
    for kind, times in ((InspectStep, 2), (PickleStep, 1), (CoolStep, 1)):
        assert [s.minutes for s in steps(pair, kind)] == [times * s.minutes for s in steps(one, kind)]


@pytest.mark.parametrize(
    ("parts", "more", "minutes"),
    [
        # 0.5 and 0.5 a body, 0.12 a g: two wires of 1 mm, 20 mm long, weigh 0.325 g
        ([wire("a"), wire("b")], {}, 1.0),
        ([wire("a"), wire("b")], {"copies": 2}, 0.5 + 2 * 0.539),
        # five pairs alike, each a body of its own
        ([wire("a", count=5), wire("b", count=5)], {}, 0.5 + 5 * 0.539),
        # five on one plate of 4.144 g are one body
        ([wire("a", count=5), plate("b")], {}, 1 + 0.12 * (4.144 + 5 * 0.1627)),
        ([wire("a"), plate("b")], {"house": {"minutes": {"heat": 3}}}, 3.5),
    ],
)
def test_minutes_of_a_heat_that_nobody_has_rehearsed(
    parts: list[dict[str, Any]], more: dict[str, Any], minutes: float
) -> None:
    made = plan(piece(parts, [join("j", "a", "b")], **more))
    assert [step.minutes for step in steps(made, HeatStep)] == pytest.approx([minutes], abs=0.05)


def test_every_kind_of_work_has_its_minutes_and_why() -> None:
    assert set(get_args(WorkKind)) - HEAT_WORK <= set(paces())
    assert all(pace.why for pace in paces().values())


# In air a plate of 1 mm, one side to the room, from 798 °C: 10.36·240·1 J/m²K over 12 W/m²K and its radiation, degree by degree.
@pytest.mark.parametrize(("cooling", "minutes"), [("quench-when-black", 1), ("air-cool", 7.5)])
def test_minutes_of_cooling(cooling: str, minutes: float) -> None:
    made = plan(piece([plate("base"), wire("a")], [join("x", "a", "base")], house={"cooling": cooling}))
    assert [step.minutes for step in steps(made, CoolStep)] == [minutes]


@pytest.mark.parametrize(
    ("bath", "scale", "copper", "cold", "likely"),
    [
        # bisulphate is told for a hot pot; it takes twice as long for each 15 °C less
        ("hot", "medium", 0.0, False, 1.0),
        ("less15", "medium", 0.0, False, 2.0),
        ("less30", "medium", 0.0, False, 4.0),
        ("hot", "light", 0.0, False, 0.6),
        ("hot", "heavy", 0.0, False, 1.8),
        ("hot", "medium", 0.5, False, 2.0),
        ("hot", "medium", 0.0, True, 1.4),
    ],
)
def test_minutes_in_the_pot(bath: str, scale: str, copper: float, cold: bool, likely: float) -> None:
    pickle = pickles()["bisulphate"]
    bath_c = pickle.hot_ref_c - {"hot": 0, "less15": 15, "less30": 30}[bath]
    told = pickle_minutes(
        pickle, bath_c=bath_c, scale=scale, copper_g_l=copper * pickle.copper_limit_g_l, hot_piece=not cold
    )
    assert told.low == pytest.approx(pickle.minutes_at_ref * likely * 0.7)
    assert told.high == pytest.approx(pickle.minutes_at_ref * likely * 1.5)


def test_a_wet_join_lifts_its_ceiling_by_what_its_shield_keeps_off() -> None:
    """An earlier join in hard solder runs at 788 °C; 15 allowed and 5 kept: 798 without a shield, 838 with 40 °C of it."""
    shield = [{"during": "second", "how": "wet", "degrees_c": 40}]
    rows = [
        join("first", "a", "base", grade="hard", holds="nothing", shields=shield),
        join("second", "b", "base", after=["first"], grade="easy"),
    ]
    made = plan(
        piece(
            [plate("base", "copper"), wire("a", "copper"), wire("b", "copper")], rows, bench={"solders": US}
        )
    )
    last = steps(made, HeatStep)[-1]
    assert (last.ceiling_c, last.ceiling_by) == (788 + 15 - 5 + 40, "first")
    assert last.margin_c == pytest.approx(838 - 728)
    assert steps(made, PickleStep)


def line_of_three(**orders: list[str]) -> Plan:
    """Three posts on a plate, each in a heat of its own when the orders ask for it."""
    ends = [wire(name) for name in "abc"]
    rows = [join(f"on-{name}", name, "base", after=orders.get(name, [])) for name in "abc"]
    return plan(piece([plate("base"), *ends], rows))


def test_why_a_heat_comes_where_it_does() -> None:
    told = [why.place for why in line_of_three(b=["on-a"], c=["on-b"]).why]
    assert told == [
        "First: nothing has to come before it.",
        "After on a, as the order asks.",
        "After on b, as the order asks.",
    ]


def test_an_order_that_is_older_than_the_heat_before_is_not_its_reason() -> None:
    """Heat 3 waits for heat 1 only: what comes right before it is not an order."""
    rows = [
        join("on-a", "a", "base"),
        join("on-b", "b", "base", after=["on-a"]),
        join("on-c", "c", "base", after=["on-a", "on-b"]),
    ]
    made = plan(piece([plate("base"), wire("a"), wire("b"), wire("c")], rows))
    assert made.why[2].place == "After on b, as the order asks."


def test_heats_of_one_round_are_told_to_share_the_pot() -> None:
    rows = [join("x", "a", "b"), join("y", "c", "d"), join("z", "b", "c", after=["x", "y"])]
    told = [why.place for why in plan(piece([wire(name) for name in "abcd"], rows)).why]
    assert told == [
        "First: nothing has to come before it. One pot with heat 2: nothing ties or orders their bodies.",
        "First: nothing has to come before it. One pot with heat 1: nothing ties or orders their bodies.",
        "After x and y, as the order asks.",
    ]


def test_joins_of_one_heat_are_named_together() -> None:
    (why,) = line_of_three().why
    assert why.place == (
        "First: nothing has to come before it. on a, on b and on c share it: one solder, each held."
    )


@pytest.mark.parametrize("kind", ["saw", "trim", "size", "set", "finish", "harden", "seal"])
@pytest.mark.parametrize("told", ["before the second", "after the first", "both"])
def test_work_lies_between_the_heats_that_it_was_told_of(kind: str, told: str) -> None:
    work: dict[str, Any] = {"id": "it", "kind": kind, "parts": ["base"]}
    work |= {"before": ["on-b"]} if told != "after the first" else {}
    work |= {"after": ["on-a"]} if told != "before the second" else {}
    rows = [join("on-a", "a", "base"), join("on-b", "b", "base", after=["on-a"])]
    made = plan(piece([plate("base"), wire("a"), wire("b")], rows, work=[work]))
    heats = [step.n for step in steps(made, HeatStep)]
    (done,) = [step.n for step in steps(made, WorkStep) if step.work == "it"]
    if told != "after the first":
        assert done < heats[1]
    if told != "before the second":
        assert done > heats[0]


def test_a_wire_touches_no_farther_than_the_sheet_that_it_lies_on() -> None:
    """30 mm of wire of 1 mm along a disc of 8: 8√2 mm of seam at the most, a third of a mm wide; a closed rim goes all round."""
    disc = {"kind": "sheet", "thickness_mm": 1, "outline": {"kind": "disc", "diameter_mm": 8}}
    parts = [{"id": "d", "metal": "sterling-925", "form": disc}, wire("w")]
    for length, seam in ((30, 8 * math.sqrt(2)), (5, 5)):
        parts[1]["form"] = {**parts[1]["form"], "length_mm": length}
        touch = contact_at(made := piece(parts, [join("j", "w", "d", kind="line")]), made.joins[0])
        assert touch is not None
        assert (touch.seam_mm, touch.area_mm2) == pytest.approx((seam, seam / 3))


def test_a_measured_seam_says_how_far_the_faces_touch() -> None:
    made = piece([wire("w"), plate("p")], [join("j", "w", "p", kind="line", seam_mm=4)])
    touch = contact_at(made, made.joins[0])
    assert touch is not None
    assert (touch.seam_mm, touch.area_mm2) == pytest.approx((4, 4 / 3))


def test_each_spot_that_was_told_takes_its_solder() -> None:
    one, two = (
        plan(piece([wire("w"), plate("p")], [join("j", "w", "p", at=at)])).solder_list[0].volume_mm3
        for at in ([0, 0], [[0, 0], [5, 0]])
    )
    assert two == pytest.approx(2 * one)

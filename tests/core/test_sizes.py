"""What must hold of any calculator: contradictions are refused, metal is kept, more in is more out, tools are snapped to."""

import json
import math
from typing import Any

import hypothesis
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon, box

from eskel_core.piece import House, Tool
from eskel_core.rules import rules
from eskel_core.sizes import Hand, calculate, calculator, calculators, describe, making_steps, shown
from eskel_core.units import Units, speak
from tests.core.pieces import EXAMPLES

S = "sterling-925"
EXAMPLE_OF = {name: dict(one.example) for name, one in calculators().items()}
mm = st.floats(min_value=0.2, max_value=20)
small = st.floats(min_value=0.2, max_value=0.95)


def found(name: str, given: dict[str, Any] | None = None, hand: Hand | None = None, **keys: Any) -> Any:
    return calculate(name, {**(given or {}), **keys}, hand).found


def rnd(diameter: float) -> dict[str, object]:
    return {"kind": "round", "diameter_mm": diameter}


def example(name: str, **keys: Any) -> dict[str, Any]:
    return {**EXAMPLE_OF[name], **keys}


@pytest.mark.parametrize("name", list(EXAMPLE_OF))
def test_every_result_says_how_it_was_found_and_can_be_drawn_and_printed(name: str) -> None:
    answer = calculate(name, EXAMPLE_OF[name])
    assert any(letter.isdigit() for letter in answer.found.how)
    assert json.loads(json.dumps(answer.plain()))["how"] == answer.found.how
    sketch = answer.found.sketch
    if sketch is None:
        assert name in ("anneal", "cost", "pickle-time")
        return
    spots = [spot for line in sketch.lines for spot in line.points]
    assert all(math.isfinite(x) and math.isfinite(y) for x, y in spots)
    assert min(x for x, _ in spots) >= sketch.low[0]
    assert max(y for _, y in spots) <= sketch.high[1]


@pytest.mark.parametrize("name", list(EXAMPLE_OF))
def test_every_calculator_names_its_keys(name: str) -> None:
    told = describe(calculator(name))
    assert set(told["example"]) <= set(told["in"])
    assert calculator(name).main in told["out"]
    assert all(words for words in [*told["in"].values(), *told["out"].values()])


def test_texts_are_read_as_smiths_type_them() -> None:
    typed = found("balled-end", metal=S, wire_mm="20 ga", ball_mm="5/64 in", finished_length_mm="4 cm")
    plain = found("balled-end", metal=S, wire_mm=0.812, ball_mm=1.9844, finished_length_mm=40)
    assert typed.cut_length_mm == pytest.approx(plain.cut_length_mm, abs=1e-3)
    inch = calculate(
        "jump-rings", {"inner_diameter_mm": "1/4", "wire_mm": "18 ga"}, units=Units(length="inch")
    )
    assert inch.found.mandrel_mm == pytest.approx(6.35)


def test_a_small_slip_is_told_where_it_matters() -> None:
    (told,) = found("ring-blank", size="US 9", thickness_mm=1.8).sensitivity
    assert speak(told) == "0.1 mm more of thickness moves it by 0.314 mm."
    assert speak(told, Units(length="inch")) == "0.0039 in more of thickness moves it by 0.0124 in."


def test_a_lot_is_cut_the_same_with_spares_and_mirrored() -> None:
    lot = calculate("ear-wire", example("ear-wire", pieces=2, spares=1, mirrored=True)).lot
    assert lot.count == 3
    assert lot.total_mm == pytest.approx(3 * lot.each_mm)
    assert "1 of them mirrored" in lot.text
    rings = calculate("jump-rings", example("jump-rings", pieces=2, spares=5)).lot
    assert rings.count == 105


TOOLS = Hand(
    tools=(
        *(Tool(kind="dowel", size_mm=size) for size in (3, 5, 6.4)),
        *(Tool(kind="mandrel", size_mm=size) for size in (3.5, 4.2)),
        *(Tool(kind="drill", size_mm=size) for size in (1.0, 1.45, 1.6, 2.0)),
        *(Tool(kind="draw-plate-hole", size_mm=size) for size in (1.0, 1.05, 1.1, 1.2, 1.4)),
        *(Tool(kind="mill-groove", size_mm=size) for size in (1.2, 1.5, 1.8, 2.1, 2.4, 2.7)),
        Tool(kind="dapping-pair", size_mm=13),
        Tool(kind="blade", size="4/0"),
        Tool(kind="blade", size="3"),
    )
)


@pytest.mark.parametrize(
    ("name", "keys", "owned", "words"),
    [
        ("jump-rings", {"inner_diameter_mm": 4, "wire_mm": 1}, 4.2, "16.34 mm each"),
        ("ear-wire", {}, 6.4, "11.31"),
        ("bail", {"dowel_mm": 5}, 5, "fits"),
        ("dome", {}, 13, "12"),
        ("granules", {"ball_mm": 1.5, "wire_mm": 0.8, "count": 3}, 1.45, "1.45 mm and 1.6 mm"),
    ],
)
def test_a_result_snaps_to_the_tools_at_hand_and_says_what_that_changes(
    name: str, keys: dict[str, Any], owned: float, words: str
) -> None:
    (told,) = found(name, example(name, **keys), TOOLS).tools
    assert told.owned_mm == owned
    assert words in speak(told.text)


def test_a_draw_down_walks_the_owned_holes() -> None:
    made = found(
        "draw-down",
        {
            "metal": S,
            "start": {"kind": "square", "side_mm": 3},
            "end": rnd(1),
            "length_mm": 100,
            "pass_pct": 25,
        },
        TOOLS,
    )
    milled = [one.size_mm for one in made.passes if one.by == "mill"]
    drawn = [one.size_mm for one in made.passes if one.by == "draw"]
    assert set(milled) <= {1.2, 1.5, 1.8, 2.1, 2.4, 2.7}
    assert set(drawn) <= {1.0, 1.05, 1.1, 1.2, 1.4}
    assert drawn[-1] == 1.0
    assert all(one.reduction_since_anneal_pct <= 55 for one in made.passes)


def test_the_mill_is_closed_by_so_many_turns() -> None:
    mill = tuple(Tool(kind="mill-groove", size_mm=size, mm_per_turn=0.75) for size in (2.6, 2.3))
    asked = {
        "metal": S,
        "start": {"kind": "square", "side_mm": 3},
        "end": {"kind": "square", "side_mm": 2.3},
        "length_mm": 50,
    }
    answer = calculate("draw-down", {**asked, "pass_pct": 30}, Hand(tools=mill))
    assert [one.turns for one in answer.found.passes] == pytest.approx([0.4 / 0.75, 0.3 / 0.75])
    assert [speak(step.text) for step in making_steps(answer)] == [
        "Roll to 2.6 mm square",
        "Roll to 2.3 mm square",
    ]
    assert making_steps(calculate("post", EXAMPLE_OF["post"])) == ()


def test_a_hole_that_nobody_owns_is_not_the_end_of_the_wire() -> None:
    made = found("draw-down", {"metal": S, "start": rnd(2), "end": rnd(1.13), "length_mm": 100}, TOOLS)
    assert made.passes[-1].size_mm == 1.1
    assert made.end_length_mm == pytest.approx(100 * (2 / 1.1) ** 2)
    assert any("ends at 1.1 mm" in speak(told.text) for told in made.tools)


def test_the_blade_is_one_of_those_on_the_bench() -> None:
    assert found("saw", thickness_mm=0.8).blade == "1/0"
    at_hand = found("saw", {"thickness_mm": 0.8}, TOOLS)
    assert at_hand.blade == "4/0"
    assert "1/0 would be best" in at_hand.tools[0].text


# (calculator, input, rule): the cautions that a smith must be shown.
CAUTIONS = [
    ("ring-blank", {"size": "US 9", "thickness_mm": 1.0}, "too-thin"),
    ("balled-end", {"metal": S, "wire_mm": 0.5, "ball_mm": 3, "finished_length_mm": 30}, "ball-falls"),
    ("ball", {"metal": S, "ball_mm": 4, "wire_mm": 1.2}, "ball-flat"),
    ("ear-wire", example("ear-wire", ornament_mm=8), "wire-shows"),
    ("ear-wire", example("ear-wire", catch_mm=30, ornament_mm=40), "cut-short"),
    ("ear-wire", example("ear-wire", wire_mm=0.6), "too-thin"),
    ("post", example("post", handling_mm=0), "cut-short"),
    ("prong", example("prong", wire_mm=0.6), "too-thin"),
    ("forge", {"metal": S, "before": rnd(3), "after": rnd(1), "length_mm": 30}, "needs-anneal"),
    ("pour", {"metal": "brass-c260", "profile": rnd(6), "length_mm": 50}, "zinc-fume"),
    ("anneal", {"metal": S, "thickness_mm": 4}, "quench-crack"),
    ("anneal", {"metal": "germanium-silver-935", "thickness_mm": 1}, "red-short"),
    ("pickle-time", {"pickle": "bisulphate", "bath_c": 60, "copper_g_l": 26}, "bath-spent"),
    ("solder-amount", {"kind": "edge", "length_mm": 20, "width_mm": 0.5, "supply": "paste"}, "paste-weak"),
    ("saw", {"thickness_mm": 4}, "does-not-fit"),
    ("hang", {"parts": [{"mass_g": 1, "x_mm": 5, "y_mm": 20}]}, "hangs-tilted"),
    ("hang", {"parts": [{"mass_g": 1, "y_mm": -20}]}, "hangs-tilted"),
    (
        "nest",
        {
            "outlines": [{"outline": {"kind": "disc", "diameter_mm": 20}, "count": 9}],
            "sheet": {"width_mm": 45, "height_mm": 45},
        },
        "does-not-fit",
    ),
]


@pytest.mark.parametrize(("name", "given", "code"), CAUTIONS)
def test_a_caution_speaks_where_it_applies(name: str, given: dict[str, Any], code: str) -> None:
    told = {caution.code: caution for caution in found(name, given).cautions}
    assert code in told
    assert told[code].severity == rules()[code].severity
    assert told[code].text.endswith(".")
    assert told[code].remedy


@pytest.mark.parametrize(
    "name", ["ring-blank", "ear-wire", "post", "balled-end", "prong", "solder-amount", "saw"]
)
def test_a_sound_size_is_given_without_cautions(name: str) -> None:
    assert found(name, EXAMPLE_OF[name]).cautions == ()


@pytest.mark.parametrize(("ball_mm", "speaks"), [(1.9, False), (2.1, True)])
def test_a_flat_of_a_quarter_is_told(ball_mm: float, speaks: bool) -> None:
    """Of sterling the share of the flat grows with the size, and is a quarter at 1.97 mm."""
    told = found("ball", {"metal": S, "ball_mm": ball_mm, "wire_mm": 1}).cautions
    assert ("ball-flat" in {one.code for one in told}) is speaks


def test_the_house_decides_bends_and_thinnest_gauges() -> None:
    given = {key: value for key, value in EXAMPLE_OF["ear-wire"].items() if key != "bend"}
    bent = [
        found("ear-wire", given, Hand(house=House(ear_wire_bend=bend))).cut_length_mm
        for bend in ("half-angle", "right-angle")
    ]
    assert bent[1] - bent[0] == pytest.approx(math.pi / 4 * 1.2)
    thick = House.model_validate({"thinnest_mm": {"shank": 2.0}})
    assert (
        found("ring-blank", {"size": "US 9", "thickness_mm": 1.8}, Hand(house=thick)).cautions[0].code
        == "too-thin"
    )


def test_prices_are_ones_own_or_the_feeds() -> None:
    hand = Hand(prices={S: 1.5})
    assert found("cost", {"metal": S, "metal_g": 10}, hand).total == pytest.approx(15)
    assert found("cost", {"metal": S, "metal_g": 10, "price_per_g": 1}, hand).total == pytest.approx(10)


def test_a_piece_hangs_by_where_its_parts_lie() -> None:
    plain = json.loads((EXAMPLES[0].parent / "hollow-lantern-drop.eskel.json").read_text(encoding="utf-8"))
    hung = found("hang", piece=plain, pivot={"x_mm": 0, "y_mm": -500})
    assert abs(hung.tilt_side_deg) < 10
    assert found(
        "hang", piece=plain, pivot={"x_mm": hung.centre_x_mm, "y_mm": -500}
    ).tilt_side_deg == pytest.approx(0, abs=1e-6)


@given(mm, small)
def test_a_ball_and_its_wire_hold_the_same_metal(ball: float, share: float) -> None:
    one = found("ball", metal=S, ball_mm=ball, wire_mm=ball * share)
    assert math.pi * one.wire_mm**2 / 4 * one.wire_length_mm == pytest.approx(math.pi * ball**3 / 6)
    back = found("ball", metal=S, wire_mm=ball * share, wire_length_mm=one.wire_length_mm)
    assert back.ball_mm == pytest.approx(ball)
    assert found("ball", metal=S, ball_mm=ball, wire_length_mm=one.wire_length_mm).wire_mm == pytest.approx(
        ball * share
    )


@given(st.floats(1.0, 10), st.floats(0.2, 0.9), st.floats(2, 30), st.sampled_from(["round", "square"]))
def test_drawing_keeps_the_metal_and_its_limit(
    start: float, share: float, pass_pct: float, kind: str
) -> None:
    begin = {"kind": "square", "side_mm": start}
    end = rnd(start * share) if kind == "round" else {"kind": "square", "side_mm": start * share}
    made = found("draw-down", metal="brass-c260", start=begin, end=end, length_mm=100, pass_pct=pass_pct)
    for one in made.passes:
        assert one.reduction_pct <= pass_pct + 1e-6
        assert one.reduction_since_anneal_pct <= 55 + 1e-9
    total = 1.0
    for one in made.passes:
        total *= 1 - one.reduction_pct / 100
    assert (1 - total) * 100 == pytest.approx(made.total_reduction_pct, abs=1e-6)
    assert made.end_length_mm * total == pytest.approx(100, rel=1e-6)
    fewest = math.ceil(math.log(total) / math.log(0.45) - 1e-9) - 1
    assert made.anneals >= fewest


@given(st.floats(12, 25), st.floats(0.5, 3), st.floats(0.05, 2))
def test_a_larger_or_thicker_ring_takes_more(inner: float, thick: float, more: float) -> None:
    here = found("ring-blank", inner_diameter_mm=inner, thickness_mm=thick).length_mm
    assert found("ring-blank", inner_diameter_mm=inner + more, thickness_mm=thick).length_mm == pytest.approx(
        here + math.pi * more
    )
    assert found("ring-blank", inner_diameter_mm=inner, thickness_mm=thick + more).length_mm == pytest.approx(
        here + math.pi * more
    )
    open_ring = found("open-ring", size=f"{max(10, inner):.4f} mm", wire_mm=thick, chord_mm=inner / 3)
    assert open_ring.length_mm + open_ring.removed_mm == pytest.approx(
        math.pi * (round(max(10, inner), 4) + thick)
    )


@given(st.floats(5, 60), st.floats(0.05, 1.0))
def test_a_domes_two_bounds_stand_in_order_and_scale(disc: float, share: float) -> None:
    depth = disc / math.pi * share
    one = found("dome", disc_mm=disc, thickness_mm=0.02 * disc, depth_mm=depth)
    assert one.across_low_mm <= one.across_high_mm + 1e-6 <= disc + 1e-5
    double = found("dome", disc_mm=2 * disc, thickness_mm=0.04 * disc, depth_mm=2 * depth)
    assert double.across_low_mm == pytest.approx(2 * one.across_low_mm, rel=1e-6)
    assert double.hole_mm == pytest.approx(2 * one.hole_mm, rel=1e-6)


@given(st.floats(3, 40), st.floats(3, 40), st.floats(0.1, 1))
def test_a_bezel_is_longer_than_its_stone_by_the_same_for_every_outline(
    wide: float, high: float, thick: float
) -> None:
    outlines = [{"kind": kind, "width_mm": wide, "height_mm": high} for kind in ("ellipse", "rect")]
    for outline in outlines:
        one = found("bezel-strip", outline=outline, thickness_mm=thick)
        assert one.length_mm - one.outline_mm == pytest.approx(math.pi * thick)


@given(
    st.lists(st.tuples(st.floats(3, 18), st.floats(3, 18), st.integers(1, 4)), min_size=1, max_size=5),
    st.floats(0, 1),
    st.floats(0, 2),
)
@hypothesis.example([(3.0, 3.0, 1), (3.0, 3.29001917019157, 1)], 1.0, 0.0)
def test_nested_outlines_lie_on_the_sheet_a_kerf_apart(
    wanted: list[tuple[float, float, int]], kerf: float, margin: float
) -> None:
    outlines = [
        {"outline": {"kind": "rect", "width_mm": w, "height_mm": h}, "count": n} for w, h, n in wanted
    ]
    made = found(
        "nest", outlines=outlines, sheet={"width_mm": 60, "height_mm": 50}, kerf_mm=kerf, margin_mm=margin
    )
    assert len(made.placed) + made.left_over == sum(n for _, _, n in wanted)
    lying = []
    for one in made.placed:
        wide, high, _ = wanted[one.outline]
        wide, high = (high, wide) if one.turned else (wide, high)
        lying.append(box(one.x_mm, one.y_mm, one.x_mm + wide, one.y_mm + high))
    room = box(margin, margin, 60 - margin, 50 - margin).buffer(0.011, join_style="mitre")
    assert all(room.contains(one) for one in lying)
    for n, one in enumerate(lying):
        assert all(one.distance(other) >= kerf - 1e-6 for other in lying[:n])


def test_nesting_begins_at_an_edge_and_draws_at_one_to_one() -> None:
    made = found(
        "nest",
        outlines=[{"outline": {"kind": "disc", "diameter_mm": 10}, "count": 3}],
        sheet={"width_mm": 60, "height_mm": 40},
        kerf_mm=0.3,
        margin_mm=1,
    )
    assert {one.y_mm for one in made.placed} == {1.0}
    assert (made.left_width_mm, made.left_height_mm) == (60, pytest.approx(28.7, abs=0.02))
    assert 'width="60mm" height="50mm" viewBox="0 0 60 50"' in made.svg
    first = made.svg.split('points="')[1].split('"')[0]
    drawn = Polygon([tuple(map(float, pair.split(","))) for pair in first.split()])
    assert drawn.bounds[2] - drawn.bounds[0] == pytest.approx(10, abs=0.01)
    assert "20 mm: measure this bar" in made.svg


def test_passes_that_take_too_much_are_told_once() -> None:
    made = found("draw-down", {"metal": S, "start": rnd(3), "end": rnd(1), "length_mm": 100}, TOOLS)
    (told,) = [caution for caution in made.cautions if caution.code == "pass-too-large"]
    assert told.text.startswith("3 passes take more than 15 %")
    assert "to 1.4 mm it is 78.2 %" in speak(told.text)
    (stop,) = [caution for caution in made.cautions if caution.code == "needs-anneal"]
    assert "78.2 % at once" in stop.text


@pytest.mark.parametrize(("supply", "main"), [("chips", "chips"), ("wire", "feed_mm"), ("paste", "paste_mg")])
def test_solder_is_shown_in_the_supply_that_was_asked_for(supply: str, main: str) -> None:
    one = calculator("solder-amount")
    answer = calculate(one.name, example(one.name, supply=supply))
    assert shown(one, answer.found, Units())[0].key == main
    assert "main" not in answer.plain()


def test_values_are_read_in_the_units_of_the_house() -> None:
    one = calculator("ear-wire")
    made = calculate(one.name, EXAMPLE_OF[one.name]).found
    told = {row.key: (row.text, row.other) for row in shown(one, made, Units())}
    assert told["cut_length_mm"] == ("43.25 mm", "1.703 in")
    assert told["bend_marks_mm"] == ("5, 9.9, 38.6 mm", "")
    inch = {row.key: row.text for row in shown(one, made, Units(length="inch"))}
    assert inch["cut_length_mm"] == "1.703 in"
    hot = shown(calculator("anneal"), found("anneal", EXAMPLE_OF["anneal"]), Units(temperature="f"))
    assert {row.key: row.text for row in hot}["low_c"] == "1094 °F"
    assert {row.key: row.text for row in hot}["needed"] == "yes"


@pytest.mark.parametrize(
    ("name", "one_way", "another"),
    [
        (
            "layout",
            {"along": "row", "length_mm": 42, "count": 5, "size_mm": 2},
            {"row_mm": 42, "count": 5, "size_mm": 2},
        ),
        ("layout", {"along": "circle", "diameter_mm": 24, "count": 6}, {"circle_mm": "24", "count": 6}),
        (
            "chain",
            {"link": {"kind": "round", "inner_diameter_mm": 5}, "wire_mm": 1, "length_mm": 99},
            {"link": {"kind": "round", "diameter_mm": 5}, "wire_mm": 1, "length_mm": 99},
        ),
        (
            "hang",
            {"parts": [{"mass_g": 2, "x_mm": 1, "y_mm": 9}], "pivot": {"x_mm": 3, "y_mm": 1}},
            {"parts": [{"mass_g": 2, "x_mm": 1, "y_mm": 9}], "pivot": [3, 1]},
        ),
        (
            "nest",
            {
                "outlines": [{"outline": {"kind": "disc", "diameter_mm": 9}, "count": 2}],
                "sheet": {"width_mm": 40, "height_mm": 20},
            },
            {
                "outlines": [{"kind": "disc", "diameter_mm": 9, "count": 2}],
                "sheet": {"width_mm": 40, "height_mm": 20},
            },
        ),
        (
            "draw-down",
            {"start": rnd(2), "end": rnd(1), "length_mm": 9},
            {"from": rnd(2), "to": rnd(1), "length_mm": 9},
        ),
    ],
)
def test_a_thing_may_be_said_in_more_ways_than_one(name: str, one_way: Any, another: Any) -> None:
    assert calculate(name, one_way).plain() == calculate(name, another).plain()

"""What no calculator takes: contradictions, nonsense and junk are refused with key, value, rule and remedy."""

import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.faults import Refused
from eskel_core.sizes import calculate, calculators

S = "sterling-925"
EXAMPLE_OF = {name: dict(one.example) for name, one in calculators().items()}


def rnd(diameter: float) -> dict[str, object]:
    return {"kind": "round", "diameter_mm": diameter}


# (calculator, input, code, path): what a smith may get wrong at the table.
REFUSED = [
    ("ring-blank", {"thickness_mm": 1}, "missing", "size"),
    ("ring-blank", {"size": "US 9"}, "missing", "thickness_mm"),
    (
        "ring-blank",
        {"size": "US 9", "inner_diameter_mm": 18, "thickness_mm": 1},
        "contradiction",
        "inner_diameter_mm",
    ),
    ("ring-blank", {"size": "9", "thickness_mm": 1}, "contradiction", "size"),
    ("ring-blank", {"size": "US 9", "thickness_mm": 0}, "out-of-range", "thickness_mm"),
    ("ring-blank", {"size": "US 9", "thickness_mm": -1}, "out-of-range", "thickness_mm"),
    ("ring-blank", {"size": "US 9", "thickness_mm": "thick"}, "not-a-length", "thickness_mm"),
    ("ring-blank", {"size": "US 9", "thicknes_mm": 1}, "unknown-key", "thicknes_mm"),
    (
        "ring-blank",
        {"size": "US 9", "thickness_mm": 2, "width_mm": 1, "section": "half-round"},
        "contradiction",
        "width_mm",
    ),
    ("ring-blank", {"size": "US 9", "thickness_mm": 2, "section": "oval"}, "not-a-choice", "section"),
    ("open-ring", {"size": "US 9", "wire_mm": 1.6, "chord_mm": 21}, "contradiction", "chord_mm"),
    (
        "cuff",
        {"wrist_mm": 160, "ease_mm": 0, "opening_mm": 160, "thickness_mm": 2},
        "contradiction",
        "opening_mm",
    ),
    ("jump-rings", {"inner_diameter_mm": 4, "wire_mm": 0}, "out-of-range", "wire_mm"),
    ("jump-rings", {"inner_diameter_mm": 4, "wire_mm": 1, "count": 0}, "out-of-range", "count"),
    (
        "chain",
        {"link": {"kind": "round", "inner_diameter_mm": 2}, "wire_mm": 1.2, "length_mm": 100},
        "contradiction",
        "link",
    ),
    ("chain", {"link": {"kind": "square"}, "wire_mm": 1.2, "length_mm": 100}, "not-a-choice", "link.kind"),
    ("twist", {"wire_mm": 1, "strands": 1, "pitch_mm": 6}, "out-of-range", "strands"),
    ("twist", {"wire_mm": 1, "strands": 8, "pitch_mm": 6}, "out-of-range", "strands"),
    ("twist", {"wire_mm": 1, "strands": 3, "pitch_mm": 2}, "contradiction", "pitch_mm"),
    ("scroll", {"outer_mm": 3, "inner_mm": 9, "pitch_mm": 0.7}, "contradiction", "inner_mm"),
    ("ball", {"metal": S, "ball_mm": 0.8, "wire_mm": 0.9}, "contradiction", "ball_mm"),
    ("ball", {"metal": S, "wire_mm": 2, "wire_length_mm": 0.5}, "contradiction", "wire_length_mm"),
    ("ball", {"metal": S, "ball_mm": 2}, "missing", "ball_mm"),
    (
        "ball",
        {"metal": S, "ball_mm": 2, "wire_mm": 1, "wire_length_mm": 9},
        "contradiction",
        "wire_length_mm",
    ),
    ("ball", {"metal": "tin", "ball_mm": 2, "wire_mm": 1}, "unknown-id", "metal"),
    (
        "balled-end",
        {"metal": S, "wire_mm": 1, "ball_mm": 2, "finished_length_mm": 2},
        "contradiction",
        "finished_length_mm",
    ),
    ("granules", {"metal": S, "ball_mm": 1.5, "wire_mm": 1}, "missing", "count"),
    ("ball", {"metal": "pewter", "ball_mm": 2, "wire_mm": 1}, "contaminated", "metal"),
    ("anneal", {"metal": "lead", "thickness_mm": 1}, "contaminated", "metal"),
    (
        "draw-down",
        {"metal": "unknown", "start": rnd(2), "end": rnd(1), "length_mm": 10},
        "unknown-metal",
        "metal",
    ),
    ("granules", {"metal": S, "ball_mm": 3, "wire_mm": 1, "mass_g": 0.01}, "out-of-range", "mass_g"),
    ("shot", {"metal": S, "outline": {"kind": "disc", "diameter_mm": 6}}, "missing", "depth_mm"),
    ("prong", {"metal": S, "wire_mm": 1, "ball_mm": 1.5}, "missing", "reach_mm"),
    (
        "prong",
        {"metal": S, "prongs": [{"reach_mm": 9, "wire_mm": 1, "ball_mm": 0.5}]},
        "contradiction",
        "prongs[0].ball_mm",
    ),
    ("bezel-strip", {"thickness_mm": 0.3}, "missing", "outline"),
    (
        "bezel-strip",
        {"outline": {"kind": "polygon", "points": [[0, 0], [9, 0], [2, 2], [0, 9]]}, "thickness_mm": 0.3},
        "contradiction",
        "outline",
    ),
    ("bezel-strip", {"perimeter_mm": 5, "thickness_mm": 0.3, "ease_mm": -9}, "contradiction", "ease_mm"),
    (
        "bezel-height",
        {"seat_mm": 1, "wall_mm": 2, "overlap_mm": 0.5, "bezel_outside_mm": 12, "sheet_mm": 10},
        "contradiction",
        "sheet_mm",
    ),
    ("dome", {"disc_mm": 18, "thickness_mm": 0.5}, "contradiction", "depth_mm"),
    (
        "dome",
        {"disc_mm": 18, "thickness_mm": 0.5, "depth_mm": 3, "hemisphere": True},
        "contradiction",
        "depth_mm",
    ),
    ("dome", {"disc_mm": 18, "thickness_mm": 0.5, "depth_mm": 8}, "contradiction", "depth_mm"),
    ("dome", {"disc_mm": 6, "thickness_mm": 3, "hemisphere": True}, "contradiction", "thickness_mm"),
    ("draw-down", {"metal": S, "start": rnd(1), "end": rnd(2), "length_mm": 10}, "contradiction", "end"),
    ("draw-down", {"metal": S, "start": rnd(2), "end": rnd(1)}, "missing", "length_mm"),
    (
        "draw-down",
        {"metal": "gold-filled-14-20", "start": rnd(2), "end": rnd(1), "length_mm": 9, "pass_pct": 40},
        "contradiction",
        "pass_pct",
    ),
    ("forge", {"metal": S, "before": rnd(2), "after": rnd(3), "length_mm": 10}, "contradiction", "after"),
    ("pour", {"metal": S, "profile": rnd(6), "length_mm": 80, "loss_pct": 100}, "out-of-range", "loss_pct"),
    ("post", {"ornament_mm": 12, "lobe_mm": 0, "nut_mm": 2}, "out-of-range", "lobe_mm"),
    ("link-fit", {"bore_mm": 4, "thicknesses_mm": []}, "out-of-range", "thicknesses_mm"),
    ("pickle-time", {"pickle": "bisulphate", "bath_c": 60, "copper_g_l": 30}, "bath-spent", "copper_g_l"),
    ("pickle-time", {"pickle": "bisulphate", "bath_c": 95}, "out-of-range", "bath_c"),
    ("pickle-time", {"pickle": "vinegar", "bath_c": 60}, "unknown-id", "pickle"),
    ("solder-amount", {"kind": "tee"}, "missing", "diameter_mm"),
    ("solder-amount", {"kind": "edge", "diameter_mm": 1}, "missing", "length_mm"),
    ("solder-amount", {"kind": "tee", "diameter_mm": 1, "solder": "us-hardest"}, "unknown-id", "solder"),
    ("layout", {"along": "row", "length_mm": 10, "count": 4, "size_mm": 4}, "contradiction", "count"),
    ("layout", {"along": "circle", "length_mm": 10, "count": 4}, "missing", "diameter_mm"),
    ("hang", {}, "missing", "parts"),
    ("cost", {"metal": S, "metal_g": 3, "price_per_g": 1, "scrap_g": 5}, "contradiction", "scrap_g"),
    ("cost", {"metal": S, "metal_g": 3}, "missing", "price_per_g"),
    ("readings", {"readings_mm": [1], "zero_mm": 2}, "contradiction", "zero_mm"),
    (
        "nest",
        {
            "outlines": [{"outline": {"kind": "disc", "diameter_mm": 30}}],
            "sheet": {"width_mm": 60, "height_mm": 25},
        },
        "contradiction",
        "outlines[0]",
    ),
    ("ring-blank", {"size": "US 9", "thickness_mm": 1, "pieces": 0}, "out-of-range", "pieces"),
    (
        "nest",
        {
            "outlines": [{"kind": "disc", "diameter_mm": 3, "count": 2001}],
            "sheet": {"width_mm": 60, "height_mm": 25},
        },
        "out-of-range",
        "outlines",
    ),
    ("polish", {}, "unknown-id", "name"),
    ("scroll", {"outer_mm": 9, "inner_mm": 1, "pitch_mm": 0.001}, "out-of-range", ""),
    ("balled-end", {"metal": S, "wire_mm": 0.01, "ball_mm": 2, "finished_length_mm": 40}, "out-of-range", ""),
]


@pytest.mark.parametrize(
    ("name", "given", "code", "path"),
    REFUSED,
    ids=[f"{row[0]}-{row[3]}-{n}" for n, row in enumerate(REFUSED)],
)
def test_what_contradicts_itself_is_refused(name: str, given: dict[str, Any], code: str, path: str) -> None:
    with pytest.raises(Refused) as caught:
        calculate(name, given)
    faults = {(fault.code, fault.path): fault for fault in caught.value.faults}
    assert (code, path) in faults
    assert faults[code, path].rule
    assert faults[code, path].remedy


@pytest.mark.parametrize(
    "given",
    [
        [],
        None,
        3,
        "x",
        {"size": None},
        {"size": [[]], "thickness_mm": {}},
        {"size": 1e308, "thickness_mm": float("inf")},
    ],
)
def test_any_other_input_is_refused_too(given: Any) -> None:
    with pytest.raises(Refused):
        calculate("ring-blank", given)


JUNK = st.recursive(
    st.none()
    | st.booleans()
    | st.integers()
    | st.floats(allow_nan=True)
    | st.sampled_from(["", "0", "1e5", "18 ga", "US 9", "nought", "-3", "round"])
    | st.floats(1e-9, 1e-3)
    | st.floats(1e3, 1e9),
    lambda inner: (
        st.lists(inner, max_size=3)
        | st.dictionaries(st.sampled_from(["kind", "width_mm", "x"]), inner, max_size=3)
    ),
    max_leaves=4,
)


@pytest.mark.parametrize("name", list(EXAMPLE_OF))
@settings(max_examples=20)
@given(data=st.data())
def test_junk_under_any_key_is_answered_or_refused_and_never_a_trace(name: str, data: st.DataObject) -> None:
    key = data.draw(st.sampled_from([*EXAMPLE_OF[name], "pieces", "colour"]))
    try:
        answer = calculate(name, {**EXAMPLE_OF[name], key: data.draw(JUNK)})
    except Refused:
        return
    json.dumps(answer.plain(), allow_nan=False)


def test_pewter_that_is_drawn_cold_all_the_way_needs_no_flame() -> None:
    found = calculate("draw-down", {"metal": "pewter", "start": rnd(2), "end": rnd(1), "length_mm": 10})
    assert found.found.model_dump()["anneals"] == 0

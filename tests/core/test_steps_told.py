"""What the steps say: numbers, names, how many alike, no more than is read in a hurry."""

from pathlib import Path
from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.piece import parse_piece
from eskel_core.plan import HeatStep, Plan, PrepareStep, WorkStep, plan
from eskel_core.units import speak
from tests.core.pieces import EXAMPLES, join, piece, plate, wire


def kinds(made: Plan) -> list[str]:
    return [step.work_kind if isinstance(step, WorkStep) else step.kind for step in made.steps]


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name.split(".")[0])
def test_no_step_of_the_demo_pieces_has_more_than_five_lines_beside_its_signs(path: Path) -> None:
    made = plan(parse_piece(path.read_bytes()))
    for step in made.steps:
        told = [caution.code for caution in made.cautions if caution.step == step.n]
        assert len(step.lines) + len(told) <= 5, (step.n, step.lines, told)
        assert len(told) == len(set(told))
    dangers = [caution.severity == "danger" for caution in made.cautions]
    assert dangers == sorted(dangers, reverse=True)


def test_flame_flux_and_placing_are_chosen_for_one_heat_alone() -> None:
    rows = [
        join("a", "p", "w", heat_from="below", flux="borax-paste", placing="paste"),
        join("b", "p", "v", after=["a"]),
    ]
    made = plan(piece([plate("p"), wire("w"), wire("v")], rows, house={"flux_with_paste": "no"}))
    own, usual = (step for step in made.steps if isinstance(step, HeatStep))
    assert (own.heat_from, own.flux, usual.heat_from, usual.flux) == (
        "below",
        "borax-paste",
        "above",
        "white-paste",
    )
    assert "the flame under p" in own.text
    assert "the flame on p" in usual.text
    assert [sign.at_c for sign in own.signs[:3]] == [100, 250, 740]
    fitted = [step.text for step in made.steps if isinstance(step, PrepareStep)][1:]
    assert "No flux but the paste's own. Lay hard solder (a: 1 dot of" in fitted[0]
    assert "Flux. Lay medium solder (b: 1 chip of" in fitted[1]


def test_a_flux_that_nobody_knows_is_refused() -> None:
    with pytest.raises(Refused, match=r"joins\[0\].flux"):
        piece([plate("p"), wire("w")], [join("a", "p", "w", flux="butter")])


def test_an_anneal_takes_its_own_flame() -> None:
    work = [{"id": "soften", "kind": "anneal", "parts": ["w"], "heat_from": "below"}]
    (heat,) = [step for step in plan(piece([wire("w")], [], work=work)).steps if isinstance(step, HeatStep)]
    assert (heat.heat_from, heat.flux) == ("below", None)


def test_what_is_melted_and_poured_is_not_left_to_cool_between() -> None:
    melt = {"id": "melt", "kind": "melt", "parts": ["bar"], "mass_g": 22}
    pour = {"id": "pour", "kind": "pour", "parts": ["bar"], "after": ["melt"]}
    stamp = {"id": "stamp", "kind": "texture", "parts": ["bar"], "after": ["melt"], "before": ["pour"]}
    straight = plan(piece([wire("bar")], [], work=[melt, pour]))
    apart = plan(piece([wire("bar")], [], work=[melt, pour, stamp]))
    cold = ["cool", "pickle", "inspect"]
    assert kinds(straight) == ["prepare", "prepare", "heat", "heat", *cold], "and the mould is warm before"
    assert kinds(apart) == ["prepare", "heat", *cold, "texture", "prepare", "heat", *cold]
    fine = plan(piece([wire("bar", "fine-silver-999")], [], work=[melt, pour]))
    assert kinds(fine) == ["prepare", "prepare", "heat", "heat", "cool", "inspect"], (
        "what has no scale needs no pot"
    )


ALIKE = [
    # strands bound at both ends are one from then on, and are twisted together before that as well
    (
        {"kind": "bundle", "between": ["s", "s"]},
        {"kind": "twist", "turns": 4},
        ["prepare 1", "heat 1", "twist 1"],
    ),
    # rings closed one by one stay as many as they are
    ({"kind": "butt", "between": ["s", "s"]}, {"kind": "bend"}, ["prepare 3", "heat 3", "bend 3"]),
    # laid on one plate they are one body, and are still bent one by one before
    ({"kind": "line", "between": ["s", "p"]}, {"kind": "drill"}, ["prepare 1", "heat 1", "drill 3"]),
]


@pytest.mark.parametrize(("row", "work", "told"), ALIKE)
def test_how_many_alike_a_step_is_done_on(row: dict[str, Any], work: dict[str, Any], told: list[str]) -> None:
    rows = [{"id": "j", "holds": "seated", **row}]
    works = [{"id": "w", "parts": ["s"], "after": ["j"], **work}]
    made = plan(piece([wire("s", count=3), plate("p")], rows, work=works))
    steps = [step for step in made.steps[1:] if step.kind in ("prepare", "heat", "work")]
    names = [step.work_kind if isinstance(step, WorkStep) else step.kind for step in steps]
    assert [f"{name} {step.alike}" for name, step in zip(names, steps, strict=True)] == told


def test_so_much_solder_that_nobody_counts_is_a_strip_of_sheet() -> None:
    made = plan(piece([plate("a"), plate("b")], [join("j", "a", "b", kind="overlay", placing="sweat")]))
    (fitted,) = [step for step in made.steps if isinstance(step, PrepareStep)][1:]
    assert "a strip of sheet of 10 × 10" in speak(fitted.text)
    assert "snipped to 1 × 1 mm" in speak(fitted.text)


@pytest.mark.parametrize(
    ("solders", "solder", "named"),
    [
        (["us-hard"], "us-hard", "hard"),
        (["us-hard", "uk-hard"], "us-hard", "hard silver solder, US"),
        (["cu-p"], "cu-p", "copper-phosphorus rod"),
    ],
)
def test_a_solder_is_named_as_short_as_says_which(solders: list[str], solder: str, named: str) -> None:
    parts = [wire("a", "copper"), wire("b", "copper")]
    made = plan(piece(parts, [join("j", "a", "b", solder=solder)], bench={"solders": solders}))
    (heat,) = [step for step in made.steps if isinstance(step, HeatStep)]
    assert heat.joins[0].named == named


def test_a_rod_is_fed_in_a_house_of_paste_and_no_rule_speaks_of_paste() -> None:
    parts = [plate("a", "copper"), plate("b", "copper")]
    row = join("j", "a", "b", kind="overlay")
    codes = {}
    for solder in ("cu-p", "us-hard"):
        made = plan(
            piece(parts, [row | {"solder": solder}], house={"placing": "paste"}, bench={"solders": [solder]})
        )
        (heat,) = [step for step in made.steps if isinstance(step, HeatStep)]
        codes[solder] = heat.joins[0].placing, "paste-weak" in {caution.code for caution in made.cautions}
    assert codes == {"cu-p": ("fed-wire", False), "us-hard": ("paste", True)}


GRAIN = {"id": "grain", "metal": "fine-silver-999", "form": {"kind": "ball", "diameter_mm": 1.2}}


@pytest.mark.parametrize(
    ("many", "least", "most", "words"),
    [
        (12, 5, 10, "hollows of the block"),
        (200, 10, 20, "in rows"),
        (1000, 20, 45, "charcoal powder"),
    ],
)
def test_grains_are_melted_by_the_lot(many: int, least: float, most: float, words: str) -> None:
    """A smith melts a thousand in a crucible of charcoal powder in half an hour, not one after another in eight."""
    work = [{"id": "melt", "kind": "melt", "parts": ["grain"]}]
    (heat,) = [
        step
        for step in plan(piece([GRAIN | {"count": many}], [], work=work)).steps
        if isinstance(step, HeatStep)
    ]
    assert least <= heat.minutes <= most
    assert words in heat.text
    assert heat.alike == many


def test_two_lengths_in_one_work_keep_their_counts_and_their_time() -> None:
    pins = [wire("short", count=12), wire("long", count=8)]
    work = [{"id": "balls", "kind": "ball", "parts": ["short", "long"], "ball_mm": 1.8}]
    both, one = (
        next(step for step in plan(piece(parts, [], work=[row])).steps if isinstance(step, HeatStep))
        for parts, row in ((pins, work[0]), (pins[:1], work[0] | {"parts": ["short"]}))
    )
    assert "short, each of the twelve, and long, each of the eight" in both.text
    assert both.alike == 20
    assert both.minutes > 1.5 * one.minutes

"""Small inputs that would occupy a machine for long: each is refused with its rule before anything is built."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from typing import Any

import pytest

from eskel_core.cutting import cut_and_solder, cut_list_csv
from eskel_core.faults import Fault, Refused
from eskel_core.forms import PathOutline, outline_area_mm2
from eskel_core.picture import draw
from eskel_core.piece import check_text, load_json, parse_piece, piece_from_object
from eskel_core.plan import plan, why_join
from eskel_core.shapes import read_outline
from tests.core import pieces

Plain = dict[str, Any]


def whole(**keys: Any) -> Plain:
    return {"format": "eskel-piece/1", "name": "Attack", **keys}


def part(name: str, **keys: Any) -> Plain:
    return pieces.wire(name, **keys)


def sheet(path: str) -> Plain:
    outline = {"kind": "path", "path": path}
    return whole(parts=[part("a", form={"kind": "sheet", "thickness_mm": 1, "outline": outline})])


def star(points: int) -> str:
    turn = 2 * math.pi * (points // 2) / points
    return (
        "M"
        + " ".join(f"{9 * math.cos(n * turn):.3f} {9 * math.sin(n * turn):.3f}" for n in range(points))
        + "Z"
    )


def in_a_row(kind: str, count: int, last: str | None = None) -> Plain:
    work = [{"id": f"w{n}", "kind": kind, "parts": ["a"]} for n in range(count)]
    for n, one in enumerate(work):
        before = f"w{n - 1}" if n else last
        one |= {"after": [before]} if before else {}
    return whole(parts=[part("a")], work=work)


REFUSED: dict[str, tuple[Callable[[], Plain], str, str]] = {
    "a star of 4001 points": (lambda: sheet(star(4001)), "too-large", "parts[0].form.outline"),
    "two thousand loops": (
        lambda: sheet(" ".join(f"M{n % 50} {n // 50}h.5v.5h-.5Z" for n in range(2000))),
        "too-large",
        "parts[0].form.outline",
    ),
    "curves without end": (
        lambda: sheet("M0 0" + "c9 2 9 2 30 0" * 3000 + "V-30H0Z"),
        "too-large",
        "parts[0].form.outline",
    ),
    "a path to infinity": (lambda: sheet("M0 0L1e308 0L0 1e308Z"), "out-of-range", "parts[0].form.outline"),
    "a path of no numbers": (lambda: sheet("M0 0L1e999 0L0 5Z"), "out-of-range", "parts[0].form.outline"),
    "a million alike parts": (
        lambda: whole(parts=[part(f"a{n}", count=1000) for n in range(1000)]),
        "too-large",
        "parts",
    ),
    "alike parts, each on each": (
        lambda: whole(
            parts=[part("a", count=900), part("b", count=899)],
            joins=[{"id": "j", "kind": "tee", "between": ["a", "b"]}],
        ),
        "too-large",
        "joins[0].between",
    ),
}


@pytest.mark.parametrize("name", REFUSED)
def test_a_small_piece_of_much_work_is_refused(name: str) -> None:
    make, code, path = REFUSED[name]
    with pytest.raises(Refused) as told:
        piece_from_object(make())
    assert {(fault.code, fault.path) for fault in told.value.faults} == {(code, path)}


@pytest.mark.parametrize("count", [0.99, 1.01])
def test_the_edge_of_how_many_alike_parts(count: float) -> None:
    numbers = [math.floor(count * 1000), 1000]
    plain = whole(
        parts=[part(f"a{n}", count=min(1000, one)) for n, one in enumerate(numbers)] + [part("one")]
    )
    if count < 1:
        assert len(draw(piece_from_object(plain)).parts) == sum(numbers) + 1
    else:
        with pytest.raises(Refused):
            piece_from_object(plain)


DRAWINGS: dict[str, tuple[str, str, str]] = {
    "a circle as wide as a planet": (
        "a.dxf",
        "0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n1e12\n0\nENDSEC\n0\nEOF\n",
        "out-of-range",
    ),
    "uses within uses": (
        "a.svg",
        '<svg xmlns="http://www.w3.org/2000/svg" width="9mm"><g id="g0"><path d="M0 0h1v1z"/></g>'
        + "".join(f'<g id="g{n}">' + f'<use href="#g{n - 1}"/>' * 4 + "</g>" for n in range(1, 12))
        + "</svg>",
        "too-large",
    ),
    "a use of itself": (
        "a.svg",
        '<svg xmlns="http://www.w3.org/2000/svg" width="9mm"><g id="g"><use href="#g"/></g></svg>',
        "too-large",
    ),
    "a tangle of open lines": (
        "a.svg",
        '<svg xmlns="http://www.w3.org/2000/svg" width="9mm">'
        + "".join(f'<path d="M0 {n}L100 {100 - n}"/>' for n in range(100))
        + "</svg>",
        "too-large",
    ),
}


@pytest.mark.parametrize("name", DRAWINGS)
def test_a_small_drawing_of_much_work_is_refused(name: str) -> None:
    file, text, code = DRAWINGS[name]
    with pytest.raises(Refused) as told:
        read_outline(file, text, "mm")
    assert told.value.faults[0].code == code


def test_a_drawing_far_off_on_its_sheet_is_read_from_its_corner() -> None:
    far = '<svg xmlns="http://www.w3.org/2000/svg" width="9mm"><path d="M90000 90000h10v5h-10z"/></svg>'
    assert read_outline("a.svg", far, "mm").area_mm2 == pytest.approx(50)


@pytest.mark.parametrize(
    ("path", "area"),
    [
        ("M0 0 A5 5 0 0 0 10 0 A5 5 0 0 0 0 0Z", math.pi * 25),
        ("M0 0 Q5 10 10 0Z", 2 / 3 * 10 * 5),
    ],
)
def test_curves_are_drawn_as_finely_as_a_caliper_reads(path: str, area: float) -> None:
    """The parabola under a quadratic curve is two thirds of its box (Archimedes); a circle is pi r squared."""
    found = outline_area_mm2(PathOutline(kind="path", path=path))
    assert found == pytest.approx(area, rel=1e-3)


@pytest.mark.parametrize(("kind", "count"), [("anneal", 400), ("bend", 300)])
def test_long_chains_of_work_are_planned_or_refused_at_once(kind: str, count: int) -> None:
    piece = piece_from_object(in_a_row(kind, count))
    if kind == "anneal":
        with pytest.raises(Refused) as told:
            plan(piece)
        assert told.value.faults[0].code == "undecided"
    else:
        made = plan(piece)
        done = [step.work for step in made.steps if step.kind == "work" and step.work]
        assert [one for one in done if one.startswith("w")] == [f"w{n}" for n in range(count)]


def test_orders_that_go_round_among_work_without_heat_are_a_conflict() -> None:
    made = plan(piece_from_object(in_a_row("bend", 3, last="w2")))
    assert made.status == "impossible"
    assert made.conflict is not None
    assert set(made.conflict.ids) == {"w0", "w1", "w2"}
    assert len(made.conflict.demands) == 3


def test_orders_that_go_round_through_a_heat_and_work_are_a_conflict() -> None:
    work = [{"id": "w", "kind": "bend", "parts": ["w0"], "after": ["j0"]}]
    made = plan(pieces.chain(2, [pieces.join("j0", "w0", "w1", after=["w"])], work=work))
    assert made.status == "impossible"
    assert made.conflict is not None
    assert set(made.conflict.ids) >= {"w"}


@pytest.mark.parametrize("text", ["a\x00b", "bell\x07", "\x1b[31m", "\x85", "\ud800"])
def test_control_signs_are_refused_in_any_text(text: str) -> None:
    with pytest.raises(Refused) as told:
        parse_piece(json.dumps(whole(notes=text)))
    assert told.value.faults[0].code == "bad-text"
    with pytest.raises(Refused):
        check_text(text)


@pytest.mark.parametrize("text", ["a\ttab", "two\nlines", "7/16″ × 3 Ø", "銀", "😀"])
def test_other_signs_are_taken_and_come_back(text: str) -> None:
    assert parse_piece(json.dumps(whole(notes=text))).notes == text


@pytest.mark.parametrize("number", ["9" * 400, "1e999", "-1e999", "NaN", "Infinity", "1" + "0" * 40])
def test_numbers_that_nothing_has_are_refused(number: str) -> None:
    with pytest.raises(Refused):
        load_json(f'{{"count": {number}}}')


def test_refusals_end_somewhere() -> None:
    plain = whole(parts=[{"id": "x" * 3000, "nonsense": "y" * 3000} for _ in range(1000)])
    with pytest.raises(Refused) as told:
        piece_from_object(plain)
    faults = told.value.faults
    assert len(faults) == 101
    assert faults[-1] == Fault(
        code="more-faults",
        path="",
        value=4000,
        rule="the first 100 faults are told of 4000",
        remedy="Mend those first.",
    )
    assert len(json.dumps([fault.model_dump(mode="json") for fault in faults])) < 150_000


def test_a_question_of_why_has_an_effort_and_says_what_it_left() -> None:
    piece = pieces.chain(4, [pieces.join(f"j{n}", f"w{n}", f"w{n + 1}") for n in range(3)])
    assert "undecided" not in {alternative.verdict for alternative in why_join(piece, "j1").alternatives}
    none = why_join(piece, "j1", effort=0.0)
    assert [alternative.title for alternative in none.alternatives] == [
        alternative.title for alternative in why_join(piece, "j1").alternatives
    ]


@pytest.mark.parametrize("name", ["=1+1", "+cmd", "-2", "@sum"])
def test_a_name_is_never_a_formula_of_the_sheet(name: str) -> None:
    piece = piece_from_object(whole(parts=[part("a") | {"name": name}]))
    text = cut_list_csv(cut_and_solder(piece, plan(piece)))
    assert f"\n'{name}," in text

"""The rules of small and loose things and of the finish: each speaks where it applies, and is silent beside it."""

from typing import Any

import pytest

from eskel_core.piece import Piece
from eskel_core.plan import plan
from tests.core.pieces import join, piece, plate, wire

S = "sterling-925"


def codes(made: Piece) -> dict[str, list[str]]:
    """What each rule speaks of, by its code."""
    told: dict[str, list[str]] = {}
    for caution in plan(made).cautions:
        told.setdefault(caution.code, []).append(caution.text)
    return told


def ball(name: str, size: float, **more: Any) -> dict[str, Any]:
    return {"id": name, "metal": S, "form": {"kind": "ball", "diameter_mm": size}, **more}


def ring(name: str, **more: Any) -> dict[str, Any]:
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1}, "length_mm": 20, "closed": True}
    return {"id": name, "metal": S, "form": form, **more}


def beads(size: float, count: int, **more: Any) -> Piece:
    made = {"kind": "seat", "holds": "own-weight", **more}
    return piece([plate("p"), ball("b", size, count=count)], [join("j", "p", "b", **made)])


@pytest.mark.parametrize(
    ("made", "speaks"),
    [
        (beads(1.5, 4), True),
        (beads(1.5, 1), False),
        (beads(3.5, 4), False),
        (beads(1.5, 4, holds="seated"), False),
    ],
)
def test_several_small_loose_parts_drift_on_one_pool(made: Piece, speaks: bool) -> None:
    assert ("parts-drift" in codes(made)) is speaks


def opened(**heated: Any) -> Piece:
    rows = [
        join("solder", "r", "p", **{"kind": "tee", **heated}),
        {"id": "open", "kind": "ring-open", "between": ["r", "p"], "at": [0, 0]},
    ]
    return piece([plate("p"), ring("r")], rows)


@pytest.mark.parametrize(
    ("made", "speaks"),
    [
        (opened(at=[1, 1]), True),
        (opened(at=[0, 6]), False),
        (opened(at=[2.0, 0]), True),
        (opened(at=[2.1, 0]), False),
        (opened(), False),
        (opened(kind="butt", between=["r", "r"]), True),
    ],
)
def test_a_ring_to_be_opened_is_not_soldered_at_its_split(made: Piece, speaks: bool) -> None:
    assert ("split-in-solder" in codes(made)) is speaks


def frame(loose: int, across: int = 3) -> Piece:
    """Two rails, and cross wires each laid over both, the first few over one rail alone."""
    parts = [wire("r0"), wire("r1"), *(wire(f"c{n}") for n in range(across))]
    rows = []
    for n in range(across):
        for rail in ("r0",) if n < loose else ("r0", "r1"):
            rows.append(join(f"{rail}c{n}", rail, f"c{n}", kind="cross"))
    return piece(parts, rows)


@pytest.mark.parametrize(("loose", "speaks"), [(0, []), (1, ["c0 is held at one place only."])])
def test_a_wire_of_a_frame_is_held_at_two_places(loose: int, speaks: list[str]) -> None:
    assert codes(frame(loose)).get("frame-loose", []) == speaks


@pytest.mark.parametrize(("across", "speaks"), [(1, False), (2, True)])
def test_from_four_wires_on_it_is_a_frame(across: int, speaks: bool) -> None:
    assert ("frame-loose" in codes(frame(1, across))) is speaks


@pytest.mark.parametrize(
    ("part", "speaks"),
    [
        (ball("b", 4), True),
        (ball("b", 2.1), True),
        (ball("b", 1.9), False),
        (ball("b", 1.5), False),
        (ball("b", 4, bought_in=True), False),
    ],
)
def test_a_large_ball_melted_loose_has_a_flat(part: dict[str, Any], speaks: bool) -> None:
    """Sterling, 4 mm: 2.03 mm of flat, above a quarter of 4; the share grows with the size, and is a quarter at 1.97 mm."""
    assert ("ball-flat" in codes(piece([plate("p"), part], [join("j", "p", "b")]))) is speaks


def test_a_seam_that_is_seen_is_told_unless_a_later_join_covers_it() -> None:
    seam = join("seam", "r", "r", kind="butt", visible=True, at=[0, 5])
    cover = join("cover", "r", "p", kind="tee", after=["seam"], at=[0, 5])
    assert codes(piece([ring("r")], [seam]))["seam-in-sight"] == ["The seam of r is seen."]
    assert "seam-in-sight" not in codes(piece([ring("r"), plate("p")], [seam, cover]))
    assert "seam-in-sight" not in codes(piece([ring("r")], [{**seam, "visible": False}]))


def trimmed(**more: Any) -> Piece:
    work = [{"id": "cut", "kind": "trim", "parts": ["post"], "after": ["j"]}]
    return piece([plate("p"), wire("post", **more)], [join("j", "p", "post")], work=work)


def test_what_is_trimmed_is_cut_longer_first() -> None:
    longer = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1.0}, "length_mm": 30}
    assert "cut-short" in codes(trimmed())
    assert "cut-short" in codes(trimmed(rough={**longer, "length_mm": 20}))
    assert "cut-short" not in codes(trimmed(rough=longer))


@pytest.mark.parametrize(
    ("stages", "speaks"),
    [
        ([240, 400, 800], []),
        ([240, 800], ["240", "800"]),
        ([800, 400], []),
        (["felt", "rouge"], []),
        (["400", "Tripoli", "red rouge"], []),
        ([220, "tripoli"], ["220", "tripoli"]),
        (["600 grit", "rouge"], ["600", "rouge"]),
    ],
)
def test_a_grit_is_at_most_twice_as_fine_as_the_one_before(stages: list[Any], speaks: list[str]) -> None:
    work = [
        {"id": f"f{n}", "kind": "finish", "parts": ["p"], "stage": stage, "after": [f"f{n - 1}"] * (n > 0)}
        for n, stage in enumerate(stages)
    ]
    told = codes(piece([plate("p")], [], work=work)).get("grit-skipped", [])
    assert len(told) == bool(speaks)
    assert all(figure in told[0] for figure in speaks)


def test_steel_tools_after_the_pot_want_a_dry_piece() -> None:
    after = {"id": "size", "kind": "size", "parts": ["a"], "after": ["j"]}
    before = {"id": "roll", "kind": "roll", "parts": ["a"], "before": ["j"], "reduction_pct": 10}
    parts, rows = [wire("a"), wire("b")], [join("j", "a", "b")]
    assert codes(piece(parts, rows, work=[after]))["wet-on-steel"] == [
        "a is wet: it rusts what it is worked on."
    ]
    assert "wet-on-steel" not in codes(piece(parts, rows, work=[before]))


def test_sealing_comes_last() -> None:
    seal = {"id": "wax", "kind": "seal", "parts": ["p"]}
    dark = {"id": "dark", "kind": "darken", "parts": ["p"], "times": 1}
    assert "seal-last" not in codes(piece([plate("p")], [], work=[seal, dark]))
    assert "seal-last" in codes(piece([plate("p")], [], work=[seal, {**dark, "after": ["wax"]}]))
    assert "seal-last" in codes(piece([plate("p")], [], work=[{**seal, "before": ["dark"]}, dark]))
    other = {**dark, "parts": ["q"], "after": ["wax"]}
    assert "seal-last" not in codes(piece([plate("p"), plate("q")], [], work=[seal, other]))


SHOWS = [
    ("a seam that is seen", {}, [], True),
    ("one inside", {"face": "inside"}, [], False),
    ("darkened all over", {}, [{"id": "dark", "kind": "darken", "parts": ["p", "w"]}], False),
    ("only the one part darkened", {}, [{"id": "dark", "kind": "darken", "parts": ["w"]}], True),
]


@pytest.mark.parametrize(
    ("more", "work", "speaks"), [row[1:] for row in SHOWS], ids=[row[0] for row in SHOWS]
)
def test_white_solder_on_copper_is_told_of_where_it_will_be_seen(
    more: dict[str, Any], work: list[dict[str, Any]], speaks: bool
) -> None:
    parts = [plate("p", "copper"), wire("w", "copper")]
    told = codes(piece(parts, [join("j", "p", "w", visible=True, **more)], work=work))
    assert ("solder-shows" in told) is speaks


@pytest.mark.parametrize(
    ("marks", "speaks"), [([], True), ([10], False), ([10, 2.5], True), ([3.5], False), ([57], True)]
)
def test_forming_at_marks_that_stay_clear_of_the_seam_is_not_spoken_of(
    marks: list[float], speaks: bool
) -> None:
    """The seam lies at both ends of 58 mm; 3 mm beside it are reached."""
    form = {"kind": "strip", "width_mm": 3, "thickness_mm": 1, "length_mm": 58, "closed": True}
    rows = [{"id": "seam", "kind": "butt", "between": ["band", "band"]}]
    work = [{"id": "bend", "kind": "bend", "parts": ["band"], "after": ["seam"], "marks_mm": marks}]
    told = codes(piece([{"id": "band", "metal": "sterling-925", "form": form}], rows, work=work))
    assert ("form-through-join" in told) is speaks

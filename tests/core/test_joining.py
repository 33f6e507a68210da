"""Joins by pointing: what two parts call for, in a smith's eye; a line for each choice says why."""

from typing import Any

import pytest

from eskel_core.faults import Refused
from eskel_core.joining import propose
from eskel_core.lines import read_line
from eskel_core.piece import Piece, piece_from_object, record_object
from eskel_core.starts import begin, starts

UP = {"stands": "upright"}
STEEL = {"holds": "bound", "bound_with": "steel"}
SEATED = {"holds": "seated"}
HAND = {"holds": "hand"}


def put(line: str, place: dict[str, Any] | None = None, part_id: str = "") -> dict[str, Any]:
    plain = record_object(read_line(line).part)
    return plain | ({"place": place} if place is not None else {}) | ({"id": part_id} if part_id else {})


def of(*parts: dict[str, Any], **more: Any) -> Piece:
    return piece_from_object({"format": "eskel-piece/1", "name": "test", "parts": list(parts), **more})


# (line of a, line of b or "" for the same, kind, other keys): what an experienced smith would take for granted.
PAIRS: list[tuple[str, str, str, dict[str, Any]]] = [
    # One part on itself.
    ("jump ring 5 id 1.0 wire", "", "butt", SEATED),
    ("jump ring 5 id 1.0 wire fine", "", "fuse", SEATED),
    ("half-round 3.2 × 1.7 ring US 7", "", "butt", SEATED),
    ("bezel 0.35 × 3.2 round 14 × 10 oval fine", "", "butt", SEATED),
    ("band 5 × 1.5 US 8", "", "butt", SEATED),
    ("square 1.1 × 20.4 closed", "", "butt", SEATED),
    ("wire 1 × 40", "", "butt", SEATED),
    ("4 × wire 2 × 280 copper", "", "bundle", STEEL),
    ("2 × wire 1.6 × 170", "", "bundle", STEEL),
    ("tube 5 × 0.5 × 40", "", "butt", SEATED),
    ("bail 5 × 0.8 × 16", "", "overlay", {"holds": "clipped", "bound_with": "steel"}),
    ("sheet 30 × 18 × 0.5", "", "butt", STEEL),
    # Posts, pins and balls on sheet.
    ("disc 11 × 0.75", "post 0.85 × 12 through the ear", "tee", HAND | {"face": "back", "structural": True}),
    ("disc 11 × 0.75", "wire 0.9 × 11", "tee", HAND | {"face": "front"}),
    ("sheet 30 × 20 × 0.9", 'wire 1 × 9 springy "Brooch stem"', "tee", HAND | {"face": "back"}),
    ("sheet 25 × 25 × 0.9", "12 × ball 1.6", "tee", SEATED | {"face": "front"}),
    ("ball 4", "sheet 26 × 14 × 0.8", "tee", SEATED),
    ("ball 6", "wire 1 × 12", "tee", SEATED),
    ("ball 3", "ball 3.5", "tee", SEATED),
    ("ball 2", "tube 3 × 0.4 × 8", "tee", SEATED),
    ("ball 2", "strip 5 × 0.8 × 16", "tee", SEATED),
    ("ball 8", "jump ring 3 id 0.9 wire", "tee", SEATED),
    # Wire along sheet, borders, shanks, eyes.
    ("sheet 30 × 20 × 0.9", "wire 1 × 26", "line", {"face": "front"}),
    ("sheet 30 × 20 × 0.9", "half-round 3 × 1.5 × 12", "line", {"face": "front"}),
    ("oval 22 × 17 × 0.8", "wire 0.8 × 50 closed", "line", {"face": "front", "visible": True}),
    ("sheet 24 × 18 × 0.9", "wire 1 × 60 closed gold-filled", "line", {}),
    ("disc 15 × 0.8", "half-round 3.2 × 1.7 ring US 7", "seat", {"face": "back", "structural": True}),
    ("oval 16 × 12 × 0.7", "ring wire 1.6 US 6", "seat", {"face": "back"}),
    ("sheet 30 × 24 × 0.9", "jump ring 3 id 1 wire", "tee", SEATED | {"face": "edge", "structural": True}),
    ("sheet 12 × 28 × 0.8", "loop 1 × 9 long closed", "tee", SEATED | {"face": "edge"}),
    # Strips, tubes, sheets on sheet.
    ("oval 16 × 12 × 0.7", "bezel 0.35 × 3.2 round 14 × 10 oval fine", "edge", {"face": "front"}),
    ("sheet 38 × 24 × 1.0", "walls 6 × 0.9 × 120 closed", "edge", {"structural": True}),
    ("sheet 30 × 24 × 0.9", "bail 5 × 0.8 × 16", "line", HAND | {"face": "back"}),
    ("sheet 34 × 24 × 1.0", "strip 3 × 0.8 × 12", "line", {"face": "back"}),
    ("sheet 30 × 18 × 0.9", "tube 3 × 0.4 × 6", "line", {"face": "back"}),
    ("sheet 30 × 18 × 0.9", "2 × tube 3 × 0.4 × 6", "line", {"face": "back"}),
    ("sheet 30 × 18 × 0.9", "collet 3 × 0.4 × 3", "line", {"face": "back"}),
    ("sheet 30 × 18 × 0.9", "tube 5 × 0.5 × 4", "tee", SEATED),
    ("tube 6 × 0.6 × 150", "disc 6 × 0.8", "edge", STEEL),
    ("tube 5 × 0.5 × 40", "disc 5.2 × 0.8", "edge", STEEL),
    ("disc 14 × 0.5 domed 4", "disc 14 × 0.5 domed 4", "butt", STEEL | {"encloses": "a"}),
    ("disc 14 × 0.5 domed 4 fine", "disc 14 × 0.5 fine", "edge", {"encloses": "a"}),
    ("disc 14 × 0.5", "disc 14 × 0.5 domed 4", "edge", {"encloses": "b"}),
    ("sheet 30 × 24 × 0.9", "sheet 20 × 14 × 0.7 copper", "overlay", {"placing": "sweat", "visible": True}),
    ("sheet 30 × 22 × 0.9 copper", "6 × disc 4 × 0.6", "overlay", {"placing": "sweat"}),
    ("sheet 36 × 28 × 1", "sheet 36 × 28 × 0.8 brass", "overlay", {}),
    # Wires with wires and tubes.
    ("wire 1.0 × 34", "wire 1.0 × 34", "cross", SEATED | {"structural": True}),
    ("wire 2.0 × 24", "jump ring 3 id 1.2 wire", "tee", SEATED | {"face": "edge"}),
    ("jump ring 13 id 2 wire", "jump ring 3.5 id 1.2 wire", "tee", SEATED | {"face": "edge"}),
    ("wire 1.2 × 40", "wire 0.8 × 20", "tee", SEATED),
    ("square 3 × 60", "square 3 × 40", "butt", SEATED),
    ("wire 2 × 314 closed", "wire 1.2 × 20", "tee", SEATED),
    ("link 1.0 × 20 closed moves", "link 1.0 × 20 closed", "ring-open", {"through": ("b",)}),
    ("tube 3 × 0.5 × 5", "wire 2.0 × 16 nickel silver", "rivet", {}),
    ("tube 3 × 0.5 × 5", "wire 2.4 × 16", "line", STEEL),
    ("tube 3 × 0.5 × 8", "jump ring 3 id 1 wire", "tee", HAND),
    ("tube 3 × 0.5 × 8", "tube 3 × 0.5 × 8", "line", {}),
    ("band 5 × 1.2 US 7", "tube 6 × 0.8 × 4", "tee", SEATED | {"structural": True}),
    ("band 5 × 1.2 US 7", "bezel 0.35 × 3.2 round 8 fine", "seat", {"structural": True}),
    ("band 5 × 1.2 US 7", "wire 1 × 59 closed", "line", STEEL),
    ("band 5 × 1.2 US 7", "wire 1 × 6", "tee", HAND),
    ("strip 4 × 0.6 × 20", "strip 4 × 0.6 × 12", "line", {}),
    # Bought parts and stones.
    ("sheet 18 × 10 × 0.9", "bought clasp 1.2 g", "tee", HAND | {"face": "back"}),
    ("casting 3.4 g", "half-round 3.2 × 1.7 ring US 7", "tee", HAND),
    ("bead 4", "bought clasp 1.2 g", "tee", HAND),
    ("wire 0.6 × 40", "stone 4 × 4 × 3", "wrap", {}),
]


@pytest.mark.parametrize(("a", "b", "kind", "keys"), PAIRS)
def test_two_parts_call_for_a_join(a: str, b: str, kind: str, keys: dict[str, Any]) -> None:
    parts = [put(a, part_id="a"), *([put(b, part_id="b")] if b else [])]
    made = propose(of(*parts), "a", "b" if b else "a")
    assert made.join.kind == kind
    for key, value in keys.items():
        assert getattr(made.join, key) == value, key
    usual = {"id", "name", "between"}
    told = set(record_object(made.join)) - usual - {"kind"}
    assert {"kind"} <= set(made.why)
    assert told <= set(made.why)
    # And the piece with it is sound.
    of(*parts, joins=[record_object(made.join)])


def test_there_are_enough_pairs() -> None:
    assert len(PAIRS) >= 60


# (line, place, line, place, kind): the same forms, told apart by how they lie.
LYING = [
    ("wire 1 × 12", {}, "sheet 30 × 20 × 0.9", {}, "line"),
    ("wire 1 × 26", UP, "sheet 30 × 20 × 0.9", {}, "tee"),
    ("wire 1 × 30 closed", UP, "sheet 30 × 20 × 0.9", {}, "seat"),
    ("tube 3 × 0.4 × 9", UP, "sheet 30 × 20 × 0.9", {}, "tee"),
    ("sheet 20 × 20 × 1", {}, "sheet 20 × 20 × 1", {"x_mm": 20}, "butt"),
    ("sheet 20 × 20 × 1", {}, "sheet 20 × 20 × 1", {"z_mm": 1}, "overlay"),
    ("sheet 20 × 6 × 1", UP, "sheet 20 × 20 × 1", {}, "edge"),
    ("wire 1.2 × 40", {"turn_deg": 90}, "wire 0.8 × 40", {}, "cross"),
    ("wire 1.2 × 40", {"turn_deg": 90, "x_mm": 30}, "wire 0.8 × 40", {}, "tee"),
]


@pytest.mark.parametrize(("a", "there", "b", "here", "kind"), LYING)
def test_how_they_lie_tells_them_apart(
    a: str, there: dict[str, Any], b: str, here: dict[str, Any], kind: str
) -> None:
    parts = put(a, there, "a"), put(b, here, "b")
    assert propose(of(*parts), "a", "b").join.kind == kind
    assert propose(of(*parts), "b", "a").join.kind == kind


def test_a_ring_is_closed_before_anything_stands_on_it() -> None:
    cup, base = (
        put("bezel 0.35 × 3.2 round 14 × 10 oval", part_id="cup"),
        put("oval 16 × 12 × 0.7", part_id="base"),
    )
    seam = record_object(propose(of(cup, base), "cup", "cup").join)
    made = propose(of(cup, base, joins=[seam]), "base", "cup")
    assert made.join.after == ("bezel-seam",)
    assert made.join.between == ("cup", "base")
    assert made.why["after"] == "Bezel seam is closed before anything stands on it"


def test_what_is_springy_or_bought_comes_after_all_that_hangs_together() -> None:
    base, tube = put("sheet 34 × 24 × 1", part_id="base"), put("tube 3 × 0.4 × 6", part_id="tube")
    post = put("post 0.9 × 11 springy through the ear", part_id="post")
    hinge = record_object(propose(of(base, tube, post), "tube", "base").join)
    made = propose(of(base, tube, post, joins=[hinge]), "base", "post")
    assert made.join.after == (hinge["id"],)
    assert "fewest heats" in made.why["after"]


def test_the_second_plate_of_a_box_closes_a_hollow_and_says_so_of_the_first() -> None:
    walls = put("walls 4 × 0.8 × 70 closed", part_id="walls")
    parts = walls, put("sheet 26 × 14 × 0.8", part_id="bottom"), put("sheet 26 × 14 × 0.8", part_id="top")
    bottom = record_object(propose(of(*parts), "walls", "bottom").join)
    assert "encloses" not in bottom
    made = propose(of(*parts, joins=[bottom]), "top", "walls")
    assert made.join.encloses == "walls"
    assert [(one.join, one.key, one.value) for one in made.also] == [(bottom["id"], "encloses", "walls")]


def test_a_spot_that_was_pointed_at_stays() -> None:
    parts = put("disc 20 × 0.9", part_id="a"), put("ball 2", part_id="b")
    assert propose(of(*parts), "a", "b", at=(3.0, -4.0)).join.at == (3.0, -4.0)


def test_two_joins_of_one_pair_have_two_ids() -> None:
    parts = put("sheet 20 × 20 × 1", part_id="a"), put("wire 1 × 9", part_id="b")
    first = record_object(propose(of(*parts), "a", "b").join)
    assert propose(of(*parts, joins=[first]), "a", "b").join.id == f"{first['id']}-2"


# (line of a, line of b or "" for the same, b's name, code)
REFUSED = [
    ("ball 3", "", "a", "contradiction"),
    ("casting 3 g", "", "a", "contradiction"),
    ("stone 14 × 10 × 4", "bezel 0.35 × 3.2 round 14 × 10 oval", "b", "contradiction"),
    ("ball 3", "ball 3", "c", "unknown-id"),
    ("ball 3", "ball 3", "b#2", "unknown-id"),
]


@pytest.mark.parametrize(("a", "b", "name", "code"), REFUSED)
def test_what_no_join_holds_is_refused(a: str, b: str, name: str, code: str) -> None:
    parts = [put(a, part_id="a"), *([put(b, part_id="b")] if b else [])]
    with pytest.raises(Refused) as refused:
        propose(of(*parts), "a", name)
    fault = refused.value.faults[0]
    assert (fault.code, fault.path) == (code, "b")
    assert fault.remedy


# What pointing alone cannot know: which of two joins that the forms allow is meant.
MEANT = {
    ("claw-ring", "foot"): "tee",
    ("leaf-drop", "beads-on-the-leaf"): "rivet",
    ("leaf-drop", "leaf-on-the-hook"): "rivet",
    ("ball-pendant", "bail"): "overlay",
    ("ball-pendant", "bar-eye"): "butt",
    ("pressed-stud", "gold"): "overlay",
}


@pytest.mark.parametrize("name", list(starts()))
def test_the_joins_of_the_starts_are_what_pointing_proposes(name: str) -> None:
    piece = begin(name).piece
    for n, join in enumerate(piece.joins):
        if len(join.between) == 2:
            before = piece.model_copy(update={"joins": piece.joins[:n]})
            made = propose(before, *join.between).join
            assert made.kind == MEANT.get((name, join.id), join.kind), join.id

"""A finding that was finished goes on the shelf, and into other pieces: its joins are made there, and the heats to come meet them."""

from __future__ import annotations

from eskel_core.piece import Piece, finding_of, piece_from_object, piece_object, with_finding
from eskel_core.plan import HeatStep, plan
from tests.core.pieces import join, piece, plate, wire


def ear_wire(solder: str = "us-medium") -> Piece:
    """A wire with a ring soldered to it, as a run has made it."""
    return piece(
        [
            wire("wire", made=True),
            wire("ring", made=True, place={"x_mm": 40}),
            wire("spare"),
            wire("beside", made=True),
        ],
        [
            join("seam", "ring", "wire", made=True, solder=solder, holds="hand"),
            join("later", "spare", "wire", after=["seam"]),
        ],
        work=[
            {"id": "hole", "kind": "drill", "parts": ["ring"], "done": True},
            {"id": "bend", "kind": "bend", "parts": ["wire"], "done": True},
            {"id": "shine", "kind": "finish", "parts": ["wire"]},
        ],
        copies=2,
        notes="as the last pair",
    )


def test_what_was_made_goes_on_the_shelf_and_nothing_else() -> None:
    kept = finding_of(ear_wire())
    assert [part.id for part in kept.parts] == ["wire", "ring"]
    assert [one.id for one in kept.joins] == ["seam"]
    assert [one.id for one in kept.work] == ["hole"]
    assert (kept.copies, kept.notes, kept.bench) == (1, "", None)
    assert piece_from_object(piece_object(kept)) == kept


def test_a_part_that_nothing_is_joined_to_is_a_finding_of_its_own() -> None:
    ball = piece([wire("pin", made=True), wire("stock")], [])
    assert [part.id for part in finding_of(ball).parts] == ["pin"]


def test_taken_twice_it_has_ids_of_its_own_and_stands_beside_what_is_there() -> None:
    kept = finding_of(ear_wire())
    drop = piece([plate("drop"), wire("ring")], [join("seam", "ring", "drop")])
    twice = with_finding(with_finding(drop, kept), kept)
    assert [part.id for part in twice.parts] == ["drop", "ring", "wire", "ring-2", "wire-2", "ring-3"]
    assert [(one.id, one.between) for one in twice.joins] == [
        ("seam", ("ring", "drop")),
        ("seam-2", ("ring-2", "wire")),
        ("seam-3", ("ring-3", "wire-2")),
    ]
    assert [part.made for part in twice.parts] == [False, False, True, True, True, True]
    assert [part.place and part.place.x_mm for part in twice.parts[2:]] == [None, 40, None, 40]
    assert piece_from_object(piece_object(twice)) == twice


def test_it_is_set_down_beside_what_is_there_as_it_lay() -> None:
    bead = finding_of(
        piece(
            [wire("a", made=True, place={"x_mm": 3, "y_mm": 1}), wire("b", made=True, place={})],
            [
                join("one", "a", "b", made=True, solder="us-hard", at=[2, 1]),
                join("two", "a", "b", made=True, solder="us-hard", at=[[1, 0], [4, 0]]),
            ],
        )
    )
    moved = with_finding(piece([plate("drop")], []), bead, 20)
    assert [(part.place.x_mm, part.place.y_mm) for part in moved.parts if part.place] == [(23, 1), (20, 0)]
    assert [one.at for one in moved.joins] == [(22, 1), ((21, 0), (24, 0))]


def test_a_hollow_of_a_finding_keeps_its_vent_under_a_name_of_its_own() -> None:
    bead = piece(
        [plate("top", made=True), plate("bottom", made=True)],
        [join("rim", "top", "bottom", encloses="bead", made=True, solder="us-hard")],
        work=[{"id": "vent", "kind": "drill", "parts": ["top"], "vents": ["bead"], "done": True}],
    )
    twice = with_finding(finding_of(bead), finding_of(bead))
    assert [one.encloses for one in twice.joins] == ["bead", "bead-2"]
    assert [one.vents for one in twice.work] == [("bead",), ("bead-2",)]


def test_the_solder_of_a_finding_is_not_run_again() -> None:
    """Hung on a drop by its ring: hard would do for the drop alone, but the ear wire was made with medium and nothing holds it."""
    drop = piece([plate("drop")], [])
    hung = with_finding(drop, finding_of(ear_wire("us-medium")))
    hung = hung.model_copy(
        update={"joins": (*hung.joins, piece_from_object(piece_object(_hanging())).joins[0])}
    )
    made = plan(hung)
    [heat] = [step for step in made.steps if isinstance(step, HeatStep)]
    assert [(row.join, row.solder) for row in heat.joins] == [("hang", "us-extra-easy")]
    assert heat.states == {"seam": "firm"}
    assert [line.part for line in made.cut_list] == ["drop"]


def _hanging() -> Piece:
    return piece([plate("drop"), wire("ring")], [join("hang", "ring", "drop")])

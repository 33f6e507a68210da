"""What the log is asked by: each join of the demo's reed brooch and finial by the words that a smith would use of it."""

from __future__ import annotations

import pytest

from eskel_core.piece import piece_from_object, read_piece
from eskel_core.plan import HeatStep, Plan, plan
from eskel_core.run import facets_of
from tests.core.pieces import EXAMPLES as FILES

EXAMPLES = FILES[0].parent


def of_joins(name: str) -> tuple[dict[str, dict[str, object]], Plan]:
    piece = read_piece(EXAMPLES / f"{name}.eskel.json")
    planned = plan(piece)
    heats = [step for step in planned.steps if isinstance(step, HeatStep)]
    return {one.join: one.model_dump() for heat in heats for one in facets_of(piece, planned, heat)}, planned


def test_what_the_solder_of_all_joins_weighs_is_what_the_list_of_solder_weighs() -> None:
    for name in ("reed-brooch", "stone-set-finial", "hollow-lantern-drop"):
        told, planned = of_joins(name)
        listed = {line.solder: line.mass_g * 1000 for line in planned.solder_list}
        laid = dict.fromkeys(listed, 0.0)
        for one in told.values():
            laid[str(one["solder"])] += float(str(one["solder_mg"]))
        assert laid == pytest.approx(listed)


WIRE = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 0.8}, "length_mm": 10}
FLAT = {"kind": "wire", "profile": {"kind": "rect", "width_mm": 3, "height_mm": 1.7}, "length_mm": 30}
SHEET = {"kind": "sheet", "thickness_mm": 1.2, "outline": {"kind": "disc", "diameter_mm": 12}}
TUBE = {"kind": "tube", "outer_mm": 3, "wall_mm": 0.4, "length_mm": 6}
BALL = {"kind": "ball", "diameter_mm": 2}


# 0.8 wire is 20 ga, 1.7 wire between 13 and 14 ga; 0.4 sheet is 26 ga, 1.2 sheet between 16 and 17 ga.
@pytest.mark.parametrize(
    ("one", "other", "wire", "sheet"),
    [
        (WIRE, SHEET, "thin", "heavy"),
        (FLAT, SHEET, "heavy", "heavy"),
        (TUBE, SHEET, "", "thin"),
        (BALL, SHEET, "", "heavy"),
        (WIRE, FLAT, "thin", ""),
        (WIRE, BALL, "thin", ""),
    ],
)
def test_how_thin_is_told_of_the_thinnest(one: object, other: object, wire: str, sheet: str) -> None:
    made = {
        "format": "eskel-piece/1",
        "name": "Two",
        "parts": [
            {"id": "a", "metal": "sterling-925", "form": one},
            {"id": "b", "metal": "fine-silver-999", "form": other},
        ],
        "joins": [{"id": "j", "kind": "tee", "between": ["a", "b"]}],
    }
    piece = piece_from_object(made)
    planned = plan(piece)
    heat = next(step for step in planned.steps if isinstance(step, HeatStep))
    told = facets_of(piece, planned, heat)
    assert [(row.join, row.kind, row.metal, row.wire, row.sheet) for row in told] == [
        ("j", "tee", "fine-silver-999 + sterling-925", wire, sheet)
    ]
    assert told[0].grade == heat.joins[0].grade


def test_a_join_that_the_piece_no_longer_has_keeps_its_kind_and_its_solder() -> None:
    piece = read_piece(EXAMPLES / "reed-brooch.eskel.json")
    planned = plan(piece)
    heat = next(step for step in planned.steps if isinstance(step, HeatStep))
    bare = piece.model_copy(update={"joins": ()})
    told = facets_of(bare, planned, heat)[0]
    assert (told.kind, told.metal, told.wire, told.sheet) == (piece.joins[0].kind, "", "", "")
    assert told.solder == heat.joins[0].solder

"""Beginning over HTTP: starts with their drawing and plan, lines read one after another, joins by pointing."""

from __future__ import annotations

from typing import Any

import pytest

from eskel_core.starts import starts
from tests.server.conftest import Caller, example

pytestmark = pytest.mark.django_db


def test_every_start_is_listed_with_its_drawing(workshop: Any, call: Caller) -> None:
    status, listed = call.get("/starts")
    assert status == 200
    assert [one["info"]["name"] for one in listed] == list(starts())
    assert all(one["picture"]["parts"] and one["info"]["asks"] for one in listed)


def test_a_start_shows_what_it_makes_while_it_is_typed(workshop: Any, call: Caller) -> None:
    status, told = call.post(
        "/starts/band/typed", typed={"size": "US 9", "width_mm": "1/4 in", "thickness_mm": ""}
    )
    assert status == 200
    assert told["asked"]["width_mm"] == 6.35
    assert told["understood"]["width_mm"] == "0.25 in = 6.35 mm, near 2 ga"
    assert (told["plan"]["status"], told["plan"]["heats"], told["plan"]["grades"]) == ("best", 1, ["hard"])
    assert told["plan"]["minutes"] > 5
    assert told["plan"]["grams"] == pytest.approx(6.35 * 1.5 * 66.9 * 10.36 / 1000, rel=0.05)
    assert told["picture"]["parts"][0]["node"] == "band"
    _, drawn = call.post("/starts/band/typed", typed={"width_mm": 5}, plan=False)
    assert (drawn["plan"], drawn["picture"]["parts"][0]["node"]) == (None, "band")


def test_what_a_start_cannot_make_is_told_at_its_key_and_nothing_is_begun(
    workshop: Any, call: Caller
) -> None:
    _, told = call.post("/starts/band/typed", typed={"width_mm": "wide"})
    assert (told["asked"], told["faults"][0]["path"]) == (None, "width_mm")
    status, refused = call.post("/starts/band/begin", typed={"width_mm": "wide"})
    assert (status, refused["faults"][0]["path"]) == (422, "width_mm")
    assert call.get("/pieces")[1] == []
    assert call.post("/starts/bend/typed", typed={})[0] == 422


def test_a_piece_is_begun_from_a_start_and_planned(workshop: Any, call: Caller) -> None:
    status, view = call.post("/starts/post-stud/begin", typed={"across_mm": 9})
    assert status == 201
    assert (view["document"]["name"], view["plan"]["status"]) == ("Stud", "best")
    assert view["document"]["copies"] == 2


def test_lines_are_read_one_after_another(workshop: Any, call: Caller) -> None:
    status, read = call.post(
        "/lines", lines=["disc 14 × 0.5 fine", "disc 12", "disk 12 sterlin"], taken=["disc"]
    )
    assert status == 200
    assert [one["part"]["id"] if one["part"] else None for one in read] == ["disc-2", "disc-3", None]
    assert read[1]["taken"] == ["0.5 mm thick, as Disc", "Fine silver, as Disc"]
    assert read[2]["faults"][0]["path"] == "line[8:15]"
    assert read[0]["picture"]["width_mm"] == pytest.approx(14, abs=0.1)


def test_a_line_edits_a_part_and_a_part_has_its_line(workshop: Any, call: Caller) -> None:
    part = call.post("/lines", lines=['wire 0.8 × 40 half-hard "Pin"'])[1][0]["part"]
    assert call.post("/lines/of", parts=[part])[1] == ['wire 0.8 × 40 sterling half-hard "Pin"']
    edited = call.post("/lines", lines=['wire 0.9 × 40 "Pin"'], base=part)[1][0]["part"]
    assert (edited["id"], edited["form"]["profile"]["diameter_mm"], edited["temper"]) == ("pin", 0.9, "soft")


def test_pointing_at_two_parts_proposes_their_join(workshop: Any, call: Caller) -> None:
    parts = [one["part"] for one in call.post("/lines", lines=["disc 11 × 0.75", "post 0.9 × 11"])[1]]
    document = {"format": "eskel-piece/1", "name": "Stud", "parts": parts}
    status, made = call.post("/proposal", document=document, a="disc", b="post", at=[1, 2])
    assert status == 200
    assert (made["join"]["kind"], made["join"]["between"], made["join"]["at"]) == (
        "tee",
        ["post", "disc"],
        [1, 2],
    )
    assert made["why"]["kind"] == "Post stands on Disc"
    assert call.post("/proposal", document=document, a="disc", b="pots")[0] == 422


def test_a_piece_file_is_looked_at_and_nothing_is_begun(workshop: Any, call: Caller) -> None:
    status, seen = call.post("/look", document=example("reed-brooch"))
    assert (status, seen["name"], seen["parts"], seen["joins"]) == (200, "Reed brooch", 5, 4)
    assert (seen["plan"]["status"], seen["faults"]) == ("best", [])
    assert seen["picture"]["front"]["parts"]
    _, wrong = call.post("/look", document={"format": "eskel-piece/1", "name": "x", "parts": [{"id": "?"}]})
    assert wrong["picture"] is None
    assert wrong["faults"][0]["path"] == "parts[0].id"
    assert call.get("/pieces")[1] == []


def test_a_wire_is_bent_to_a_named_bend(workshop: Any, call: Caller) -> None:
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 0.8}, "length_mm": 45}
    status, hook = call.post("/bend", form=form, bend="hook", across_mm=6)
    assert (status, hook["length_mm"], hook["closed"]) == (200, 45, False)
    xs = [x for x, _ in hook["path"]]
    assert max(xs) - min(xs) == pytest.approx(6)
    assert call.post("/bend", form=form, bend="oval")[1]["closed"]
    assert call.post("/bend", form=form, bend="knot")[0] == 422

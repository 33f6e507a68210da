"""The cut and solder list, its files, outlines read from files, and stock marked off at the mill."""

from typing import Any

import pytest

from tests.server.conftest import Caller

SQUARE = '<svg xmlns="http://www.w3.org/2000/svg" {size}><rect width="20" height="10"/></svg>'
DOWN = {
    "metal": "sterling-925",
    "start": {"kind": "square", "side_mm": "3"},
    "end": {"kind": "round", "diameter_mm": "1"},
    "mass_g": "40",
}


def test_the_list_follows_the_piece_and_the_bench(lantern: dict[str, Any], call: Caller) -> None:
    before = call.get(f"/pieces/{lantern['id']}/cutting")[1]
    assert [row["title"] for row in before["rows"]] == ["Upper dome", "Lower dome", "Collar", "Loop"]
    assert len(before["buy"]) == 3
    wire = {"kind": "wire", "profile": {"kind": "square", "side_mm": 1.1}, "length_mm": 100}
    call.put("/bench", house={}, bench={"stock": [{"metal": "sterling-925", "form": wire}]})
    after = call.get(f"/pieces/{lantern['id']}/cutting")[1]
    assert len(after["buy"]) == 2
    assert after["lengths"][1]["bars"][0]["cuts"] == [["Collar", 20.4]]


@pytest.mark.parametrize(
    ("ending", "kind", "begins"),
    [
        ("cut-list.csv", "text/csv; charset=utf-8", b"part,metal"),
        ("cut-list.pdf", "application/pdf", b"%PDF"),
        ("outlines/upper", "image/svg+xml", b"<svg"),
        ("file", "application/json; charset=utf-8", b"{"),
    ],
)
def test_files_are_named_after_the_piece(
    lantern: dict[str, Any], call: Caller, ending: str, kind: str, begins: bytes
) -> None:
    response = call.client.get(f"/api/pieces/{lantern['id']}/{ending}")
    assert (response.status_code, response.headers["Content-Type"]) == (200, kind)
    assert response.content.startswith(begins)
    assert 'filename="hollow-lantern-drop.' in response.headers["Content-Disposition"]


def test_what_has_no_outline_is_refused(lantern: dict[str, Any], call: Caller) -> None:
    assert call.get(f"/pieces/{lantern['id']}/outlines/loop")[0] == 422
    assert call.get(f"/pieces/{lantern['id'] + 99}/cutting")[0] == 404


def test_an_outline_is_read_and_its_unit_asked(workshop: Any, call: Caller) -> None:
    text = SQUARE.format(size='width="20mm" height="10mm" viewBox="0 0 20 10"')
    status, drawn = call.post("/outline", name="a.svg", text=text)
    assert (status, round(drawn["area_mm2"], 3), drawn["holes"]) == (200, 200, 0)
    bare = {"name": "a.svg", "text": SQUARE.format(size="")}
    status, answer = call.post("/outline", **bare)
    assert (status, answer["faults"][0]["code"]) == (422, "unit-unknown")
    assert call.post("/outline", **bare, unit="cm")[1]["width_mm"] == 200


def test_a_draw_down_is_marked_off_and_survives(workshop: Any, call: Caller) -> None:
    status, making = call.post("/makings", typed=DOWN, title="Year's offcuts")
    assert status == 201
    assert [step["kind"] for step in making["steps"]].count("anneal") == 3
    where = f"/makings/{making['id']}"
    assert call.post(f"{where}/marks", at=0, done=1)[1]["done"] == 1
    status, answer = call.post(f"{where}/marks", at=0, done=1)
    assert (status, answer["faults"][0]["code"]) == (409, "clash")
    assert call.get(where)[1]["done"] == 1
    assert call.post(f"{where}/marks", at=1, done=0)[1]["done"] == 0
    assert call.post(f"{where}/marks", at=0, done=999)[0] == 422
    assert call.post(f"{where}/away", away=True)[1]["put_away"] is True
    assert [one["title"] for one in call.get("/makings")[1]] == ["Year's offcuts"]


@pytest.mark.parametrize("typed", [{}, {**DOWN, "end": {"kind": "round", "diameter_mm": "9"}}])
def test_what_cannot_be_drawn_is_not_begun(workshop: Any, call: Caller, typed: dict[str, Any]) -> None:
    assert call.post("/makings", typed=typed)[0] == 422
    assert call.get("/makings")[1] == []
    assert call.get("/makings/7")[0] == 404

"""The calculators over HTTP: the same names and figures as in the core, in the units of the house, kept to a piece."""

from typing import Any

import pytest

from eskel_core.sizes import calculate, calculators
from eskel_server.bench.models import BenchRow
from tests.server.conftest import Caller, example


def test_every_calculator_is_listed_with_its_keys(workshop: Any, call: Caller) -> None:
    listed = call.get("/sizes")[1]
    assert [one["name"] for one in listed] == list(calculators())
    ring = next(one for one in listed if one["name"] == "ring-blank")
    assert [info["quantity"] for info in ring["keys"][:3]] == ["ring-size", "length", "length"]
    drawn = next(one for one in listed if one["name"] == "draw-down")
    start = next(info for info in drawn["keys"] if info["key"] == "start")
    assert [one["kind"] for one in start["variants"]] == ["round", "square", "rect", "half-round"]


@pytest.mark.parametrize("name", list(calculators()))
def test_every_calculator_answers_its_example(workshop: Any, call: Caller, name: str) -> None:
    one = calculators()[name]
    status, answer = call.post(f"/sizes/{name}", typed=dict(one.example))
    assert status == 200
    assert answer["values"][0]["key"] == (calculate(name, dict(one.example)).found.main or one.main)
    assert answer["how"]


def test_what_was_typed_is_understood_and_answered_in_the_units_of_the_house(
    workshop: Any, call: Caller
) -> None:
    typed = {"size": "US 9", "thickness_mm": "1.8"}
    status, answer = call.post("/sizes/ring-blank", typed=typed)
    assert (status, answer["values"][0]["text"], answer["values"][0]["other"]) == (
        200,
        "65.17 mm",
        "2.566 in",
    )
    assert answer["understood"]["size"].startswith("US 9: 18.95 mm inside")
    BenchRow.objects.update_or_create(workshop=workshop, defaults={"house": {"units": "inch"}})
    answer = call.post("/sizes/ring-blank", typed={**typed, "thickness_mm": "0.071"})[1]
    assert (answer["values"][0]["text"], answer["values"][0]["other"]) == ("2.566 in", "65.18 mm")


def test_tools_of_the_bench_are_snapped_to(workshop: Any, call: Caller) -> None:
    bench = {"tools": [{"kind": "mandrel", "size_mm": 4.2}]}
    BenchRow.objects.create(workshop=workshop, bench=bench)
    answer = call.post("/sizes/jump-rings", typed={"inner_diameter_mm": 4, "wire_mm": 1})[1]
    assert answer["tools"][0]["owned_mm"] == 4.2


def test_the_feed_gives_a_price_where_the_smith_gives_none(workshop: Any, call: Caller) -> None:
    status, answer = call.post("/sizes/cost", typed={"metal": "sterling-925", "metal_g": 10})
    assert (status, answer["found"]["total"]) == (200, 9.0)


@pytest.mark.parametrize(
    ("name", "typed", "path"),
    [
        ("ring-blank", {"size": "US 9", "thickness_mm": "thick"}, "thickness_mm"),
        ("ball", {"metal": "tin", "ball_mm": "2", "wire_mm": "1"}, "metal"),
        ("polish", {}, "name"),
    ],
)
def test_nonsense_is_refused_with_its_key(
    workshop: Any, call: Caller, name: str, typed: dict[str, Any], path: str
) -> None:
    status, answer = call.post(f"/sizes/{name}", typed=typed)
    assert (status, answer["faults"][0]["path"]) == (422, path)


def test_a_result_is_kept_as_a_part_and_can_be_undone(lantern: dict[str, Any], call: Caller) -> None:
    asked = {
        "typed": {"metal": "sterling-925", "ball_mm": "2", "wire_mm": "0.8", "pieces": 2},
        "piece": lantern["id"],
    }
    status, view = call.post("/sizes/ball/keep", **asked, name="Drop")
    assert status == 200
    assert view["document"]["parts"][-1]["name"] == "Drop"
    assert view["document"]["parts"][-1]["form"] == {"kind": "ball", "diameter_mm": 2.0}
    assert view["document"]["parts"][-1]["count"] == 2
    again = call.post("/sizes/ball/keep", **asked, name="Drop")[1]
    assert [part["id"] for part in again["document"]["parts"][-2:]] == ["drop", "drop-2"]
    _, undone = call.post(f"/pieces/{lantern['id']}/undo", revision=again["revision"])
    assert len(undone["document"]["parts"]) == len(lantern["document"]["parts"]) + 1


def test_a_result_is_kept_in_the_cut_list_alone(lantern: dict[str, Any], call: Caller) -> None:
    typed = {"inner_diameter_mm": 4, "wire_mm": 0.9, "count": 50, "spares": 4}
    _, view = call.post("/sizes/jump-rings/keep", typed=typed, piece=lantern["id"], kept_as="cut")
    assert [(one["name"], one["count"]) for one in view["document"]["cuts"]] == [("Jump ring", 54)]
    assert view["document"]["parts"] == lantern["document"]["parts"]
    assert view["plan"]["objectives"] == lantern["plan"]["objectives"]


def test_what_is_not_cut_is_not_kept(lantern: dict[str, Any], call: Caller) -> None:
    status, answer = call.post("/sizes/pickle-time/keep", typed={}, piece=lantern["id"])
    assert (status, answer["faults"][0]["value"]) == (422, "pickle-time")
    assert call.get(f"/pieces/{lantern['id']}")[1]["revision"] == lantern["revision"]


def test_a_piece_may_name_its_extra_cuts(workshop: Any, call: Caller) -> None:
    plain = example("toggle-clasp-and-links")
    cut = {"id": "spare", "metal": "sterling-925", "form": {"kind": "ball", "diameter_mm": 2}, "count": 3}
    assert call.post("/pieces", document={**plain, "cuts": [cut]})[0] == 201
    status, answer = call.post("/pieces", document={**plain, "cuts": [{**cut, "metal": "tin"}]})
    assert (status, answer["faults"][0]["path"]) == (422, "cuts[0].metal")

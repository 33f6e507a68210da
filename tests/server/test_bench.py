"""The bench over HTTP."""

import json
import re
from typing import Any

import pytest

from eskel_server.bench.models import BenchRow
from tests.server.conftest import Caller


@pytest.mark.parametrize(
    ("asked", "value"),
    [
        ("text=21%20ga", 0.723),
        ("text=1205F&quantity=temperature", 651.667),
        ("text=US%209&quantity=ring-size", 18.9452),
    ],
)
def test_what_is_typed_is_read(workshop: Any, call: Caller, asked: str, value: float) -> None:
    status, answer = call.get(f"/read?{asked}")
    assert (status, answer["value"]) == (200, value)
    assert answer["understood"]


def test_nonsense_is_refused_with_its_reason(workshop: Any, call: Caller) -> None:
    status, answer = call.get("/read?text=thick")
    assert (status, answer["faults"][0]["code"]) == (422, "not-a-length")
    assert call.get("/read?text=3&quantity=colour")[0] == 422


def test_a_bare_number_is_in_the_unit_of_the_house(workshop: Any, call: Caller) -> None:
    BenchRow.objects.create(workshop=workshop, house={"units": "inch"})
    assert call.get("/read?text=1/4")[1]["value"] == 6.35


STOCK = {"metal": "copper", "form": {"kind": "strip", "width_mm": 3, "thickness_mm": 1, "length_mm": 200}}


def test_tools_stock_scrap_and_units_are_set_and_used(workshop: Any, call: Caller) -> None:
    bench = {
        "tools": [{"kind": "dowel", "size_mm": 5}],
        "stock": [STOCK],
        "scrap": [{"metal": "copper", "mass_g": 9}],
    }
    status, view = call.put("/bench", house={"units": "inch"}, bench=bench)
    assert status == 200
    assert (view["house"]["units"], view["house"]["family"]) == ("inch", "us")
    assert view["own_bench"]["tools"] == [
        {"kind": "dowel", "size_mm": 5.0, "size": None, "mm_per_turn": None}
    ]
    assert view["bench"]["torch"] == "propane-air-small"
    answer = call.post("/sizes/wrapped-loop", typed={"wire_mm": "0.03", "loop_mm": "0.2"})[1]
    assert answer["tools"][0]["owned_mm"] == 5
    assert call.get("/bench")[1] == view


@pytest.mark.parametrize(
    ("house", "bench", "path"),
    [
        ({"units": "furlong"}, {}, "house.units"),
        ({}, {"torch": "sun"}, "bench.torch"),
        ({}, {"tools": [{"kind": "anvil"}]}, "bench.tools[0].kind"),
        ({}, {"stock": [{**STOCK, "metal": "tin"}]}, "bench.stock[0].metal"),
        ({}, {"scrap": [{"metal": "copper", "mass_g": 0}]}, "bench.scrap[0].mass_g"),
        ({"colour": 1}, {}, "house.colour"),
    ],
)
def test_a_bench_of_no_sense_is_refused_and_the_old_one_stays(
    workshop: Any, call: Caller, house: Any, bench: Any, path: str
) -> None:
    before = call.get("/bench")[1]
    status, answer = call.put("/bench", house=house, bench=bench)
    assert (status, answer["faults"][0]["path"]) == (422, path)
    assert call.get("/bench")[1] == before


def test_a_changed_bench_changes_the_plan(lantern: dict[str, Any], call: Caller) -> None:
    """Hotter heats come with a larger overshoot."""
    assert lantern["plan"]["status"] == "best"
    call.put("/bench", house={"overshoot_c": 60}, bench={})
    assert call.get(f"/pieces/{lantern['id']}")[1]["plan"] != lantern["plan"]


def test_every_sentence_goes_out_in_the_units_of_the_house(lantern: dict[str, Any], call: Caller) -> None:
    """Differences too: 70 °C harder is 126 °F, and never 158."""
    metric = json.dumps(call.get(f"/pieces/{lantern['id']}")[1], ensure_ascii=False)
    assert "°C" in metric
    house = {"units": "inch", "temperature": "f", "mass": "troy"}
    assert call.put("/bench", house=house, bench={})[0] == 200
    run = call.post("/runs", piece=lantern["id"])[1]
    paths = (
        f"/pieces/{lantern['id']}",
        f"/pieces/{lantern['id']}/cutting",
        f"/pieces/{lantern['id']}/why/rim",
        f"/runs/{run['id']}",
        "/rail",
        "/pieces",
        "/rules",
    )
    for path in paths:
        told = json.dumps(call.get(path)[1], ensure_ascii=False)
        assert not re.search(r"⦃|°C|\d mm\b(?!²|³)", told), path
    assert "°F" in json.dumps(call.get(paths[0])[1], ensure_ascii=False)
    own = {**lantern["document"], "house": {"units": "mm", "temperature": "c"}}
    view = call.put(f"/pieces/{lantern['id']}", revision=1, document=own, what="its own units")[1]
    assert "°F" not in json.dumps(view, ensure_ascii=False)

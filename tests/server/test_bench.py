"""The bench over HTTP."""

from typing import Any

import pytest

from bench.models import BenchRow
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

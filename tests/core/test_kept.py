"""Documents that were kept have a way forward: golden ones of each format are read, and what cannot be read says where."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from pydantic import BaseModel

from eskel_core.faults import KeptFormat, Refused, read_kept
from eskel_core.piece import piece_from_object, piece_object, read_bench
from eskel_core.plan import read_plan
from eskel_core.rehearsal import read_rehearsal
from eskel_core.units import speak

GOLDEN = Path(__file__).parents[1] / "golden"
READERS: dict[str, Callable[[Any], BaseModel]] = {
    "piece-1": piece_from_object,
    "plan-1": read_plan,
    "rehearsal-1": read_rehearsal,
    "rehearsal-2": read_rehearsal,
    "bench-1": read_bench,
}


# A rehearsal of one hand had other words for its verdict.
WRITTEN_OTHERWISE = {"rehearsal-1": [".format", ".verdict"]}


def golden(name: str) -> dict[str, Any]:
    plain: dict[str, Any] = json.loads((GOLDEN / f"{name}.json").read_text(encoding="utf-8"))
    return plain


@pytest.mark.parametrize("name", READERS)
def test_a_document_of_an_earlier_build_is_read(name: str) -> None:
    plain = golden(name)
    read = READERS[name](plain).model_dump(mode="json", by_alias=True)
    assert _lost(plain, read) == WRITTEN_OTHERWISE.get(name, [])


def _lost(before: Any, after: Any, path: str = "") -> list[str]:
    """Every place of a kept document that did not come through."""
    if isinstance(before, dict):
        return [
            lost
            for key, value in before.items()
            for lost in (_lost(value, after[key], f"{path}.{key}") if key in after else [f"{path}.{key}"])
        ]
    if isinstance(before, list):
        pairs = zip(before, after, strict=True)
        return [lost for n, (one, other) in enumerate(pairs) for lost in _lost(one, other, f"{path}[{n}]")]
    return [] if before == after else [path]


def test_a_plan_from_before_sentences_were_told_one_by_one_has_them_still() -> None:
    for step in read_plan(golden("plan-1")).steps:
        assert step.lines == (step.text,)
        assert speak(step.text) == step.text


def test_a_piece_is_written_as_it_was() -> None:
    assert piece_object(piece_from_object(golden("piece-1"))) == golden("piece-1")


@pytest.mark.parametrize("name", READERS)
@pytest.mark.parametrize("given", [None, 7, "", "eskel-other/1", "eskel-plan/0", "eskel-plan/x"])
def test_what_is_no_such_document_is_refused(name: str, given: Any) -> None:
    with pytest.raises(Refused) as told:
        READERS[name](golden(name) | {"format": given})
    assert told.value.faults[0].path == "format"


@pytest.mark.parametrize("name", READERS)
def test_a_newer_document_says_what_to_do(name: str) -> None:
    plain = golden(name)
    newer = plain["format"].rpartition("/")[0] + "/9"
    with pytest.raises(Refused, match="Update Eskel"):
        READERS[name](plain | {"format": newer})


def faults_of(name: str, plain: dict[str, Any]) -> set[str]:
    """The paths of what is wrong with a document; none where it is read all the same."""
    try:
        READERS[name](plain)
    except Refused as problem:
        return {fault.path for fault in problem.faults}
    return set()


@pytest.mark.parametrize("name", ["plan-1", "rehearsal-1"])
def test_every_key_that_is_missing_is_told_by_its_place(name: str) -> None:
    plain = golden(name)
    for key in plain:
        faults = faults_of(name, {one: value for one, value in plain.items() if one != key})
        assert not faults or key in faults, key
    steps = golden("plan-1")["steps"]
    del steps[3]["minutes"]
    with pytest.raises(Refused) as told:
        read_plan(golden("plan-1") | {"steps": steps})
    assert [fault.path for fault in told.value.faults] == ["steps[3].minutes"]


def test_each_older_number_becomes_the_next() -> None:
    class Thing(BaseModel):
        format: str
        size_mm: float
        name: str

    kept = KeptFormat(
        "a thing",
        "eskel-thing",
        3,
        {1: lambda old: {"size_mm": old["size"]}, 2: lambda old: {**old, "name": "thing"}},
    )
    made = read_kept(kept, Thing, {"format": "eskel-thing/1", "size": 4})
    assert (made.format, made.size_mm, made.name) == ("eskel-thing/3", 4, "thing")

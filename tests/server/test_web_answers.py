"""The answers that the web's component tests are given are such as the API could give."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import jsonschema
import pytest

ROOT = Path(__file__).parents[2]
API: dict[str, Any] = json.loads((ROOT / "web" / "openapi.json").read_text(encoding="utf-8"))
ANSWERS: dict[str, Any] = json.loads((ROOT / "tests" / "shared" / "answers.json").read_text(encoding="utf-8"))


def schema_of(question: str) -> dict[str, Any]:
    """Find what the API says that it answers to a method and a path as written down."""
    method, asked = question.split(" ")[:2]
    wanted = re.sub(r"\{\w+\}", "1", asked)
    for path, operations in API["paths"].items():
        if method.lower() in operations and re.fullmatch(re.sub(r"\{\w+\}", r"[^/]+", path), wanted):
            responses = operations[method.lower()]["responses"]
            told = next(responses[status] for status in ("200", "201", "202") if status in responses)
            found: dict[str, Any] = told["content"]["application/json"]["schema"]
            return {**found, "components": API["components"]}
    raise AssertionError(f"no path of the API answers {question}")


@pytest.mark.parametrize("question", ANSWERS)
def test_an_answer_written_down_is_one_that_can_be_given(question: str) -> None:
    """Run bin/lib/record_answers.py when this fails: the shape of the answer has changed."""
    jsonschema.Draft202012Validator(schema_of(question)).validate(ANSWERS[question])


def test_an_answer_of_another_shape_is_noticed() -> None:
    spoilt = {**ANSWERS["GET /api/pieces/4"], "revision": "one"}
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.Draft202012Validator(schema_of("GET /api/pieces/4")).validate(spoilt)

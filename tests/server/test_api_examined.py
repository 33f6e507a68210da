"""The API held against its own description by a kept examiner: no fault of the server, no answer that it does not tell of."""

from __future__ import annotations

import json
import os
import random
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from django.core.handlers.wsgi import WSGIHandler
from django.core.signals import request_finished, request_started
from django.db import close_old_connections
from hypothesis import HealthCheck, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_headers_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from tests.server.conftest import Caller

pytestmark = pytest.mark.django_db
OPENAPI = json.loads((Path(__file__).parents[2] / "web" / "openapi.json").read_text(encoding="utf-8"))
# Of each operation, once with what it allows and once with what it does not; more of them for a longer look.
CALLS = int(os.environ.get("ESKEL_EXAMINED", "3"))
CHECKS = [
    not_a_server_error,
    status_code_conformance,
    content_type_conformance,
    response_headers_conformance,
    response_schema_conformance,
]


class OpenGate:
    """The application for a caller that has the token: what is examined lies behind the gate."""

    def __init__(self) -> None:
        self._handler = WSGIHandler()

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Any:
        # The test's own connection is kept through every call, as Django's test client does.
        for signal in (request_started, request_finished):
            signal.disconnect(close_old_connections)
        environ["HTTP_HOST"] = "127.0.0.1"
        environ["HTTP_COOKIE"] = f"eskel_token={'t' * 32}"
        environ["HTTP_X_CSRFTOKEN"] = "t" * 32
        # The examiner reads answers as they are.
        environ.pop("HTTP_ACCEPT_ENCODING", None)
        return self._handler(environ, start_response)


@pytest.fixture(autouse=True)
def old_connections_are_closed_again() -> Iterator[None]:
    """Undo what the gate did to the signals."""
    yield
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)


def operations() -> list[Any]:
    """Every operation that the description names."""
    schema = schemathesis.openapi.from_dict(OPENAPI)
    schema.app = OpenGate()
    return [found.ok() for found in schema.get_all_operations()]


@pytest.mark.long
@pytest.mark.parametrize(
    "mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE], ids=lambda one: one.value
)
@pytest.mark.parametrize("operation", operations(), ids=lambda one: one.label)
def test_what_the_api_answers_is_what_it_tells_of(
    operation: Any, mode: GenerationMode, lantern: dict[str, Any], call: Caller
) -> None:
    run = call.post("/runs", piece=lantern["id"])[1]
    real = {"key": run["id"] if "/runs/" in operation.path else lantern["id"], "record": 1, "join": "rim"}
    dice = random.Random(operation.label)

    @settings(
        max_examples=CALLS,
        deadline=None,
        derandomize=True,
        database=None,
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy(generation_mode=mode))
    def examined(case: schemathesis.Case) -> None:
        for name in case.path_parameters:
            if name in real and dice.random() < 0.7:
                case.path_parameters[name] = real[name]
        case.call_and_validate(checks=CHECKS)

    try:
        examined()
    except Unsatisfiable:
        assert mode is GenerationMode.NEGATIVE, "nothing that the description allows could be made"

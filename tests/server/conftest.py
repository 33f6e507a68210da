"""Fixtures of the server's tests: a workshop with its pieces, and a client that speaks JSON."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from django.test import Client

from eskel_server.accounts.models import Workshop
from eskel_server.pieces.models import PieceRow

EXAMPLES = Path(__file__).parents[2] / "examples"


class Caller:
    """A client that speaks JSON and gives back the status and the parsed answer."""

    def __init__(self) -> None:
        self.client = Client()

    def get(self, path: str, **query: str) -> tuple[int, Any]:
        return self._answer(self.client.get(f"/api{path}", query or None))

    def post(self, path: str, **body: Any) -> tuple[int, Any]:
        return self._answer(self.client.post(f"/api{path}", json.dumps(body), "application/json"))

    def put(self, path: str, **body: Any) -> tuple[int, Any]:
        return self._answer(self.client.put(f"/api{path}", json.dumps(body), "application/json"))

    @staticmethod
    def _answer(response: Any) -> tuple[int, Any]:
        return response.status_code, response.json() if response.content else None


def example(name: str) -> dict[str, Any]:
    """A demo piece as plain JSON."""
    plain: dict[str, Any] = json.loads((EXAMPLES / f"{name}.eskel.json").read_text(encoding="utf-8"))
    return plain


@pytest.fixture
def call() -> Caller:
    return Caller()


@pytest.fixture
def workshop(db: None) -> Workshop:
    return Workshop.objects.create(name="Test workshop")


@pytest.fixture
def lantern(workshop: Workshop, call: Caller) -> dict[str, Any]:
    """The hollow lantern drop, begun over HTTP."""
    status, view = call.post("/pieces", document=example("hollow-lantern-drop"))
    assert status == 201
    assert PieceRow.objects.get().workshop == workshop
    made: dict[str, Any] = view
    return made

"""Fixtures of the server's tests: a workshop with its pieces, and a client that speaks JSON."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Any

import pytest
from django.test import Client

from eskel_server.accounts.models import Workshop
from eskel_server.pieces.models import PieceRow

EXAMPLES = Path(__file__).parents[2] / "examples"


class Caller:
    """A client that speaks JSON and gives back the status and the parsed answer; and a tablet at the torch."""

    def __init__(self) -> None:
        self.client = Client()
        self.pressed = 0

    def get(self, path: str, **query: str) -> tuple[int, Any]:
        return self._answer(self.client.get(f"/api{path}", query or None))

    def post(self, path: str, **body: Any) -> tuple[int, Any]:
        return self._answer(self.client.post(f"/api{path}", json.dumps(body), "application/json"))

    def put(self, path: str, **body: Any) -> tuple[int, Any]:
        return self._answer(self.client.put(f"/api{path}", json.dumps(body), "application/json"))

    def press(self, run: dict[str, Any], kind: str, **told: Any) -> dict[str, Any]:
        """Press a key on a tablet that shows a run, and send it; give the run as it is then."""
        self.pressed += 1
        event = {
            "id": f"tablet-0-{self.pressed:06}",
            "device": "tablet-0",
            "seq": self.pressed,
            "at_ms": round(time.time() * 1000),
            "kind": kind,
            **({} if kind == "undo" else {"turn": run["turn"]}),
            **told,
        }
        status, answer = self.post(f"/runs/{run['id']}/events", events=[event])
        assert status == 200, answer
        status, view = self.get(f"/runs/{run['id']}")
        assert status == 200, view
        seen: dict[str, Any] = view
        return seen

    @property
    def last(self) -> str:
        """The id of what was pressed last."""
        return f"tablet-0-{self.pressed:06}"

    def say(self, run: dict[str, Any], outcome: str) -> dict[str, Any]:
        """Say the same of every join of the heat at which a run stands."""
        for row in run["step"]["joins"]:
            run = self.press(run, "outcome", join=row["join"], outcome=outcome)
        return run

    @staticmethod
    def _answer(response: Any) -> tuple[int, Any]:
        if response.streaming:
            return response.status_code, json.loads(response.getvalue())
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

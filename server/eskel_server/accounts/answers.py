"""Answers that are JSON already: what was written once is not written again for each who asks."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpResponse


def json_answer(body: bytes | str, status: int = 200) -> HttpResponse:
    """Answer with JSON text."""
    return HttpResponse(body, status=status, content_type="application/json; charset=utf-8")


def beside(own: dict[str, Any], written: str) -> str:
    """Put the keys of a small object before those of one that is written already.

    >>> beside({"id": 3}, '{"name": "Reed brooch"}')
    '{"id": 3, "name": "Reed brooch"}'
    """
    return f"{json.dumps(own)[:-1]}, {written[1:]}"

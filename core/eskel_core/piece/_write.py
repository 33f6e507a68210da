"""Canonical writing and the published schema.

Writing keeps the declared order of keys, leaves defaults out, indents by two spaces and writes the
shortest number that reads back the same, so that what was written is written again byte for byte.
"""

from __future__ import annotations

import json
from typing import Any

from pydantic import BaseModel

from ._types import Piece


def write_piece(piece: Piece) -> str:
    """Write a piece in its canonical form, with a newline at the end."""
    return write_object(piece_object(piece))


def write_object(plain: dict[str, Any]) -> str:
    """Write a plain object that is in its canonical form already."""
    return json.dumps(plain, indent=2, ensure_ascii=False) + "\n"


def piece_object(piece: Piece) -> dict[str, Any]:
    """Give the canonical form as a plain object: defaults left out, whole numbers without a point."""
    return record_object(piece)


def record_object(record: BaseModel) -> dict[str, Any]:
    """Give any record of a piece file (a part, a join) as the file has it."""
    plain: dict[str, Any] = _shortest(record.model_dump(mode="json", by_alias=True, exclude_defaults=True))
    return plain


def piece_schema() -> dict[str, Any]:
    """Give the JSON Schema (2020-12) of the piece file, made from these types."""
    schema = Piece.model_json_schema(by_alias=True, mode="validation")
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "$id": "urn:eskel:piece:1", **schema}


def _shortest(value: Any) -> Any:
    match value:
        case dict():
            return {key: _shortest(inner) for key, inner in value.items()}
        case list():
            return [_shortest(inner) for inner in value]
        case float() if value.is_integer():
            return int(value)
        case _:
            return value

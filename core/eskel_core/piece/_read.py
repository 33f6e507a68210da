"""Read a piece file: JSON, shape, then sense. Every fault found is told, never only the first."""

from __future__ import annotations

import json
import re
from functools import lru_cache
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..faults import Refused, refuse, shape_faults
from ._sense import sense_faults
from ._types import FORMAT, Piece

LARGEST_BYTES = 5_000_000
_DEEPEST = 40


def read_piece(path: Path) -> Piece:
    """Read a piece from a file; raise `Refused` with every fault."""
    try:
        raw = path.read_bytes()
    except OSError as problem:
        raise refuse(
            "no-file", "", str(path), f"the file can be read ({problem.strerror})", "Check the name."
        ) from problem
    return parse_piece(raw)


def parse_piece(raw: bytes | str) -> Piece:
    """Parse the text of a piece file; raise `Refused` with every fault."""
    return piece_from_object(load_json(raw))


def piece_from_object(plain: Any) -> Piece:
    """Make a piece from parsed JSON; raise `Refused` with every fault."""
    _check_format(plain)
    try:
        piece = Piece.model_validate_json(json.dumps(plain), strict=True)
    except ValidationError as problem:
        raise Refused(shape_faults(problem, plain, _known_keys)) from problem
    faults = sense_faults(piece)
    if faults:
        raise Refused(faults)
    return piece


def load_json(raw: bytes | str) -> Any:
    """Parse JSON text strictly: UTF-8, no key twice, finite numbers, modest depth; raise `Refused` otherwise."""
    if len(raw) > LARGEST_BYTES:
        raise refuse(
            "too-large", "", len(raw), f"a file is at most {LARGEST_BYTES} bytes", "Take something out."
        )
    try:
        text = raw.decode("utf-8-sig") if isinstance(raw, bytes) else raw
        plain = json.loads(text, object_pairs_hook=_no_key_twice, parse_constant=_no_constant)
    except UnicodeDecodeError as problem:
        raise refuse("bad-json", "", None, "a file is UTF-8 text", "Save it as UTF-8.") from problem
    except json.JSONDecodeError as problem:
        where = f"line {problem.lineno}, column {problem.colno}"
        raise refuse(
            "bad-json", where, None, f"a file is JSON: {problem.msg}", "Mend the text there."
        ) from problem
    except (RecursionError, ValueError) as problem:
        if isinstance(problem, Refused):
            raise
        raise refuse(
            "bad-json", "", None, "a file is JSON of modest depth and numbers", "Mend the file."
        ) from problem
    if _depth(plain) > _DEEPEST:
        raise refuse(
            "bad-json", "", None, f"lists and objects nest at most {_DEEPEST} deep", "Flatten the file."
        )
    return plain


def _no_key_twice(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    seen: dict[str, Any] = {}
    for key, value in pairs:
        if key in seen:
            raise refuse(
                "duplicate-key", key, value, "a key stands once in its object", "Take one of the two out."
            )
        seen[key] = value
    return seen


def _no_constant(word: str) -> None:
    raise refuse("bad-json", "", word, "numbers are finite", "Write a number.")


def _depth(plain: Any) -> int:
    deepest, waiting = 0, [(plain, 1)]
    while waiting:
        value, depth = waiting.pop()
        deepest = max(deepest, depth)
        if isinstance(value, dict | list):
            inner = value.values() if isinstance(value, dict) else value
            waiting.extend((one, depth + 1) for one in inner)
    return deepest


def _check_format(plain: Any) -> None:
    if not isinstance(plain, dict):
        raise refuse("wrong-type", "", plain, "a piece file is one JSON object", "Begin it with {.")
    given = plain.get("format")
    if "format" not in plain:
        raise refuse("missing", "format", None, f'a piece file says "format": "{FORMAT}"', "Add that line.")
    match = re.fullmatch(r"eskel-piece/(\d{1,9})", given) if isinstance(given, str) else None
    if match is None or int(match[1]) < 1:
        raise refuse(
            "not-a-piece", "format", given, f'the format of a piece file is "{FORMAT}"', "Is it another file?"
        )
    if given != FORMAT and int(match[1]) > 1:
        raise refuse(
            "format-newer", "format", given, f"this Eskel reads up to {FORMAT}", "Update Eskel to open it."
        )
    plain["format"] = FORMAT


@lru_cache(maxsize=1)
def _known_keys() -> set[str]:
    schema = Piece.model_json_schema(by_alias=True)
    keys: set[str] = set()
    for model in [schema, *schema["$defs"].values()]:
        keys |= set(model.get("properties", {}))
    return keys

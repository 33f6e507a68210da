"""Read a piece file: JSON, shape, then sense. Every fault found is told, never only the first."""

from __future__ import annotations

import json
import math
import re
from functools import lru_cache
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..faults import Refused, refuse, shape_faults
from ._sense import sense_faults
from ._types import KEPT, Piece

LARGEST_BYTES = 5_000_000
_DEEPEST = 40
_LONGEST_NUMBER = 40
_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff]")


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
    plain = KEPT.upgrade(plain)
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
        plain = json.loads(
            text,
            object_pairs_hook=_no_key_twice,
            parse_constant=_no_constant,
            parse_int=_whole,
            parse_float=_finite,
        )
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
    _check_inside(plain)
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


def _whole(digits: str) -> int:
    if len(digits) > _LONGEST_NUMBER:
        raise refuse("out-of-range", "", f"{digits[:20]}...", "a number is sensible", "Check the number.")
    return int(digits)


def _finite(digits: str) -> float:
    number = float(digits)
    if not math.isfinite(number):
        raise refuse("out-of-range", "", digits[:40], "numbers are finite", "Check the number.")
    return number


def _check_inside(plain: Any) -> None:
    """Refuse what nests too deep, and signs that no text has: neither a database nor a page could hold them."""
    waiting = [(plain, 1)]
    while waiting:
        value, depth = waiting.pop()
        if depth > _DEEPEST:
            raise refuse(
                "bad-json", "", None, f"lists and objects nest at most {_DEEPEST} deep", "Flatten the file."
            )
        if isinstance(value, str):
            check_text(value)
        elif isinstance(value, list):
            waiting.extend((inner, depth + 1) for inner in value)
        elif isinstance(value, dict):
            for key, inner in value.items():
                check_text(key)
                waiting.append((inner, depth + 1))


def check_text(text: str, path: str = "") -> None:
    """Raise `Refused` for a text that holds control signs other than tabs and ends of lines."""
    found = _CONTROL.search(text)
    if found is not None:
        raise refuse("bad-text", path, ascii(text)[:60], "a text holds no control signs", "Take them out.")


@lru_cache(maxsize=1)
def _known_keys() -> set[str]:
    schema = Piece.model_json_schema(by_alias=True)
    keys: set[str] = set()
    for model in [schema, *schema["$defs"].values()]:
        keys |= set(model.get("properties", {}))
    return keys

"""Read a piece file: JSON, shape, then sense. Every fault found is told, never only the first."""

from __future__ import annotations

import json
import re
from difflib import get_close_matches
from functools import lru_cache
from pathlib import Path
from typing import Any

from pydantic import BaseModel, ValidationError

from ..faults import Fault, Refused, refuse
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
    return piece_from_object(_load(raw))


def piece_from_object(plain: Any) -> Piece:
    """Make a piece from parsed JSON; raise `Refused` with every fault."""
    _check_format(plain)
    try:
        piece = Piece.model_validate_json(json.dumps(plain), strict=True)
    except ValidationError as problem:
        raise Refused(_shape_faults(problem, plain)) from problem
    faults = sense_faults(piece)
    if faults:
        raise Refused(faults)
    return piece


def _load(raw: bytes | str) -> Any:
    if len(raw) > LARGEST_BYTES:
        raise refuse(
            "too-large", "", len(raw), f"a piece file is at most {LARGEST_BYTES} bytes", "Take something out."
        )
    try:
        text = raw.decode("utf-8-sig") if isinstance(raw, bytes) else raw
        plain = json.loads(text, object_pairs_hook=_no_key_twice, parse_constant=_no_constant)
    except UnicodeDecodeError as problem:
        raise refuse("bad-json", "", None, "a piece file is UTF-8 text", "Save it as UTF-8.") from problem
    except json.JSONDecodeError as problem:
        where = f"line {problem.lineno}, column {problem.colno}"
        raise refuse(
            "bad-json", where, None, f"a piece file is JSON: {problem.msg}", "Mend the text there."
        ) from problem
    except (RecursionError, ValueError) as problem:
        if isinstance(problem, Refused):
            raise
        raise refuse(
            "bad-json", "", None, "a piece file is JSON of modest depth and numbers", "Mend the file."
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


def _shape_faults(problem: ValidationError, plain: Any) -> list[Fault]:
    faults: dict[str, Fault] = {}
    for error in problem.errors(include_url=False):
        path, holder = _locate(error["loc"], plain, names_key=error["type"] in ("missing", "extra_forbidden"))
        fault = _shape_fault(dict(error), path, holder)
        faults.setdefault(fault.path, fault)
    return list(faults.values())


def _locate(loc: tuple[int | str, ...], plain: Any, names_key: bool) -> tuple[str, Any]:
    """Turn pydantic's location, which also names the kinds it tried, into the path of the file.

    A key that is not there is part of the path only when the fault is about it (`names_key`).
    """
    path, here, holder = "", plain, plain
    for step in loc:
        if isinstance(step, int) and isinstance(here, list) and step < len(here):
            path, holder, here = f"{path}[{step}]", here, here[step]
        elif isinstance(step, int) and isinstance(here, list):
            path = f"{path}[{step}]"
        elif isinstance(step, str) and isinstance(here, dict) and step in here:
            path, holder, here = _dotted(path, step), here, here[step]
        elif isinstance(step, str) and isinstance(here, dict) and names_key and step == loc[-1]:
            path, holder = _dotted(path, step), here
    return path, holder


def _dotted(path: str, key: str) -> str:
    return f"{path}.{key}" if path else key


def _shape_fault(error: dict[str, Any], path: str, holder: Any) -> Fault:
    kind, context, value = error["type"], error.get("ctx") or {}, error.get("input")
    if isinstance(value, BaseModel):
        value = value.model_dump(mode="json")
    if kind in ("missing", "union_tag_not_found"):
        key = str(context.get("discriminator", "")).strip("'")
        path = _dotted(path, key) if key else path
        return Fault(
            code="missing", path=path, value=None, rule="this key is required", remedy=f"Add {path}."
        )
    if kind == "extra_forbidden":
        return Fault(
            code="unknown-key", path=path, value=value, rule="this key is not known here", remedy=_near(path)
        )
    if kind in ("literal_error", "union_tag_invalid"):
        return _choice_fault(context, path, value)
    if kind == "contradiction":
        return Fault(
            code=kind, path=path, value=value, rule=str(context["rule"]), remedy=str(context["remedy"])
        )
    code, rule, remedy = _plain_rule(kind, error, context)
    return Fault(code=code, path=path, value=value, rule=rule, remedy=remedy)


def _choice_fault(context: dict[str, Any], path: str, value: Any) -> Fault:
    choices = str(context.get("expected") or context.get("expected_tags") or "").replace("'", "")
    if "tag" in context:
        path, value = _dotted(path, str(context["discriminator"]).strip("'")), context["tag"]
    names = [name.strip() for name in re.split(r",| or ", choices)]
    near = get_close_matches(str(value), names, n=1)
    remedy = f"Did you mean {near[0]}?" if near else "Choose one of them."
    return Fault(code="not-a-choice", path=path, value=value, rule=f"one of: {choices}", remedy=remedy)


def _plain_rule(kind: str, error: dict[str, Any], context: dict[str, Any]) -> tuple[str, str, str]:
    for bound, words in (("gt", "above"), ("ge", "at least"), ("lt", "below"), ("le", "at most")):
        if bound in context:
            return "out-of-range", f"{words} {context[bound]:g}", "Check the number and its unit."
    if kind == "finite_number":
        return "out-of-range", "a finite number", "Write a number."
    if kind == "string_pattern_mismatch":
        return "bad-id", "an id is letters, digits, - _ and ., beginning with a letter or digit", "Rename it."
    if kind.startswith(("string_too", "too_", "tuple_too")):
        limit = context.get("max_length", context.get("min_length"))
        word = "at most" if "max_length" in context else "at least"
        return (
            "out-of-range",
            f"{word} {limit} long",
            "Shorten it." if word == "at most" else "Add what is missing.",
        )
    if kind == "value_error":
        return "contradiction", str(context.get("error", error["msg"])), "Mend one of the two."
    message = str(error["msg"])
    return "wrong-type", message[0].lower() + message[1:], "Write a value of that kind."


def _near(path: str) -> str:
    key = path.rsplit(".", 1)[-1]
    near = get_close_matches(key, sorted(_known_keys()), n=1, cutoff=0.7)
    return f"Did you mean {near[0]}? Else take it out." if near else "Take it out."


@lru_cache(maxsize=1)
def _known_keys() -> set[str]:
    schema = Piece.model_json_schema(by_alias=True)
    keys: set[str] = set()
    for model in [schema, *schema["$defs"].values()]:
        keys |= set(model.get("properties", {}))
    return keys

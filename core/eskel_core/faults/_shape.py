"""Faults of shape: what pydantic finds wrong with plain data, told with path, value, rule and remedy."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from difflib import get_close_matches
from typing import Any

from pydantic import BaseModel, ValidationError

from ._faults import Fault


def shape_faults(
    problem: ValidationError, plain: Any, known_keys: Callable[[], Iterable[str]]
) -> list[Fault]:
    """Turn what pydantic found wrong with plain data into faults, one for each path.

    `known_keys` gives the keys that an unknown one may have been meant for; it is asked only when there is one.
    """
    faults: dict[str, Fault] = {}
    for error in problem.errors(include_url=False):
        path = _locate(error["loc"], plain, names_key=error["type"] in ("missing", "extra_forbidden"))
        fault = _shape_fault(dict(error), path, known_keys)
        faults.setdefault(fault.path, fault)
    return list(faults.values())


def _locate(loc: tuple[int | str, ...], plain: Any, names_key: bool) -> str:
    """Turn pydantic's location, which also names the kinds it tried, into the path of the file.

    A key that is not there is part of the path only when the fault is about it (`names_key`).
    """
    path, here = "", plain
    for step in loc:
        if isinstance(step, int) and isinstance(here, list) and step < len(here):
            path, here = f"{path}[{step}]", here[step]
        elif isinstance(step, int) and isinstance(here, list):
            path = f"{path}[{step}]"
        elif isinstance(step, str) and isinstance(here, dict) and step in here:
            path, here = _dotted(path, step), here[step]
        elif isinstance(step, str) and isinstance(here, dict) and names_key and step == loc[-1]:
            path = _dotted(path, step)
    return path


def _dotted(path: str, key: str) -> str:
    return f"{path}.{key}" if path else key


def _shape_fault(error: dict[str, Any], path: str, known_keys: Callable[[], Iterable[str]]) -> Fault:
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
            code="unknown-key",
            path=path,
            value=value,
            rule="this key is not known here",
            remedy=_near(path, known_keys()),
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


def _near(path: str, known: Iterable[str]) -> str:
    key = path.rsplit(".", 1)[-1]
    near = get_close_matches(key, sorted(known), n=1, cutoff=0.7)
    return f"Did you mean {near[0]}? Else take it out." if near else "Take it out."

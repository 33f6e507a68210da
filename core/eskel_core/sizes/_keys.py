"""The keys of a calculator as a form asks for them, read off its type.

Concepts: a `KeyInfo` is a quantity to be typed, a choice, a yes or no, a group of keys, one of several variants told
apart by their `kind`, or a list of groups.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

KeyKind = Literal["quantity", "words", "choice", "yes-no", "group", "variants", "list", "document"]
_BY_SUFFIX = (
    ("_mm", "length"),
    ("_c", "temperature"),
    ("_per_g", "number"),
    ("_g", "mass"),
    ("_pct", "percent"),
)
_TABLES = ("metal", "solder", "pickle")
_WORDS = {
    "kind": "Kind",
    "side_mm": "Side",
    "points": "Corners",
    "path": "SVG path",
    "reduction_pct": "Reduction",
}


class KeyInfo(BaseModel):
    """One key: its words, how it is asked for, and what it may be."""

    model_config = ConfigDict(frozen=True)

    key: str
    label: str
    kind: KeyKind
    quantity: str = ""
    required: bool = True
    default: Any = None
    choices: tuple[str, ...] = ()
    keys: tuple[KeyInfo, ...] = ()
    variants: tuple[Variant, ...] = ()


class Variant(BaseModel):
    """One variant of a key: what its `kind` says, and its own keys."""

    model_config = ConfigDict(frozen=True)

    kind: str
    keys: tuple[KeyInfo, ...]


@lru_cache(maxsize=64)
def keys_of(model: type[BaseModel]) -> tuple[KeyInfo, ...]:
    """Give the keys of a calculator's input, in their order."""
    schema = model.model_json_schema(by_alias=True)
    return _keys(schema, schema.get("$defs", {}))


def _keys(schema: dict[str, Any], known: dict[str, Any]) -> tuple[KeyInfo, ...]:
    required = set(schema.get("required", ()))
    return tuple(
        _key(name, told, name in required, known)
        for name, told in schema.get("properties", {}).items()
        if "const" not in told
    )


def _key(name: str, told: dict[str, Any], required: bool, known: dict[str, Any]) -> KeyInfo:
    options = [one for one in told.get("anyOf", [told]) if one.get("type") != "null"]
    plain = _resolved(options[0], known) if len(options) == 1 else {"oneOf": options}
    words = {
        "key": name,
        "label": told.get("title") if "title" in told and told["title"] != _auto(name) else _label(name),
        "required": required,
        "default": told.get("default"),
    }
    variants = plain.get("oneOf") or plain.get("anyOf")
    if variants and all("$ref" in variant for variant in variants):
        return KeyInfo(
            **words,
            kind="variants",
            variants=tuple(_variant(_resolved(variant, known), known) for variant in variants),
        )
    if "enum" in plain:
        return KeyInfo(**words, kind="choice", choices=tuple(str(one) for one in plain["enum"]))
    match plain.get("type"):
        case "boolean":
            return KeyInfo(**words, kind="yes-no")
        case "object" if "properties" in plain:
            return KeyInfo(**words, kind="group", keys=_keys(plain, known))
        case "object":
            return KeyInfo(**words, kind="document", quantity=name)
        case "array":
            return _list(words, name, plain, known)
        case "string" if name not in _TABLES:
            return KeyInfo(**words, kind="words")
        case _:
            return KeyInfo(**words, kind="quantity", quantity=told.get("quantity") or _quantity(name))


def _list(words: dict[str, Any], name: str, plain: dict[str, Any], known: dict[str, Any]) -> KeyInfo:
    """Give a list of groups as such; a list of plain numbers is typed in one line."""
    inner = _resolved(plain.get("items", {}), known)
    if "properties" in inner:
        return KeyInfo(**words, kind="list", keys=_keys(inner, known))
    return KeyInfo(**words, kind="quantity", quantity="points" if name == "points" else "lengths")


def _variant(schema: dict[str, Any], known: dict[str, Any]) -> Variant:
    return Variant(kind=str(schema["properties"]["kind"]["const"]), keys=_keys(schema, known))


def _resolved(schema: dict[str, Any], known: dict[str, Any]) -> dict[str, Any]:
    here = schema
    while "$ref" in here:
        here = known[here["$ref"].rsplit("/", 1)[-1]]
    return here


def _quantity(name: str) -> str:
    if name in _TABLES:
        return name
    return next((quantity for suffix, quantity in _BY_SUFFIX if name.endswith(suffix)), "number")


def _auto(name: str) -> str:
    return name.replace("_", " ").title()


def _label(name: str) -> str:
    if name in _WORDS:
        return _WORDS[name]
    bare = next((name.removesuffix(suffix) for suffix, _ in _BY_SUFFIX if name.endswith(suffix)), name)
    words = bare.replace("_", " ")
    return words[0].upper() + words[1:]

"""What a row of the house tells beside its type and default: its words, its options, where it is shown, which module reads it.

A choice registers when it is listed: one that nothing reads is refused, and one whose options are not those of its type.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any, Literal, get_args

from pydantic import BaseModel, ConfigDict
from pydantic.fields import FieldInfo

ShownIn = Literal["rules", "numbers", "units", "minutes"]
Kind = Literal["option", "number", "option-or-number", "minutes"]
Unit = Literal["", "difference", "mm", "per-mille"]


class UnregisteredChoice(LookupError):
    """A choice of the house that no module reads, or whose options are not those of its type."""


class ChoiceOption(BaseModel):
    """One option of a choice: its value, its words, and why smiths hold it."""

    model_config = ConfigDict(frozen=True)

    value: str
    words: str
    why: str = ""


class HouseChoice(BaseModel):
    """A choice of the house as screens and docs show it. A `default` of None: as the table of minutes has it.

    The key of one within another is written with a dot. Bounds are those of its number, in its `unit`. Of a choice that is `beside`
    the plan can be seen under its other options beside the plan as it stands.
    """

    model_config = ConfigDict(frozen=True)

    key: str
    title: str
    why: str
    shown: ShownIn
    kind: Kind
    options: tuple[ChoiceOption, ...]
    default: str | float | None
    low: float | None
    high: float | None
    unit: Unit
    beside: bool


@dataclass(frozen=True)
class Row:
    """What a row of the house tells beside its type and its default."""

    title: str
    why: str
    options: tuple[ChoiceOption, ...]
    shown: ShownIn
    read_by: str
    unit: Unit
    beside: bool


def row(
    title: str,
    why: str = "",
    *options: ChoiceOption,
    shown: ShownIn,
    read_by: str,
    unit: Unit = "",
    beside: bool = False,
) -> Row:
    """Tell of a row: its words, its options, where it is shown, and the module of the core that reads it (`rules._reach`)."""
    return Row(title, why, options, shown, read_by, unit, beside)


def option(value: str, words: str, why: str = "") -> ChoiceOption:
    """Tell of an option."""
    return ChoiceOption(value=value, words=words, why=why)


def unit_of(info: FieldInfo) -> Unit:
    """Give the unit of a row."""
    return next(each.unit for each in info.metadata if isinstance(each, Row))


@lru_cache(maxsize=4)
def choices_of(house: type[BaseModel]) -> tuple[HouseChoice, ...]:
    """Give every choice of a house, in its order; raise `UnregisteredChoice` for one that nothing reads."""
    return tuple(_choices(house))


def _choices(house: type[BaseModel], within: str = "") -> Iterator[HouseChoice]:
    for name, info in house.model_fields.items():
        told = next((each for each in info.metadata if isinstance(each, Row)), None)
        if told is None:
            raise UnregisteredChoice(f"{within}{name}: a choice of the house has a row with its words")
        if not _reads(told.read_by, name):
            raise UnregisteredChoice(f"{within}{name}: {told.read_by} does not read it")
        if isinstance(info.annotation, type) and issubclass(info.annotation, BaseModel):
            yield from _choices(info.annotation, f"{name}.")
        else:
            yield _choice(f"{within}{info.alias or name}", told, info)


def _choice(key: str, told: Row, info: FieldInfo) -> HouseChoice:
    types = get_args(info.annotation) if info.annotation is not None else ()
    values = {
        value for each in (info.annotation, *types) for value in get_args(each) if isinstance(value, str)
    }
    if values != {each.value for each in told.options} and told.shown != "minutes":
        raise UnregisteredChoice(f"{key}: its options are {', '.join(sorted(values))}")
    bounds = _bounds(info.metadata) or next(
        (found for each in types if (found := _bounds(getattr(each, "__metadata__", ())))), {}
    )
    numeric = bool(bounds)
    kind: Kind = "minutes" if told.shown == "minutes" else "number" if not told.options else "option"
    if numeric and told.options:
        kind = "option-or-number"
    return HouseChoice(
        key=key,
        title=told.title,
        why=told.why,
        shown=told.shown,
        kind=kind,
        options=told.options,
        default=None if kind == "minutes" else info.default,
        low=bounds.get("ge"),
        high=bounds.get("le"),
        unit=told.unit,
        beside=told.beside,
    )


def _bounds(metadata: Any) -> dict[str, float]:
    """Read bounds off a type's metadata: pydantic keeps them as `ge` and `le`, alone or within a field."""
    flat = [part for each in metadata for part in (*getattr(each, "metadata", ()), each)]
    return {name: getattr(each, name) for each in flat for name in ("ge", "le") if hasattr(each, name)}


@lru_cache(maxsize=64)
def _named_in(module: str) -> frozenset[str]:
    """Give every name that a module of the core reads off something, and every word in it."""
    source = files("eskel_core").joinpath(*module.split(".")[:-1], f"{module.split('.')[-1]}.py")
    if not source.is_file():
        return frozenset()
    tree = ast.walk(ast.parse(source.read_text(encoding="utf-8")))
    return frozenset(
        node.attr if isinstance(node, ast.Attribute) else str(node.value)
        for node in tree
        if isinstance(node, ast.Attribute) or (isinstance(node, ast.Constant) and isinstance(node.value, str))
    )


def _reads(module: str, name: str) -> bool:
    return name in _named_in(module)

"""All calculators by name, and the one way to ask any of them."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from difflib import get_close_matches
from functools import lru_cache
from importlib import import_module
from types import MappingProxyType
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..faults import Refused, refuse, shape_faults
from ..piece import mass_g
from ..units import METRIC, Units, about, grams, read_typed
from ._base import Calculator, Found, Hand, Keys, Record, key, num
from ._keys import KeyInfo, keys_of

# Where each calculator lives, in the order of the screen: one is asked without loading all the others.
_ROOMS: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "_ringwork": ("ring-blank", "open-ring", "resize", "cuff"),
        "_wirework": ("jump-rings", "chain", "twist", "scroll", "wrapped-loop"),
        "_balls": ("ball", "balled-end", "prong"),
        "_granules": ("granules", "shot"),
        "_findings": ("ear-wire", "post", "bail", "link-fit"),
        "_settings": ("bezel-strip", "bezel-height", "dome"),
        "_drawing": ("draw-down",),
        "_stockwork": ("pour", "forge"),
        "_nesting": ("nest",),
        "_benchwork": ("saw", "anneal", "pickle-time"),
        "_soldering": ("solder-amount",),
        "_measuring": ("layout", "readings"),
        "_weighing": ("blank-weight", "hang", "cost"),
    }
)
_PLAIN = MappingProxyType(
    {
        "_mm": "mm",
        "_mm2": "mm²",
        "_mm3": "mm³",
        "_g": "g",
        "_mg": "mg",
        "_c": "°C",
        "_pct": "%",
        "_deg": "°",
        "_s": "s",
        "_g_l": "g/l",
        "_low": "min",
        "_high": "min",
    }
)


class Many(Record):
    """How many are made: pairs are cut the same, mirrored where asked; spares for those that are lost."""

    pieces: Annotated[int, Field(ge=1, le=10_000)] = key("How many of it", 1)
    spares: Annotated[int, Field(ge=0, le=10_000)] = key("Spares", 0)
    mirrored: bool = key("Every second one mirrored", False)


class Lot(BaseModel):
    """What all of them take together: `each_mm` is cut `count` times."""

    model_config = ConfigDict(frozen=True)

    count: int
    each_mm: float | None
    total_mm: float | None
    mass_g: float | None
    text: str


class Answer(BaseModel):
    """The answer of a calculator: its result, and what all that are made of it take together."""

    model_config = ConfigDict(frozen=True)

    name: str
    asked: dict[str, Any]
    found: Found
    lot: Lot | None

    def plain(self) -> dict[str, Any]:
        """Give the result as plain JSON, its own keys first, without the drawing."""
        whole = self.found.model_dump(mode="json", exclude={"sketch"})
        shared = [name for name in Found.model_fields if name in whole]
        own = {name: value for name, value in whole.items() if name not in shared}
        lot = {} if self.lot is None or self.lot.count == 1 else {"lot": self.lot.model_dump(mode="json")}
        return {**own, **{name: whole[name] for name in shared}, **lot}


@lru_cache(maxsize=1)
def calculators() -> Mapping[str, Calculator]:
    """Give every calculator by its name, in the order of the screen."""
    return MappingProxyType({name: calculator(name) for names in _ROOMS.values() for name in names})


@lru_cache(maxsize=64)
def calculator(name: str) -> Calculator:
    """Give one calculator; raise `Refused` when there is none of that name."""
    room = next((room for room, names in _ROOMS.items() if name in names), None)
    if room is None:
        near = get_close_matches(name, [one for names in _ROOMS.values() for one in names], n=1, cutoff=0.5)
        remedy = f"Did you mean {near[0]}?" if near else "bin/eskel size --list tells them all."
        raise refuse("unknown-id", "name", name, "a calculator of that name exists", remedy)
    found: Iterable[Calculator] = import_module(f".{room}", __package__).CALCULATORS
    return next(one for one in found if one.name == name)


def calculate(name: str, plain: Any, hand: Hand | None = None, units: Units = METRIC) -> Answer:
    """Ask a calculator: texts are read by the units of their keys; raise `Refused` with every fault.

    Any calculator also takes `pieces`, `spares` and `mirrored`.

    >>> round(calculate("ring-blank", {"size": "US 9", "thickness_mm": "1.8 mm"}).found.length_mm, 2)
    65.17
    """
    one, hand = calculator(name), hand or Hand()
    if not isinstance(plain, dict):
        raise refuse("wrong-type", "", plain, "the input is one JSON object", "Begin it with {.")
    read = read_typed(plain, units)
    own = {label: value for label, value in read.items() if label not in Many.model_fields}
    many = _checked(Many, {label: value for label, value in read.items() if label in Many.model_fields})
    asked = _checked(one.asks, own)
    found = _worked(one, asked, hand)
    found = found.model_copy(update={"sensitivity": _sensitivity(one, asked, found, hand)})
    return Answer(name=name, asked=own, found=found, lot=_lot(found, many, hand))


def describe(one: Calculator) -> dict[str, Any]:
    """Give a calculator's keys as `bin/eskel size --list` prints them."""
    return {
        "name": one.name,
        "title": one.title,
        "about": one.about,
        "in": {info.key: _key_words(info) for info in keys_of(one.asks)},
        "out": {
            name: info.title
            for name, info in one.finds.model_fields.items()
            if name not in Found.model_fields
        },
        "example": dict(one.example),
    }


def _key_words(info: KeyInfo) -> str:
    choices = info.choices or tuple(variant.kind for variant in info.variants)
    need = (
        ""
        if info.required
        else " (may be left out)"
        if info.default is None
        else f" ({json.dumps(info.default, ensure_ascii=False)})"
    )
    return f"{info.label}{': ' + ', '.join(choices) if choices else ''}{need}"


def _checked(model: type[Any], plain: dict[str, Any]) -> Any:
    try:
        return model.model_validate_json(json.dumps(plain))
    except ValidationError as problem:
        raise Refused(shape_faults(problem, plain, lambda: _known_keys(model))) from problem
    except (ValueError, RecursionError) as problem:
        if isinstance(problem, Refused):
            raise
        raise refuse(
            "wrong-type", "", None, "the input is JSON of modest depth and numbers", "Mend it."
        ) from problem


def _worked(one: Calculator, asked: Keys, hand: Hand) -> Found:
    """Work a calculator; sizes that no form can have, or no number can hold, are refused as such."""
    try:
        return one.work(asked, hand)
    except (ValidationError, OverflowError, ZeroDivisionError) as problem:
        raise refuse(
            "out-of-range",
            "",
            None,
            "what comes out is above 0 and at most 5000 mm",
            "Check the numbers and their units.",
        ) from problem


def _known_keys(model: type[BaseModel]) -> list[str]:
    schema = model.model_json_schema()
    return [name for one in [schema, *schema.get("$defs", {}).values()] for name in one.get("properties", {})]


def _sensitivity(one: Calculator, asked: Keys, found: Found, hand: Hand) -> tuple[str, ...]:
    """Say how far a slip of the hand moves the main result, for each key that was given."""
    told = []
    main = getattr(found, one.main)
    for name, slip in one.slips.items():
        value = getattr(asked, name)
        if not isinstance(value, int | float) or not isinstance(main, int | float):
            continue
        try:
            moved = getattr(_worked(one, asked.model_copy(update={name: value + slip}), hand), one.main)
        except Refused:
            continue
        words = (one.asks.model_fields[name].title or name).removeprefix("or ").split(",")[0]
        told.append(
            f"{_slip(slip, name)} more of {words[0].lower()}{words[1:]} moves it by {_slip(moved - main, one.main)}."
        )
    return tuple(told)


def _slip(value: float, name: str) -> str:
    """Say by how much a key differs: lengths and masses as quantities, anything else with its own unit."""
    match unit_of(name):
        case "mm":
            return about(value)
        case "g":
            return grams(value, 3)
        case unit:
            return f"{num(value)} {unit}".rstrip()


def unit_of(name: str) -> str:
    """Give the unit that a key carries, in words; nothing for a bare number.

    >>> unit_of("length_mm"), unit_of("volume_mm3"), unit_of("turns")
    ('mm', 'mm³', '')
    """
    return next((word for suffix, word in _PLAIN.items() if name.endswith(suffix)), "")


def _lot(found: Found, many: Many, hand: Hand) -> Lot | None:
    cut = found.cut
    if cut is None:
        return None
    count = cut.count * many.pieces + many.spares
    metal = hand.metals.get(cut.metal or "")
    mass = mass_g(cut.form, metal)
    total = None if cut.length_mm is None else cut.length_mm * count
    pairs = f", {count // 2} of them mirrored" if many.mirrored else ""
    each = "" if cut.length_mm is None else f" of {about(cut.length_mm, 2)}"
    words = f"{count}{each}{', cut the same' if count > 1 else ''}{pairs}"
    return Lot(
        count=count,
        each_mm=cut.length_mm,
        total_mm=total,
        mass_g=None if mass is None else mass * count,
        text=words,
    )

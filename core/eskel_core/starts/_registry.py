"""All starts by name, and the one way to begin from any of them."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from difflib import get_close_matches
from functools import lru_cache
from importlib import import_module
from types import MappingProxyType
from typing import Any

from pydantic import BaseModel, ConfigDict, ValidationError

from ..faults import Refused, refuse, shape_faults
from ..piece import Piece, base_id, mass_g, metal_of, piece_from_object
from ..sizes import KeyInfo, keys_of
from ..units import METRIC, Units, read_typed
from ._base import LARGE_FLAME, Asks, Start

_SMALL_FLAME_G = 8.0
# Where each start lives, in the order of the screen: one is begun without loading all the others.
_ROOMS: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "_bands": ("band", "bar-ring"),
        "_stones": ("bezel-ring", "claw-ring"),
        "_studs": ("post-stud", "hollow-stud"),
        "_drops": ("catch-drop", "ear-hooks", "leaf-drop"),
        "_pendants": ("ball-pendant", "overlay-pendant"),
        "_plates": ("tube-hung", "pinned-pair"),
        "_closures": ("jump-rings", "chain", "toggle"),
        "_small": ("headpins", "dotted-plate"),
        "_badges": ("pressed-stud", "layered-badge"),
        "_scrolls": ("scroll-work",),
        "_cuffs": ("rope-cuff", "forged-cuff", "tube-cuff"),
        "_boxes": ("strap-tip",),
        "_stock": ("pour-to-wire", "grains"),
    }
)


class Begun(BaseModel):
    """A piece begun from a start: every measure that it was made with, and which of them were told.

    `asked` can be asked again: lengths in mm, ring sizes as they were typed.
    """

    model_config = ConfigDict(frozen=True)

    start: str
    asked: dict[str, Any]
    told: tuple[str, ...]
    piece: Piece


class AskInfo(BaseModel):
    """One measure of a start: its words, how it is asked for, its default, its bounds, and whether it follows others."""

    model_config = ConfigDict(frozen=True)

    key: str
    label: str
    kind: str
    quantity: str = ""
    default: Any = None
    low: float | None = None
    high: float | None = None
    choices: tuple[str, ...] = ()
    follows: bool = False


class StartInfo(BaseModel):
    """One start, as a gallery or a shell lists it."""

    model_config = ConfigDict(frozen=True)

    name: str
    title: str
    group: str
    about: str
    words: tuple[str, ...]
    asks: tuple[AskInfo, ...]
    example: dict[str, Any]
    sizes: dict[str, dict[str, str]]


@lru_cache(maxsize=1)
def starts() -> Mapping[str, Start]:
    """Give every start by its name, in the order of the screen."""
    return MappingProxyType({name: start_named(name) for names in _ROOMS.values() for name in names})


@lru_cache(maxsize=64)
def start_named(name: str) -> Start:
    """Give one start; raise `Refused` when there is none of that name."""
    room = next((room for room, names in _ROOMS.items() if name in names), None)
    if room is None:
        near = get_close_matches(name, [one for names in _ROOMS.values() for one in names], n=1, cutoff=0.5)
        remedy = f"Did you mean {near[0]}?" if near else "bin/eskel begin --list tells them all."
        raise refuse("unknown-id", "name", name, "a start of that name exists", remedy)
    found: Iterable[Start] = import_module(f".{room}", __package__).STARTS
    return next(one for one in found if one.name == name)


def begin(name: str, plain: Any = None, units: Units = METRIC) -> Begun:
    """Make a piece from a start: texts are read by the units of their keys, what is not told has its default.

    With nothing told at all it is the start's example. Raises `Refused` with every fault, each at its key.

    >>> begun = begin("band", {"size": "US 9", "thickness_mm": "1.8 mm"})
    >>> round(begun.piece.parts[0].form.length_mm, 2)
    65.17
    """
    start = start_named(name)
    plain = {} if plain is None else plain
    if not isinstance(plain, dict):
        raise refuse("wrong-type", "", plain, "the input is one JSON object", "Begin it with {.")
    typed = plain or dict(start.example)
    asked = _filled(start, _checked(start, read_typed(typed, units)))
    return Begun(
        start=name,
        asked={**asked.model_dump(mode="json"), **_sizes_as_typed(start, typed)},
        told=tuple(sorted(asked.model_fields_set)),
        piece=piece_from_object(_made(start, asked)),
    )


def _sizes_as_typed(start: Start, typed: dict[str, Any]) -> dict[str, Any]:
    """Give ring sizes in the words that they were typed in: as a plain number one would be read as the inner circumference."""
    sized = [info for info in asks_of(start) if info.quantity == "ring-size"]
    return {info.key: typed.get(info.key, info.default) for info in sized}


def _made(start: Start, asked: Asks) -> dict[str, Any]:
    """Make the piece; what a calculator refuses is told at the start's own key."""
    try:
        return _with_its_flame(start.make(asked))
    except Refused as problem:
        known = {theirs: own for keys in start.sizes.values() for theirs, own in keys.items()}
        told = [
            fault.model_copy(update={"path": known.get(fault.path, fault.path)}) for fault in problem.faults
        ]
        raise Refused(told) from problem


def _with_its_flame(plain: dict[str, Any]) -> dict[str, Any]:
    """Name the large tip for a body that is more than the small one brings up: 8 g; a band yes, a box no (bench experience)."""
    if "bench" in plain or _heaviest_g(piece_from_object(plain)) <= _SMALL_FLAME_G:
        return plain
    return {**plain, "bench": {"torch": LARGE_FLAME}}


def _heaviest_g(piece: Piece) -> float:
    """Give the mass of the heaviest body that the heated joins make, g."""
    grams = {part.id: mass_g(part.form, metal_of(piece, part.id)) or 0.0 for part in piece.parts}
    bodies = {name: {name} for name in grams}
    for join in piece.joins:
        ends = {base_id(end) for end in join.between}
        if join.heated and len(ends) > 1:
            whole = set[str]().union(*(bodies[end] for end in ends))
            bodies.update(dict.fromkeys(whole, whole))
    count = {part.id: part.count for part in piece.parts}
    return max(
        sum(grams[one] * (count[one] if len(body) > 1 else 1) for one in body) for body in bodies.values()
    )


def _checked(start: Start, plain: dict[str, Any]) -> Asks:
    for key, value in plain.items():
        field = start.asks.model_fields.get(key)
        # Yes is no number, and neither a word nor a number is a yes.
        if field is not None and isinstance(value, bool) != (field.annotation is bool):
            rule = "yes or no" if field.annotation is bool else "a measure or a choice, not yes or no"
            raise refuse("wrong-type", key, value, rule, "Send a value of that kind.")
    try:
        return start.asks.model_validate_json(json.dumps(plain))
    except ValidationError as problem:
        raise Refused(shape_faults(problem, plain, lambda: start.asks.model_fields)) from problem
    except (ValueError, RecursionError) as problem:
        if isinstance(problem, Refused):
            raise
        rule = "the input is JSON of modest depth and numbers"
        raise refuse("wrong-type", "", None, rule, "Mend it.") from problem


def _filled(start: Start, asked: Asks) -> Asks:
    """Let what nobody told follow from the others, within its bounds; what was told stays marked as told."""
    told = asked.model_fields_set
    infos = {info.key: info for info in asks_of(start)}
    for key, follow in start.follows.items():
        if key not in told:
            info, value = infos[key], follow(asked)
            if isinstance(value, float | int) and info.low is not None and info.high is not None:
                value = min(max(value, info.low), info.high)
            asked = start.asks.model_construct(told, **{**dict(asked), key: value})
    return asked


def asks_of(start: Start) -> tuple[AskInfo, ...]:
    """Give what a start asks, in its order, with defaults and bounds."""
    return tuple(_ask_info(start, info) for info in keys_of(start.asks))


def _ask_info(start: Start, info: KeyInfo) -> AskInfo:
    field = start.asks.model_fields[info.key]
    bounds = {
        name: getattr(one, name)
        for one in field.metadata
        for name in ("ge", "gt", "le", "lt")
        if hasattr(one, name)
    }
    return AskInfo(
        key=info.key,
        label=info.label,
        kind=info.kind,
        quantity=info.quantity,
        default=info.default,
        low=bounds.get("ge"),
        high=bounds.get("le"),
        choices=info.choices,
        follows=info.key in start.follows,
    )


def describe_start(start: Start) -> StartInfo:
    """Tell of a start as `bin/eskel begin --list` prints it."""
    return StartInfo(
        name=start.name,
        title=start.title,
        group=start.group,
        about=start.about,
        words=start.words,
        asks=asks_of(start),
        example=dict(start.example),
        sizes={name: dict(keys) for name, keys in start.sizes.items()},
    )

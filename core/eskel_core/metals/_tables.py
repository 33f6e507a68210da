"""Read the shipped tables once; hand out mappings from id to record."""

from __future__ import annotations

import csv
from collections.abc import Collection, Mapping
from functools import lru_cache
from importlib.resources import files
from types import MappingProxyType
from typing import Any, TypeVar

from ._types import Flux, GlowBand, Metal, NamedRow, Pickle, Row, SawBlade, Solder, Surface, Torch

R = TypeVar("R", bound=Row)
N = TypeVar("N", bound=NamedRow)


@lru_cache(maxsize=1)
def metals() -> Mapping[str, Metal]:
    """Give the shipped metals by id."""
    return _by_id("metals", Metal)


@lru_cache(maxsize=1)
def solders() -> Mapping[str, Solder]:
    """Give the shipped solders by id."""
    return _by_id("solders", Solder)


@lru_cache(maxsize=1)
def torches() -> Mapping[str, Torch]:
    """Give the shipped torches by id."""
    return _by_id("torches", Torch)


@lru_cache(maxsize=1)
def surfaces() -> Mapping[str, Surface]:
    """Give the shipped soldering surfaces by id."""
    return _by_id("surfaces", Surface)


@lru_cache(maxsize=1)
def pickles() -> Mapping[str, Pickle]:
    """Give the shipped pickles by id."""
    return _by_id("pickles", Pickle)


@lru_cache(maxsize=1)
def fluxes() -> Mapping[str, Flux]:
    """Give the shipped fluxes by id."""
    return _by_id("flux", Flux)


@lru_cache(maxsize=1)
def saw_blades() -> tuple[SawBlade, ...]:
    """Give the saw blades, finest first."""
    return tuple(_rows("saw_blades", SawBlade))


def blade_for(thickness_mm: float, owned: Collection[str] = ()) -> SawBlade:
    """Choose the blade whose range of sheet has its middle nearest to a thickness, of those owned if any are.

    >>> blade_for(0.8).size, blade_for(0.8, {"4/0", "3"}).size
    ('1/0', '4/0')
    """
    blades = [blade for blade in saw_blades() if blade.size in owned] or saw_blades()
    return min(blades, key=lambda one: abs((one.sheet_low_mm + one.sheet_high_mm) / 2 - thickness_mm))


@lru_cache(maxsize=1)
def glow_bands() -> tuple[GlowBand, ...]:
    """Give the names of the glow, coldest first."""
    return tuple(_rows("glow", GlowBand))


@lru_cache(maxsize=1)
def _tempers() -> Mapping[tuple[str, str], float]:
    return {(row["form"], row["temper"]): float(row["reduction_pct"]) for row in _records("tempers")}


def temper_reduction_pct(form: str, temper: str) -> float:
    """Give the reduction, %, that a bought temper stands for: `form` is `wire` or `sheet`.

    >>> temper_reduction_pct("wire", "half-hard")
    37.0
    """
    return _tempers()[form, temper]


def _by_id(name: str, kind: type[N]) -> Mapping[str, N]:
    return MappingProxyType({row.id: row for row in _rows(name, kind)})


def _rows(name: str, kind: type[R]) -> list[R]:
    return [kind.model_validate(_typed(record)) for record in _records(name)]


def _records(name: str) -> list[dict[str, str]]:
    text = (files("eskel_core") / "data" / f"{name}.csv").read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def _typed(record: dict[str, str]) -> dict[str, Any]:
    typed: dict[str, Any] = {
        key: (None if value == "" and key == "dark_c" else value) for key, value in record.items()
    }
    if "on" in typed:
        typed["on"] = tuple(str(typed["on"]).split())
    return typed

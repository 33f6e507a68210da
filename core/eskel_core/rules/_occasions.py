"""The occasions on which rules look, and examples of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

Done = Literal["heat", "quench", "air-cool", "unbind", "pickle", "dry", "warm-mould"]
Occasion = Literal["course", "state", "demand", "size", "stock", "pot"]


@dataclass(frozen=True)
class Example:
    """An occasion on which a rule speaks, or is silent: a piece as its file says it, or what else it is asked about.

    `doings` are what is done with the piece, as (kind, heat number), where the planner itself would never do it so;
    `size` is a calculator with what was typed (and `tools` owned), `pot` the minutes in it, the longest needed, and whether
    it is warm; `solders` are solders of the table, each with whether its label says that it holds cadmium.
    """

    piece: Mapping[str, Any] | None = None
    doings: tuple[tuple[Done, int], ...] = ()
    size: tuple[str, Mapping[str, Any]] | None = None
    tools: tuple[Mapping[str, Any], ...] = ()
    solders: tuple[tuple[str, bool], ...] = ()
    pot: tuple[float, float, bool] | None = None

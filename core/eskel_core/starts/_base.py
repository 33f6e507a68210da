"""What every start shares: what it asks, how one measure follows the others, what is made of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..faults import refuse
from ..sizes import RingSize, calculate
from ..units import about

Plain = dict[str, Any]
Follow = Callable[[Any], Any]
Silver = Literal["sterling-925", "fine-silver-999", "britannia-958", "germanium-silver-935", "coin-900"]
# What keeps room above its solders for many heats.
Steady = Literal["sterling-925", "fine-silver-999", "britannia-958"]
Metal = Literal[
    "sterling-925",
    "fine-silver-999",
    "britannia-958",
    "germanium-silver-935",
    "coin-900",
    "copper",
    "brass-c260",
    "brass-c230",
    "bronze-c220",
]
FingerSize = Annotated[RingSize, Field(ge=12.0, le=24.0)]


class Asks(BaseModel):
    """What a start asks: each key carries its unit, and each has a default."""

    model_config = ConfigDict(frozen=True, extra="forbid", validate_default=True)


def ask(label: str, default: Any, low: float | None = None, high: float | None = None, **more: Any) -> Any:
    """Declare a measure: the words that a person reads, what it is when nobody tells, and its bounds."""
    return Field(default, title=label, ge=low, le=high, json_schema_extra=more)


@dataclass(frozen=True)
class Start:
    """One start: its name and words, what it asks, and the piece that is made of it.

    `follows` gives the measures that follow from the others where nobody tells them, in their order, each from what is
    asked so far; `words` are what a smith may look for it by; `sizes` the calculators that it takes its lengths from, each
    with the measures that both know, as `calculator's key: start's key`.
    """

    name: str
    title: str
    group: str
    about: str
    asks: type[Asks]
    make: Callable[[Any], Plain]
    example: Mapping[str, Any]
    words: tuple[str, ...] = ()
    follows: Mapping[str, Follow] = field(default_factory=lambda: MappingProxyType({}))
    sizes: Mapping[str, Mapping[str, str]] = field(default_factory=lambda: MappingProxyType({}))


def sized(name: str, **asked: Any) -> Any:
    """Ask a calculator; give what it found. A start has no lengths of its own."""
    return calculate(name, asked).found


LARGE_FLAME = "propane-air-large"
# Thin rings on a ball want much heat in a small place: the ball is brought up before the rings are hot (bench experience).
NARROW_FLAME = "oxy-propane-medium"


def must(holds: bool, key: str, value: Any, rule: str, remedy: str) -> None:
    """Refuse a measure that does not go with the others: raise `Refused` with its key, value, rule and remedy."""
    if not holds:
        raise refuse("contradiction", key, value, rule, remedy)


def must_lie(long: float, wide: float) -> None:
    """Refuse a stone that is wider than long."""
    must(
        wide <= long,
        "stone_wide_mm",
        wide,
        f"a stone is no wider than it is long, {about(long)}",
        "Swap the two.",
    )


def must_fuse(closing: str, metal: str, remedy: str) -> None:
    """Refuse to close a metal on itself in the flame that does not."""
    fine = closing != "fused" or metal == "fine-silver-999"
    must(fine, "closing", closing, "only fine silver closes on itself in the flame", remedy)

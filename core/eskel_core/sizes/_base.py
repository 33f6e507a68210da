"""What every calculator shares: what is asked, what is found, what is at hand."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Annotated, Any, TypeVar

from pydantic import AliasChoices, BaseModel, BeforeValidator, ConfigDict, Field

from ..faults import Refused, refuse
from ..forms import Form
from ..metals import Metal, heat_harm, metals
from ..piece import House, Tool
from ..rules import Severity, rule
from ..units import about, read_ring_size
from ._sketch import Sketch

Mm = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]
MmOrZero = Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)]
Grams = Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)]
GramsOrZero = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
Money = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
Pct = Annotated[float, Field(ge=0, lt=100, allow_inf_nan=False)]
Count = Annotated[int, Field(ge=1, le=100_000)]
Coordinate = Annotated[float, Field(ge=-5000, le=5000, allow_inf_nan=False)]


def _read_size(value: Any) -> Any:
    """Take a ring size as typed, or a number as the inner circumference; give the inner diameter, mm."""
    if isinstance(value, bool):
        return value
    if isinstance(value, int | float):
        value = f"{value:g}"
    if not isinstance(value, str):
        return value
    try:
        return read_ring_size(value).value
    except Refused as problem:
        raise contradiction(problem.faults[0].rule, problem.faults[0].remedy) from problem


def contradiction(rule: str, remedy: str) -> Exception:
    """Make the error for what a type's validator cannot take."""
    from pydantic_core import PydanticCustomError

    return PydanticCustomError("contradiction", "{rule}", {"rule": rule, "remedy": remedy})


RingSize = Annotated[float, BeforeValidator(_read_size), Field(gt=5, le=40)]


class Record(BaseModel):
    """A frozen record that refuses unknown keys."""

    model_config = ConfigDict(frozen=True, extra="forbid", populate_by_name=True, defer_build=True)


class Keys(Record):
    """What a calculator is asked: each key carries its unit."""


def key(label: str, default: Any = ..., *, alias: str | AliasChoices | None = None, **more: Any) -> Any:
    """Declare a key with the words that a person reads; `more` tells a form how to ask for it."""
    if alias is None:
        return Field(default, title=label, json_schema_extra=more)
    return Field(default, title=label, json_schema_extra=more, validation_alias=alias)


class SizeCaution(BaseModel):
    """A rule that speaks of a size: its code and severity, what will happen, what to do instead."""

    model_config = ConfigDict(frozen=True)

    code: str
    severity: Severity
    text: str
    remedy: str


def caution(code: str, text: str) -> SizeCaution:
    """Let a rule of the catalogue speak."""
    spoken_for = rule(code)
    return SizeCaution(code=code, severity=spoken_for.severity, text=text, remedy=f"{spoken_for.remedy}.")


class ToolAnswer(BaseModel):
    """A tool that a result asks for: the size wanted, the nearest one owned, and what that changes."""

    model_config = ConfigDict(frozen=True)

    kind: str
    wanted_mm: float
    owned_mm: float | None
    text: str


class Cut(BaseModel):
    """What is cut by a result: the form as a part would have it, the length or piece each takes, and how many."""

    model_config = ConfigDict(frozen=True)

    title: str
    form: Form
    metal: str | None = None
    count: int = 1
    length_mm: float | None = None


class Found(BaseModel):
    """What every result holds beside its own keys: how it was found, how sensitive it is, what to beware of.

    `main` is the key shown largest, where what was asked decides it.
    """

    model_config = ConfigDict(frozen=True, defer_build=True)

    how: str = ""
    main: str = Field("", exclude=True)
    sensitivity: tuple[str, ...] = ()
    cautions: tuple[SizeCaution, ...] = ()
    safety: tuple[str, ...] = ()
    tools: tuple[ToolAnswer, ...] = ()
    cut: Cut | None = None
    sketch: Sketch | None = None


@dataclass(frozen=True)
class Hand:
    """What is at hand: the tools owned, the metals by id, the house rules and the price of each metal per gram."""

    tools: tuple[Tool, ...] = ()
    metals: Mapping[str, Metal] = field(default_factory=metals)
    house: House = field(default_factory=House)
    prices: Mapping[str, float] = field(default_factory=lambda: MappingProxyType({}))

    def metal(self, name: str, path: str = "metal") -> Metal:
        """Give a metal by its id; raise `Refused` when there is none."""
        if name not in self.metals:
            raise refuse(
                "unknown-id",
                path,
                name,
                "a metal of that id exists",
                f"Choose one of: {', '.join(self.metals)}.",
            )
        return self.metals[name]

    def heated_metal(self, name: str, path: str = "metal") -> Metal:
        """Give a metal that is to be heated; raise `Refused` for what bears no flame: lead, white metal, what nobody knows."""
        metal = self.metal(name, path)
        harm = heat_harm(metal)
        if harm is not None:
            raise refuse(
                harm,
                path,
                name,
                f"{metal.name.lower()} is never heated",
                "Choose a metal that bears the flame.",
            )
        return metal

    def sizes(self, kind: str) -> list[float]:
        """Give the sizes owned of one kind of tool, mm, the smallest first."""
        return sorted({tool.size_mm for tool in self.tools if tool.kind == kind and tool.size_mm is not None})

    def nearest(self, kind: str, wanted_mm: float) -> float | None:
        """Give the owned size nearest to one wanted, the larger of two as near; None when none is owned."""
        return min(self.sizes(kind), key=lambda size: (abs(size - wanted_mm), -size), default=None)


A = TypeVar("A", bound=Keys)
F = TypeVar("F", bound=Found)


@dataclass(frozen=True)
class Calculator:
    """One calculator: its name and words, what it asks, what it finds, and how.

    `main` is the key shown largest; `slips` are the slips of the hand, each in the unit of its key, for which it is
    told how far they move it.
    """

    name: str
    title: str
    group: str
    about: str
    asks: type[Keys]
    finds: type[Found]
    work: Callable[[Any, Hand], Found]
    main: str
    example: Mapping[str, Any]
    slips: Mapping[str, float] = field(default_factory=lambda: MappingProxyType({}))


def one_of(asked: Keys, *keys: str) -> str:
    """Give the one key of several that was given; raise `Refused` unless it is exactly one."""
    given = [name for name in keys if getattr(asked, name) is not None]
    if len(given) == 1:
        return given[0]
    rule = f"one of {' or '.join(keys)} is given"
    value = {name: getattr(asked, name) for name in given} or None
    raise refuse(
        "contradiction" if given else "missing",
        given[-1] if given else keys[0],
        value,
        rule,
        "Take one out." if given else f"Add {keys[0]}.",
    )


def num(value: float, places: int = 3) -> str:
    """Write a number for a formula, with at most so many decimals.

    >>> num(65.1700), num(0.05)
    ('65.17', '0.05')
    """
    return f"{value:.{places}f}".rstrip("0").rstrip(".") or "0"


def tool_answer(hand: Hand, kind: str, wanted_mm: float, change: Callable[[float], str]) -> ToolAnswer:
    """Snap a wanted size to the nearest tool owned; `change` says what another size changes."""
    owned = hand.nearest(kind, wanted_mm)
    words = kind.replace("-", " ")
    if owned is None:
        return ToolAnswer(
            kind=kind, wanted_mm=wanted_mm, owned_mm=None, text=f"No {words} is listed on the bench."
        )
    if abs(owned - wanted_mm) < 5e-3:
        text = f"The {about(owned)} {words} on the bench fits."
    else:
        text = f"The nearest {words} on the bench is {about(owned)}: {change(owned)}"
    return ToolAnswer(kind=kind, wanted_mm=wanted_mm, owned_mm=owned, text=text)


def thin(hand: Hand, use: str, thickness_mm: float, key_name: str) -> tuple[SizeCaution, ...]:
    """Say when something is thinner than the house makes it: `use` names it, `key_name` the house's number."""
    least = float(getattr(hand.house.thinnest_mm, key_name))
    if thickness_mm >= least:
        return ()
    return (caution("too-thin", f"{about(thickness_mm)} is thin for {use}: {about(least)} is usual."),)

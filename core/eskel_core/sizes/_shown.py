"""A result as it is read: every key with its words and its value in the units of the house, the other unit beside it."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict

from ..units import Units, celsius, f_of_c, say_length, say_mass, say_temperature
from ._base import Calculator, Found, num
from ._registry import unit_of


class Shown(BaseModel):
    """One value of a result in words; `other` is the same in the other unit, where there is one."""

    model_config = ConfigDict(frozen=True)

    key: str
    label: str
    text: str
    other: str = ""


def shown(one: Calculator, found: Found, units: Units) -> tuple[Shown, ...]:
    """Give every value of a result that can be read in a line, the main one first."""
    told = []
    for name, info in type(found).model_fields.items():
        value = getattr(found, name)
        if name in Found.model_fields or value is None or name == "svg":
            continue
        words = _say(name, value, units)
        if words is not None:
            told.append(Shown(key=name, label=info.title or name, text=words[0], other=words[1]))
    return tuple(sorted(told, key=lambda row: row.key != (found.main or one.main)))


def _say(name: str, value: Any, units: Units) -> tuple[str, str] | None:
    if isinstance(value, bool):
        return ("yes" if value else "no"), ""
    if isinstance(value, str):
        return value, ""
    if isinstance(value, int) and not isinstance(value, bool):
        return str(value), ""
    if isinstance(value, float):
        return _say_number(name, value, units)
    if isinstance(value, dict):
        return "; ".join(
            f"{words} in {light.replace('daylight', 'daylight')}" for light, words in value.items()
        ), ""
    if isinstance(value, tuple) and value and all(isinstance(row, float) for row in value):
        few = [say_length(row, units.length, 1) for row in value[:24]]
        bare = [one.rsplit(" ", 1)[0] for one in few[:-1]]
        return ", ".join([*bare, few[-1]]) + (" …" if len(value) > 24 else ""), ""
    return None


def _say_number(name: str, value: float, units: Units) -> tuple[str, str]:
    if name.endswith("_mm"):
        value = round(value, 6) + 0.0
        return say_length(value, units.length), say_length(value, "mm" if units.length == "inch" else "inch")
    if name.endswith("_g"):
        return say_mass(value, units.mass), say_mass(value, "g" if units.mass == "troy" else "troy")
    if name.endswith("_c"):
        other_words = f"{celsius(value)}" if units.temperature == "f" else f"{f_of_c(value):.0f} °F"
        return say_temperature(value, units.temperature), other_words
    places = 4 if abs(value) < 1 else 2
    unit = unit_of(name)
    return f"{num(value, places)}{'' if unit == '°' else ' '}{unit}".strip(), ""

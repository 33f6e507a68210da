"""Quantities in sentences: data until somebody reads them.

A sentence of the core holds its quantities as marks (`⦃temperature 788⦄`), each with its kind and its value in the unit of
the core: °C, mm, g. Whoever shows a sentence *speaks* it in the units of the house: the command in metric, the web and the
PDF as the house has it. No one ever looks for numbers in words.

>>> text = f"It runs at {celsius(788)}, {difference(70)} harder, on {about(0.9)} wire."
>>> speak(text)
'It runs at 788 °C, 70 °C harder, on 0.9 mm wire.'
>>> speak(text, Units(length="inch", temperature="f"))
'It runs at 1450 °F, 126 °F harder, on 0.0354 in wire.'
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from ._lengths import MM_PER_INCH
from ._masses import G_PER_DWT, G_PER_OZT
from ._reading import METRIC, Units
from ._temperatures import f_of_c

QuantityKind = Literal["temperature", "difference", "length", "bare", "mass"]
_AT_MOST = 3
_LIGHTEST = 6  # places of a mass, g
_MARK = re.compile(r"⦃(temperature|difference|length|bare|mass) ([-+.\de ]+?)(?:/(~?)(\d))?⦄")


@dataclass(frozen=True)
class Quantity:
    """A quantity of a sentence: its kind, its values in the core's unit, and to how many places it is told.

    `trimmed` leaves noughts at the end out; several values are told with one unit (18 × 12 mm).
    """

    kind: QuantityKind
    values: tuple[float, ...]
    places: int = 0
    trimmed: bool = False


def celsius(value: float, places: int = 0) -> str:
    """Give the mark of a temperature, °C."""
    return _mark("temperature", f"{places}", value)


def difference(value: float, places: int = 0) -> str:
    """Give the mark of a difference between temperatures, K: it has no 32 added where it is told in °F."""
    return _mark("difference", f"{places}", value)


def length(value: float, places: int) -> str:
    """Give the mark of a length, mm, to just so many places."""
    return _mark("length", f"{places}", value)


def about(value: float, places: int = _AT_MOST) -> str:
    """Give the mark of a length, mm, to at most so many places: 2 and not 2.000."""
    return _mark("length", f"~{places}", value)


def bare(value: float, places: int = _AT_MOST) -> str:
    """Give the mark of a length that stands without its unit, as a figure in a drawing does, mm."""
    return _mark("bare", f"~{places}", value)


def sizes(*values: float, places: int = _AT_MOST) -> str:
    """Give the mark of lengths told with one unit, mm: 18 × 12 mm."""
    return _mark("length", f"~{places}", *values)


def grams(value: float, places: int = 2) -> str:
    """Give the mark of a mass, g, to so many places; what is lighter than the last of them to two figures: 0.0019 g and not 0.00."""
    if 0 < value < 10.0**-places:
        _, _, told = f"{float(f'{value:.2g}'):.{_LIGHTEST}f}".rstrip("0").partition(".")
        places = max(places, len(told))
    return _mark("mass", f"{places}", value)


def _mark(kind: QuantityKind, places: str, *values: float) -> str:
    return f"⦃{kind} {' '.join(f'{value:.9g}' for value in values)}/{places}⦄"


def parts_of(text: str) -> tuple[str | Quantity, ...]:
    """Give a sentence as its parts: words, and quantities with their kind."""
    parts: list[str | Quantity] = []
    end = 0
    for found in _MARK.finditer(text):
        parts += [text[end : found.start()], _read(found)]
        end = found.end()
    return tuple(part for part in (*parts, text[end:]) if part != "")


def speak(text: str, units: Units = METRIC) -> str:
    """Give a text with its quantities in some units; a text may be any that holds sentences, as JSON does."""
    return _MARK.sub(lambda found: _say(_read(found), units), text) if "⦃" in text else text


def _read(found: re.Match[str]) -> Quantity:
    values = tuple(float(value) for value in found[2].split())
    return Quantity(_KINDS[found[1]], values, int(found[4] or 0), found[3] == "~")


_KINDS: dict[str, QuantityKind] = {
    "temperature": "temperature",
    "difference": "difference",
    "length": "length",
    "bare": "bare",
    "mass": "mass",
}


def _say(one: Quantity, units: Units) -> str:
    (value, *_), degrees = one.values, f"°{units.temperature.upper()}"
    match one.kind:
        case "temperature":
            return f"{f_of_c(value) if units.temperature == 'f' else value:.{one.places}f} {degrees}"
        case "difference":
            return f"{value * 1.8 if units.temperature == 'f' else value:.{one.places}f} {degrees}"
        case "mass":
            return _say_mass(value, one.places, units)
        case "length":
            return f"{_say_lengths(one, units)} {'in' if units.length == 'inch' else 'mm'}"
        case "bare":
            return _say_lengths(one, units)


def _say_lengths(one: Quantity, units: Units) -> str:
    """An inch is so long that a place more is told of it."""
    inch = units.length == "inch"
    places = one.places + inch
    numbers = [f"{value / MM_PER_INCH if inch else value:.{places}f}" for value in one.values]
    told = [number.rstrip("0").rstrip(".") if one.trimmed and "." in number else number for number in numbers]
    return " × ".join(told)


def _say_mass(value: float, places: int, units: Units) -> str:
    if units.mass == "g":
        return f"{value:.{places}f} g"
    return f"{value / G_PER_OZT:.3f} ozt" if value >= G_PER_OZT else f"{value / G_PER_DWT:.{places}f} dwt"

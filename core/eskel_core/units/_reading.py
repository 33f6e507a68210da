"""What a typed text was understood as, and the units that a house speaks in."""

from __future__ import annotations

import re
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..faults import Refused, refuse

LengthUnit = Literal["mm", "inch"]
TemperatureUnit = Literal["c", "f"]
MassUnit = Literal["g", "troy"]

_FRACTION = r"(?:(?P<whole>\d+)[ -]+)?(?P<top>\d+)/(?P<under>\d+)"
_PLAIN = r"(?P<plain>\d+(?:[.,]\d*)?|[.,]\d+)"
_TYPED = re.compile(rf"^(?P<sign>[-−+]?)\s*(?:{_FRACTION}|{_PLAIN})\s*(?P<unit>[^\d\s][^\d]*)?$")
_VULGAR = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8", "⅞": " 7/8"}


class Reading(BaseModel):
    """A text as understood: the value in the core's own unit (mm, g, °C), and words that show how it was read."""

    model_config = ConfigDict(frozen=True)

    value: float
    understood: str


class Units(BaseModel):
    """The units that a house types and reads in: a bare number is in these."""

    model_config = ConfigDict(frozen=True)

    length: LengthUnit = "mm"
    gauge: bool = True
    temperature: TemperatureUnit = "c"
    mass: MassUnit = "g"


METRIC = Units()


def split_number(text: str) -> tuple[float, str] | None:
    """Split what was typed into a number and its unit's word; None where it is no number with a unit.

    >>> split_number("1½ in")
    (1.5, 'in')
    """
    cleaned = text
    for sign, fraction in _VULGAR.items():
        cleaned = cleaned.replace(sign, fraction)
    match = _TYPED.match(cleaned.strip())
    if match is None or (match["plain"] is None and int(match["under"]) == 0):
        return None
    if match["plain"] is not None:
        number = float(match["plain"].replace(",", "."))
    else:
        number = int(match["whole"] or 0) + int(match["top"]) / int(match["under"])
    return -number if match["sign"] in ("-", "−") else number, (match["unit"] or "").strip().rstrip(
        "."
    ).lower()


def refuse_text(code: str, path: str, text: str, rule: str, remedy: str) -> Refused:
    """Make the refusal of a typed text, cut short where it is very long."""
    return refuse(code, path, text if len(text) <= 80 else text[:77] + "...", rule, remedy)


def short(value: float, places: int = 4) -> str:
    """Write a number with at most so many significant places and no needless noughts.

    >>> short(0.8000001), short(1234.5678)
    ('0.8', '1235')
    """
    return f"{value:.0f}" if abs(value) >= 10 ** (places - 1) else f"{value:.{places}g}"

"""Lengths: millimetres, inches with fractions, and the B&S wire gauge."""

from __future__ import annotations

import math
import re
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..faults import refuse

MM_PER_INCH = 25.4
LONGEST_MM = 5000.0

_NUMBER = r"(?:(?P<whole>\d+)[ -]+)?(?P<top>\d+)/(?P<under>\d+)|(?P<plain>\d+(?:[.,]\d*)?|[.,]\d+)"
_TYPED = re.compile(rf"^(?:{_NUMBER})\s*(?P<unit>[a-z&\"”″.]*)$", re.IGNORECASE)
_GAUGE_WORDS = ("ga", "gauge", "g", "awg", "b&s")
_INCH_WORDS = ("in", "inch", "inches", '"', "”", "″")
_SCALE = {"mm": 1.0, "": 1.0, "cm": 10.0, **dict.fromkeys(_INCH_WORDS, MM_PER_INCH)}
_AUGHTS = re.compile(r"^(0{2,4})\s*(ga|gauge|g|awg|b&s)\.?$", re.IGNORECASE)
_SPECIAL = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8", "⅞": " 7/8"}


class Length(BaseModel):
    """A length as understood: `mm`, and the words that show how it was read."""

    model_config = ConfigDict(frozen=True)

    mm: float
    understood: str


def mm_of_gauge(gauge: float) -> float:
    """Give the B&S wire gauge in mm: 0.127 × 92^((36 − n)/39), n from −3 (0000) to 40.

    The gauge's definition: 36 is 0.005 in, 0000 is 0.46 in, in 39 equal ratios.

    >>> round(mm_of_gauge(21), 3)
    0.723
    """
    if not -3 <= gauge <= 40:
        raise refuse(
            "out-of-range", "gauge", gauge, "B&S gauge runs from 0000 to 40", "Give the size in mm instead."
        )
    return float(0.127 * 92 ** ((36 - gauge) / 39))


def gauge_of_mm(mm: float) -> float:
    """Give the B&S gauge number of a thickness in mm (may be fractional or below zero).

    >>> round(gauge_of_mm(1.024))
    18
    """
    return 36 - 39 * math.log(mm / 0.127) / math.log(92)


def read_length(text: str, path: str = "length") -> Length:
    """Read what a smith types as a length; raise `Refused` when it makes no sense.

    >>> read_length("7/16 in").mm
    11.1125
    """
    cleaned = text.strip()
    for sign, fraction in _SPECIAL.items():
        cleaned = cleaned.replace(sign, fraction)
    aughts = _AUGHTS.match(cleaned)
    if aughts:
        return _gauge_length(1 - len(aughts[1]), aughts[1])
    match = _TYPED.match(cleaned.strip())
    unit = match["unit"].lower().rstrip(".") if match else None
    if match is None or unit is None or not (unit in _SCALE or unit in _GAUGE_WORDS):
        raise refuse(
            "not-a-length",
            path,
            text,
            "a length is a number with mm, cm, in or ga",
            'Type for example 0.8, 0.8 mm, 21 ga, 7/16 in or 5/32".',
        )
    number = _number(match, text, path)
    if unit in _GAUGE_WORDS:
        return _gauge_length(number, f"{number:g}")
    return _plain_length(number * _SCALE[unit], unit, text, path)


def _number(match: re.Match[str], text: str, path: str) -> float:
    if match["plain"] is not None:
        return float(match["plain"].replace(",", "."))
    if int(match["under"]) == 0:
        raise refuse(
            "not-a-length", path, text, "a fraction needs a number below the line", "Mend the fraction."
        )
    return int(match["whole"] or 0) + int(match["top"]) / int(match["under"])


def _gauge_length(gauge: float, written: str) -> Length:
    mm = mm_of_gauge(gauge)
    return Length(mm=round(mm, 3), understood=f"{written} gauge (B&S) = {mm:.3f} mm")


def _plain_length(mm: float, unit: str, text: str, path: str) -> Length:
    if not 0 < mm <= LONGEST_MM:
        raise refuse(
            "out-of-range",
            path,
            text,
            f"a length is above 0 and at most {LONGEST_MM:g} mm",
            "Check the number.",
        )
    mm = round(mm, 4)
    inches = f" = {mm / MM_PER_INCH:.4g} in" if unit in ("mm", "cm", "") else f" = {mm:g} mm"
    shown = f"{mm:g} mm" if unit in ("mm", "cm", "") else f"{mm / MM_PER_INCH:.4g} in"
    return Length(mm=mm, understood=shown + inches)


def say_length(mm: float, unit: Literal["mm", "inch"] = "mm", places: int = 2) -> str:
    """Write a length in the unit of the house.

    >>> say_length(12.7, "inch")
    '0.5 in'
    """
    if unit == "inch":
        return f"{mm / MM_PER_INCH:.{places + 1}f}".rstrip("0").rstrip(".") + " in"
    return f"{mm:.{places}f}".rstrip("0").rstrip(".") + " mm"

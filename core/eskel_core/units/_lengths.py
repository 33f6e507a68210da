"""Lengths: millimetres, inches with fractions, and the B&S wire gauge."""

from __future__ import annotations

import math
import re

from ..faults import refuse
from ._reading import METRIC, LengthUnit, Reading, Units, refuse_text, short, split_number

MM_PER_INCH = 25.4
LONGEST_MM = 5000.0
LEAST_MM = 0.003  # thinner than any leaf that is beaten
THICKEST_GAUGE, FINEST_GAUGE = -3, 40

_GAUGE_WORDS = ("ga", "gauge", "g", "awg", "b&s")
_INCH_WORDS = ("in", "inch", "inches", '"', "”", "″", "''")
_SCALE = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "µm": 0.001, "ft": 12 * MM_PER_INCH} | dict.fromkeys(
    _INCH_WORDS, MM_PER_INCH
)
MOST_READINGS = 20
_AUGHTS = re.compile(r"^(0{2,})\s*(ga|gauge|g|awg|b&s)\.?$", re.IGNORECASE)


def mm_of_gauge(gauge: float) -> float:
    """Give the B&S wire gauge in mm: 0.127 × 92^((36 − n)/39), n from −3 (0000) to 40.

    The gauge's definition: 36 is 0.005 in, 0000 is 0.46 in, in 39 equal ratios.

    >>> round(mm_of_gauge(21), 3)
    0.723
    """
    if not THICKEST_GAUGE <= gauge <= FINEST_GAUGE:
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


def read_length(text: str, path: str = "length", units: Units = METRIC) -> Reading:
    """Read what a smith types as a length, in mm; raise `Refused` when it makes no sense.

    Several readings of one thing, parted by semicolons, are their mean; one that names no unit has that of another.

    >>> read_length("7/16 in").value
    11.1125
    >>> read_length("17.2; 17.3; 17.25").value
    17.25
    """
    readings = [one.strip() for one in text.split(";") if one.strip()]
    if ";" in text and readings:
        return _mean(readings, text, path, units) if readings[1:] else read_length(readings[0], path, units)
    aughts = _AUGHTS.match(text.strip())
    if aughts:
        return _gauge_reading(1 - len(aughts[1]), aughts[1], path)
    typed = split_number(text)
    word = typed[1] if typed else ""
    if typed is None or not (word == "" or word in _SCALE or word in _GAUGE_WORDS):
        raise refuse_text(
            "not-a-length",
            path,
            text,
            "a length is a number with mm, cm, in or ga",
            'Type for example 0.8, 0.8 mm, 21 ga, 7/16 in or 5/32"; several readings as 17.2; 17.3.',
        )
    number, _ = typed
    if word in _GAUGE_WORDS:
        return _gauge_reading(number, f"{number:g}", path)
    scale = _SCALE[word] if word else (MM_PER_INCH if units.length == "inch" else 1.0)
    if not LEAST_MM <= number * scale <= LONGEST_MM:
        raise refuse_text(
            "out-of-range",
            path,
            text,
            f"a length is at least {LEAST_MM:g} and at most {LONGEST_MM:g} mm",
            "Check the number.",
        )
    mm = round(number * scale, 4)
    return Reading(value=mm, understood=show_length(mm, units, inch_first=scale != 1.0 and word != "cm"))


def _mean(readings: list[str], text: str, path: str, units: Units) -> Reading:
    """Read several readings of one thing as their mean, and say how far they lie apart."""
    if len(readings) > MOST_READINGS:
        raise refuse_text(
            "out-of-range", path, text, f"at most {MOST_READINGS} readings are taken together", "Type fewer."
        )
    typed = [split_number(one) or (0.0, one) for one in readings]
    unit = next((word for _, word in reversed(typed) if word), "")
    found = [
        read_length(one if word else f"{one} {unit}", path, units).value
        for one, (_, word) in zip(readings, typed, strict=True)
    ]
    mm = round(math.fsum(found) / len(found), 4)
    apart = say_length(max(found) - min(found), units.length)
    shown = show_length(mm, units, inch_first=unit in _INCH_WORDS or (unit == "" and units.length == "inch"))
    return Reading(value=mm, understood=f"the mean of {len(found)}, {apart} apart: {shown}")


def show_length(mm: float, units: Units = METRIC, *, inch_first: bool = False) -> str:
    """Write a length with the other units beside it.

    >>> show_length(0.8)
    '0.8 mm = 0.0315 in, near 20 ga'
    """
    both = [f"{mm:g} mm", f"{mm / MM_PER_INCH:.4g} in"]
    told = " = ".join(reversed(both) if inch_first else both)
    if not units.gauge or not mm_of_gauge(FINEST_GAUGE) <= mm <= mm_of_gauge(THICKEST_GAUGE):
        return told
    nearest = round(gauge_of_mm(mm))
    return f"{told}, near {say_gauge(nearest)} ga"


def say_gauge(gauge: int) -> str:
    """Write a gauge number: below 0 it is written in noughts.

    >>> say_gauge(18), say_gauge(-3)
    ('18', '0000')
    """
    return str(gauge) if gauge > 0 else "0" * (1 - gauge)


def _gauge_reading(gauge: float, written: str, path: str) -> Reading:
    if not THICKEST_GAUGE <= gauge <= FINEST_GAUGE:
        raise refuse_text(
            "out-of-range", path, f"{written} ga", "B&S gauge runs from 0000 to 40", "Give the size in mm."
        )
    mm = mm_of_gauge(gauge)
    return Reading(
        value=round(mm, 3),
        understood=f"{written} gauge (B&S) = {mm:.3f} mm = {short(mm / MM_PER_INCH)} in",
    )


def say_length(mm: float, unit: LengthUnit = "mm", places: int = 2) -> str:
    """Write a length in the unit of the house.

    >>> say_length(12.7, "inch")
    '0.5 in'
    """
    if unit == "inch":
        return f"{mm / MM_PER_INCH:.{places + 1}f}".rstrip("0").rstrip(".") + " in"
    return f"{mm:.{places}f}".rstrip("0").rstrip(".") + " mm"

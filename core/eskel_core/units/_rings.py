"""Ring sizes: US, UK, JP and ISO, each an inner diameter in mm.

US 11.63 + 0.8128·s in quarter steps; UK letters by circumference, 37.5 + 1.25·n with A = 0, in halves;
JP 13 + (n − 1)/3; ISO 8653 is the inner circumference itself, mm.
"""

from __future__ import annotations

import math
import re

from ._reading import Reading, refuse_text, split_number
from ._speech import length

_US = re.compile(r"^us(?:a)?\s*(.+)$", re.IGNORECASE)
_UK = re.compile(
    r"^(?:uk|au|gb)\s*(?P<letter>[a-z])\s*(?:\+\s*(?P<over>[1-6]))?\s*(?P<half>½|1/2|\.5)?$", re.IGNORECASE
)
_JP = re.compile(r"^jp\s*(\d{1,2})$", re.IGNORECASE)
_ISO = re.compile(r"^(?:iso|eu)?\s*(\d{2}(?:[.,]\d+)?|\d{2}\s*½)$", re.IGNORECASE)
_MOST_US, _MOST_JP = 16.0, 36
_LEAST_ISO, _MOST_ISO = 36.0, 80.0
EXAMPLES = "US 6 1/2, UK N½, JP 13, or 54 for the inner circumference"


def read_ring_size(text: str, path: str = "size") -> Reading:
    """Read a ring size as smiths type it: the inner diameter, mm; raise `Refused` when it makes no sense.

    >>> read_ring_size("US 9").value, read_ring_size("UK P").value
    (18.9452, 17.9049)
    """
    cleaned = text.strip()
    for pattern, read in ((_US, _us), (_UK, _uk), (_JP, _jp), (_ISO, _iso)):
        match = pattern.match(cleaned)
        if match:
            return _ring_reading(read(match, text, path), cleaned)
    typed = split_number(cleaned)
    if typed is not None and typed[1] == "mm" and 10 <= typed[0] <= 28:
        return _ring_reading(typed[0], cleaned)
    remedy = f"Type {EXAMPLES}."
    if typed is not None and typed[1] == "" and 0 <= typed[0] < _LEAST_ISO:
        remedy = f"Say whose size it is: {EXAMPLES}."
    raise refuse_text("not-a-ring-size", path, text, "a ring size names its system", remedy)


def us_size(inner_mm: float) -> float:
    """Give the US size of an inner diameter, to no step.

    >>> round(us_size(18.9452), 3)
    9.0
    """
    return (inner_mm - 11.63) / 0.8128


def uk_size(inner_mm: float) -> str:
    """Give the nearest UK half size of an inner diameter; past Z it is written Z+1 and on.

    >>> uk_size(17.9049)
    'P'
    """
    halves = round((math.pi * inner_mm - 37.5) / 1.25 * 2)
    if halves < 0:
        return "below A"
    number, half = divmod(halves, 2)
    letter = chr(ord("A") + number) if number <= 25 else f"Z+{number - 25}"
    return letter + ("½" if half else "")


def show_ring_size(inner_mm: float) -> str:
    """Write an inner diameter in the three systems that smiths ask for; its length is a mark.

    >>> from eskel_core.units import speak
    >>> speak(show_ring_size(18.9452))
    '18.95 mm inside = US 9 = UK R½ = ISO 59.5'
    """
    us = f"{round(us_size(inner_mm) * 4) / 4:g}"
    return f"{length(inner_mm, 2)} inside = US {us} = UK {uk_size(inner_mm)} = ISO {math.pi * inner_mm:.1f}"


def _ring_reading(inner_mm: float, text: str) -> Reading:
    return Reading(value=round(inner_mm, 4), understood=f"{text}: {show_ring_size(inner_mm)}")


def _us(match: re.Match[str], text: str, path: str) -> float:
    typed = split_number(match[1])
    if typed is None or typed[1] or not 0 <= typed[0] <= _MOST_US:
        raise refuse_text(
            "out-of-range", path, text, f"US sizes run from 0 to {_MOST_US:g}", "Check the size."
        )
    if (typed[0] * 4) % 1:
        raise refuse_text(
            "out-of-range", path, text, "US sizes go by quarters", "Give the nearest quarter size."
        )
    return 11.63 + 0.8128 * typed[0]


def _uk(match: re.Match[str], text: str, path: str) -> float:
    letter = ord(match["letter"].upper()) - ord("A")
    if match["over"] and letter != 25:
        raise refuse_text(
            "not-a-ring-size", path, text, "only Z is counted on, as in Z+2", "Check the letter."
        )
    number = letter + int(match["over"] or 0) + (0.5 if match["half"] else 0)
    return (37.5 + 1.25 * number) / math.pi


def _jp(match: re.Match[str], text: str, path: str) -> float:
    number = int(match[1])
    if not 1 <= number <= _MOST_JP:
        raise refuse_text("out-of-range", path, text, f"JP sizes run from 1 to {_MOST_JP}", "Check the size.")
    return 13 + (number - 1) / 3


def _iso(match: re.Match[str], text: str, path: str) -> float:
    typed = split_number(match[1])
    if typed is None or not _LEAST_ISO <= typed[0] <= _MOST_ISO:
        raise refuse_text(
            "out-of-range",
            path,
            text,
            f"an inner circumference lies between {_LEAST_ISO:g} and {_MOST_ISO:g} mm",
            f"Type {EXAMPLES}.",
        )
    return typed[0] / math.pi

"""Masses: grams, and the troy ounce and pennyweight in which metal is sold."""

from __future__ import annotations

from ._reading import METRIC, MassUnit, Reading, Units, refuse_text, short, split_number

G_PER_OZT = 31.1035
G_PER_DWT = 1.55517
_GRAIN, _CARAT = 0.06479891, 0.2
_HEAVIEST_G = 100_000.0
_SCALE = {
    "g": 1.0,
    "gram": 1.0,
    "grams": 1.0,
    "kg": 1000.0,
    "mg": 0.001,
    "ct": _CARAT,
    "carat": _CARAT,
    "carats": _CARAT,
    "gr": _GRAIN,
    "grain": _GRAIN,
    "grains": _GRAIN,
    "dwt": G_PER_DWT,
    "pwt": G_PER_DWT,
} | dict.fromkeys(("ozt", "oz t", "oz troy", "troy oz", "t oz"), G_PER_OZT)


def read_mass(text: str, path: str = "mass", units: Units = METRIC) -> Reading:
    """Read what a smith types as a mass, in g; raise `Refused` when it makes no sense.

    An ounce alone is refused: metal is sold by the troy ounce, kitchen scales show another.

    >>> read_mass("2 dwt").value
    3.1103
    """
    typed = split_number(text)
    word = typed[1] if typed else ""
    if word == "oz":
        raise refuse_text(
            "not-a-mass",
            path,
            text,
            "which ounce is meant must be said",
            "Type ozt for the troy ounce, or grams.",
        )
    if typed is None or (word and word not in _SCALE):
        raise refuse_text(
            "not-a-mass",
            path,
            text,
            "a mass is a number with g, mg, kg, ozt or dwt",
            "Type for example 12.5 g or 2 dwt.",
        )
    scale = _SCALE[word] if word else (G_PER_DWT if units.mass == "troy" else 1.0)
    grams = typed[0] * scale
    if not 0 < grams <= _HEAVIEST_G:
        raise refuse_text(
            "out-of-range",
            path,
            text,
            f"a mass is above 0 and at most {_HEAVIEST_G / 1000:g} kg",
            "Check the number.",
        )
    both = [f"{short(grams)} g", say_troy(grams)]
    troy_first = scale in (G_PER_DWT, G_PER_OZT)
    return Reading(value=round(grams, 4), understood=" = ".join(reversed(both) if troy_first else both))


def say_troy(grams: float) -> str:
    """Write a mass in troy units: pennyweight below one ounce.

    >>> say_troy(62.207), say_troy(3.11034)
    ('2 ozt', '2 dwt')
    """
    return f"{short(grams / G_PER_OZT)} ozt" if grams >= G_PER_OZT else f"{short(grams / G_PER_DWT)} dwt"


def say_mass(grams: float, unit: MassUnit = "g", places: int = 2) -> str:
    """Write a mass in the unit of the house.

    >>> say_mass(4.9728), say_mass(4.9728, "troy")
    ('4.97 g', '3.198 dwt')
    """
    return say_troy(grams) if unit == "troy" else f"{grams:.{places}f} g"

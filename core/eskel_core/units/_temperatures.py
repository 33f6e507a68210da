"""Degrees Celsius and Fahrenheit."""

from __future__ import annotations

from ._reading import METRIC, Reading, TemperatureUnit, Units, refuse_text, short, split_number

_COLDEST_C, _HOTTEST_C = -50.0, 4000.0
_C_WORDS, _F_WORDS = ("c", "°c", "celsius"), ("f", "°f", "fahrenheit")


def c_of_f(fahrenheit: float) -> float:
    """Turn °F into °C.

    >>> c_of_f(212)
    100.0
    """
    return (fahrenheit - 32) * 5 / 9


def f_of_c(celsius: float) -> float:
    """Turn °C into °F.

    >>> f_of_c(100)
    212.0
    """
    return celsius * 9 / 5 + 32


def read_temperature(text: str, path: str = "temperature", units: Units = METRIC) -> Reading:
    """Read what a smith types as a temperature, in °C; raise `Refused` when it makes no sense.

    >>> round(read_temperature("1205 F").value, 1)
    651.7
    """
    typed = split_number(text)
    word = typed[1] if typed else ""
    if typed is None or word not in ("", "°", *_C_WORDS, *_F_WORDS):
        raise refuse_text(
            "not-a-temperature",
            path,
            text,
            "a temperature is a number with C or F",
            "Type for example 650 C or 1205F.",
        )
    in_f = word in _F_WORDS or (word not in _C_WORDS and units.temperature == "f")
    celsius = c_of_f(typed[0]) if in_f else typed[0]
    if not _COLDEST_C < celsius <= _HOTTEST_C:
        raise refuse_text(
            "out-of-range",
            path,
            text,
            f"a temperature lies between {_COLDEST_C:g} and {_HOTTEST_C:g} °C",
            "Check the number and whether it is °C or °F.",
        )
    both = [f"{short(celsius)} °C", f"{short(f_of_c(celsius))} °F"]
    return Reading(value=round(celsius, 3), understood=" = ".join(reversed(both) if in_f else both))


def say_temperature(celsius: float, unit: TemperatureUnit = "c") -> str:
    """Write a temperature in the unit of the house, to the degree.

    >>> say_temperature(650, "f")
    '1202 °F'
    """
    return f"{f_of_c(celsius):.0f} °F" if unit == "f" else f"{celsius:.0f} °C"

"""Degrees Celsius and Fahrenheit."""

from __future__ import annotations


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

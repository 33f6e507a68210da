"""Quantities as smiths type them, read into mm, g and °C and written back in the house's units.

Concepts: a *reading* (the value understood and the words for it), the *units* of a house (a bare number is
in them), the B&S wire gauge, inch fractions, troy weight, ring sizes, *typed objects* whose keys carry their
unit. Everything inside the core is a float in the unit that its name says; this is the only place where other
units come in or go out. A units library was weighed and left: a dozen factors are all that smiths type, while
gauges, ring sizes and vulgar fractions are known to none, and reading its definitions costs half of the second
in which a command must start.
"""

from ._lengths import gauge_of_mm, mm_of_gauge, read_length, say_gauge, say_length, show_length
from ._masses import read_mass, say_mass
from ._reading import METRIC, LengthUnit, MassUnit, Reading, TemperatureUnit, Units
from ._rings import read_ring_size, show_ring_size
from ._sheet import Sheet
from ._speech import Quantity as SpokenQuantity
from ._speech import about, bare, celsius, difference, grams, length, parts_of, sizes, speak
from ._temperatures import c_of_f, f_of_c, read_temperature, say_temperature
from ._typed import Quantity, read_quantity, read_typed, understand

__all__ = [
    "METRIC",
    "LengthUnit",
    "MassUnit",
    "Quantity",
    "Reading",
    "Sheet",
    "SpokenQuantity",
    "TemperatureUnit",
    "Units",
    "about",
    "bare",
    "c_of_f",
    "celsius",
    "difference",
    "f_of_c",
    "gauge_of_mm",
    "grams",
    "length",
    "mm_of_gauge",
    "parts_of",
    "read_length",
    "read_mass",
    "read_quantity",
    "read_ring_size",
    "read_temperature",
    "read_typed",
    "say_gauge",
    "say_length",
    "say_mass",
    "say_temperature",
    "show_length",
    "show_ring_size",
    "sizes",
    "speak",
    "understand",
]

"""Lengths and temperatures as smiths type them, read into mm and °C and written back.

Concepts: a *reading* (`Length`: the millimetres understood and the words for it), the B&S wire
gauge, inch fractions. Everything inside the core is a float in the unit that its name says;
this is the only place where other units come in or go out.
"""

from ._lengths import Length, gauge_of_mm, mm_of_gauge, read_length, say_length
from ._temperatures import c_of_f, f_of_c

__all__ = ["Length", "c_of_f", "f_of_c", "gauge_of_mm", "mm_of_gauge", "read_length", "say_length"]

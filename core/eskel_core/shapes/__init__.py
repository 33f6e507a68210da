"""Outlines from drawings: SVG and DXF read into the outline of a sheet part, in mm.

Concepts: a *drawn outline* (a path in mm whose inner loops are holes, with its true area and perimeter); the *unit* of a
file, which is asked when the file does not say.
"""

from ._read import DrawnOutline, DrawnUnit, read_outline

__all__ = ["DrawnOutline", "DrawnUnit", "read_outline"]

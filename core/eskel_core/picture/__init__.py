"""The scale picture of a piece in plan: every part where it lies, every join where it is.

Concepts: a `Picture` in mm with y running down the page; parts placed by hand stay where they were put, the
rest is set on or beside what it joins; seen from above and from the front.
"""

from ._front import FrontMark, FrontPart, FrontPicture
from ._layout import JoinMark, Picture, PlacedPart, distance_mm, draw
from ._placing import nodes_of_part, stands_of
from ._small import small
from ._stacked import set_on

__all__ = [
    "FrontMark",
    "FrontPart",
    "FrontPicture",
    "JoinMark",
    "Picture",
    "PlacedPart",
    "distance_mm",
    "draw",
    "nodes_of_part",
    "set_on",
    "small",
    "stands_of",
]

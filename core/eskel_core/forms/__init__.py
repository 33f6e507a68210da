"""The forms that metal comes in, and what they measure.

Concepts: a *form* (wire, sheet, strip, tube, ball, lump) with its *profile* or *outline*; its
*measures* (volume, surface, blank); the *contact* that two forms make at a join; the *plan view*
of a form as thin lines. All lengths in mm.
"""

from ._bends import BENDS, Bend, bend_line, line_length_mm
from ._contact import Contact, contact_of, rim_contact, tip_of
from ._measure import Blank, Measures, measure, wire_length_mm
from ._outlines import (
    FURTHEST_MM,
    MOST_POINTS,
    Ring,
    check_rings,
    curve_points,
    outline_area_mm2,
    outline_box,
    outline_perimeter_mm,
    outline_rings,
    outline_size_mm,
    tangled,
)
from ._profiles import profile_across_mm, profile_area_mm2, profile_height_mm, profile_perimeter_mm
from ._types import (
    Ball,
    Disc,
    Ellipse,
    Form,
    HalfRound,
    Lump,
    Outline,
    PathOutline,
    Point,
    Polygon,
    Profile,
    Rect,
    RectOutline,
    RingOutline,
    Round,
    Sheet,
    Square,
    Strip,
    Tube,
    Wire,
)
from ._view import PlanView, ViewLine, plan_view, rim_line
from ._words import say_stock

__all__ = [
    "BENDS",
    "FURTHEST_MM",
    "MOST_POINTS",
    "Ball",
    "Bend",
    "Blank",
    "Contact",
    "Disc",
    "Ellipse",
    "Form",
    "HalfRound",
    "Lump",
    "Measures",
    "Outline",
    "PathOutline",
    "PlanView",
    "Point",
    "Polygon",
    "Profile",
    "Rect",
    "RectOutline",
    "Ring",
    "RingOutline",
    "Round",
    "Sheet",
    "Square",
    "Strip",
    "Tube",
    "ViewLine",
    "Wire",
    "bend_line",
    "check_rings",
    "contact_of",
    "curve_points",
    "line_length_mm",
    "measure",
    "outline_area_mm2",
    "outline_box",
    "outline_perimeter_mm",
    "outline_rings",
    "outline_size_mm",
    "plan_view",
    "profile_across_mm",
    "profile_area_mm2",
    "profile_height_mm",
    "profile_perimeter_mm",
    "rim_contact",
    "rim_line",
    "say_stock",
    "tangled",
    "tip_of",
    "wire_length_mm",
]

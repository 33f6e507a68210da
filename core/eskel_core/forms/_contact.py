"""Where two forms touch at a join: contact area, seam and the number of fillets.

These are working estimates for joins that nobody measured (`seam_mm` and `contact_mm2` of a join
win). A round thing laid along another touches, once solder has wet it, over about a third of its
thickness; a ball on a plate over a disc of half its diameter (common bench reckoning).
"""

from __future__ import annotations

import math

from pydantic import BaseModel, ConfigDict

from ._measure import measure
from ._outlines import dome_rim_share, outline_area_mm2, outline_perimeter_mm, outline_size_mm
from ._profiles import profile_across_mm, profile_area_mm2, profile_height_mm, profile_perimeter_mm
from ._types import Ball, Form, Lump, Sheet, Strip, Tube, Wire

_WET_SHARE = 1 / 3
_LUMP_FACE_MM2 = 4.0
_LAP_MM = 4.0


class Contact(BaseModel):
    """The touching faces of a join: `area_mm2`, `seam_mm` round or along it, and its `fillets` (0 to 2)."""

    model_config = ConfigDict(frozen=True)

    area_mm2: float
    seam_mm: float
    fillets: int


def contact_of(kind: str, a: Form, b: Form) -> Contact | None:
    """Estimate the contact of a heated join between two forms (the same form twice: it closes on itself).

    None for a kind of join that no heat makes.
    """
    match kind:
        case "butt" | "fuse":
            return _butt(a, b)
        case "tee":
            tip = min((tip_of(a), tip_of(b)), key=lambda contact: contact.area_mm2)
            return Contact(area_mm2=tip.area_mm2, seam_mm=tip.seam_mm, fillets=1)
        case "edge" | "seat" | "line":
            return _along(kind, a, b)
        case "overlay" if a is b and isinstance(a, Wire | Strip):
            return _lapped(a)
        case "overlay":
            return min((face_of(a), face_of(b)), key=lambda contact: contact.area_mm2)
        case "cross":
            across = thickness_of(a) * thickness_of(b)
            return Contact(area_mm2=across / 2, seam_mm=2 * math.sqrt(across), fillets=2)
        case "bundle":
            both = tip_of(a).area_mm2 + tip_of(b).area_mm2
            return Contact(area_mm2=both, seam_mm=tip_of(a).seam_mm + tip_of(b).seam_mm, fillets=0)
        case _:
            return None


def _lapped(form: Wire | Strip) -> Contact:
    """Give where a bent run laps over itself: 4 mm of it, as a bail's laps are left (bench practice), or a quarter of a short one."""
    wide = form.width_mm if isinstance(form, Strip) else profile_across_mm(form.profile)
    return _slab(min(_LAP_MM, form.length_mm / 4), wide).model_copy(update={"fillets": 1})


def tip_of(form: Form) -> Contact:
    """Give the end face of a form."""
    match form:
        case Wire():
            area, around = profile_area_mm2(form.profile), profile_perimeter_mm(form.profile)
            return Contact(area_mm2=area * form.strands, seam_mm=around, fillets=0)
        case Strip():
            return _slab(form.width_mm, form.thickness_mm)
        case Sheet():
            return _slab(math.sqrt(outline_area_mm2(form.outline)), form.thickness_mm)
        case Tube():
            inner = form.outer_mm - 2 * form.wall_mm
            area = math.pi * (form.outer_mm**2 - inner**2) / 4
            return Contact(area_mm2=area, seam_mm=math.pi * form.outer_mm, fillets=0)
        case Ball():
            return Contact(
                area_mm2=math.pi * (form.diameter_mm / 4) ** 2,
                seam_mm=math.pi * form.diameter_mm / 2,
                fillets=1,
            )
        case Lump():
            return Contact(area_mm2=_LUMP_FACE_MM2, seam_mm=4 * math.sqrt(_LUMP_FACE_MM2), fillets=1)


def rim_contact(form: Wire, across_mm: float) -> Contact:
    """Give where a ring that stands on its rim, `across_mm` wide in all, meets a face: it is filed to sit, by a tenth of its thickness.

    The flat of a circle of radius R filed by f is 2·√(2·R·f) long.
    """
    flat = 2 * math.sqrt(across_mm * 0.1 * profile_height_mm(form.profile))
    return _slab(min(flat, across_mm), profile_across_mm(form.profile)).model_copy(update={"fillets": 2})


def face_of(form: Form) -> Contact:
    """Give the face that a form lays on another."""
    match form:
        case Sheet():
            return Contact(
                area_mm2=outline_area_mm2(form.outline), seam_mm=outline_perimeter_mm(form.outline), fillets=1
            )
        case Strip():
            return _slab(form.length_mm, form.width_mm)
        case Wire() | Tube():
            return _lying(form)
        case Ball() | Lump():
            return tip_of(form)


def thickness_of(form: Form) -> float:
    """Give how thick a form is where another meets it, mm."""
    match form:
        case Wire():
            return profile_across_mm(form.profile)
        case Sheet() | Strip():
            return form.thickness_mm
        case Tube():
            return form.outer_mm
        case Ball():
            return form.diameter_mm
        case Lump():
            return math.sqrt(_LUMP_FACE_MM2)


def length_of(form: Form) -> float:
    """Give how long a form is along its longest run, mm."""
    match form:
        case Wire() | Strip() | Tube():
            return form.length_mm
        case Sheet():
            return outline_perimeter_mm(form.outline)
        case Ball():
            return form.diameter_mm / 2
        case Lump():
            return math.sqrt(measure(form).surface_mm2 / 6)


def _butt(a: Form, b: Form) -> Contact:
    if isinstance(a, Sheet) and isinstance(b, Sheet) and a is not b:
        seam = min(_rim_mm(a), _rim_mm(b))
        return Contact(area_mm2=seam * min(a.thickness_mm, b.thickness_mm), seam_mm=seam, fillets=0)
    return min((tip_of(a), tip_of(b)), key=lambda contact: contact.area_mm2)


def _along(kind: str, a: Form, b: Form) -> Contact:
    """Give the contact of the one that stands or lies along the other."""
    standing = min((a, b), key=lambda form: (isinstance(form, Sheet), not _is_domed(form), length_of(form)))
    under = b if standing is a else a
    if isinstance(under, Sheet) and isinstance(standing, Wire | Tube | Strip) and _is_straight(standing):
        # What is longer than the sheet that it lies on touches no farther than that goes.
        longest = min(standing.length_mm, math.hypot(*outline_size_mm(under.outline)))
        standing = standing.model_copy(update={"length_mm": longest})
    if isinstance(standing, Wire | Tube | Ball | Lump) or (isinstance(standing, Strip) and kind == "line"):
        return _lying(standing)
    if isinstance(standing, Strip):
        return _seam(standing.length_mm, standing.thickness_mm)
    if isinstance(standing, Sheet) and _is_domed(standing):
        return _seam(_rim_mm(standing), thickness_of(standing))
    # Flat sheet stands on one of its edges.
    longest = length_of(standing) / 3 if kind != "seat" else length_of(standing)
    return _seam(longest, thickness_of(standing))


def _is_domed(form: Form) -> bool:
    return isinstance(form, Sheet) and form.domed_mm > 0


def _rim_mm(form: Sheet) -> float:
    """Give how long the edge of a sheet is, drawn in as far as it is domed."""
    around = outline_perimeter_mm(form.outline)
    return (
        around * dome_rim_share(min(outline_size_mm(form.outline)) / 2, form.domed_mm)
        if form.domed_mm
        else around
    )


def _is_straight(form: Wire | Tube | Strip) -> bool:
    return isinstance(form, Tube) or (not form.closed and form.path is None)


def _lying(form: Form) -> Contact:
    if isinstance(form, Ball | Lump):
        return tip_of(form)
    return _seam(length_of(form), thickness_of(form) * _WET_SHARE)


def _seam(length: float, width: float) -> Contact:
    return Contact(area_mm2=length * width, seam_mm=length, fillets=2)


def _slab(a: float, b: float) -> Contact:
    return Contact(area_mm2=a * b, seam_mm=2 * (a + b), fillets=0)

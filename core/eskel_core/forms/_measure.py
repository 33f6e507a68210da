"""Volume, surface and blank of every form."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ._outlines import outline_area_mm2, outline_perimeter_mm
from ._profiles import profile_across_mm, profile_area_mm2, profile_perimeter_mm
from ._types import Ball, Form, Lump, Sheet, Strip, Tube, Wire


class Blank(BaseModel):
    """What is cut for a part: a `length` of stock, an `area` of sheet, or the thing as it is `bought`."""

    model_config = ConfigDict(frozen=True)

    kind: Literal["length", "area", "volume", "bought"]
    length_mm: float | None = None
    area_mm2: float | None = None


class Measures(BaseModel):
    """What a form measures: `volume_mm3` and `surface_mm2`; a lump's volume follows from its metal."""

    model_config = ConfigDict(frozen=True)

    volume_mm3: float | None
    surface_mm2: float
    blank: Blank


def measure(form: Form) -> Measures:
    """Measure a form.

    A dome keeps the area and the volume of its flat blank (doming as taught: the sheet is moved,
    not spread); bent and closed wire keeps the length of its centre line.

    >>> round(measure(Tube(kind="tube", outer_mm=4, wall_mm=0.4, length_mm=6)).volume_mm3, 3)
    27.143
    """
    match form:
        case Wire():
            return _wire(form)
        case Sheet():
            area, edge = outline_area_mm2(form.outline), outline_perimeter_mm(form.outline)
            blank = Blank(kind="area", area_mm2=area)
            return Measures(
                volume_mm3=area * form.thickness_mm,
                surface_mm2=2 * area + edge * form.thickness_mm,
                blank=blank,
            )
        case Strip():
            section = form.width_mm * form.thickness_mm
            around = 2 * (form.width_mm + form.thickness_mm)
            return _drawn(section, around, form.length_mm, form.length_mm, 0 if form.closed else 2)
        case Tube():
            return _tube(form)
        case Ball():
            volume = math.pi * form.diameter_mm**3 / 6
            return Measures(
                volume_mm3=volume, surface_mm2=math.pi * form.diameter_mm**2, blank=Blank(kind="volume")
            )
        case Lump():
            return Measures(volume_mm3=None, surface_mm2=form.surface_mm2, blank=Blank(kind="bought"))


def wire_length_mm(form: Wire) -> float:
    """Give the length of wire in all strands, mm: a helix of the strand centres, L·√(1 + (π·dc/p)²).

    Strands round a circle of centres dc = d/sin(π/n); a seventh runs straight in the middle.

    >>> from ._types import Round
    >>> twist = Wire(kind="wire", profile=Round(kind="round", diameter_mm=1), length_mm=10, strands=2, pitch_mm=6)
    >>> round(wire_length_mm(twist) / 20, 4)
    1.1288
    """
    if form.strands == 1 or form.pitch_mm is None:
        return form.length_mm
    outer = 6 if form.strands == 7 else form.strands
    centres = profile_across_mm(form.profile) / math.sin(math.pi / outer)
    helix = form.length_mm * math.sqrt(1 + (math.pi * centres / form.pitch_mm) ** 2)
    return outer * helix + (form.strands - outer) * form.length_mm


def _wire(form: Wire) -> Measures:
    length = wire_length_mm(form)
    ends = 0 if form.closed else 2 * form.strands
    return _drawn(profile_area_mm2(form.profile), profile_perimeter_mm(form.profile), length, length, ends)


def _tube(form: Tube) -> Measures:
    inner = form.outer_mm - 2 * form.wall_mm
    section = math.pi * (form.outer_mm**2 - inner**2) / 4
    plugs = form.sealed_ends * math.pi * inner**2 / 4
    skin = math.pi * (form.outer_mm + inner) * form.length_mm + 2 * section + 2 * plugs
    return Measures(
        volume_mm3=section * form.length_mm + plugs * form.wall_mm,
        surface_mm2=skin,
        blank=Blank(kind="length", length_mm=form.length_mm),
    )


def _drawn(section: float, around: float, length: float, cut: float, ends: int) -> Measures:
    return Measures(
        volume_mm3=section * length,
        surface_mm2=around * length + ends * section,
        blank=Blank(kind="length", length_mm=cut),
    )

"""What is cut for a piece: a row for each blank, with its kerf, and the groups that come from one stock."""

from __future__ import annotations

import math

from pydantic import BaseModel, ConfigDict

from ..forms import (
    Ball,
    Form,
    Lump,
    Profile,
    Sheet,
    Strip,
    Tube,
    Wire,
    measure,
    profile_across_mm,
    profile_height_mm,
    say_stock,
)
from ..metals import blade_for
from ..piece import Bench, Piece, blanks_of, mass_g, metals_of
from ..units import gauge_of_mm, say_gauge


class CutRow(BaseModel):
    """One blank: what it is, its metal and stock, how many, and what each takes.

    `length_mm` each (all strands of a twist are rows of their own lengths), or `area_mm2`; `stock` is what it is cut
    from in words, `key` the same for all rows cut from one stock; `gauge` is the nearest.
    """

    model_config = ConfigDict(frozen=True)

    id: str
    title: str
    metal: str
    metal_name: str
    key: str
    stock: str
    gauge: str
    form: Form
    count: int
    length_mm: float | None
    area_mm2: float | None
    kerf_mm: float
    mass_g: float
    part: bool


def cut_rows(piece: Piece, bench: Bench) -> tuple[CutRow, ...]:
    """Give every blank of a piece, all copies counted: its parts that are not cut from others, and its extra cuts."""
    metals = metals_of(piece)
    rows: list[CutRow] = []
    for blank in blanks_of(piece):
        form = blank.form
        rows.append(
            CutRow(
                id=blank.id,
                title=blank.title,
                metal=blank.metal,
                metal_name=metals[blank.metal].name,
                key=f"{blank.metal} {stock_key(form)}",
                stock=say_stock(form),
                gauge=_gauge(form),
                form=form,
                count=blank.count,
                length_mm=measure(form).blank.length_mm,
                area_mm2=measure(form).blank.area_mm2,
                kerf_mm=kerf_for(_thickness(form), bench),
                mass_g=mass_g(form, metals[blank.metal]) or 0.0,
                part=blank.is_part,
            )
        )
    return tuple(rows)


def kerf_for(thickness_mm: float | None, bench: Bench) -> float:
    """Give the kerf of the blade that suits a thickness, of those on the bench if any are; a bought thing has none."""
    if thickness_mm is None:
        return 0.0
    owned = {tool.size for tool in bench.tools or () if tool.kind == "blade" and tool.size}
    return blade_for(thickness_mm, owned).kerf_mm


def stock_key(form: Form) -> str:
    """Give a text that is the same for all forms that are cut from one stock."""
    match form:
        case Wire():
            return f"wire {_profile_key(form.profile)}"
        case Strip():
            return f"strip {form.width_mm:g} x {form.thickness_mm:g}"
        case Tube():
            return f"tube {form.outer_mm:g} wall {form.wall_mm:g}"
        case Sheet():
            return f"sheet {form.thickness_mm:g}"
        case Ball():
            return f"ball {form.diameter_mm:g}"
        case Lump():
            return "lump"


def _profile_key(profile: Profile) -> str:
    return f"{profile.kind} {profile_across_mm(profile):g} x {profile_height_mm(profile):g}"


def _thickness(form: Form) -> float | None:
    match form:
        case Wire():
            return min(profile_across_mm(form.profile), profile_height_mm(form.profile))
        case Sheet() | Strip():
            return form.thickness_mm
        case Tube():
            return form.wall_mm * 2
        case _:
            return None


def _gauge(form: Form) -> str:
    thick = _thickness(form) if not isinstance(form, Tube) else form.wall_mm
    if thick is None or not 0.08 <= thick <= 11.6:
        return ""
    return f"{say_gauge(round(gauge_of_mm(thick)))} ga"


def area_of(rows: list[CutRow]) -> float:
    """Give the area that rows of sheet take, mm²."""
    return math.fsum((row.area_mm2 or 0.0) * row.count for row in rows)

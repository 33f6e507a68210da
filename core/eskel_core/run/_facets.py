"""What a join that was soldered is, by what a log is asked: its kind, its metals, how thin its wire and sheet are, its solder, its torch."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..forms import Ball, Form, Lump, Sheet, Strip, Tube, Wire, profile_across_mm, profile_height_mm
from ..piece import Piece, part_of
from ..plan import HeatJoin, HeatStep, Plan

Gauge = Literal["thin", "middling", "heavy", ""]
# To where wire and sheet are thin, and from where they are heavy, mm: 18 and 14 ga wire, 24 and 18 ga sheet come to about that (ours).
THIN_WIRE_MM, HEAVY_WIRE_MM = 1.05, 1.6
THIN_SHEET_MM, HEAVY_SHEET_MM = 0.52, 1.0


class JoinFacets(BaseModel):
    """A join in a heat. `wire` and `sheet` are how thin the thinnest wire and the thinnest sheet, strip or tube in it are, empty where
    there is none; `metal` names its metals; `solder_mg` is what the plan lays there, in all places.
    """

    model_config = ConfigDict(frozen=True)

    join: str
    kind: str
    metal: str
    wire: Gauge
    sheet: Gauge
    grade: str
    solder: str
    torch: str
    solder_mg: float


def facets_of(piece: Piece | None, plan: Plan, heat: HeatStep) -> tuple[JoinFacets, ...]:
    """Give what the joins of a heat of a plan are, in their order there.

    A join that the piece does not have, or of a piece that nobody can read any more, has its kind and its solder alone.
    """
    density = {
        line.solder: line.mass_g * 1000 / line.volume_mm3 for line in plan.solder_list if line.volume_mm3
    }
    return tuple(_facets(piece, heat, row, density.get(row.solder or "", 0.0)) for row in heat.joins)


def _facets(piece: Piece | None, heat: HeatStep, row: HeatJoin, mg_per_mm3: float) -> JoinFacets:
    join = next((one for one in piece.joins if one.id == row.join), None) if piece else None
    parts = [part_of(piece, reference) for reference in join.between] if piece and join else []
    metals = {part.metal for part in parts if part.metal is not None}
    return JoinFacets(
        join=row.join,
        kind=join.kind if join else row.kind,
        metal=" + ".join(sorted(metals)),
        wire=_gauge([_wire_mm(part.form) for part in parts], THIN_WIRE_MM, HEAVY_WIRE_MM),
        sheet=_gauge([_sheet_mm(part.form) for part in parts], THIN_SHEET_MM, HEAVY_SHEET_MM),
        grade=row.grade or "",
        solder=row.solder or "",
        torch=heat.rehearsed.torch if heat.rehearsed else "",
        solder_mg=row.amount.volume_mm3 * mg_per_mm3 if row.amount else 0.0,
    )


def _gauge(thick_mm: list[float | None], thin: float, heavy: float) -> Gauge:
    known = [one for one in thick_mm if one is not None]
    if not known:
        return ""
    least = min(known)
    if least <= thin:
        return "thin"
    return "heavy" if least >= heavy else "middling"


def _wire_mm(form: Form) -> float | None:
    match form:
        case Wire():
            return min(profile_across_mm(form.profile), profile_height_mm(form.profile))
        case _:
            return None


def _sheet_mm(form: Form) -> float | None:
    match form:
        case Sheet() | Strip():
            return form.thickness_mm
        case Tube():
            return form.wall_mm
        case Ball() | Lump() | Wire():
            return None

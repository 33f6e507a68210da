"""Weigh a piece: volume, mass, surface and blank of each part, and the totals."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from ..forms import Blank, Form, measure
from ..metals import Metal
from ._types import Part, Piece, metal_of


class PartWeight(BaseModel):
    """One part's measures, each for a single one of its `count`. mm³, g, mm²."""

    model_config = ConfigDict(frozen=True)

    id: str
    name: str
    metal: str | None
    count: int
    volume_mm3: float | None
    mass_g: float | None
    surface_mm2: float
    blank: Blank


class Totals(BaseModel):
    """Sums over all parts and counts of one piece, and over all copies. mm³, g, mm²."""

    model_config = ConfigDict(frozen=True)

    volume_mm3: float
    mass_g: float
    surface_mm2: float
    mass_all_copies_g: float
    mass_by_metal_g: dict[str, float]


class Weights(BaseModel):
    """What `bin/eskel weigh` prints."""

    model_config = ConfigDict(frozen=True)

    piece: str
    copies: int
    parts: tuple[PartWeight, ...]
    totals: Totals


def mass_g(form: Form, metal: Metal | None) -> float | None:
    """Give the mass of a form in a metal, g; None for a stone of unknown stuff."""
    if form.kind == "lump":
        return form.mass_g
    volume = measure(form).volume_mm3
    return None if metal is None or volume is None else volume * metal.density_g_cm3 / 1000


def weigh(piece: Piece) -> Weights:
    """Weigh every part of a piece. A lump's volume follows from its mass and metal."""
    rows = tuple(_weigh_part(piece, part) for part in piece.parts)
    masses: dict[str, float] = {}
    for row in rows:
        if row.metal is not None:
            masses[row.metal] = masses.get(row.metal, 0.0) + (row.mass_g or 0.0) * row.count
    total = sum((row.mass_g or 0.0) * row.count for row in rows)
    totals = Totals(
        volume_mm3=sum((row.volume_mm3 or 0.0) * row.count for row in rows),
        mass_g=total,
        surface_mm2=sum(row.surface_mm2 * row.count for row in rows),
        mass_all_copies_g=total * piece.copies,
        mass_by_metal_g=masses,
    )
    return Weights(piece=piece.name, copies=piece.copies, parts=rows, totals=totals)


def _weigh_part(piece: Piece, part: Part) -> PartWeight:
    metal = metal_of(piece, part.id)
    measures = measure(part.form)
    mass = mass_g(part.form, metal)
    volume = measures.volume_mm3
    if volume is None and metal is not None and mass is not None:
        volume = mass / metal.density_g_cm3 * 1000
    return PartWeight(
        id=part.id,
        name=part.title,
        metal=part.metal,
        count=part.count,
        volume_mm3=volume,
        mass_g=mass,
        surface_mm2=measures.surface_mm2,
        blank=measures.blank,
    )

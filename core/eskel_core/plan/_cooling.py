"""How a heat cools, and whether its body may go into water at all."""

from __future__ import annotations

from typing import Literal

from ..rules import THICK_MM, Course, Heat, hollows_of, metals_in, thickness_mm

Cooling = Literal["quench-when-black", "air-cool"]


def cooling_of(course: Course, heat: Heat) -> Cooling:
    """Give how a heat cools: the strictest of house, metals, thickness and hollows."""
    pairs = metals_in(course, heat)
    air = (
        course.house.cooling == "air-cool"
        or any(work.id == heat.work and work.kind == "deplete" for work in course.piece.work)
        or any(metal.quench == "air" for _, metal in pairs)
        or any(part.cast or thickness_mm(part.form) >= THICK_MM for part, _ in pairs)
        or bool(sealed_in(course, heat))
    )
    return "air-cool" if air else "quench-when-black"


def sealed_in(course: Course, heat: Heat) -> list[str]:
    """Give the hollows in a heat's body that are closed, or are being closed, with no vent."""
    return [hollow.name for hollow in hollows_of(course) if hollow.is_sealed_in(heat)]


def heated_again(course: Course, heat: Heat) -> bool:
    return any(later.number > heat.number and later.body & heat.body for later in course.heats)

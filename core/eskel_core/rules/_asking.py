"""Questions that the rules ask of a course, answered in one place."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any

from ..forms import (
    Ball,
    Form,
    Lump,
    Sheet,
    Strip,
    Tube,
    Wire,
    outline_area_mm2,
    profile_area_mm2,
    profile_height_mm,
)
from ..metals import Metal
from ..piece import Join, Part, Piece, Placing, metal_of, part_of
from ._course import Course, Heat
from ._reach import FIRM_C
from ._temperatures import State, shield_c, state_at

_NEAR_MM = 10.0
# So thick a part may crack in water: the rule `quench-crack`.
THICK_MM = 3.0


def join_of(course: Course, name: str) -> Join:
    """Give a join by its id."""
    return course.joins[name]


def placing_of(course: Course, heat: Heat, join: Join) -> Placing:
    """Give how the solder of a join is placed in its heat: as it is fixed, a rod fed, else as the house does."""
    rod = heat.filler.solder is not None and heat.filler.solder.family == "copper"
    return join.placing or ("fed-wire" if rod else course.house.placing)


def parts_in(course: Course, heat: Heat) -> list[Part]:
    """Give the parts in the flame of a heat, in the order of the list."""
    names = {course.anatomy.part(node) for node in heat.body}
    return [part for part in course.piece.parts if part.id in names]


def metals_in(course: Course, heat: Heat) -> list[tuple[Part, Metal]]:
    """Give the parts of a heat that have a metal, each with it."""
    pairs = ((part, metal_of(course.piece, part.id)) for part in parts_in(course, heat))
    return [(part, metal) for part, metal in pairs if metal is not None]


def at_join_c(course: Course, heat: Heat, join: Join) -> float:
    """Give the temperature at an earlier join in a heat: the working temperature less its shield, and less where it lies far off."""
    tasks = (*heat.joins, *([heat.work] if heat.work else []))
    if not course.anatomy.joins[join.id].nodes & heat.body:
        touching = (course.reach.contact_c.get((join.id, task), FIRM_C) for task in tasks)
        return heat.working_c - shield_c(join, tasks) - min(touching)
    return heat.working_c - shield_c(join, tasks) - course.reach.of(join.id, tasks)


def states_in(course: Course, heat: Heat) -> Iterator[tuple[Join, State]]:
    """Give each earlier join of a heat's body with its state."""
    for name in course.earlier(heat):
        join = join_of(course, name)
        yield join, state_at(course.fillers[name], at_join_c(course, heat, join), course.house)


def solder_heats(course: Course) -> Iterator[Heat]:
    """Give the heats in which solder flows."""
    return (heat for heat in course.heats if heat.filler.purpose == "solder")


def thickness_mm(form: Form) -> float:
    """Give the least thickness of a form, mm."""
    match form:
        case Wire():
            return profile_height_mm(form.profile)
        case Sheet() | Strip():
            return form.thickness_mm
        case Tube():
            return form.wall_mm
        case Ball():
            return form.diameter_mm
        case Lump():
            return lump_across_mm(form)


def lump_across_mm(form: Lump) -> float:
    """Give how far a lump goes, mm: as a ball of its mass, of 0.01 g to the mm³."""
    return math.cbrt(6 * form.mass_g * 100 / math.pi)


def capacity_near_j_k(piece: Piece, reference: str) -> float:
    """Give the heat capacity, J/K, of a part within 10 mm of a join on it.

    A sheet counts as a disc of 10 mm radius, wire as 10 mm to each side, never more than the part.
    """
    part, metal = part_of(piece, reference), metal_of(piece, reference)
    if metal is None:
        return 0.0
    reckon: Callable[[Any], float] = {
        "wire": lambda form: (
            profile_area_mm2(form.profile) * form.strands * min(form.length_mm, 2 * _NEAR_MM)
        ),
        "strip": lambda form: form.width_mm * form.thickness_mm * min(form.length_mm, 2 * _NEAR_MM),
        "sheet": lambda form: form.thickness_mm * min(outline_area_mm2(form.outline), math.pi * _NEAR_MM**2),
        "tube": lambda form: (
            math.pi * (form.outer_mm - form.wall_mm) * form.wall_mm * min(form.length_mm, 2 * _NEAR_MM)
        ),
        "ball": lambda form: math.pi * form.diameter_mm**3 / 6,
        "lump": lambda form: form.mass_g * 1000 / metal.density_g_cm3,
    }[part.form.kind]
    near: float = reckon(part.form)
    return near * metal.density_g_cm3 / 1e6 * metal.specific_heat_j_kgk


def titles(names: list[str]) -> str:
    """Write names as a list in words."""
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]

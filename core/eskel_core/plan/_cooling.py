"""How a heat cools, and whether its body may go into water at all."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from ..cooling import block_touch_s, body_touch_s
from ..forms import Wire, measure, profile_across_mm
from ..metals import Surface
from ..piece import mass_g
from ..rules import THICK_MM, Heat, thickness_mm
from ..state import hollows_in
from ._script import Script
from ._words import lot_of

Cooling = Literal["quench-when-black", "air-cool"]


def cooling_of(script: Script, heat: Heat) -> Cooling:
    """Give how a heat cools with all that hangs together with it: the strictest of house, metals, thickness and hollows."""
    course, inside = script.course, script.hangs_with(heat)
    parts = [script.state.kinds[node] for node in inside]
    metals = [metal for node in inside if (metal := script.state.metal(node)) is not None]
    group = script.state.groups[0]
    air = (
        course.house.cooling == "air-cool"
        or any(work.id == heat.work and work.kind == "deplete" for work in course.piece.work)
        or lot_of(course, heat) == "powder"
        or any(metal.quench == "air" for metal in metals)
        or any(part.cast or thickness_mm(part.form) >= THICK_MM for part in parts if part.metal)
        or any(not hollow.open for hollow in hollows_in(group, inside))
    )
    return "air-cool" if air else "quench-when-black"


# Of what lies on a block the upper half faces the room.
_ON_BLOCK = 0.5


def touch_minutes(script: Script, heat: Heat, surface: Surface) -> float:
    """Give how long the body of a heat stays too hot to touch in air, minutes, in halves: what is slowest of it."""
    faces = 1.0 if surface.from_below else _ON_BLOCK
    longest = 0.0
    for node in heat.body:
        part, metal = script.state.kinds[node], script.state.metal(node)
        grams = mass_g(part.form, metal)
        if metal is None or grams is None:
            continue
        wire = profile_across_mm(part.form.profile) if isinstance(part.form, Wire) else None
        seconds = body_touch_s(
            grams / 1000 * metal.specific_heat_j_kgk,
            measure(part.form).surface_mm2 * 1e-6 * faces,
            heat.working_c,
            emissivity=metal.emissivity_heated,
            wire_mm=wire,
        )
        longest = max(longest, seconds)
    return in_half_minutes(longest)


def block_minutes(surface: Surface, heats: Sequence[tuple[float, float]]) -> float:
    """Give how long a block stays too hot to touch after heats, each told by its temperature, °C, and its time, s; minutes, in halves."""
    if not heats:
        return 0.0
    hottest, seconds = max(at for at, _ in heats), sum(time for _, time in heats)
    return in_half_minutes(block_touch_s(surface.effusivity_w_s05_m2k, hottest, seconds))


def in_half_minutes(seconds: float) -> float:
    """Give a time in half minutes, rounded up: what is hot a little less is safe."""
    return math.ceil(seconds / 30 - 1e-9) / 2

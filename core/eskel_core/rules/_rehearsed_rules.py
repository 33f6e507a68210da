"""The rules that a rehearsal lets speak: the torch, the flux's minutes, and fire stain."""

from __future__ import annotations

from collections.abc import Iterator

from ..metals import fluxes, torches
from ..piece import RehearsedHeat
from ..units import celsius
from ._asking import parts_in
from ._course import Course, Heat
from ._finding import Finding
from ._registry import speaks

MOST_STAINING_S = 60.0


@speaks("torch-too-small")
def torch_too_small(course: Course) -> Iterator[Finding]:
    """`torch-too-small`: at full setting the body settles below what the heat is to reach."""
    for heat, one in rehearsed(course):
        if one.settles_c is not None and one.seconds_likely is None:
            torch = torches()[one.torch]
            text = f"{torch.name}, {torch.tip}: the work settles at {celsius(one.settles_c)}, and heat {heat.number} needs {celsius(heat.filler.flow_c)}."
            yield Finding("torch-too-small", _about(heat, course), text, heat.number)


@speaks("flux-spent")
def flux_spent(course: Course) -> Iterator[Finding]:
    """`flux-spent`: the high estimate of a heat outlasts the minutes of its flux."""
    for heat, one in rehearsed(course):
        flux = fluxes()[one.flux]
        most = 60 * flux.minutes_at_heat
        if heat.joins and one.seconds_high is not None and one.seconds_high > most:
            text = f"Heat {heat.number} may last {one.seconds_high / 60:.0f} minutes; {flux.name.lower()} is used up after {flux.minutes_at_heat:g}."
            yield Finding("flux-spent", heat.joins, text, heat.number)


@speaks("fire-stain")
def fire_stain(course: Course) -> Iterator[Finding]:
    """`fire-stain`: silver with copper in it is above 700 °C in air for more than a minute in all heats together."""
    hot = [(heat, one.above_700_s) for heat, one in rehearsed(course) if one.above_700_s > 0]
    total = sum(seconds for _, seconds in hot)
    if total > MOST_STAINING_S:
        parts = dict.fromkeys(part.id for heat, _ in hot for part in parts_in(course, heat))
        text = f"Silver is above {celsius(700)} in air for {total:.0f} s in all: red-purple fire stain under the polish."
        yield Finding("fire-stain", tuple(parts), text, hot[-1][0].number)


def rehearsed(course: Course) -> Iterator[tuple[Heat, RehearsedHeat]]:
    """Give each heat that a rehearsal was copied into the piece for, with it."""
    for heat in course.heats:
        for rehearsal in course.piece.rehearsals:
            if (
                set(rehearsal.joins) == set(heat.joins)
                and rehearsal.work == heat.work
                and (rehearsal.joins or rehearsal.work)
            ):
                yield heat, rehearsal
                break


def _about(heat: Heat, course: Course) -> tuple[str, ...]:
    return heat.joins or tuple(part.id for part in parts_in(course, heat))

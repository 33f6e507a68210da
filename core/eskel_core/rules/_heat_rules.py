"""The rules of heat itself: what a heat does to earlier joins, to the metals, and to what must not be hot."""

from __future__ import annotations

from collections.abc import Iterator

from ..picture import distance_mm, draw
from ..piece import Part, base_id, part_of
from ..units import celsius, difference
from ._asking import (
    at_join_c,
    capacity_near_j_k,
    join_of,
    metals_in,
    states_in,
    titles,
)
from ._course import Course, Heat
from ._finding import Finding
from ._holding import holds_at_all, lies_for, loaded_when_soft
from ._registry import speaks

MELT_RISK_C = 25.0
NARROW_FUSE_C = 30.0
IMBALANCE = 8.0
FREE_WITHIN_MM = 6.0


@speaks("same-grade-held", "remelt-soft")
def earlier_joins(course: Course) -> Iterator[Finding]:
    """`same-grade-held`, `remelt-soft`: what a heat does to the joins before it."""
    for heat in course.heats:
        for join, state in states_in(course, heat):
            held = join.id in heat.protected or holds_at_all(course.piece, join, heat.lie)
            here = f"{celsius(at_join_c(course, heat, join))} in heat {heat.number}"
            if state == "flows" and held:
                yield Finding(
                    "same-grade-held",
                    (join.id,),
                    f"{join.title} runs again at {here}; its hold keeps it in place.",
                    heat.number,
                )
            elif state == "soft" and loaded_when_soft(join, held):
                soft = course.fillers[join.id].solidus_c
                yield Finding(
                    "remelt-soft",
                    (join.id,),
                    f"{join.title} goes soft above {celsius(soft)} ({here}) while something pulls on it.",
                    heat.number,
                )


@speaks("hangs-below")
def hangs_below(course: Course) -> Iterator[Finding]:
    """`hangs-below`: an earlier join on the underside softens with nothing under it."""
    for heat in course.heats:
        for join, state in states_in(course, heat):
            under = heat.lie != "on-edge" and heat.lie not in lies_for(join)
            lies_on_it = join.holds == "own-weight" and holds_at_all(course.piece, join, heat.lie)
            firm_hold = lies_on_it or (
                join.holds in ("seated", "bound")
                and (join.id in heat.protected or holds_at_all(course.piece, join, heat.lie))
            )
            if state != "firm" and under and not firm_hold:
                yield Finding(
                    "hangs-below",
                    (join.id,),
                    f"{join.title} is on the underside in heat {heat.number} and softens; it may drop away.",
                    heat.number,
                )


@speaks("melt-certain", "melt-risk")
def melting(course: Course) -> Iterator[Finding]:
    """`melt-certain`, `melt-risk`: how near a heat comes to a solidus in the body; a risk of one solder on one metal once."""
    told: set[tuple[str, float]] = set()
    for heat in course.heats:
        near: dict[float, list[Part]] = {}
        for part, metal in metals_in(course, heat) if heat.filler.heats_evenly else ():
            if metal.solidus_c - heat.working_c <= MELT_RISK_C:
                near.setdefault(metal.solidus_c, []).append(part)
        for solidus, parts in near.items():
            room = solidus - heat.working_c
            if room > 0 and (heat.filler.key, solidus) in told:
                continue
            told.add((heat.filler.key, solidus))
            text = f"{titles([part.title for part in parts])}: melting begins at {celsius(solidus)}, and heat {heat.number} works at {celsius(heat.working_c)}, {difference(max(room, 0))} below."
            yield Finding(
                "melt-certain" if room <= 0 else "melt-risk",
                tuple(part.id for part in parts),
                text,
                heat.number,
            )


@speaks("fuse-window")
def fuse_window(course: Course) -> Iterator[Finding]:
    """`fuse-window`: fusing an alloy with a narrow melting range, or with something near that melts first."""
    for heat in course.heats:
        if heat.filler.purpose != "fuse":
            continue
        own = {base_id(reference) for name in heat.joins for reference in join_of(course, name).between}
        for part, metal in metals_in(course, heat):
            if part.id in own and not metal.pure and metal.liquidus_c - metal.solidus_c < NARROW_FUSE_C:
                text = f"{metal.name} goes from solid to liquid within {difference(metal.liquidus_c - metal.solidus_c)}."
                yield Finding("fuse-window", (part.id,), text, heat.number)
            elif part.id not in own and metal.solidus_c < heat.working_c:
                text = f"{part.title} melts at {celsius(metal.solidus_c)}, below this fuse at {celsius(heat.working_c)}."
                yield Finding("fuse-window", (part.id,), text, heat.number)


@speaks("moving-part")
def moving(course: Course) -> Iterator[Finding]:
    """`moving-part`: solder near something that must stay free."""
    movers = [part for part in course.piece.parts if part.moves]
    if not movers:
        return
    picture = draw(course.piece)
    spots = {mark.join: mark.spots for mark in picture.joins}
    for heat in course.heats:
        for name in heat.joins:
            join, own = join_of(course, name), {base_id(end) for end in join_of(course, name).between}
            for part in movers:
                hangs_here = part.id in own and bool(join.through)
                near = (
                    part.id not in own
                    and _is_there(course, part, heat)
                    and any(
                        distance_mm(picture, spots[name], node) <= FREE_WITHIN_MM
                        for node in [one.node for one in picture.parts if one.part == part.id]
                    )
                )
                if hangs_here:
                    hung = titles([part_of(course.piece, one).title for one in join.through])
                    text = f"{join.title} closes through {hung}: {part.title} must stay free of it."
                    yield Finding("moving-part", (name, part.id), text, heat.number)
                elif near:
                    text = f"{join.title}: soldered right beside {part.title}, which must stay free."
                    yield Finding("moving-part", (name, part.id), text, heat.number)


def _is_there(course: Course, part: Part, heat: Heat) -> bool:
    """Say whether a moving part hangs in the work by a heat: its own closing join is made before."""
    own = [join.id for join in course.piece.joins if part.id in map(base_id, join.between) and join.heated]
    return any(course.made_in.get(name, heat.number) < heat.number for name in own)


@speaks("mass-imbalance")
def imbalance(course: Course) -> Iterator[Finding]:
    """`mass-imbalance`: one side of a join takes much more heat than the other."""
    for heat in course.heats:
        for name in heat.joins:
            join = join_of(course, name)
            if len(set(join.between)) == 1:
                continue
            sides = sorted((capacity_near_j_k(course.piece, end), base_id(end)) for end in join.between)
            light, heavy = sides[0], sides[-1]
            if light[0] > 0 and heavy[0] > IMBALANCE * light[0]:
                text = f"{part_of(course.piece, heavy[1]).title} takes {heavy[0] / light[0]:.0f} times the heat of {part_of(course.piece, light[1]).title} beside {join.title}."
                yield Finding("mass-imbalance", (name, heavy[1], light[1]), text, heat.number)

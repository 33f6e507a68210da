"""A heat as steps: what is fitted and laid, and the heat itself with its ceiling, signs and minutes."""

from __future__ import annotations

import math

from ..metals import fluxes
from ..piece import RehearsedHeat, base_id, mass_g, metal_of, part_of, stocked_solders
from ..rules import (
    FIRM_C,
    Course,
    Heat,
    at_join_c,
    holds_at_all,
    metals_in,
    placing_of,
    reflow_c,
    rehearsed,
    states_in,
)
from ._amounts import amount_of
from ._course import flux_of, heat_from, parts_of_heat
from ._minutes import minutes_of
from ._names import bodies_alike, grade_named
from ._script import Script
from ._types import HeatJoin, HeatStep, LikelyTime, PrepareStep, Protect, StageTold, said
from ._words import aim_of, fit_lines, heat_lines, look_for, lot_of, signs_of
from ._work_words import measure_of


def heat_joins(course: Course, heat: Heat) -> tuple[HeatJoin, ...]:
    """Give the joins of a heat with solder, placing and amount."""
    rows = []
    at_hand = [one for one, _ in stocked_solders(course.bench)] if course.bench else []
    for name in heat.joins:
        join = next(one for one in course.piece.joins if one.id == name)
        solder = heat.filler.solder
        placing = None if solder is None else placing_of(course, heat, join)
        amount = (
            None
            if solder is None or placing is None
            else amount_of(course.piece, join, course.anatomy.joins[name].places, placing, solder)
        )
        rows.append(
            HeatJoin(
                join=name,
                title=join.title,
                kind=join.kind,
                solder=solder.id if solder else None,
                grade=solder.grade if solder else None,
                named=grade_named(solder, at_hand) if solder else "",
                placing=placing,
                amount=amount,
                alike=course.anatomy.joins[name].places * course.piece.copies,
            )
        )
    return tuple(rows)


def prepare(script: Script, heat: Heat) -> None:
    joins = heat_joins(script.course, heat)
    if not joins:
        return
    course = script.course
    places = sum(course.anatomy.joins[join.join].places for join in joins)
    minutes = minutes_of(course.house, "fit", places * course.piece.copies)
    own = flux_of(course, script.bench, heat)
    named = fluxes()[own].name if own != (script.bench.flux or own) else ""
    lines = fit_lines(script.course, heat, joins, named)
    parts = parts_of_heat(script.course, heat)
    alike = bodies_alike(course, heat) * course.piece.copies
    script.write(
        PrepareStep(
            n=script.next_n,
            parts=parts,
            minutes=minutes,
            alike=alike,
            joins=heat.joins,
            **said(*lines),
        )
    )


def heat_step(script: Script, heat: Heat) -> None:
    course = script.course
    joins = heat_joins(course, heat)
    ceiling, by = _ceiling(course, heat)
    melts, melts_by = min(
        ((metal.solidus_c, part.id) for part, metal in metals_in(course, heat)), default=(None, None)
    )
    flux = flux_of(course, script.bench, heat)
    signs = signs_of(course, heat, fluxes()[flux])
    known = next((one for own, one in rehearsed(course) if own == heat), None)
    time = None if known is None else _likely(known)
    all_s = None if known is None else _all_seconds(known)
    stages = () if known is None else _stages(known)
    aim, about = (None, None) if stages else aim_of(course, heat)
    script.write(
        HeatStep(
            n=script.next_n,
            parts=parts_of_heat(course, heat),
            minutes=_heat_minutes(course, heat, all_s),
            alike=bodies_alike(course, heat) * course.piece.copies,
            heat_no=heat.number,
            round=heat.round,
            purpose=heat.filler.purpose,
            work=heat.work,
            work_kind=next((work.kind for work in course.piece.work if work.id == heat.work), None),
            joins=joins,
            lies=heat.lie,
            heat_from=heat_from(course, heat),
            flux=flux if heat.filler.purpose in ("solder", "fuse") else None,
            working_c=heat.working_c,
            ceiling_c=ceiling,
            ceiling_by=by,
            margin_c=None if ceiling is None else round(ceiling - heat.working_c, 3),
            melts_c=melts,
            melts_by=melts_by,
            states={join.id: state for join, state in states_in(course, heat)},
            cooler_c=_cooler_c(course, heat),
            protect=_protect(course, heat),
            look_for=look_for(signs),
            signs=signs,
            aim=aim,
            about=about,
            rehearsed=time,
            stages=stages,
            measure=next(
                (measure_of(course, work) for work in course.piece.work if work.id == heat.work), None
            ),
            **said(
                *heat_lines(
                    course,
                    heat,
                    joins,
                    tuple(stage.text for stage in stages),
                )
            ),
        )
    )


ROOM_C = 20.0
"""What a heat does not reach at all stays as cold as the room, °C."""


def _cooler_c(course: Course, heat: Heat) -> dict[str, float]:
    """Give by how much earlier joins stay cooler than the heat, °C, for those that do."""
    cold = heat.working_c - ROOM_C
    less = {
        join.id: min(cold, heat.working_c - at_join_c(course, heat, join))
        for join, _ in states_in(course, heat)
    }
    return {name: round(by, 1) for name, by in less.items() if by > 0}


def _heat_minutes(course: Course, heat: Heat, rehearsed_s: float | None) -> float:
    """Give the minutes of a heat of all copies, each in its turn."""
    copies = course.piece.copies
    bodies = bodies_alike(course, heat) * copies
    each = (
        _half_minutes(rehearsed_s) * copies
        if rehearsed_s
        else minutes_of(course.house, "heat", bodies, grams=_body_g(course, heat) * bodies)
    )
    lot = lot_of(course, heat)
    return each if lot == "each" else min(each, minutes_of(course.house, lot, bodies))


def _stages(known: RehearsedHeat) -> tuple[StageTold, ...]:
    return tuple(
        StageTold(
            text=stage.text,
            sign=stage.sign,
            see=stage.see,
            if_late=stage.if_late,
            aim=stage.aim,
            about=stage.about,
            low_s=stage.seconds_low,
            likely_s=stage.seconds_likely,
            high_s=stage.seconds_high,
        )
        for stage in known.stages
    )


def _all_seconds(known: RehearsedHeat) -> float | None:
    """Give how long a rehearsed heat takes with all bodies that are alike, one after another, s."""
    if known.seconds_likely is None:
        return None
    return known.seconds_likely + (known.bodies - 1) * (known.seconds_next or known.seconds_likely)


def _body_g(course: Course, heat: Heat) -> float:
    """Give what one body of a heat weighs, g: of parts that nobody tells apart, each of which is as many as there are bodies."""
    bodies = bodies_alike(course, heat)
    parts = [(part_of(course.piece, base_id(node)), "#" in node) for node in heat.body]
    masses = [
        (mass_g(part.form, metal_of(course.piece, part.id)) or 0.0) * (1 if single else part.count / bodies)
        for part, single in parts
    ]
    return sum(masses)


def _half_minutes(seconds: float) -> float:
    """Give a time at the torch as a smith counts it: in half minutes, at least one."""
    return max(1, math.ceil(seconds / 30)) / 2


def _likely(one: RehearsedHeat) -> LikelyTime:
    return LikelyTime(
        low_s=one.seconds_low,
        likely_s=one.seconds_likely,
        high_s=one.seconds_high,
        torch=one.torch,
        factor=one.factor,
        spread=one.spread,
    )


def _ceiling(course: Course, heat: Heat) -> tuple[float | None, str | None]:
    """Give the lowest temperature at which something fails in a heat, and the part or join that sets it.

    A join that is held may run again, so it sets no ceiling.
    """
    limits = [
        (metal.solidus_c, part.id) for part, metal in metals_in(course, heat) if heat.filler.heats_evenly
    ]
    for join, _ in states_in(course, heat):
        if join.id not in heat.protected and not holds_at_all(course.piece, join, heat.lie):
            shield = heat.working_c - at_join_c(course, heat, join)
            if shield >= FIRM_C:
                continue
            limits.append((reflow_c(course.fillers[join.id], course.house) + shield, join.id))
    return min(limits, default=(None, None), key=lambda limit: limit[0] or 0.0)


def _protect(course: Course, heat: Heat) -> tuple[Protect, ...]:
    joins = {join.id: join for join in course.piece.joins}
    how = {"bound": "bind it again", "clipped": "clip it again", "weighted": "weight it down again"}
    rows = [Protect(id=name, how=how[joins[name].holds]) for name in sorted(heat.protected)]
    movers = {part.id for part in course.piece.parts if part.moves}
    free = sorted(
        part
        for name in heat.joins
        for part in {course.anatomy.part(node) for node in course.anatomy.of(joins[name].between)} & movers
        if joins[name].through
    )
    return (*rows, *(Protect(id=part, how="resist beside the seam, so that it stays free") for part in free))

"""Write a course out as steps: prepare, heat, cool, take steel off, pickle, look; and other work between."""

from __future__ import annotations

import math

from ..metals import Metal, fluxes, pickles
from ..piece import COLD_KINDS, HEAT_WORK, Bench, Join, RehearsedHeat, Work, WorkKind, part_of
from ..pot import COLD_POT_C, PickleMinutes, pickle_minutes, scale_of
from ..rules import (
    FIRM_C,
    Course,
    Heat,
    at_join_c,
    comes_off,
    holds_at_all,
    hollows_of,
    metals_in,
    reflow_c,
    rehearsed,
    states_in,
)
from ._amounts import amount_of
from ._cooling import cooling_of, heated_again, sealed_in
from ._course import parts_of_heat, vents_to_put_in
from ._minutes import minutes_of, minutes_of_work
from ._types import (
    Check,
    CoolStep,
    HeatJoin,
    HeatStep,
    InspectStep,
    LikelyTime,
    PickleStep,
    PrepareStep,
    Protect,
    StageTold,
    Step,
    WorkStep,
    said,
)
from ._words import (
    SAFETY,
    checks_of,
    fit_lines,
    heat_lines,
    in_words,
    look_for,
    names_of,
    signs_of,
    work_lines,
)

_MINUTES = {"quench": 1.0, "air": 5.0, "safety": 2.0}
_COLD_WORDS = {"ring-open": "Open and close", "wrap": "Wrap", "rivet": "Rivet", "screw": "Screw"}


class _Script:
    """The steps as they are written, one after another."""

    def __init__(self, course: Course, bench: Bench) -> None:
        self.course = course
        self.bench = bench
        self.steps: list[Step] = []
        self.wet: set[str] = set()
        self.vents = vents_to_put_in(course)

    @property
    def next_n(self) -> int:
        """The number of the step that is written next."""
        return len(self.steps) + 1


def write_steps(course: Course, bench: Bench) -> tuple[Step, ...]:
    """Write every step of a course."""
    script = _Script(course, bench)
    _safety(script)
    _slot(script, 0)
    for heats in course.rounds:
        _round(script, heats)
    return tuple(script.steps)


def _round(script: _Script, heats: tuple[Heat, ...]) -> None:
    """Write a round: all of it made ready, heat after heat, one cooling, one pot, one look; and the work that follows."""
    for heat in heats:
        _vent(script, heat)
        _dry(script, heat)
    for heat in heats:
        _prepare(script, heat)
    for heat in heats:
        _heat(script, heat)
    _cool(script, heats)
    quenched = [h for h in heats if cooling_of(script.course, h) == "quench-when-black"]
    script.wet |= {o.name for o in hollows_of(script.course) if any(o.is_vented_in(h) for h in quenched)}
    for heat in heats:
        _steel_off(script, heat)
    _pickle(script, heats)
    _look(script, heats)
    _slot(script, heats[-1].number)


def _safety(script: _Script) -> None:
    if not script.course.heats:
        return
    parts = tuple(part.id for part in script.course.piece.parts)
    course = script.course
    sealed = sorted({name for heat in course.heats for name in sealed_in(course, heat)})
    danger = (
        f"The {in_words(sealed)} {'is' if len(sealed) == 1 else 'are'} closed without a vent: dry inside, stand clear, never quench."
        if sealed
        else ""
    )
    script.steps.append(
        PrepareStep(
            n=1, parts=parts, minutes=_MINUTES["safety"], confirm=bool(sealed), **said(*SAFETY, danger)
        )
    )


def _slot(script: _Script, slot: int) -> None:
    """Write the work that comes after a heat (0: before the first), but for unbinding, which the pot needed sooner."""
    works = {work.id: work for work in script.course.piece.work}
    joins = {join.id: join for join in script.course.piece.joins}
    for name, at in script.course.slots.items():
        work = works.get(name)
        if at != slot or (
            work is not None and (work.kind in HEAT_WORK or (work.kind == "unbind" and slot > 0))
        ):
            continue
        if work is not None:
            _told_work(script, work)
        elif joins[name].kind in COLD_KINDS:
            _cold_join(script, joins[name])


def _work(
    script: _Script,
    work: str,
    kind: WorkKind,
    parts: tuple[str, ...],
    *lines: str,
    put_in: bool = False,
    minutes: float | None = None,
) -> None:
    course = script.course
    if minutes is None:
        minutes = minutes_of(course.house, kind, len(parts) * course.piece.copies)
    script.steps.append(
        WorkStep.model_validate(
            {
                "n": script.next_n,
                "parts": parts,
                **said(*lines),
                "work": work,
                "work_kind": kind,
                "put_in": put_in,
                "minutes": minutes,
            }
        )
    )


def _told_work(script: _Script, work: Work) -> None:
    """Write work that the smith told."""
    course = script.course
    minutes = minutes_of_work(course.piece, course.house, work)
    _work(script, work.id, work.kind, work.parts, *work_lines(course, work), minutes=minutes)


def _cold_join(script: _Script, join: Join) -> None:
    text = f"{_COLD_WORDS[join.kind]} {join.title}, cold."
    many = script.course.anatomy.joins[join.id].places * script.course.piece.copies
    minutes = minutes_of(script.course.house, "cold", many)
    script.steps.append(PrepareStep(n=script.next_n, parts=join.between, text=text, minutes=minutes))


def _vent(script: _Script, heat: Heat) -> None:
    for hollow in (hollow for hollow, number in script.vents.items() if number == heat.number):
        nodes = next(one.nodes for one in hollows_of(script.course) if one.name == hollow)
        part = script.course.anatomy.part(min(nodes))
        text = f"Drill a small hole through {part_of(script.course.piece, part).title}, where it is hidden, to vent the {hollow} before it is closed."
        _work(script, "drill", "drill", (part,), text, put_in=True)


def _dry(script: _Script, heat: Heat) -> None:
    """Put a drying in before a hollow that has been wet is heated."""
    inside = sorted(
        hollow.name
        for hollow in hollows_of(script.course)
        if hollow.name in script.wet and hollow.is_vented_in(heat)
    )
    if inside:
        text = f"Dry the {in_words(inside)} out: boil it clear, then warm it through until no more steam comes from the vent."
        _work(script, "dry", "dry", parts_of_heat(script.course, heat), text, put_in=True)
        script.wet -= set(inside)


def heat_joins(course: Course, heat: Heat) -> tuple[HeatJoin, ...]:
    """Give the joins of a heat with solder, placing and amount."""
    rows = []
    for name in heat.joins:
        join = next(one for one in course.piece.joins if one.id == name)
        solder = heat.filler.solder
        placing = None if solder is None else join.placing or course.house.placing
        amount = (
            None
            if solder is None or placing is None
            else amount_of(course.piece, join, course.anatomy.joins[name].places, placing, solder)
        )
        rows.append(
            HeatJoin(
                join=name,
                title=join.title,
                solder=solder.id if solder else None,
                grade=solder.grade if solder else None,
                placing=placing,
                amount=amount,
            )
        )
    return tuple(rows)


def _prepare(script: _Script, heat: Heat) -> None:
    joins = heat_joins(script.course, heat)
    if not joins:
        return
    course = script.course
    places = sum(course.anatomy.joins[join.join].places for join in joins)
    minutes = minutes_of(course.house, "fit", places * course.piece.copies)
    lines = fit_lines(script.course, heat, joins)
    parts = parts_of_heat(script.course, heat)
    script.steps.append(PrepareStep(n=script.next_n, parts=parts, minutes=minutes, **said(*lines)))


def _heat(script: _Script, heat: Heat) -> None:
    course = script.course
    joins = heat_joins(course, heat)
    ceiling, by = _ceiling(course, heat)
    melts, melts_by = min(
        ((metal.solidus_c, part.id) for part, metal in metals_in(course, heat)), default=(None, None)
    )
    signs = signs_of(heat, fluxes()[script.bench.flux or "white-paste"])
    known = next((one for own, one in rehearsed(course) if own == heat), None)
    time = None if known is None else _likely(known)
    all_s = None if known is None else _all_seconds(known)
    stages = () if known is None else _stages(known)
    script.steps.append(
        HeatStep(
            n=script.next_n,
            parts=parts_of_heat(course, heat),
            minutes=_heat_minutes(course, heat, all_s),
            heat_no=heat.number,
            round=heat.round,
            purpose=heat.filler.purpose,
            work=heat.work,
            joins=joins,
            lies=heat.lie,
            working_c=heat.working_c,
            ceiling_c=ceiling,
            ceiling_by=by,
            margin_c=None if ceiling is None else round(ceiling - heat.working_c, 3),
            melts_c=melts,
            melts_by=melts_by,
            states={join.id: state for join, state in states_in(course, heat)},
            protect=_protect(course, heat),
            look_for=look_for(signs),
            signs=signs,
            rehearsed=time,
            stages=stages,
            **said(
                *heat_lines(
                    course,
                    heat,
                    joins,
                    tuple(stage.text for stage in stages),
                    1 if known is None else known.bodies,
                )
            ),
        )
    )


def _heat_minutes(course: Course, heat: Heat, rehearsed_s: float | None) -> float:
    """Give the minutes of a heat of all copies, each in its turn, as often as it is done."""
    once = _half_minutes(rehearsed_s) if rehearsed_s else minutes_of(course.house, "heat")
    return once * _goes(course, heat) * course.piece.copies


def _goes(course: Course, heat: Heat) -> int:
    """Give how many times a heat is done: a fine surface is brought up in several."""
    work = next((one for one in course.piece.work if one.id == heat.work), None)
    return work.times or 1 if work is not None and work.kind == "deplete" else 1


def _stages(known: RehearsedHeat) -> tuple[StageTold, ...]:
    return tuple(
        StageTold(
            text=stage.text,
            sign=stage.sign,
            see=stage.see,
            if_late=stage.if_late,
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


def _parts(script: _Script, heats: tuple[Heat, ...]) -> tuple[str, ...]:
    """Give the parts of some heats, in the order of the list."""
    inside = {name for heat in heats for name in parts_of_heat(script.course, heat)}
    return tuple(part.id for part in script.course.piece.parts if part.id in inside)


_COOL_LINES = {
    "quench-when-black": ("Let the glow go.", "When no red shows in low light, quench in water."),
    "air-cool": ("Let it cool in air where it lies; do not touch it until the timer says so.",),
}


def _cool(script: _Script, heats: tuple[Heat, ...]) -> None:
    """Cool the heats of a round; what may go into water first, what must not apart from it."""
    ways = {heat.number: cooling_of(script.course, heat) for heat in heats}
    for how in ("quench-when-black", "air-cool"):
        alike = tuple(heat for heat in heats if ways[heat.number] == how)
        if not alike:
            continue
        parts = _parts(script, alike)
        apart = f"{names_of(script.course, parts)}:" if len(alike) < len(heats) else ""
        script.steps.append(
            CoolStep(
                n=script.next_n,
                parts=parts,
                minutes=_MINUTES["quench" if how == "quench-when-black" else "air"],
                round=heats[0].round,
                heats=tuple(heat.number for heat in alike),
                how=how,
                **said(apart, *_COOL_LINES[how]),
            )
        )


def _steel_off(script: _Script, heat: Heat) -> None:
    """Take steel off before the pot, and do the unbinding that the smith asked for after this heat."""
    course = script.course
    told = [
        work
        for work in course.piece.work
        if work.kind == "unbind" and course.slots.get(work.id) == heat.number
    ]
    for work in told:
        _told_work(script, work)
    covered = {part for work in told for part in work.parts}
    held = [
        join
        for join in course.piece.joins
        if (join.id in heat.joins or join.id in heat.protected)
        and join.holds in ("bound", "clipped", "weighted")
        and comes_off(course.piece, join)
        and not set(join.between) <= covered
    ]
    if held:
        names = in_words([join.title for join in held])
        parts = tuple(dict.fromkeys(end for join in held for end in join.between))
        _work(
            script,
            "unbind",
            "unbind",
            parts,
            f"Take all wire, pins and clips off {names}: steel in the pot plates everything pink.",
            put_in=True,
        )


def _goes_into_pot(course: Course, heat: Heat) -> bool:
    """Say whether a heat's body is pickled: not while it is closed and heated again, nor what was melted without flux."""
    return heat.filler.purpose != "melt" and not (sealed_in(course, heat) and heated_again(course, heat))


def _pickle(script: _Script, heats: tuple[Heat, ...]) -> None:
    course = script.course
    dipped = tuple(heat for heat in heats if _goes_into_pot(course, heat))
    if not dipped:
        return
    bath = pickles()[script.bench.pickle or "bisulphate"]
    needed = [_pickle_minutes(script, heat) for heat in dipped]
    low, high = max(one.low for one in needed), max(one.high for one in needed)
    held = [hollow for hollow in hollows_of(course) if any(hollow.nodes & heat.body for heat in dipped)]
    wet = [hollow for hollow in held if any(hollow.is_vented_in(h) or hollow.is_sealed_in(h) for h in dipped)]
    script.wet |= {hollow.name for hollow in wet if any(hollow.is_vented_in(heat) for heat in dipped)}
    neutralise = course.house.neutralise == "yes"
    then = "rinse, neutralise in soda water" if neutralise else "rinse well"
    parts = _parts(script, dipped)
    what = f"{names_of(course, parts)} into" if len(dipped) < len(heats) else "Into"
    text = f"{what} the {bath.name.lower()} pot with copper or plastic tongs, until it is evenly pale; then {then}{', dry' if wet else ''}."
    script.steps.append(
        PickleStep(
            n=script.next_n,
            parts=parts,
            text=text[0].upper() + text[1:],
            minutes=round(high * max(_goes(course, heat) for heat in dipped), 1),
            minutes_low=round(low, 1),
            minutes_high=round(high, 1),
            neutralise=neutralise,
            dry=bool(wet),
            round=heats[0].round,
            heats=tuple(heat.number for heat in dipped),
        )
    )


def _pickle_minutes(script: _Script, heat: Heat) -> PickleMinutes:
    course, bath = script.course, pickles()[script.bench.pickle or "bisulphate"]
    metals: list[Metal] = [metal for _, metal in metals_in(course, heat)]
    hot = cooling_of(course, heat) == "quench-when-black"
    warmth = bath.hot_ref_c if course.house.pot == "warm" else COLD_POT_C
    scale = scale_of(metals, fluxed=heat.filler.purpose in ("solder", "fuse"))
    copper = script.bench.pot.copper_g_l if script.bench.pot else 0.0
    return pickle_minutes(bath, warmth, scale, hot_piece=hot, copper_g_l=copper)


def _look(script: _Script, heats: tuple[Heat, ...]) -> None:
    course = script.course
    made = {name for heat in heats for name in heat.joins}
    names = in_words([join.title for join in course.piece.joins if join.id in made])
    checks: list[Check] = []
    for heat in heats:
        softened = [join.title for join, state in states_in(course, heat) if state != "firm"]
        checks += checks_of(course, heat, softened)
    script.steps.append(
        InspectStep(
            n=script.next_n,
            parts=_parts(script, heats),
            text=f"Look at {names} before anything else is heated.",
            minutes=minutes_of(course.house, "look", max(1, len(heats)) * course.piece.copies),
            checks=tuple(checks),
            round=heats[0].round,
            heats=tuple(heat.number for heat in heats),
        )
    )

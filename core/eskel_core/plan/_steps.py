"""Write a course out as steps, round by round, and the other work between."""

from __future__ import annotations

from itertools import zip_longest

from ..demands import LAST_WORK
from ..piece import COLD_KINDS, HEAT_WORK, Bench, Join, Piece, base_id, part_of
from ..rules import Course, Heat, hardenings
from ..state import hollow_title, hollows_in
from ._after_heats import cool, look, pickle, steel_off
from ._course import parts_of_heat
from ._heat_steps import heat_step, prepare
from ._minutes import minutes_of
from ._names import alike_of, in_words, names_of, number_in_words, with_each
from ._script import Script, add_work, told_work
from ._types import PrepareStep, said
from ._words import SAFETY
from ._work_words import cold_line

_SAFETY_MINUTES = 2.0


def written_out(course: Course, bench: Bench) -> Script:
    """Write every step of a course; the script has them, and the work as it stands after each."""
    script = Script(course, bench)
    _safety(script)
    _slot(script, 0)
    rounds = course.rounds
    for heats, following in zip_longest(rounds, rounds[1:]):
        poured = following if following is not None and _is_poured(course, heats, following) else ()
        _round(script, heats, straight_on=poured)
    _warn_of_sealed(script)
    return script


def _is_poured(course: Course, heats: tuple[Heat, ...], following: tuple[Heat, ...]) -> bool:
    """Say whether what is melted in a round is poured in the next, with nothing between: it is not left to cool."""
    works = {work.id: work for work in course.piece.work}
    melted = [works[heat.work] for heat in heats if heat.work in works]
    poured = [works[heat.work] for heat in following if heat.work in works]
    kinds = ([work.kind for work in melted], [work.kind for work in poured])
    between = any(slot == heats[-1].number for slot in course.slots.values())
    return kinds == (["melt"], ["pour"]) and set(melted[0].parts) == set(poured[0].parts) and not between


def _round(script: Script, heats: tuple[Heat, ...], *, straight_on: tuple[Heat, ...]) -> None:
    """Write a round: all of it made ready, heat after heat, one cooling, one pot, one look; and the work that follows.

    Where the next goes `straight_on` to its heats, the flame is not let go: their mould is made ready before.
    """
    _vent(script, heats)
    for heat in heats:
        _dry(script, heat)
    for heat in (*heats, *straight_on):
        _mould(script, heat)
    for heat in heats:
        prepare(script, heat)
    for heat in heats:
        heat_step(script, heat)
    if straight_on:
        return
    cool(script, heats)
    steel_off(script, heats)
    pickle(script, heats)
    look(script, heats)
    _slot(script, heats[-1].number)


def _safety(script: Script) -> None:
    if not script.course.heats:
        return
    parts = tuple(part.id for part in script.course.piece.parts)
    lines = said(*SAFETY, _copies_line(script.course.piece))
    script.write(PrepareStep(n=1, parts=parts, minutes=_SAFETY_MINUTES, **lines))


def _warn_of_sealed(script: Script) -> None:
    """Say at the very first which hollows are heated closed, as the rules found it at their heats, and wait for the smith."""
    hollows = script.state.groups[0].hollows
    about = {
        name
        for _, finding in script.found
        if finding.code in ("sealed-hollow", "sealed-tube") and finding.severity == "danger"
        for name in finding.about
    }
    sealed = sorted(hollow_title(script.state, hollows[name]) for name in about)
    if not sealed:
        return
    them = "it" if len(sealed) == 1 else "them"
    danger = f"Air shut in the {in_words(sealed)} can burst {them} open in the flame. Closed without a vent: dry inside, stand clear, never hot into water."
    lines = said(*SAFETY, danger, _copies_line(script.course.piece))
    script.steps[0] = script.steps[0].model_copy(update={"confirm": True, **lines})


_MOULD_MINUTES = 5.0
_MOULD = "Warm the mould until no more steam comes, every time anew, and stand it on a metal tray: water in it throws the metal out."


def _mould(script: Script, heat: Heat) -> None:
    """Write the mould of a pour made ready, where it is not."""
    pours = {work.id: work for work in script.course.piece.work if work.kind == "pour"}
    if heat.work not in pours or all(heat.work in group.ready for group in script.state.groups):
        return
    parts = tuple(pours[heat.work].parts)
    script.write(
        PrepareStep(n=script.next_n, parts=parts, minutes=_MOULD_MINUTES, mould_of=heat.work, **said(_MOULD))
    )


def _copies_line(piece: Piece) -> str:
    """Say how alike pieces are made together."""
    if piece.copies == 1:
        return ""
    mirror = ", every second one mirrored" if piece.mirrored else ""
    others = "the other copies it" if piece.copies == 2 else "the others copy it"
    return f"{number_in_words(piece.copies).capitalize()} are made side by side{mirror}: the first is fitted, {others}."


def _slot(script: Script, slot: int) -> None:
    """Write the work that comes after a heat (0: before the first), but for unbinding, which the pot needed sooner."""
    works = {work.id: work for work in script.course.piece.work}
    springs = tuple(part for part, at in hardenings(script.course).items() if at == slot)
    joins = {join.id: join for join in script.course.piece.joins}
    for name, at in script.course.slots.items():
        work = works.get(name)
        if at != slot or (
            work is not None and (work.kind in HEAT_WORK or (work.kind == "unbind" and slot > 0))
        ):
            continue
        if springs and (work is None or work.kind in LAST_WORK):
            _harden(script, springs)
            springs = ()
        if work is not None:
            told_work(script, work)
        elif joins[name].kind in COLD_KINDS:
            _cold_join(script, joins[name])
    if springs:
        _harden(script, springs)


def _harden(script: Script, parts: tuple[str, ...]) -> None:
    """Put hardening in for what a heat left soft and is to be springy."""
    names = with_each(names_of(script.course, parts), alike_of(script.course, parts))
    text = f"Harden {names}: twist it, tap it on steel or tumble it, until it springs back; the heat left it soft."
    add_work(script, "harden", "harden", parts, text, put_in=True)


def _cold_join(script: Script, join: Join) -> None:
    text = cold_line(script.course, join)
    many = script.course.anatomy.joins[join.id].places * script.course.piece.copies
    minutes = minutes_of(script.course.house, "cold", many)
    script.write(
        PrepareStep(
            n=script.next_n,
            parts=join.between,
            text=text,
            minutes=minutes,
            alike=alike_of(script.course, join.between),
            joins=(join.id,),
        )
    )


def _vent(script: Script, heats: tuple[Heat, ...]) -> None:
    """Put a hole in before a round that would close a hollow with no way out, where the house vents."""
    if script.course.house.hollow != "vent":
        return
    made = {name for heat in heats for name in heat.joins}
    for hollow in script.state.groups[0].hollows.values():
        if hollow.part is not None or not hollow.open or not hollow.ways <= made:
            continue
        part, title = script.course.anatomy.part(min(hollow.nodes)), hollow_title(script.state, hollow)
        text = f"Drill a small hole through {part_of(script.course.piece, part).title}, where it is hidden, to vent the {title} before it is closed."
        add_work(script, "drill", "drill", (part,), text, put_in=True, opens=(hollow.name,))


def _dry(script: Script, heat: Heat) -> None:
    """Put a drying in before a hollow that has been wet is heated."""
    near = hollows_in(script.state.groups[0], script.hangs_with(heat))
    wet = [hollow for hollow in near if hollow.wet and hollow.open]
    inside = sorted(hollow_title(script.state, hollow) for hollow in wet)
    if inside:
        text = f"Dry the {in_words(inside)} out: boil it clear, then warm it through until no more steam comes from the vent."
        held = {base_id(node) for hollow in wet for node in hollow.nodes} | set(
            parts_of_heat(script.course, heat)
        )
        parts = tuple(part.id for part in script.course.piece.parts if part.id in held)
        add_work(script, "dry", "dry", parts, text, put_in=True)

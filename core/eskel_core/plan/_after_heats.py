"""What follows the heats of a round: cooling, steel off, the pot, a look."""

from __future__ import annotations

from ..metals import Metal, pickles, surfaces
from ..piece import PotState, base_id
from ..pot import COLD_POT_C, PickleMinutes, pickle_minutes, scale_of
from ..rules import Heat, is_steel, metals_in, states_in
from ..state import hollows_in
from ._cooling import block_minutes, cooling_of, touch_minutes
from ._course import parts_of_heat
from ._minutes import minutes_of
from ._names import in_words, names_of
from ._script import Script, add_work, told_work
from ._types import Check, CoolStep, HeatStep, InspectStep, PickleStep, said
from ._words import checks_of

_QUENCH_MINUTES, _LEAST_IN_AIR = 1.0, 1.0


def _parts(script: Script, heats: tuple[Heat, ...], *, hung: bool = True) -> tuple[str, ...]:
    """Give the parts of some heats, in the order of the list; `hung`: with all that hangs together with them."""
    inside = {name for heat in heats for name in parts_of_heat(script.course, heat)}
    if hung:
        inside |= {base_id(node) for heat in heats for node in script.hangs_with(heat)}
    return tuple(part.id for part in script.course.piece.parts if part.id in inside)


_COOL_LINES = {
    "quench-when-black": ("Let the glow go.", "When no red shows in low light, quench in water."),
    "air-cool": ("Let it cool in air where it lies; do not touch it until the timer says so.",),
}


def _is_closed(script: Script, heat: Heat) -> bool:
    """Say whether a hollow in what hangs together with a heat is closed now."""
    return any(not hollow.open for hollow in hollows_in(script.state.groups[0], script.hangs_with(heat)))


def cool(script: Script, heats: tuple[Heat, ...]) -> None:
    """Cool the heats of a round; what may go into water first, what must not apart from it."""
    ways = {heat.number: cooling_of(script, heat) for heat in heats}
    surface = surfaces()[script.bench.surface or "charcoal"]
    over = {step.heat_no: step for step in script.steps if isinstance(step, HeatStep)}
    hot = block_minutes(surface, [_held(over[heat.number]) for heat in heats if heat.number in over])
    for how in ("quench-when-black", "air-cool"):
        alike = tuple(heat for heat in heats if ways[heat.number] == how)
        if not alike:
            continue
        parts = _parts(script, alike)
        touch = max(touch_minutes(script, heat, surface) for heat in alike) if how == "air-cool" else 0.0
        apart = f"{names_of(script.course, parts)}:" if len(alike) < len(heats) else ""
        script.write(
            CoolStep(
                to_the_end=how == "air-cool" and any(_is_closed(script, heat) for heat in alike),
                n=script.next_n,
                parts=parts,
                minutes=_QUENCH_MINUTES if how == "quench-when-black" else max(_LEAST_IN_AIR, touch),
                touch_minutes=touch,
                block_minutes=hot,
                round=heats[0].round,
                heats=tuple(heat.number for heat in alike),
                how=how,
                **said(apart, *_COOL_LINES[how]),
            )
        )


def steel_off(script: Script, heats: tuple[Heat, ...]) -> None:
    """Take steel off before the pot, and do the unbinding that the smith asked for after a round."""
    course = script.course
    told = [
        work
        for work in course.piece.work
        if work.kind == "unbind" and course.slots.get(work.id) == heats[-1].number
    ]
    for work in told:
        told_work(script, work)
    covered = {part for work in told for part in work.parts}
    on = {name for heat in heats for name in (*heat.joins, *heat.protected)}
    held = [
        join
        for join in course.piece.joins
        if join.id in on and is_steel(join) and not set(join.between) <= covered
    ]
    if held:
        names = in_words([join.title for join in held])
        parts = tuple(dict.fromkeys(end for join in held for end in join.between))
        add_work(
            script,
            "unbind",
            "unbind",
            parts,
            f"Take all wire, pins and clips off {names}: steel in the pot plates everything pink.",
            put_in=True,
        )


def _held(step: HeatStep) -> tuple[float, float]:
    """Give how hot what a heat lies on is held, °C, and how long, s: by its rehearsal, where there was one."""
    likely = step.rehearsed.likely_s if step.rehearsed else None
    return step.working_c, likely or step.minutes * 60


def _goes_into_pot(script: Script, heat: Heat) -> bool:
    """Say whether a heat's body is pickled: not while it is closed and heated again, nor what was melted and has no scale."""
    inside, group = script.hangs_with(heat), script.state.groups[0]
    if heat.filler.purpose == "melt":
        return any(group.parts[node].scaled for node in inside)
    closed = _is_closed(script, heat)
    return not (closed and script.is_heated_again(heat))


def pickle(script: Script, heats: tuple[Heat, ...]) -> None:
    course = script.course
    dipped = tuple(heat for heat in heats if _goes_into_pot(script, heat))
    if not dipped:
        return
    bath = pickles()[script.bench.pickle or "bisulphate"]
    needed = [_pickle_minutes(script, heat) for heat in dipped]
    low, high = max(one.low for one in needed), max(one.high for one in needed)
    group = script.state.groups[0]
    inside = frozenset(node for heat in dipped for node in script.hangs_with(heat))
    wet = [hollow for hollow in hollows_in(group, inside) if not hollow.wide]
    neutralise = course.house.neutralise == "yes"
    then = "rinse, neutralise in soda water" if neutralise else "rinse well"
    parts = _parts(script, dipped)
    what = f"{names_of(course, parts)} into" if len(dipped) < len(heats) else "Into"
    text = f"{what} the {bath.name.lower()} pot with copper or plastic tongs, until it is evenly pale; then {then}{', dry' if wet else ''}."
    script.write(
        PickleStep(
            n=script.next_n,
            parts=parts,
            text=text[0].upper() + text[1:],
            minutes=round(high, 1),
            minutes_low=round(low, 1),
            minutes_high=round(high, 1),
            neutralise=neutralise,
            dry=bool(wet),
            round=heats[0].round,
            heats=tuple(heat.number for heat in dipped),
        ),
        again=_again(script, dipped),
    )


def _again(script: Script, heats: tuple[Heat, ...]) -> frozenset[str]:
    """Give the nodes of what hangs together with some heats' bodies and is heated afterwards."""
    return frozenset(
        node for heat in heats if script.is_heated_again(heat) for node in script.hangs_with(heat)
    )


def _pickle_minutes(script: Script, heat: Heat) -> PickleMinutes:
    course, bath = script.course, pickles()[script.bench.pickle or "bisulphate"]
    metals: list[Metal] = [metal for _, metal in metals_in(course, heat)]
    hot = cooling_of(script, heat) == "quench-when-black"
    pot = script.bench.pot or PotState()
    kept_c = bath.hot_ref_c if pot.bath_c is None else pot.bath_c
    scale = scale_of(metals, fluxed=heat.filler.purpose in ("solder", "fuse"))
    return pickle_minutes(
        bath,
        kept_c if course.house.pot == "warm" else COLD_POT_C,
        scale,
        hot_piece=hot,
        copper_g_l=pot.copper_g_l,
        strength_pct=pot.strength_pct,
        pace=pot.pace,
    )


def look(script: Script, heats: tuple[Heat, ...]) -> None:
    course = script.course
    made = {name for heat in heats for name in heat.joins}
    joined = [join.title for join in course.piece.joins if join.id in made]
    bare = [heat for heat in heats if not heat.joins]
    names = in_words(
        [*joined, *([names_of(course, _parts(script, tuple(bare), hung=False))] if bare else [])]
    )
    last = heats[-1].number == len(course.heats)
    checks: list[Check] = []
    for heat in heats:
        softened = [join.title for join, state in states_in(course, heat) if state != "firm"]
        checks += checks_of(course, heat, softened)
    script.write(
        InspectStep(
            n=script.next_n,
            parts=_parts(script, heats, hung=False),
            text=f"Look at {names} before anything else is {'done' if last else 'heated'}.",
            minutes=minutes_of(course.house, "look", max(1, len(heats)) * course.piece.copies),
            checks=tuple(checks),
            round=heats[0].round,
            heats=tuple(heat.number for heat in heats),
        )
    )

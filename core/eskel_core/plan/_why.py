"""Why each heat has its grade and its place, and what was ruled out, found by trying it on the course."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ..demands import Problem
from ..metals import Solder, solder_suits
from ..piece import Join, metal_of, stocked_solders
from ..rules import (
    Course,
    Filler,
    Heat,
    at_join_c,
    filler_of_solder,
    holds_at_all,
    loaded_when_soft,
    metals_in,
    state_at,
    states_in,
)
from ..units import celsius
from ._names import grade_named, in_words
from ._types import RuledOut, Why
from ._words import goes_in


def explain(problem: Problem, course: Course) -> tuple[Why, ...]:
    """Give the reason for every heat."""
    return tuple(_explain(problem, course, heat) for heat in course.heats)


def _explain(problem: Problem, course: Course, heat: Heat) -> Why:
    return Why(
        heat_no=heat.number,
        grade=grade_in_words(problem, course, heat),
        place=place_in_words(problem, course, heat),
        ruled_out=tuple(_ruled_out(problem, course, heat)),
    )


def grade_in_words(problem: Problem, course: Course, heat: Heat) -> str:
    """Say why a heat has its solder."""
    if heat.filler.solder is None:
        return _no_solder(heat)
    return _grade(problem, heat.filler.solder, _ruled_out(problem, course, heat))


def _ruled_out(problem: Problem, course: Course, heat: Heat) -> list[RuledOut]:
    if heat.filler.solder is None:
        return []
    return [
        RuledOut(solder=solder.id, reason=_objection(problem, course, heat, solder))
        for solder in _stock(problem)
        if solder.id != heat.filler.key
    ]


def _no_solder(heat: Heat) -> str:
    return {
        "fuse": f"No solder: the metal itself runs together at {celsius(heat.working_c)}.",
        "anneal": f"An anneal at {celsius(heat.working_c)}, since forming has used up what the metal bears.",
        "ball": f"The end melts above {celsius(heat.working_c)} and draws up into a ball.",
    }.get(heat.filler.purpose, f"The metal is melted at {celsius(heat.working_c)}.")


def _stock(problem: Problem) -> list[Solder]:
    rows = {solder.id: solder for solder, _ in stocked_solders(problem.bench)}
    return sorted(rows.values(), key=lambda one: (-one.flow_c, one.id))


def _grade(problem: Problem, solder: Solder, out: list[RuledOut]) -> str:
    name = grade_named(solder, _stock(problem))
    flows = {one.id: one.flow_c for one in _stock(problem)}
    policy_softest = problem.house.grade_policy == "easiest-that-serves"
    beyond = [
        one
        for one in out
        if (flows[one.solder] < solder.flow_c if policy_softest else flows[one.solder] > solder.flow_c)
        and one.reason not in (_FAMILY, _FIXED)
        and "take to" not in one.reason
    ]
    if not beyond:
        return f"{name[0].upper()}{name[1:]}: the {'easiest' if policy_softest else 'hardest'} at hand that suits."
    nearest = beyond[0] if policy_softest else beyond[-1]
    return f"{name[0].upper()}{name[1:]}, since {_name(problem, nearest.solder)} {nearest.reason}."


def _name(problem: Problem, solder: str) -> str:
    stock = _stock(problem)
    return grade_named(next(one for one in stock if one.id == solder), stock)


_FAMILY = "is of the family that the house does not use"
_FIXED = "is not what the smith fixed here"


def _objection(problem: Problem, course: Course, heat: Heat, solder: Solder) -> str:
    """Give the first thing that would go wrong if this heat were of another solder, everything else as it is."""
    joins = [join for join in course.piece.joins if join.id in heat.joins]
    if problem.house.family != "mixed" and solder.family not in ("copper", problem.house.family):
        return _FAMILY
    if any(
        (join.solder and join.solder != solder.id) or (join.grade and join.grade != solder.grade)
        for join in joins
    ):
        return _FIXED
    for join in joins:
        for end in join.between:
            metal = metal_of(course.piece, end)
            if metal is not None and not solder_suits(solder, metal):
                return f"does not take to {metal.name.lower()}"
    filler = filler_of_solder(solder, course.house)
    changed = _changed(course, heat, filler)
    checks: tuple[Callable[[Course, Heat], str | None], ...] = (
        _melts,
        _runs_before,
        _runs_after,
        _soft_before,
        _soft_after,
    )
    for check in checks:
        objection = check(changed, changed.heats[heat.number - 1])
        if objection is not None:
            return objection
    softer = solder.flow_c < (heat.filler.flow_c or 0)
    policy_softest = problem.house.grade_policy == "easiest-that-serves"
    if softer != policy_softest:
        return f"would do, but the {'easier' if policy_softest else 'harder'} one serves as well and is preferred"
    return "would do here, but makes the whole plan worse by the order of preference"


def _changed(course: Course, heat: Heat, filler: Filler) -> Course:
    heats = tuple(replace(one, filler=filler) if one.number == heat.number else one for one in course.heats)
    fillers = {name: filler if name in heat.joins else own for name, own in course.fillers.items()}
    return replace(course, heats=heats, fillers=fillers)


def _melts(course: Course, heat: Heat) -> str | None:
    for part, metal in metals_in(course, heat):
        if heat.filler.melts(metal):
            return f"would bring {part.title} to {celsius(heat.working_c)}, and {metal.name.lower()} begins to melt at {celsius(metal.solidus_c)}"
    return None


def _runs_before(course: Course, heat: Heat) -> str | None:
    for join, state in states_in(course, heat):
        if state == "flows":
            held = _held(course, heat, join)
            tail = "" if not held else ", though it is held"
            return f"would bring {join.title} to {celsius(at_join_c(course, heat, join))} and let it run again{tail}"
    return None


def _runs_after(course: Course, heat: Heat) -> str | None:
    return _later(course, heat, "flows", "would let {title} run again in heat {number}")


def _soft_before(course: Course, heat: Heat) -> str | None:
    for join, state in states_in(course, heat):
        if state == "soft" and loaded_when_soft(join, _held(course, heat, join)):
            return f"would make {join.title} soft at {celsius(at_join_c(course, heat, join))} while something pulls on it"
        if (
            state == "soft"
            and join.id not in heat.protected
            and not holds_at_all(course.piece, join, heat.lie)
        ):
            return f"would make {join.title} soft at {celsius(at_join_c(course, heat, join))}"
    return None


def _soft_after(course: Course, heat: Heat) -> str | None:
    return _later(
        course, heat, "soft", "would make {title} soft in heat {number} while something pulls on it"
    )


def _later(course: Course, heat: Heat, wanted: str, words: str) -> str | None:
    for later in course.heats:
        if later.number <= heat.number:
            continue
        for join, _ in states_in(course, later):
            if join.id in heat.joins and _state_in(course, later, join) == wanted:
                if wanted == "soft" and not loaded_when_soft(join, _held(course, later, join)):
                    continue
                return words.format(title=join.title, number=later.number)
    return None


def _state_in(course: Course, heat: Heat, join: Join) -> str:
    return state_at(course.fillers[join.id], at_join_c(course, heat, join), course.house)


def _held(course: Course, heat: Heat, join: Join) -> bool:
    return join.id in heat.protected or holds_at_all(course.piece, join, heat.lie)


def place_in_words(problem: Problem, course: Course, heat: Heat) -> str:
    """Say why a heat comes where it does."""
    titles = {one.id: one.title for one in [*course.piece.joins, *course.piece.work]}
    if heat.go > 1:
        return f"The surface is brought up again, heat {heat.go} of {goes_in(course, heat)}."
    if heat.put_in:
        return f"Put in before {in_words([titles[name] for name in heat.anneals])}."
    own = set(heat.joins) | ({heat.work} if heat.work else set())
    last = [earlier for earlier in course.heats if earlier.round == heat.round - 1]
    before = sorted({a for a, b in problem.orders if b in own and any(_does(one, a) for one in last)})
    shared = (
        f" {in_words([titles[name] for name in heat.joins])} share it: one solder, each held."
        if len(heat.joins) > 1
        else ""
    )
    shared += _one_pot(course, heat)
    if before:
        return f"After {in_words([titles[name] for name in before])}, as the order asks.{shared}"
    same = [earlier for earlier in course.heats if earlier.number < heat.number and earlier.body & heat.body]
    if not same:
        first = "First" if heat.round == 1 else "First of its body"
        return f"{first}: nothing has to come before it.{shared}"
    if same[-1].working_c > heat.working_c:
        return f"After the hotter heat {same[-1].number}, so that it is not disturbed by it.{shared}"
    return f"After heat {same[-1].number}, which it leaves in peace.{shared}"


def _does(heat: Heat, task: str) -> bool:
    return task in heat.joins or task == heat.work


def _one_pot(course: Course, heat: Heat) -> str:
    """Say which heats share the pot with one."""
    mates = [str(one.number) for one in course.heats if one.round == heat.round and one != heat]
    if not mates:
        return ""
    return f" One pot with heat{'s' if len(mates) > 1 else ''} {in_words(mates)}: nothing ties or orders their bodies."

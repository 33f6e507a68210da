"""The rules of the vessels and the pot: what fits, how the bath is, water, steel and acid in the order of the steps."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..forms import Form, Sheet, Strip, Tube, Wire, outline_size_mm, profile_across_mm
from ..metals import pickles
from ..piece import base_id
from ..units import sizes
from ._course import Course
from ._finding import Finding
from ._holding import is_steel
from ._hollows import hollows_of
from ._loose_rules import across_mm
from ._occasions import Done
from ._registry import speaks

LONGEST_TIMES = 3.0
NEAR_LIMIT = 0.8
_IN_WORDS = {"hearth": "hearth", "quench-bowl": "quench bowl", "pot": "pot"}


@dataclass(frozen=True)
class Doing:
    """One thing that is done, in order: a heat, or what follows it (`heat` is its number)."""

    kind: Done
    heat: int


@speaks("does-not-fit")
def does_not_fit(course: Course) -> Iterator[Finding]:
    """`does-not-fit`: a part is larger than the hearth, the quench bowl or the pot of the bench."""
    for vessel in (course.bench.vessels if course.bench else None) or ():
        room = sorted((vessel.length_mm, vessel.width_mm or vessel.length_mm), reverse=True)
        for part in course.piece.parts:
            size = _lying_mm(part.form)
            if size[0] > room[0] or size[1] > room[1]:
                text = f"{part.title} is {sizes(*size, places=0)}, and the {_IN_WORDS[vessel.kind]} has {sizes(*room, places=0)}."
                yield Finding("does-not-fit", (part.id,), text)


def _lying_mm(form: Form) -> tuple[float, float]:
    """Give how long and wide a form lies, mm; what is closed lies as a ring."""
    match form:
        case Sheet():
            wide, high = outline_size_mm(form.outline)
            return max(wide, high), min(wide, high)
        case Wire() | Strip() if form.closed:
            return across_mm(form), across_mm(form)
        case Wire():
            return form.length_mm, profile_across_mm(form.profile)
        case Strip():
            return max(form.length_mm, form.width_mm), min(form.length_mm, form.width_mm)
        case Tube():
            return max(form.length_mm, form.outer_mm), min(form.length_mm, form.outer_mm)
        case _:
            return across_mm(form), across_mm(form)


@speaks("pink-plating")
def pink_plating(course: Course) -> Iterator[Finding]:
    """`pink-plating`: iron has touched the pot that the piece is to go into."""
    if course.heats and course.bench and course.bench.pot and course.bench.pot.iron_touched:
        yield Finding("pink-plating", (), "Iron has touched the pot: silver comes out of it pink.")


@speaks("bath-spent")
def bath_spent(course: Course) -> Iterator[Finding]:
    """`bath-spent`: the copper in the pot nears the limit of the bath."""
    if not course.heats or course.bench is None or course.bench.pot is None:
        return
    bath, copper = pickles()[course.bench.pickle or "bisulphate"], course.bench.pot.copper_g_l
    if copper >= NEAR_LIMIT * bath.copper_limit_g_l:
        text = f"The pot holds {copper:g} g/l of copper; its limit is {bath.copper_limit_g_l:g}."
        yield Finding("bath-spent", (), text)


@speaks("over-pickle", on="pot")
def over_pickle(minutes: float, longest: float, *, warm: bool) -> Iterator[Finding]:
    """`over-pickle`: a piece has been in a warm pot for more than three times the longest time it needs, minutes."""
    if warm and minutes > LONGEST_TIMES * longest:
        text = f"It has been in the warm pot for {minutes:.0f} minutes; {longest:.0f} were enough."
        yield Finding("over-pickle", (), text)


@speaks("wet-hollow", on="steps")
def wet_hollow(course: Course, doings: Sequence[Doing]) -> Iterator[Finding]:
    """`wet-hollow`: a vented hollow is heated after a quench or pickle without having been dried."""
    heats = {heat.number: heat for heat in course.heats}
    hollows = hollows_of(course)
    wet: set[str] = set()
    for doing in doings:
        inside = {hollow.name for hollow in hollows if hollow.is_vented_in(heats[doing.heat])}
        if doing.kind in ("quench", "pickle"):
            wet |= inside
        elif doing.kind == "dry":
            wet -= inside
        elif doing.kind == "heat":
            for hollow in sorted(wet & inside):
                text = f"Water may stand in the {hollow} when heat {doing.heat} begins."
                yield Finding("wet-hollow", (hollow,), text, doing.heat)
            wet -= inside


@speaks("steel-in-pickle", on="steps")
def steel_in_pickle(course: Course, doings: Sequence[Doing]) -> Iterator[Finding]:
    """`steel-in-pickle`: steel wire, pins or clips are still on when the piece goes into the pot."""
    heats = {heat.number: heat for heat in course.heats}
    on: dict[str, str] = {}
    for doing in doings:
        heat = heats[doing.heat]
        if doing.kind == "heat":
            on |= {
                join.id: join.title
                for join in course.piece.joins
                if (join.id in heat.joins or join.id in heat.protected) and is_steel(join)
            }
        elif doing.kind == "unbind":
            on = {}
        elif doing.kind == "pickle" and on:
            names = ", ".join(on.values())
            yield Finding("steel-in-pickle", tuple(on), f"Steel is still on {names}.", doing.heat)


@speaks("hot-into-acid", on="steps")
def hot_into_acid(course: Course, doings: Sequence[Doing]) -> Iterator[Finding]:
    """`hot-into-acid`: a piece would go from the flame straight into the pot."""
    hot: set[int] = set()
    for doing in doings:
        if doing.kind == "pickle" and doing.heat in hot:
            parts = {
                base_id(node) for heat in course.heats if heat.number == doing.heat for node in heat.body
            }
            yield Finding("hot-into-acid", tuple(sorted(parts)), "It would go hot into the acid.", doing.heat)
        if doing.kind == "heat":
            hot.add(doing.heat)
        elif doing.kind in ("quench", "air-cool"):
            hot.discard(doing.heat)

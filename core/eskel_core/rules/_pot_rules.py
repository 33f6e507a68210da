"""The rules of the vessels and the pot: what fits, how the bath is, how long something stays in it."""

from __future__ import annotations

from collections.abc import Iterator

from ..forms import Form, Sheet, Strip, Tube, Wire, outline_size_mm, profile_across_mm
from ..metals import pickles
from ..units import sizes
from ._course import Course
from ._finding import Finding
from ._loose_rules import across_mm
from ._registry import speaks

LONGEST_TIMES = 3.0
NEAR_LIMIT = 0.8
_IN_WORDS = {"hearth": "hearth", "quench-bowl": "quench bowl", "pot": "pot"}


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

"""The rules of forming and other work around the heats."""

from __future__ import annotations

from collections.abc import Iterator

from ..coldwork import compounded_pct, profile_reduction_pct, start_reduction_pct, usual_reduction_pct
from ..forms import Strip, Wire
from ..metals import drop_limit_mm
from ..piece import FORMING_WORK, Join, Part, Work, base_id, metal_of, part_of
from ..units import about, length
from ._asking import join_of, thickness_mm
from ._course import Course
from ._finding import Finding
from ._registry import speaks

REACHED_MM = 3.0


def reduction_of(work: Work) -> float | None:
    """Give the reduction of one piece of work, %: as it tells it, else the usual one of its kind; None where it is no forming."""
    if work.reduction_pct is not None:
        return work.reduction_pct
    if work.from_profile is not None and work.to_profile is not None:
        return profile_reduction_pct(work.from_profile, work.to_profile)
    return usual_reduction_pct(work.kind)


@speaks("form-through-join")
def formed_through(course: Course) -> Iterator[Finding]:
    """`form-through-join`: a join is bent, rolled, twisted or drawn after it is made; told once a part, where nobody says that it is far off."""
    told: set[str] = set()
    for work in course.piece.work:
        if work.kind not in ("bend", "roll", "twist", "draw"):
            continue
        parts = {base_id(part) for part in work.parts}
        for name, number in course.made_in.items():
            join = join_of(course, name)
            worked = parts & {base_id(end) for end in join.between}
            done = number <= course.slots.get(work.id, 0)
            if done and worked - told and not _far_from(course, work, join):
                told |= worked
                text = f"{join.title} is worked in {work.title} after it is soldered."
                yield Finding("form-through-join", (name, work.id), text, number, work.id)


def _far_from(course: Course, work: Work, join: Join) -> bool:
    """Say whether work at marks stays clear of the seam at which a part closes on itself, at its ends."""
    form = part_of(course.piece, base_id(join.between[0])).form
    if not work.marks_mm or len(set(join.between)) > 1 or not isinstance(form, Wire | Strip):
        return False
    return all(min(mark, form.length_mm - mark) > REACHED_MM for mark in work.marks_mm)


@speaks("temper-unknown")
def temper_unknown(course: Course) -> Iterator[Finding]:
    """`temper-unknown`: a part of unknown temper is formed."""
    formed = {base_id(one) for work in course.piece.work if work.kind in FORMING_WORK for one in work.parts}
    for part in course.piece.parts:
        if part.temper == "unknown" and part.id in formed:
            yield Finding(
                "temper-unknown", (part.id,), f"Nobody knows how hard {part.title} is; it is taken as hard."
            )


@speaks("anneal-by-heat")
def annealed_by_heat(course: Course) -> Iterator[Finding]:
    """`anneal-by-heat`: a soldering heat has already made a worked part soft."""
    for part in course.piece.parts:
        metal = metal_of(course.piece, part.id)
        worked = [
            work
            for work in course.piece.work
            if reduction_of(work) is not None and part.id in map(base_id, work.parts)
        ]
        if metal is None or not worked:
            continue
        for heat in course.heats:
            inside = part.id in {course.anatomy.part(node) for node in heat.body}
            before = _reduction_at(course, part, worked, heat.number - 1)
            later = any(course.slots.get(work.id, 0) >= heat.number for work in worked)
            if (
                inside
                and later
                and before > 0
                and heat.filler.purpose == "solder"
                and heat.working_c >= metal.anneal_low_c
            ):
                text = f"Heat {heat.number} makes {part.title} soft again: it needs no anneal of its own before the next forming."
                yield Finding("anneal-by-heat", (part.id,), text, heat.number)
                break


def _reduction_at(course: Course, part: Part, worked: list[Work], slot: int) -> float:
    start = (
        part.temper.reduction_pct
        if not isinstance(part.temper, str)
        else start_reduction_pct(part.temper, part.form)
    )
    done = [reduction_of(work) or 0.0 for work in worked if course.slots.get(work.id, 0) <= slot]
    return compounded_pct(start, *done)


@speaks("too-thin")
def too_thin(course: Course) -> Iterator[Finding]:
    """`too-thin`: a part that goes through skin, as a post does, or a springy wire, as a pin stem is, is thinner than the house makes them."""
    thinnest = course.house.thinnest_mm
    for part in course.piece.parts:
        through = part.touches_skin == "through"
        if part.form.kind != "wire" or not (through or part.spring):
            continue
        limit, of = (thinnest.post, "posts and ear wires") if through else (thinnest.pin_stem, "pin stems")
        if thickness_mm(part.form) < limit:
            text = f"{part.title} is {about(thickness_mm(part.form))}; the house makes {of} of {about(limit)} at least."
            yield Finding("too-thin", (part.id,), text)


@speaks("ball-falls")
def ball_falls(course: Course) -> Iterator[Finding]:
    """`ball-falls`: a ball too heavy for its wire lets go."""
    for work in course.piece.work:
        if work.kind != "ball" or work.ball_mm is None:
            continue
        for name in work.parts:
            part, metal = part_of(course.piece, name), metal_of(course.piece, name)
            if metal is None or part.form.kind != "wire":
                continue
            limit = drop_limit_mm(thickness_mm(part.form), metal)
            if work.ball_mm > limit:
                text = f"A ball of {about(work.ball_mm)} lets go of {part.title}: its limit is {length(limit, 2)}."
                yield Finding("ball-falls", (part.id, work.id), text, work=work.id)

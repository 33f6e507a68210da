"""The rules of small and loose things: what swims, what is free to fall, what is seen, what is left to trim."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ..forms import Ball, Form, Lump, Sheet, Strip, Tube, Wire, outline_size_mm
from ..metals import FLAT_SHARE, ball_flat_mm
from ..piece import Join, Part, Work, base_id, metal_of, part_of
from ..units import about, length
from ._asking import join_of, lump_across_mm, solder_heats, titles
from ._course import Course
from ._finding import Finding
from ._registry import speaks

SMALL_MM = 3.0
SPLIT_NEAR_MM = 2.0
FRAME_WIRES = 4


def across_mm(form: Form) -> float:
    """Give the largest size of a form as it lies, mm."""
    match form:
        case Wire() | Strip():
            return form.length_mm / math.pi if form.closed else form.length_mm
        case Tube():
            return max(form.length_mm, form.outer_mm)
        case Ball():
            return form.diameter_mm
        case Sheet():
            return max(outline_size_mm(form.outline))
        case Lump():
            return lump_across_mm(form)


@speaks("parts-drift")
def parts_drift(course: Course) -> Iterator[Finding]:
    """`parts-drift`: more than one loose part under 3 mm swims on the solder of one part in one heat."""
    for heat in solder_heats(course):
        afloat: dict[str, list[str]] = {}
        for name in heat.joins:
            join = join_of(course, name)
            if join.holds not in ("own-weight", "nothing") or join.kind not in ("seat", "tee", "overlay"):
                continue
            pair = sorted(
                (part_of(course.piece, end) for end in join.between[:2]), key=lambda one: across_mm(one.form)
            )
            small, under = pair[0], pair[-1]
            if small.id != under.id and across_mm(small.form) < SMALL_MM:
                afloat.setdefault(under.id, []).extend([small.id] * course.anatomy.joins[name].places)
        for under_id, swimming in afloat.items():
            if len(swimming) > 1:
                names = titles([part_of(course.piece, fromkey).title for fromkey in dict.fromkeys(swimming)])
                text = f"{len(swimming)} small parts swim on {part_of(course.piece, under_id).title} at once: {names}."
                yield Finding("parts-drift", (under_id, *dict.fromkeys(swimming)), text, heat.number)


@speaks("split-in-solder")
def split_in_solder(course: Course) -> Iterator[Finding]:
    """`split-in-solder`: the split of a ring that is opened later lies where it is soldered."""
    for cold in course.piece.joins:
        if cold.kind != "ring-open":
            continue
        for name, number in course.to_make.items():
            join = join_of(course, name)
            ring = next((end for end in join.between if base_id(end) in map(base_id, cold.between)), None)
            if ring is None or not isinstance(part_of(course.piece, ring).form, Wire):
                continue
            closed = len(set(join.between)) == 1
            if closed or _near(join, cold):
                title = part_of(course.piece, ring).title
                text = f"{title} is to be opened later, but its split is soldered in {join.title}."
                yield Finding("split-in-solder", (base_id(ring), name), text, number)


def _near(join: Join, cold: Join) -> bool:
    spots, others = _spots(join), _spots(cold)
    return any(math.dist(a, b) <= SPLIT_NEAR_MM for a in spots for b in others)


def _spots(join: Join) -> list[tuple[float, float]]:
    if join.at is None:
        return []
    return [join.at] if isinstance(join.at[0], float | int) else list(join.at)  # one spot, or several


@speaks("frame-loose")
def frame_loose(course: Course) -> Iterator[Finding]:
    """`frame-loose`: in open wire work a wire is joined at one place only. Closed and moving wires are left out."""
    wires = [part for part in course.piece.parts if isinstance(part.form, Wire) and not part.form.closed]
    crossings = [join for join in course.piece.joins if join.kind in ("cross", "bundle") and join.heated]
    if sum(part.count for part in wires) < FRAME_WIRES or not crossings:
        return
    for part in wires:
        places = sum(
            course.anatomy.joins[join.id].places
            for join in course.piece.joins
            if join.id in course.anatomy.joins and part.id in map(base_id, join.between)
        )
        if not part.moves and 0 < places < 2 * part.count and places <= part.count:
            yield Finding("frame-loose", (part.id,), f"{part.title} is held at one place only.")


@speaks("ball-flat")
def ball_flat(course: Course) -> Iterator[Finding]:
    """`ball-flat`: a ball melted loose rests on a flat wider than a quarter of itself."""
    for part in course.piece.parts:
        metal = metal_of(course.piece, part.id)
        if metal is None or part.bought_in or part.cast or not isinstance(part.form, Ball):
            continue
        size = part.form.diameter_mm
        flat = ball_flat_mm(size, metal)
        if flat > FLAT_SHARE * size:
            text = f"{part.title} of {about(size)}, melted loose, rests on a flat of {length(flat, 2)}."
            yield Finding("ball-flat", (part.id,), text)


@speaks("seam-in-sight")
def seam_in_sight(course: Course) -> Iterator[Finding]:
    """`seam-in-sight`: a ring's or bezel's own seam is seen or stressed, and no later join lies over it."""
    for name, number in course.to_make.items():
        join = join_of(course, name)
        if len({base_id(end) for end in join.between}) > 1 or not (join.visible or join.structural):
            continue
        part = part_of(course.piece, join.between[0])
        covered = any(
            other.id != name and part.id in map(base_id, other.between) and _near(other, join)
            for other in course.piece.joins
        )
        if not covered and _closes(part):
            why = "is seen" if join.visible else "lies where it is stressed"
            yield Finding("seam-in-sight", (part.id, name), f"The seam of {part.title} {why}.", number)


def _closes(part: Part) -> bool:
    return isinstance(part.form, Wire | Strip) and part.form.closed


@speaks("cut-short")
def cut_short(course: Course) -> Iterator[Finding]:
    """`cut-short`: a part that is trimmed is cut no longer than it ends up."""
    for work in course.piece.work:
        if work.kind != "trim":
            continue
        for part in _parts_of(course, work):
            if part.rough is None or not _longer(part.rough, part.form):
                text = f"{part.title} is to be trimmed, but is cut no larger than it ends up."
                yield Finding("cut-short", (part.id, work.id), text, work=work.id)


def _parts_of(course: Course, work: Work) -> list[Part]:
    return [part_of(course.piece, name) for name in dict.fromkeys(map(base_id, work.parts))]


def _longer(rough: Form, form: Form) -> bool:
    return (
        rough.kind != form.kind
        or across_mm(rough) > across_mm(form)
        or (rough != form and across_mm(rough) >= across_mm(form))
    )

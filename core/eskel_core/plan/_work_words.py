"""The sentences of work that is not soldering: what is done to what, with its numbers, and of how many alike."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ..faults import Refused
from ..forms import Form, Profile, Strip, Wire, profile_across_mm, profile_height_mm
from ..piece import FORMING_WORK, Join, Part, Target, Work, is_of_grains, mass_g, metal_of, metals_of, part_of
from ..rules import Course, reduction_of
from ..sizes import DrawDownFound, Hand, calculate
from ..units import about, grams, length, sizes
from ._names import alike_of, in_words, named_each, names_of, number_in_words, with_each
from ._types import Measuring

_WORK_TEXT = {
    "bend": "Bend",
    "dome": "Dome",
    "twist": "Twist",
    "roll": "Roll",
    "draw": "Draw",
    "forge": "Forge",
    "texture": "Texture",
    "saw": "Saw out",
    "divide": "Divide",
    "trim": "Trim",
    "drill": "Drill",
    "hang": "Hang in",
    "bind": "Bind",
    "unbind": "Take the binding off",
    "resist": "Paint resist on",
    "size": "Check the size of",
    "dry": "Dry out",
    "set": "Set",
    "press": "Press",
    "dimple": "Dimple",
    "straighten": "Straighten",
    "flatten": "Flatten",
    "tap": "Cut a thread in",
    "engrave": "Engrave",
    "harden": "Harden",
    "tumble": "Tumble",
    "finish": "Finish",
    "darken": "Darken",
    "seal": "Seal",
    "anneal": "Anneal",
    "ball": "Ball the end of",
    "melt": "Melt",
    "pour": "Pour",
    "deplete": "Bring up the fine surface of",
}
_CHARGED = frozenset({"melt", "pour"})


def work_lines(course: Course, work: Work) -> tuple[str, ...]:
    """Say a piece of work in a sentence, with its measures; in others its passes, and how many goes it takes."""
    verb = "Form the" if work.kind == "ball" and is_of_grains(course.piece, work) else _WORK_TEXT[work.kind]
    named = (
        with_each(names_of(course, work.parts), alike_in(course, work))
        if work.kind == "twist"
        else names_of(course, work.parts)
        if work.kind == "divide"
        else named_each(course, work.parts, course.slots.get(work.id))
    )
    text = f"{work.name or verb}{':' if work.name else ''} {named}"
    text += "".join(_measures(course, work))
    return (f"{text}.", *_passes(course, work), _goes_text(course, work))


def alike_in(course: Course, work: Work) -> int:
    """Give on how many alike work is done: strands are twisted together, and what joins tie is one."""
    if work.kind == "twist":
        return course.piece.copies
    return alike_of(course, work.parts, course.slots.get(work.id))


def _measures(course: Course, work: Work) -> Iterator[str]:
    """Give what a sentence of work says after its parts, in the order in which a smith says it."""
    if work.kind == "hang" and (loops := _loops(course, work)):
        yield f" in {in_words(loops)}"
    if work.vents:
        yield f" to vent the {in_words(list(work.vents))}"
    if work.seals:
        ends = "its ends" if work.seals == work.parts else names_of(course, work.seals)
        yield f", which closes {ends}: from now on a hollow"
    if work.from_profile is not None and work.to_profile is not None:
        yield f" from {_section(work.from_profile)} to {_section(work.to_profile)}"
    elif work.kind == "pour" and (mould := _mould(course, work)) is not None:
        yield f" into a mould of {_section(mould)}"
    elif work.to_profile is not None:
        yield f" to {_section(work.to_profile)}"
    if work.ball_mm is not None:
        yield f" to {about(work.ball_mm)}"
    if work.dowel_mm is not None:
        yield f" over a dowel of {about(work.dowel_mm)}"
    if work.angle_deg is not None:
        yield f" to {work.angle_deg:g}°"
    if work.marks_mm:
        yield f", marked at {in_words([about(mm) for mm in work.marks_mm])}"
    if work.turns is not None:
        yield f", {work.turns:g} turns"
    if work.reduction_pct is not None:
        yield f", {work.reduction_pct:g} % reduction"
    if (charge := _charge_g(course, work)) is not None:
        yield f", {grams(charge, 1)}"
    if work.kind == "divide" and (single := _single_g(course, work)):
        yield f" into {number_in_words(alike_in(course, work))} of {grams(single, 2)}"
    if (wanted := _wanted(course, work)) is not None:
        yield wanted
    if work.stage is not None:
        yield f" to {work.stage}"
    if work.times is not None and work.kind != "deplete":
        yield f", {work.times} times"


# How far off what is drawn up, cut and melted may be where nobody says (ours): a tenth, but no finer than a rule or a pocket scale shows.
_WITHIN = 0.1
_WITHIN_SHARE = 0.07
_WITHIN_G_SHARE = 0.02


def measure_of(course: Course, work: Work) -> Measuring | None:
    """Give what is measured of work, if anything: the size that it is worked to, the ball, the length that is cut, what is melted."""
    target = target_of(course, work)
    if target is not None:
        return Measuring(what="size_mm", to_be=target.mm, within=target.within_mm, words=target.what)
    if work.ball_mm is not None:
        return Measuring(
            what="ball_mm", to_be=work.ball_mm, within=round(max(_WITHIN, _WITHIN_SHARE * work.ball_mm), 2)
        )
    charge = _charge_g(course, work)
    if charge is not None:
        return Measuring(what="mass_g", to_be=charge, within=round(max(_WITHIN, _WITHIN_G_SHARE * charge), 2))
    length_mm = _trimmed_mm(course, work)
    return None if length_mm is None else Measuring(what="length_mm", to_be=length_mm, within=_WITHIN)


def _mould(course: Course, work: Work) -> Profile | None:
    """Give the section of the mould that is poured into: as told, else what the bar is rolled or drawn down from."""
    if work.to_profile is not None:
        return work.to_profile
    later = [one for one in course.piece.work if one.from_profile and set(one.parts) & set(work.parts)]
    return later[0].from_profile if later else None


def _loops(course: Course, work: Work) -> list[str]:
    """Give what a part hangs in: the loops that close through it."""
    own = set(work.parts)
    joins = [join for join in course.piece.joins if own & set(join.through)]
    return list(dict.fromkeys(part_of(course.piece, join.between[0]).title for join in joins))


def _section(profile: Profile) -> str:
    across, high = profile_across_mm(profile), profile_height_mm(profile)
    if profile.kind in ("round", "square"):
        return f"{about(across)} {profile.kind}"
    return f"{sizes(across, high)} {'half-round' if profile.kind == 'half-round' else 'flat'}"


def _charge_g(course: Course, work: Work) -> float | None:
    """Give what is melted or poured, g: as told, else all of the parts; grains are melted one by one."""
    if work.kind not in _CHARGED:
        return None
    if work.mass_g is not None:
        return work.mass_g
    parts = [part_of(course.piece, one) for one in work.parts]
    if not parts or any(part.form.kind == "ball" and part.count > 1 for part in parts):
        return None
    return course.piece.copies * sum(_mass_g(course, part) * part.count for part in parts)


def _single_g(course: Course, work: Work) -> float:
    parts = [part_of(course.piece, one) for one in work.parts]
    return _mass_g(course, parts[0]) if len(parts) == 1 else 0.0


def _mass_g(course: Course, part: Part) -> float:
    return mass_g(part.form, metal_of(course.piece, part.id)) or 0.0


def _wanted(course: Course, work: Work) -> str | None:
    """Say the size that work is to come out at: the target that was told, what is trimmed to, a ring's own inside."""
    target = target_of(course, work)
    if target is not None:
        what = f"{target.what} " if target.what else ""
        return f": {what}{about(target.mm)}, within {about(target.within_mm)}"
    trimmed = _trimmed_mm(course, work)
    return None if trimmed is None else f" to {about(trimmed)}"


def _trimmed_mm(course: Course, work: Work) -> float | None:
    """Give the length that is trimmed or sawn to, mm: as told, or what a part that was left long is to be."""
    if work.to_mm is not None:
        return work.to_mm
    parts = [part_of(course.piece, one) for one in work.parts]
    if work.kind == "trim" and len(parts) == 1 and parts[0].rough is not None:
        finished: float | None = getattr(parts[0].form, "length_mm", None)
        return finished
    return None


def target_of(course: Course, work: Work) -> Target | None:
    """Give the size that work is to come out at: as it was told, else a ring's own inside where its size is checked."""
    if work.target is not None:
        return work.target
    inside = _inside_mm(part_of(course.piece, work.parts[0]).form) if len(work.parts) == 1 else None
    return Target(mm=round(inside, 1), what="inside") if work.kind == "size" and inside else None


def _inside_mm(form: Form) -> float | None:
    """Give the inner diameter of a round ring of closed wire or strip, mm: its length runs along the middle of its thickness."""
    if isinstance(form, Strip | Wire) and form.path is not None:
        return None
    if isinstance(form, Strip) and form.closed:
        return form.length_mm / math.pi - form.thickness_mm
    if isinstance(form, Wire) and form.closed:
        return form.length_mm / math.pi - profile_height_mm(form.profile)
    return None


def _passes(course: Course, work: Work) -> Iterator[str]:
    """Give the pass table of work from one section to another: sizes one after another, with the anneals on the way."""
    if (
        work.kind not in ("roll", "draw")
        or work.from_profile is None
        or work.to_profile is None
        or not work.parts
    ):
        return
    part = part_of(course.piece, work.parts[0])
    asked = {
        "metal": part.metal,
        "start": work.from_profile.model_dump(),
        "end": work.to_profile.model_dump(),
        "length_mm": getattr(part.form, "length_mm", 100.0),
        "first": "draw" if work.kind == "draw" else "mill",
    }
    try:
        found = calculate("draw-down", asked, _hand(course)).found
    except Refused:
        return
    if isinstance(found, DrawDownFound):
        told = [f"{'anneal, ' if one.anneal_before else ''}{length(one.size_mm, 2)}" for one in found.passes]
        yield f"Pass by pass: {', '.join(told)}."


def _hand(course: Course) -> Hand:
    tools = (course.bench.tools if course.bench else None) or ()
    return Hand(tools=tools, metals=metals_of(course.piece), house=course.house)


def _goes_text(course: Course, work: Work) -> str:
    """Say in how many goes work is done that is more than its metal bears at once, annealed between them."""
    reduction = reduction_of(work) or 0.0
    metals = [metal for part in work.parts if (metal := metal_of(course.piece, part)) is not None]
    if work.kind not in FORMING_WORK or not metals or reduction >= 100:
        return ""
    weakest = min(metals, key=lambda metal: metal.max_reduction_pct)
    if reduction <= weakest.max_reduction_pct:
        return ""
    goes = math.ceil(math.log(1 - reduction / 100) / math.log(1 - weakest.max_reduction_pct / 100) - 1e-9)
    return (
        f"In {goes} goes at least, annealed, cooled and pickled between them: {reduction:.3g} % is more than the"
        f" {weakest.max_reduction_pct:g} % that {weakest.name.lower()} bears at once."
    )


def cold_line(course: Course, join: Join) -> str:
    """Say a cold join: which parts, and what hangs in what."""
    first, *others = list(dict.fromkeys(part_of(course.piece, end).title for end in join.between))
    hung = names_of(course, join.through) if join.through else ""
    match join.kind:
        case "ring-open":
            inside = in_words([*([hung] if hung else []), *others])
            done = f"Open {first} sideways{f', hang it in {inside}' if others or hung else ''}, and close it"
        case "wrap":
            done = f"Wrap {first}{f' round {in_words(others)}' if others else ' shut'}"
        case "rivet":
            done = f"Rivet {in_words([first, *others])}"
        case _:
            done = f"Screw {in_words([first, *others])} together"
    if join.kind != "ring-open" and hung:
        done += f", with {hung} hung in it"
    return f"{with_each(done, alike_of(course, join.between))}, cold: {join.title}."

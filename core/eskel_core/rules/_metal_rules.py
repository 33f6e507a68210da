"""The rules of metals, solders and placing: what is in stock, what shows, what goes soft, what fumes."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from ..metals import Metal, Solder
from ..piece import Join, Part, base_id, contact_at, mass_g, metal_of, part_of, stocked_solders
from ..units import celsius, grams, length
from ._asking import (
    join_of,
    metals_in,
    parts_in,
    placing_of,
    solder_heats,
    titles,
)
from ._course import Course
from ._finding import Finding
from ._registry import speaks

JUMPS_BELOW_G = 0.1
FUME_C = 900.0
FUME_ZINC_PCT = 15.0
PASTE_SEAM_MM = 15.0
PASTE_FACE_MM2 = 30.0
_FORM_OF_PLACING = {
    "chips-under": "sheet",
    "chips-over": "sheet",
    "sweat": "sheet",
    "pick": "wire",
    "fed-wire": "wire",
    "paste": "paste",
}


@speaks("placing-no-stock")
def stock(course: Course) -> Iterator[Finding]:
    """`placing-no-stock`: the placing asks for a form of solder that is not in the drawer."""
    bench = course.piece.bench
    forms: dict[str, set[str | None]] = {}
    for solder, entry in stocked_solders(bench) if bench and bench.solders is not None else []:
        forms.setdefault(solder.id, set()).add(entry.form)
    for heat in solder_heats(course):
        kept = forms.get(heat.filler.key, {None})
        for name in heat.joins:
            placing = placing_of(course, heat, join_of(course, name))
            if None not in kept and _FORM_OF_PLACING[placing] not in kept:
                words = placing.replace("-", " ").capitalize()
                name = heat.filler.solder.name if heat.filler.solder else heat.filler.key
                text = f"{words} needs {_FORM_OF_PLACING[placing]} solder; {name} is there as {titles(sorted(str(form) for form in kept))}."
                yield Finding("placing-no-stock", (name,), text, heat.number)


@speaks("fineness-short")
def fineness(course: Course) -> Iterator[Finding]:
    """`fineness-short`: the solder holds less silver than the house's assay asks on silver."""
    wanted = course.house.fineness
    if wanted == "off":
        return
    for heat in solder_heats(course):
        solder = heat.filler.solder
        for name in heat.joins:
            metals = [metal_of(course.piece, end) for end in join_of(course, name).between]
            if (
                solder
                and solder.silver_ppt < wanted
                and any(metal and metal.family == "silver" for metal in metals)
            ):
                text = f"{solder.name} holds {solder.silver_ppt} parts of silver in a thousand; the house asks {wanted}."
                yield Finding("fineness-short", (name,), text, heat.number)


@speaks("solder-shows")
def shows(course: Course) -> Iterator[Finding]:
    """`solder-shows`: a white seam on coloured metal."""
    for heat in solder_heats(course):
        for name in heat.joins:
            join = join_of(course, name)
            metals = [metal_of(course.piece, end) for end in join.between]
            coloured = [metal for metal in metals if metal and metal.family != "silver"]
            seen = join.visible and join.face != "inside" and not _coloured_over(course, join)
            if seen and coloured and heat.filler.solder and heat.filler.solder.silver_ppt > 0:
                yield Finding(
                    "solder-shows",
                    (name,),
                    f"Silver solder shows as a white line on {coloured[0].name.lower()} at {join.title}.",
                    heat.number,
                )


def _coloured_over(course: Course, join: Join) -> bool:
    """Say whether the parts of a join are darkened, which covers the line of its solder."""
    parts = {base_id(end) for end in join.between}
    return any(work.kind == "darken" and parts <= set(map(base_id, work.parts)) for work in course.piece.work)


@speaks("bought-in-last")
def bought(course: Course) -> Iterator[Finding]:
    """`bought-in-last`: a bought finding with joins of its own that nobody knows is heated."""
    for heat in course.heats:
        for part in parts_in(course, heat):
            if part.bought_in:
                yield Finding(
                    "bought-in-last",
                    (part.id,),
                    f"{part.title} was bought: its own joins may let go at {celsius(heat.working_c)}.",
                    heat.number,
                )


@speaks("gold-filled-heat")
def clad(course: Course) -> Iterator[Finding]:
    """`gold-filled-heat`: clad stock sees more than one heat, or a hard solder."""
    seen: dict[str, int] = {}
    for heat in course.heats:
        for part, metal in metals_in(course, heat):
            if metal.family != "clad":
                continue
            seen[part.id] = seen.get(part.id, 0) + 1
            hard = heat.filler.solder is not None and heat.filler.solder.grade in ("hard", "it")
            if seen[part.id] == 2 or (hard and seen[part.id] == 1):
                yield Finding(
                    "gold-filled-heat",
                    (part.id,),
                    f"The gold skin of {part.title} sinks in with heat {heat.number}.",
                    heat.number,
                )


@speaks("chips-jump")
def light_things(course: Course) -> Iterator[Finding]:
    """`chips-jump`: parts so light that boiling flux moves them."""
    for heat in solder_heats(course):
        light = sorted(
            {
                base_id(end)
                for name in heat.joins
                for end in join_of(course, name).between
                if (mass_g(part_of(course.piece, end).form, metal_of(course.piece, end)) or 1.0)
                < JUMPS_BELOW_G
            }
        )
        if light:
            names = titles([part_of(course.piece, one).title for one in light])
            yield Finding(
                "chips-jump",
                tuple(light),
                f"Under {grams(JUMPS_BELOW_G, 1)}: {names}. Boiling flux moves what is so light.",
                heat.number,
            )


@speaks("paste-weak")
def paste(course: Course) -> Iterator[Finding]:
    """`paste-weak`: paste where it leaves pits."""
    forming = ("bend", "roll", "twist", "draw", "dome", "forge")
    for heat in solder_heats(course):
        for name in heat.joins:
            join = join_of(course, name)
            touch = contact_at(course.piece, join)
            if placing_of(course, heat, join) != "paste" or touch is None:
                continue
            seam, face = touch.seam_mm, touch.area_mm2
            formed = any(
                work.kind in forming
                and course.slots.get(work.id, 0) >= heat.number
                and _touches(work.parts, join.between)
                for work in course.piece.work
            )
            if seam > PASTE_SEAM_MM or face > PASTE_FACE_MM2 or formed:
                yield Finding(
                    "paste-weak",
                    (name,),
                    f"Paste at {join.title} ({length(seam, 0)} of seam) leaves pits.",
                    heat.number,
                )


@speaks("detail-floods")
def detail(course: Course) -> Iterator[Finding]:
    """`detail-floods`: solder beside engraving, texture or a thread."""
    for heat in solder_heats(course):
        for name in heat.joins:
            if join_of(course, name).beside_detail:
                yield Finding(
                    "detail-floods",
                    (name,),
                    f"Solder at {join_of(course, name).title} may run into the detail beside it.",
                    heat.number,
                )


@speaks("zinc-fume")
def fume(course: Course) -> Iterator[Finding]:
    """`zinc-fume`: zinc leaves the metal as fume."""
    for heat in course.heats:
        if heat.working_c <= FUME_C:
            continue
        rich: list[tuple[Part, Metal]] = [
            pair for pair in metals_in(course, heat) if pair[1].zinc_pct >= FUME_ZINC_PCT
        ]
        if rich:
            yield Finding(
                "zinc-fume",
                tuple(part.id for part, _ in rich),
                f"{rich[0][1].name} gives off zinc fume at {celsius(heat.working_c)}.",
                heat.number,
            )


@speaks("nickel-skin")
def nickel(course: Course) -> Iterator[Finding]:
    """`nickel-skin`: nickel against skin."""
    for part in course.piece.parts:
        metal = metal_of(course.piece, part.id)
        if metal and metal.nickel_pct > 0 and part.touches_skin != "none":
            yield Finding(
                "nickel-skin",
                (part.id,),
                f"{part.title} holds {metal.nickel_pct:g} % nickel and touches skin.",
            )


@speaks("cadmium", on="stock")
def cadmium(stocked: Iterable[Solder]) -> Iterator[Finding]:
    """`cadmium`: a solder marked as holding cadmium."""
    for solder in stocked:
        if solder.cadmium:
            yield Finding("cadmium", (solder.id,), f"{solder.name} holds cadmium, whose fume is a poison.")


def _touches(parts: tuple[str, ...], between: tuple[str, ...]) -> bool:
    return bool({base_id(part) for part in parts} & {base_id(end) for end in between})

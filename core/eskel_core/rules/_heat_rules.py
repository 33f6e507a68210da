"""The rules of the heats: each a small unit that looks at a course and says what it finds."""

from __future__ import annotations

from collections.abc import Iterator

from ..forms import Tube
from ..metals import Metal
from ..picture import distance_mm, draw
from ..piece import Part, base_id, contact_at, mass_g, metal_of, part_of, stocked_solders
from ._asking import (
    at_join_c,
    capacity_near_j_k,
    join_of,
    metals_in,
    parts_in,
    solder_heats,
    states_in,
    titles,
)
from ._course import Course, Heat
from ._finding import Finding
from ._holding import holds_at_all, lies_for, loaded_when_soft

MELT_RISK_C = 25.0
NARROW_FUSE_C = 30.0
IMBALANCE = 8.0
JUMPS_BELOW_G = 0.1
FUME_C = 900.0
FUME_ZINC_PCT = 15.0
PASTE_SEAM_MM = 15.0
PASTE_FACE_MM2 = 30.0
FREE_WITHIN_MM = 6.0
_FORM_OF_PLACING = {"chips-under": "sheet", "chips-over": "sheet", "sweat": "sheet", "pick": "wire", "fed-wire": "wire", "paste": "paste"}  # fmt: skip


def earlier_joins(course: Course) -> Iterator[Finding]:
    """`remelt-flows`, `same-grade-held`, `remelt-soft`: what a heat does to the joins before it."""
    for heat in course.heats:
        for join, state in states_in(course, heat):
            held = join.id in heat.protected or holds_at_all(course.piece, join, heat.lie)
            here = f"{at_join_c(course, heat, join):.0f} °C in heat {heat.number}"
            if state == "flows" and not held:
                yield Finding(
                    "remelt-flows",
                    (join.id,),
                    f"{join.title} runs again at {here} and nothing holds it.",
                    heat.number,
                )
            elif state == "flows":
                yield Finding(
                    "same-grade-held",
                    (join.id,),
                    f"{join.title} runs again at {here}; its hold keeps it in place.",
                    heat.number,
                )
            elif state == "soft" and loaded_when_soft(join, held):
                soft = course.fillers[join.id].solidus_c
                yield Finding(
                    "remelt-soft",
                    (join.id,),
                    f"{join.title} goes soft above {soft:.0f} °C ({here}) while something pulls on it.",
                    heat.number,
                )


def hangs_below(course: Course) -> Iterator[Finding]:
    """`hangs-below`: an earlier join on the underside softens with nothing under it."""
    for heat in course.heats:
        for join, state in states_in(course, heat):
            under = heat.lie != "on-edge" and heat.lie not in lies_for(join)
            firm_hold = join.holds in ("seated", "bound") and (
                join.id in heat.protected or holds_at_all(course.piece, join, heat.lie)
            )
            if state != "firm" and under and not firm_hold:
                yield Finding(
                    "hangs-below",
                    (join.id,),
                    f"{join.title} is on the underside in heat {heat.number} and softens; it may drop away.",
                    heat.number,
                )


def melting(course: Course) -> Iterator[Finding]:
    """`melt-certain`, `melt-risk`: how near a heat comes to a solidus in the body."""
    for heat in course.heats:
        near: dict[float, list[Part]] = {}
        for part, metal in metals_in(course, heat) if heat.filler.heats_evenly else ():
            if metal.solidus_c - heat.working_c <= MELT_RISK_C:
                near.setdefault(metal.solidus_c, []).append(part)
        for solidus, parts in near.items():
            room = solidus - heat.working_c
            text = f"{titles([part.title for part in parts])}: melting begins at {solidus:.0f} °C, and heat {heat.number} works at {heat.working_c:.0f} °C, {max(room, 0):.0f} °C below."
            yield Finding(
                "melt-certain" if room <= 0 else "melt-risk",
                tuple(part.id for part in parts),
                text,
                heat.number,
            )


def fuse_window(course: Course) -> Iterator[Finding]:
    """`fuse-window`: fusing an alloy with a narrow melting range, or with something near that melts first."""
    for heat in course.heats:
        if heat.filler.purpose != "fuse":
            continue
        own = {base_id(reference) for name in heat.joins for reference in join_of(course, name).between}
        for part, metal in metals_in(course, heat):
            if part.id in own and not metal.pure and metal.liquidus_c - metal.solidus_c < NARROW_FUSE_C:
                text = f"{metal.name} goes from solid to liquid within {metal.liquidus_c - metal.solidus_c:.0f} °C."
                yield Finding("fuse-window", (part.id,), text, heat.number)
            elif part.id not in own and metal.solidus_c < heat.working_c:
                text = f"{part.title} melts at {metal.solidus_c:.0f} °C, below this fuse at {heat.working_c:.0f} °C."
                yield Finding("fuse-window", (part.id,), text, heat.number)


def stock(course: Course) -> Iterator[Finding]:
    """`placing-no-stock`: the placing asks for a form of solder that is not in the drawer."""
    bench = course.piece.bench
    forms: dict[str, set[str | None]] = {}
    for solder, entry in stocked_solders(bench) if bench and bench.solders is not None else []:
        forms.setdefault(solder.id, set()).add(entry.form)
    for heat in solder_heats(course):
        kept = forms.get(heat.filler.key, {None})
        for name in heat.joins:
            placing = join_of(course, name).placing or course.house.placing
            if None not in kept and _FORM_OF_PLACING[placing] not in kept:
                text = f"{placing} needs {_FORM_OF_PLACING[placing]} solder; {heat.filler.key} is there as {titles(sorted(str(form) for form in kept))}."
                yield Finding("placing-no-stock", (name,), text, heat.number)


def fineness(course: Course) -> Iterator[Finding]:
    """`fineness-short`: the solder holds less silver than the house's assay asks on silver."""
    wanted = course.house.fineness
    if wanted == "off":
        return
    for heat in solder_heats(course):
        solder = heat.filler.solder
        for name in heat.joins:
            metals = [metal_of(course.piece, one) for one in join_of(course, name).between]
            if (
                solder
                and solder.silver_ppt < wanted
                and any(metal and metal.family == "silver" for metal in metals)
            ):
                text = f"{solder.id} holds {solder.silver_ppt} parts of silver in a thousand; the house asks {wanted}."
                yield Finding("fineness-short", (name,), text, heat.number)


def shows(course: Course) -> Iterator[Finding]:
    """`solder-shows`: a white seam on coloured metal."""
    for heat in solder_heats(course):
        for name in heat.joins:
            join = join_of(course, name)
            metals = [metal_of(course.piece, one) for one in join.between]
            coloured = [metal for metal in metals if metal and metal.family != "silver"]
            if join.visible and coloured and heat.filler.solder and heat.filler.solder.silver_ppt > 0:
                yield Finding(
                    "solder-shows",
                    (name,),
                    f"Silver solder shows as a white line on {coloured[0].name.lower()} at {join.title}.",
                    heat.number,
                )


def hollows(course: Course) -> Iterator[Finding]:
    """`sealed-hollow`: a hollow is closed with no way out for the air."""
    for hollow, heat in closings(course).items():
        if hollow not in course.vented:
            joins = tuple(join.id for join in course.piece.joins if join.encloses == hollow)
            yield Finding(
                "sealed-hollow",
                joins,
                f"Heat {heat.number} closes the hollow {hollow} with no vent: air and any water in it press outwards when hot.",
                heat.number,
            )


def closings(course: Course) -> dict[str, Heat]:
    """Give the heat that closes each hollow: the last of the joins that enclose it."""
    closed: dict[str, Heat] = {}
    for heat in course.heats:
        for name in heat.joins:
            hollow = join_of(course, name).encloses
            if hollow is not None:
                closed[hollow] = heat
    return closed


def sealed_tubes(course: Course) -> Iterator[Finding]:
    """`sealed-tube`: a part with both ends sealed is heated with no pinhole drilled before."""
    told: set[str] = set()
    for heat in course.heats:
        for part in parts_in(course, heat):
            sealed = isinstance(part.form, Tube) and part.form.sealed_ends == 2
            drilled = any(
                work.kind == "drill"
                and part.id in map(base_id, work.parts)
                and course.slots.get(work.id, 0) < heat.number
                for work in course.piece.work
            )
            if sealed and not drilled and part.id not in told:
                told.add(part.id)
                yield Finding(
                    "sealed-tube",
                    (part.id,),
                    f"Both ends of {part.title} are sealed when heat {heat.number} comes; it may burst.",
                    heat.number,
                )


def stones(course: Course) -> Iterator[Finding]:
    """`stone-in-heat`: something in the body does not bear heat."""
    for heat in course.heats:
        for part in parts_in(course, heat):
            if not part.heat_safe:
                yield Finding(
                    "stone-in-heat",
                    (part.id,),
                    f"{part.title} does not bear heat {heat.number}.",
                    heat.number,
                )


def moving(course: Course) -> Iterator[Finding]:
    """`moving-part`: solder near something that must stay free."""
    movers = [part for part in course.piece.parts if part.moves]
    if not movers:
        return
    picture = draw(course.piece)
    spots = {mark.join: mark.spots for mark in picture.joins}
    for heat in course.heats:
        for name in heat.joins:
            join, own = join_of(course, name), {base_id(one) for one in join_of(course, name).between}
            for part in movers:
                hangs_here = part.id in own and bool(join.through)
                near = (
                    part.id not in own
                    and _is_there(course, part, heat)
                    and any(
                        distance_mm(picture, spots[name], node) <= FREE_WITHIN_MM
                        for node in [one.node for one in picture.parts if one.part == part.id]
                    )
                )
                if hangs_here or near:
                    yield Finding(
                        "moving-part",
                        (name, part.id),
                        f"{join.title}: soldered right beside {part.title}, which must stay free.",
                        heat.number,
                    )


def _is_there(course: Course, part: Part, heat: Heat) -> bool:
    """Say whether a moving part hangs in the work by a heat: its own closing join is made before."""
    own = [join.id for join in course.piece.joins if part.id in map(base_id, join.between) and join.heated]
    return any(course.made_in.get(name, heat.number) < heat.number for name in own)


def springs(course: Course) -> Iterator[Finding]:
    """`spring-softened`: a springy part reaches its annealing range."""
    told: set[str] = set()
    for heat in course.heats:
        for part, metal in metals_in(course, heat):
            springy = part.spring or part.temper in ("spring", "hard", "half-hard")
            if (
                springy
                and heat.working_c >= metal.anneal_low_c
                and part.id not in told
                and heat.filler.heats_evenly
            ):
                told.add(part.id)
                yield Finding(
                    "spring-softened",
                    (part.id,),
                    f"{part.title} is {part.temper if part.temper != 'soft' else 'springy'} and goes soft in heat {heat.number}.",
                    heat.number,
                )


def bought(course: Course) -> Iterator[Finding]:
    """`bought-in-last`: a bought finding with joins of its own that nobody knows is heated."""
    for heat in course.heats:
        for part in parts_in(course, heat):
            if part.bought_in:
                yield Finding(
                    "bought-in-last",
                    (part.id,),
                    f"{part.title} was bought: its own joins may let go at {heat.working_c:.0f} °C.",
                    heat.number,
                )


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


def imbalance(course: Course) -> Iterator[Finding]:
    """`mass-imbalance`: one side of a join takes much more heat than the other."""
    for heat in course.heats:
        for name in heat.joins:
            join = join_of(course, name)
            if len(set(join.between)) == 1:
                continue
            sides = sorted((capacity_near_j_k(course.piece, one), base_id(one)) for one in join.between)
            light, heavy = sides[0], sides[-1]
            if light[0] > 0 and heavy[0] > IMBALANCE * light[0]:
                text = f"{part_of(course.piece, heavy[1]).title} takes {heavy[0] / light[0]:.0f} times the heat of {part_of(course.piece, light[1]).title} beside {join.title}."
                yield Finding("mass-imbalance", (name, heavy[1], light[1]), text, heat.number)


def light_things(course: Course) -> Iterator[Finding]:
    """`chips-jump`: parts so light that boiling flux moves them."""
    for heat in solder_heats(course):
        light = sorted(
            {
                base_id(one)
                for name in heat.joins
                for one in join_of(course, name).between
                if (mass_g(part_of(course.piece, one).form, metal_of(course.piece, one)) or 1.0)
                < JUMPS_BELOW_G
            }
        )
        if light:
            names = titles([part_of(course.piece, one).title for one in light])
            yield Finding(
                "chips-jump",
                tuple(light),
                f"Under 0.1 g: {names}. Boiling flux moves what is so light.",
                heat.number,
            )


def paste(course: Course) -> Iterator[Finding]:
    """`paste-weak`: paste where it leaves pits."""
    forming = ("bend", "roll", "twist", "draw", "dome", "forge")
    for heat in solder_heats(course):
        for name in heat.joins:
            join = join_of(course, name)
            touch = contact_at(course.piece, join)
            if (join.placing or course.house.placing) != "paste" or touch is None:
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
                    f"Paste at {join.title} ({seam:.0f} mm of seam) leaves pits.",
                    heat.number,
                )


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


def red_short(course: Course) -> Iterator[Finding]:
    """`red-short`: a metal that breaks if it is moved or quenched while it glows."""
    told: set[str] = set()
    for heat in course.heats:
        for part, metal in metals_in(course, heat):
            if metal.red_short and metal.id not in told:
                told.add(metal.id)
                yield Finding(
                    "red-short",
                    (part.id,),
                    f"{metal.name} is weak while it glows: not touched, moved or quenched until black.",
                    heat.number,
                )


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
                f"{rich[0][1].name} gives off zinc fume at {heat.working_c:.0f} °C.",
                heat.number,
            )


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


def _touches(parts: tuple[str, ...], between: tuple[str, ...]) -> bool:
    return bool({base_id(one) for one in parts} & {base_id(one) for one in between})


HEAT_RULES = (
    earlier_joins, hangs_below, melting, fuse_window, stock, fineness, shows, hollows, sealed_tubes, stones,
    moving, springs, bought, clad, imbalance, light_things, paste, detail, red_short, fume, nickel,
)  # fmt: skip

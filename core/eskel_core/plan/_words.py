"""The sentences of the steps: what to do, what to look for, in the order in which it is done."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from ..metals import Flux, fluxes, solders
from ..piece import Bench, FlameAim, Join, Work, base_id, is_of_grains, part_of, stocked_solders
from ..rules import (
    GLOW,
    AnnealEnd,
    Course,
    Heat,
    Purpose,
    anneal_end,
    capacity_near_j_k,
    is_in_hand,
    is_local,
    made_ready,
    metals_in,
)
from ..units import celsius
from ._amounts import say_amount
from ._course import flux_of, heat_from
from ._names import bodies_alike, each_of, in_words, names_of, solder_in_words, with_each
from ._types import Check, HeatJoin, Sign
from ._work_words import work_lines

SAFETY = (
    "Glasses on, hair and sleeves tied, bench clear, air moving, extinguisher and water at hand, gas checked for leaks.",
    "A lit torch is never left.",
    "Local codes and trained people decide.",
)
_PLACED = {
    "chips-under": "under the seam",
    "chips-over": "on the seam",
    "sweat": "melted onto one face first, then the faces laid together",
    "paste": "along the seam",
    "fed-wire": "fed to the seam once the flux is clear",
    "pick": "picked up and set on the seam with the pick",
}
_HOLD_WORDS = {
    "bound": "bind it with {stuff} wire",
    "clipped": "clip it",
    "weighted": "weight it down",
    "hand": "hold it with tweezers until its solder has set",
    "seated": "seat it fully",
}
_THIRD_HAND = "put it in a third hand until its solder has set"
_AIM_RATIO = 2.0


def fit_lines(course: Course, heat: Heat, joins: tuple[HeatJoin, ...], flux: str = "") -> tuple[str, ...]:
    """Say how the joins of a heat are made ready; a `flux` is named where it is not the usual one of the bench."""
    inside = [_join(course, name) for name in heat.joins]
    # A hand that has no torch holds one each; what is over is in third hands.
    by_hand = [join for join in inside if is_in_hand(join, course.house)]
    over = by_hand[: max(0, len(by_hand) - course.house.hands + course.house.third_hands)]
    held = [_hold_text(course, join, third=join in over) for join in inside]
    guarded = [_hold_text(course, _join(course, name)) for name in sorted(heat.protected)]
    bodies = bodies_alike(course, heat)
    alike = bodies * course.piece.copies
    fitted = with_each(in_words([one.title for one in joins]), alike)
    lines = [f"Fit {fitted}{',' if alike > 1 else ''} so that no light shows through; clean bright."]
    lines += [text for text in [*held, *guarded] if text]
    if heat.filler.purpose == "solder":
        laid = "; ".join(
            f"{one.title}: {say_amount(one.amount, 1 / bodies)}{' on each' if alike > 1 else ''}, {_PLACED[one.placing]}"
            for one in joins
            if one.amount and one.placing
        )
        dry = course.house.flux_with_paste == "no" and all(one.placing == "paste" for one in joins)
        fluxed = (
            "No flux but the paste's own"
            if dry
            else f"Flux with {flux[0].lower()}{flux[1:]}"
            if flux
            else "Flux"
        )
        fed = all(one.placing in ("fed-wire", "pick") for one in joins)
        ready, hand = ("Have ready", f", for the {course.house.handed} hand") if fed else ("Lay", "")
        lines.append(f"{fluxed}. {ready} {_solder(course, joins)} ({laid}){hand}.")
    return tuple(lines)


def _solder(course: Course, joins: tuple[HeatJoin, ...]) -> str:
    """Name the solder of a heat, whole where another of its grade is at hand."""
    solder = solders().get((joins[0].solder if joins else None) or "")
    at_hand = [] if course.bench is None else [one for one, _ in stocked_solders(course.bench)]
    return "solder" if solder is None else solder_in_words(solder, at_hand)


def _join(course: Course, name: str) -> Join:
    return next(join for join in course.piece.joins if join.id == name)


def _hold_text(course: Course, join: Join, *, third: bool = False) -> str:
    words = _THIRD_HAND if third else _HOLD_WORDS.get(join.holds)
    if words is None:
        return ""
    stuff = join.bound_with or "steel"
    words = words.format(stuff="binding" if stuff == "other" else stuff)
    return f"{join.title.capitalize()}: {words}."


def heat_lines(
    course: Course, heat: Heat, joins: tuple[HeatJoin, ...], stages: tuple[str, ...] = ()
) -> tuple[str, ...]:
    """Say what to do in a heat: what it is for, and the `stages` that were rehearsed, else how it is usually done; of bodies
    alike one is told."""
    alike = bodies_alike(course, heat) * course.piece.copies
    in_turn = f"; {each_of(alike)}, one after another" if alike > 1 else ""
    names = in_words([join.title for join in joins])
    temperature = f"{celsius(heat.working_c)}"
    body = in_words(
        list(dict.fromkeys(part_of(course.piece, base_id(node)).title for node in sorted(heat.body)))
    )
    match heat.filler.purpose:
        case "solder":
            if stages:
                return f"Bring {names} to {temperature}: {_solder(course, joins)} runs{in_turn}.", *stages
            if all(is_local(_join(course, name), course.house) for name in heat.joins):
                return (
                    f"Dry the flux to a white crust, warm the work, then a small flame at one place after another:"
                    f" {names} at {temperature}; {_solder(course, joins)} runs as it is set{in_turn}.",
                )
            return (
                f"Dry the flux to a white crust, warm the whole piece, then bring {names} to {temperature}: {_solder(course, joins)} runs{in_turn}.",
                _aim(course, heat),
            )
        case "fuse":
            if stages:
                return f"Fuse {names} at {temperature}{in_turn}.", *stages
            return (
                f"Fuse {names}: even heat, flame moving, off the moment the surface flashes at {temperature}{in_turn}.",
            )
        case "anneal" if (work := _work_of(course, heat)) is not None and work.kind == "deplete":
            return (
                f"Bring up the fine surface of {body}, {_go_in_words(course, heat)}: even flame all over to {temperature}, dull red.",
                "Then air and the pot: no water, no scratching.",
                *stages,
            )
        case "anneal":
            end = end_of_anneal(course, heat)
            first = (ready,) if (ready := made_ready(end)) else ()
            if stages:
                return *first, f"Anneal {body}, and let the glow go{in_turn}.", *stages
            until = "" if end.by == "glow" else f" until {end.words}"
            return (
                *first,
                f"Anneal {body}: even flame all over to {temperature}{until}, no more, and let the glow go{in_turn}.",
            )
        case "ball" if _is_loose(course, heat):
            usual = (
                "On a clean block, flame on the metal until it draws up round and spins; lift the flame slowly.",
            )
            return *_work_told(course, heat), *(stages or usual)
        case "ball":
            usual = ("Flame on the tip only; lift it slowly once the ball has drawn up.",)
            return *_work_told(course, heat), *(stages or usual)
        case _ if _is_loose(course, heat):
            lot = lot_of(course, heat)
            return *_work_told(course, heat), *((stages if lot == "each" else ()) or (_LOTS[lot],))
        case _ if (work := _work_of(course, heat)) is not None and work.kind == "pour":
            how = "The flame stays on the metal as it goes over, in one go."
            return *_work_told(course, heat), *(stages or (how,))
        case _:
            return (
                *_work_told(course, heat),
                "Crucible warmed first; reducing flame; stir with a dry rod.",
                *stages,
            )


Lot = Literal["each", "rows", "powder"]
_ROWS_FROM, _POWDER_FROM = 21, 201
_LOTS: dict[Lot, str] = {
    "each": "Apart from each other in hollows of the block, each until it draws up round.",
    "rows": "Lay them in rows on a clean block, none touching; the flame goes along, and each draws up round as it passes.",
    "powder": "Layer them in charcoal powder in a crucible, none touching, the lid on; heat it through until all have drawn up, and let them cool in it.",
}


def lot_of(course: Course, heat: Heat) -> Lot:
    """Say how so many loose grains are melted: each by itself, in rows on a block, or layered in charcoal powder."""
    many = bodies_alike(course, heat) * course.piece.copies
    if heat.filler.purpose != "melt" or not _is_loose(course, heat) or many < _ROWS_FROM:
        return "each"
    return "rows" if many < _POWDER_FROM else "powder"


def _is_loose(course: Course, heat: Heat) -> bool:
    work = _work_of(course, heat)
    return work is not None and is_of_grains(course.piece, work)


def _work_of(course: Course, heat: Heat) -> Work | None:
    return next((work for work in course.piece.work if work.id == heat.work), None)


def goes_in(course: Course, heat: Heat) -> int:
    """Give how many heats the work of a heat takes."""
    return sum(other.work == heat.work for other in course.heats)


def _go_in_words(course: Course, heat: Heat) -> str:
    """Say which of its heats this is, where there are several."""
    goes = goes_in(course, heat)
    return f"heat {heat.go} of {goes}" if goes > 1 else "one heat"


def _fine_by_now(course: Course, heat: Heat) -> str:
    """Say how a fine surface looks after a heat and the pot."""
    goes = goes_in(course, heat)
    if heat.go == goes:
        return "white all over; in the flame it stayed white"
    return (
        "grey and patchy still: copper is left in the skin"
        if heat.go == 1
        else "paler than after the heat before"
    )


def _work_told(course: Course, heat: Heat) -> tuple[str, ...]:
    return next((work_lines(course, work) for work in course.piece.work if work.id == heat.work), ("Melt.",))


def aim_of(course: Course, heat: Heat) -> tuple[FlameAim | None, str | None]:
    """Tell where the flame is in a heat that nobody rehearsed, and the part that it is kept on, if it is one; nowhere that could be drawn for metal that is molten."""
    match heat.filler.purpose:
        case "solder" if all(is_local(_join(course, name), course.house) for name in heat.joins):
            return "each", None
        case "solder":
            heavy, _ = _heavy_and_light(course, heat)
            return ("part", heavy) if heavy else ("circle", None)
        case "fuse" | "anneal":
            return "circle", None
        case _:
            return None, None


def _aim(course: Course, heat: Heat) -> str:
    below = heat_from(course, heat) == "below"
    heavy, light = _heavy_and_light(course, heat)
    if heavy and light:
        return (
            f"Keep the flame {'under' if below else 'on'} {part_of(course.piece, heavy).title}, always moving; "
            f"let {part_of(course.piece, light).title} come along."
        )
    return f"Keep the flame moving {'under' if below else 'over'} all of it."


def _heavy_and_light(course: Course, heat: Heat) -> tuple[str | None, str | None]:
    """Give the sides of the first join of which one takes far more heat than the other, the heavy one first."""
    for name in heat.joins:
        between = _join(course, name).between
        sides = sorted(dict.fromkeys(between), key=lambda one: capacity_near_j_k(course.piece, one))
        light, heavy = sides[0], sides[-1]
        light_j_k = capacity_near_j_k(course.piece, light)
        if light_j_k > 0 and capacity_near_j_k(course.piece, heavy) > _AIM_RATIO * light_j_k:
            return heavy, light
    return None, None


def end_of_anneal(course: Course, heat: Heat) -> AnnealEnd:
    """Give what ends an anneal; a fine surface is brought up by its glow."""
    work = _work_of(course, heat)
    if work is not None and work.kind == "deplete":
        return GLOW
    ranges = [(metal.anneal_low_c, metal.anneal_high_c) for _, metal in metals_in(course, heat)]
    return anneal_end(course.house, ranges, fluxes()[flux_of(course, course.bench or Bench(), heat)])


def _anneal_sign(course: Course, heat: Heat) -> Sign:
    end = end_of_anneal(course, heat)
    if end.by == "glow":
        return Sign(at_c=heat.working_c, words="first dull red in low light; flame off")
    return Sign(at_c=end.at_c, words=f"{end.words}; flame off")


def signs_of(course: Course, heat: Heat, flux: Flux) -> tuple[Sign, ...]:
    """Give the signs of a heat in the order in which they come."""
    ends = {
        "solder": Sign(at_c=heat.filler.flow_c, words="a bright line runs along the seam; flame off"),
        "fuse": Sign(at_c=heat.working_c, words="the surface flashes like water; flame off"),
        "ball": Sign(at_c=None, words="the end draws up and spins bright; lift the flame slowly"),
        "melt": Sign(at_c=None, words="the metal rolls like quicksilver"),
    }
    end = ends.get(heat.filler.purpose) or _anneal_sign(course, heat)
    if heat.filler.purpose not in ("solder", "fuse"):
        return (end,)
    dark = [] if flux.dark_c is None else [Sign(at_c=flux.dark_c, words="the flux turns dark")]
    return (
        Sign(at_c=flux.steam_c, words="steam, small bubbles"),
        Sign(at_c=flux.crust_c, words="white crust; push back any chip that moved"),
        *dark,
        Sign(at_c=flux.clear_c, words="crust sinks, flux clear like glass"),
        end,
    )


def look_for(signs: Iterable[Sign]) -> tuple[str, ...]:
    """Say signs, each in a line."""
    return tuple(sign.words if sign.at_c is None else f"{celsius(sign.at_c)}: {sign.words}" for sign in signs)


_LOOKS: dict[Purpose, tuple[str, str, str]] = {
    "solder": (
        "under a glass, all along the seam; then a light push",
        "a bright even line with no gap, flush, and nothing gives",
        "clean, flux, a touch more solder, and heat again",
    ),
    "fuse": (
        "under a glass, from both sides; then a light push",
        "run together all along, no line left, and nothing gives",
        "clean, close the gap, and fuse it again; a thin place is filled with a snip of the same metal",
    ),
    "anneal": ("by hand: it bends without a spring", "soft all over, nothing slumped", "heat it again"),
    "ball": (
        "under a glass, and by a gauge",
        "drawn up round, smooth, of its size, straight on its wire",
        "melt it again; a touch more metal if it is small",
    ),
    "melt": (
        "all round, and where it was poured",
        "one piece, full to its ends, no fold and no gap",
        "saw the fault away, or melt it again",
    ),
}


def _looks(course: Course, heat: Heat) -> tuple[str, str, str]:
    """Give how one looks after a heat, what passes, and what to do otherwise."""
    work = _work_of(course, heat)
    if work is not None and work.kind == "deplete":
        return (
            "in daylight, after the pot",
            _fine_by_now(course, heat),
            "bring it up once more: heat, air, pot",
        )
    return _LOOKS[heat.filler.purpose]


def checks_of(course: Course, heat: Heat, hold_seams: list[str]) -> tuple[Check, ...]:
    """Give what is looked at after a heat: what was done in it, and what softened before it was."""
    how, passes, otherwise = _looks(course, heat)
    about = heat.joins or (_what_was_heated(course, heat),)
    checks = [Check(about=name, how=how, passes=passes, otherwise=otherwise) for name in about]
    if hold_seams:
        checks.append(
            Check(
                about=in_words(hold_seams),
                how="from two sides",
                passes="still where it was, seam closed",
                otherwise="set it right, hold it, and heat again",
            )
        )
    return tuple(checks)


def _what_was_heated(course: Course, heat: Heat) -> str:
    work = _work_of(course, heat)
    return names_of(course, work.parts if work else tuple(sorted(heat.body)))

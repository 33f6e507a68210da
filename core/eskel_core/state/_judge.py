"""What must never be done to the work as it stands, and what is told when it is done."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import singledispatch
from itertools import combinations

from ..metals import CONTAMINATES_FROM_C, Metal, melts_together_c
from ..piece import Join, harm_in_heat, why_not_heated
from ..units import celsius
from ._acts import Act, Bath, Cool, Form, Heat
from ._after import GLOWS_C, split, whole
from ._bodies import body_of, hollows_in, hung_on
from ._types import Group, Hollow, Remark, Severity, State

CONTACT_COOLER_C = 60.0
"""What hangs in a heated part is cooler than it by so much at the place of contact, °C."""


def forbidden(state: State, act: Act) -> tuple[Remark, ...]:
    """Give what must never be: why an act may not be done to the work as it stands."""
    return _of_groups(state, act, _never)


def to_tell(state: State, act: Act) -> tuple[Remark, ...]:
    """Give what is told of an act that may be done."""
    return _of_groups(state, act, _say)


def _of_groups(
    state: State, act: Act, judge: Callable[[Act, State, Group], Iterator[Remark]]
) -> tuple[Remark, ...]:
    """Judge an act in each group that it is done to; what is alike in several is told once."""
    inside = (split(group, act.copies)[0] for group in state.groups)
    return tuple(
        dict.fromkeys(remark for group in inside if group is not None for remark in judge(act, state, group))
    )


@singledispatch
def _never(act: Act, state: State, group: Group) -> Iterator[Remark]:
    return iter(())


@singledispatch
def _say(act: Act, state: State, group: Group) -> Iterator[Remark]:
    return iter(())


def hollow_title(state: State, hollow: Hollow) -> str:
    """Give the name by which a hollow is spoken of."""
    if hollow.part is None:
        return hollow.name.replace("-", " ").replace("_", " ")
    return next(part.title for part in state.piece.parts if part.id == hollow.part)


def _here(act: Heat) -> str:
    return f"heat {act.number}" if act.number else "this heat"


@_never.register
def _never_heat(act: Heat, state: State, group: Group) -> Iterator[Remark]:
    making = [making.join for making in act.makes]
    body = body_of(state, group, act.seeds, making)
    yield from _not_there(state, group, body)
    near = body | hung_on(state, group, body, making)
    yield from _wet_inside(state, group, near, act)
    yield from _tender(state, group, near, act)
    yield from _runs_unheld(state, group, body, act)
    yield from _in_hand(state, act)
    yield from _poured(state, group, act)


def _not_there(state: State, group: Group, body: frozenset[str]) -> Iterator[Remark]:
    for node in sorted(body):
        now = group.parts[node]
        if now.there != "there":
            name = state.kinds[node].title
            text = f"{name} is {'spoilt' if now.there == 'spoilt' else 'not there'}."
            yield Remark("not-there", "stop", (node,), text, "Make it again first.", "it is made again")


def _wet_inside(state: State, group: Group, body: frozenset[str], act: Heat) -> Iterator[Remark]:
    for hollow in hollows_in(group, body):
        if not hollow.wet:
            continue
        name = hollow_title(state, hollow)
        if hollow.open:
            text = f"Water may stand in the {name} when {_here(act)} begins."
            remedy = "Dry it out first: boil it clear, then warm it through until no more steam comes."
            yield Remark("wet-hollow", "danger", (hollow.name,), text, remedy, "it is dried out")
        else:
            held = "acid" if "acid" in hollow.wet else "water"
            text = f"The {name} is closed and may hold {held}: steam can burst it in {_here(act)}."
            yield Remark(
                "wet-hollow", "danger", (hollow.name,), text, "Open it before any heat.", "it is opened"
            )


def _tender(state: State, group: Group, nodes: frozenset[str], act: Heat) -> Iterator[Remark]:
    for part in state.piece.parts:
        harm = harm_in_heat(state.piece, part.id)
        here = any(
            node in nodes and group.parts[node].there == "there" for node in state.anatomy.nodes[part.id]
        )
        if harm is None or not here or (harm == "contaminated" and act.to_c <= CONTAMINATES_FROM_C):
            continue
        text = f"{part.title} does not bear {_here(act)}."
        if harm != "stone-in-heat":
            text = why_not_heated(state.piece, part.id)
        remedy = "Take it off, and put it on again after the last heat."
        severity: Severity = "stop" if harm == "stone-in-heat" else "danger"
        yield Remark(harm, severity, (part.id,), text, remedy, "it is taken off")


def _runs_unheld(state: State, group: Group, body: frozenset[str], act: Heat) -> Iterator[Remark]:
    making = {making.join for making in act.makes}
    for name, seams in group.seams.items():
        reached = name in act.cooler_c or state.anatomy.joins[name].nodes & body
        if name in making or name in act.held or not reached:
            continue
        here = act.to_c - act.cooler_c.get(name, 0.0)
        if any(seam.holds and seam.softness(here) == "flows" for seam in seams):
            text = f"{state.joins[name].title} runs again at {celsius(here)} in {_here(act)} and nothing holds it."
            yield Remark(
                "remelt-flows",
                "stop",
                (name,),
                text,
                "Hold it, or take a softer solder.",
                "something holds it",
            )


def _in_hand(state: State, act: Heat) -> Iterator[Remark]:
    """Nobody holds more at one moment than one thing, and one more with each third hand."""
    hands = state.house.hands
    if len(act.in_hand) <= hands:
        return
    names = ", ".join(join.title for name, join in state.joins.items() if name in act.in_hand)
    many = "one thing is" if hands == 1 else f"{hands} things are"
    text = f"{names} are all held in the hand in {_here(act)} until their solder has set; {many} held at one moment."
    remedy = "Bind, clip or seat some of them, or solder them in heats of their own."
    yield Remark("hands-full", "stop", tuple(sorted(act.in_hand)), text, remedy, "something else holds them")


def _poured(state: State, group: Group, act: Heat) -> Iterator[Remark]:
    """Metal goes only into a mould that was warmed and dried for this pour."""
    pours = {work.id for work in state.piece.work if work.kind == "pour"}
    if act.work in pours and act.work not in group.ready:
        text = "Water in a damp or cold mould turns to steam under the metal and throws it out."
        remedy = "Warm the mould until no more steam comes, and stand it on a metal tray."
        yield Remark("wet-mould", "danger", (act.work,), text, remedy, "the mould is warm and dry")


@_say.register
def _say_heat(act: Heat, state: State, group: Group) -> Iterator[Remark]:
    making = [making.join for making in act.makes]
    for hollow in hollows_in(group, body_of(state, group, act.seeds, making)):
        if hollow.open and hollow.ways <= set(making):
            yield _closing(state, hollow, act)
        elif hollow.closed is not None:
            yield _closed_tube(state, hollow, act) if hollow.part else _closed_hollow(state, hollow, act)
    yield from _melting_together(state, group, act)
    yield from _weak_while_red(state, group, act)


def _weak_while_red(state: State, group: Group, act: Heat) -> Iterator[Remark]:
    making = [making.join for making in act.makes]
    body = sorted(body_of(state, group, act.seeds, making)) if act.to_c >= GLOWS_C else []
    red_short = {metal.id: metal for node in body if (metal := state.metal(node)) and metal.red_short}
    for metal in red_short.values():
        about = tuple(dict.fromkeys(state.kinds[node].id for node in body if state.metal(node) == metal))
        text = f"{metal.name} is weak while it glows: not touched, moved or quenched until black."
        yield Remark("red-short", "danger", about, text, "Wait until black.")


_SOLDERED_OVER_C = 60.0
"""Through a solder join unlike metals take so much more, °C, before it is more than a note."""
_HANGS = frozenset({"ring-open"})


def _melting_together(state: State, group: Group, act: Heat) -> Iterator[Remark]:
    """Tell of unlike metals that touch in a heat: bare, where no solder lies between them, or through their solder."""
    making = {making.join for making in act.makes}
    body = body_of(state, group, act.seeds, making)
    found: dict[tuple[Metal, Metal, float, bool], list[Join]] = {}
    for name, join in state.joins.items():
        bare = not join.heated and name in group.tied
        soldered = join.heated and join.kind != "fuse" and (name in making or name in group.tied)
        nodes = state.anatomy.joins[name].nodes
        if not (bare or soldered) or not nodes & body:
            continue
        here = act.to_c - (CONTACT_COOLER_C if join.kind in _HANGS else 0.0)
        metals = [metal for node in sorted(nodes) if (metal := state.metal(node)) is not None]
        for one, other in combinations({metal.id: metal for metal in metals}.values(), 2):
            from_c = melts_together_c(one, other)
            if from_c is not None and here >= from_c:
                found.setdefault((one, other, here, bare), []).append(join)
    for (one, other, here, bare), joins in found.items():
        yield _touching(joins, (one, other), here, act, bare=bare)


def _touching(joins: list[Join], pair: tuple[Metal, Metal], here: float, act: Heat, *, bare: bool) -> Remark:
    names = " and ".join(metal.name[0].lower() + metal.name[1:] for metal in pair)
    where, about = ", ".join(join.title for join in joins), tuple(join.id for join in joins)
    from_c = melts_together_c(*pair) or here
    if bare:
        text = f"{where}: {names} touch bare and melt into each other from {celsius(from_c)}; {_here(act)} brings them to {celsius(here)}."
        remedy = "Take them apart for the heat, join them by a fuse, or take a softer solder."
        return Remark("melts-together", "stop" if act.work else "warn", about, text, remedy)
    over = here - from_c >= _SOLDERED_OVER_C
    text = f"{where}: {names} melt into each other from {celsius(from_c)}, and {_here(act)} works at {celsius(here)}."
    remedy = (
        "A softer solder." if over else "Do not linger: take the flame off as soon as the solder has run."
    )
    return Remark("melts-together", "warn" if over else "note", about, text, remedy)


def _closing(state: State, hollow: Hollow, act: Heat) -> Remark:
    text = f"{_begins(act)} closes the {hollow_title(state, hollow)} with no way out: air or water shut in it can burst it when it is hot."
    remedy = "Drill a small hole first, where it is hidden. Or close it bone dry, stand clear, and keep it out of water."
    return Remark("sealed-hollow", "danger", (hollow.name,), text, remedy)


def _begins(act: Heat) -> str:
    return _here(act)[0].upper() + _here(act)[1:]


def _closed_tube(state: State, hollow: Hollow, act: Heat) -> Remark:
    text = f"Air shut in {hollow_title(state, hollow)} can burst it open in {_here(act)}. Stand clear, warm it slowly and let it cool in air."
    remedy = "Drill a pinhole first, or open one end before the heat and close it after."
    return Remark("sealed-tube", "danger", (hollow.name,), text, remedy)


def _closed_hollow(state: State, hollow: Hollow, act: Heat) -> Remark:
    """Tell of a hollow that a heat closed: the air in it is thin, and presses outwards only above that heat."""
    name, shut = hollow_title(state, hollow), hollow.closed
    at_c = shut.at_c if shut else None
    if at_c is not None and act.to_c <= at_c:
        text = f"The {name} is closed. The air in it is thin since it was closed at {celsius(at_c)}."
        return Remark("sealed-hollow", "note", (hollow.name,), text, "Keep it dry and let it cool in air.")
    text = f"The {name} is closed, and {_here(act)} is hotter than the heat that closed it: the air in it can burst it."
    return Remark(
        "sealed-hollow", "danger", (hollow.name,), text, "Stand clear, or drill a small hole first."
    )


@_never.register
def _never_cool(act: Cool, state: State, group: Group) -> Iterator[Remark]:
    inside = whole(state, group, act.parts)
    glowing = [node for node in sorted(inside) if group.parts[node].warmth == "glowing"]
    if act.how == "quench" and act.too_early:
        for metal in {
            metal.id: metal for node in glowing if (metal := state.metal(node)) and metal.red_short
        }.values():
            text = f"{metal.name} cracks if it is quenched while it glows."
            about = tuple(dict.fromkeys(state.kinds[node].id for node in glowing))
            yield Remark("red-short", "danger", about, text, "Wait until it is black.", "it is black")
    if act.how == "quench" and any(group.parts[node].warmth in ("black", "glowing") for node in inside):
        for hollow in hollows_in(group, inside):
            if not hollow.open:
                text = (
                    f"The {hollow_title(state, hollow)} is closed and hot: water would draw in, or crack it."
                )
                yield Remark(
                    "wet-hollow",
                    "danger",
                    (hollow.name,),
                    text,
                    "Let it cool in air.",
                    "it has cooled in air",
                )


@_never.register
def _never_bath(act: Bath, state: State, group: Group) -> Iterator[Remark]:
    inside = whole(state, group, act.parts)
    hot = sorted(node for node in inside if group.parts[node].warmth in ("black", "glowing"))
    if act.fluid == "acid" and hot:
        about = tuple(dict.fromkeys(state.kinds[node].id for node in hot))
        text = "It would go hot into the acid, which spits and fumes."
        yield Remark("hot-into-acid", "danger", about, text, "Cool it first.", "it has cooled")
    yield from _steel(state, group, inside, act)
    for hollow in hollows_in(group, inside):
        if _has_only_gaps(group, hollow):
            fluid = {"acid": "acid", "soda": "soda water", "water": "water"}[act.fluid]
            text = f"The seam of the {hollow_title(state, hollow)} has a gap: {fluid} draws in by it and stays inside."
            remedy = "Close the gap first, or open it: clean it with a scraper meanwhile."
            yield Remark("wet-hollow", "danger", (hollow.name,), text, remedy, "it has a hole to dry it by")
        elif hollow.nodes & act.again and not hollow.open:
            text = f"The {hollow_title(state, hollow)} is to be heated again: what draws into it now turns to steam."
            remedy = "Keep it dry: clean it with a scraper where the next join lies."
            yield Remark("wet-hollow", "danger", (hollow.name,), text, remedy, "it has a hole to dry it by")


def _has_only_gaps(group: Group, hollow: Hollow) -> bool:
    """Say whether the only ways out of a hollow are gaps in seams that were soldered."""
    return hollow.holds_water and hollow.ways <= group.seams.keys()


def _steel(state: State, group: Group, inside: frozenset[str], act: Bath) -> Iterator[Remark]:
    bound = [
        name
        for name, nodes in state.anatomy.joins.items()
        if nodes.nodes & inside and any(seam.steel for seam in group.seams[name])
    ]
    if act.fluid == "acid" and bound:
        names = ", ".join(state.joins[name].title for name in bound)
        text = f"Steel is still on {names}: the pot would plate everything pink."
        yield Remark("steel-in-pickle", "stop", tuple(bound), text, "Take it off first.", "it is taken off")


@_say.register
def _say_form(act: Form, state: State, group: Group) -> Iterator[Remark]:
    if act.on_steel and any(group.parts[node].wet for node in act.parts):
        names = sorted({state.kinds[node].title for node in act.parts if group.parts[node].wet})
        text = f"{', '.join(names)} {'is' if len(names) == 1 else 'are'} wet: it rusts what it is worked on."
        yield Remark("wet-on-steel", "note", (act.work,), text, "Dry it first.")

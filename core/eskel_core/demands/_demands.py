"""What is demanded of a plan: by the smith, by the stock, by the metals, by the trade's order of work."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from ..metals import solders
from ..piece import (
    HEAT_WORK,
    HOLDING_WORK,
    Bench,
    HeatHarm,
    House,
    Join,
    Piece,
    base_id,
    harm_in_heat,
    mass_g,
    metal_of,
    part_of,
    resolve_bench,
    stocked_solders,
    why_not_heated,
)
from ..rules import anatomy, is_in_hand, together
from ..units import celsius
from ._graph import closure
from ._moves import with_moves
from ._past import made_first, past_of, still_to_do
from ._problem import Demand, Problem
from ._sharing import in_one_body, sharing_demands, titles_of, why_apart

SURFACE_KINDS = frozenset({"tee", "edge", "overlay", "seat", "line"})
LAST_WORK = frozenset({"set", "finish", "darken", "seal", "harden", "tumble"})


def make_problem(piece: Piece, house: House, bench: Bench | None = None) -> Problem:
    """Make a piece ready for the solver, with every demand that it holds."""
    at_hand = _at_hand(piece, house, bench)
    piece = still_to_do(with_moves(piece))
    anatomy_ = anatomy(piece)
    demands = (
        *_order_demands(piece),
        *sharing_demands(piece),
        *_hand_demands(piece, house),
        *_solder_demands(piece, house, at_hand),
        *_metal_demands(piece),
    )
    return Problem(piece, house, at_hand, anatomy_, demands)


def _at_hand(piece: Piece, house: House, bench: Bench | None) -> Bench:
    """Give the bench; where neither it nor the file names solders, what a join is fixed to lies there as well."""
    at_hand = resolve_bench(bench, piece.bench, family=house.family)
    if any(one is not None and one.solders is not None for one in (bench, piece.bench)):
        return at_hand
    usual = [str(one) for one in at_hand.solders or ()]
    family = "us" if house.family == "mixed" else house.family
    fixed = [
        solder.id
        for solder in solders().values()
        if not solder.cadmium
        and any(
            join.solder == solder.id or (join.grade == solder.grade and solder.family == family)
            for join in piece.joins
            if not join.made
        )
    ]
    return at_hand.model_copy(update={"solders": tuple(dict.fromkeys([*usual, *fixed]))})


def _order_demands(piece: Piece) -> list[Demand]:
    told = [*made_first(piece), *_told_orders(piece)]
    past = past_of(piece)
    known = closure({demand.ids for demand in told})
    demands = list(told)
    for demand in [*_trade_orders(piece), *_habit_orders(piece)]:
        earlier, later = demand.ids
        firm = demand.code != "habit"
        if (earlier, later) in known or (not firm and (later, earlier) in known) or past & {earlier, later}:
            continue
        demands.append(demand)
        known = closure(known | {(earlier, later)})
    return demands


def _told_orders(piece: Piece) -> list[Demand]:
    pairs = [(name, join.id) for join in piece.joins for name in join.after]
    pairs += [(name, work.id) for work in piece.work for name in work.after]
    pairs += [(work.id, name) for work in piece.work for name in work.before]
    names, past = titles_of(piece), past_of(piece)
    return [
        Demand(
            "order",
            "order",
            (earlier, later),
            f"{names[later]} comes after {names[earlier]}.",
            f"Let {names[later]} come before {names[earlier]}, or take that order out.",
        )
        for earlier, later in dict.fromkeys(pairs)
        if {earlier, later} <= names.keys() and not past & {earlier, later}
    ]


def _trade_orders(piece: Piece) -> list[Demand]:
    """Orders that the rules of the heats demand: their breach would be a `stop`."""
    names, demands = titles_of(piece), []
    heated = [join for join in piece.joins if join.heated]
    for work in piece.work:
        parts = {base_id(part) for part in work.parts}
        for join in piece.joins if work.kind == "hang" else ():
            if parts & {base_id(one) for one in join.through}:
                text = f"What hangs in {join.title} is put in before it closes."
                demands.append(
                    Demand(
                        "trapped-part",
                        "order",
                        (work.id, join.id),
                        text,
                        f"Do {work.title} before {join.title}.",
                    )
                )
        for join in heated if work.kind in ("dome", "bend") else ():
            if _small_on_face(piece, join, parts):
                text = f"{names[work.id]} comes before {join.title} is soldered on its face."
                demands.append(Demand("form-before-seat", "order", (work.id, join.id), text, "Form first."))
    return [*demands, *_tender_waits(piece, names)]


def _tender_waits(piece: Piece, names: dict[str, str]) -> Iterator[Demand]:
    """What does not bear heat is put in, on or through the work after every heat of what it then hangs together with."""
    ties = [(join.id, {base_id(end) for end in (*join.between, *join.through)}) for join in piece.joins]
    ties += [(work.id, set(map(base_id, work.parts))) for work in piece.work if work.kind in HOLDING_WORK]
    cold = {join.id for join in piece.joins if not join.heated}
    cold |= {work.id for work in piece.work if work.kind in HOLDING_WORK}
    heats = [(join.id, "is soldered", set(map(base_id, join.between))) for join in piece.joins if join.heated]
    heats += [
        (work.id, "is done", set(map(base_id, work.parts))) for work in piece.work if work.kind in HEAT_WORK
    ]
    for join in piece.joins:
        for part in map(base_id, join.through if join.heated else ()):
            if harm := harm_in_heat(piece, part):
                # Nothing comes before itself: no order makes it right.
                text = f"{why_not_heated(piece, part)} It hangs in {join.title} while that is soldered."
                yield Demand(harm, "order", (join.id, join.id), text, "Hang it in afterwards.")
    for name, parts in ties:
        harms = [harm for part in sorted(parts) if (harm := harm_in_heat(piece, part))]
        if name not in cold or not harms:
            continue
        body = together(parts, [own for _, own in ties])
        # Nobody told what a stone alone is set in: it waits for every heat.
        anywhere = all(harm_in_heat(piece, part) for part in body)
        for heat, done, heated in heats:
            if anywhere or heated & body:
                text = f"{names[name]} waits until {names[heat]} {done}: what it holds does not bear heat."
                yield Demand(harms[0], "order", (heat, name), text, "Put it in after the last heat.")


def _habit_orders(piece: Piece) -> list[Demand]:
    """Orders that smiths keep unless told otherwise: a ring, loop or bezel is closed before anything is added."""
    demands = []
    heated = [join for join in piece.joins if join.heated]
    for closing in heated:
        own = {base_id(end) for end in closing.between}
        if len(set(closing.between)) > 1 or closing.kind not in ("butt", "fuse"):
            continue
        for other in heated:
            theirs = {base_id(end) for end in other.between}
            if other is not closing and own & theirs and len(set(other.between)) > 1:
                text = f"{closing.title} is closed before {other.title} is added."
                demands.append(
                    Demand("habit", "order", (closing.id, other.id), text, "Tell the order yourself.")
                )
    return [*demands, *(_waits(a, b) for a, b in _tender_pairs(piece) if _never_together(piece, a, b))]


def _waits(join: Join, tender: Join) -> Demand:
    text = f"{tender.title} waits for {join.title}: what was bought or is clad bears few heats."
    return Demand("habit", "order", (join.id, tender.id), text, "Tell the order yourself.")


def _tender_pairs(piece: Piece) -> list[tuple[Join, Join]]:
    """Give each join with each that ties what was bought or is clad: it goes last, for its own joins or its skin."""
    tender = {part.id for part in piece.parts if part.bought_in or _is_clad(piece, part.id)}
    heated = [join for join in piece.joins if join.heated]
    last = [join for join in heated if tender & {base_id(end) for end in join.between}]
    return [(join, one) for join in heated if join not in last for one in last]


def _never_together(piece: Piece, join: Join, other: Join) -> bool:
    """Say whether two joins of one body never share a heat."""
    return in_one_body(piece, join, other) and why_apart(piece, join, other) is not None


def tender_last(problem: Problem) -> Problem | None:
    """Give the same problem with what was bought or is clad joined after all else; None where that asks nothing new.

    It is kept where it costs nothing.
    """
    known = closure({one.ids for one in problem.standing if one.kind == "order"})
    more = [
        _waits(join, one)
        for join, one in _tender_pairs(problem.piece)
        if not {(one.id, join.id), (join.id, one.id)} & known
    ]
    return replace(problem, demands=(*problem.demands, *more)) if more else None


def _is_clad(piece: Piece, name: str) -> bool:
    metal = metal_of(piece, name)
    return metal is not None and metal.family == "clad"


def _small_on_face(piece: Piece, join: Join, parts: set[str]) -> bool:
    """Say whether a join sets something small on the face of one of these parts."""
    if join.kind not in SURFACE_KINDS or join.face == "edge":
        return False
    ends = [base_id(one) for one in join.between]
    for base in parts & set(ends):
        if part_of(piece, base).form.kind not in ("sheet", "strip"):
            continue
        others = [end for end in ends if end != base]
        if all(_mass(piece, other) < _mass(piece, base) for other in others):
            return True
    return False


def _mass(piece: Piece, name: str) -> float:
    return mass_g(part_of(piece, name).form, metal_of(piece, name)) or 0.0


def _hand_demands(piece: Piece, house: House) -> list[Demand]:
    held = [join for join in piece.joins if join.heated and is_in_hand(join, house) and not join.made]
    if len(held) <= house.hands:
        return []
    many = "one thing" if house.hands == 1 else f"{house.hands} things"
    text = f"You hold {many} at one moment: {', '.join(join.title for join in held)} are all held in the hand until their solder has set."
    remedy = "Bind, clip or seat some of them, or solder them in heats of their own."
    return [Demand("hands-full", "hands", (), text, remedy)]


def _solder_demands(piece: Piece, house: House, bench: Bench) -> list[Demand]:
    soldered = [join for join in piece.joins if join.heated and join.kind != "fuse" and not join.made]
    if not soldered:
        return []
    stock = ", ".join(dict.fromkeys(solder.id for solder, _ in stocked_solders(bench))) or "nothing"
    demands = [Demand("no-stock", "stock", (), f"Only {stock} is in stock.", "Buy another grade.")]
    if house.family != "mixed":
        text = f"The house keeps to the {house.family} family of silver solders."
        demands.append(Demand("no-stock", "family", (), text, "Allow mixed families in the house rules."))
    for join in soldered:
        if join.solder is not None or join.grade is not None:
            what = join.solder or f"{join.grade} solder"
            text = f"{join.title} is fixed to {what}."
            demands.append(
                Demand("fixed", "fixed", (join.id,), text, f"Let another solder be chosen for {join.title}.")
            )
        if any(_is_clad(piece, base_id(end)) for end in join.between):
            text = f"{join.title} takes no hard solder: a gold skin sinks in."
            demands.append(Demand("habit", "clad", (join.id,), text, "Fix its solder yourself."))
        if any(part_of(piece, base_id(end)).bought_in for end in join.between):
            text = f"{join.title} takes easy solder at the most: nobody knows the joins of what was bought."
            demands.append(Demand("habit", "bought", (join.id,), text, "Fix its solder yourself."))
        if any(harm_in_heat(piece, base_id(end)) for end in join.between):
            # That it must not be heated at all is what matters, and not which solder would take.
            continue
        text = f"The solder of {join.title} takes to both its metals."
        demands.append(Demand("no-stock", "suits", (join.id,), text, "Another solder or another metal."))
    return demands


_INSTEAD: dict[HeatHarm, str] = {
    "stone-in-heat": "Set it after the last heat.",
    "contaminated": "Rivet, screw or glue it on after the last heat, and keep it off the hearth.",
    "unknown-metal": "Have it tested first, or rivet, screw or glue it on after the last heat.",
}


def _metal_demands(piece: Piece) -> list[Demand]:
    joined = {base_id(end) for join in piece.joins if join.heated for end in join.between}
    worked = {base_id(part) for work in piece.work if work.kind in HEAT_WORK for part in work.parts}
    demands = []
    for join in piece.joins:
        if join.heated:
            text = f"{join.title} must not run again where nothing holds it."
            demands.append(
                Demand(
                    "remelt-flows",
                    "hold",
                    (join.id,),
                    text,
                    f"Hold or shield {join.title}, or use a softer solder later.",
                )
            )
    for part in piece.parts:
        metal, harm = metal_of(piece, part.id), harm_in_heat(piece, part.id)
        if part.id in joined and metal is not None and harm is None:
            text = f"{part.title} begins to melt at {celsius(metal.solidus_c)}."
            demands.append(
                Demand("melt-certain", "melt", (part.id,), text, "A softer solder, or join it later.")
            )
        if part.id in joined | worked and harm is not None:
            text = why_not_heated(piece, part.id)
            demands.append(Demand(harm, "tender", (part.id,), text, _INSTEAD[harm]))
    return demands

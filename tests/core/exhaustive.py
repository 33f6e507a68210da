"""The best plan of a small piece by trying everything: written apart from the planner, from the rules' text alone."""

from __future__ import annotations

from itertools import product
from typing import Any

from eskel_core.metals import solders
from eskel_core.piece import Join, Piece

OVERSHOOT, ALLOWANCE, MARGIN = 10, 15, 5
FACE_UP = {"front": {"front"}, "back": {"back"}, "edge": {"edge"}, "inside": {"front", "back", "edge"}}


def best_objectives(piece: Piece, stock: list[str]) -> tuple[float, ...] | None:
    """Give the seven objectives of the best plan (sums of flow points negated), or None."""
    joins = piece.joins
    best: tuple[float, ...] | None = None
    for heats in product(range(len(joins)), repeat=len(joins)):
        used = max(heats) + 1
        if set(heats) != set(range(used)) or not _ordered(joins, heats) or not _shareable(joins, heats):
            continue
        for chosen in product(stock, repeat=used):
            found = _judge(joins, heats, chosen)
            if found is not None and (best is None or found < best):
                best = found
    return best


def _ordered(joins: tuple[Join, ...], heats: tuple[int, ...]) -> bool:
    at = {join.id: heat for join, heat in zip(joins, heats, strict=True)}
    return all(at[name] < at[join.id] for join in joins for name in join.after)


def _shareable(joins: tuple[Join, ...], heats: tuple[int, ...]) -> bool:
    for heat in set(heats):
        inside = [join for join, at in zip(joins, heats, strict=True) if at == heat]
        if len(inside) > 6 or not set.intersection(*(FACE_UP[join.face] for join in inside)):
            return False
        if len(inside) > 1 and any(join.holds == "nothing" for join in inside):
            return False
    return True


def _body(joins: tuple[Join, ...], heats: tuple[int, ...], heat: int) -> set[str]:
    hot = {part for join, at in zip(joins, heats, strict=True) if at == heat for part in join.between}
    made = [join for join, at in zip(joins, heats, strict=True) if at <= heat]
    while any(set(join.between) & hot and not set(join.between) <= hot for join in made):
        for join in made:
            if set(join.between) & hot:
                hot |= set(join.between)
    return hot


def _judge(
    joins: tuple[Join, ...], heats: tuple[int, ...], chosen: tuple[str, ...]
) -> tuple[float, ...] | None:
    table = solders()
    runs = soft = guards = 0
    for heat in range(1, max(heats) + 1):
        working = table[chosen[heat]].flow_c + OVERSHOOT
        inside = [join for join, at in zip(joins, heats, strict=True) if at == heat]
        lies = set.intersection(*(FACE_UP[join.face] for join in inside))
        body = _body(joins, heats, heat)
        early = [(j, at) for j, at in zip(joins, heats, strict=True) if at < heat and set(j.between) & body]
        options = [_in_one_lie(early, inside, chosen, working, lie) for lie in lies]
        possible = [option for option in options if option is not None]
        if not possible:
            return None
        more = min(possible)
        runs, soft, guards = runs + more[0], soft + more[1], guards + more[2]
    flows = [table[chosen[at]].flow_c for at in heats]
    seen = sum(flow for join, flow in zip(joins, flows, strict=True) if join.visible or join.structural)
    return (runs, max(heats) + 1, soft, guards, -seen, -(sum(flows) - seen), len(set(chosen)))


def _in_one_lie(
    early: list[Any], inside: list[Join], chosen: tuple[str, ...], working: float, lie: str
) -> Any:
    table, runs, soft, guards = solders(), 0, 0, 0
    for join, at in early:
        shield = sum(s.degrees_c for s in join.shields if s.during in {one.id for one in inside})
        here, solder = working - min(60, shield), table[chosen[at]]
        held = {
            "seated": True,
            "own-weight": lie in FACE_UP[join.face],
            "bound": join.bound_with == "other",
        }.get(join.holds, False)
        if here >= solder.flow_c + ALLOWANCE - MARGIN:
            if not held and join.holds != "bound":
                return None
            guards += not held
            runs += 1
        elif here >= solder.solidus_c and not held:
            if join.holds == "bound":
                guards += 1
            else:
                soft += 1
    return runs, soft, guards

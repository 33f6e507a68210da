"""The best plan of a small piece by trying everything: written apart from the planner, from the rules' text alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from itertools import combinations
from math import dist
from typing import Any

from eskel_core.metals import Solder, solders
from eskel_core.picture import draw
from eskel_core.piece import Join, Piece, contact_at, metal_of

OVERSHOOT, ALLOWANCE, MARGIN = 10, 15, 5
THIN_MM, THIN_MARGIN = 0.5, 20
REACH_MM = 12
FACE_UP = {"front": {"front"}, "back": {"back"}, "edge": {"edge"}, "inside": {"front", "back", "edge"}}


@dataclass(frozen=True)
class _Sofar:
    """The heats so far: which solder each join has, and what was counted; the last round of each part and join."""

    made: dict[str, Solder] = field(default_factory=dict)
    runs: int = 0
    heats: int = 0
    rounds: int = 0
    soft: int = 0
    guards: int = 0
    near: int = 0
    last: dict[str, int] = field(default_factory=dict)

    def objectives(self, joins: tuple[Join, ...]) -> tuple[float, ...]:
        flows = {name: solder.flow_c for name, solder in self.made.items()}
        seen = sum(flows[join.id] for join in joins if join.visible or join.structural)
        kinds = len({solder.id for solder in self.made.values()})
        counted = (self.runs, self.heats, self.rounds, self.soft, self.guards, self.near)
        return (*counted, -seen, -(sum(flows.values()) - seen), kinds)


def best_objectives(piece: Piece, stock: list[str]) -> tuple[float, ...] | None:
    """Give the objectives of the best plan in their order (sums of flow points negated), or None.

    Heat by heat, every set of joins that may share one is tried with every solder. A way is left only when it
    already counts more joins that run again, or as many in more heats, than a whole plan that was found.
    """
    table = [solders()[name] for name in stock]
    thin = {
        part.id: metal.solidus_c
        for part in piece.parts
        if part.form.kind == "wire"
        and part.form.profile.kind == "round"
        and part.form.profile.diameter_mm < THIN_MM
        and (metal := metal_of(piece, part.id)) is not None
    }
    far = _far_apart(piece)
    best: tuple[float, ...] | None = None
    waiting = [_Sofar()]
    while waiting:
        here = waiting.pop()
        if len(here.made) == len(piece.joins):
            found = here.objectives(piece.joins)
            best = found if best is None else min(best, found)
            continue
        for inside in _heats(piece.joins, here):
            for solder in table:
                more = _after(piece.joins, here, inside, solder, (thin, far))
                if more is not None and (best is None or (more.runs, more.heats) <= best[:2]):
                    waiting.append(more)
    return best


def _heats(joins: tuple[Join, ...], here: _Sofar) -> Iterator[tuple[Join, ...]]:
    """Give every set of joins that may be made next in one heat."""
    ready = [join for join in joins if join.id not in here.made and set(join.after) <= here.made.keys()]
    for count in range(1, min(6, len(ready)) + 1):
        for inside in combinations(ready, count):
            shared = set.intersection(*(FACE_UP[join.face] for join in inside))
            made = [join for join in joins if join.id in here.made]
            body = _body([*made, *inside], inside[:1])
            one_body = all(set(join.between) <= body for join in inside)
            if shared and one_body and (count == 1 or not any(join.holds == "nothing" for join in inside)):
                yield inside


def _after(
    joins: tuple[Join, ...],
    here: _Sofar,
    inside: tuple[Join, ...],
    solder: Solder,
    known: tuple[dict[str, float], set[tuple[str, str]]],
) -> _Sofar | None:
    """Give what one more heat makes of it, in the lie that disturbs least; None where it breaks a rule."""
    (thin, far), working = known, solder.flow_c + OVERSHOOT
    body = _body([join for join in joins if join.id in here.made] + list(inside), inside)
    early = [
        join
        for join in joins
        if join.id in here.made
        and set(join.between) & body
        and not all((join.id, one.id) in far for one in inside)
    ]
    lies = sorted(set.intersection(*(FACE_UP[join.face] for join in inside)))
    options = [_in_one_lie(early, inside, here.made, working, lie) for lie in lies]
    possible = [option for option in options if option is not None]
    if not possible:
        return None
    runs, soft, guards = min(possible)
    before = {*body, *(name for join in inside for name in join.after)}
    number = 1 + max((here.last[name] for name in before if name in here.last), default=0)
    return replace(
        here,
        made=here.made | {join.id: solder for join in inside},
        runs=here.runs + runs,
        heats=here.heats + 1,
        rounds=max(here.rounds, number),
        near=here.near + any(thin[part] - working <= THIN_MARGIN for part in body if part in thin),
        last=here.last | dict.fromkeys([*body, *(join.id for join in inside)], number),
        soft=here.soft + soft,
        guards=here.guards + guards,
    )


def _far_apart(piece: Piece) -> set[tuple[str, str]]:
    """Give the pairs of joins of which neither is reached by a small flame on the other: all are picked, or none."""
    if piece.house.placing != "pick":
        return set()
    spots = {mark.join: mark.spots for mark in draw(piece).joins}
    seams = {join.id: touch.seam_mm for join in piece.joins if (touch := contact_at(piece, join)) is not None}
    return {
        (a, b)
        for a in spots
        for b in spots
        if a != b
        and min(dist(p, q) for p in spots[a] for q in spots[b]) - (seams[a] + seams[b]) / 2 > REACH_MM
    }


def _body(made: list[Join], inside: tuple[Join, ...]) -> set[str]:
    hot = {part for join in inside for part in join.between}
    while any(set(join.between) & hot and not set(join.between) <= hot for join in made):
        for join in made:
            if set(join.between) & hot:
                hot |= set(join.between)
    return hot


def _in_one_lie(
    early: list[Join], inside: tuple[Join, ...], made: dict[str, Solder], working: float, lie: str
) -> Any:
    runs = soft = guards = 0
    for join in early:
        shield = sum(s.degrees_c for s in join.shields if s.during in {one.id for one in inside})
        here, solder = working - min(60, shield), made[join.id]
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

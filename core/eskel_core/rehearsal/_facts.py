"""What a heat of a plan is to the rehearsal: the body, what it is to reach, and what it is to spare."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass
from itertools import pairwise

from ..faults import refuse
from ..heat import Lies
from ..metals import Flux, Surface, Torch, fluxes, solders, surfaces, torches
from ..picture import nodes_of_part
from ..piece import (
    Bench,
    HeatFrom,
    Piece,
    Work,
    base_id,
    is_of_grains,
    metal_of,
    of_one_heat,
    pairs_of,
    piece_object,
    resolve_bench,
)
from ..plan import HeatStep, Plan, WorkStep
from ..rules import Anatomy, Purpose, anatomy, shield_c

# What is melted to be poured goes so far over its liquidus: the middle of the brief's 60 to 90 °C.
SUPERHEAT_C = 75.0
# Solder that is fed lies on no wet flux: there is nothing to be thrown.
_FED = frozenset({"fed-wire", "pick"})


@dataclass(frozen=True)
class Tools:
    """What the heat is made with, and what it is made on."""

    torch: Torch
    surface: Surface
    flux: Flux


@dataclass(frozen=True)
class Spared:
    """An earlier join that must not run again: hotter than `below_c` it does; above `soft_c` it is soft. °C."""

    join: str
    below_c: float
    soft_c: float


@dataclass(frozen=True)
class HeatFacts:
    """A heat as the rehearsal takes it. `wet`: chips or paste lie on wet flux. `reach_c` is by join, or by part where it has none; `melts_c` and `range_c` by part.

    Of bodies that are all alike, fired one after another, it is one; there are so many `bodies`.
    """

    heat_no: int
    purpose: Purpose
    nodes: frozenset[str]
    making: tuple[str, ...]
    solders: tuple[str, ...]
    wet: bool
    made: tuple[str, ...]
    work: str | None
    lies: Lies
    working_c: float
    reach_c: dict[str, float]
    range_c: dict[str, tuple[float, float]]
    melts_c: dict[str, float]
    spared: tuple[Spared, ...]
    forms: str
    untrimmed: frozenset[str] = frozenset()
    heat_from: HeatFrom | None = None
    flux: str | None = None
    bodies: int = 1


def tools_of(
    piece: Piece, bench: Bench | None, torch: str | None, surface: str | None, flux: str | None = None
) -> Tools:
    """Give the torch, the surface and the flux: the ones asked for, else those of the bench. Refused for an unknown id."""
    have = resolve_bench(bench, piece.bench)
    chosen = torch or have.torch or "propane-air-small"
    lies_on = surface or have.surface or "charcoal"
    fluxed = flux or have.flux or "white-paste"
    for name, id_, table in (
        ("torch", chosen, torches()),
        ("surface", lies_on, surfaces()),
        ("flux", fluxed, fluxes()),
    ):
        if id_ not in table:
            raise refuse(
                "unknown-id", name, id_, f"a {name} of the table is named", f"One of {', '.join(table)}."
            )
    return Tools(torches()[chosen], surfaces()[lies_on], fluxes()[fluxed])


def heats_of(plan: Plan) -> list[HeatStep]:
    """Give the heats of a plan."""
    return [step for step in plan.steps if isinstance(step, HeatStep)]


def facts_of(piece: Piece, plan: Plan, heat_no: int) -> HeatFacts:
    """Take a heat of a plan apart. Refused when the plan has no such heat."""
    steps = heats_of(plan)
    step = next((one for one in steps if one.heat_no == heat_no), None)
    if not steps:
        raise refuse(
            "out-of-range", "heat", heat_no, "the plan has a heat", "Add a join or work that takes one."
        )
    if step is None:
        raise refuse(
            "out-of-range", "heat", heat_no, f"the plan has heats 1 to {len(steps)}", "Name one of its heats."
        )
    known = anatomy(piece)
    making = tuple(join.join for join in step.joins)
    own = of_one_heat(piece, making, step.work)
    made = tuple(band.join for band in plan.bands if band.heat_no < heat_no)
    nodes = _nodes(piece, known, step, making, made)
    inside = tuple(name for name in made if known.joins[name].nodes & nodes)
    reach, melts = _temperatures(piece, step, nodes)
    purpose: Purpose = "ball" if _melts_grains(piece, step) else step.purpose
    # What is melted to be poured is one charge.
    bodies = (nodes,) if purpose == "melt" else _alike(piece, nodes, {*inside, *making})
    return HeatFacts(
        heat_no=heat_no,
        purpose=purpose,
        nodes=bodies[0],
        making=making,
        solders=tuple(join.solder for join in step.joins if join.solder),
        wet=any(join.placing not in _FED for join in step.joins),
        made=inside,
        work=step.work,
        lies=step.lies,
        working_c=step.working_c,
        reach_c=reach,
        range_c=_ranges(piece, nodes) if step.purpose == "anneal" else {},
        melts_c=melts,
        spared=_spared(piece, plan, step, inside, making),
        forms=forms_digest(piece, nodes, (*making, *inside)),
        untrimmed=_untrimmed(piece, plan, step),
        heat_from=next((one.heat_from for one in own if one.heat_from), None),
        flux=next((one.flux for one in own if one.flux), None),
        bodies=len(bodies),
    )


def _melts_grains(piece: Piece, step: HeatStep) -> bool:
    own = of_one_heat(piece, (), step.work)
    return step.purpose == "melt" and any(isinstance(one, Work) and is_of_grains(piece, one) for one in own)


def _alike(piece: Piece, nodes: frozenset[str], tied: set[str]) -> tuple[frozenset[str], ...]:
    """Give the single bodies of a heat where nothing ties them together and each is of the same parts; else all as one."""
    of_parts = {part.id: nodes_of_part(part) for part in piece.parts}
    single = {one for node in nodes for one in ([node] if "#" in node else of_parts[node])}
    body = {one: {one} for one in single}
    for join in piece.joins:
        sides = [[ref] if "#" in ref else of_parts[ref] for ref in join.between]
        if join.kind == "bundle" and len(set(join.between)) == 1:
            sides = [[node] for node in sides[0]]
        if join.id in tied:
            for one, other in (pair for a, b in pairwise(sides) for pair in pairs_of(a, b)):
                if one in body and other in body and body[one] is not body[other]:
                    body[one] |= body[other]
                    for node in body[other]:
                        body[node] = body[one]
    bodies = list({min(whole): frozenset(whole) for whole in body.values()}.values())
    kinds = {tuple(sorted(base_id(node) for node in whole)) for whole in bodies}
    return tuple(sorted(bodies, key=min)) if len(kinds) == 1 else (nodes,)


def _untrimmed(piece: Piece, plan: Plan, step: HeatStep) -> frozenset[str]:
    """Give the parts that are still as large as they were cut: their trimming comes after the heat, or never."""
    before = {one.work for one in plan.steps if isinstance(one, WorkStep) and one.n < step.n}
    trimmed = {
        base_id(ref) for work in piece.work if work.kind == "trim" and work.id in before for ref in work.parts
    }
    return frozenset(part.id for part in piece.parts if part.rough is not None and part.id not in trimmed)


def as_heated(piece: Piece, facts: HeatFacts) -> Piece:
    """Give a piece whose parts have the forms that they have in a heat: before trimming the rough one, where it is larger."""
    if not facts.untrimmed:
        return piece
    parts = tuple(
        part.model_copy(update={"form": part.rough}) if part.id in facts.untrimmed else part
        for part in piece.parts
    )
    return piece.model_copy(update={"parts": parts})


def _nodes(
    piece: Piece, known: Anatomy, step: HeatStep, making: tuple[str, ...], made: tuple[str, ...]
) -> frozenset[str]:
    """Give the body: everything tied to the joins of this heat; for other work the parts that it names."""
    seeds = frozenset(node for name in making for node in known.joins[name].nodes) or known.of(step.parts)
    return known.body(seeds, [*made, *making])


def _temperatures(
    piece: Piece, step: HeatStep, nodes: frozenset[str]
) -> tuple[dict[str, float], dict[str, float]]:
    """Give what each join (or part) is to reach, and what each part must stay below, °C."""
    parts = [part.id for part in piece.parts if any(base_id(node) == part.id for node in nodes)]
    alloys = {part: metal for part in parts if (metal := metal_of(piece, part)) is not None}
    if step.purpose == "anneal":
        return (
            {part: metal.anneal_low_c for part, metal in alloys.items()},
            {part: metal.solidus_c for part, metal in alloys.items()},
        )
    melts = {part: metal.solidus_c for part, metal in alloys.items()}
    if step.purpose == "solder":
        return {one.join: solders()[one.solder].flow_c for one in step.joins if one.solder}, melts
    if step.purpose == "fuse":
        own = {
            base_id(ref)
            for one in step.joins
            for join in piece.joins
            if join.id == one.join
            for ref in join.between
        }
        melts = {
            part: metal.liquidus_c + 4 if part in own else metal.solidus_c for part, metal in alloys.items()
        }
        return {one.join: step.working_c for one in step.joins}, melts
    over = SUPERHEAT_C if step.purpose == "melt" and not _melts_grains(piece, step) else 0.0
    return {part: metal.liquidus_c + over for part, metal in alloys.items()}, {}


def _ranges(piece: Piece, nodes: frozenset[str]) -> dict[str, tuple[float, float]]:
    """Give the annealing range of each part, °C."""
    found = {}
    for name in {base_id(node) for node in nodes}:
        metal = metal_of(piece, name)
        if metal is not None:
            found[name] = metal.anneal_low_c, metal.anneal_high_c
    return found


def _spared(
    piece: Piece, plan: Plan, step: HeatStep, inside: tuple[str, ...], making: tuple[str, ...]
) -> tuple[Spared, ...]:
    """Give the earlier joins that nothing holds if they run again; the plan lets the held ones run."""
    joins = {join.id: join for join in piece.joins}
    bands = {band.join: band for band in plan.bands}
    found = []
    for name in inside:
        if step.states.get(name) == "flows":
            continue
        by_hand = sum(
            shield.degrees_c
            for shield in joins[name].shields
            if shield.during in making and shield.how != "rehearsed"
        )
        guarded = min(by_hand, shield_c(joins[name], making))
        found.append(Spared(name, bands[name].reflow_c + guarded, bands[name].solidus_c + guarded))
    return tuple(found)


def forms_digest(piece: Piece, nodes: frozenset[str], joins: tuple[str, ...]) -> str:
    """Give a short name for everything that a rehearsal rests on: forms, metals, places and joints of the body."""
    parts = {base_id(node) for node in nodes}
    whole = piece_object(piece)
    kept = {
        "parts": [
            {key: part.get(key) for key in ("id", "metal", "form", "count", "place", "rough")}
            for part in whole["parts"]
            if part["id"] in parts
        ],
        "joins": [
            {
                key: join.get(key)
                for key in ("id", "kind", "between", "at", "seam_mm", "contact_mm2", "face", "holds")
            }
            for join in whole.get("joins", [])
            if join["id"] in joins
        ],
        "metals": whole.get("metals", []),
    }
    return hashlib.sha256(json.dumps(kept, sort_keys=True).encode()).hexdigest()[:16]

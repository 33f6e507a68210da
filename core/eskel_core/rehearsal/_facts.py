"""What a heat of a plan is to the rehearsal: the body, what it is to reach, and what it is to spare."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass

from ..faults import refuse
from ..heat import Lies
from ..metals import Flux, Surface, Torch, fluxes, solders, surfaces, torches
from ..piece import Bench, Piece, base_id, metal_of, piece_object, resolve_bench
from ..plan import HeatStep, Plan
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
    """A heat as the rehearsal takes it. `wet`: chips or paste lie on wet flux. `reach_c` is by join, or by part where it has none; `melts_c` and `range_c` by part."""

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


def tools_of(piece: Piece, bench: Bench | None, torch: str | None, surface: str | None) -> Tools:
    """Give the torch, the surface and the flux: the ones asked for, else those of the bench. Refused for an unknown id."""
    have = resolve_bench(bench, piece.bench)
    chosen = torch or have.torch or "propane-air-small"
    lies_on = surface or have.surface or "charcoal"
    flux = have.flux or "white-paste"
    for name, id_, table in (
        ("torch", chosen, torches()),
        ("surface", lies_on, surfaces()),
        ("flux", flux, fluxes()),
    ):
        if id_ not in table:
            raise refuse(
                "unknown-id", name, id_, f"a {name} of the table is named", f"One of {', '.join(table)}."
            )
    return Tools(torches()[chosen], surfaces()[lies_on], fluxes()[flux])


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
    made = tuple(band.join for band in plan.bands if band.heat_no < heat_no)
    nodes = _nodes(piece, known, step, making, made)
    inside = tuple(name for name in made if known.joins[name].nodes & nodes)
    reach, melts = _temperatures(piece, step, nodes)
    return HeatFacts(
        heat_no=heat_no,
        purpose=step.purpose,
        nodes=nodes,
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
    )


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
    over = SUPERHEAT_C if step.purpose == "melt" else 0.0
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
            {key: join.get(key) for key in ("id", "kind", "between", "at", "seam_mm", "contact_mm2", "face")}
            for join in whole.get("joins", [])
            if join["id"] in joins
        ],
        "metals": whole.get("metals", []),
    }
    return hashlib.sha256(json.dumps(kept, sort_keys=True).encode()).hexdigest()[:16]

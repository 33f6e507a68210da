"""Working temperatures, and the state of an earlier join in a later heat."""

from __future__ import annotations

from typing import Literal

from ..metals import Metal, Solder
from ..piece import House, Join, Piece, Work, metal_of
from ._course import Filler, Purpose

State = Literal["firm", "soft", "flows"]
MOST_SHIELD_C = 60.0
_WORK_PURPOSE: dict[str, Purpose] = {
    "anneal": "anneal",
    "deplete": "anneal",
    "ball": "ball",
    "melt": "melt",
    "pour": "melt",
}


def filler_of_solder(solder: Solder, house: House) -> Filler:
    """Give what a solder makes of a heat: its flow point plus the overshoot."""
    working = solder.flow_c + house.overshoot_c
    return Filler(solder.id, "solder", working, solder.solidus_c, solder.flow_c, solder)


def filler_of_fuse(piece: Piece, join: Join) -> Filler:
    """Give what a fused join makes of a heat: the lower solidus of its parts, which becomes its own."""
    metals = [metal for reference in join.between if (metal := metal_of(piece, reference)) is not None]
    lowest = min((metal.solidus_c for metal in metals), default=0.0)
    return Filler(f"fuse:{join.id}", "fuse", lowest, lowest, lowest)


def filler_of_work(piece: Piece, work: Work, house: House) -> Filler:
    """Give what heated work makes of a heat: mid anneal range, or above the liquidus."""
    metals = [metal for reference in work.parts if (metal := metal_of(piece, reference)) is not None]
    purpose = _WORK_PURPOSE[work.kind]
    if purpose == "anneal":
        working = min((metal.anneal_c for metal in metals), default=0.0)
    else:
        working = max((metal.liquidus_c + house.overshoot_c for metal in metals), default=0.0)
    return Filler(f"work:{work.id}", purpose, working, working, working)


def filler_of_anneal(key: str, metal: Metal) -> Filler:
    """Give what an anneal of one metal makes of a heat."""
    return Filler(key, "anneal", metal.anneal_c, metal.anneal_c, metal.anneal_c)


def reflow_c(filler: Filler, house: House) -> float:
    """Give the temperature at or above which a join counts as running again.

    Flow point + remelt allowance − margin: a join that has run once runs again a little higher.
    """
    return filler.flow_c + house.remelt_allowance_c - house.margin_c


def shield_c(join: Join, during: tuple[str, ...]) -> float:
    """Give how much cooler a join stays in a heat for its shields, at most 60 °C in all."""
    return min(MOST_SHIELD_C, sum(shield.degrees_c for shield in join.shields if shield.during in during))


def state_at(filler: Filler, temperature_c: float, house: House) -> State:
    """Give the state of a join, made with a filler, at a temperature."""
    if temperature_c >= reflow_c(filler, house):
        return "flows"
    return "soft" if temperature_c >= filler.solidus_c else "firm"

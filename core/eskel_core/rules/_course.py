"""A course of heats as the rules judge it: plain frozen records, whoever proposed them."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from itertools import groupby
from typing import Literal

from ..metals import Metal, Solder
from ..piece import Bench, House, Join, Piece
from ..state import Anatomy
from ._reach import Reach

Purpose = Literal["solder", "anneal", "fuse", "ball", "melt"]
Lie = Literal["front-up", "back-up", "on-edge"]


@dataclass(frozen=True)
class Filler:
    """What makes a heat as hot as it is: a solder, or the temperature of a fuse or other heated work.

    `solidus_c` and `flow_c` are those of a join made with it; `working_c` that of the heat.
    """

    key: str
    purpose: Purpose
    working_c: float
    solidus_c: float
    flow_c: float
    solder: Solder | None = None

    @property
    def heats_evenly(self) -> bool:
        """Whether every part of the body comes to the working temperature (solder and anneal heats)."""
        return self.purpose in ("solder", "anneal")

    def melts(self, metal: Metal | None) -> bool:
        """Say whether a heat made so hot begins to melt a metal in its body; what has no metal does not melt."""
        return metal is not None and self.heats_evenly and self.working_c >= metal.solidus_c


@dataclass(frozen=True)
class Heat:
    """One heat: the joins made in it, or the heated work done in it, and the parts that get hot.

    Heats of one `round` share their cooling and the pot. `go` counts the heats of work that takes several, from 1.
    """

    number: int
    filler: Filler
    joins: tuple[str, ...]
    work: str | None
    lie: Lie
    body: frozenset[str]
    protected: frozenset[str] = frozenset()
    put_in: bool = False
    anneals: tuple[str, ...] = ()
    round: int = 1
    go: int = 1

    @property
    def working_c(self) -> float:
        """The working temperature, °C."""
        return self.filler.working_c


@dataclass(frozen=True)
class Course:
    """The heats of a piece in order, with everything that a rule may ask about. What is made already is `made_in` heat 0."""

    piece: Piece
    house: House
    anatomy: Anatomy
    heats: tuple[Heat, ...]
    made_in: dict[str, int] = field(default_factory=dict)
    fillers: dict[str, Filler] = field(default_factory=dict)
    slots: dict[str, int] = field(default_factory=dict)
    bench: Bench | None = None
    reach: Reach = field(default_factory=Reach)

    @cached_property
    def joins(self) -> dict[str, Join]:
        """The joins of the piece by their ids."""
        return {join.id: join for join in self.piece.joins}

    @property
    def rounds(self) -> tuple[tuple[Heat, ...], ...]:
        """The heats round by round."""
        return tuple(tuple(group) for _, group in groupby(self.heats, lambda heat: heat.round))

    @property
    def to_make(self) -> dict[str, int]:
        """Give the joins that heats to come make, with the number of each."""
        return {name: number for name, number in self.made_in.items() if number}

    def earlier(self, heat: Heat) -> list[str]:
        """Give the joins made before a heat that its flame reaches: those of its body, and those on what hangs in it."""
        return [
            join
            for join, number in self.made_in.items()
            if number < heat.number
            and (self.anatomy.joins[join].nodes & heat.body or self.touches(heat, join))
        ]

    def touches(self, heat: Heat, join: str) -> bool:
        """Say whether a join is on a part that hangs in a heat's body without solder, at a join that it makes."""
        return any((join, task) in self.reach.contact_c for task in heat.joins)

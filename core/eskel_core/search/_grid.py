"""The solver's model of a problem: its variables, and everything that a plan must keep.

`done[t][h]` (task t is over by the end of heat h; its step places it: `takes`), `fills[h][f]` (heat h is of filler
f), `made_with[t][f]`, `hot[n][h]` (node n is in the flame), `up[h][lie]`, and for each earlier join and heat `runs`,
`soft` (soft while loaded) and `guard` (protected by hand). `round_of[h]` is the round of a heat, `rounds` that of the last,
`near` the heats that come near to the solidus of something thin, `reached` says whether a heat reaches a join at all. A literal that only hurts is bound from one side: it is true
at least where it must be.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from ..demands import Demand, Problem, Task
from ..rules import Filler, Lie
from ..solver import Model, no

LIES: tuple[Lie, ...] = ("front-up", "back-up", "on-edge")


@dataclass
class Grid:
    """The variables of one model."""

    problem: Problem
    model: Model
    tasks: tuple[Task, ...]
    fillers: tuple[Filler, ...]
    nodes: tuple[str, ...]
    heats: int
    done: list[list[int]] = field(default_factory=list)
    takes: list[list[int]] = field(default_factory=list)
    fills: list[list[int]] = field(default_factory=list)
    at_least: list[list[int]] = field(default_factory=list)
    made_with: list[dict[int, int]] = field(default_factory=list)
    hot: dict[tuple[str, int], int] = field(default_factory=dict)
    up: list[dict[Lie, int]] = field(default_factory=list)
    runs: dict[tuple[int, int], int] = field(default_factory=dict)
    soft: dict[tuple[int, int], int] = field(default_factory=dict)
    guard: dict[tuple[int, int], int] = field(default_factory=dict)
    used_filler: list[int] = field(default_factory=list)
    round_of: list[int] = field(default_factory=list)
    rounds: int = 0
    near: list[int] = field(default_factory=list)
    reached: dict[tuple[str, int], int] = field(default_factory=dict)
    standing: dict[Demand, int] = field(default_factory=dict)
    present: dict[str, int] = field(default_factory=dict)

    @property
    def span(self) -> range:
        """The heats, from 0."""
        return range(self.heats)

    def unless(self, kind: str, *ids: str) -> list[tuple[int, ...]]:
        """Give, for each demand of this kind and these ids, the literals of which any lets it go."""
        return [
            (no(self.standing[one]),) if one in self.standing else ()
            for one in self.problem.standing_by.get((kind, ids), ())
        ]

    def absent(self, task: str) -> tuple[int, ...]:
        """Give the literals of which any says that a task need not be done."""
        return (no(self.present[task]),) if task in self.present else ()

    def close_after(self, heats: int) -> None:
        """Keep everything within the first few heats; may be said again with another number."""
        for done in self.done:
            for h, literal in enumerate(done):
                self.model.settle(literal, 1 if h >= heats - 1 else 0)

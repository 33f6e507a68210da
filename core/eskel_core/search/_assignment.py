"""What the solver answers: the heats of a plan, and how good it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

from ..demands import Problem
from ..rules import Filler, Lie
from ._objectives import ObjectiveValue


class PlannedHeat(NamedTuple):
    """The tasks of one heat with its filler, its lie, the joins protected in it, and the round that it belongs to."""

    tasks: tuple[str, ...]
    filler: Filler
    lie: Lie
    protected: frozenset[str]
    round: int = 1


@dataclass(frozen=True)
class Assignment:
    """A solved plan: its heats in order, and each objective with what no plan can beat."""

    heats: tuple[PlannedHeat, ...]
    objectives: tuple[ObjectiveValue, ...]


def in_rounds(problem: Problem, heats: Sequence[PlannedHeat]) -> tuple[PlannedHeat, ...]:
    """Give heats in an order that can be kept by rounds: each as early as its body and the orders let it.

    A heat follows every heat of what is in its body, and of what an order puts before it. Within a round the hottest comes
    first.
    """
    tasks = {task.id: task for task in problem.tasks}
    made: list[str] = []
    bodies: list[frozenset[str]] = []
    rounds: list[int] = []
    for heat in heats:
        made += [name for name in heat.tasks if tasks[name].join is not None]
        body = problem.anatomy.body(frozenset(n for name in heat.tasks for n in tasks[name].seeds), made)
        before = [
            rounds[g]
            for g, other in enumerate(heats[: len(rounds)])
            if bodies[g] & body or any((a, b) in problem.orders for a in other.tasks for b in heat.tasks)
        ]
        rounds.append(1 + max(before, default=0))
        bodies.append(body)
    placed = sorted(
        zip(rounds, heats, range(len(heats)), strict=True),
        key=lambda row: (row[0], -row[1].filler.working_c, row[2]),
    )
    return tuple(heat._replace(round=number) for number, heat, _ in placed)

"""The objectives of the preference order, as sums over the solver's variables."""

from __future__ import annotations

from dataclasses import dataclass

from ..demands import Problem, Task, closure
from ..piece import FORMING_WORK, Join, base_id
from ..rules import Filler
from ..solver import Term
from ._grid import Grid

OBJECTIVES = (
    "joins-run-again",
    "heats",
    "rounds",
    "soft-while-loaded",
    "protected",
    "near-melting",
    "flow-of-chosen",
    "flow-of-rest",
    "solders",
)


RUNS, HEATS, ROUNDS, SOFT, PROTECTED, NEAR, FLOW_OF_CHOSEN, FLOW_OF_REST, SOLDERS = OBJECTIVES
# Solved together, each outweighing those after it: what disturbs earlier joins, and what follows from the solders.
DISTURBING = (SOFT, PROTECTED, NEAR)
LARGEST = (FLOW_OF_CHOSEN, FLOW_OF_REST)
OF_SOLDERS = (*LARGEST, SOLDERS)
GROUPS = ((RUNS,), (HEATS,), (ROUNDS,), DISTURBING, OF_SOLDERS)

Sums = dict[str, list[Term]]


@dataclass(frozen=True)
class ObjectiveValue:
    """One objective in order of preference: what the plan reaches, and what no plan can beat."""

    name: str
    value: float
    bound: float

    @property
    def proven(self) -> bool:
        """Whether no plan does better."""
        return self.value == self.bound


def objectives_of(grid: Grid) -> Sums:
    """Give each objective of a model of heats as a sum to be made smallest."""
    counted = [] if grid.problem.house.grade_policy == "same-while-held" else grid.runs.values()
    flows = sums_of_solders(grid.problem, grid.tasks, grid.fillers, grid.made_with, grid.used_filler)
    counts: tuple[list[Term], ...] = (
        [(1, one) for one in counted],
        [(1, fill) for fills in grid.fills for fill in fills],
        [(1, grid.rounds)],
        [(1, one) for one in grid.soft.values()],
        [(1, one) for one in grid.guard.values()],
        [(1, one) for one in grid.near],
    )
    return dict(zip(OBJECTIVES, counts, strict=False)) | flows


def sums_of_solders(
    problem: Problem,
    tasks: tuple[Task, ...],
    fillers: tuple[Filler, ...],
    made_with: list[dict[int, int]],
    used_filler: list[int],
) -> Sums:
    """Give the objectives that follow from the solders alone, as sums to be made smallest."""
    sign = 1 if problem.house.grade_policy == "easiest-that-serves" else -1
    chosen: list[Term] = []
    rest: list[Term] = []
    for task, literals in zip(tasks, made_with, strict=True):
        if task.join is not None:
            terms = [
                (sign * round(fillers[f].flow_c), literal)
                for f, literal in literals.items()
                if fillers[f].solder
            ]
            (chosen if is_chosen(problem, task.join) else rest).extend(terms)
    solders = [literal for filler, literal in zip(fillers, used_filler, strict=True) if filler.solder]
    return dict(zip(OF_SOLDERS, (chosen, rest, [(1, solder) for solder in solders]), strict=True))


def is_chosen(problem: Problem, join: Join) -> bool:
    """Say whether a join is one that deserves the higher grade: seen, stressed, resized or formed later."""
    return join.visible or join.structural or join.resized_later or _formed_later(problem, join)


def _formed_later(problem: Problem, join: Join) -> bool:
    """Say whether forming work on the join's parts is told to come after it."""
    later = {
        b
        for a, b in closure({demand.ids for demand in problem.demands if demand.kind == "order"})
        if a == join.id
    }
    parts = {base_id(end) for end in join.between}
    return any(
        work.kind in FORMING_WORK and work.id in later and parts & {base_id(part) for part in work.parts}
        for work in problem.piece.work
    )


def weighted_sum(sums: list[list[Term]]) -> list[Term]:
    """Give several sums as one, each outweighing all after it."""
    weighted: list[Term] = []
    weight = 1
    for terms in reversed(sums):
        weighted += [(weight * coefficient, variable) for coefficient, variable in terms]
        weight *= span_of(terms)
    return weighted


def span_of(terms: list[Term]) -> int:
    """Give one more than the farthest that a sum can lie from 0."""
    return 1 + sum(abs(coefficient) for coefficient, _ in terms)


def value_of(terms: list[Term], values: tuple[int, ...]) -> int:
    """Give a sum in a solution."""
    return sum(coefficient * values[variable] for coefficient, variable in terms)

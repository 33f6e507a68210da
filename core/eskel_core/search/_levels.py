"""A piece planned by levels: which join takes which solder, when no join may run again.

Where no join is to run again, joins that touch must be made the hotter before the softer, and those of one solder
that come to lie in one body must share a heat. So the order of the heats follows from the solders, and a model
needs one *level* for each solder instead of one variable for each join and heat: it is small, it has none of the
symmetry of heats that could change places, and every plan without running joins is one of its solutions. A heat is
one body under one flame, so what of one level lies in one body is one heat, and nothing is left to be shared out.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from ..demands import Problem, Task
from ..piece import Join
from ..rules import ALL_LIES, Filler, Lie, can_be_protected, comes_off, lies_for, reflow_c
from ..solver import Model, Term, no
from ._one_body import Pair


@dataclass(frozen=True)
class Tree:
    """Bodies of a level counted as nodes less ties: the literals of ties that count, by their pair of nodes, and no circle of them."""

    level: int
    counted: dict[Pair, int]


@dataclass
class Levels:
    """The model of one problem: `made_with[t][f]` says that task t is of level f, the hottest level being 0.

    `made_by[t][f]`: of that level or a hotter one. `hot[n, f]`: node n is in the flame of some heat of that level.
    `up[n, f]`: the lie of that heat. `soft` and `guard` as in the model of heats, for each task and level. `again[t]`, where
    there are exceptions: task t may run again, and is made before what shares its level in its body.
    """

    problem: Problem
    model: Model
    tasks: tuple[Task, ...]
    fillers: tuple[Filler, ...]
    nodes: tuple[str, ...]
    made_with: list[dict[int, int]] = field(default_factory=list)
    made_by: list[list[int]] = field(default_factory=list)
    hot: dict[tuple[str, int], int] = field(default_factory=dict)
    up: dict[tuple[str, int], dict[Lie, int]] = field(default_factory=dict)
    one_way_up: bool = False
    soft: dict[tuple[int, int], int] = field(default_factory=dict)
    guard: dict[tuple[int, int], int] = field(default_factory=dict)
    again: dict[int, int] = field(default_factory=dict)
    followed: dict[int, list[int]] = field(default_factory=dict)
    _tied: dict[tuple[int, int], int] = field(default_factory=dict)
    used_filler: list[int] = field(default_factory=list)
    heats: list[Term] = field(default_factory=list)
    near: list[Term] = field(default_factory=list)
    rounds: list[Term] = field(default_factory=list)
    trees: list[Tree] = field(default_factory=list)

    def tied_by(self, t: int, f: int) -> int:
        """Give the literal that a task is made by the time of the last heat of a level in its body.

        It is of that level or a hotter one; or, where it may run again, so is made what touches it and comes after it.
        """
        if not self.followed.get(t):
            return self.made_by[t][f]
        if (t, f) not in self._tied:
            tied = self._tied[t, f] = self.model.boolean()
            self.model.clause(no(self.made_by[t][f]), tied)
            for o in self.followed[t]:
                self.model.clause(no(self.tied_by(o, f)), tied)
        return self._tied[t, f]


def can_be_levelled(problem: Problem) -> bool:
    """Say whether a problem's heats are ordered by their solders: no shields, no local heats, no other heated work, runs counted.

    Of any two solders exactly one can follow the other, and none can follow itself.
    """
    if problem.house.grade_policy == "same-while-held" or problem.reach.cooler_c or problem.reach.contact_c:
        return False
    names = {task.id for task in problem.tasks}
    for task in problem.tasks:
        if task.join is None or any(shield.during in names for shield in task.join.shields):
            return False
    fillers = fillers_of(problem)
    return all(
        (later.working_c < reflow_c(earlier, problem.house)) == (a < b)
        for a, earlier in enumerate(fillers)
        for b, later in enumerate(fillers)
    )


def fillers_of(problem: Problem) -> tuple[Filler, ...]:
    """Give every filler that some task may take, the hottest first."""
    by_key = {filler.key: filler for task in problem.tasks for filler in task.options}
    return tuple(sorted(by_key.values(), key=lambda one: (-one.working_c, one.key)))


def can_run_again(problem: Problem, task: Task) -> bool:
    """Say whether there is a heat in which a join may run again: one in which it is held, or is protected by hand."""
    return bool(problem.lies_that_hold[task.id]) or is_held_always(problem, task)


def is_held_always(problem: Problem, task: Task) -> bool:
    """Say whether a join may run again whichever way up its body lies."""
    join = join_of(task)
    protected = can_be_protected(join) and comes_off(problem.piece, join)
    return (
        protected or not problem.asks("hold", join.id) or set(ALL_LIES) <= {*problem.lies_that_hold[join.id]}
    )


def moved_pairs(levels: Levels, kind: str) -> list[tuple[int, int]]:
    """Give the pairs of tasks that a move by hand keeps in one heat (`shares`), or out of it (`apart`)."""
    number = {task.id: t for t, task in enumerate(levels.tasks)}
    return [
        (number[demand.ids[0]], number[demand.ids[1]])
        for demand in levels.problem.standing
        if demand.kind == kind and set(demand.ids) <= number.keys()
    ]


def can_share(tasks: list[Task]) -> bool:
    """Say whether joins may be made in one heat as far as their holds, faces and placings go."""
    if len(tasks) == 1:
        return True
    places = sum(task.places for task in tasks)
    return (
        not any(task.alone for task in tasks)
        and places <= min(task.limit for task in tasks)
        and sum(task.in_hand for task in tasks) <= min(task.hands for task in tasks)
        and any(all(lie in lies_for(join_of(task)) for task in tasks) for lie in ALL_LIES)
    )


def join_of(task: Task) -> Join:
    assert task.join is not None
    return task.join

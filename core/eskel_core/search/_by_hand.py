"""A plan made level by level, the way a smith without a solver would: quick, sound, and not proven to be the best.

It is what a piece of very many joins gets at once, and what is left when a search has used up its effort.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache

from ..demands import Bodies, Problem, Task
from ..piece import Join
from ._assignment import Assignment, PlannedHeat
from ._by_rank import ranked_levels
from ._levels import can_share, fillers_of
from ._measured import gone_through, lies_of_task, measured
from ._objectives import (
    LARGEST,
)

TRIES = 24
TRIED_JOINS = 1000
MANY_TASKS = 100


_Unit = tuple[int, list[Task], frozenset[str]]


class _Ties(Bodies):
    """Nodes tied together, with how many places of one level are soldered in each body."""

    def __init__(self, ties: Iterable[tuple[str, str]] = ()) -> None:
        super().__init__()
        self.inside: dict[str, list[Task]] = {}
        for a, b in ties:
            self.tie(a, b)

    def tie(self, a: str, b: str) -> None:
        """Tie two nodes together."""
        one, other = self.of(a), self.of(b)
        super().tie(a, b)
        if one != other:
            inside = [*self.inside.pop(one, []), *self.inside.pop(other, [])]
            self.inside[self.of(one)] = inside

    def add(self, task: Task) -> None:
        """Put a task into the body of its nodes, which its own heat brings together."""
        first, *others = sorted(task.seeds)
        for other in others:
            self.tie(first, other)
        self.inside.setdefault(self.of(first), []).append(task)


def by_hand(problem: Problem) -> Assignment | None:
    """Give a plan for a problem that can be levelled, or None where the ways taken lead into a corner.

    Level by level, the hottest first, the joins furthest out are put together first, into groups that one heat has room
    for, and what lies between the groups is left for softer solder. What is left at the last is made in heats one
    after another, in which earlier joins run again, if all of them are held. First what is made after another join
    is kept from being hotter than it, wherever it lies; where that leads into a corner, only in one body with it; then
    what nothing holds first, from the inside outwards, and as they are listed. The best of these is given. Of very many joins
    the first way alone is tried: each takes long, and where it fails levels with exceptions are sooner done.
    """
    inwards = _inwards(problem)
    unheld_first = sorted(inwards, key=lambda task: _join_of(task).holds not in ("hand", "nothing"))
    best: Assignment | None = None
    orders = (inwards, unheld_first, inwards[::-1], list(problem.tasks))
    for order in orders if len(problem.tasks) <= MANY_TASKS else orders[:1]:
        for everywhere in (True, False):
            found = _without_corner(problem, order, everywhere=everywhere)
            best = better(problem, best, found)
            if best is not None and (len(problem.tasks) > MANY_TASKS or not best.objectives[0].value):
                return better(problem, best, _by_rank(problem))
    return better(problem, best, _by_rank(problem))


def _by_rank(problem: Problem) -> Assignment | None:
    """Give a plan whose heats are ranked, with as few solders as that takes; None where that breaks a rule, or takes long."""
    if len(problem.tasks) > MANY_TASKS:
        return None
    for solders in range(1, len(fillers_of(problem)) + 1):
        level = ranked_levels(problem, solders)
        if level is not None:
            heats = _in_heats(problem, level)
            return None if heats is None else measured(problem, heats)
    return None


def better(problem: Problem, one: Assignment | None, other: Assignment | None) -> Assignment | None:
    """Give the better of two plans by the order of preference."""
    if one is None or other is None:
        return one or other
    sign = 1 if problem.house.grade_policy == "easiest-that-serves" else -1

    def in_order(found: Assignment) -> list[float]:
        return [
            objective.value * (sign if objective.name in LARGEST else 1) for objective in found.objectives
        ]

    return min((one, other), key=in_order)


def _without_corner(problem: Problem, order: list[Task], *, everywhere: bool) -> Assignment | None:
    """Try again as long as each corner tells of a join that should have been made sooner."""
    urgent: frozenset[str] = frozenset()
    for _ in range(min(TRIES, max(3, TRIED_JOINS // len(problem.tasks)))):
        first = sorted(order, key=lambda task: task.id not in urgent)
        heats = _in_heats(problem, _levels(problem, first, everywhere=everywhere))
        if heats is None:
            return None
        found = gone_through(problem, heats)
        if isinstance(found, Assignment):
            return found
        more = urgent | {found} | {a for a, b in problem.orders if b == found}
        if more == urgent:
            return None
        urgent = more
    return None


def _levels(problem: Problem, order: list[Task], *, everywhere: bool) -> dict[str, int]:
    fillers = fillers_of(problem)
    level: dict[str, int] = {}
    before = _before(problem)
    for f, filler in enumerate(fillers):
        left = [task for task in order if filler in task.options and task.id not in level]
        ties = _Ties(tie for name in level for tie in problem.anatomy.joins[name].ties)
        grew = True
        while grew:
            grew = False
            for task in left:
                early = everywhere and before[task.id] - level.keys()
                if task.id not in level and not early and _fits(ties, task, before):
                    ties.add(task)
                    for a, b in problem.anatomy.joins[task.id].ties:
                        ties.tie(a, b)
                    level[task.id] = f
                    grew = True
    for task in problem.tasks:
        usable = [f for f, one in enumerate(fillers) if one in task.options]
        level.setdefault(task.id, usable[-1])
    return level


def _before(problem: Problem) -> dict[str, set[str]]:
    before: dict[str, set[str]] = {task.id: set() for task in problem.tasks}
    for a, b in problem.orders:
        before[b].add(a)
    return before


def _fits(ties: _Ties, task: Task, before: dict[str, set[str]]) -> bool:
    """Say whether there is room for a join in the heat of its body, and nothing in it that must come before."""
    body = {ties.of(node) for node in task.seeds}
    group = [one for root in body for one in ties.inside.get(root, ())] + [task]
    names = {one.id for one in group}
    return can_share(group) and not any(before[name] & names for name in names)


def _inwards(problem: Problem) -> list[Task]:
    """Give the joins from the outermost inwards, along a tree of the ties."""
    at: dict[str, list[Task]] = {}
    for task in problem.tasks:
        for node in sorted(task.seeds):
            at.setdefault(node, []).append(task)
    depth: dict[str, int] = {}
    waiting = sorted(at, key=lambda node: (-len(at[node]), node))[:1]
    rest = list(at)
    while rest or waiting:
        if not waiting:
            waiting = [rest.pop()]
        here = waiting.pop(0)
        depth.setdefault(here, 0)
        for task in at[here]:
            for node in sorted(task.seeds):
                if node not in depth:
                    depth[node] = depth[here] + 1
                    waiting.append(node)
    number = {task.id: t for t, task in enumerate(problem.tasks)}
    return sorted(problem.tasks, key=lambda task: (-max(depth[node] for node in task.seeds), number[task.id]))


def _groups(problem: Problem, level: dict[str, int], f: int) -> list[tuple[list[Task], frozenset[str]]]:
    """Give the joins of a level that lie in one body, those last that nothing holds afterwards, with the body."""
    hotter = (tie for name, own in level.items() if own < f for tie in problem.anatomy.joins[name].ties)
    ties = _Ties(hotter)
    for task in _inwards(problem):
        if level[task.id] == f:
            for a, b in problem.anatomy.joins[task.id].ties:
                ties.tie(a, b)
            ties.add(task)
    bodies: dict[str, set[str]] = {}
    for nodes in problem.anatomy.nodes.values():
        for node in nodes:
            bodies.setdefault(ties.of(node), set()).add(node)
    groups = [
        (sorted(group, key=lambda task: _join_of(task).holds in ("hand", "nothing")), frozenset(bodies[root]))
        for root, group in ties.inside.items()
        if group
    ]
    return sorted(groups, key=lambda one: -len(one[0]))


def _units(group: list[Task]) -> list[list[Task]]:
    """Give a group whole if one heat has room for it, else in the shares that a heat has room for."""
    if can_share(group):
        return [group]
    units: list[list[Task]] = []
    for task in group:
        if units and can_share([*units[-1], task]):
            units[-1].append(task)
        else:
            units.append([task])
    return units


def _join_of(task: Task) -> Join:
    assert task.join is not None
    return task.join


def _in_heats(problem: Problem, level: dict[str, int]) -> tuple[PlannedHeat, ...] | None:
    """Make what is ready, the hottest first, each heat filled with what has room in it."""
    fillers, heats, before = fillers_of(problem), list[PlannedHeat](), _before(problem)
    left: list[_Unit] = []
    for f in sorted(set(level.values())):
        for group, body in _groups(problem, level, f):
            left += [(f, unit, body) for unit in _units(group)]
    while left:
        heat = _next_heat(left, before)
        if heat is None:
            single = _apart(left)
            heat = _next_heat(single, before) or _next_heat(single, before, stepping_down=False)
        if heat is None:
            return None
        f, inside = heat
        lie = lies_of_task(inside)[0]
        heats.append(PlannedHeat(tuple(task.id for task in inside), fillers[f], lie, frozenset()))
        rest = ((f, [task for task in unit if task not in inside], body) for f, unit, body in left)
        left = [one for one in rest if one[1]]
    return tuple(heats)


def _next_heat(
    left: list[_Unit], before: dict[str, set[str]], *, stepping_down: bool = True
) -> tuple[int, list[Task]] | None:
    """Give the hottest level of which something in one body is ready, with that."""
    waiting = {task.id for _, unit, _ in left for task in unit}
    for f, unit, body in left:
        if any(before[task.id] & waiting for task in unit):
            continue
        early = stepping_down and any(other < f and _meet(body, nodes) for other, _, nodes in left)
        if not early and can_share(unit):
            return f, unit
    return None


@lru_cache(maxsize=100_000)
def _meet(one: frozenset[str], other: frozenset[str]) -> bool:
    return not one.isdisjoint(other)


def _apart(left: list[_Unit]) -> list[_Unit]:
    """Give every join for itself: part of a group is made before the rest, and runs again with it."""
    singles = [(f, [task], body) for f, unit, body in left for task in unit]
    return sorted(singles, key=lambda one: (one[0], _join_of(one[1][0]).holds in ("hand", "nothing")))

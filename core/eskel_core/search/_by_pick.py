"""A plan for work that is picked place by place: quick, sound, and not proven to be the best.

A small flame reaches only the joins that lie near, so most of picked wire work takes the hardest solder. Joins near each other
that take one solder are made under one flame, in a *group*; of two solders the harder comes first. Groups of one body fill up
heats, as far as a heat has places.
"""

from __future__ import annotations

from ..demands import Problem, Task, nearest_first
from ..rules import FIRM_C
from ._assignment import Assignment, PlannedHeat
from ._levels import can_share, fillers_of
from ._measured import lies_of_task, measured
from ._objectives import is_chosen


def by_pick(problem: Problem) -> Assignment | None:
    """Give a plan for a problem of joins, most of them made in local heats; None where the ways taken lead into a corner."""
    if any(task.join is None for task in problem.tasks):
        return None
    near = _near(problem)
    level = _levels(problem, near)
    heats = None if level is None else _in_heats(problem, near, level)
    return None if heats is None else measured(problem, heats)


def _near(problem: Problem) -> dict[str, list[str]]:
    """Give, for each task, those of which one is reached by a heat of the other that may come after it."""
    cooler, names = problem.reach.cooler_c, [task.id for task in problem.tasks]

    def reached(one: str, other: str) -> bool:
        return (other, one) not in problem.orders and cooler.get((one, other), 0.0) < FIRM_C

    return {
        one: [other for other in names if other != one and (reached(one, other) or reached(other, one))]
        for one in names
    }


def _levels(problem: Problem, near: dict[str, list[str]]) -> dict[str, int] | None:
    """Give each task the hardest solder with which its group has room in a heat, and which comes softer than what it must follow."""
    fillers, tasks = fillers_of(problem), {task.id: task for task in problem.tasks}
    before: dict[str, set[str]] = {name: set() for name in tasks}
    for a, b in problem.orders:
        before[b].add(a)
    level: dict[str, int] = {}
    chosen = {task.id for task in problem.tasks if task.join is not None and is_chosen(problem, task.join)}
    # What bears load takes the harder solder before its neighbours do, after what it waits for itself.
    first = chosen | {a for name in chosen for a in before[name]}
    for task in sorted(problem.tasks, key=lambda one: (one.id not in first, len(before[one.id]))):
        for f, filler in enumerate(fillers):
            if filler not in task.options or any(level[a] >= f for a in before[task.id] & set(near[task.id])):
                continue
            group = [*_group(near, {**level, task.id: f}, task.id)]
            ordered = any(before[name] & set(group) for name in group)
            if not ordered and can_share([tasks[name] for name in group]):
                level[task.id] = f
                break
        else:
            return None
    return level


def _group(near: dict[str, list[str]], level: dict[str, int], name: str) -> list[str]:
    """Give a task and all of its solder that lie near each other."""
    own = level[name]
    ways = nearest_first([name], lambda one: ((o, None) for o in near[one] if level.get(o) == own))
    return [name, *(one for one, _, _ in ways)]


def _in_heats(
    problem: Problem, near: dict[str, list[str]], level: dict[str, int]
) -> tuple[PlannedHeat, ...] | None:
    """Fill one heat after another with groups that are ready, of one solder and one body; None where groups wait for each other."""
    fillers, tasks = fillers_of(problem), {task.id: task for task in problem.tasks}
    groups = {frozenset(_group(near, level, name)) for name in level}
    left = sorted(groups, key=lambda group: (min(level[name] for name in group), -len(group), min(group)))
    made: list[str] = []
    heats: list[PlannedHeat] = []
    while left:
        first = next((group for group in left if _ready(problem, near, level, group, left)), None)
        if first is None:
            return None
        inside = _of_one_body(problem, made, [tasks[name] for name in sorted(first)])
        own = level[inside[0].id]
        for group in left:
            more = [tasks[name] for name in sorted(group)]
            fits = group != first and level[more[0].id] == own and can_share([*inside, *more])
            if (
                fits
                and _ready(problem, near, level, group, left)
                and len(_of_one_body(problem, made, [*inside, *more])) == len(inside) + len(more)
            ):
                inside += more
        done = {task.id for task in inside}
        made += sorted(done)
        left = [rest for group in left if (rest := group - done)]
        lie = next(iter(lies_of_task(inside)))
        heats.append(PlannedHeat(tuple(task.id for task in inside), fillers[own], lie, frozenset()))
    return tuple(heats)


def _ready(
    problem: Problem,
    near: dict[str, list[str]],
    level: dict[str, int],
    group: frozenset[str],
    left: list[frozenset[str]],
) -> bool:
    """Say whether all that an order, or a harder solder near by, puts before a group is made."""
    waiting = {name for other in left if other != group for name in other}
    ordered = any((a, b) in problem.orders for b in group for a in waiting)
    harder = any(level[other] < level[name] for name in group for other in near[name] if other in waiting)
    return not ordered and not harder


def _of_one_body(problem: Problem, made: list[str], inside: list[Task]) -> list[Task]:
    """Give those of some tasks that lie in one body with the first, with what they tie together themselves."""
    body = problem.anatomy.body(inside[0].seeds, [*made, *(task.id for task in inside)])
    return [task for task in inside if task.seeds <= body]

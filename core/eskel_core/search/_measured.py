"""A plan gone through heat by heat: what each does to the joins made before it, and what the plan comes to."""

from __future__ import annotations

from dataclasses import dataclass

from ..demands import Bodies, Problem, Task, longest_chain
from ..piece import Join, metal_of
from ..rules import (
    ALL_LIES,
    Filler,
    Lie,
    can_be_protected,
    comes_off,
    lies_for,
    loaded_when_soft,
    shield_c,
    state_at,
)
from ._assignment import Assignment, PlannedHeat, in_rounds
from ._objectives import (
    FLOW_OF_CHOSEN,
    FLOW_OF_REST,
    HEATS,
    NEAR,
    OBJECTIVES,
    PROTECTED,
    ROUNDS,
    RUNS,
    SOFT,
    SOLDERS,
    ObjectiveValue,
    is_chosen,
)


@dataclass(frozen=True)
class Disturbed:
    """What a heat does to the joins made before it: how many run again, are soft while loaded, are protected."""

    runs: int
    soft: int
    protected: frozenset[str]


def disturbed_by(
    problem: Problem, made: dict[str, Filler], body: frozenset[str], heat: PlannedHeat
) -> Disturbed | str:
    """Say what a heat does to the joins made before it in its body; the join's id where one runs that nothing holds."""
    runs = soft = 0
    protected = set()
    tasks = {task.id: task for task in problem.tasks}
    for name, own in made.items():
        join = tasks[name].join
        if join is None:
            continue
        touching = min(problem.anatomy.joins[name].nodes) not in body
        reach = (
            contact_cooler_c(problem, name, heat.tasks) if touching else problem.reach.of(name, heat.tasks)
        )
        if reach is None:
            continue
        cooler = shield_c(join, heat.tasks) + reach
        state = state_at(own, heat.filler.working_c - cooler, problem.house)
        if state == "firm":
            continue
        held = heat.lie in problem.lies_that_hold[name]
        if touching and state == "flows" and problem.asks("hold", name) and not holds_hanging(problem, join):
            return name
        guard = not held and can_be_protected(join) and comes_off(problem.piece, join)
        if state == "flows":
            if not held and not guard and problem.asks("hold", name):
                return name
            runs += problem.house.grade_policy != "same-while-held"
            protected |= {name} if guard else set()
        elif loaded_when_soft(join, held):
            if guard and join.loaded is None:
                protected.add(name)
            else:
                soft += 1
    return Disturbed(runs, soft, frozenset(protected))


def contact_cooler_c(problem: Problem, join: str, tasks: tuple[str, ...]) -> float | None:
    """Give how much cooler than a heat a join stays on what hangs in what is soldered, °C; None where the flame does not reach it."""
    found = [c for task in tasks if (c := problem.reach.contact_c.get((join, task))) is not None]
    return min(found, default=None)


def holds_hanging(problem: Problem, join: Join) -> bool:
    """Say whether a join that runs while the work hangs in another part stays together: its weight alone does not hold it."""
    always = len(problem.lies_that_hold[join.id]) == len(ALL_LIES)
    return always or (can_be_protected(join) and comes_off(problem.piece, join))


def _lies(task: Task) -> tuple[Lie, ...]:
    return ALL_LIES if task.join is None else lies_for(task.join)


def lies_of_task(tasks: list[Task]) -> tuple[Lie, ...]:
    """Give the lies in which some tasks can be done together."""
    return tuple(lie for lie in ALL_LIES if all(lie in _lies(task) for task in tasks))


def measured(problem: Problem, heats: tuple[PlannedHeat, ...]) -> Assignment | None:
    """Give a plan with its objectives, or None where it breaks a rule; no bound is claimed beyond what is plain."""
    found = gone_through(problem, heats)
    return found if isinstance(found, Assignment) else None


def gone_through(problem: Problem, heats: tuple[PlannedHeat, ...]) -> Assignment | str:
    """Go through a plan heat by heat; give it with its objectives, or the join at which it breaks a rule."""
    tasks = {task.id: task for task in problem.tasks}
    ties, made = Bodies(), dict[str, Filler]()
    sums = dict.fromkeys(OBJECTIVES, 0.0) | {HEATS: len(heats)}
    done: list[PlannedHeat] = []
    for heat in heats:
        inside = [tasks[name] for name in heat.tasks]
        for task in inside:
            for a, b in problem.anatomy.joins[task.id].ties if task.join else ():
                ties.tie(a, b)
        roots = {ties.of(node) for task in inside for node in task.seeds}
        body = frozenset(
            node for group in problem.anatomy.nodes.values() for node in group if ties.of(node) in roots
        )
        found = disturbed_by(problem, made, body, heat)
        if isinstance(found, str):
            return found
        if _melts(problem, body, heat.filler):
            return inside[0].id
        done.append(heat._replace(protected=found.protected))
        made |= {task.id: heat.filler for task in inside if task.join}
        sums[RUNS] += found.runs
        sums[SOFT] += found.soft
        sums[NEAR] += any(problem.is_near(heat.filler, node) for node in body)
        sums[PROTECTED] += len(found.protected)
        for task in inside if heat.filler.solder else ():
            chosen = task.join is not None and is_chosen(problem, task.join)
            sums[FLOW_OF_CHOSEN if chosen else FLOW_OF_REST] += round(heat.filler.flow_c)
    placed = in_rounds(problem, done)
    sums[ROUNDS] = max((heat.round for heat in placed), default=0)
    sums[SOLDERS] = len({heat.filler.key for heat in heats if heat.filler.solder})
    bounds = plain_bounds(problem)
    return Assignment(placed, tuple(ObjectiveValue(name, sums[name], bounds[name]) for name in OBJECTIVES))


def _melts(problem: Problem, body: frozenset[str], filler: Filler) -> bool:
    for part in {problem.anatomy.part(node) for node in body}:
        melts = filler.melts(metal_of(problem.piece, part))
        if (melts and problem.asks("melt", part)) or problem.asks("tender", part):
            return True
    return False


def plain_bounds(problem: Problem) -> dict[str, float]:
    """Give bounds that hold of every plan: no flow point in sum beats each join's hardest solder (or easiest, by the house)."""
    best = min if problem.house.grade_policy == "easiest-that-serves" else max
    bounds = dict.fromkeys(OBJECTIVES, 0.0) | {HEATS: 1, ROUNDS: longest_chain(problem)}
    for task in problem.tasks:
        flows = [round(option.flow_c) for option in task.options if option.solder]
        if task.join is not None and flows:
            bounds[FLOW_OF_CHOSEN if is_chosen(problem, task.join) else FLOW_OF_REST] += best(flows)
    return bounds


def calmed(problem: Problem, found: Assignment) -> Assignment:
    """Give a plan whose work is turned over no oftener than its objectives need: each heat lies as the last one of its body, else front up."""
    tasks = {task.id: task for task in problem.tasks}
    made: dict[str, Filler] = {}
    lay: list[tuple[frozenset[str], Lie]] = []
    heats: list[PlannedHeat] = []
    for heat in found.heats:
        inside = [tasks[name] for name in heat.tasks]
        seeds = frozenset(node for task in inside for node in task.seeds)
        own = {task.id: heat.filler for task in inside if task.join is not None}
        body = problem.anatomy.body(seeds, [*made, *own])
        last = next((lie for nodes, lie in reversed(lay) if nodes & body), "front-up")
        wanted = sorted(lies_of_task(inside), key=lambda lie: lie != last)
        settled = disturbed_by(problem, made, body, heat)
        for lie in wanted:
            turned = disturbed_by(problem, made, body, heat._replace(lie=lie))
            if isinstance(turned, Disturbed) and _as_calm(turned, settled):
                heat = heat._replace(lie=lie, protected=turned.protected)
                break
        made |= own
        lay.append((body, heat.lie))
        heats.append(heat)
    return Assignment(tuple(heats), found.objectives)


def _as_calm(one: Disturbed, other: Disturbed | str) -> bool:
    return not isinstance(other, str) and (one.runs, one.soft, len(one.protected)) == (
        other.runs,
        other.soft,
        len(other.protected),
    )

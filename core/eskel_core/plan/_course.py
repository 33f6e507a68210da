"""Turn a solved assignment into a course of heats: bodies, work between, vents, anneals put in."""

from __future__ import annotations

from ..demands import Problem
from ..piece import Bench, HeatFrom, base_id, of_one_heat
from ..rules import Course, Heat
from ..search import Assignment
from ._past import without_past
from ._timeline import each_go, lay_out, put_in_anneals


def make_course(problem: Problem, assignment: Assignment) -> Course:
    """Give the course of an assignment, with the anneals that forming asks for put in."""
    tasks = {task.id: task for task in problem.tasks}
    made_in: dict[str, int] = {}
    fillers, heats = {}, []
    for number, (names, filler, lie, guarded, of_round) in enumerate(assignment.heats, start=1):
        joins = tuple(join.id for join in problem.piece.joins if join.id in names)
        work = next((name for name in names if tasks[name].work), None)
        for name in joins:
            made_in[name], fillers[name] = number, filler
        seeds = frozenset(node for name in names for node in tasks[name].seeds)
        body = problem.anatomy.body(seeds, list(made_in))
        heats.append(Heat(number, filler, joins, work, lie, body, guarded, round=of_round))
    works_at = {heat.work: heat.number for heat in heats if heat.work}
    timeline = lay_out(problem, made_in | works_at, tuple(heats))
    slots = {name: timeline.slots[name] for name in timeline.order}
    course = Course(
        problem.piece,
        problem.house,
        problem.anatomy,
        tuple(heats),
        made_in,
        fillers,
        slots,
        bench=problem.bench,
        reach=problem.reach,
    )
    return each_go(put_in_anneals(without_past(course), timeline.order))


def parts_of_heat(course: Course, heat: Heat) -> tuple[str, ...]:
    """Give the ids of the parts in a heat, in the order of the list."""
    names = {base_id(node) for node in heat.body}
    names |= {base_id(one) for work in course.piece.work if work.id == heat.work for one in work.parts}
    return tuple(part.id for part in course.piece.parts if part.id in names)


def heat_from(course: Course, heat: Heat) -> HeatFrom:
    """Give from where a heat is heated: as its joins or its work say, else as the house does."""
    return next(
        (one.heat_from for one in of_one_heat(course.piece, heat.joins, heat.work) if one.heat_from),
        course.house.heat_from,
    )


def flux_of(course: Course, bench: Bench, heat: Heat) -> str:
    """Give the flux of a heat: as its joins or its work say, else that of the bench."""
    return next(
        (one.flux for one in of_one_heat(course.piece, heat.joins, heat.work) if one.flux),
        bench.flux or "white-paste",
    )

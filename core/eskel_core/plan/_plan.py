"""Plan a piece: make the problem, solve it, and write the plan, or name the conflict."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from functools import lru_cache

from ..demands import Demand, Problem, circle, make_problem, moved_joins, tender_last, without_moves
from ..faults import Fault, Refused
from ..piece import Bench, HouseOverrides, Piece, resolve_house
from ..rules import Course, Finding, find_all, reflow_c
from ..search import FULL, Assignment, ObjectiveValue, cost_in_words, find_conflict, solve
from ..solver import Effort
from ..state import Remark, State, forbidden
from ._amounts import cut_lines, solder_lines
from ._course import make_course
from ._cuts import cuts_of, never_done
from ._past import left_of
from ._script import Script
from ._steps import written_out
from ._types import (
    Band,
    BrokenDemand,
    Caution,
    Conflict,
    HeatStep,
    MovedByHand,
    Objective,
    Plan,
    Step,
    WorkStep,
)
from ._why import explain


def plan(
    piece: Piece, house: HouseOverrides | None = None, bench: Bench | None = None, *, effort: float = FULL
) -> Plan:
    """Plan a piece by its house rules and bench, laid over the smith's own and the shipped ones.

    With less `effort` a piece of many joins has a plan sooner, perhaps with a gap where more would prove it the best.
    Raises Refused where neither a plan nor the proof that there is none was found within the effort.
    """
    return _planned(piece, house, bench, effort).plan


@dataclass(frozen=True)
class _Planned:
    """A plan, and the script that it was written from; none where no plan is possible."""

    plan: Plan
    script: Script | None = None


_MOST_CUTS = 20
"""A plan that would do what must never be done is cut off so many times, and another is looked for."""


def _planned(piece: Piece, house: HouseOverrides | None, bench: Bench | None, effort: float) -> _Planned:
    problem, assignment = solution(piece, house, bench, effort=effort)
    for _ in range(_MOST_CUTS):
        going_round = _circle_of_work(problem)
        if going_round:
            return _Planned(_without_steps(piece, _conflict(going_round)))
        if assignment is None:
            return _Planned(_impossible(problem))
        course = make_course(problem, assignment)
        script = written_out(course, problem.bench)
        bad = [(n, remark) for n, state, act in script.acts for remark in forbidden(state, act)]
        if not bad:
            made = _written(problem, assignment, course, script)
            return _Planned(_with_moves(made, piece, house, bench, assignment, effort), script)
        cuts = cuts_of(course, script, bad)
        if not cuts:
            break
        problem = replace(problem, demands=(*problem.demands, *cuts))
        assignment = _solved(_ByContent(problem.content, effort, problem))
    return _Planned(_without_steps(piece, never_done([remark for _, remark in bad])))


def _with_moves(
    made: Plan,
    piece: Piece,
    house: HouseOverrides | None,
    bench: Bench | None,
    assignment: Assignment,
    effort: float,
) -> Plan:
    """Give a plan with what the moves by hand cost."""
    moved = moved_joins(piece)
    if not moved:
        return made
    _, best = solution(without_moves(piece), house, bench, effort=effort)
    return made.model_copy(update={"by_hand": _moved(moved, best, assignment)})


def solution(
    piece: Piece, house: HouseOverrides | None = None, bench: Bench | None = None, *, effort: float = FULL
) -> tuple[Problem, Assignment | None]:
    """Give a piece made ready for the solver and its best heats, habits let go where they alone make it impossible."""
    problem = make_problem(piece, resolve_house(house, piece.house), bench)
    assignment = _solved(_ByContent(problem.content, effort, problem))
    if assignment is None:
        habits = frozenset(demand for demand in problem.demands if demand.code == "habit")
        problem = problem.without(habits)
        assignment = _solved(_ByContent(problem.content, effort, problem)) if habits else None
    return problem, None if assignment is None else _tender_last(problem, assignment, effort)


def _tender_last(problem: Problem, found: Assignment, effort: float) -> Assignment:
    """Give a plan as good in which what was bought or is clad comes last; the one found where there is none."""
    asked = tender_last(problem)
    if asked is None:
        return found
    try:
        other = _solved(_ByContent(asked.content, effort, asked))
    except Refused:
        return found
    values = [one.value for one in found.objectives]
    if other is None or [one.value for one in other.objectives] != values:
        return found
    return replace(other, objectives=found.objectives)


def _moved(moved: tuple[str, ...], best: Assignment | None, found: Assignment) -> MovedByHand | None:
    """Say what moves by hand cost against the plan without them."""
    if best is None:
        return None
    cost = cost_in_words(best.objectives, found.objectives)
    return MovedByHand(
        joins=moved,
        best=tuple(
            Objective(name=objective.name, value=objective.value, bound=objective.bound)
            for objective in best.objectives
        ),
        cost=f"Against the best: {cost}." if cost else "It is as good as the best.",
    )


@dataclass(frozen=True)
class _ByContent:
    """A problem, known by its content: the same content has the same solution, so an edit of sizes needs none."""

    content: str
    effort: float
    problem: Problem = field(compare=False)


@lru_cache(maxsize=256)
def _solved(asked: _ByContent) -> Assignment | None:
    return solve(asked.problem, asked.effort)


@dataclass(frozen=True)
class Standing:
    """The work after a step of a plan, by the step's number, and what the step did that is forbidden."""

    n: int
    state: State
    forbidden: tuple[Remark, ...]


def standing(
    piece: Piece, house: HouseOverrides | None = None, bench: Bench | None = None, *, effort: float = FULL
) -> tuple[Plan, tuple[Standing, ...]]:
    """Plan a piece, and give the work as it stands after each step; none where no plan is possible.

    Raises Refused where neither a plan nor the proof that there is none was found within the effort.
    """
    planned = _planned(piece, house, bench, effort)
    script = planned.script
    if script is None:
        return planned.plan, ()
    rows = zip(script.steps, script.states, strict=True)
    return planned.plan, tuple(Standing(step.n, state, tuple(_never(script, step.n))) for step, state in rows)


def _never(script: Script, n: int) -> Iterable[Remark]:
    """Give what a step does that is forbidden by the work as it stood then."""
    return (remark for at, state, act in script.acts if at == n for remark in forbidden(state, act))


def _written(problem: Problem, assignment: Assignment, course: Course, script: Script) -> Plan:
    steps = tuple(script.steps)
    objectives = tuple(_objective(objective, course) for objective in left_of(problem, assignment))
    gap = next((objective for objective in objectives if objective.value != objective.bound), None)
    by_state = ((finding, n) for n, finding in script.found)
    by_course = ((finding, _step_of(finding, steps)) for finding in find_all(course))
    cautions = _cautions((*by_state, *by_course))
    return Plan(
        piece=problem.piece.name,
        status="best" if gap is None else "good",
        objectives=objectives,
        bound_gap=gap,
        conflict=None,
        steps=steps,
        cautions=cautions,
        cut_list=cut_lines(problem.piece),
        solder_list=solder_lines(course),
        why=explain(problem, course),
        bands=_bands(course),
        stops=tuple(caution for caution in cautions if caution.severity == "stop"),
    )


def _objective(one: ObjectiveValue, course: Course) -> Objective:
    """Give an objective for print; the heats that the planner put in are counted with the rest."""
    more = sum(1 for heat in course.heats if heat.put_in) if one.name in ("heats", "rounds") else 0
    return Objective(name=one.name, value=one.value + more, bound=one.bound + more)


# What is the same at many steps is told at the first of them.
_ONCE = frozenset({"wet-on-steel", "red-short"})


def _cautions(findings: Iterable[tuple[Finding, int | None]]) -> tuple[Caution, ...]:
    """Give what the rules say, each code once a step with all its places, what can hurt someone first."""
    found: dict[tuple[str, int | None], Caution] = {}
    for finding, step in findings:
        first = next((at for code, at in found if code == finding.code), step)
        more = _caution(finding, first if finding.code in _ONCE else step)
        known = found.get((more.code, more.step))
        if finding.code in _ONCE and known is not None:
            about = tuple(dict.fromkeys((*known.about, *more.about)))
            more = known.model_copy(update={"about": about})
        elif known is not None and known.text != more.text:
            about = tuple(dict.fromkeys((*known.about, *more.about)))
            more = known.model_copy(update={"about": about, "text": f"{known.text} {more.text}"})
        found[more.code, more.step] = more
    return tuple(sorted(found.values(), key=lambda one: one.severity != "danger"))


def _caution(finding: Finding, step: int | None) -> Caution:
    return Caution(
        code=finding.code,
        severity=finding.severity,
        step=step,
        about=finding.about,
        text=finding.text,
        remedy=finding.remedy,
    )


def _step_of(finding: Finding, steps: tuple[Step, ...]) -> int | None:
    for step in steps:
        if isinstance(step, WorkStep) and finding.work is not None and step.work == finding.work:
            return step.n
        if isinstance(step, HeatStep) and finding.work is None and step.heat_no == finding.heat:
            return step.n
    return None


def _bands(course: Course) -> tuple[Band, ...]:
    titles = {join.id: join.title for join in course.piece.joins}
    return tuple(
        Band(
            join=name,
            title=titles[name],
            heat_no=course.made_in[name],
            solidus_c=filler.solidus_c,
            reflow_c=reflow_c(filler, course.house),
        )
        for name, filler in course.fillers.items()
    )


def conflict_of(problem: Problem, effort: float = FULL) -> tuple[Demand, ...]:
    """Give demands of a problem without a solution of which letting any single one go makes the rest possible."""
    return find_conflict(problem, Effort(effort))


def _circle_of_work(problem: Problem) -> tuple[Demand, ...]:
    """Give orders that go round in a circle through work without heat: the search asks only about what takes a heat."""
    orders = {demand.ids: demand for demand in problem.demands if demand.kind == "order"}
    found = tuple(orders[ids] for ids in circle(orders))
    tasks = {task.id for task in problem.tasks}
    return found if {name for one in found for name in one.ids} - tasks else ()


def _impossible(problem: Problem) -> Plan:
    return _without_steps(problem.piece, _conflict(conflict_of(problem)))


def not_planned(piece: Piece, faults: Iterable[Fault]) -> Plan:
    """Give a plan without steps whose conflict says why none was found; its code is not one of a proven conflict."""
    demands = tuple(
        BrokenDemand(
            kind="effort",
            code=fault.code,
            ids=(),
            text=f"{fault.rule[:1].upper()}{fault.rule[1:]}: not so here.",
            remedy=fault.remedy.removesuffix("."),
        )
        for fault in faults
    )
    return _without_steps(piece, Conflict(ids=(), codes=("undecided",), demands=demands))


def _without_steps(piece: Piece, conflict: Conflict) -> Plan:
    return Plan(
        piece=piece.name,
        status="impossible",
        objectives=(),
        bound_gap=None,
        conflict=conflict,
        steps=(),
        cautions=(),
        cut_list=cut_lines(piece),
        solder_list=(),
        why=(),
        bands=(),
    )


def _conflict(demands: tuple[Demand, ...]) -> Conflict:
    return Conflict(
        ids=tuple(dict.fromkeys(name for demand in demands for name in demand.ids)),
        codes=tuple(dict.fromkeys(demand.code for demand in demands)),
        demands=tuple(
            BrokenDemand(
                kind=demand.kind, code=demand.code, ids=demand.ids, text=demand.text, remedy=demand.remedy
            )
            for demand in demands
        ),
    )

"""What else a join could be: every other solder and every other heat, asked of the solver one by one."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import takewhile

from ..demands import Problem, apart_by_order, why_apart
from ..faults import Refused, refuse
from ..metals import Grade, Solder, solder_suits
from ..piece import Bench, ByHand, HouseOverrides, Join, Piece, metal_of, stocked_solders
from ..rules import Course, Heat, states_in
from ..search import Assignment, cost_in_words, is_as_good
from ..units import celsius
from ._course import make_course
from ._names import grade_named, in_words
from ._plan import conflict_of, solution
from ._types import Alternative, JoinWhy, Verdict
from ._why import grade_in_words, place_in_words

WHY = 5.0
_UNDECIDED = "Not found out in the time that a question has: try it on the ladder."
# What the question itself asks for is no reason against it.
_MOVED = frozenset({"fixed", "shares", "apart"})


@dataclass(frozen=True)
class _JoinInPlan:
    """A join in the plan that stands, and all that another plan for it is sought in."""

    piece: Piece
    house: HouseOverrides | None
    bench: Bench | None
    problem: Problem
    best: Assignment
    course: Course
    join: Join
    effort: float


def why_join(
    piece: Piece,
    name: str,
    house: HouseOverrides | None = None,
    bench: Bench | None = None,
    *,
    effort: float = WHY,
) -> JoinWhy:
    """Say why a join has its solder and its heat, and for each other one what would come of it.

    The `effort` (in the solver's units, about a second each) is shared out among the others; what it does not reach is
    told as undecided. Raises Refused where the piece has no such heated join, or no plan.
    """
    join = next((one for one in piece.joins if one.id == name and one.heated), None)
    if join is None:
        raise refuse(
            "unknown-id", "join", name, "a heated join of that id exists", "Name one of the piece's joins."
        )
    if join.made:
        raise refuse(
            "contradiction",
            "join",
            name,
            "a heat to come makes the join",
            "Ask of one that is still to be made.",
        )
    problem, best = solution(piece, house, bench)
    if best is None:
        raise refuse(
            "no-plan", "join", name, "the piece has a plan", "Resolve the conflict that the plan names first."
        )
    course = make_course(problem, best)
    heat = course.heats[course.made_in[name] - 1]
    others = len(stocked_solders(problem.bench)) + len(course.heats)
    asked = _JoinInPlan(piece, house, bench, problem, best, course, join, effort / others)
    found = [*_solders(asked, heat), *_heats(asked, heat)]
    return JoinWhy(
        join=name,
        title=join.title,
        heat_no=heat.number,
        solder=heat.filler.solder.id if heat.filler.solder else None,
        grade=grade_in_words(problem, course, heat),
        place=place_in_words(problem, course, heat),
        alternatives=tuple(found),
    )


def _solders(asked: _JoinInPlan, heat: Heat) -> list[Alternative]:
    if asked.join.kind == "fuse":
        return []
    rows = {solder.id: solder for solder, _ in stocked_solders(asked.problem.bench) if not solder.cadmium}
    hardest_first = sorted(rows.values(), key=lambda one: (-one.flow_c, one.id))
    return [_solder(asked, one) for one in hardest_first if one.id != heat.filler.key]


def _solder(asked: _JoinInPlan, solder: Solder) -> Alternative:
    barred = _barred(asked, solder)
    named = grade_named(solder, [one for one, _ in stocked_solders(asked.problem.bench)])
    title = f"{named[0].upper()}{named[1:]}"
    if barred is not None:
        return Alternative(
            kind="solder",
            solder=solder.id,
            title=title,
            verdict="impossible",
            text=barred,
            heat_no=None,
        )
    moved = _with(asked.join, grade=solder.grade)
    fixed = moved.model_copy(update={"solder": solder.id, "grade": None, "by_hand": _without_grade(moved)})
    verdict, text = _outcome(asked, fixed)
    return Alternative(kind="solder", solder=solder.id, title=title, verdict=verdict, text=text, heat_no=None)


def _without_grade(join: Join) -> ByHand | None:
    return join.by_hand.model_copy(update={"grade": None}) if join.by_hand else None


def _barred(asked: _JoinInPlan, solder: Solder) -> str | None:
    """Say what of nature keeps a solder from a join, before anything is solved."""
    for end in asked.join.between:
        metal = metal_of(asked.piece, end)
        if metal is not None and not solder_suits(solder, metal):
            return f"It does not take to {metal.name.lower()}."
        if metal is not None and solder.flow_c + asked.problem.house.overshoot_c >= metal.solidus_c:
            working = solder.flow_c + asked.problem.house.overshoot_c
            return f"{metal.name} begins to melt at {celsius(metal.solidus_c)}, and its heat goes to {celsius(working)}."
    return None


def _heats(asked: _JoinInPlan, own: Heat) -> list[Alternative]:
    """Ask for every other heat in which something is joined, and for one of its own where it shares."""
    titles = {join.id: join.title for join in asked.piece.joins}
    found = []
    for heat in asked.course.heats:
        if heat.number == own.number or not heat.joins:
            continue
        mates = in_words([titles[name] for name in heat.joins])
        moved = _with(asked.join, shares=(heat.joins[0],))
        verdict, text = _with_others(asked, heat) or _outcome(asked, moved)
        title = f"in heat {heat.number}, with {mates}"
        found.append(
            Alternative(
                kind="heat", solder=None, title=title, verdict=verdict, text=text, heat_no=heat.number
            )
        )
    mates_here = [name for name in own.joins if name != asked.join.id]
    if mates_here:
        moved = _with(asked.join, apart=tuple(mates_here))
        verdict, text = _outcome(asked, moved)
        found.append(
            Alternative(
                kind="heat",
                solder=None,
                title="in a heat of its own",
                verdict=verdict,
                text=text,
                heat_no=None,
            )
        )
    return found


def _with_others(asked: _JoinInPlan, heat: Heat) -> tuple[Verdict, str] | None:
    """Say what keeps a join out of a heat whatever else is planned."""
    for other in asked.piece.joins:
        if other.id not in heat.joins:
            continue
        reason = why_apart(asked.piece, asked.join, other) or apart_by_order(
            asked.problem, asked.join.id, other.id
        )
        if reason is not None:
            return "impossible", f"{reason[0].upper()}{reason[1:]}."
    return None


def _with(
    join: Join, grade: Grade | None = None, shares: tuple[str, ...] = (), apart: tuple[str, ...] = ()
) -> Join:
    """Give a join with one more move by hand; a move to another heat lets earlier moves of that sort go."""
    before = join.by_hand or ByHand()
    moved = before.model_copy(update={"grade": grade or before.grade, "shares": shares, "apart": apart})
    return join.model_copy(update={"by_hand": moved})


def _outcome(asked: _JoinInPlan, changed: Join) -> tuple[Verdict, str]:
    """Solve the piece with one join changed, and say what comes of it."""
    joins = tuple(changed if join.id == changed.id else join for join in asked.piece.joins)
    piece = asked.piece.model_copy(update={"joins": joins})
    try:
        problem, found = solution(piece, asked.house, asked.bench, effort=asked.effort)
    except Refused:
        return "undecided", _UNDECIDED
    if found is None:
        demands = conflict_of(problem, asked.effort)
        against = [
            demand.text for demand in demands if not (demand.kind in _MOVED and asked.join.id in demand.ids)
        ]
        return "impossible", " ".join(against) or "No plan does that."
    if is_as_good(asked.best.objectives, found.objectives):
        return "as-good", "As good: the plan took the other only by the order of its list."
    # What a question's time did not prove is told of no plan.
    known = len(tuple(takewhile(lambda one: one.proven, found.objectives)))
    cost = cost_in_words(asked.best.objectives[:known], found.objectives[:known])
    if not cost and known < len(found.objectives):
        return "undecided", _UNDECIDED
    return "worse", f"Worse: {cost}.{_named(asked, problem, found)}"


def _named(asked: _JoinInPlan, problem: Problem, found: Assignment) -> str:
    """Name the joins that run again, or are soft, where the best plan leaves them in peace."""
    course = make_course(problem, found)
    before, after = _disturbed(asked.course), _disturbed(course)
    told = []
    for state, words in (("flows", "would run again"), ("soft", "would be soft")):
        fresh = [one for one in after[state] if one not in before[state]]
        titles = {join.id: join.title for join in asked.piece.joins}
        told += [f" {titles[name]} {words} in heat {after[state][name]}." for name in fresh[:3]]
    return "".join(told)


def _disturbed(course: Course) -> dict[str, dict[str, int]]:
    found: dict[str, dict[str, int]] = {"flows": {}, "soft": {}}
    for heat in course.heats:
        for join, state in states_in(course, heat):
            if state != "firm":
                found[state].setdefault(join.id, heat.number)
    return found

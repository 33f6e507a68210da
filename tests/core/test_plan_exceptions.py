"""Levels with exceptions: where some joins must run again, held against trying everything, and against counting."""

import json
from typing import Any

import pytest

from eskel_core.demands import Problem, make_problem
from eskel_core.piece import Piece, piece_from_object, resolve_house, write_piece
from eskel_core.plan import QUICK, plan
from eskel_core.search import Assignment, solve
from eskel_core.search._build_levels import build_with_exceptions
from eskel_core.search._by_hand import by_hand
from eskel_core.search._excepted import Way, add_ways
from eskel_core.search._exceptions import is_impossible, with_exceptions
from eskel_core.search._measured import measured
from eskel_core.search._solve import EXCEPTING
from eskel_core.solver import Effort
from tests.core.exhaustive import best_objectives
from tests.core.pieces import US, generated, join, piece, plate, seeds, wire

TWO = ["us-hard", "us-easy"]
ENOUGH = 20.0


def problem_of(one: Piece) -> Problem:
    return make_problem(one, resolve_house(one.house))


def of_two_solders(seed: int, joins: int) -> Piece:
    """A generated piece for two solders only, without shields and picks, so that many joins must run again."""
    plain = json.loads(write_piece(generated(seed, joins))) | {"bench": {"solders": TWO}}
    plain.pop("house", None)
    for row in plain["joins"]:
        row.pop("shields", None)
    return piece_from_object(plain)


def star(count: int, **more: dict[str, Any]) -> Piece:
    """So many wires on one plate, which all heats have in the flame; six fit into a heat."""
    rows = [join(f"j{n:02}", f"w{n}", "base") for n in range(count)]
    for name, change in more.items():
        rows[int(name[1:])] |= change
    return piece([plate("base"), *(wire(f"w{n}") for n in range(count))], rows)


def of_objective(found: Assignment, name: str) -> float:
    return next(one.value for one in found.objectives if one.name == name)


# Of 2,000 drawn in all, two were called impossible and had a plan: 20246 and 20347, with work that is turned over. Of
# 34,000 more that were looked through, two of those that show that a cut which is a guess proves nothing: 80335 and 89203.
ODD = [20246, 20347, 80335, 89203]


@pytest.mark.parametrize("seed", [*ODD, *seeds(90, quick=12)])
def test_no_plan_has_fewer_joins_that_run_again_than_the_bound(seed: int) -> None:
    one = of_two_solders(seed if seed in ODD else 3100 + seed, 3 + seed % 4)
    best, found = best_objectives(one, TWO), with_exceptions(problem_of(one), Effort(ENOUGH), ENOUGH)
    if best is None:
        assert found.plan is None
        return
    assert not found.none
    assert found.runs <= best[0]
    assert found.plan is None or of_objective(found.plan, "joins-run-again") >= best[0]


@pytest.mark.parametrize("seed", seeds(60, quick=10))
def test_a_plan_with_exceptions_keeps_what_every_plan_keeps(seed: int) -> None:
    problem = problem_of(of_two_solders(3300 + seed, 5 + seed % 9))
    found = with_exceptions(problem, Effort(ENOUGH), ENOUGH).plan
    if found is None:
        assert solve(problem) is None
        return
    tasks = {task.id: task for task in problem.tasks}
    at = {name: n for n, heat in enumerate(found.heats) for name in heat.tasks}
    assert sorted(at) == sorted(tasks)
    assert all(at[a] < at[b] for a, b in problem.orders)
    again = measured(problem, found.heats)
    assert again is not None
    assert again.objectives == found.objectives
    made: list[str] = []
    for heat in found.heats:
        made += heat.tasks
        body = problem.anatomy.body(frozenset(tasks[heat.tasks[0]].seeds), made)
        assert all(tasks[name].seeds <= body for name in heat.tasks), heat
        assert sum(tasks[name].places for name in heat.tasks) <= 6


@pytest.mark.parametrize("count", [25, 27, 30])
def test_four_solders_and_six_to_a_heat_leave_the_rest_of_a_star_to_run_once(count: int) -> None:
    """Of one solder in one body only the last heat stays: 4 × 6 joins that do not run again, and all others do."""
    found = with_exceptions(problem_of(star(count)), Effort(EXCEPTING), EXCEPTING)
    assert found.runs == count - 24
    assert found.plan is not None
    assert of_objective(found.plan, "joins-run-again") == count - 24


def test_of_a_row_of_orders_longer_than_the_solders_the_rest_runs_again() -> None:
    changes: dict[str, dict[str, Any]] = {f"j{n}": {"after": [f"j{n - 1:02}"]} for n in range(1, 7)}
    found = with_exceptions(problem_of(star(7, **changes)), Effort(ENOUGH), ENOUGH)
    assert found.runs == 3
    assert found.plan is not None
    assert len(found.plan.heats) == 7


def test_what_was_turned_over_is_not_held_by_its_weight() -> None:
    """With one solder what its weight holds runs in the heat with the work turned over; what is seated may."""
    stock = {"solders": ["us-hard"]}
    for holds, impossible in (("own-weight", True), ("seated", False)):
        rows = [join("front", "a", "base", holds=holds), join("back", "b", "base", holds=holds, face="back")]
        problem = problem_of(piece([plate("base"), wire("a"), wire("b")], rows, bench=stock))
        assert is_impossible(problem, Effort(ENOUGH)) == impossible
        assert (solve(problem) is None) == impossible


def test_what_comes_after_and_is_hotter_does_not_run_what_its_weight_held_on_the_other_side() -> None:
    rows = [
        join("front", "a", "base", holds="own-weight", grade="easy"),
        join("back", "b", "base", face="back", grade="hard", after=["front"]),
    ]
    problem = problem_of(piece([plate("base"), wire("a"), wire("b")], rows))
    assert is_impossible(problem, Effort(ENOUGH))
    assert solve(problem) is None
    seated = [{**rows[0], "holds": "seated"}, rows[1]]
    assert solve(problem_of(piece([plate("base"), wire("a"), wire("b")], seated))) is not None


def test_what_comes_after_and_is_tied_on_later_does_not_run_what_came_before() -> None:
    """The far tee is made behind, hard, in a body of its own; only the last heat, in front, runs the tee that came before it."""
    rows = [
        join("first", "a", "b", holds="nothing", grade="hard"),
        join("before", "b", "c", holds="own-weight", after=["first"], grade="easy"),
        join("far", "d", "e", face="back", after=["before"], grade="hard"),
        join("last", "b", "d", holds="bound", bound_with="steel", after=["far"], grade="easy"),
    ]
    problem = problem_of(piece([wire(name) for name in "abcde"], rows))
    assert not is_impossible(problem, Effort(ENOUGH))
    found = with_exceptions(problem, Effort(ENOUGH), ENOUGH)
    assert found.runs == 1
    assert found.plan is not None
    assert of_objective(found.plan, "joins-run-again") == 1


def test_an_exception_held_by_its_weight_waits_for_what_turns_the_work_over() -> None:
    """One solder: the seated join in front comes first, then the one behind for which the last heat has no room."""
    rows = [join(f"j{n}", f"w{n}", "base", holds="own-weight", face="back") for n in range(7)]
    rows.append(join("seated", "w7", "base"))
    parts = [plate("base"), *(wire(f"w{n}") for n in range(8))]
    found = with_exceptions(
        problem_of(piece(parts, rows, bench={"solders": ["us-hard"]})), Effort(ENOUGH), ENOUGH
    )
    assert found.runs == 2
    assert found.plan is not None
    assert [len(heat.tasks) for heat in found.plan.heats] in ([1, 1, 6], [1, 6, 1], [1, 2, 5], [1, 3, 4])
    assert found.plan.heats[0].tasks == ("seated",)


def test_a_heat_without_room_is_cut_off_for_what_does_not_run_again_alone() -> None:
    """Seven joins of one solder cannot share a heat; one of eight that runs again leaves seven too many, two leave six."""
    rows = [join(f"j{n}", f"w{n}", "base") for n in range(8)]
    parts = [plate("base"), *(wire(f"w{n}") for n in range(8))]
    levels = build_with_exceptions(problem_of(piece(parts, rows, bench={"solders": ["us-hard"]})))
    for left_out in range(8):
        seven = frozenset(range(8)) - {left_out}
        add_ways(levels, [Way(0, seven, frozenset(), seven)])
    answer = levels.model.minimise([(1, one) for one in levels.again.values()], Effort(ENOUGH))
    assert answer.proven
    assert answer.bound == 2


@pytest.mark.long
def test_a_large_piece_that_cannot_be_names_the_joins_that_nothing_holds() -> None:
    """Five joins that nothing holds, on one plate, and four solders: each must be softer than the one before it."""
    loose = {"holds": "nothing"}
    odd = star(45, j3=loose, j9=loose, j20=loose, j31=loose, j44=loose)
    made = plan(odd)
    assert made.status == "impossible"
    assert made.conflict is not None
    assert sorted(made.conflict.ids) == ["j03", "j09", "j20", "j31", "j44"]
    assert {one.kind for one in made.conflict.demands} == {"hold", "stock"}
    four = solve(problem_of(star(45, j3=loose, j9=loose, j20=loose, j31=loose)))
    assert four is not None
    alone = [heat for heat in four.heats if set(heat.tasks) & {"j03", "j09", "j20", "j31"}]
    assert [len(heat.tasks) for heat in alone] == [1, 1, 1, 1]
    assert len({heat.filler.key for heat in alone}) == 4


@pytest.mark.long
def test_a_row_that_no_order_of_levels_serves_gets_a_plan_at_once() -> None:
    """120 wires end to end; of each six joins the far ones come first, and some are held in the hand."""
    parts = [wire(f"w{n}") for n in range(121)]
    rows = [join(f"j{n:03}", f"w{n}", f"w{n + 1}") for n in range(120)]
    for n in range(0, 120, 12):
        rows[n]["holds"] = "hand"
    for n in range(114):
        rows[n]["after"] = [f"j{n + 1:03}"] if n % 6 < 5 else []
    problem = problem_of(piece(parts, rows))
    assert by_hand(problem) is None
    made = solve(problem, QUICK)
    assert made is not None
    assert sorted(name for heat in made.heats for name in heat.tasks) == sorted(row["id"] for row in rows)
    assert of_objective(made, "joins-run-again") < 120


assert set(TWO) < set(US)

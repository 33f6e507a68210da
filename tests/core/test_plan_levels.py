"""Levels, and plans by hand: held against the model of heats, which knows nothing of either."""

import json
import random

import pytest

from eskel_core.demands import Problem, make_problem
from eskel_core.piece import Piece, piece_from_object, resolve_house, write_piece
from eskel_core.plan import plan
from eskel_core.search._by_hand import by_hand
from eskel_core.search._by_pick import by_pick
from eskel_core.search._by_rank import ranked_levels
from eskel_core.search._levels import can_be_levelled
from eskel_core.search._solve import FULL, _Search, _without_runs, solve
from eskel_core.solver import Effort
from tests.core.pieces import chain, generated, join, seeds


def levelled(seed: int, joins: int) -> Problem:
    """A generated piece without shields."""
    plain = json.loads(write_piece(generated(seed, joins)))
    plain.pop("house", None)
    for one in plain["joins"]:
        one.pop("shields", None)
    return problem_of(piece_from_object(plain))


def problem_of(piece: Piece) -> Problem:
    return make_problem(piece, resolve_house(piece.house))


@pytest.mark.parametrize("seed", seeds(24, quick=4))
def test_levels_find_what_the_model_of_heats_finds(seed: int) -> None:
    problem = levelled(600 + seed, 6 + seed % 5)
    assert can_be_levelled(problem)
    by_levels, by_heats = solve(problem), _without_runs(_Search(problem, Effort(FULL)))
    assert (by_levels and by_levels.objectives) == (by_heats and by_heats.objectives)


@pytest.mark.parametrize("seed", seeds(24, quick=4))
def test_a_plan_by_hand_is_sound_and_no_better_than_the_best(seed: int) -> None:
    problem = levelled(700 + seed, 4 + seed % 6)
    sketch, best = by_hand(problem), solve(problem)
    if sketch is None:
        return
    assert best is not None
    made = [name for heat in sketch.heats for name in heat.tasks]
    assert sorted(made) == sorted(task.id for task in problem.tasks)
    at = {name: n for n, heat in enumerate(sketch.heats) for name in heat.tasks}
    assert all(at[a] < at[b] for a, b in problem.orders)
    values = [[sign(one.name) * one.value for one in found.objectives] for found in (sketch, best)]
    assert values[0] >= values[1]
    assert all(one.value * sign(one.name) >= one.bound * sign(one.name) for one in sketch.objectives)


def sign(objective: str) -> int:
    """Sums of flow points are to be made largest, all else smallest."""
    return -1 if objective.startswith("flow-of") else 1


def test_levels_leave_shields_and_heated_work_to_the_model_of_heats() -> None:
    shielded = join("b", "w1", "w2", shields=[{"during": "a", "degrees_c": 30, "how": "sink"}])
    rows = [join("a", "w0", "w1"), join("b", "w1", "w2")]
    assert can_be_levelled(problem_of(chain(3, rows)))
    assert not can_be_levelled(problem_of(chain(3, [rows[0], shielded])))
    assert not can_be_levelled(problem_of(chain(3, rows, house={"grade_policy": "same-while-held"})))
    annealed = chain(3, rows, work=[{"id": "soft", "kind": "anneal", "parts": ["w0"]}])
    assert not can_be_levelled(problem_of(annealed))


@pytest.mark.parametrize("seed", seeds(40, quick=8))
def test_a_plan_pick_by_pick_keeps_every_order(seed: int) -> None:
    plain = json.loads(write_piece(generated(1200 + seed, 4 + seed % 9)))
    dice = random.Random(seed)
    for row in plain["joins"]:
        row |= {"at": [dice.randrange(60), dice.randrange(20)], "holds": "seated"}
        row.pop("bound_with", None)
    problem = problem_of(piece_from_object(plain | {"house": {"placing": "pick"}}))
    found = by_pick(problem)
    if found is None:
        return
    at = {name: n for n, heat in enumerate(found.heats) for name in heat.tasks}
    assert sorted(at) == sorted(task.id for task in problem.tasks)
    assert all(at[a] < at[b] for a, b in problem.orders)
    best = solve(problem)
    assert best is not None
    values = [[sign(one.name) * one.value for one in each.objectives] for each in (found, best)]
    assert values[0] >= values[1]


@pytest.mark.long
def test_a_row_of_sixty_joins_takes_the_fewest_heats_that_there_can_be() -> None:
    """Sixty-one wires end to end, every join seated: ten heats of six, whatever is done. Ranked by four solders that comes out."""
    made = plan(chain(61, [join(f"r{n}", f"w{n}", f"w{n + 1}") for n in range(60)]))
    numbers = {objective.name: (objective.value, objective.bound) for objective in made.objectives}
    assert (numbers["joins-run-again"], numbers["heats"]) == ((0, 0), (10, 10))
    assert numbers["rounds"][0] == 4


@pytest.mark.parametrize(("joins", "solders"), [(6, 1), (18, 2), (42, 3), (90, 4)])
def test_a_row_takes_as_many_solders_as_its_heats_have_binary_digits(joins: int, solders: int) -> None:
    """1, 3, 7 and 15 heats of six: between any two of one solder lies a softer one."""
    problem = problem_of(chain(joins + 1, [join(f"r{n}", f"w{n}", f"w{n + 1}") for n in range(joins)]))
    level = ranked_levels(problem, solders)
    assert level is not None
    assert max(level.values()) == solders - 1
    assert ranked_levels(problem, solders - 1) is None


@pytest.mark.long
def test_when_the_effort_is_used_up_a_plan_comes_with_its_gap() -> None:
    rows = [join(f"j{n}", f"w{n}", f"w{n + 1}", after=[f"j{n - 1}"] if n % 7 else []) for n in range(40)]
    found = solve(problem_of(chain(41, rows)), effort=0.3)
    assert found is not None
    gap = next(objective for objective in found.objectives if not objective.proven)
    assert gap.bound < gap.value


def test_no_grade_left_for_a_chain_of_orders_makes_a_held_join_run_again() -> None:
    """Five joins in a row, one after another, with four grades: one must run again, and only one."""
    rows = [join(f"j{n}", f"w{n}", f"w{n + 1}", after=[f"j{n - 1}"] if n else []) for n in range(5)]
    made = plan(chain(6, rows))
    assert made.status == "best"
    assert made.objectives[0].value == 1
    loose = chain(6, [{**row, "holds": "hand"} for row in rows])
    assert plan(loose).status == "impossible"

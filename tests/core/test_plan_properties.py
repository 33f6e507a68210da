"""What must hold of every plan, and the proof that the optimum is one."""

import json
import os
import random
import subprocess
import sys
from pathlib import Path

import pytest

from eskel_core.demands import make_problem
from eskel_core.piece import Piece, parse_piece, resolve_house, write_piece
from eskel_core.plan import HeatStep, Plan, plan
from eskel_core.rules import rules
from eskel_core.search import can_be_met, find_conflict
from eskel_core.solver import Effort
from tests.core.exhaustive import best_objectives
from tests.core.pieces import EXAMPLES, US, generated, mixed, seeds

LARGEST = ("flow-of-chosen", "flow-of-rest")


def numbers(made: Plan) -> tuple[float, ...] | None:
    if made.conflict is not None:
        return None
    return tuple(
        -objective.value if objective.name in LARGEST else objective.value for objective in made.objectives
    )


@pytest.mark.parametrize("seed", seeds(120, quick=16))
def test_the_plan_is_the_best_of_all(seed: int) -> None:
    """Against trying every order, sharing and solder of pieces of two to five joins."""
    made = generated(seed, 2 + seed % 4)
    assert numbers(plan(made)) == best_objectives(made, US)


def shuffled(made: Piece, seed: int) -> Piece:
    """The same piece with lists in another order and every id renamed."""
    dice = random.Random(seed)
    plain = json.loads(write_piece(made))
    text = json.dumps(
        {
            **plain,
            "parts": dice.sample(plain["parts"], len(plain["parts"])),
            "joins": dice.sample(plain["joins"], len(plain["joins"])),
        }
    )
    for part in plain["parts"]:
        text = text.replace(f'"{part["id"]}"', f'"p-{part["id"]}-{dice.randrange(10**6)}"')
    for one in plain["joins"]:
        text = text.replace(f'"{one["id"]}"', f'"x-{dice.randrange(10**9)}"')
    return parse_piece(text)


@pytest.mark.parametrize("seed", range(8))
def test_names_and_order_of_lists_do_not_matter(seed: int) -> None:
    made = generated(100 + seed, 5)
    assert numbers(plan(shuffled(made, seed))) == numbers(plan(made))


@pytest.mark.parametrize("seed", range(12))
def test_no_plan_breaks_a_stop_rule_or_an_order(seed: int) -> None:
    made = generated(200 + seed, 7)
    answer = plan(made)
    assert not {caution.code for caution in answer.cautions} & {
        code for code, rule in rules().items() if rule.severity == "stop"
    }
    at = {row.join: step.heat_no for step in answer.steps if isinstance(step, HeatStep) for row in step.joins}
    for one in made.joins if answer.conflict is None else ():
        assert all(at[name] < at[one.id] for name in one.after)


KEPT_BY_EVERY_PLAN = {"remelt-flows", "melt-certain", "hot-into-acid", "wet-hollow", "steel-in-pickle"}


@pytest.mark.parametrize("seed", seeds(80, quick=10))
def test_whatever_is_mixed_a_plan_breaks_no_rule_and_its_heats_follow_by_rounds(seed: int) -> None:
    answer = plan(mixed(seed))
    assert not {caution.code for caution in answer.cautions} & KEPT_BY_EVERY_PLAN
    made = [step for step in answer.steps if isinstance(step, HeatStep)]
    assert [step.heat_no for step in made] == list(range(1, len(made) + 1))
    assert [step.round for step in made] == sorted(step.round for step in made)
    joins = [row.join for step in made for row in step.joins]
    assert len(joins) == len(set(joins))
    assert [step.n for step in answer.steps] == list(range(1, len(answer.steps) + 1))


@pytest.mark.parametrize("seed", range(6))
def test_relaxing_a_demand_never_makes_the_best_worse(seed: int) -> None:
    plain = json.loads(write_piece(generated(300 + seed, 5)))
    before = numbers(plan(parse_piece(json.dumps(plain))))
    for one in plain["joins"]:
        one.pop("after", None)
    after = numbers(plan(parse_piece(json.dumps(plain))))
    assert before is None or (after is not None and after <= before)


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_examples_plan_best_and_the_same_on_every_run(path: Path) -> None:
    made = parse_piece(path.read_text(encoding="utf-8"))
    first = plan(made)
    assert first.status == "best"
    assert first == plan(made)
    assert not any(caution.severity in ("stop", "danger") for caution in first.cautions)


@pytest.mark.long
@pytest.mark.parametrize("circle", [False, True])
@pytest.mark.parametrize("seed", [1, 2, 4, 5, 6, 8])
def test_a_conflict_is_irreducible(seed: int, circle: bool) -> None:
    """All its demands together cannot be met; letting any single one go makes the whole piece possible."""
    plain = json.loads(write_piece(generated(400 + seed, 4 + seed)))
    plain["bench"] = {"solders": ["us-easy", "us-medium"][: 1 + seed % 2]}
    for one in plain["joins"]:
        one["holds"] = "nothing"
        one.pop("bound_with", None)
        one.pop("shields", None)
    if circle:
        plain["joins"][0]["after"], plain["joins"][-1]["after"] = [plain["joins"][-1]["id"]], ["w"]
        plain["work"] = [{"id": "w", "kind": "bend", "parts": ["w0"], "after": [plain["joins"][0]["id"]]}]
    made = parse_piece(json.dumps(plain))
    problem = make_problem(made, resolve_house(made.house))
    assert not can_be_met(problem)
    conflict = set(find_conflict(problem, Effort(8)))
    others = frozenset(problem.demands) - conflict
    assert not can_be_met(problem.without(others))
    assert all(can_be_met(problem.without(others | {one})) for one in conflict)


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.name)
def test_a_solution_is_kept_by_all_that_it_follows_from(path: Path) -> None:
    """Sizes and names leave it as it is; a metal, a hold, an order or a house rule does not."""
    plain = json.loads(path.read_text(encoding="utf-8"))
    content = content_of(plain)
    plain["name"] = "another"
    plain["parts"][0]["name"] = "another"
    assert content_of(plain) == content
    changes: list[dict[str, object]] = [{"house": {"margin_c": 7}}]
    changes += [{"parts": [{**plain["parts"][0], "metal": "coin-900"}, *plain["parts"][1:]]}]
    if plain.get("joins"):
        first = plain["joins"][0]
        changes += [
            {"joins": [{**first, **more}, *plain["joins"][1:]]}
            for more in ({"grade": "easy"}, {"face": "inside"})
        ]
        changes += [{"bench": {"solders": ["us-easy"]}}]
    assert all(content_of({**plain, **change}) != content for change in changes)


def content_of(plain: object) -> str:
    made = parse_piece(json.dumps(plain))
    return make_problem(made, resolve_house(made.house)).content


def test_planning_leaves_ctrl_c_to_whoever_had_it() -> None:
    """The solver must not take the signal: a server that plans has to stop cleanly."""
    script = (
        "import os, signal, pathlib, eskel_core.piece as p, eskel_core.plan as q\n"
        # A parent in the background hands on that the signal is ignored: here it is heard again.
        "signal.signal(signal.SIGINT, signal.default_int_handler)\n"
        f"q.plan(p.read_piece(pathlib.Path({str(EXAMPLES[0])!r})))\n"
        "try: os.kill(os.getpid(), signal.SIGINT)\n"
        "except KeyboardInterrupt: print('heard')"
    )
    environment = {**os.environ, "PYTHONPATH": str(Path(__file__).parents[2] / "core")}
    done = subprocess.run(
        [sys.executable, "-c", script], env=environment, capture_output=True, text=True, check=False
    )
    assert done.stdout.strip() == "heard"

"""What the builder asks of the solver's compiled half, which is no public face of it: a new version that lacks any fails here."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from ortools.sat.python import cp_model_helper

from eskel_core.solver import Effort, Model, no

ASKED = {
    "CpModelProto": (
        "variables",
        "constraints",
        "objective",
        "assumptions",
        "solution_hint",
        "clear_objective",
        "clear_solution_hint",
    ),
    "SatParameters": ("num_workers", "random_seed", "max_deterministic_time", "cp_model_presolve"),
    "SolveWrapper": ("solve", "set_parameters"),
}


@pytest.mark.parametrize("name", ASKED)
def test_the_compiled_half_has_what_is_asked_of_it(name: str) -> None:
    made = getattr(cp_model_helper, name)()
    assert [one for one in ASKED[name] if not hasattr(made, one)] == []


def chosen(model: Model, variables: list[int], terms: list[tuple[int, int]]) -> tuple[int, list[int]]:
    answer = model.minimise(terms, Effort(5.0))
    assert answer.values is not None
    assert answer.proven
    return answer.bound, [answer.values[variable] for variable in variables]


@settings(deadline=None, max_examples=40)
@given(
    st.lists(st.integers(min_value=-9, max_value=9), min_size=1, max_size=6),
    st.integers(min_value=0, max_value=3),
)
def test_a_small_model_has_the_answer_that_trying_everything_has(costs: list[int], least: int) -> None:
    """Choose at least so many at the least cost: take what is cheapest, and whatever costs less than nothing."""
    least = min(least, len(costs))
    model = Model()
    variables = [model.boolean() for _ in costs]
    model.between(least, [(1, variable) for variable in variables], len(costs))
    bound, values = chosen(
        model, variables, [(cost, one) for cost, one in zip(costs, variables, strict=True)]
    )
    order = sorted(costs)
    best = min(sum(order[:count]) for count in range(least, len(costs) + 1))
    assert bound == best
    assert sum(cost * value for cost, value in zip(costs, values, strict=True)) == best


def test_what_cannot_be_is_proven_and_blamed() -> None:
    model = Model()
    one, other, free = model.boolean(), model.boolean(), model.boolean()
    model.clause(no(one), no(other))
    answer = model.feasible(Effort(5.0), [one, other, free])
    assert answer.impossible
    assert set(answer.blamed) <= {one, other}
    assert len(answer.blamed) == 2
    assert model.feasible(Effort(5.0), [one, free]).values is not None


def test_the_same_model_has_the_same_answer() -> None:
    def made() -> list[int]:
        model = Model()
        variables = [model.boolean() for _ in range(12)]
        model.between(5, [(1, variable) for variable in variables], 7)
        return chosen(model, variables, [(n % 3, one) for n, one in enumerate(variables)])[1]

    assert made() == made()

"""The factors of a step's matrix, against a dense solver, on bodies that are tied in every kind of way."""

from __future__ import annotations

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from eskel_core.heat._factors import factored, factors_of, solved

TIES = st.integers(1, 24).flatmap(
    lambda count: st.tuples(
        st.just(count),
        st.lists(st.tuples(st.integers(0, count - 1), st.integers(0, count - 1)), max_size=60),
        st.integers(0, 2**32 - 1),
    )
)


def _solved_both_ways(count: int, ties: list[tuple[int, int]], seed: int) -> tuple[np.ndarray, np.ndarray]:
    """Solve a random system so tied with the factors and densely; a cell tied to itself passes nothing."""
    draw = np.random.default_rng(seed)
    i = np.array([a for a, _ in ties], np.int64)
    j = np.array([b for _, b in ties], np.int64)
    factors = factors_of(count, i, j)
    dense, values = np.zeros((count, count)), np.zeros(int(factors.begins[-1]))
    for cell in range(count):
        held = draw.uniform(0.01, 1)
        dense[cell, cell] += held
        values[factors.begins[factors.place[cell]]] += held
    for n, (a, b) in enumerate(ties):
        if a == b:
            continue
        passes = draw.uniform(0, 100)
        dense[a, a] += passes
        dense[b, b] += passes
        dense[a, b] -= passes
        dense[b, a] -= passes
        values[factors.begins[factors.place[a]]] += passes
        values[factors.begins[factors.place[b]]] += passes
        values[factors.link[n]] -= passes
    known, out = draw.uniform(-1, 1, count), np.zeros(count)
    factored(factors, values)
    solved(factors, values, known, out, np.zeros(count))
    return out, np.linalg.solve(dense, known)


@settings(deadline=None)
@given(TIES)
def test_any_ties_are_solved_as_a_dense_solver_does(tied):
    """Twice the same pair, a cell tied to itself, cells tied to nothing: all the same."""
    ours, dense = _solved_both_ways(*tied)
    np.testing.assert_allclose(ours, dense, rtol=1e-7, atol=1e-9)


def test_a_plate_fills_in_far_less_than_its_envelope():
    """A square grid of 15 by 15: within its envelope the factors would hold some 15 places a column."""
    side = 15
    cells = np.arange(side * side).reshape(side, side)
    i = np.concatenate([cells[:-1].ravel(), cells[:, :-1].ravel()])
    j = np.concatenate([cells[1:].ravel(), cells[:, 1:].ravel()])
    factors = factors_of(side * side, i, j)
    assert int(factors.begins[-1]) < 0.6 * side * side * side
    ours, dense = _solved_both_ways(side * side, list(zip(i.tolist(), j.tolist(), strict=True)), 7)
    np.testing.assert_allclose(ours, dense, rtol=1e-8, atol=1e-10)

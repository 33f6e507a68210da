"""The factors of a step's matrix: where they can be other than nought is found once for a body, then every step fills them in.

Cholesky, column by column, left-looking. Cells are eliminated in the order of least degree, so that little fills in
(George and Liu, "The evolution of the minimum degree ordering algorithm", SIAM Review 31, 1989), and what each place
of the factors takes from others is written down as pairs of places: no step looks for anything.
"""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.sparse.linalg import splu

from ._state import compiled


class Factors(NamedTuple):
    """Where the factors of a body's matrix stand: columns in the order of elimination, the diagonal first in each.

    `place` (n) is the column of a cell, `begins` (n + 1) where a column begins, `rows` the column that the row of each
    place belongs to; place `e` takes the products of the places `left` and `right` from `pairs[e]` to `pairs[e + 1]`.
    `link` is the place of each link, that of a cell tied to itself its diagonal. Indices are unsigned, so that the
    compiler need not ask whether one counts from the end.
    """

    place: Any
    begins: Any
    rows: Any
    pairs: Any
    left: Any
    right: Any
    link: Any


def factors_of(count: int, i: NDArray[np.int64], j: NDArray[np.int64]) -> Factors:
    """Find where the factors of a symmetric matrix of so many cells stand, tied by links from cells `i` to cells `j`."""
    place = _least_degree(count, i, j)
    low, high = np.minimum(place[i], place[j]), np.maximum(place[i], place[j])
    columns = _filled(count, low, high)
    begins = np.concatenate([[0], np.cumsum([len(rows) for rows in columns], dtype=np.int64)])
    at = np.zeros((count, count), np.int64)
    for column, rows in enumerate(columns):
        at[rows, column] = np.arange(begins[column], begins[column + 1])
    takes, left, right = [np.zeros(0, np.int64)], [np.zeros(0, np.int64)], [np.zeros(0, np.int64)]
    for column, rows in enumerate(columns):
        p, q = np.tril_indices(len(rows) - 1)
        takes.append(at[rows[p + 1], rows[q + 1]])
        left.append(begins[column] + 1 + p)
        right.append(begins[column] + 1 + q)
    taking = np.concatenate(takes)
    order = np.argsort(taking, kind="stable")
    return Factors(
        place=place,
        begins=begins.astype(np.uint64),
        rows=np.concatenate([*columns, np.zeros(0, np.int64)]).astype(np.uint32),
        pairs=np.searchsorted(taking[order], np.arange(begins[-1] + 1)).astype(np.uint64),
        left=np.concatenate(left)[order].astype(np.uint32),
        right=np.concatenate(right)[order].astype(np.uint32),
        link=at[high, low].astype(np.uint32),
    )


def _least_degree(count: int, i: NDArray[np.int64], j: NDArray[np.int64]) -> NDArray[np.int64]:
    """Give the column of each cell, by the order in which a sparse solver eliminates them."""
    if not count:
        return np.zeros(0, np.int64)
    ties = sparse.coo_matrix(
        (np.full(2 * len(i), -1.0), (np.concatenate([i, j]), np.concatenate([j, i]))), shape=(count, count)
    ).tocsc()
    # So heavy a diagonal asks for no pivots: the order is that of the ties alone.
    heavy = sparse.diags(1.0 - np.asarray(ties.sum(axis=1)).ravel())
    solver = splu(
        (ties + heavy).tocsc(),
        permc_spec="MMD_AT_PLUS_A",
        diag_pivot_thresh=0.0,
        options={"SymmetricMode": True},
    )
    return solver.perm_c.astype(np.int64)


def _filled(count: int, low: NDArray[np.int64], high: NDArray[np.int64]) -> list[NDArray[np.int64]]:
    """Give the rows of each column of the factors: what a column holds below, the next one down in it holds too."""
    below: list[set[int]] = [set() for _ in range(count)]
    for a, b in zip(low.tolist(), high.tolist(), strict=True):
        if a != b:
            below[a].add(b)
    columns = []
    for column in range(count):
        rows = sorted(below[column])
        columns.append(np.array([column, *rows], np.int64))
        if rows:
            below[rows[0]].update(rows[1:])
    return columns


@compiled
def factored(f: Factors, values: Any) -> None:
    """Turn the lower half of a matrix into its factors, in place; the diagonal is kept as its inverse."""
    begins, pairs, left, right = f.begins, f.pairs, f.left, f.right
    one = np.uint64(1)
    for column in range(len(begins) - 1):
        e = begins[column]
        total = values[e]
        for q in range(pairs[e], pairs[e + one]):
            total -= values[left[q]] * values[left[q]]
        inverse = 1.0 / np.sqrt(total)
        values[e] = inverse
        for e in range(begins[column] + one, begins[column + 1]):
            total = values[e]
            for q in range(pairs[e], pairs[e + one]):
                total -= values[left[q]] * values[right[q]]
            values[e] = total * inverse


@compiled
def solved(f: Factors, values: Any, known: Any, out: Any, y: Any) -> None:
    """Solve with the factors; `y` is room to reckon in."""
    place, begins, rows = f.place, f.begins, f.rows
    one, n = np.uint64(1), len(known)
    for i in range(n):
        y[place[i]] = known[i]
    for column in range(n):
        value = y[column] * values[begins[column]]
        y[column] = value
        for e in range(begins[column] + one, begins[column + 1]):
            y[rows[e]] -= values[e] * value
    for column in range(n - 1, -1, -1):
        total = y[column]
        for e in range(begins[column] + one, begins[column + 1]):
            total -= values[e] * y[rows[e]]
        y[column] = total * values[begins[column]]
    for i in range(n):
        out[i] = y[place[i]]

"""How long planning takes, as ratios measured in one run: `bin/bench planning`.

Three tables. Examples and small pieces, against reading and writing a piece file of the same size. A generated suite
of up to 200 joins, against a plain model (one variable for each join and heat, one objective after another). Pieces of up
to 7 joins, against trying everything. Wall-clock figures are those of the machine at hand; the ratios are of one run.
"""

from __future__ import annotations

import random
import resource
import statistics
import sys
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from tests.core.exhaustive import best_objectives
from tests.core.pieces import US, generated

from eskel_core.demands import Problem, make_problem
from eskel_core.faults import Refused
from eskel_core.piece import Piece, parse_piece, piece_from_object, resolve_house, write_piece
from eskel_core.plan import FULL, QUICK, plan
from eskel_core.plan._plan import _solved
from eskel_core.search import Assignment, solve
from eskel_core.search._build import build_grid
from eskel_core.search._objectives import objectives_of, value_of
from eskel_core.solver import Effort

EXAMPLES = sorted((Path(__file__).parents[1] / "examples").glob("*.eskel.json"))
RUNS = 5
PLAIN_LIMIT = 20.0
HOLDS = ["own-weight"] * 6 + ["seated"] * 6 + ["bound"] * 3 + ["clipped"] * 2 + ["hand"] * 2 + ["nothing"]


def framework(joins: int, seed: int) -> Piece:
    """A piece of wires: orders mostly between joins that touch, some joins loose or held by hand, some grades fixed.

    Every third has several metals, every fourth closes circles, every third has joins on the back.
    """
    dice = random.Random(seed * 1000 + joins)
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1}, "length_mm": 10}
    metals = ["sterling-925"] * 8 + (["fine-silver-999", "copper"] if seed % 3 == 0 else [])
    count = joins + 1 - (joins // 15 if seed % 4 == 1 else 0)
    parts = [{"id": f"w{n}", "metal": dice.choice(metals), "form": form} for n in range(count)]
    ordered, reach = ((0.05, joins), (0.1, 8), (0.2, 4))[seed % 3]
    fixed, back = (0.08 if seed % 2 else 0.0), (0.15 if seed % 5 == 2 else 0.0)
    rows: list[dict[str, Any]] = []
    for n in range(joins):
        a, b = (n + 1, max(0, n - dice.randrange(reach))) if n + 1 < count else dice.sample(range(count), 2)
        row: dict[str, Any] = {"id": f"j{n}", "kind": "tee", "between": [f"w{b}", f"w{a}"]}
        row |= {"holds": dice.choice(HOLDS), "visible": dice.random() < 0.4}
        if row["holds"] == "bound":
            row["bound_with"] = dice.choice(["steel", "other"])
        if dice.random() < back:
            row["face"] = "back"
        touching = [one["id"] for one in rows if set(one["between"]) & set(row["between"])]
        if rows and dice.random() < ordered:
            row["after"] = [
                dice.choice(touching if touching and dice.random() < 0.9 else [one["id"] for one in rows])
            ]
        elif dice.random() < fixed:
            row["grade"] = dice.choice(["hard", "medium", "easy"])
        rows.append(row)
    return piece_from_object(
        {"format": "eskel-piece/1", "name": "frame", "parts": parts, "joins": rows, "bench": {"solders": US}}
    )


def seconds(action: Callable[[], object]) -> float:
    """Give the median wall-clock time of an action."""
    times = []
    for _ in range(RUNS):
        began = time.perf_counter()
        action()
        times.append(time.perf_counter() - began)
    return statistics.median(times)


def _read_and_write(text: str) -> str:
    return write_piece(parse_piece(text))


def timed(action: Callable[[], Any]) -> tuple[float, Any]:
    """Give the wall-clock time of an action and what it gave; a refusal gives a text."""
    began = time.perf_counter()
    try:
        found = action()
    except Refused:
        found = "undecided"
    return time.perf_counter() - began, found


def plain_solve(problem: Problem) -> tuple[int, ...] | None:
    """Solve by the plain model: as many heats as tasks, one objective after another; None where it is not proven."""
    grid = build_grid(problem, len(problem.tasks))
    values: tuple[int, ...] | None = None
    reached = []
    effort = Effort(PLAIN_LIMIT)
    for terms in objectives_of(grid).values():
        answer = grid.model.minimise(terms, effort, values)
        if not answer.proven or answer.values is None:
            return None
        values = answer.values
        reached.append(value_of(terms, values))
        grid.model.at_most(terms, reached[-1])
    return tuple(reached)


def small() -> None:
    """Examples, against reading and writing the same file."""
    print(f"{'piece':<34}{'joins':>6}{'status':>11}{'plan ms':>9}{'read ms':>9}{'ratio':>7}")
    for path in EXAMPLES:
        piece = parse_piece(path.read_bytes())
        text = write_piece(piece)
        made = plan(piece)

        def afresh(piece: Piece = piece) -> None:
            _solved.cache_clear()
            plan(piece)

        planning, reading = seconds(afresh), seconds(partial(_read_and_write, text))
        name = path.name.removesuffix(".eskel.json")
        print(
            f"{name:<34}{len(piece.joins):>6}{made.status:>11}{planning * 1e3:>9.0f}{reading * 1e3:>9.1f}{planning / reading:>7.0f}"
        )


def status_of(found: Any) -> str:
    """Say what a solve gave."""
    if isinstance(found, Assignment):
        return "best" if all(objective.proven for objective in found.objectives) else "good"
    return "impossible" if found is None else "undecided"


def suite() -> None:
    """The generated suite by size, and the plain model where it has a chance."""
    print(f"\n{'joins':>5}{'seed':>5}{'at once s':>11}{'whole s':>9}{'status':>12}{'plain s':>9}{'ratio':>7}")
    for joins, seeds, plain_seeds in ((12, 12, 12), (30, 12, 6), (60, 12, 1), (200, 4, 0)):
        at_once, whole, ratios, states = [], [], [], []
        for seed in range(seeds):
            problem = make_problem(framework(joins, seed), resolve_house())
            quick, _ = timed(partial(solve, problem, QUICK))
            full, found = timed(partial(solve, problem, FULL))
            at_once.append(quick)
            whole.append(full)
            states.append(status_of(found))
            told = ""
            if seed < plain_seeds:
                slow, plain = timed(partial(plain_solve, problem))
                ratios.append(slow / full)
                told = f"{slow:>9.2f}{'' if plain else '+'}{slow / full:>7.0f}"
            print(f"{joins:>5}{seed:>5}{quick:>11.2f}{full:>9.2f}{states[-1]:>12}{told}", flush=True)
        counted = ", ".join(f"{states.count(fromkey)} {fromkey}" for fromkey in dict.fromkeys(states))
        middle = f"; plain model at the median {statistics.median(ratios):.0f} times slower" if ratios else ""
        print(
            f"{joins} joins: at the median {statistics.median(at_once):.2f} s at once, {statistics.median(whole):.2f} s whole; {counted}{middle}"
        )
    print(f"most memory: {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024} MB")


def exhaustive(pieces: int) -> None:
    """Pieces of up to 7 joins, against trying everything."""
    agreed, by_search, by_planner = 0, 0.0, 0.0
    for seed in range(pieces):
        joins = (2, 3, 4, 5, 5, 6)[seed % 6] if seed % 50 else 7
        piece = generated(5000 + seed, joins)
        slow, best = timed(partial(best_objectives, piece, US))
        problem = make_problem(piece, resolve_house(piece.house))
        quick, found = timed(partial(solve, problem, FULL))
        values = found and tuple(
            -one.value if one.name.startswith("flow-of") else one.value for one in found.objectives
        )
        agreed += values == best
        by_search, by_planner = by_search + slow, by_planner + quick
    print(
        f"\n{pieces} pieces of up to 7 joins: the same optimum for {agreed}; trying everything {by_search:.0f} s, the planner {by_planner:.0f} s ({by_search / by_planner:.0f} times)"
    )


if __name__ == "__main__":
    small()
    suite()
    exhaustive(int(sys.argv[1]) if len(sys.argv) > 1 else 500)

"""Drawn pieces planned and gone through by the work as it stands: no step may be forbidden; how long the state takes.

`bin/bench standing [--count 2000] [--from 0] [--effort 0.1]`. Each is a piece of `tests/core/pieces.standing_work` (hollows,
tubes that are shut, beads hung on, steel, forming), each start as its example, and each example. Printed are how many were
planned, impossible or undecided, each plan that was cut off for what must never be, each forbidden step, and the time of `after` over 200 acts for the copies and counts asked
for.
"""

from __future__ import annotations

import argparse
import time
from collections import Counter
from collections.abc import Iterator

from tests.core.pieces import EXAMPLES, chain, join, piece, plate, standing_work, wire

from eskel_core.faults import Refused
from eskel_core.piece import Piece, parse_piece, resolve_house
from eskel_core.plan import standing
from eskel_core.starts import begin as begin_start
from eskel_core.starts import starts
from eskel_core.state import Act, Bath, Cool, Cover, Heat, after, begin


def pieces(first: int, count: int) -> Iterator[tuple[str, Piece]]:
    """Give every piece with its name."""
    for path in EXAMPLES:
        yield path.name, parse_piece(path.read_bytes())
    for name in starts():
        yield name, begin_start(name, {}).piece
    for seed in range(first, first + count):
        yield str(seed), standing_work(seed)


def judge(first: int, count: int, effort: float) -> None:
    """Plan every piece and tell each step that is forbidden."""
    ended: Counter[str] = Counter()
    for name, made in pieces(first, count):
        try:
            plan, rows = standing(made, effort=effort)
        except Refused:
            ended["undecided"] += 1
            continue
        ended[plan.status] += 1
        for demand in plan.conflict.demands if plan.conflict else ():
            if demand.kind == "state":
                ended[f"cut off: {demand.code}"] += 1
                print(f"{name}, cut off: {demand.code}: {demand.text}", flush=True)
        for row in rows:
            for remark in row.forbidden:
                ended[f"forbidden: {remark.code}"] += 1
                print(f"{name}, step {row.n}: {remark.code}: {remark.text}", flush=True)
    print(", ".join(f"{key} {number}" for key, number in sorted(ended.items())))


def acts(nodes: frozenset[str]) -> list[Act]:
    """Give 200 acts: flux, heat, cool, rinse, in turn."""
    return [
        act
        for n in range(50)
        for act in (Cover(nodes), Heat(nodes, 600.0 + n), Cool(nodes, "air"), Bath(nodes, "water"))
    ]


def speed() -> None:
    """Tell how long `after` takes over 200 acts, the best of five."""
    row = chain(9, [join(f"j{n}", f"w{n}", f"w{n + 1}") for n in range(8)])
    alike = piece([plate("plate"), wire("claw", count=1000)], [join("feet", "claw", "plate")])
    copies = piece([plate("plate"), wire("claw")], [join("feet", "claw", "plate")], copies=1000)
    for words, made in (("8 joins, one copy", row), ("1,000 alike parts", alike), ("1,000 copies", copies)):
        first = begin(made, resolve_house(made.house))
        nodes = frozenset(node for group in first.anatomy.nodes.values() for node in group)
        best = float("inf")
        for _ in range(5):
            state, began = first, time.perf_counter()
            for act in acts(nodes):
                state = after(state, act)
            best = min(best, time.perf_counter() - began)
        print(f"200 acts, {words}: {best * 1000:.1f} ms")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=2000)
    parser.add_argument("--from", dest="first", type=int, default=0)
    parser.add_argument("--effort", type=float, default=0.1)
    asked = parser.parse_args()
    judge(asked.first, asked.count, asked.effort)
    speed()


if __name__ == "__main__":
    main()

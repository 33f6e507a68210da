"""How long a calculator takes, and a cutting of bars, as ratios of one run: `bin/bench sizes`.

The yardstick is reading, checking and writing the smallest example piece, so that a slow machine slows both.
"""

from __future__ import annotations

import random
import statistics
import time
from collections.abc import Callable
from pathlib import Path

from eskel_core.cutting import cut_bars
from eskel_core.piece import parse_piece, write_piece
from eskel_core.sizes import calculate, calculators

EXAMPLE = Path(__file__).parents[1] / "examples" / "offcuts-into-wire.eskel.json"
RUNS = 15


def milliseconds(action: Callable[[], object]) -> float:
    """Give the median wall-clock time of an action."""
    times = []
    for _ in range(RUNS):
        began = time.perf_counter()
        action()
        times.append((time.perf_counter() - began) * 1e3)
    return statistics.median(times)


def main() -> None:
    """Print a table of times and ratios."""
    text = EXAMPLE.read_text(encoding="utf-8")
    yardstick = milliseconds(lambda: write_piece(parse_piece(text)))
    print(f"{'reading a piece':<28}{yardstick:>9.2f} ms{1:>8.1f}")
    slowest = 0.0
    for name, one in calculators().items():
        took = milliseconds(lambda name=name, one=one: calculate(name, dict(one.example)))
        slowest = max(slowest, took)
        print(f"{name:<28}{took:>9.2f} ms{took / yardstick:>8.1f}")
    print(f"{'slowest calculator':<28}{slowest:>9.2f} ms{slowest / yardstick:>8.1f}")
    for cuts in (12, 30, 60):
        dice = random.Random(cuts)
        lengths = [round(dice.uniform(8, 90), 1) for _ in range(cuts)]
        bars = [300.0] * (cuts // 5 + 2) + [120.0, 95.5, 210.0]
        began = time.perf_counter()
        made = cut_bars(lengths, sorted(bars, reverse=True), 0.3)
        took = (time.perf_counter() - began) * 1e3
        words = "proven" if made.proven else "not proven"
        print(f"{f'{cuts} cuts from bars':<28}{took:>9.1f} ms{took / yardstick:>8.1f}  {words}")


if __name__ == "__main__":
    main()

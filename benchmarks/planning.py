"""How long planning takes, as ratios measured in one run: `PYTHONPATH=core python benchmarks/planning.py`.

The yardstick is reading, checking and writing a piece file of the same size, so that a slow machine slows both.
Wall-clock figures are printed too; they are those of the machine at hand.
"""

from __future__ import annotations

import json
import random
import statistics
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from eskel_core.piece import Piece, parse_piece, piece_from_object, write_piece
from eskel_core.plan import Plan, plan
from eskel_core.plan._plan import _solved

EXAMPLES = sorted((Path(__file__).parents[1] / "examples").glob("*.eskel.json"))
STOCK = ["us-hard", "us-medium", "us-easy", "us-extra-easy"]
RUNS = 5


def generated(joins: int, seed: int) -> Piece:
    """A tree of wires with random holds and orders."""
    dice = random.Random(seed)
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1}, "length_mm": 10}
    parts = [{"id": f"w{n}", "metal": "sterling-925", "form": form} for n in range(joins + 1)]
    rows = []
    for n in range(joins):
        row = {
            "id": f"j{n}",
            "kind": "tee",
            "between": [f"w{dice.randrange(n + 1)}", f"w{n + 1}"],
            "holds": dice.choice(["own-weight", "seated", "seated", "bound", "hand"]),
            "visible": dice.random() < 0.4,
        }
        if n and dice.random() < 0.4:
            row["after"] = [f"j{dice.randrange(n)}"]
        rows.append(row)
    plain = {
        "format": "eskel-piece/1",
        "name": "g",
        "parts": parts,
        "joins": rows,
        "bench": {"solders": STOCK},
    }
    return piece_from_object(plain)


def impossible(joins: int, seed: int) -> Piece:
    """The same, with nothing held and one or two grades in stock; or, each third, with orders in a circle."""
    plain = json.loads(write_piece(generated(joins, seed)))
    if seed % 3 == 2:
        plain["joins"][0]["after"], plain["joins"][-1]["after"] = [f"j{joins - 1}"], ["j0"]
    else:
        plain["bench"] = {"solders": STOCK[1 + seed % 2 : 3]}
        for row in plain["joins"]:
            row["holds"] = "nothing"
    return piece_from_object(plain)


def seconds(action: Callable[[], object]) -> float:
    """Give the median wall-clock time of an action."""
    times = []
    for _ in range(RUNS):
        began = time.perf_counter()
        action()
        times.append(time.perf_counter() - began)
    return statistics.median(times)


def _plan_afresh(piece: Piece) -> Plan:
    _solved.cache_clear()
    return plan(piece)


def _read_and_write(text: str) -> str:
    return write_piece(parse_piece(text))


def main() -> None:
    """Print a table of times and ratios."""
    print(f"{'piece':<34}{'joins':>6}{'heats':>6}{'status':>11}{'plan ms':>9}{'read ms':>9}{'ratio':>7}")
    pieces = [(path.name.removesuffix(".eskel.json"), parse_piece(path.read_bytes())) for path in EXAMPLES]
    pieces += [
        (f"generated {joins}, seed {seed}", generated(joins, seed))
        for joins in (4, 8, 12)
        for seed in range(4)
    ]
    pieces += [
        (f"impossible {joins}, seed {seed}", impossible(joins, seed))
        for joins in (6, 12)
        for seed in range(6)
    ]
    for name, piece in pieces:
        text = write_piece(piece)
        made = plan(piece)
        planning, reading = seconds(partial(_plan_afresh, piece)), seconds(partial(_read_and_write, text))
        heats = sum(1 for step in made.steps if step.kind == "heat")
        print(
            f"{name:<34}{len(piece.joins):>6}{heats:>6}{made.status:>11}{planning * 1e3:>9.0f}{reading * 1e3:>9.1f}{planning / reading:>7.0f}"
        )


if __name__ == "__main__":
    main()

"""Piece files broken at random, thousands of them: none may leave a trace, hang, or be half taken.

`bin/bench mutants_of_pieces [--count 10000] [--from 0]`. Each is an example with one to four places changed: a key taken
out, doubled or misspelt, a value of another kind, size or sign, a list repeated, parts swapped. It is checked, drawn,
weighed, planned with little effort, and for a few asked why; printed are how many were refused and taken, the longest
time, and each trace.
"""

from __future__ import annotations

import argparse
import copy
import json
import random
import time
import traceback
from collections import Counter
from pathlib import Path
from typing import Any

from eskel_core.faults import Refused
from eskel_core.picture import draw
from eskel_core.piece import parse_piece, piece_object, weigh, write_piece
from eskel_core.plan import QUICK, plan, why_join

EXAMPLES = sorted((Path(__file__).parents[1] / "examples").glob("*.eskel.json"))
VALUES: list[Any] = [
    None,
    True,
    -1,
    0,
    0.0,
    1,
    1e-9,
    1e9,
    1e300,
    "",
    "x",
    "\u0000",
    "a" * 500,
    [],
    {},
    [[]],
    [None],
    {"kind": "wire"},
    "sterling-925",
    "us-hard",
    "butt",
    "after",
    ["rim"],
    10**30,
    "1/0",
    "−3",
]


def places(plain: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Give the path of every value."""
    found = [path] if path else []
    items = plain.items() if isinstance(plain, dict) else enumerate(plain) if isinstance(plain, list) else ()
    for key, value in items:
        found += places(value, (*path, key))
    return found


def broken(plain: Any, dice: random.Random) -> Any:
    """Give a document with a few places changed."""
    plain = copy.deepcopy(plain)
    for _ in range(dice.randint(1, 4)):
        path = dice.choice(places(plain))
        owner = plain
        for step in path[:-1]:
            owner = owner[step]
        _change(owner, path[-1], plain, dice)
        if not isinstance(plain, dict) or not places(plain):
            break
    return plain


def _change(owner: Any, key: Any, plain: Any, dice: random.Random) -> None:
    match dice.randrange(7):
        case 0:
            del owner[key]
        case 1 | 2:
            owner[key] = copy.deepcopy(dice.choice(VALUES))
        case 3 if isinstance(owner[key], int | float) and not isinstance(owner[key], bool):
            owner[key] *= dice.choice([-1, 0, 0.001, 1000, 1e12])
        case 4 if isinstance(owner, list):
            owner.extend(copy.deepcopy(owner[key : key + 1]) * dice.choice([1, 3, 40]))
        case 5 if isinstance(owner, dict):
            owner[f"{key}x"] = owner.pop(key)
        case _:
            other = plain
            for step in dice.choice(places(plain)):
                other = other[step]
            owner[key] = copy.deepcopy(other)


def tried(text: str, dice: random.Random) -> str:
    """Do with a file what the application does; say how it ended."""
    try:
        piece = parse_piece(text)
    except Refused:
        return "refused"
    assert write_piece(parse_piece(write_piece(piece))) == write_piece(piece)
    assert json.loads(json.dumps(piece_object(piece), allow_nan=False)) is not None
    weigh(piece)
    draw(piece)
    try:
        made = plan(piece, effort=QUICK)
    except Refused:
        return "taken, undecided"
    if made.conflict is not None:
        return "taken, impossible"
    json.dumps(made.model_dump(mode="json"), allow_nan=False)
    joins = [join.id for join in piece.joins if join.heated]
    if joins and dice.random() < 0.1:
        why_join(piece, dice.choice(joins), effort=QUICK)
    return "taken, planned"


def main() -> int:
    """Break, try, and print; the exit code says whether all went well."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=10_000)
    parser.add_argument("--from", dest="first", type=int, default=0)
    asked = parser.parse_args()
    whole = [json.loads(example.read_text(encoding="utf-8")) for example in EXAMPLES]
    ends: Counter[str] = Counter()
    longest, slow, traces = 0.0, 0, 0
    for seed in range(asked.first, asked.first + asked.count):
        dice = random.Random(seed)
        text = json.dumps(broken(dice.choice(whole), dice))
        began = time.process_time()
        try:
            ends[tried(text, dice)] += 1
        except Exception:
            traces += 1
            print(f"seed {seed}:\n{traceback.format_exc(limit=-4)}")
        took = time.process_time() - began
        longest, slow = max(longest, took), slow + (took > 5)
    print(f"{asked.count} files: {dict(ends)}; traces: {traces}; longest {longest:.2f} s, over 5 s: {slow}")
    return 1 if traces else 0


if __name__ == "__main__":
    raise SystemExit(main())

"""Every start over its range: pieces drawn at random are planned, and all of their heats rehearsed on the demo bench.

    bin/bench starts [--count 4] [--from 0] [--only NAME] [--processes 2]

Each start is begun with some of its measures told, each anywhere between its bounds, so many times. Printed for each: how many
were made and how many refused, the verdicts of their heats, and, for a heat that fewer than three hands in four bring off, what
was told and what goes wrong. A night's work at `--count 30`; it takes a core some ten seconds a piece.
"""

from __future__ import annotations

import argparse
import math
import random
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from typing import Any

from eskel_core.faults import Refused
from eskel_core.plan import plan
from eskel_core.rehearsal import rehearse_heat
from eskel_core.starts import AskInfo, asks_of, begin, start_named, starts

GOOD = ("sure", "care")
STEPS = 200


@dataclass
class Came:
    """What came of one draw."""

    name: str
    told: dict[str, Any]
    refused: bool = False
    verdicts: list[str] = field(default_factory=list)
    bad: list[str] = field(default_factory=list)


def drawn(name: str, seed: int) -> dict[str, Any]:
    """Draw some of a start's measures, each anywhere between its bounds."""
    dice = random.Random(f"{name} {seed}")
    return {info.key: a_value(info, dice) for info in asks_of(start_named(name)) if dice.random() < 0.5}


def a_value(info: AskInfo, dice: random.Random) -> Any:
    """Draw a value of one measure."""
    if info.choices:
        return dice.choice(info.choices)
    if info.kind == "yes-no":
        return dice.random() < 0.5
    low, high = info.low or 0.0, info.high or 0.0
    if isinstance(info.default, int):
        return dice.randint(int(low), int(high))
    value = round(low + (high - low) * dice.randint(0, STEPS) / STEPS, 3)
    return f"{math.pi * value:.3f} mm" if info.quantity == "ring-size" else value


def tried(name: str, seed: int) -> Came:
    """Begin a start with drawn measures, plan what it makes and rehearse every heat."""
    came = Came(name, drawn(name, seed))
    try:
        piece = begin(name, came.told).piece
    except Refused:
        came.refused = True
        return came
    planned = plan(piece)
    if planned.status != "best":
        came.bad.append(f"planned {planned.status}")
    for step in planned.steps:
        if step.kind != "heat":
            continue
        told = rehearse_heat(piece, step.heat_no, planned=planned, with_habits=False)
        came.verdicts.append(told.verdict)
        if told.verdict not in GOOD:
            came.bad.append(f"heat {step.heat_no}: {told.says}")
    return came


def main() -> None:
    """Try every start and print what came of it."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=4)
    asked.add_argument("--from", type=int, default=0, dest="first")
    asked.add_argument("--only", default="")
    asked.add_argument("--processes", type=int, default=2)
    told = asked.parse_args()
    names = [name for name in starts() if told.only in ("", name)]
    total: Counter[str] = Counter()
    with ProcessPoolExecutor(told.processes) as pool:
        seeds = range(told.first, told.first + told.count)
        waiting = {name: [pool.submit(tried, name, seed) for seed in seeds] for name in names}
        for name, futures in waiting.items():
            came = [future.result() for future in futures]
            verdicts = Counter(verdict for one in came for verdict in one.verdicts)
            total += verdicts
            made = sum(not one.refused for one in came)
            print(
                f"{name:16} made {made}, refused {len(came) - made};",
                _counted(verdicts) or "no heat",
                flush=True,
            )
            for one in came:
                for words in one.bad:
                    print(f"    {one.told}\n      {words}", flush=True)
    print("all heats:", _counted(total))


def _counted(verdicts: Counter[str]) -> str:
    return ", ".join(f"{verdict} {count}" for verdict, count in verdicts.most_common())


if __name__ == "__main__":
    main()

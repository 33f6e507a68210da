"""The share of hands in which the best programme comes out well, beside 2,000 drawn at random and the three habits.

    bin/bench pointing [--count 200] [--trials 2000] [--from 0]
    bin/bench pointing --counted

Assemblies are generated from a seed: heavy with light, copper with silver, frames of wire, domes, long bars, some with an
earlier join to spare. Those are kept in which a full flame circled evenly comes out well in fewer than half of the hands. The
reference draws programmes of signs from the same aims, settings, signs and rises; each is tried by the hands that the search
tries with, and the best of them are followed by all on the fine body.

With `--counted` the heats of the example pieces: the programme beside what was told for each before programmes were made of
signs (`counted_programmes.json`: the soonest way, each stage so many seconds long), followed by the same hands after the
same drying, each second counted as that hand counts; the last stage, too, is ended by the solder that runs.
"""

from __future__ import annotations

import argparse
import json
import random
import statistics
import time
from pathlib import Path
from typing import Any

import numpy as np

from eskel_core.heat import Hunt, Sign, Stage, everyone
from eskel_core.heat._programmes import allowed, carried
from eskel_core.heat._ways import RISES, SETTINGS, Ways
from eskel_core.piece import Piece, piece_from_object, read_piece
from eskel_core.plan import plan
from eskel_core.rehearsal import Habit, HeatRequest, rehearse_heat
from eskel_core.rehearsal._facts import facts_of, tools_of
from eskel_core.rehearsal._scene import Scene, found_for, scene_of

TORCHES = [
    "propane-air-small",
    "propane-air-large",
    "acetylene-air-small",
    "oxy-propane-medium",
    "butane-kitchen",
]
EXAMPLES = Path(__file__).parent.parent / "examples"
SURFACES = ["charcoal", "soft-firebrick", "ceramic-board", "mesh-tripod", "honeycomb"]


def assembly(seed: int) -> Piece | None:
    """Make an assembly of two to five parts from a seed; None where the pieces do not go together."""
    dice = random.Random(seed)
    silver = dice.choice(
        ["sterling-925", "sterling-925", "sterling-925", "copper", "brass-c260", "fine-silver-999"]
    )
    base = _base(dice, silver)
    parts, joins = [base], []
    for n in range(dice.randint(1, 3)):
        metal = dice.choice([silver, "sterling-925"])
        parts.append({"id": f"p{n}", "metal": metal, "form": _guest(dice)})
        kind = {"tube": "seat", "ball": "seat", "strip": "edge"}.get(parts[-1]["form"]["kind"], "tee")
        joins.append(
            {
                "id": f"j{n}",
                "kind": kind,
                "between": [f"p{n}", "base"],
                "holds": dice.choice(["own-weight", "seated", "nothing"]),
            }
        )
    if len(joins) > 1 and dice.random() < 0.5:
        joins[-1]["after"] = [joins[0]["id"]]
    stock = dice.choice(
        [["us-hard", "us-medium", "us-easy"], ["us-medium", "us-easy"], ["us-easy", "us-extra-easy"]]
    )
    plain = {
        "format": "eskel-piece/1",
        "name": f"assembly {seed}",
        "parts": parts,
        "joins": joins,
        "bench": {"solders": stock},
    }
    return piece_from_object(plain)


def _base(dice: random.Random, metal: str) -> dict[str, Any]:
    form = dice.choice(
        [
            {
                "kind": "sheet",
                "thickness_mm": round(dice.uniform(0.5, 2), 1),
                "outline": {"kind": "disc", "diameter_mm": dice.randint(12, 40)},
            },
            {
                "kind": "sheet",
                "thickness_mm": round(dice.uniform(0.5, 2), 1),
                "outline": {
                    "kind": "rect",
                    "width_mm": dice.randint(15, 60),
                    "height_mm": dice.randint(10, 30),
                },
            },
            {
                "kind": "sheet",
                "thickness_mm": 0.5,
                "outline": {"kind": "disc", "diameter_mm": dice.randint(16, 30)},
                "domed_mm": 5,
            },
            {
                "kind": "wire",
                "profile": {"kind": "round", "diameter_mm": round(dice.uniform(1.5, 4), 1)},
                "length_mm": dice.randint(40, 160),
                "closed": dice.random() < 0.5,
            },
            {
                "kind": "strip",
                "width_mm": dice.randint(4, 12),
                "thickness_mm": round(dice.uniform(0.8, 3), 1),
                "length_mm": dice.randint(30, 120),
            },
        ]
    )
    return {"id": "base", "metal": metal, "form": form}


def _guest(dice: random.Random) -> dict[str, Any]:
    made: dict[str, Any] = dice.choice(
        [
            {
                "kind": "wire",
                "profile": {"kind": "round", "diameter_mm": round(dice.uniform(0.6, 2), 1)},
                "length_mm": dice.randint(5, 30),
            },
            {"kind": "ball", "diameter_mm": round(dice.uniform(1.5, 5), 1)},
            {
                "kind": "tube",
                "outer_mm": round(dice.uniform(2, 5), 1),
                "wall_mm": 0.4,
                "length_mm": dice.randint(3, 10),
            },
            {
                "kind": "strip",
                "width_mm": dice.randint(2, 5),
                "thickness_mm": 0.4,
                "length_mm": dice.randint(15, 40),
                "closed": True,
            },
            {
                "kind": "wire",
                "profile": {"kind": "round", "diameter_mm": round(dice.uniform(0.8, 1.5), 1)},
                "length_mm": dice.randint(12, 30),
                "closed": True,
            },
        ]
    )
    return made


def scene(seed: int) -> Scene | None:
    """Make the last heat of an assembly ready where circling evenly fails in it; None where there is none."""
    made = assembly(seed)
    if made is None:
        return None
    planned = plan(made)
    heats = [step.heat_no for step in planned.steps if step.kind == "heat"]
    if planned.conflict is not None or not heats:
        return None
    dice = random.Random(seed + 1)
    tools = tools_of(made, None, dice.choice(TORCHES), dice.choice(SURFACES))
    ready = scene_of(made, facts_of(made, planned, heats[-1]), tools, HeatRequest())
    even = found_for(ready.asked(HeatRequest(habit="even")))
    return None if even.well >= 0.5 else ready


def at_random(ways: Ways, count: int, seed: int) -> list[Any]:
    """Draw programmes of signs: one to three stages after the drying."""
    draw = np.random.default_rng(seed)
    made: dict[Any, None] = {}
    while len(made) < count:
        stages = tuple(
            (
                int(draw.integers(len(ways.aims))),
                int(draw.integers(len(SETTINGS))),
                int(draw.integers(max(1, len(ways.signs)))),
                int(draw.integers(len(RISES))),
            )
            for _ in range(int(draw.integers(1, 4)))
        )
        if allowed(stages, ways):
            made[stages] = None
    return list(made)


def reference(ready: Scene, trials: int) -> float:
    """Give the share of the best of programmes drawn at random, as all hands follow it on the fine body."""
    rough = Hunt(ready.rough)
    for start in range(0, trials, 200):
        rough.race(at_random(ready.rough, min(200, trials - start), seed=start))
    rough.by_all(rough.ranked(8))
    fine = Hunt(ready.fine)
    # What the fine body has no aims for is no way on it.
    best = carried(ready.rough, ready.fine, rough.ranked(4))
    return fine.by_all(best).well if best else 0.0


def counted() -> None:
    """Print the share of hands of the programme beside that of the soonest programme by seconds, heat by heat."""
    told = json.loads((Path(__file__).parent / "counted_programmes.json").read_text())
    ours, theirs = [], []
    for row in told:
        made = read_piece(EXAMPLES / row["piece"])
        facts = facts_of(made, plan(made), row["heat_no"])
        if facts.purpose == "melt" or list(facts.making) != row["joins"]:
            continue
        tools = tools_of(made, None, row["torch"], row["surface"])
        ready = scene_of(made, facts, tools, HeatRequest())
        aims = {aim.key: aim for aim in ready.fine.aims}
        stages = tuple(
            Stage(
                aims.get(f"{kind}:{about or ''}:{side}", aims[f"circle::{side}"]),
                setting,
                ready.fine.last if n == len(row["stages"]) - 1 else Sign("count"),
                seconds=seconds,
            )
            for n, (kind, about, side, setting, seconds) in enumerate(row["stages"])
        )
        ours.append(
            rehearse_heat(
                made, row["heat_no"], HeatRequest(torch=row["torch"], surface=row["surface"])
            ).hands.well
        )
        theirs.append(round(64 * everyone(ready.fine, stages).well))
        print(
            f"{row['piece'].split('.')[0]} {row['heat_no']}: {ours[-1]} of 64, by seconds {theirs[-1]}",
            flush=True,
        )
    print(
        f"of {len(ours)} heats: above in {sum(a > b for a, b in zip(ours, theirs, strict=True))}, as good in "
        f"{sum(a == b for a, b in zip(ours, theirs, strict=True))}; at the median {statistics.median(ours):.0f} and "
        f"{statistics.median(theirs):.0f} of 64"
    )


def main() -> None:
    """Print the shares, and how long each takes."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=200)
    parser.add_argument("--trials", type=int, default=2000)
    parser.add_argument("--from", dest="start", type=int, default=0)
    parser.add_argument("--counted", action="store_true", help="beside the soonest programmes by seconds")
    asked = parser.parse_args()
    if asked.counted:
        counted()
        return
    seed, shares, theirs, times = asked.start, [], [], []
    habits: dict[Habit, list[float]] = {"join": [], "even": [], "light": []}
    while len(shares) < asked.count:
        seed += 1
        ready = scene(seed)
        if ready is None:
            continue
        began = time.process_time()
        shares.append(found_for(ready).well)
        times.append(time.process_time() - began)
        theirs.append(reference(ready, asked.trials))
        for habit, kept in habits.items():
            kept.append(found_for(ready.asked(HeatRequest(habit=habit))).well)
        print(
            f"{seed}: {len(ready.setup.network)} cells, the programme {shares[-1]:.2f} ({times[-1]:.1f} s), random {theirs[-1]:.2f}, "
            + ", ".join(f"{habit} {kept[-1]:.2f}" for habit, kept in habits.items()),
            flush=True,
        )
    behind = [one - other for one, other in zip(shares, theirs, strict=True)]
    print(
        f"of {len(shares)} assemblies in which circling evenly does badly: the programme's share {statistics.median(shares):.2f} at the "
        f"median, {statistics.mean(shares):.2f} in the mean; random {statistics.median(theirs):.2f} and {statistics.mean(theirs):.2f}; "
        + "; ".join(f"{habit} {statistics.mean(kept):.2f}" for habit, kept in habits.items())
    )
    print(
        f"the programme is behind random by more than 0.02 in {sum(one < -0.02 for one in behind)}, at most by {max(0.0, -min(behind)):.2f}"
    )
    print(
        f"a programme takes {statistics.median(times):.2f} s of processor time at the median, {max(times):.2f} s at most"
    )


if __name__ == "__main__":
    main()

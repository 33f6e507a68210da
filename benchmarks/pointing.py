"""How often the aim programme saves a heat in which circling evenly fails, beside 2,000 programmes drawn at random.

    bin/bench pointing [--count 200] [--trials 2000] [--from 0]

Assemblies are generated from a seed: heavy with light, copper with silver, frames of wire, domes, long bars, some with an
earlier join to spare. Those are kept in which a full flame circled evenly does not flow, opens an earlier join or melts
something. The reference draws its programmes from the same aims and settings, and what it finds is rehearsed in full too.
"""

from __future__ import annotations

import argparse
import random
import statistics
import time
from typing import Any

from eskel_core.heat import Stage, Trials, at_random, run
from eskel_core.piece import Piece, piece_from_object
from eskel_core.plan import plan
from eskel_core.rehearsal._facts import facts_of, tools_of
from eskel_core.rehearsal._scene import LONGEST_S, Scene, TorchFactor, found_for, scene_of

TORCHES = [
    "propane-air-small",
    "propane-air-large",
    "acetylene-air-small",
    "oxy-propane-medium",
    "butane-kitchen",
]
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
    ready = scene_of(made, facts_of(made, planned, heats[-1]), tools, TorchFactor())
    even = run(ready.asked, (Stage(ready.aims[0], 1.0, None),), LONGEST_S, ready.house.margin_c)
    return None if even.works else ready


def reference(ready: Scene, trials: int) -> bool:
    """Draw programmes at random; say whether one of them saves the heat when it is rehearsed in full."""
    coarse, aims = ready.rough
    by_key = {aim.key: aim for aim in ready.aims}
    some = tuple(aim for aim in aims if aim.key in by_key)
    made = Trials(coarse, some, 120.0, ready.house.margin_c)
    for start in range(0, trials, 50):
        for one in made.march(at_random(min(50, trials - start), len(some), seed=start)):
            if one.works:
                stages = tuple(
                    Stage(by_key[stage.aim.key], stage.setting, stage.seconds)
                    for stage in one.programme.stages(some)
                )
                if run(ready.asked, stages, 120.0, ready.house.margin_c).works:
                    return True
    return False


def main() -> None:
    """Print how many the programme saves, how many the reference does, and how long each takes."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=200)
    parser.add_argument("--trials", type=int, default=2000)
    parser.add_argument("--from", dest="start", type=int, default=0)
    asked = parser.parse_args()
    seed, kept, ours, theirs, both = asked.start, 0, 0, 0, 0
    times: list[float] = []
    reference_times: list[float] = []
    while kept < asked.count:
        seed += 1
        ready = scene(seed)
        if ready is None:
            continue
        kept += 1
        began = time.perf_counter()
        found = found_for(ready, "best")
        times.append(time.perf_counter() - began)
        began = time.perf_counter()
        saved = reference(ready, asked.trials)
        reference_times.append(time.perf_counter() - began)
        ours, theirs, both = ours + found.works, theirs + saved, both + (found.works and saved)
        print(
            f"{seed}: {len(ready.asked.network)} cells, ours {found.works} ({times[-1]:.1f} s), reference {saved} ({reference_times[-1]:.1f} s)",
            flush=True,
        )
    print(
        f"circling evenly fails in {kept}; the programme saves {ours}, the reference {theirs}, of which the programme {both} ({both / max(1, theirs):.1%})"
    )
    print(
        f"a programme takes {statistics.median(times):.2f} s at the median, {max(times):.2f} s at most; the reference {statistics.median(reference_times):.1f} s: {statistics.median(reference_times) / statistics.median(times):.1f} times as long"
    )


if __name__ == "__main__":
    main()

"""Small pieces for tests: built in a line, so that a test shows only what matters to it."""

from __future__ import annotations

import random
from pathlib import Path
from typing import Any

import pytest

from eskel_core.piece import Piece, piece_from_object, piece_object

EXAMPLES = sorted((Path(__file__).parents[2] / "examples").glob("*.eskel.json"))
US = ["us-hard", "us-medium", "us-easy", "us-extra-easy"]


def wire(name: str, metal: str = "sterling-925", *, across_mm: float = 1.0, **more: Any) -> dict[str, Any]:
    """A part of plain round wire."""
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": across_mm}, "length_mm": 20}
    return {"id": name, "metal": metal, "form": form, **more}


def plate(name: str, metal: str = "sterling-925", **more: Any) -> dict[str, Any]:
    """A part of plain sheet, 20 × 20 × 1."""
    outline = {"kind": "rect", "width_mm": 20, "height_mm": 20}
    return {
        "id": name,
        "metal": metal,
        "form": {"kind": "sheet", "thickness_mm": 1, "outline": outline},
        **more,
    }


def join(name: str, *between: str, **more: Any) -> dict[str, Any]:
    """A tee between two parts, held by its seat unless told otherwise."""
    return {"id": name, "kind": "tee", "between": list(between), "holds": "seated", **more}


def piece(parts: list[dict[str, Any]], joins: list[dict[str, Any]], **more: Any) -> Piece:
    """A piece, with the four usual solders of the us family in stock unless it names a bench."""
    plain = {"format": "eskel-piece/1", "name": "test", "parts": parts, "joins": joins}
    return piece_from_object({**plain, "bench": {"solders": US}, **more})


def chain(count: int, joins: list[dict[str, Any]], **more: Any) -> Piece:
    """Wires w0, w1, ... joined as told."""
    return piece([wire(f"w{n}") for n in range(count)], joins, **more)


def seeds(count: int, *, quick: int) -> list[Any]:
    """Number generated cases for a table: the first are tried by every check, a third by `bin/test`, all by `bin/bench whole`."""
    third = max(quick, count // 3)
    return [
        *range(quick),
        *(pytest.param(seed, marks=pytest.mark.long) for seed in range(quick, third)),
        *(pytest.param(seed, marks=pytest.mark.whole) for seed in range(third, count)),
    ]


def generated(seed: int, joins: int) -> Piece:
    """Random wires in one body or several, some thin, some closing a circle, with random holds, faces and orders."""
    dice = random.Random(seed)
    rows: list[dict[str, Any]] = []
    count = 1
    for n in range(joins):
        if count > 2 and dice.random() < 0.12:
            row = join(f"j{n}", *(f"w{one}" for one in dice.sample(range(count), 2)))
        elif n and dice.random() < 0.2:
            row = join(f"j{n}", f"w{count}", f"w{count + 1}")
            count += 2
        else:
            row = join(f"j{n}", f"w{dice.randrange(count)}", f"w{count}")
            count += 1
        row["holds"] = dice.choice(["own-weight", "seated", "bound", "hand", "nothing"])
        row["face"] = dice.choice(["front", "front", "back"])
        row["visible"] = dice.random() < 0.4
        if row["holds"] == "bound":
            row["bound_with"] = dice.choice(["steel", "other"])
        if n and dice.random() < 0.5:
            row["after"] = [f"j{dice.randrange(n)}"]
        if n and dice.random() < 0.2:
            row["shields"] = [
                {"during": f"j{dice.randrange(n)}", "degrees_c": dice.choice([10, 30, 60]), "how": "sink"}
            ]
        rows.append(row)
    parts = [wire(f"w{n}", across_mm=0.4 if dice.random() < 0.15 else 1.0) for n in range(count)]
    picked = {"house": {"placing": "pick"}} if dice.random() < 0.25 else {}
    for row in rows if picked else ():
        row["at"] = [dice.randrange(40), dice.randrange(10)]
    return piece(parts, rows, **picked)


def mixed(seed: int, *, joins: int = 6) -> Piece:
    """A generated piece with all else that a smith does: copies, alike parts, fused seams, other placings, other work."""
    dice = random.Random(seed)
    made = generated(9000 + seed, 1 + seed % joins)
    plain = piece_object(made) | {"copies": dice.choice([1, 1, 2, 5])}
    for part in plain["parts"]:
        part["count"] = dice.choice([1, 1, 1, 1, 2, 4])
    for row in plain["joins"]:
        if dice.random() < 0.1:
            row["kind"] = "fuse"
            row.pop("shields", None)
        elif dice.random() < 0.2:
            row["placing"] = dice.choice(["pick", "paste", "fed-wire", "sweat"])
    kinds = ["anneal", "ball", "deplete", "bend", "drill", "tumble", "harden", "saw", "melt"]
    plain["work"] = [
        {
            "id": f"k{n}",
            "kind": dice.choice(kinds),
            "parts": [dice.choice(plain["parts"])["id"]],
            dice.choice(["after", "before"]): [dice.choice(plain["joins"])["id"]],
        }
        for n in range(dice.randrange(4))
    ]
    return piece_from_object(plain)


def standing_work(seed: int) -> Piece:
    """A mixed piece with what the state of the work is about: tubes that are shut, domes, beads hung on, steel, forming between."""
    dice = random.Random(seed)
    plain = piece_object(mixed(seed, joins=3))
    first = plain["parts"][0]["id"]
    tube = {
        "kind": "tube",
        "outer_mm": 5,
        "wall_mm": 0.5,
        "length_mm": 30,
        "sealed_ends": dice.choice([0, 0, 2]),
    }
    dome = {
        "kind": "sheet",
        "thickness_mm": 0.5,
        "outline": {"kind": "disc", "diameter_mm": 20},
        "domed_mm": 6,
    }
    plain["parts"] += [
        {"id": "tube", "metal": dice.choice(["copper", "sterling-925"]), "form": tube},
        {"id": "upper", "metal": "sterling-925", "form": dome},
        {"id": "lower", "metal": "sterling-925", "form": dome},
        {"id": "bead", "metal": None, "heat_safe": False, "form": {"kind": "ball", "diameter_mm": 5}},
        {"id": "loop", "metal": "sterling-925", "moves": True, "form": wire("x")["form"] | {"closed": True}},
    ]
    rim = {"id": "rim", "kind": "butt", "between": ["upper", "lower"], "holds": "bound", "encloses": "drop"}
    plain["joins"] += [
        rim,
        join("knob", "upper", first, after=dice.choice([[], ["rim"]])),
        join("stem", "tube", first),
        {
            "id": "hang",
            "kind": "butt",
            "between": ["loop", "loop"],
            "through": [dice.choice(["upper", first])],
        },
        {"id": "wrapped", "kind": "wrap", "between": ["bead", dice.choice(["loop", first])]},
    ]
    work = [
        {"id": "ends", "kind": "flatten", "parts": ["tube"], "seals": ["tube"], "before": ["stem"]},
        {"id": "cut", "kind": "saw", "parts": ["tube"]},
        {"id": "pin", "kind": "drill", "parts": ["tube"], "before": ["stem"]},
        {"id": "vent", "kind": "drill", "parts": ["upper"], "vents": ["drop"], "before": ["rim"]},
        {"id": "soften", "kind": "anneal", "parts": ["tube"], "after": ["ends"]},
        {"id": "mark", "kind": "texture", "parts": ["tube"]},
        {"id": "fine", "kind": "deplete", "parts": ["upper"], "times": 2},
    ]
    plain["work"] = plain.get("work", []) + [row for row in work if dice.random() < 0.6]
    known = {row["id"] for row in plain["work"]} | {row["id"] for row in plain["joins"]}
    for row in plain["work"]:
        for key in ("after", "before"):
            row[key] = [name for name in row.get(key, []) if name in known]
    plain["house"] = {
        "hollow": dice.choice(["vent", "sealed-dry"]),
        "cooling": dice.choice(["quench-when-black", "air-cool"]),
    }
    return piece_from_object(plain)

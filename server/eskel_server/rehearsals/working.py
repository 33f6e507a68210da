"""What a rehearsal is worked out from: texts and numbers alone, by the core alone."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any


@cache
def core_stamp() -> str:
    """Give a name for the core as it stands: what was worked out by another one is worked out again."""
    import eskel_core

    root = Path(eskel_core.__file__).parent
    made = hashlib.sha256()
    for path in sorted(root.rglob("*")):
        if path.suffix in (".py", ".csv"):
            made.update(path.relative_to(root).as_posix().encode() + b"\0" + path.read_bytes())
    return made.hexdigest()[:16]


def work_out(asked: dict[str, Any], progress: Callable[[str, float], None]) -> dict[str, Any]:
    """Rehearse a heat or every heat, or try what would help; everything that it follows from is in what was asked."""
    from eskel_core.piece import Bench, HouseOverrides, parse_piece, write_piece
    from eskel_core.rehearsal import HeatRequest, rehearse_heat, rehearse_piece, what_would_help

    piece = parse_piece(asked["piece"])
    options: dict[str, Any] = {
        "house": HouseOverrides.model_validate_json(asked["house"]),
        "bench": Bench.model_validate_json(asked["bench"]),
        "progress": progress,
    }
    request = HeatRequest.model_validate(asked["request"])
    if asked["kind"] == "piece":
        whole = rehearse_piece(piece, request, **options)
        heats = [
            {"heat_no": heat_no, "verdict": one.verdict, "well": one.hands.well, "tried": one.hands.tried}
            for heat_no, one in sorted(whole.heats.items())
        ]
        return {"whole": {"agreed": whole.agreed, "heats": heats}, "piece": write_piece(whole.piece)}
    if asked["kind"] == "help":
        return {
            "help": [
                one.model_dump(mode="json")
                for one in what_would_help(piece, asked["heat_no"], request, **options)
            ]
        }
    made = rehearse_heat(
        piece,
        asked["heat_no"],
        request,
        with_cells=True,
        with_habits=request.habit == "best",
        **options,
    )
    return {"rehearsal": made.model_dump(mode="json")}

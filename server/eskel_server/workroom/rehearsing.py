"""The process that works rehearsals out: it knows the core only, one piece of work at a time, at low priority."""

from __future__ import annotations

import os
from contextlib import suppress
from multiprocessing.connection import Connection
from typing import Any

_LOWER_BY = 10


def serve(pipe: Connection) -> None:
    """Take work from a pipe until it closes; send back `(kind, payload)`: progress, done or refused."""
    from eskel_core.faults import Refused

    os.nice(_LOWER_BY)
    # The server is gone, and whoever asked with it.
    with suppress(EOFError, BrokenPipeError):
        while True:
            asked: dict[str, Any] = pipe.recv()
            try:
                made = work_out(asked, lambda what, share: pipe.send(("progress", (what, share))))
            except Refused as problem:
                pipe.send(("refused", [fault.model_dump(mode="json") for fault in problem.faults]))
            except BrokenPipeError:
                raise
            except Exception as problem:
                pipe.send(("failed", f"{type(problem).__name__}: {problem}"))
            else:
                pipe.send(("done", made))


def work_out(asked: dict[str, Any], progress: Any) -> dict[str, Any]:
    """Rehearse a heat, or try what would help; everything that it follows from is in what was asked."""
    from eskel_core.piece import Bench, HouseOverrides, parse_piece
    from eskel_core.rehearsal import TorchFactor, rehearse_heat, what_would_help

    piece = parse_piece(asked["piece"])
    options: dict[str, Any] = {
        "torch": asked["torch"],
        "surface": asked["surface"],
        "house": HouseOverrides.model_validate_json(asked["house"]),
        "bench": Bench.model_validate_json(asked["bench"]),
        "factor": TorchFactor(asked["factor"], asked["spread"]),
        "progress": progress,
    }
    if asked["kind"] == "help":
        return {
            "help": [
                one.model_dump(mode="json") for one in what_would_help(piece, asked["heat_no"], **options)
            ]
        }
    made = rehearse_heat(
        piece,
        asked["heat_no"],
        habit=asked["habit"],
        setting=asked["setting"],
        with_cells=True,
        with_habits=asked["habit"] == "best",
        **options,
    )
    return {"rehearsal": made.model_dump(mode="json")}

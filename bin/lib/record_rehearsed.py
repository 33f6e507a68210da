"""Rehearse the demo's pieces and write down what their files take over of it, for the demo's three months of runs: examples/rehearsed/NAME.json.

Takes minutes; run it anew where the model of heat or an example has changed.
"""

from __future__ import annotations

import json
import sys
import time
from pathlib import Path

from eskel_core.piece import Bench, read_piece, record_object
from eskel_core.rehearsal import rehearse_piece
from eskel_core.starts import begin

EXAMPLES = Path(__file__).resolve().parents[2] / "examples"
NAMES = (
    "hollow-lantern-drop",
    "stone-set-finial",
    "toggle-clasp-and-links",
    "reed-brooch",
    "swivel-cufflinks",
    "wire-frame-candle-guard",
    # Small work between the large, from a start: a post is the everyday of medium on thin wire.
    "post-stud@Lantern_studs",
)


def main() -> None:
    """Rehearse what is named, or all."""
    folder = EXAMPLES / "rehearsed"
    folder.mkdir(exist_ok=True)
    kept = json.loads((EXAMPLES / "workshop-bench.json").read_text(encoding="utf-8"))["bench"]
    bench = Bench.model_validate_json(json.dumps(kept))
    for name in sys.argv[1:] or NAMES:
        began = time.monotonic()
        start, _, called = name.partition("@")
        piece = begin(start).piece if called else read_piece(EXAMPLES / f"{name}.eskel.json")
        made = rehearse_piece(piece, bench=bench)
        told = [record_object(one) for one in made.piece.rehearsals]
        (folder / f"{name}.json").write_text(json.dumps(told, indent=1) + "\n", encoding="utf-8")
        print(f"{name}: {len(told)} heats in {time.monotonic() - began:.0f} s", flush=True)


if __name__ == "__main__":
    main()

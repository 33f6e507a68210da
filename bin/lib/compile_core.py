"""Compile the loops of the heat once, so that nobody waits for it at a first rehearsal: one hand follows a tiny heat."""

from __future__ import annotations

import sys

from eskel_core.piece import piece_from_object
from eskel_core.rehearsal import HeatRequest, rehearse_heat

RING = {
    "format": "eskel-piece/1",
    "name": "ring",
    "parts": [
        {
            "id": "ring",
            "metal": "sterling-925",
            "form": {
                "kind": "wire",
                "profile": {"kind": "round", "diameter_mm": 1},
                "length_mm": 20,
                "closed": True,
            },
        }
    ],
    "joins": [{"id": "close", "kind": "butt", "between": ["ring", "ring"]}],
}


def main() -> int:
    """Rehearse the smallest heat there is."""
    rehearse_heat(piece_from_object(RING), 1, HeatRequest(habit="even"))
    return 0


if __name__ == "__main__":
    sys.exit(main())

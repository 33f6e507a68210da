"""Which solder takes to which metal."""

from __future__ import annotations

from ._types import Metal, Solder

_SOLDERS_LIKE = {
    "silver": "silver",
    "copper": "copper",
    "copper alloy": "copper",
    "gold": "gold",
    "clad": "copper",
}


def solder_suits(solder: Solder, metal: Metal) -> bool:
    """Say whether a solder takes to a metal: by the solder's `on`, and phosphorus never on nickel.

    Phosphorus makes a brittle phosphide with nickel and iron (common brazing knowledge), so the
    copper-phosphorus rod is kept off nickel metals.
    """
    if _SOLDERS_LIKE[metal.family] not in solder.on:
        return False
    return not (" P " in f" {solder.composition} " and metal.nickel_pct > 0)

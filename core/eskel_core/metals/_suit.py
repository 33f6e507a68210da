"""Which solder takes to which metal, and which metal bears no flame."""

from __future__ import annotations

import re
from typing import Literal

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
    if _SOLDERS_LIKE.get(metal.family) not in solder.on:
        return False
    return not (" P " in f" {solder.composition} " and metal.nickel_pct > 0)


_ELEMENT = re.compile(r"(?<![A-Za-z])([A-Z][a-z]?)(?![a-z])\s*(\d+(?:\.\d+)?)?")
_BASES_OF_WHITE_METAL = frozenset({"Pb", "Sn", "Al", "Zn", "Bi", "Cd", "In"})
CONTAMINATES_FROM_C = 180.0
"""What holds lead, soft solder, white metal or aluminium is not heated above this, °C: eutectic of lead and tin, 183 °C."""


def heat_harm(metal: Metal) -> Literal["contaminated", "unknown-metal"] | None:
    """Say why a metal must not be heated: it holds lead or is white metal or aluminium, or nobody knows what it is.

    Lead, tin and aluminium eat into silver, gold and copper at red heat. What a composition has most of is what it is made of,
    the first where no number tells; lead counts in any share: free-cutting brass holds two or three parts in a hundred.

    >>> from ._tables import metals
    >>> heat_harm(metals()["pewter"]), heat_harm(metals()["sterling-925"])
    ('contaminated', None)
    """
    if metal.family == "unknown":
        return "unknown-metal"
    shares = {element: float(share or 0) for element, share in _ELEMENT.findall(metal.composition)}
    white = max(shares, key=lambda element: shares[element], default="") in _BASES_OF_WHITE_METAL
    return "contaminated" if metal.family == "low-melting" or white or "Pb" in shares else None


SILVER_COPPER_C = 779.0
SILVER_BRASS_C = 705.0


def melts_together_c(one: Metal, other: Metal) -> float | None:
    """Give the temperature from which two bare metals that touch melt into each other, °C; None for metals of one family.

    Silver and copper have their eutectic at 779 °C (phase diagram of silver and copper). With zinc in the copper a melt forms
    from 705 °C (silver, copper and zinc, as in the easy silver solders). Of other pairs no diagram is shipped: the lower solidus.

    >>> from ._tables import metals
    >>> melts_together_c(metals()["sterling-925"], metals()["copper"])
    779.0
    >>> melts_together_c(metals()["sterling-925"], metals()["fine-silver-999"]) is None
    True
    """
    families = {one.family, other.family}
    if len(families) == 1:
        return None
    if families == {"silver", "copper"} or (families == {"silver", "copper alloy"} and not _zinc(one, other)):
        return SILVER_COPPER_C
    if families == {"silver", "copper alloy"}:
        return SILVER_BRASS_C
    return min(one.solidus_c, other.solidus_c)


def _zinc(one: Metal, other: Metal) -> bool:
    return one.zinc_pct > 0 or other.zinc_pct > 0

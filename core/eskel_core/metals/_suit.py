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

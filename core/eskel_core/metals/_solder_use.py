"""How much solder a join takes, and the supplies that it comes in."""

from __future__ import annotations

import math

GAP_MM, FILLET_MM = 0.05, 0.25
CHIP_MM, CHIP_THICK_MM, FEED_WIRE_MM = 1.0, 0.25, 0.8
PASTE_METAL_SHARE = 0.85
_SPARE = 1.2


def solder_volume_mm3(
    area_mm2: float, seam_mm: float, fillets: int, gap_mm: float = GAP_MM, fillet_mm: float = FILLET_MM
) -> float:
    """Give the solder of a join: contact area × gap + fillet r²·(1 − π/4) × seam, for each side that has one, × 1.2.

    >>> round(solder_volume_mm3(math.pi * 0.45**2, math.pi * 0.9, 1), 4)
    0.0837
    """
    return (area_mm2 * gap_mm + fillet_mm**2 * (1 - math.pi / 4) * seam_mm * fillets) * _SPARE

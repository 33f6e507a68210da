"""By what the end of an anneal is seen: the glow, a marker line that burns off, or the flux that clears; as the house has it.

A sign is of use where it comes within what the metal is annealed at. Where it does not, the glow tells, and it is said.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ..metals import Flux
from ..piece import House

# A line of felt pen has gone from clean silver at about 620 °C (ours; on the bench told as 1,150 °F).
MARKER_C = 620.0
# A sign that comes so little below the top of the range ends the anneal too late.
_BELOW_TOP_C = 25.0


@dataclass(frozen=True)
class AnnealEnd:
    """What ends an anneal: the words of the sign, and where it comes, °C. By the glow both are left to who asks."""

    by: str
    words: str = ""
    at_c: float | None = None


GLOW = AnnealEnd("glow")


def anneal_end(house: House, ranges_c: Iterable[tuple[float, float]], flux: Flux) -> AnnealEnd:
    """Give what ends an anneal of metals with these ranges, °C, under the rules of a house.

    >>> from eskel_core.metals import fluxes
    >>> anneal_end(House(anneal_sign="marker"), [(600, 650)], fluxes()["white-paste"]).at_c
    620.0
    """
    if house.anneal_sign == "marker":
        end = AnnealEnd("marker", "the marker line has burnt off", MARKER_C)
    elif house.anneal_sign == "flux":
        end = AnnealEnd("flux", "the flux on it is clear like glass", flux.clear_c)
    else:
        return GLOW
    assert end.at_c is not None
    told = list(ranges_c)
    within = all(low <= end.at_c <= high - _BELOW_TOP_C for low, high in told)
    return end if told and within else GLOW


def made_ready(end: AnnealEnd) -> str:
    """Say what is done before an anneal so that its sign can be seen; nothing for the glow."""
    return {
        "marker": "Draw a line across it with a felt pen first.",
        "flux": "Brush flux on it thinly first, and dry it.",
    }.get(end.by, "")

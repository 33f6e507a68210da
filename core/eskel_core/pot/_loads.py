"""What the loads of a pot tell of it: how much slower or faster it is than reckoned, and how much copper it has taken up since that was measured."""

from __future__ import annotations

from collections.abc import Sequence
from statistics import median

from pydantic import BaseModel, ConfigDict

FEWEST_LOADS = 5
_LEAST, _MOST = 0.2, 5.0


class Load(BaseModel):
    """A load of the pot: how long it was in, and the band that it was to be in, minutes."""

    model_config = ConfigDict(frozen=True)

    took: float
    low: float
    high: float


class CopperByLoads(BaseModel):
    """The copper that a pot holds by its loads, g/l, and how many more it bears."""

    model_config = ConfigDict(frozen=True)

    now_g_l: float
    loads_left: int


def pace_of(loads: Sequence[Load], longest: float) -> float | None:
    """Give how many times as long as the middle of its band a load took, at the median; None where too few tell.

    What came out before its time, or was forgotten (`longest` times the upper end of its band), tells nothing.

    >>> pace_of([Load(took=9, low=4, high=8)] * 5, 3)
    1.5
    """
    told = [
        load.took / ((load.low + load.high) / 2)
        for load in loads
        if load.low <= load.took < longest * load.high and load.high > 0
    ]
    if len(told) < FEWEST_LOADS:
        return None
    return round(min(_MOST, max(_LEAST, median(told))), 2)


def copper_by_loads(measured_g_l: float, before: int, since: int, limit_g_l: float) -> CopperByLoads | None:
    """Give the copper by now where so much was measured after so many loads, of which each is taken to bring as much; None where that
    tells nothing.

    >>> copper_by_loads(10, before=40, since=20, limit_g_l=30)
    CopperByLoads(now_g_l=15.0, loads_left=60)
    """
    if before < FEWEST_LOADS or measured_g_l <= 0:
        return None
    each = measured_g_l / before
    now = measured_g_l + since * each
    return CopperByLoads(now_g_l=round(now, 1), loads_left=max(0, int((limit_g_l - now) / each + 1e-9)))

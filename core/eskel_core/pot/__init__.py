"""The pickle pot: how long a piece stays in it, and what its loads tell of it."""

from ._loads import CopperByLoads, Load, copper_by_loads, pace_of
from ._minutes import COLD_POT_C, PickleMinutes, Scale, pickle_minutes, scale_of

__all__ = [
    "COLD_POT_C",
    "CopperByLoads",
    "Load",
    "PickleMinutes",
    "Scale",
    "copper_by_loads",
    "pace_of",
    "pickle_minutes",
    "scale_of",
]

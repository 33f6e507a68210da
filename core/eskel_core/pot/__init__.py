"""The pickle pot: how long a piece stays in it."""

from ._minutes import COLD_POT_C, PickleMinutes, Scale, pickle_minutes, scale_of

__all__ = ["COLD_POT_C", "PickleMinutes", "Scale", "pickle_minutes", "scale_of"]

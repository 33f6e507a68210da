"""Runs: plans as they are carried out, step by step, with times and outcomes.

Public: `Asked`, `find_runs`, `sums_of`, `timed_heats`, `step_times`, `choices` and `outcomes_in_log`, for the log; `logged_heats`, `HeatAsLogged` and `has_record`,
for the torches; `worked_minutes`, for the minutes of a house.
"""

from .asked import (
    Asked,
    RunLine,
    TimedHeat,
    choices,
    find_runs,
    outcomes_in_log,
    step_times,
    sums_of,
    timed_heats,
)
from .queries import HeatAsLogged, has_record, logged_heats, worked_minutes

__all__ = [
    "Asked",
    "HeatAsLogged",
    "RunLine",
    "TimedHeat",
    "choices",
    "find_runs",
    "has_record",
    "logged_heats",
    "outcomes_in_log",
    "step_times",
    "sums_of",
    "timed_heats",
    "worked_minutes",
]

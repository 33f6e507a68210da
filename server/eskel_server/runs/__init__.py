"""Runs: plans as they are carried out, step by step, with times and outcomes.

Public: `find_runs`, `RunLine` and `outcomes_in_log`, for the log; `logged_heats`, `HeatAsLogged` and `has_record`, for the torches;
`worked_minutes`, for the minutes of a house.
"""

from .queries import (
    HeatAsLogged,
    RunLine,
    find_runs,
    has_record,
    logged_heats,
    outcomes_in_log,
    worked_minutes,
)

__all__ = [
    "HeatAsLogged",
    "RunLine",
    "find_runs",
    "has_record",
    "logged_heats",
    "outcomes_in_log",
    "worked_minutes",
]

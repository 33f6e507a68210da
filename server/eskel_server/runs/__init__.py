"""Runs: plans as they are carried out, step by step, with times and outcomes.

Public: `Asked`, `Chosen`, `find_runs`, `sums_of`, `timed_heats`, `step_times`, `without_a_word`, `choices`, `outcomes_in_log`, `runs_in_log`, `files_in_log` and `MOST_IN_FILE`, for the log; `logged_heats`, `HeatAsLogged` and `has_record`,
for the torches; `worked_minutes`, for the minutes of a house; of `runs.rest` `made_in`, for the shelf (that needs the models).
"""

from .asked import (
    Asked,
    Chosen,
    RunLine,
    TimedHeat,
    choices,
    find_runs,
    step_times,
    sums_of,
    timed_heats,
    without_a_word,
)
from .listed import MOST_IN_FILE, files_in_log, outcomes_in_log, runs_in_log
from .queries import HeatAsLogged, has_record, logged_heats, worked_minutes

__all__ = [
    "MOST_IN_FILE",
    "Asked",
    "Chosen",
    "HeatAsLogged",
    "RunLine",
    "TimedHeat",
    "choices",
    "files_in_log",
    "find_runs",
    "has_record",
    "logged_heats",
    "outcomes_in_log",
    "runs_in_log",
    "step_times",
    "sums_of",
    "timed_heats",
    "without_a_word",
    "worked_minutes",
]

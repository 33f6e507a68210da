"""Runs: plans as they are carried out, step by step, with times and outcomes.

Public: `runs_of` and `run_of`, for the log.
"""

from .queries import run_of, runs_of

__all__ = ["run_of", "runs_of"]

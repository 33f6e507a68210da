"""Cold work: how reductions add up, and when a metal must be annealed."""

from ._reductions import compounded_pct, profile_reduction_pct, start_reduction_pct, usual_reduction_pct

__all__ = ["compounded_pct", "profile_reduction_pct", "start_reduction_pct", "usual_reduction_pct"]

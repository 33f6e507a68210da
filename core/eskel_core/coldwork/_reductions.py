"""Reductions in per cent, compounded: 1 − Π(1 − r)."""

from __future__ import annotations

from ..forms import Form, Profile, profile_area_mm2
from ..metals import temper_reduction_pct


def compounded_pct(*reductions_pct: float) -> float:
    """Give the reduction that several in a row come to.

    >>> round(compounded_pct(20, 50), 6)
    60.0
    """
    left = 1.0
    for reduction in reductions_pct:
        left *= 1 - reduction / 100
    return (1 - left) * 100


def profile_reduction_pct(before: Profile, after: Profile) -> float:
    """Give the loss of section between two profiles, %, never below 0."""
    return max(0.0, (1 - profile_area_mm2(after) / profile_area_mm2(before)) * 100)


def start_reduction_pct(temper: str, form: Form) -> float:
    """Give the reduction that a bought temper stands for; `unknown` is taken as hard."""
    like = "sheet" if form.kind in ("sheet", "strip") else "wire"
    return temper_reduction_pct(like, "hard" if temper == "unknown" else temper)

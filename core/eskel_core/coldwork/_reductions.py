"""Reductions in per cent, compounded: 1 − Π(1 − r)."""

from __future__ import annotations

import csv
from functools import lru_cache
from importlib.resources import files

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


def usual_reduction_pct(kind: str) -> float | None:
    """Give the reduction, %, that forming of a kind is taken to be where nobody tells it; None where it is no forming.

    >>> usual_reduction_pct("bend"), usual_reduction_pct("drill")
    (10.0, None)
    """
    return _usual().get(kind)


@lru_cache(maxsize=1)
def _usual() -> dict[str, float]:
    text = (files("eskel_core") / "data" / "forming.csv").read_text(encoding="utf-8")
    return {row["kind"]: float(row["reduction_pct"]) for row in csv.DictReader(text.splitlines())}

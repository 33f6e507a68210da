"""The steps of a draw-down as they are marked off at the mill: passes, and the anneals before them."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from ..units import about
from ._registry import Answer

_BY = {"mill": "Roll to", "draw": "Draw to"}


class MakingStep(BaseModel):
    """One step: a pass with the size and length after it, or an anneal."""

    model_config = ConfigDict(frozen=True)

    kind: Literal["pass", "anneal"]
    text: str
    size_mm: float | None = None
    length_mm: float | None = None
    reduction_since_anneal_pct: float = 0.0
    turns: float | None = None


def making_steps(answer: Answer) -> tuple[MakingStep, ...]:
    """Give the steps of a draw-down's answer; nothing for any other calculator."""
    steps: list[MakingStep] = []
    passes: tuple[Any, ...] = getattr(answer.found, "passes", ())
    for one in passes:
        if one.anneal_before:
            steps.append(MakingStep(kind="anneal", text="Anneal, quench, pickle, rinse and dry"))
        steps.append(
            MakingStep(
                kind="pass",
                text=f"{_BY[one.by]} {about(one.size_mm, 2)} {one.section.kind}",
                turns=one.turns,
                size_mm=one.size_mm,
                length_mm=one.length_mm,
                reduction_since_anneal_pct=one.reduction_since_anneal_pct,
            )
        )
    return tuple(steps)

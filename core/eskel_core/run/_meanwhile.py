"""What can be done while a piece cools or lies in the pot: the next step of another running piece that needs no torch, or whose heat takes the same solder."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..plan import HeatStep, Step

Why = Literal["no-torch", "same-solder"]
_WAITS = frozenset(("cool", "pickle"))


@dataclass(frozen=True)
class AtHand:
    """A running piece: the step at which it stands, `left_min` minutes of which are left where it waits by itself, and what comes after."""

    run: int
    step: Step
    after: Sequence[Step]
    left_min: float = 0.0


@dataclass(frozen=True)
class Meanwhile:
    """What can be done of another piece meanwhile, and why that."""

    run: int
    step: Step
    why: Why


def meanwhile(waiting: AtHand, others: Sequence[AtHand]) -> tuple[Meanwhile, ...]:
    """Give what can be done while a piece waits: what needs no torch and fits into the time that is left, the longest of it first; what takes
    longer, the shortest first; then heats that take the solder of the waiting piece's next heat. Nothing for a piece that does not wait.
    """
    if waiting.step.kind not in _WAITS:
        return ()
    cold = [one for one in others if one.step.kind not in (*_WAITS, "heat")]
    within = sorted((one for one in cold if one.step.minutes <= waiting.left_min), key=_longest_first)
    beyond = sorted(
        (one for one in cold if one.step.minutes > waiting.left_min), key=lambda one: one.step.minutes
    )
    wanted = _solders(next((step for step in waiting.after if isinstance(step, HeatStep)), None))
    alike = [one for one in others if wanted & _solders(one.step)]
    return (
        *(Meanwhile(one.run, one.step, "no-torch") for one in (*within, *beyond)),
        *(Meanwhile(one.run, one.step, "same-solder") for one in alike),
    )


def _longest_first(one: AtHand) -> float:
    return -one.step.minutes


def _solders(step: Step | None) -> set[str]:
    return {row.solder for row in step.joins if row.solder} if isinstance(step, HeatStep) else set()

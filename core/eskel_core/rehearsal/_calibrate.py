"""How strong this bench's torch is: a factor of the film coefficient, reckoned from logged heats.

Each logged heat gives the factor with which its prediction would have come true, read off the band that was
predicted. The factor's logarithm has a prior of 0 ± ln 1.4 (a torch is within 40 % of the table's), and the logged heats
are weighed as draws from Student's distribution with three degrees of freedom (Lange, Little, Taylor, "Robust
statistical modeling using the t distribution", J. American Statistical Association 84, 1989): a wild time weighs little.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

PRIOR_SPREAD = math.log(1.4)
TIMING_SPREAD = 0.15
_LEAST_TIMING = 0.06
_FREEDOM = 3.0
_ROUNDS = 60
_WILD = 0.35
_SHORTEST_SHARE, _LONGEST_TIMES = 0.5, 3.0
WhyNot = Literal["no-flame", "failed", "clicked-through", "interrupted"]


@dataclass(frozen=True)
class TorchFactor:
    """How strong this bench's torch is beside the table's: a factor, and the spread of its logarithm."""

    factor: float = 1.0
    spread: float = PRIOR_SPREAD


@dataclass(frozen=True)
class LoggedHeat:
    """A heat that was predicted and carried out, times in s; `factor` and `spread` are those it was predicted with.

    `lit` says whether its clock began with a lit flame, `sound` whether every join came out sound.
    """

    low_s: float | None
    likely_s: float
    high_s: float | None
    factor: float
    spread: float
    actual_s: float
    lit: bool = True
    sound: bool = True


@dataclass(frozen=True)
class Calibration:
    """The torch factor of a bench, the factor that each logged heat speaks for, and how it weighs (0 to 1).

    A heat that counts for nothing speaks for a factor all the same, weighs 0, and `why_not` says why.

    `torch` is for predictions: its spread holds that of the factor and that of a smith's timing. `known` is the
    spread of the factor alone.
    """

    torch: TorchFactor
    known: float
    speaks_for: tuple[float, ...]
    weights: tuple[float, ...]
    wild: tuple[bool, ...]
    why_not: tuple[WhyNot | None, ...]


def why_not(heat: LoggedHeat) -> WhyNot | None:
    """Say why a logged heat teaches nothing of the torch: its clock began with no flame, it failed, or it was shorter than
    half, or longer than three times, of what any hand takes.

    >>> why_not(LoggedHeat(20, 30, 45, 1.0, 0.3, 4.0)), why_not(LoggedHeat(20, 30, 45, 1.0, 0.3, 140.0))
    ('clicked-through', 'interrupted')
    """
    if not heat.lit:
        return "no-flame"
    if not heat.sound:
        return "failed"
    if heat.actual_s < _SHORTEST_SHARE * min(heat.low_s or heat.likely_s, heat.likely_s):
        return "clicked-through"
    if heat.actual_s > _LONGEST_TIMES * max(heat.high_s or heat.likely_s, heat.likely_s):
        return "interrupted"
    return None


def calibrate(heats: Sequence[LoggedHeat]) -> Calibration:
    """Reckon the torch factor from logged heats, in the order in which they were made; none of them gives the prior."""
    implied = [implied_log(heat) for heat in heats]
    reasons = tuple(why_not(heat) for heat in heats)
    counted = [one for one, reason in zip(implied, reasons, strict=True) if reason is None]
    middle, known, timing, some = _fit(counted)
    left = iter(some)
    weights = tuple(next(left) if reason is None else 0.0 for reason in reasons)
    return Calibration(
        torch=TorchFactor(math.exp(middle), _predictive(known, timing, len(counted))),
        known=known,
        speaks_for=tuple(math.exp(one) for one in implied),
        weights=weights,
        wild=tuple(
            reason is None and weight < _WILD for weight, reason in zip(weights, reasons, strict=True)
        ),
        why_not=reasons,
    )


def _predictive(known: float, timing: float, heats: int) -> float:
    """Give the spread of the next heat: the prior's own before the first, then the factor's and the timing's."""
    return known if heats == 0 else math.hypot(known, timing)


def implied_log(heat: LoggedHeat) -> float:
    """Give the logarithm of the factor with which a heat would have taken as long as it did.

    Read off the predicted band, straight between its logarithms and on beyond its ends; where the band has one end
    only, a time is taken to go as one over the factor.
    """
    points = [(math.log(heat.likely_s), 0.0)]
    if heat.spread > 0:
        if heat.low_s is not None and heat.low_s < heat.likely_s:
            points.insert(0, (math.log(heat.low_s), heat.spread))
        if heat.high_s is not None and heat.high_s > heat.likely_s:
            points.append((math.log(heat.high_s), -heat.spread))
    at = math.log(heat.actual_s)
    if len(points) == 1:
        return math.log(heat.factor) + points[0][0] - at
    first = 0 if at <= points[1][0] or len(points) == 2 else 1
    (x0, y0), (x1, y1) = points[first], points[first + 1]
    return math.log(heat.factor) + y0 + (y1 - y0) * (at - x0) / (x1 - x0)


def _fit(implied: list[float]) -> tuple[float, float, float, tuple[float, ...]]:
    """Give the middle, its spread, the timing's spread, and each one's weight beside the heaviest."""
    if not implied:
        return 0.0, PRIOR_SPREAD, TIMING_SPREAD, ()
    ordered = sorted(implied)
    middle = ordered[len(ordered) // 2] if len(ordered) > 2 else 0.0
    timing = TIMING_SPREAD
    weights = [1.0] * len(implied)
    precision = 1.0
    for _ in range(_ROUNDS):
        weights = [(_FREEDOM + 1) / (_FREEDOM + ((one - middle) / timing) ** 2) for one in implied]
        precision = sum(weights) / timing**2 + 1 / PRIOR_SPREAD**2
        middle = (
            sum(weight * one for weight, one in zip(weights, implied, strict=True)) / timing**2 / precision
        )
        if len(implied) >= 4:
            off = sum(weight * (one - middle) ** 2 for weight, one in zip(weights, implied, strict=True))
            timing = max(_LEAST_TIMING, math.sqrt((off + TIMING_SPREAD**2) / (len(implied) + 1)))
    heaviest = (_FREEDOM + 1) / _FREEDOM
    return middle, 1 / math.sqrt(precision), timing, tuple(min(1.0, one / heaviest) for one in weights)

"""How strong the torch is today, by the signs pressed so far, and how long the rest will take.

The logarithm of how much longer the heat takes than was foretold is drawn towards 0: a torch is within a quarter of what
is known of it, and a sign is pressed within a second or a tenth of its time (the hands' own spreads). Both are taken as
normal, so the estimate is their mean, weighed by what each is sure of.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

TORCH_SPREAD, PRESSED_SPREAD, PRESSED_S = 0.25, 0.1, 1.0
_WEAK, _STRONG = 1.15, 1 / 1.15


@dataclass(frozen=True)
class Today:
    """What is told anew: how many times longer than foretold, what is left of the heat, s, and that in words."""

    longer: float
    left_s: float
    words: str


def told_anew(stages_s: Sequence[float], pressed_s: Mapping[int, float], what: str = "runs") -> Today | None:
    """Tell what is left of a heat from when the sign of the latest stage was pressed; None before the first, and after the last.

    `stages_s` is how long each stage was foretold to take, s; `pressed_s` when the sign of which was pressed (0 the first), s
    from the lit flame. A sign that was passed over counts as seen with the next one.

    >>> told_anew([15.0, 20.0], {0: 22.5})
    Today(longer=1.39, left_s=27.8, words='runs in about 28 s; a weak flame today')
    >>> told_anew([15.0, 20.0], {0: 15.0}).words
    'runs in about 20 s'
    """
    seen = [n for n in pressed_s if 0 <= n < len(stages_s)]
    if not seen or max(seen) == len(stages_s) - 1:
        return None
    last = max(seen)
    foretold, took = sum(stages_s[: last + 1]), pressed_s[last]
    if foretold <= 0 or took <= 0:
        return None
    off = math.hypot(PRESSED_SPREAD, PRESSED_S / foretold)
    sure = TORCH_SPREAD**2 / (TORCH_SPREAD**2 + off**2)
    longer = math.exp(sure * math.log(took / foretold))
    left = longer * sum(stages_s[last + 1 :])
    flame = "; a weak flame today" if longer > _WEAK else "; a strong flame today" if longer < _STRONG else ""
    return Today(round(longer, 2), round(left, 1), f"{what} in about {left:.0f} s{flame}")

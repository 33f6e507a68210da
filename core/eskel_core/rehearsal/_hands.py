"""What came of all hands, counted: the share that does well, what goes wrong most often, and how long it takes."""

from __future__ import annotations

import math
from collections import Counter

import numpy as np

from ..heat import Followable, Followed
from ._types import HandMark, Hands, Seconds, SpoiltHands, Verdict

_SURE, _CARE = 7 / 8, 1 / 2
_LOW, _HIGH = 0.1, 0.9
# Of seven hands in eight: what a credit holds for.
KEPT_BY = 7 / 8


def verdict_of(hands: Hands) -> Verdict:
    """Say in a word how it comes out: `sure` in seven of eight or more, `care` in half or more, `luck` in fewer, `never`."""
    share = hands.well / max(1, hands.tried)
    return "sure" if share >= _SURE else "care" if share >= _CARE else "luck" if hands.well else "never"


def counted(ready: Followable, found: Followed) -> Hands:
    """Count what came of each hand but the middle one."""
    hands = [ready.hand(found, row) for row in range(len(found.who)) if found.who[row] > 0]
    spoilt = Counter((one.about, one.why) for one in hands if one.fate == "spoilt")
    return Hands(
        tried=len(hands),
        well=sum(one.fate == "well" for one in hands),
        short=sum(one.fate == "short" for one in hands),
        spoilt=tuple(
            SpoiltHands.model_validate({"about": about, "kind": kind, "count": count})
            for (about, kind), count in sorted(spoilt.items(), key=lambda one: (-one[1], str(one[0])))
        ),
        marks=tuple(
            HandMark.model_validate({"kind": one.why, "about": one.about, "seconds": round(one.at_s, 1)})
            for one in hands
            if one.fate != "well"
        ),
    )


def seconds_of(found: Followed, middle_s: float | None) -> Seconds | None:
    """Give how long it takes from the lit torch: the middle hand, and the hands between one and nine tenths.

    Where more than a tenth never get there the high end is open; None where no hand does.
    """
    done = np.sort(found.done_s[found.who > 0])
    there = done[np.isfinite(done)]
    if not len(there):
        # Spoilt in every hand before: how long it would have taken the middle one.
        return None if middle_s is None else Seconds(low=None, likely=round(middle_s, 2), high=None)
    likely = middle_s if middle_s is not None and math.isfinite(middle_s) else float(np.median(there))
    low = float(there[int(_LOW * (len(there) - 1))])
    high = float(done[math.ceil(_HIGH * (len(done) - 1))])
    return Seconds(
        low=round(min(low, likely), 2),
        likely=round(likely, 2),
        high=round(max(high, likely), 2) if math.isfinite(high) else None,
    )

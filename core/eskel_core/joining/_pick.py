"""What is chosen for a join, and the reasons that every choice shares."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

from ..forms import Wire, measure, rim_line
from ..piece import Part

STEEL = ("steel", "steel wire holds at heat; it comes off before the pot")


@dataclass(frozen=True)
class Pick:
    """What is chosen for a join: its kind, the keys that are not the usual ones, and why, by key."""

    kind: str
    why: dict[str, str]
    keys: dict[str, Any] = field(default_factory=dict)
    small: Part | None = None
    closes: bool = False


def pick_of(
    kind: str, why: str, *, small: Part | None = None, closes: bool = False, **keys: tuple[Any, str]
) -> Pick:
    told = {key: value for key, (value, _) in keys.items()}
    reasons = {"kind": why, **{key: text for key, (_, text) in keys.items()}}
    return Pick(kind, reasons, told, small, closes)


def seated(why: str) -> tuple[str, str]:
    return "seated", why


def bears(part: Part) -> tuple[bool, str]:
    return True, f"{part.title} bears load"


def lighter(a: Part, b: Part) -> Part:
    return min((a, b), key=lambda part: measure(part.form).volume_mm3 or math.inf)


def across_mm(form: Wire) -> float:
    """Give how wide a ring or a bent run is in all, mm; of a straight one its length."""
    line = rim_line(form)
    if line is None:
        return form.length_mm
    xs, ys = [x for x, _ in line.points], [y for _, y in line.points]
    return max(max(xs) - min(xs), max(ys) - min(ys)) + line.width_mm

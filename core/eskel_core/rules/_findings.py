"""Run every rule over a course and gather what they find, the gravest first."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from ._course import Course
from ._finding import Finding
from ._finish_rules import FINISH_RULES
from ._heat_rules import HEAT_RULES
from ._loose_rules import LOOSE_RULES
from ._metal_rules import METAL_RULES
from ._pot_rules import POT_RULES
from ._rehearsed_rules import REHEARSED_RULES
from ._work_rules import WORK_RULES

_GRAVEST = {"danger": 0, "stop": 1, "warn": 2, "note": 3}
RuleUnit = Callable[[Course], Iterator[Finding]]


def find_all(course: Course) -> tuple[Finding, ...]:
    """Give every finding of a course: dangers first, then in the order of the heats."""
    units: tuple[RuleUnit, ...] = (
        *HEAT_RULES,
        *METAL_RULES,
        *WORK_RULES,
        *LOOSE_RULES,
        *FINISH_RULES,
        *POT_RULES,
        *REHEARSED_RULES,
    )
    found = [finding for unit in units for finding in unit(course)]
    return tuple(sorted(found, key=lambda one: (_GRAVEST[one.severity], one.heat or 0, one.code, one.about)))


__all__ = ["Finding", "find_all"]

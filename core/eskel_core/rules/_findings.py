"""Run every rule over a course and gather what they find, the gravest first."""

from __future__ import annotations

from ..state import Act, State

# What registers itself by being read.
from . import (
    _finish_rules,
    _heat_rules,
    _loose_rules,
    _metal_rules,
    _pot_rules,
    _rehearsed_rules,
    _state_rules,
    _work_rules,
)
from ._course import Course
from ._finding import Finding
from ._registry import units

READ = (
    _finish_rules,
    _heat_rules,
    _loose_rules,
    _metal_rules,
    _pot_rules,
    _rehearsed_rules,
    _state_rules,
    _work_rules,
)
_GRAVEST = {"danger": 0, "stop": 1, "warn": 2, "note": 3}


def find_all(course: Course) -> tuple[Finding, ...]:
    """Give every finding of a course: dangers first, then in the order of the heats."""
    found = [finding for unit in units("course") for finding in unit.findings(course)]
    return tuple(sorted(found, key=lambda one: (_GRAVEST[one.severity], one.heat or 0, one.code, one.about)))


def find_in_act(state: State, act: Act) -> tuple[Finding, ...]:
    """Give what the rules find in one act by the work as it stands."""
    return tuple(finding for unit in units("state") for finding in unit.findings(state, act))

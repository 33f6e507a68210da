"""The judgement rules: their catalogue, the temperatures they rest on, and what they find in a course of heats.

Concepts: a `Rule` (code, severity, when, remedy); the state of an earlier join in a later heat
(`firm`, `soft`, `flows`); a `Course` (the heats of a piece in order, as a planner proposes them);
a `Finding` (a rule that speaks, about what, and in which heat).
"""

from ..state import Anatomy, JoinNodes, anatomy, together
from ._anneals import GLOW, AnnealEnd, anneal_end, made_ready
from ._asking import (
    THICK_MM,
    at_join_c,
    capacity_near_j_k,
    metals_in,
    placing_of,
    states_in,
    thickness_mm,
)
from ._catalogue import Rule, Severity, rules
from ._course import Course, Filler, Heat, Lie, Purpose
from ._finding import Finding
from ._findings import find_all, find_in_act
from ._finish_rules import ON_STEEL
from ._holding import (
    ALL_LIES,
    can_be_protected,
    comes_off,
    holds_at_all,
    is_steel,
    lies_for,
    loaded_when_soft,
)
from ._metal_rules import cadmium
from ._occasions import Done, Example
from ._pot_rules import LONGEST_TIMES, over_pickle
from ._reach import FIRM_C, Reach, is_in_hand, is_local, reach_of
from ._registry import Unregistered, examples, rule, speaks, units
from ._rehearsed_rules import rehearsed
from ._springs import hardenings
from ._temperatures import (
    MOST_SHIELD_C,
    State,
    filler_of_anneal,
    filler_of_fuse,
    filler_of_solder,
    filler_of_work,
    reflow_c,
    shield_c,
    state_at,
)
from ._work_rules import reduction_of

__all__ = [
    "ALL_LIES",
    "FIRM_C",
    "GLOW",
    "LONGEST_TIMES",
    "MOST_SHIELD_C",
    "ON_STEEL",
    "THICK_MM",
    "Anatomy",
    "AnnealEnd",
    "Course",
    "Done",
    "Example",
    "Filler",
    "Finding",
    "Heat",
    "JoinNodes",
    "Lie",
    "Purpose",
    "Reach",
    "Rule",
    "Severity",
    "State",
    "Unregistered",
    "anatomy",
    "anneal_end",
    "at_join_c",
    "cadmium",
    "can_be_protected",
    "capacity_near_j_k",
    "comes_off",
    "examples",
    "filler_of_anneal",
    "filler_of_fuse",
    "filler_of_solder",
    "filler_of_work",
    "find_all",
    "find_in_act",
    "hardenings",
    "holds_at_all",
    "is_in_hand",
    "is_local",
    "is_steel",
    "lies_for",
    "loaded_when_soft",
    "made_ready",
    "metals_in",
    "over_pickle",
    "placing_of",
    "reach_of",
    "reduction_of",
    "reflow_c",
    "rehearsed",
    "rule",
    "rules",
    "shield_c",
    "speaks",
    "state_at",
    "states_in",
    "thickness_mm",
    "together",
    "units",
]

"""The planner: which join takes which solder in which heat, proven best, explained, and written out as steps.

Concepts: the search's answer becomes a *course* (heats with their bodies), *steps*, and the *plan* that holds them. `plan` is
the one way in; `why_join` asks the search what else a join could be.
"""

from ..demands import without_moves
from ..search import FULL, QUICK
from ._acts import acts_of
from ._alternatives import why_join
from ._amounts import say_amount
from ._kept import read_plan
from ._minutes import Pace, each_by_log, paces
from ._plan import Standing, not_planned, plan, standing
from ._spoken import Spoken, rules_speaking, spoken
from ._types import (
    Alternative,
    Amount,
    Band,
    Caution,
    Check,
    Conflict,
    CoolStep,
    CutLine,
    HeatJoin,
    HeatStep,
    InspectStep,
    JoinWhy,
    LikelyTime,
    Measuring,
    MovedByHand,
    Objective,
    PickleStep,
    Plan,
    PrepareStep,
    Protect,
    RuledOut,
    SolderLine,
    StageTold,
    Status,
    Step,
    Why,
    WorkStep,
)

__all__ = [
    "FULL",
    "QUICK",
    "Alternative",
    "Amount",
    "Band",
    "Caution",
    "Check",
    "Conflict",
    "CoolStep",
    "CutLine",
    "HeatJoin",
    "HeatStep",
    "InspectStep",
    "JoinWhy",
    "LikelyTime",
    "Measuring",
    "MovedByHand",
    "Objective",
    "Pace",
    "PickleStep",
    "Plan",
    "PrepareStep",
    "Protect",
    "RuledOut",
    "SolderLine",
    "Spoken",
    "StageTold",
    "Standing",
    "Status",
    "Step",
    "Why",
    "WorkStep",
    "acts_of",
    "each_by_log",
    "not_planned",
    "paces",
    "plan",
    "read_plan",
    "rules_speaking",
    "say_amount",
    "spoken",
    "standing",
    "why_join",
    "without_moves",
]

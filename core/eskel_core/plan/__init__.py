"""The planner: which join takes which solder in which heat, proven best, explained, and written out as steps.

Concepts: *demands* (what a plan must keep), an *assignment* (the solver's answer), a *course* (heats with
their bodies), *steps*, and the *plan* that holds them. `plan` is the one way in.
"""

from ._alternatives import why_join
from ._moves import without_moves
from ._plan import plan
from ._solve import FULL, QUICK
from ._types import (
    PLAN_FORMAT,
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
    MovedByHand,
    Objective,
    PickleStep,
    Plan,
    PrepareStep,
    Protect,
    RuledOut,
    SolderLine,
    Status,
    Step,
    Why,
    WorkStep,
)

__all__ = [
    "FULL",
    "PLAN_FORMAT",
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
    "MovedByHand",
    "Objective",
    "PickleStep",
    "Plan",
    "PrepareStep",
    "Protect",
    "RuledOut",
    "SolderLine",
    "Status",
    "Step",
    "Why",
    "WorkStep",
    "plan",
    "why_join",
    "without_moves",
]

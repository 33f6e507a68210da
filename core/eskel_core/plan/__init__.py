"""The planner: which join takes which solder in which heat, proven best, explained, and written out as steps.

Concepts: *demands* (what a plan must keep), an *assignment* (the solver's answer), a *course* (heats with
their bodies), *steps*, and the *plan* that holds them. `plan` is the one way in.
"""

from ._plan import plan
from ._types import (
    PLAN_FORMAT,
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
    "PLAN_FORMAT",
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
]

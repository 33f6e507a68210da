"""The rehearsal of a plan's heats: how long, where to point, what fails first, and what would help.

Concepts: a `Rehearsal` of one heat (programme, lines, events, tightest moment), made by `rehearse_heat` from a `HeatRequest`; the three
habits and `what_would_help`, each tried by the model; `use` copies what was found into the piece, where the rules
read it; a `TorchFactor` is how strong this bench's torch is, and `calibrate` reckons it from logged heats.
"""

from ._calibrate import Calibration, LoggedHeat, TorchFactor, WhyNot, calibrate
from ._compare import what_would_help
from ._rehearse import rehearse_heat
from ._request import HeatRequest
from ._scene import FLAME_SETTINGS, Progress
from ._types import Habit, HabitTried, Help, Rehearsal, Seconds, Verdict, read_rehearsal
from ._use import WholeRehearsed, carry_over, out_of_date, rehearse_piece, use, without_credits

__all__ = [
    "FLAME_SETTINGS",
    "Calibration",
    "Habit",
    "HabitTried",
    "HeatRequest",
    "Help",
    "LoggedHeat",
    "Progress",
    "Rehearsal",
    "Seconds",
    "TorchFactor",
    "Verdict",
    "WholeRehearsed",
    "WhyNot",
    "calibrate",
    "carry_over",
    "out_of_date",
    "read_rehearsal",
    "rehearse_heat",
    "rehearse_piece",
    "use",
    "what_would_help",
    "without_credits",
]

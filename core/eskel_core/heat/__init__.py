"""How heat moves through a body under a flame: cells, conduction, losses, the block, and where to point.

Concepts: `Cells` of one part; a `Network` of them, put together by `assemble` or from a piece by `body_of`; an `Aim`
(a way to hold the flame) and a `Stage` (an aim, a setting, a time); `rehearse` marches a network through stages to a
`Trace`; `best_programme` finds stages that bring every `Goal` to its temperature and keep every `Limit`; `grow_ball` melts a
wire's end to a ball.
Temperatures in °C, places in mm, everything else in SI units.
"""

from ._aims import Aim, Side, Stage, aims_of
from ._ball import Growth, grow_ball
from ._best import LONGEST_SEARCHED_S, Found, best_programme, rank_of, run
from ._body import Body, Lies, body_of
from ._cells import Cells, cells_of
from ._gathered import Gather, Gathered
from ._glow import Light, glow_rgb, glow_word, luminance_cd_m2
from ._ground import conductance_w_m2k
from ._march import KELVIN, ROOM_C, SIGMA, Energy, Flame, March, cooled
from ._network import DRY_W_M2K, GLASSY_W_M2K, Ground, Network, Touch, assemble
from ._rehearse import rehearse
from ._search import MOST_STAGES, at_random, search
from ._setup import FLOW_HOLD_S, Event, Goal, HeatSetup, Limit, Trace, film_of
from ._trials import SETTINGS, Programme, Trials, Tried

__all__ = [
    "DRY_W_M2K",
    "FLOW_HOLD_S",
    "GLASSY_W_M2K",
    "KELVIN",
    "LONGEST_SEARCHED_S",
    "MOST_STAGES",
    "ROOM_C",
    "SETTINGS",
    "SIGMA",
    "Aim",
    "Body",
    "Cells",
    "Energy",
    "Event",
    "Flame",
    "Found",
    "Gather",
    "Gathered",
    "Goal",
    "Ground",
    "Growth",
    "HeatSetup",
    "Lies",
    "Light",
    "Limit",
    "March",
    "Network",
    "Programme",
    "Side",
    "Stage",
    "Touch",
    "Trace",
    "Trials",
    "Tried",
    "aims_of",
    "assemble",
    "at_random",
    "best_programme",
    "body_of",
    "cells_of",
    "conductance_w_m2k",
    "cooled",
    "film_of",
    "glow_rgb",
    "glow_word",
    "grow_ball",
    "luminance_cd_m2",
    "rank_of",
    "rehearse",
    "run",
    "search",
]

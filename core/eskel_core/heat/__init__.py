"""How heat moves through a body under a flame: cells, conduction, losses, the block, where to point, and what hands make of it.

Concepts: `Cells` of one part; a `Network` of them, put together by `assemble` or from a piece by `body_of`; an `Aim`
(a way to hold the flame), a `Sign` and a `Stage` (an aim and a setting until a sign is seen); a `HeatSetup` made `Followable`
by sixty-four hands; `Ways` to heat it, of which `best_programme` finds the one that comes out well in most; a `Trace` of what the
middle hand sees. `March` takes a body alone through time; `grow_ball` melts a wire's end to a ball.
Temperatures in °C, places in mm, everything else in SI units.
"""

from ._aims import Aim, Pointed, aims_of, drying_of
from ._asked import LATE_S, SETTING, STRENGTH
from ._ball import Growth, grow_ball
from ._body import Body, body_of
from ._cells import Cells
from ._cut import cells_of
from ._follow import MIDDLE, Followable, Followed, Hand, Start
from ._gathered import Gather, Gathered
from ._glow import Light, glow_rgb, glow_word, luminance_cd_m2
from ._ground import PACES, conductance_w_m2k, rested
from ._hands import HANDS, all_hands, hands_of
from ._levels import Lies
from ._march import KELVIN, ROOM_C, SIGMA, Energy, Flame, March, cooled
from ._network import Ground, Lying, Network, Touch, assemble
from ._search import GENERATIONS, Hunt, best_programme
from ._settles import settled_c
from ._setup import NOTCH, WAIT_S, Brought, Event, Goal, HeatSetup, Limit, Sign, Stage, slumps_c
from ._shown import Side
from ._signs import glows, signs_of
from ._trace import Trace, band, stage_seconds, traced
from ._wash import gas_speed_m_s, washed_film_w_m2k
from ._ways import LEAST_STAGE_S, SETTINGS, Ways, everyone, goodness, ways_of, with_setup

__all__ = [
    "GENERATIONS",
    "HANDS",
    "KELVIN",
    "LATE_S",
    "LEAST_STAGE_S",
    "MIDDLE",
    "NOTCH",
    "PACES",
    "ROOM_C",
    "SETTING",
    "SETTINGS",
    "SIGMA",
    "STRENGTH",
    "WAIT_S",
    "Aim",
    "Body",
    "Brought",
    "Cells",
    "Energy",
    "Event",
    "Flame",
    "Followable",
    "Followed",
    "Gather",
    "Gathered",
    "Goal",
    "Ground",
    "Growth",
    "Hand",
    "HeatSetup",
    "Hunt",
    "Lies",
    "Light",
    "Limit",
    "Lying",
    "March",
    "Network",
    "Pointed",
    "Side",
    "Sign",
    "Stage",
    "Start",
    "Touch",
    "Trace",
    "Ways",
    "aims_of",
    "all_hands",
    "assemble",
    "band",
    "best_programme",
    "body_of",
    "cells_of",
    "conductance_w_m2k",
    "cooled",
    "drying_of",
    "everyone",
    "gas_speed_m_s",
    "glow_rgb",
    "glow_word",
    "glows",
    "goodness",
    "grow_ball",
    "hands_of",
    "luminance_cd_m2",
    "rested",
    "settled_c",
    "signs_of",
    "slumps_c",
    "stage_seconds",
    "traced",
    "washed_film_w_m2k",
    "ways_of",
    "with_setup",
]

"""What a rehearsal of one heat is made of, and what is seen in it."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from ..metals import Flux, Torch
from ._aims import Stage
from ._grid import Floats
from ._march import ROOM_C, Energy
from ._network import Indices, Network

FLOW_HOLD_S = 0.5
MOST_TAKEN = 0.5


@dataclass(frozen=True)
class Goal:
    """What a heat is to reach: a seam (or a whole part) at or above a temperature, °C, for half a second."""

    id: str
    cells: Indices
    reach_c: float


@dataclass(frozen=True)
class Limit:
    """What a heat is to spare: cells that must stay below a temperature, °C."""

    id: str
    kind: str
    cells: Indices
    below_c: float
    soft_c: float | None = None


@dataclass(frozen=True)
class Event:
    """Something that happens at a place: at a time, s, and a temperature, °C."""

    seconds: float
    kind: str
    about: str
    at_c: float


@dataclass
class Trace:
    """What was seen: `times_s` (k), every cell's temperature `t_c` (k, n), events, when each goal was reached."""

    times_s: Floats
    t_c: Floats
    events: list[Event]
    reached: dict[str, float]
    tightest: tuple[str, float, float] | None
    energy: Energy
    stored_j: float
    block: Floats
    stages_s: list[float]

    def done_s(self, goals: tuple[Goal, ...]) -> float | None:
        """When the last goal was reached, s; None when one never was."""
        if any(goal.id not in self.reached for goal in goals):
            return None
        return max((self.reached[goal.id] for goal in goals), default=0.0)


@dataclass(frozen=True)
class HeatSetup:
    """Everything that a rehearsal of one heat is made of."""

    network: Network
    torch: Torch
    goals: tuple[Goal, ...]
    limits: tuple[Limit, ...]
    flux: Flux | None
    factor: float = 1.0
    room_c: float = ROOM_C
    block: Floats | None = None


def film_of(setup: HeatSetup, stage: Stage, done: Collection[str] = ()) -> Floats:
    """Give what each cell takes from the flame in a stage for each degree, W/K, when some places are done."""
    open_places = (share for place, share in stage.aim.places if place not in done)
    share = next(open_places, stage.aim.share_m2)
    made: Floats = share * (setup.torch.film_w_m2k * setup.factor * stage.setting)
    return made

"""What a rehearsal of one heat is made of, and what is seen in it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..metals import Flux, Metal, Torch
from ._aims import Aim
from ._grid import Floats
from ._hands import MOST_SPREAD
from ._march import ROOM_C
from ._network import Indices, Network

MOST_TAKEN = 0.5
LIQUID_SHARE = 0.15
# A place that passes the boiling point of its flux faster than this throws its chips, °C/s (our own default).
BOILS_C_S = 15.0
# After so long without its sign a stage is helped by a tenth more, and again (the brief's programme of signs).
WAIT_S, NOTCH = 8.0, 0.1
# A flame that is brushed over the work can be left on it longer: up to half of the time.
MOST_BRUSHED = 2.0
SignKind = Literal["crust", "dark", "clear", "glow", "range", "spins", "size", "runs", "count"]


@dataclass(frozen=True)
class Sign:
    """What ends a stage: something seen, of a part or at a join (None: all over), where cells come to `c`, °C.

    `coolest` waits for the coolest of them, else the hottest shows it. `runs` needs no cells: every goal is reached.
    """

    kind: SignKind
    about: str | None = None
    cells: tuple[int, ...] = ()
    c: float = 0.0
    coolest: bool = True
    word: str | None = None
    # Words of its own, where it is told otherwise than its kind is.
    seen: str | None = None

    @property
    def key(self) -> str:
        """A name for it that stays the same."""
        return f"{self.kind}:{self.about or ''}:{self.c:g}:{'all' if self.coolest else 'first'}"


@dataclass(frozen=True)
class Stage:
    """One thing to do with the flame: where, at which setting (0.3 to 1), until what is seen; or for a count of seconds.

    Where its sign stays away a tenth more is given every `wait_s`, up to full; never with 0. With `nearer`
    the flame comes nearer by and by, by so much of what it gives every second.
    """

    aim: Aim
    setting: float
    until: Sign
    seconds: float | None = None
    wait_s: float = WAIT_S
    nearer: float = 0.0

    @property
    def key(self) -> tuple[str, float, str]:
        """A name for it that stays the same."""
        return self.aim.key, self.setting, self.until.key


@dataclass(frozen=True)
class Goal:
    """What a heat is to reach: a seam (or a whole part) at or above a temperature, °C, for half a second.

    With `ever`, each place of it once: it need not all be there at one time.
    """

    id: str
    cells: Indices
    reach_c: float
    ever: bool = False


@dataclass(frozen=True)
class Limit:
    """What a heat is to spare: cells that must stay below a temperature, °C; from `soft_c` on it shows."""

    id: str
    kind: Literal["part", "join"]
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


@dataclass(frozen=True)
class Brought:
    """A light part that is brought in when the solder on the other side of its touch is liquid."""

    place: str
    node: str
    liquid_c: float


@dataclass(frozen=True)
class HeatSetup:
    """Everything that a rehearsal of one heat is made of. `wet` flux may boil; `spread` is that of the torch's strength."""

    network: Network
    torch: Torch
    goals: tuple[Goal, ...]
    limits: tuple[Limit, ...]
    flux: Flux | None
    factor: float = 1.0
    spread: float = MOST_SPREAD
    room_c: float = ROOM_C
    block: Floats | None = None
    wet: bool = True
    brought: Brought | None = None


def slumps_c(metal: Metal) -> float:
    """Give where a part slumps, °C: 15 % of it liquid, spread evenly between solidus and liquidus."""
    return metal.solidus_c + LIQUID_SHARE * max(metal.liquidus_c - metal.solidus_c, 4.0)

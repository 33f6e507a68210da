"""What can be done to the work: one frozen record for each kind of act. `copies` are those that it is done to, None: all."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from ._types import Fluid, Quality, SeamStage, There


@dataclass(frozen=True, slots=True)
class Making:
    """A join that a heat makes: with which solder (None: fused), °C where that begins to melt and where it flows."""

    join: str
    solder: str | None
    solidus_c: float
    flow_c: float


@dataclass(frozen=True)
class Heat:
    """A heat at `to_c`, °C, of what hangs together with the `seeds`.

    `makes` are the joins that it makes; `held` those joins that something holds in it; `cooler_c` by how much a join stays
    cooler than the rest; `softens`: whether the whole body comes to the heat; `work` is the heated work that it does; `in_hand` are the joins held
    by hand until their solder has set.
    """

    seeds: frozenset[str]
    to_c: float
    makes: tuple[Making, ...] = ()
    held: frozenset[str] = frozenset()
    cooler_c: Mapping[str, float] = field(default_factory=dict)
    softens: bool = True
    work: str | None = None
    in_hand: frozenset[str] = frozenset()
    number: int | None = None
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Ready:
    """The mould of a pour warmed until no more steam comes, and stood on a metal tray; `work` is the pour."""

    work: str
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Cool:
    """Cooling in air or in water; in water once it is black, or `too_early`, while it still glows."""

    parts: frozenset[str]
    how: Literal["air", "quench"]
    too_early: bool = False
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Bath:
    """Into water, acid or soda; `again` are the nodes that are heated afterwards, or hang together with what is."""

    parts: frozenset[str]
    fluid: Fluid
    again: frozenset[str] = frozenset()
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Dry:
    """Dried, inside and out, through whatever ways out there are; or without `inside`, where it is only wiped."""

    parts: frozenset[str]
    inside: bool = True
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Cover:
    """Flux put on: wet, or dried to a white crust."""

    parts: frozenset[str]
    flux: Literal["wet", "dry"] = "wet"
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Bind:
    """Steel wire, pins or clips put on joins."""

    joins: frozenset[str]
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Unbind:
    """All steel taken off parts."""

    parts: frozenset[str]
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Pierce:
    """A way out made into hollows, named by what made it."""

    hollows: frozenset[str]
    by: str
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Shut:
    """The ends of tubes closed cold: hammered, plugged or folded. A saw cut of before is shut with them, a drilled hole stays."""

    hollows: frozenset[str]
    by: str
    keeps: frozenset[str] = frozenset()
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Fix:
    """Parts put in, on or through each other without solder: a cold join by its id, or work that sets or hangs."""

    by: str
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Form:
    """Parts worked cold by so much, %; `on_steel` where a wet piece rusts the tool."""

    parts: frozenset[str]
    work: str
    reduction_pct: float = 0.0
    on_steel: bool = False
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Fit:
    """A part fitted and taken out again: a stone tried in its cup."""

    parts: frozenset[str]
    inside: bool
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Miss:
    """Parts lost, spoilt or become two."""

    parts: frozenset[str]
    there: There
    many: int = 1
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Replace:
    """So many parts made again, or a spare taken, in place of what was lost or spoilt."""

    parts: frozenset[str]
    many: int = 1
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Outcome:
    """How a join came out in some of its places (none: in all)."""

    join: str
    stage: SeamStage
    quality: Quality = "sound"
    places: tuple[int, ...] = ()
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Measure:
    """Something measured: `what`, in mm or g."""

    what: str
    value: float
    copies: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Look:
    """A look that passed, by its number."""

    number: str
    copies: tuple[int, ...] | None = None


Act = (
    Heat
    | Ready
    | Cool
    | Bath
    | Dry
    | Cover
    | Bind
    | Unbind
    | Pierce
    | Shut
    | Fix
    | Form
    | Fit
    | Miss
    | Replace
    | Outcome
    | Measure
    | Look
)

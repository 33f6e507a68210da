"""The work as it stands: what each join, part, tube and hollow is like now, in each group of copies that are still alike."""

from __future__ import annotations

from collections.abc import Hashable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal, NamedTuple

from ..metals import Metal
from ..piece import House, Join, Part, Piece, Reduction, Temper, metals_of
from ._anatomy import Anatomy

SeamStage = Literal["not-yet", "tacked", "soldered", "fused", "cold", "opened"]
Quality = Literal["sound", "short", "flooded"]
Warmth = Literal["cold", "warm", "black", "glowing"]
Fluid = Literal["water", "acid", "soda"]
Flux = Literal["none", "wet", "dry", "glass"]
There = Literal["there", "lost", "spoilt", "parted"]
Softness = Literal["firm", "soft", "flows"]
Severity = Literal["danger", "stop", "warn", "note"]


@dataclass(frozen=True, slots=True)
class Seam:
    """A join as it is in some of its places (numbers from 1; none: in all of them). Temperatures in °C.

    `solidus_c` is where its solder begins to melt, `runs_c` where it counts as running again. `steel`: steel wire, pins or
    clips are on it.
    """

    places: tuple[int, ...] = ()
    stage: SeamStage = "not-yet"
    quality: Quality = "sound"
    solder: str | None = None
    solidus_c: float | None = None
    runs_c: float | None = None
    steel: bool = False

    @property
    def holds(self) -> bool:
        """Whether it ties its parts together now."""
        return self.stage not in ("not-yet", "opened")

    def softness(self, at_c: float) -> Softness:
        """Say what becomes of its solder at a temperature, °C."""
        if self.runs_c is None or self.solidus_c is None:
            return "firm"
        return "flows" if at_c >= self.runs_c else "soft" if at_c >= self.solidus_c else "firm"


class Condition(NamedTuple):
    """What a part is like now. `reduction_pct` is what it was worked since it was soft last, None where nobody knows."""

    there: There = "there"
    lost: int = 0
    warmth: Warmth = "cold"
    hottest_c: float | None = None
    wet: frozenset[Fluid] = frozenset()
    flux: Flux = "none"
    scaled: bool = False
    temper: Temper | Reduction = "soft"
    reduction_pct: float | None = 0.0
    steel: bool = False
    fitted: bool = False


@dataclass(frozen=True, slots=True)
class Closed:
    """How a hollow was closed: cold, or by a heat of so many °C, which left the air in it thin; `bought` where it came so."""

    how: Literal["cold", "heat", "bought"]
    at_c: float | None = None


@dataclass(frozen=True, slots=True)
class Hollow:
    """A hollow, or the inside of a tube. `ways` are the ways out that there are now: joins not made yet, open ends, holes.

    `wide` are those by which water runs out by itself: joins not made yet, open ends. It is closed while there is no way out.
    `wet` is what may stand in it.
    """

    name: str
    nodes: frozenset[str]
    part: str | None = None
    ways: frozenset[str] = frozenset()
    wide: frozenset[str] = frozenset()
    closed: Closed | None = None
    wet: frozenset[Fluid] = frozenset()

    @property
    def open(self) -> bool:
        """Whether air and water get out of it."""
        return bool(self.ways)

    @property
    def holds_water(self) -> bool:
        """Whether water that gets in stays in: there are ways out, and all of them are small."""
        return bool(self.ways) and not self.wide


@dataclass(frozen=True)
class Group:
    """Copies that are still alike, by their numbers from 1, and what each of them is like."""

    copies: tuple[int, ...]
    seams: Mapping[str, tuple[Seam, ...]]
    parts: Mapping[str, Condition]
    hollows: Mapping[str, Hollow]
    fixed: frozenset[str] = frozenset()
    measured: Mapping[str, float] = field(default_factory=dict)
    passed: frozenset[str] = frozenset()
    ready: frozenset[str] = frozenset()
    """The pours whose mould is warm and dry now."""

    @cached_property
    def tied(self) -> frozenset[str]:
        """The joins that tie their parts together now, in any of their places."""
        return frozenset(name for name, seams in self.seams.items() if any(seam.holds for seam in seams))


@dataclass(frozen=True)
class Ground:
    """What stays the same whatever is done: the piece that the work is to become, its house rules and its nodes."""

    piece: Piece
    house: House
    anatomy: Anatomy
    known: dict[Hashable, frozenset[str]] = field(default_factory=dict, compare=False, repr=False)
    """Bodies that were worked out before, by what holds together in them."""

    @cached_property
    def joins(self) -> Mapping[str, Join]:
        """The joins of the piece by their ids."""
        return {join.id: join for join in self.piece.joins}

    @cached_property
    def kinds(self) -> Mapping[str, Part]:
        """The parts of the piece by their nodes."""
        return {node: part for part in self.piece.parts for node in self.anatomy.nodes[part.id]}

    @cached_property
    def metals(self) -> Mapping[str, Metal | None]:
        """The metals of the parts by their nodes, None for a stone."""
        known = metals_of(self.piece)
        return {node: known[part.metal] if part.metal else None for node, part in self.kinds.items()}


@dataclass(frozen=True)
class State:
    """The work as it stands: its groups of copies, and the ground that stays the same."""

    ground: Ground
    groups: tuple[Group, ...]

    @property
    def piece(self) -> Piece:
        """The piece that the work is to become."""
        return self.ground.piece

    @property
    def house(self) -> House:
        """The house rules that it is made by."""
        return self.ground.house

    @property
    def anatomy(self) -> Anatomy:
        """The nodes of the piece and what its joins tie."""
        return self.ground.anatomy

    @property
    def joins(self) -> Mapping[str, Join]:
        """The joins of the piece by their ids."""
        return self.ground.joins

    @property
    def kinds(self) -> Mapping[str, Part]:
        """The parts of the piece by their nodes."""
        return self.ground.kinds

    def metal(self, node: str) -> Metal | None:
        """Give the metal of a part by its node, None for a stone."""
        return self.ground.metals[node]


@dataclass(frozen=True, slots=True)
class Remark:
    """What is said of an act: `code` of the catalogue, how grave it is, about what, in which words, and what to do instead.

    `allows` says what would make a forbidden act allowed; it is empty for what is only told.
    """

    code: str
    severity: Severity
    about: tuple[str, ...]
    text: str
    remedy: str
    allows: str = ""

"""What a line says of a form, and the maker that hands its measures out: by their names first, then in their order."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from ..piece import Part
from ..units import about

Span = tuple[int, int]
Plain = dict[str, Any]
Bare = tuple[float, bool, Span]
_AFTER = frozenset({"long", "wide", "high", "thick", "across", "inside", "outside"})
_EXAMPLE = {"thick": 0.8, "wall": 0.4, "long": 20, "inside": 5}


@dataclass
class Measures:
    """What a line says of a form: its kind and noun, measures with their role, and bare ones in their order (mm, gauge or not, where).

    `many` is where the number stands that is how many, should no measure be left for it (`jump rings 5 id 18 ga × 10`).
    """

    kind: str = ""
    noun: str = ""
    noun_at: int = -1
    section: str = ""
    around_oval: bool = False
    of_wire: bool = False
    around: tuple[float, ...] = ()
    around_at: list[Span] = field(default_factory=list)
    ring_mm: float | None = None
    mass_g: float | None = None
    count: int = 1
    many: Span | None = None
    told: dict[str, float] = field(default_factory=dict)
    bare: list[Bare] = field(default_factory=list)
    marks: Plain = field(default_factory=dict)


@dataclass
class Made:
    """A form being made: what was understood and taken, and what is wrong with it, if anything."""

    form: Plain = field(default_factory=dict)
    understood: list[tuple[Span, str]] = field(default_factory=list)
    taken: list[str] = field(default_factory=list)
    fault: tuple[Span | None, str, str, str] | None = None


def in_words(role: str, mm: float) -> str:
    """Say a measure as a smith does: 35 mm long, wall 0.4 mm."""
    return f"{about(mm)} {role}" if role in _AFTER else f"{role} {about(mm)}"


class Lacks(Exception):
    """A measure is missing or too many: where, code, rule, remedy."""


class Maker:
    """Hands out the measures of a line, by role first, then the bare ones in their order."""

    def __init__(self, told: Measures, last: Part | None, base: Part | None, made: Made) -> None:
        self.told, self.last, self.base, self.made = told, last, base, made
        self.bare = list(told.bare)

    def take(self, role: str, *named: str, need: bool = True) -> float | None:
        """Give a measure by one of its names, else the next bare one."""
        for name in (role, *named):
            if name in self.told.told:
                return self.told.told[name]
        if self.bare:
            return self.use(self.bare[0], role)
        if need:
            self.lacks(role)
        return None

    def use(self, bare: Bare, role: str) -> float:
        """Take a bare measure out of the row, and say what it was understood as."""
        self.bare.remove(bare)
        self.made.understood.append((bare[2], in_words(role, bare[0])))
        return bare[0]

    def lacks(self, role: str) -> None:
        """Refuse for a measure that is missing."""
        rule = f"a {self.told.noun or self.told.kind} has a measure for: {role}"
        raise Lacks((None, "missing", rule, f"Add it: {_EXAMPLE.get(role, 4)} {role}."))

    def thin(self, role: str = "thick") -> float:
        """Give the thickness: by its name, by gauge, the smallest of the bare ones, else that of the part before."""
        if role in self.told.told:
            return self.told.told[role]
        gauged = next((one for one in self.bare if one[1]), None)
        if gauged is not None:
            return self.use(gauged, "thick")
        return 0.0

    def done(self) -> None:
        """Refuse what is left over; a whole number behind the last × is how many."""
        if len(self.bare) == 1 and self.bare[0][2] == self.told.many:
            self.told.count = int(self.bare[0][0])
            self.made.understood.append((self.bare.pop()[2], f"{self.told.count} alike"))
        if self.bare:
            rule = f"a {self.told.noun or self.told.kind} has no further measure"
            raise Lacks(
                (self.bare[0][2], "not-understood", rule, "Say what it is (35 long), or take it out.")
            )

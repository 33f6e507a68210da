"""The form that a line's measures make: which number is which, for each kind of part."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from ..faults import Refused
from ..metals import metals
from ..piece import Part
from ..sizes import calculate
from ..units import about

Span = tuple[int, int]
Plain = dict[str, Any]
Bare = tuple[float, bool, Span]
# A casting shows about so much more surface than a ball of its mass.
_ROUGH_SURFACE = 1.6
_AFTER = frozenset({"long", "wide", "high", "thick", "across", "inside", "outside"})
_EXAMPLE = {"thick": 0.8, "wall": 0.4, "long": 20, "inside": 5}


@dataclass
class Measures:
    """What a line says of a form: its kind and noun, measures with their role, and bare ones in their order (mm, gauge or not, where)."""

    kind: str = ""
    noun: str = ""
    section: str = ""
    around_oval: bool = False
    around: tuple[float, ...] = ()
    ring_mm: float | None = None
    mass_g: float | None = None
    count: int = 1
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


class _Lacks(Exception):
    """A measure is missing or too many: where, code, rule, remedy."""


def form_of(told: Measures, last: Part | None, base: Part | None) -> Made:
    """Make the form that a line tells of; what cannot be made is told in `fault`."""
    made = Made()
    try:
        made.form = _made(_Maker(told, last, base, made))
    except _Lacks as problem:
        made.fault = problem.args[0]
    except Refused as problem:
        fault = problem.faults[0]
        made.fault = (None, fault.code, fault.rule, fault.remedy)
    return made


class _Maker:
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
        raise _Lacks((None, "missing", rule, f"Add it: {_EXAMPLE.get(role, 4)} {role}."))

    def thin(self, role: str = "thick") -> float:
        """Give the thickness: by its name, by gauge, the smallest of the bare ones, else that of the part before."""
        if role in self.told.told:
            return self.told.told[role]
        gauged = next((one for one in self.bare if one[1]), None)
        if gauged is not None:
            return self.use(gauged, "thick")
        return 0.0

    def done(self) -> None:
        """Refuse what is left over."""
        if self.bare:
            rule = f"a {self.told.noun or self.told.kind} has no further measure"
            raise _Lacks(
                (self.bare[0][2], "not-understood", rule, "Say what it is (35 long), or take it out.")
            )


def _made(line: _Maker) -> Plain:
    told = line.told
    if not told.kind:
        if told.section:
            told.kind, told.noun = "wire", told.noun or "wire"
        else:
            raise _Lacks(
                (
                    None,
                    "missing",
                    "a line says what the part is",
                    "Begin with a word such as disc, sheet, wire, strip, tube or ball.",
                )
            )
    form = _KINDS[told.kind](line)
    line.done()
    return form


def _thickness(line: _Maker, sizes: int) -> float:
    """Give the thickness of sheet with so many other sizes: told, by gauge, the smallest of one more, else as the part before."""
    thin = line.thin()
    if thin:
        return thin
    if len(line.bare) > sizes:
        return line.use(min(line.bare[: sizes + 1], key=lambda one: one[0]), "thick")
    for part, whence in ((line.base, "as it was"), (line.last, "")):
        thick = getattr(part.form, "thickness_mm", None) if part is not None else None
        if part is not None and thick is not None:
            if not whence:
                line.made.taken.append(f"{about(thick)} thick, as {part.title}")
            return float(thick)
    line.lacks("thick")
    return 0.0


def _sheet(line: _Maker, outline: Plain, thick: float) -> Plain:
    form: Plain = {"kind": "sheet", "thickness_mm": thick, "outline": outline}
    if "domed" in line.told.told:
        form["domed_mm"] = line.told.told["domed"]
    return form


def _drawn(line: _Maker) -> Plain | None:
    """Give the outline of the part that is edited, where the line leaves it as drawn."""
    if line.told.marks.get("as_drawn") and line.base is not None:
        plain: Plain = line.base.form.model_dump(mode="json", exclude_none=True)
        return plain
    return None


def _disc(line: _Maker) -> Plain:
    named = "across" in line.told.told or "wide" in line.told.told
    thick = _thickness(line, 0 if named else 1)
    across = line.take("across", "wide", "outer")
    return _sheet(line, {"kind": "disc", "diameter_mm": across}, thick)


def _rect(line: _Maker) -> Plain:
    if line.told.section == "round":
        return _disc(line)
    drawn = _drawn(line)
    if drawn is not None and drawn["kind"] == "sheet":
        return _sheet(line, drawn["outline"], _thickness(line, 0))
    named = sum(role in line.told.told for role in ("wide", "high", "long"))
    square = line.told.section == "square"
    thick = _thickness(line, (1 if square else 2) - named)
    wide = line.take("wide", *([] if "high" in line.told.told or "wide" in line.told.told else ["long"]))
    high = wide if square else line.take("high", "long")
    outline: Plain = {"kind": "rect", "width_mm": wide, "height_mm": high}
    if "corner" in line.told.told:
        outline["corner_mm"] = line.told.told["corner"]
    return _sheet(line, outline, thick)


def _oval(line: _Maker) -> Plain:
    thick = _thickness(line, 2 - sum(role in line.told.told for role in ("wide", "high", "long")))
    wide = line.take("wide", "long")
    return _sheet(line, {"kind": "ellipse", "width_mm": wide, "height_mm": line.take("high")}, thick)


def _washer(line: _Maker) -> Plain:
    thick = _thickness(line, 2 - sum(role in line.told.told for role in ("outer", "inner")))
    outer = line.take("outer", "across")
    return _sheet(line, {"kind": "ring", "outer_mm": outer, "inner_mm": line.take("inner")}, thick)


def _profile(line: _Maker, section: str) -> Plain:
    """Give a section: one measure for round and square, two for flat and half-round, the wider first."""
    if section in ("round", "square"):
        gauged = next((one for one in line.bare if one[1]), None)
        named = next((line.told.told[role] for role in ("thick", "across") if role in line.told.told), None)
        size = named or (line.use(gauged, "wire") if gauged else _across(line))
        return {"kind": section, "diameter_mm" if section == "round" else "side_mm": size}
    if section == "half-round":
        wide, high = line.take("wide"), line.take("high", "thick")
    else:
        wide, high = line.take("wide"), line.take("thick", "high")
    wide, high = wide or 0.0, high or 0.0
    return {"kind": section, "width_mm": max(wide, high), "height_mm": min(wide, high)}


def _thick_of(profile: Plain) -> float:
    return float(profile.get("diameter_mm") or profile.get("side_mm") or profile["height_mm"])


def _across(line: _Maker) -> float:
    """Give how thick wire is: the next bare measure; where none is told, as the wire before."""
    if line.bare:
        return line.use(min(line.bare[:2], key=lambda one: one[0]), "wire")
    for part, own in ((line.base, True), (line.last, False)):
        profile = getattr(part.form, "profile", None) if part is not None else None
        size = getattr(profile, "diameter_mm", None) or getattr(profile, "side_mm", None)
        if part is not None and size is not None:
            if not own:
                line.made.taken.append(f"{about(size)} wire, as {part.title}")
            return float(size)
    line.lacks("thick")
    return 0.0


def _wire(line: _Maker) -> Plain:
    profile = _profile(line, line.told.section or "round")
    thick = _thick_of(profile)
    form = _run(line, {"kind": "wire", "profile": profile}, thick, float(profile.get("width_mm", thick)))
    if line.told.marks.get("twisted") or "strands" in line.told.told:
        form["strands"] = int(line.told.told.get("strands", 2))
        form["pitch_mm"] = line.told.told.get("pitch", round(7 * thick, 2))
    return form


def _half_round(line: _Maker) -> Plain:
    line.told.section = "half-round"
    return _wire(line)


def _strip(line: _Maker) -> Plain:
    gauged = line.thin()
    if gauged:
        thin, wide = gauged, line.take("wide", "high") or 0.0
    else:
        first, second = line.take("wide", "high") or 0.0, line.take("thick") or 0.0
        thin, wide = min(first, second), max(first, second)
    return _run(line, {"kind": "strip", "width_mm": wide, "thickness_mm": thin}, thin, wide)


def _run(line: _Maker, form: Plain, thick: float, wide: float) -> Plain:
    """Give a run its length: round a finger, round an outline, or as it is told."""
    told = line.told
    closed = told.marks.get("closed", False)
    if told.ring_mm is not None:
        found: Any = calculate(
            "ring-blank", {"inner_diameter_mm": told.ring_mm, "thickness_mm": thick, "width_mm": wide}
        ).found
        line.made.taken.append(f"{about(found.length_mm, 2)} long, for its size")
        return form | {"length_mm": round(found.length_mm, 3), "closed": told.marks.get("closed", True)}
    if told.around:
        return form | _bent_round(line, thick)
    drawn = _drawn(line)
    if drawn is not None and "path" in drawn:
        form = form | {"path": drawn["path"]}
    length = line.take("long")
    return form | {"length_mm": length} | ({"closed": True} if closed else {})


def _bent_round(line: _Maker, thick: float) -> Plain:
    """Bend a run round a disc or an oval, as a bezel goes round its stone."""
    sizes = line.told.around
    long, short = max(sizes), min(sizes)
    if len(sizes) > 2:
        raise _Lacks(
            (None, "not-understood", "it goes round one measure or two", "Write: round 14 × 10 oval.")
        )
    box = len(sizes) == 2 and not line.told.around_oval and line.told.section in ("rect", "square")
    kind = "rect" if box else "ellipse" if long > short else "disc"
    outline: Plain = (
        {"kind": kind, "diameter_mm": long}
        if kind == "disc"
        else {"kind": kind, "width_mm": long, "height_mm": short}
    )
    found: Any = calculate("bezel-strip", {"outline": outline, "thickness_mm": thick}).found
    line.made.taken.append(f"{about(found.length_mm, 2)} long, to go round it")
    bent: Plain = {"length_mm": round(found.length_mm, 3), "closed": line.told.marks.get("closed", True)}
    x, y = round((long + thick) / 2, 3), round((short + thick) / 2, 3)
    if kind == "ellipse":
        bent["path"] = f"M-{x:g} 0 A{x:g} {y:g} 0 1 1 {x:g} 0 A{x:g} {y:g} 0 1 1 -{x:g} 0 Z"
    elif kind == "rect":
        bent["path"] = f"M0 {y:g} L{x:g} {y:g} L{x:g} -{y:g} L-{x:g} -{y:g} L-{x:g} {y:g} Z"
    return bent


def _tube(line: _Maker) -> Plain:
    outer = line.take("outer", "across") or 0.0
    if "inner" in line.told.told:
        wall = round((outer - line.told.told["inner"]) / 2, 4)
    elif "wall" in line.told.told or "thick" in line.told.told:
        wall = line.told.told.get("wall") or line.told.told["thick"]
    elif len(line.bare) >= (1 if "long" in line.told.told else 2):
        wall = line.take("wall") or 0.0
    else:
        wall = _wall_before(line)
    form: Plain = {"kind": "tube", "outer_mm": outer, "wall_mm": wall, "length_mm": line.take("long")}
    sealed = line.told.marks.get("sealed_ends")
    return form | ({"sealed_ends": sealed} if sealed else {})


def _wall_before(line: _Maker) -> float:
    for part in (line.base, line.last):
        wall = getattr(part.form, "wall_mm", None) if part is not None else None
        if part is not None and wall is not None:
            line.made.taken.append(f"wall {about(wall)}, as {part.title}")
            return float(wall)
    line.lacks("wall")
    return 0.0


def _ball(line: _Maker) -> Plain:
    return {"kind": "ball", "diameter_mm": line.take("across")}


def _ring(line: _Maker) -> Plain:
    """Give a ring of wire: by its size, by its inside, or by two bare measures of which the larger is the inside."""
    told = line.told
    closed = {"closed": told.marks.get("closed", True)}
    if told.ring_mm is not None or told.around or "long" in told.told:
        told.marks.setdefault("closed", True)
        return _wire(line)
    inner = told.told.get("inner")
    if inner is None and len(line.bare) >= 2 and not any(one[1] for one in line.bare):
        inner = line.use(max(line.bare[:2], key=lambda one: one[0]), "inside")
    profile = _profile(line, told.section or "round")
    if inner is None:
        inner = line.take("inside", "across")
    thick = _thick_of(profile)
    found: Any = calculate("jump-rings", {"inner_diameter_mm": inner, "wire_mm": thick}).found
    line.made.taken.append(f"{about(found.length_each_mm, 2)} long, for its inside")
    return {"kind": "wire", "profile": profile, "length_mm": round(found.length_each_mm, 3)} | closed


def _stone(line: _Maker) -> Plain:
    """Give a stone as large as it is; by its mass alone where that is all that is told."""
    drawn = _drawn(line)
    if drawn is not None:
        return drawn
    if line.told.mass_g is not None and not line.bare:
        return _lump(line)
    long = line.take("long", "across") or 0.0
    wide = line.take("wide", need=False) or long
    high = line.take("high", need=False) or round(0.4 * wide, 2)
    kind = (
        {"kind": "disc", "diameter_mm": long}
        if math.isclose(long, wide)
        else {"kind": "ellipse", "width_mm": long, "height_mm": wide}
    )
    return {"kind": "sheet", "thickness_mm": high, "outline": kind}


def _lump(line: _Maker) -> Plain:
    """Give something cast or bought, by its mass; its surface as that of a ball, and some more."""
    mass, drawn = line.told.mass_g, _drawn(line)
    if drawn is not None and drawn["kind"] == "lump":
        return drawn | {"mass_g": mass or drawn["mass_g"]}
    if mass is None:
        raise _Lacks((None, "missing", "a casting or bought part is known by its mass", "Add it: 1.2 g."))
    density = metals()["sterling-925"].density_g_cm3
    ball = (6 * mass / density * 1000 / math.pi) ** (1 / 3)
    surface = round(_ROUGH_SURFACE * math.pi * ball**2, 1)
    line.made.taken.append(f"a surface of {surface:g} mm², reckoned from its mass")
    return {"kind": "lump", "mass_g": mass, "surface_mm2": surface}


_KINDS: dict[str, Callable[[_Maker], Plain]] = {
    "disc": _disc,
    "rect": _rect,
    "oval": _oval,
    "washer": _washer,
    "wire": _wire,
    "half-round": _half_round,
    "strip": _strip,
    "tube": _tube,
    "ball": _ball,
    "ring": _ring,
    "stone": _stone,
    "lump": _lump,
}

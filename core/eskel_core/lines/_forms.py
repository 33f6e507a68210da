"""The form that a line's measures make: which number is which, for each kind of part."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from ..faults import Refused
from ..metals import metals
from ..piece import Part
from ..sizes import calculate
from ..units import about
from ._measures import Lacks, Made, Maker, Measures, Plain

# A casting shows about so much more surface than a ball of its mass.
_ROUGH_SURFACE = 1.6
# Of stock by gauge the first size is its length where it is so many times the second: `cuff 6 in × 1 in, 16 ga`.
_LONGER = 3.0
# A bar is at most so many times as wide as it is thick.
_FLATTEST = 8.0
# No ring for a finger is wider inside: what is larger is the length of its blank.
_WIDEST_INSIDE_MM = 30.0


def form_of(told: Measures, last: Part | None, base: Part | None) -> Made:
    """Make the form that a line tells of; what cannot be made is told in `fault`."""
    made = Made()
    try:
        made.form = _made(Maker(told, last, base, made))
    except Lacks as problem:
        made.fault = problem.args[0]
    except Refused as problem:
        fault = problem.faults[0]
        made.fault = (None, fault.code, fault.rule, fault.remedy)
    return made


def _made(line: Maker) -> Plain:
    told = line.told
    if not told.kind:
        if told.section:
            told.kind, told.noun = "wire", told.noun or "wire"
        else:
            raise Lacks(
                (
                    None,
                    "missing",
                    "a line says what the part is",
                    "Begin with a word such as disc, sheet, wire, strip, tube or ball.",
                )
            )
    if told.mass_g is not None and not line.bare and not told.told and told.kind != "stone":
        told.kind = "lump"
    _turn_round(line)
    form = _KINDS[told.kind](line)
    line.done()
    return form


def _turn_round(line: Maker) -> None:
    """Put measures in the order of the forms where a smith wrote them the other way.

    What a bezel or link goes round is larger than its own stock; of stock the longest may come first (`strip 50 × 6 × 1.2`).
    """
    told, bare = line.told, line.bare
    if told.kind in ("strip", "ring") and told.around_oval and not told.around and len(bare) > 2:
        large = sorted(bare, key=lambda one: -one[0])[:2]
        told.around = tuple(line.use(one, "round") for one in large)
    elif told.kind == "strip" and len(told.around) == 2 and len(bare) == 1 and bare[0][0] > max(told.around):
        stock = [(size, False, at) for size, at in zip(told.around, told.around_at, strict=True)]
        told.around = (line.use(bare[0], "round"),)
        line.made.understood = [one for one in line.made.understood if one[0] not in told.around_at]
        bare[:] = stock
    run = told.kind in ("strip", "half-round") or told.section == "rect"
    if not run or told.around or told.ring_mm is not None or {"long", "wide", "thick"} & told.told.keys():
        return
    gauged = any(one[1] for one in bare)
    sizes = [one for one in bare if not one[1]]
    if (len(sizes) == 3 and not gauged and sizes[2][0] < min(sizes[0][0], sizes[1][0])) or (
        len(sizes) == 2 and gauged and sizes[0][0] >= _LONGER * sizes[1][0]
    ):
        longest = max(sizes, key=lambda one: one[0])
        bare.remove(longest)
        bare.append(longest)


def _thickness(line: Maker, sizes: int) -> float:
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


def _sheet(line: Maker, outline: Plain, thick: float) -> Plain:
    form: Plain = {"kind": "sheet", "thickness_mm": thick, "outline": outline}
    if "domed" in line.told.told:
        form["domed_mm"] = line.told.told["domed"]
    return form


def _drawn(line: Maker) -> Plain | None:
    """Give the outline of the part that is edited, where the line leaves it as drawn."""
    if line.told.marks.get("as_drawn") and line.base is not None:
        plain: Plain = line.base.form.model_dump(mode="json", exclude_none=True)
        return plain
    return None


def _disc(line: Maker) -> Plain:
    told = line.told
    named = "across" in line.told.told or "wide" in line.told.told
    thick = _thickness(line, 0 if named else 1)
    across = line.take("across", "wide", "outer")
    if told.noun == "dome" and "high" in told.told:
        told.told.setdefault("domed", told.told["high"])
    return _sheet(line, {"kind": "disc", "diameter_mm": across}, thick)


def _rect(line: Maker) -> Plain:
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


def _oval(line: Maker) -> Plain:
    thick = _thickness(line, 2 - sum(role in line.told.told for role in ("wide", "high", "long")))
    wide = line.take("wide", "long")
    return _sheet(line, {"kind": "ellipse", "width_mm": wide, "height_mm": line.take("high")}, thick)


def _washer(line: Maker) -> Plain:
    thick = _thickness(line, 2 - sum(role in line.told.told for role in ("outer", "inner")))
    outer = line.take("outer", "across")
    return _sheet(line, {"kind": "ring", "outer_mm": outer, "inner_mm": line.take("inner")}, thick)


def _profile(line: Maker, section: str) -> Plain:
    """Give a section: one measure for round and square, two for flat and half-round, the wider first."""
    if section in ("round", "square"):
        both = len(line.bare) > (1 if section == "square" else 2)
        if both and line.bare[0][0] == line.bare[1][0]:
            # Written both ways: 2 × 2 × 30.
            line.use(line.bare[0], "wire")
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


def _across(line: Maker) -> float:
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


def _section(line: Maker) -> str:
    """Give a wire's section: as told; of three sizes without a word square or flat (`bar 4 × 2 × 30`), else round."""
    told, sizes = line.told, [one[0] for one in line.bare]
    if told.section or told.kind != "wire" or told.told or len(sizes) < 3 or any(one[1] for one in line.bare):
        return told.section or "round"
    one, other, long = sizes[:3]
    if long < max(one, other) or max(one, other) > _FLATTEST * min(one, other):
        return "round"
    return "square" if one == other else "rect"


def _wire(line: Maker) -> Plain:
    profile = _profile(line, _section(line))
    thick = _thick_of(profile)
    form = _run(line, {"kind": "wire", "profile": profile}, thick, float(profile.get("width_mm", thick)))
    if line.told.marks.get("twisted") or "strands" in line.told.told or line.told.noun == "rope":
        form["strands"] = int(line.told.told.get("strands", 2))
        form["pitch_mm"] = line.told.told.get("pitch", round(7 * thick, 2))
    return form


def _half_round(line: Maker) -> Plain:
    line.told.section = "half-round"
    return _wire(line)


def _strip(line: Maker) -> Plain:
    told = line.told
    if (
        told.of_wire
        and len(line.bare) == 2
        and not (told.told or told.around or told.ring_mm or line.bare[0][1])
    ):
        return _wire(line)
    gauged = line.thin()
    if gauged:
        thin, wide = gauged, line.take("wide", "high") or 0.0
    else:
        first, second = line.take("wide", "high") or 0.0, line.take("thick") or 0.0
        thin, wide = min(first, second), max(first, second)
    return _run(line, {"kind": "strip", "width_mm": wide, "thickness_mm": thin}, thin, wide)


def _run(line: Maker, form: Plain, thick: float, wide: float) -> Plain:
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


def _bent_round(line: Maker, thick: float) -> Plain:
    """Bend a run round a disc or an oval, as a bezel goes round its stone."""
    sizes = line.told.around
    long, short = max(sizes), min(sizes)
    if len(sizes) > 2:
        raise Lacks(
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


def _tube(line: Maker) -> Plain:
    if line.told.section not in ("", "round"):
        rule = "a tube is round"
        raise Lacks((None, "not-understood", rule, "Bend a strip instead: strip 0.8 × 5 × 40 closed."))
    outer = line.take("outer", "across") or 0.0
    if "inner" in line.told.told:
        wall = round((outer - line.told.told["inner"]) / 2, 4)
    elif len(line.bare) > 1 and not line.bare[0][1] and line.bare[0][0] < outer <= 2 * line.bare[0][0]:
        # Written by its two diameters: 6/5 × 30.
        wall = round((outer - line.use(line.bare[0], "inside")) / 2, 4)
    elif "wall" in line.told.told or "thick" in line.told.told:
        wall = line.told.told.get("wall") or line.told.told["thick"]
    elif len(line.bare) >= (1 if "long" in line.told.told else 2):
        wall = line.take("wall") or 0.0
    else:
        wall = _wall_before(line)
    form: Plain = {"kind": "tube", "outer_mm": outer, "wall_mm": wall, "length_mm": line.take("long")}
    sealed = line.told.marks.get("sealed_ends")
    return form | ({"sealed_ends": sealed} if sealed else {})


def _wall_before(line: Maker) -> float:
    for part in (line.base, line.last):
        wall = getattr(part.form, "wall_mm", None) if part is not None else None
        if part is not None and wall is not None:
            line.made.taken.append(f"wall {about(wall)}, as {part.title}")
            return float(wall)
    line.lacks("wall")
    return 0.0


def _ball(line: Maker) -> Plain:
    return {"kind": "ball", "diameter_mm": line.take("across")}


def _ring(line: Maker) -> Plain:
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
    if told.noun == "ring" and "inner" not in told.told and inner is not None and inner > _WIDEST_INSIDE_MM:
        return {"kind": "wire", "profile": profile, "length_mm": inner} | closed
    found: Any = calculate("jump-rings", {"inner_diameter_mm": inner, "wire_mm": thick}).found
    line.made.taken.append(f"{about(found.length_each_mm, 2)} long, for its inside")
    return {"kind": "wire", "profile": profile, "length_mm": round(found.length_each_mm, 3)} | closed


def _stone(line: Maker) -> Plain:
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


def _lump(line: Maker) -> Plain:
    """Give something cast or bought, by its mass; its surface as that of a ball, and some more."""
    mass, drawn = line.told.mass_g, _drawn(line)
    if drawn is not None and drawn["kind"] == "lump":
        return drawn | {"mass_g": mass or drawn["mass_g"]}
    if mass is None and line.bare and ("long" in line.told.told or len(line.bare) > 1):
        # A clasp that is made of wire.
        return _wire(line)
    if mass is None:
        raise Lacks((None, "missing", "a casting or bought part is known by its mass", "Add it: 1.2 g."))
    density = metals()["sterling-925"].density_g_cm3
    ball = (6 * mass / density * 1000 / math.pi) ** (1 / 3)
    surface = round(_ROUGH_SURFACE * math.pi * ball**2, 1)
    line.made.taken.append(f"a surface of {surface:g} mm², reckoned from its mass")
    return {"kind": "lump", "mass_g": mass, "surface_mm2": surface}


_KINDS: dict[str, Callable[[Maker], Plain]] = {
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

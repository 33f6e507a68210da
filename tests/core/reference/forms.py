"""Short words for the parts, joins and work of the reference pieces: a smith's sketch, one line each."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

Plain = dict[str, Any]
SILVER = "sterling-925"
FINE = "fine-silver-999"


@dataclass(frozen=True)
class Reference:
    """A piece of work and how an experienced smith goes about it.

    `rounds` are heats as `hard: seam, cup`, those of a round parted by ` + `, rounds by ` / `; `steps` are words that the
    steps hold, in this order; `speaks` and `silent` are codes of cautions that must and must not be among the plan's.
    """

    name: str
    why: str
    piece: Plain
    rounds: str
    steps: tuple[str, ...] = ()
    speaks: tuple[str, ...] = ()
    silent: tuple[str, ...] = ()


def work_of(
    parts: list[Plain], joins: list[Plain] | None = None, work: list[Plain] | None = None, **more: Any
) -> Plain:
    """A piece as its file has it."""
    return {
        "format": "eskel-piece/1",
        "name": "Reference",
        "parts": parts,
        "joins": joins or [],
        "work": work or [],
        **more,
    }


def _part(name: str, form: Plain, metal: str | None, more: Plain) -> Plain:
    return {"id": name, "metal": metal, "form": form, **more}


def wire(
    name: str, across: float, long: float, metal: str = SILVER, *, closed: bool = False, **more: Any
) -> Plain:
    """Round wire."""
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": across}, "length_mm": long}
    return _part(name, form | ({"closed": True} if closed else {}), metal, more)


def square(name: str, side: float, long: float, metal: str = SILVER, **more: Any) -> Plain:
    """Square wire."""
    form = {"kind": "wire", "profile": {"kind": "square", "side_mm": side}, "length_mm": long}
    return _part(name, form, metal, more)


def half_round(name: str, wide: float, high: float, long: float, metal: str = SILVER, **more: Any) -> Plain:
    """Half-round wire, closed to a ring."""
    profile = {"kind": "half-round", "width_mm": wide, "height_mm": high}
    return _part(name, {"kind": "wire", "profile": profile, "length_mm": long, "closed": True}, metal, more)


def disc(
    name: str, across: float, thick: float, metal: str = SILVER, *, domed: float = 0, **more: Any
) -> Plain:
    """A disc of sheet, domed or flat."""
    form: Plain = {"kind": "sheet", "thickness_mm": thick, "outline": {"kind": "disc", "diameter_mm": across}}
    return _part(name, form | ({"domed_mm": domed} if domed else {}), metal, more)


def sheet(name: str, wide: float, high: float, thick: float, metal: str = SILVER, **more: Any) -> Plain:
    """A rectangle of sheet."""
    outline = {"kind": "rect", "width_mm": wide, "height_mm": high}
    return _part(name, {"kind": "sheet", "thickness_mm": thick, "outline": outline}, metal, more)


def strip(
    name: str,
    wide: float,
    thick: float,
    long: float,
    metal: str = SILVER,
    *,
    closed: bool = True,
    **more: Any,
) -> Plain:
    """A strip, closed to a band unless told otherwise."""
    form: Plain = {"kind": "strip", "width_mm": wide, "thickness_mm": thick, "length_mm": long}
    return _part(name, form | ({"closed": True} if closed else {}), metal, more)


def tube(
    name: str, outer: float, wall: float, long: float, metal: str = SILVER, *, sealed: int = 0, **more: Any
) -> Plain:
    """A tube, its ends open unless told otherwise."""
    form: Plain = {"kind": "tube", "outer_mm": outer, "wall_mm": wall, "length_mm": long}
    return _part(name, form | ({"sealed_ends": sealed} if sealed else {}), metal, more)


def ball(name: str, across: float, metal: str = SILVER, **more: Any) -> Plain:
    """A ball."""
    return _part(name, {"kind": "ball", "diameter_mm": across}, metal, more)


def lump(name: str, grams: float, mm2: float, metal: str | None = SILVER, **more: Any) -> Plain:
    """Something cast or bought, known by its mass and surface."""
    return _part(name, {"kind": "lump", "mass_g": grams, "surface_mm2": mm2}, metal, more)


def stone(name: str) -> Plain:
    """A stone."""
    return lump(name, 0.3, 60, None, heat_safe=False)


def join(name: str, kind: str, *between: str, **more: Any) -> Plain:
    """A join of some kind between parts; of one part alone it closes on itself."""
    ends = list(between) * 2 if len(between) == 1 else list(between)
    return {"id": name, "kind": kind, "between": ends, **more}


def work(name: str, kind: str, *parts: str, **more: Any) -> Plain:
    """Other work on parts."""
    return {"id": name, "kind": kind, "parts": list(parts), **more}

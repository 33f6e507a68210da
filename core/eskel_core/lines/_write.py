"""A part written as a line, which reads back the same."""

from __future__ import annotations

from ..forms import Form, Outline, Profile
from ..piece import Part
from ._words import METALS, TEMPERS

_METAL_WORDS = {metal: word for word, metal in reversed(list(METALS.items()))}
_TEMPER_WORDS = {temper: word for word, temper in reversed(list(TEMPERS.items()))}


def line_of(part: Part) -> str:
    """Write the line of a part, in mm; what is drawn (an outline of corners, a path) it calls `as drawn`.

    Read with the part itself as its base, the line gives the same part again.

    >>> from ._read import read_line
    >>> line_of(read_line("2 x wire 21 ga 35 long half hard").part)
    '2 × wire 0.723 × 35 sterling half-hard "Wire"'
    """
    is_stone = part.metal is None
    words = [f"{part.count} ×" if part.count > 1 else "", _stone(part.form) if is_stone else _form(part.form)]
    words.append("" if is_stone else _METAL_WORDS.get(part.metal or "", ""))
    words.append(
        _TEMPER_WORDS.get(part.temper, "") if isinstance(part.temper, str) and part.temper != "soft" else ""
    )
    words += [
        word
        for word, is_so in (
            ("springy", part.spring),
            ("bought", part.bought_in),
            ("moves", part.moves),
            ("cast", part.cast),
        )
        if is_so
    ]
    words.append({"none": "", "on": "on skin", "through": "through skin"}[part.touches_skin])
    words.append(f'"{part.title}"')
    return " ".join(word for word in words if word)


def _form(form: Form) -> str:
    match form.kind:
        case "wire":
            twist = f" {form.strands} strands pitch {form.pitch_mm:.10g}" if form.strands > 1 else ""
            return f"{_section(form.profile)} × {form.length_mm:.10g}{twist}{_course(form.closed, form.path is not None)}"
        case "strip":
            course = _course(form.closed, form.path is not None)
            return f"strip {form.width_mm:.10g} × {form.thickness_mm:.10g} × {form.length_mm:.10g}{course}"
        case "sheet":
            dome = f" domed {form.domed_mm:.10g}" if form.domed_mm else ""
            return f"{_outline(form.outline)} {form.thickness_mm:.10g} thick{dome}"
        case "tube":
            sealed = ("", " sealed", " sealed at both ends")[form.sealed_ends]
            return f"tube {form.outer_mm:.10g} / {form.wall_mm:.10g} × {form.length_mm:.10g}{sealed}"
        case "ball":
            return f"ball {form.diameter_mm:.10g}"
        case "lump":
            return f"lump {form.mass_g:.10g} g as drawn"


def _course(closed: bool, drawn: bool) -> str:
    return f"{' closed' if closed else ''}{' as drawn' if drawn else ''}"


def _section(profile: Profile) -> str:
    match profile.kind:
        case "round":
            return f"wire {profile.diameter_mm:.10g}"
        case "square":
            return f"square wire {profile.side_mm:.10g}"
        case "rect":
            return f"flat wire {profile.width_mm:.10g} wide {profile.height_mm:.10g} thick"
        case "half-round":
            return f"half-round {profile.width_mm:.10g} × {profile.height_mm:.10g}"


def _outline(outline: Outline) -> str:
    match outline.kind:
        case "disc":
            return f"disc {outline.diameter_mm:.10g}"
        case "ellipse":
            return f"oval {outline.width_mm:.10g} × {outline.height_mm:.10g}"
        case "rect":
            corner = f" corner {outline.corner_mm:.10g}" if outline.corner_mm else ""
            return f"sheet {outline.width_mm:.10g} × {outline.height_mm:.10g}{corner}"
        case "ring":
            return f"washer {outline.outer_mm:.10g} / {outline.inner_mm:.10g}"
        case _:
            return "sheet as drawn"


def _stone(form: Form) -> str:
    if form.kind == "sheet" and form.outline.kind in ("disc", "ellipse") and not form.domed_mm:
        wide = form.outline.diameter_mm if form.outline.kind == "disc" else form.outline.width_mm
        high = form.outline.diameter_mm if form.outline.kind == "disc" else form.outline.height_mm
        return f"stone {wide:.10g} × {high:.10g} × {form.thickness_mm:.10g}"
    return "stone as drawn"

"""Loops of an SVG drawing, by svgelements (a kept library); y is turned up."""

from __future__ import annotations

import io
import re
from typing import Any

from ..faults import Refused, refuse

Loop = list[tuple[float, float]]
_STEPS = 64
_PHYSICAL = re.compile(r"^\s*[\d.]+\s*(mm|cm|in|pt|pc|q)\s*$", re.IGNORECASE)


def loops_of_svg(text: str, mm_in_unit: float | None) -> list[Loop]:
    """Read every drawn line of an SVG, mm; raise `Refused` when it is none, or its unit is not said."""
    from svgelements import SVG, Path, Shape

    root = _root(text)
    physical = bool(_PHYSICAL.match(root.get("width", "")) or _PHYSICAL.match(root.get("height", "")))
    if not physical and mm_in_unit is None:
        raise unit_unknown()
    scale = 1.0 if physical else mm_in_unit or 1.0
    try:
        # At 25.4 px to the inch one user unit of a file with physical sizes is 1 mm.
        drawing: Any = SVG.parse(io.StringIO(text), ppi=25.4, reify=True)
        shapes = [
            Path(one).reify() for one in drawing.elements() if isinstance(one, Shape) and not _hidden(one)
        ]
        return [
            [(x * scale, -y * scale) for x, y in _points(loop)]
            for shape in shapes
            for loop in shape.as_subpaths()
        ]
    except (ValueError, TypeError, AttributeError, ZeroDivisionError, RecursionError) as problem:
        raise _unreadable(str(problem)) from problem


def unit_unknown() -> Refused:
    """Make the refusal of a file that does not say its unit."""
    return refuse(
        "unit-unknown", "unit", None, "the file does not say in which unit it is drawn", "Say whether one unit is a mm, a cm, an inch or a px."
    )  # fmt: skip


def _root(text: str) -> Any:
    """Parse the XML safely (defusedxml refuses entity bombs and outside references)."""
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import ParseError, fromstring

    try:
        root = fromstring(text)
    except (ParseError, DefusedXmlException, ValueError) as problem:
        raise _unreadable(str(problem)) from problem
    if not str(root.tag).endswith("svg"):
        raise _unreadable(f"its first element is {root.tag}")
    return root


def _unreadable(why: str) -> Refused:
    return refuse(
        "not-a-drawing", "text", None, f"the file is an SVG drawing ({why[:120]})", "Save it as plain SVG."
    )


def _hidden(one: Any) -> bool:
    values = getattr(one, "values", {})
    return bool(values.get("display") == "none" or values.get("visibility") == "hidden")


def _points(loop: Any) -> Loop:
    from svgelements import Close, Line, Move, Path

    points: Loop = []
    for segment in Path(loop):
        if isinstance(segment, Move):
            points.append((float(segment.end.x), float(segment.end.y)))
            continue
        if segment.end is None:
            continue
        steps = 1 if isinstance(segment, Line | Close) else _STEPS
        for step in range(1, steps + 1):
            place = segment.point(step / steps)
            points.append((float(place.x), float(place.y)))
    return [point for n, point in enumerate(points) if n == 0 or point != points[n - 1]]

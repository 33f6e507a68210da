"""Loops of an SVG drawing, by svgelements (a kept library); y is turned up."""

from __future__ import annotations

import io
import math
import re
from typing import Any

from ..faults import Refused, refuse
from ..forms import curve_points

Loop = list[tuple[float, float]]
OFF_MM = 0.002
MOST_ELEMENTS = 5_000
_PHYSICAL = re.compile(r"^\s*[\d.]+\s*(mm|cm|in|pt|pc|q)\s*$", re.IGNORECASE)


def loops_of_svg(text: str, mm_in_unit: float | None) -> list[Loop]:
    """Read every drawn line of an SVG, mm; raise `Refused` when it is none, or its unit is not said."""
    from svgelements import SVG, Path, Shape

    root = _root(text)
    _check_size(root)
    physical = bool(_PHYSICAL.match(root.get("width", "")) or _PHYSICAL.match(root.get("height", "")))
    if not physical and mm_in_unit is None:
        raise unit_unknown()
    scale = 1.0 if physical else mm_in_unit or 1.0
    try:
        # At 25.4 px to the inch one user unit of a file with physical sizes is 1 mm.
        drawing: Any = SVG.parse(io.StringIO(text), ppi=25.4, reify=True)
        shapes = [
            Path(element).reify()
            for element in drawing.elements()
            if isinstance(element, Shape) and not _hidden(element)
        ]
        return [
            [(x * scale, -y * scale) for x, y in curve_points(loop, OFF_MM / scale)]
            for shape in shapes
            for loop in shape.as_subpaths()
        ]
    except Refused:
        raise
    except (ValueError, TypeError, AttributeError, ZeroDivisionError, RecursionError) as problem:
        raise _unreadable(str(problem)) from problem


def unit_unknown() -> Refused:
    """Make the refusal of a file that does not say its unit."""
    return refuse(
        "unit-unknown",
        "unit",
        None,
        "the file does not say in which unit it is drawn",
        "Say whether one unit is a mm, a cm, an inch or a px.",
    )


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


def _check_size(root: Any) -> None:
    """Refuse a drawing that is larger than it looks: elements used within elements that are used multiply each other."""
    named = {one.get("id"): one for one in root.iter() if one.get("id")}
    known: dict[Any, float] = {}

    def size_of(one: Any, within: frozenset[Any]) -> float:
        if one in within:
            return math.inf
        if one not in known:
            inside = within | {one}
            used = next((value for key, value in one.attrib.items() if key.endswith("href")), "")
            target = named.get(used.removeprefix("#")) if str(one.tag).endswith("use") else None
            known[one] = 1 + sum(size_of(child, inside) for child in one)
            known[one] += size_of(target, inside) if target is not None else 0
        return known[one]

    try:
        size = size_of(root, frozenset())
    except RecursionError:
        size = math.inf
    if size > MOST_ELEMENTS:
        raise refuse(
            "too-large",
            "text",
            None,
            f"a drawing has at most {MOST_ELEMENTS} elements, those used again counted each time",
            "Simplify the drawing.",
        )


def _unreadable(why: str) -> Refused:
    return refuse(
        "not-a-drawing", "text", None, f"the file is an SVG drawing ({why[:120]})", "Save it as plain SVG."
    )


def _hidden(one: Any) -> bool:
    values = getattr(one, "values", {})
    return bool(values.get("display") == "none" or values.get("visibility") == "hidden")

"""Loops of a DXF drawing, by ezdxf (a kept library): lines, arcs, circles, ellipses, splines and polylines of the model."""

from __future__ import annotations

import io
from collections.abc import Iterable
from typing import Any

from ..faults import Refused, refuse
from ..forms import FURTHEST_MM
from ._svg import MOST_ELEMENTS, Loop, unit_unknown

_FLAT_MM = 0.005
# $INSUNITS of the header: inch, foot, mm, cm, m.
_MM_OF_CODE = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}
_DRAWN = "LINE ARC CIRCLE ELLIPSE SPLINE LWPOLYLINE POLYLINE"


def loops_of_dxf(text: str, mm_in_unit: float | None) -> list[Loop]:
    """Read every drawn line of a DXF, mm; raise `Refused` when it is none, or its unit is not said."""
    from ezdxf.filemanagement import read
    from ezdxf.lldxf.const import DXFError
    from ezdxf.path import make_path

    try:
        document = read(io.StringIO(text))
    except (DXFError, OSError, ValueError, KeyError, IndexError, TypeError) as problem:
        raise _unreadable(str(problem)) from problem
    own = _MM_OF_CODE.get(int(document.header.get("$INSUNITS", 0)))
    if own is None and mm_in_unit is None:
        raise unit_unknown()
    scale = own if own is not None else mm_in_unit or 1.0
    loops: list[Loop] = []
    drawn = document.modelspace().query(_DRAWN)
    if len(drawn) > MOST_ELEMENTS:
        raise refuse(
            "too-large", "text", len(drawn), f"a drawing has at most {MOST_ELEMENTS} lines", "Simplify it."
        )
    for one in drawn:
        try:
            _check_reach(make_path(one).control_vertices(), scale)
            spots = make_path(one).flattening(_FLAT_MM / scale)
            loops.append([(spot.x * scale, spot.y * scale) for spot in spots])
        except Refused:
            raise
        except (DXFError, ValueError, TypeError, ZeroDivisionError) as problem:
            raise _unreadable(f"{one.dxftype()}: {problem}") from problem
    return loops


def _check_reach(knots: Iterable[Any], scale: float) -> None:
    """Refuse a line that is larger than any part before its points are made: there would be millions of them."""
    places = [(spot.x * scale, spot.y * scale) for spot in knots]
    for along in zip(*places, strict=True):
        if not max(along) - min(along) <= 2 * FURTHEST_MM:
            rule = f"a drawing is at most {2 * FURTHEST_MM:g} mm large"
            raise refuse("out-of-range", "unit", None, rule, "Check its unit.")


def _unreadable(why: str) -> Refused:
    return refuse(
        "not-a-drawing",
        "text",
        None,
        f"the file is a DXF drawing ({why[:120]})",
        "Save it as DXF text, 2000 or later.",
    )

"""Joins among wires, strips and tubes: rings, eyes, frames, crossings, pins, borders."""

from __future__ import annotations

import math

from ..forms import Strip, Tube, Wire, profile_across_mm
from ..piece import Part
from ..units import about
from ._pick import STEEL, Pick, across_mm, bears, lighter, pick_of, seated

_SMALL_RING_MM = 9.0
_FLAT = seated("both lie flat on the block")


def wires(a: Part, one: Wire, b: Part, other: Wire) -> Pick:
    """Choose for two wires: two rings, a ring and a wire, or two wires that are open."""
    match one.closed, other.closed:
        case True, True:
            return _rings(a, b)
        case True, False:
            return _ring_and_wire(a, b)
        case False, True:
            return _ring_and_wire(b, a)
        case _:
            return _open(a, one, b, other)


def _rings(a: Part, b: Part) -> Pick:
    small = lighter(a, b)
    if a.moves or b.moves:
        why = "one moves in the other: it is opened, hung in and closed, cold"
        return pick_of("ring-open", why, small=a if a.moves else b)
    beside = ("edge", "they lie beside each other")
    return pick_of(
        "tee", "two rings touch at one place", small=small, face=beside, holds=_FLAT, structural=bears(small)
    )


def _ring_and_wire(ring: Part, wire: Part) -> Pick:
    if across_mm(_wire(ring)) <= _SMALL_RING_MM:
        why, beside = f"{ring.title} is an eye on the other", ("edge", "they lie beside each other")
        return pick_of("tee", why, small=ring, face=beside, holds=_FLAT, structural=bears(ring))
    bent = _wire(wire).path is not None
    why = "touches the frame at one place" if bent else f"meets {ring.title} at its end"
    return pick_of("tee", f"{wire.title} {why}", small=wire, holds=_FLAT)


def _open(a: Part, one: Wire, b: Part, other: Wire) -> Pick:
    small = lighter(a, b)
    bent = [part for part, form in ((a, one), (b, other)) if form.path is not None]
    if len(bent) == 1 and bent[0].place is not None and bent[0].place.stands == "upright":
        why = f"{bent[0].title} is saddled on the other"
        return pick_of("seat", why, small=bent[0], structural=bears(bent[0]))
    turned = _turned(a, b)
    if turned or (one == other and not bent):
        carries = (True, "crossed wires carry what stands on them")
        why = "they cross" if turned else "alike and straight: they cross"
        return pick_of(
            "cross", why, small=small, holds=seated("notched, they lie in each other"), structural=carries
        )
    if one.profile == other.profile and not bent:
        return pick_of("butt", "of one section: end meets end", holds=_FLAT)
    return pick_of("tee", f"{small.title} meets the other at its end", small=small, holds=_FLAT)


def _turned(a: Part, b: Part) -> bool:
    """Say whether two straight parts were put across each other."""
    if a.place is None or b.place is None:
        return False
    turned = abs(a.place.turn_deg - b.place.turn_deg) % 180
    near = math.hypot(a.place.x_mm - b.place.x_mm, a.place.y_mm - b.place.y_mm)
    return 15 < turned < 165 and near < 0.4 * min(_wire(a).length_mm, _wire(b).length_mm)


def _wire(part: Part) -> Wire:
    assert isinstance(part.form, Wire)
    return part.form


def wire_and_tube(wire: Part, form: Wire, tube: Part, other: Tube) -> Pick:
    across = profile_across_mm(form.profile)
    bore = other.outer_mm - 2 * other.wall_mm
    if (
        not form.closed
        and across <= bore
        and form.length_mm >= other.length_mm
        and form.profile.kind == "round"
    ):
        return pick_of(
            "rivet",
            f"{about(across)} goes through the bore of {about(bore)}: a pin, riveted cold",
            small=wire,
        )
    if form.closed:
        return pick_of(
            "tee",
            f"{wire.title} meets {tube.title} at one place",
            small=wire,
            holds=("hand", "nothing else holds it"),
            structural=bears(wire),
        )
    return pick_of(
        "line",
        f"{wire.title} lies along {tube.title}",
        small=wire,
        holds=("bound", "round on round rolls away"),
        bound_with=STEEL,
    )


def wire_and_strip(wire: Part, form: Wire, strip: Part, other: Strip) -> Pick:
    if form.closed and other.closed:
        return pick_of(
            "line",
            f"{wire.title} lies round {strip.title}",
            small=wire,
            holds=("bound", "a border slides"),
            bound_with=STEEL,
            visible=(True, "a border is on show"),
        )
    return pick_of(
        "tee",
        f"{wire.title} stands on {strip.title}",
        small=wire,
        holds=("hand", "nothing else holds it"),
        structural=bears(wire),
    )


def strips(a: Part, one: Strip, b: Part, other: Strip) -> Pick:
    small = lighter(a, b)
    if one.closed and other.closed:
        return pick_of("seat", f"{small.title} is seated on the other", small=small, structural=bears(small))
    if one.closed or other.closed:
        return pick_of(
            "tee", f"{small.title} stands on the band", small=small, holds=("hand", "nothing else holds it")
        )
    return pick_of("line", "they lie one along the other", small=small)

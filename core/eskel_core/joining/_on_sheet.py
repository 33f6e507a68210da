"""Joins on sheet: sheet on sheet, and wire, strip and tube upon it, along it or under it."""

from __future__ import annotations

from ..forms import Form, Sheet, Strip, Tube, Wire, outline_area_mm2, outline_size_mm, profile_across_mm
from ..piece import Part
from ._pick import STEEL, Pick, across_mm, bears, pick_of, seated

_POST_MM = 16.0
_SMALL_RING_MM = 9.0
_NEAR_SHARE = 0.12


def sheets(a: Part, b: Part) -> Pick:
    one, other = _sheet(a), _sheet(b)
    domed = [part for part in (a, b) if _sheet(part).domed_mm > 0]
    if len(domed) == 2:
        return pick_of(
            "butt",
            "two domes meet rim on rim",
            closes=True,
            holds=("bound", "nothing keeps rim on rim"),
            bound_with=STEEL,
            visible=(True, "the seam is on show"),
        )
    if domed:
        return pick_of(
            "edge",
            "a dome stands on its rim",
            small=domed[0],
            closes=True,
            visible=(True, "the seam is on show"),
        )
    if _beside(a, b):
        return pick_of("butt", "they lie edge to edge")
    if any(part.place is not None and part.place.stands == "upright" for part in (a, b)):
        small = next(part for part in (a, b) if part.place is not None and part.place.stands == "upright")
        return pick_of(
            "edge",
            f"{small.title} stands on its edge",
            small=small,
            holds=("hand", "sheet on edge falls over"),
        )
    small = a if outline_area_mm2(one.outline) <= outline_area_mm2(other.outline) else b
    mixed = "copper and brass" if a.metal != b.metal else "faces"
    return pick_of(
        "overlay",
        "face lies on face",
        small=small,
        placing=("sweat", f"{mixed} close best when solder is melted onto the one first"),
        visible=(True, "its edge is on show"),
    )


def _beside(a: Part, b: Part) -> bool:
    """Say whether two flat sheets were put side by side: their boxes touch or lie apart."""
    if a.place is None or b.place is None or a.place.z_mm != b.place.z_mm:
        return False
    (aw, ah), (bw, bh) = _size(a.form), _size(b.form)
    x = abs(a.place.x_mm - b.place.x_mm) - (aw + bw) / 2
    y = abs(a.place.y_mm - b.place.y_mm) - (ah + bh) / 2
    return max(x, y) > -0.05 * min(aw, ah, bw, bh)


def _size(form: Form) -> tuple[float, float]:
    return outline_size_mm(form.outline) if isinstance(form, Sheet) else (0.0, 0.0)


def _sheet(part: Part) -> Sheet:
    assert isinstance(part.form, Sheet)
    return part.form


def wire_on_sheet(wire: Part, form: Wire, sheet: Part, ground: Sheet) -> Pick:
    upright = wire.place is not None and wire.place.stands == "upright"
    across, reach = across_mm(form), min(outline_size_mm(ground.outline))
    if form.closed or form.path is not None:
        if upright or across > 1.3 * max(outline_size_mm(ground.outline)) or _is_shank(form, across):
            return pick_of(
                "seat",
                f"{wire.title} stands on its rim under {sheet.title}",
                small=wire,
                face=("back", "a shank is behind"),
                structural=bears(wire),
            )
        if form.closed and across <= _SMALL_RING_MM and across < 0.5 * reach:
            return pick_of(
                "tee",
                f"a small ring meets {sheet.title} at one place",
                small=wire,
                face=("edge", "it stands out from the edge, to hang by"),
                holds=seated("it leans in a filed notch"),
                structural=bears(wire),
            )
        return pick_of(
            "line",
            f"{wire.title} lies along {sheet.title}",
            small=wire,
            visible=(True, "a border is on show"),
        )
    through = (
        wire.touches_skin == "through"
        or wire.spring
        or any(word in wire.title.lower() for word in ("post", "pin"))
    )
    lies = wire.place is not None and not upright and (form.length_mm > _POST_MM or not through)
    stands = (
        upright
        or (through and not lies)
        or (not lies and form.length_mm <= _POST_MM and form.profile.kind == "round")
    )
    if stands and form.length_mm > 2 * profile_across_mm(form.profile):
        behind = ("back", "posts and pins are behind") if through else ("front", "it stands on the front")
        return pick_of(
            "tee",
            f"{wire.title} stands on {sheet.title}",
            small=wire,
            face=behind,
            holds=("hand", "nothing else holds what stands on its end"),
            structural=bears(wire),
        )
    return pick_of(
        "line", f"{wire.title} lies along {sheet.title}", small=wire, visible=(True, "it is on show")
    )


def _is_shank(form: Wire, across: float) -> bool:
    """Say whether a closed wire is a finger ring: half-round or flat, or heavy, of a finger's width."""
    heavy = form.profile.kind in ("half-round", "rect") or profile_across_mm(form.profile) >= 1.5
    return form.closed and form.path is None and 14 <= across <= 28 and heavy


def strip_on_sheet(strip: Part, form: Strip) -> Pick:
    if form.closed or form.path is not None:
        return pick_of(
            "edge",
            f"{strip.title} stands on its edge",
            small=strip,
            closes=True,
            structural=(True, "it holds what is in it"),
        )
    return pick_of(
        "line",
        f"{strip.title} lies flat along it",
        small=strip,
        face=("back", "bails and catches are behind"),
        holds=("hand", "a bent strip does not lie by itself"),
        structural=bears(strip),
    )


def tube_on_sheet(tube: Part, form: Tube, sheet: Part, ground: Sheet) -> Pick:
    wide, high = outline_size_mm(ground.outline)
    upright = tube.place is not None and tube.place.stands == "upright"
    if max(abs(wide - form.outer_mm), abs(high - form.outer_mm)) <= _NEAR_SHARE * form.outer_mm:
        return pick_of(
            "edge",
            f"{sheet.title} caps {tube.title}",
            small=sheet,
            closes=True,
            holds=("bound", "a cap slips"),
            bound_with=STEEL,
        )
    if upright or form.length_mm <= 1.2 * form.outer_mm:
        return pick_of(
            "tee",
            f"{tube.title} stands on {sheet.title}",
            small=tube,
            holds=seated("filed flat, it stands by itself"),
            structural=bears(tube),
        )
    return pick_of(
        "line",
        f"{tube.title} lies along {sheet.title}",
        small=tube,
        face=("back", "hinges and hangers are behind"),
        structural=bears(tube),
    )

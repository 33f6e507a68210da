"""The kind of join that two forms call for, by what they are and how they lie; each with what usually holds it."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

from ..faults import refuse
from ..forms import (
    Ball,
    Form,
    Lump,
    Sheet,
    Strip,
    Tube,
    Wire,
    measure,
    outline_area_mm2,
    outline_size_mm,
    profile_across_mm,
    rim_line,
)
from ..piece import Part
from ..units import about

_POST_MM = 16.0
_STEEL = ("steel", "steel wire holds at heat; it comes off before the pot")
_SMALL_RING_MM = 9.0
_NEAR_SHARE = 0.12


@dataclass(frozen=True)
class Pick:
    """What is chosen for a join: its kind, the keys that are not the usual ones, and why, by key."""

    kind: str
    why: dict[str, str]
    keys: dict[str, Any] = field(default_factory=dict)
    small: Part | None = None
    closes: bool = False


def pick(a: Part, b: Part) -> Pick:
    """Choose the join of two parts, or of one with itself; raise `Refused` where none can be."""
    if a.id == b.id:
        return _on_itself(a)
    for one, other in ((a, b), (b, a)):
        if not one.heat_safe and one.metal is None:
            return _stone(one, other)
    for one, other in ((a, b), (b, a)):
        made = _of_two(one, other)
        if made is not None:
            return made
    return _pick("tee", "the end of one meets the other", small=a, holds=("hand", "nothing else holds it"))


def _pick(
    kind: str, why: str, *, small: Part | None = None, closes: bool = False, **keys: tuple[Any, str]
) -> Pick:
    told = {key: value for key, (value, _) in keys.items()}
    reasons = {"kind": why, **{key: text for key, (_, text) in keys.items()}}
    return Pick(kind, reasons, told, small, closes)


def _on_itself(part: Part) -> Pick:
    """Close a part on itself, or bundle the alike ones that it counts."""
    form = part.form
    if isinstance(form, Wire | Strip) and part.count > 1 and not form.closed and form.path is None:
        return _pick(
            "bundle",
            f"{part.count} alike, straight: their ends are bundled",
            holds=("bound", "bundled ends are bound"),
            bound_with=_STEEL,
        )
    if isinstance(form, Wire) and part.metal == "fine-silver-999":
        return _pick(
            "fuse",
            "fine silver closes on itself in the flame, without solder",
            holds=_seated("its own spring holds the ends together"),
        )
    if isinstance(form, Strip) and not form.closed and "bail" in part.title.lower():
        spring = ("clipped", "a folded strip springs open")
        return _pick("overlay", "folded, its ends lap", holds=spring, bound_with=_STEEL)
    if isinstance(form, Wire | Strip | Tube):
        return _pick("butt", "its two ends meet", holds=_seated("its own spring holds the ends together"))
    if isinstance(form, Sheet):
        return _pick(
            "butt",
            "bent round, its two edges meet",
            holds=("bound", "a bent sheet springs open"),
            bound_with=_STEEL,
        )
    raise refuse(
        "contradiction",
        "b",
        part.id,
        "a ball or a casting does not close on itself",
        "Point at another part.",
    )


def _seated(why: str) -> tuple[str, str]:
    return "seated", why


def _stone(stone: Part, other: Part) -> Pick:
    if isinstance(other.form, Wire):
        return _pick("wrap", f"{stone.title} bears no heat: wire is wrapped, cold", small=other)
    raise refuse(
        "contradiction",
        "b",
        stone.id,
        f"{stone.title} bears no heat: it is set after all heats, not joined",
        'Add the work "set" for it.',
    )


def _of_two(a: Part, b: Part) -> Pick | None:
    """Choose by the forms, in this order of the two; None where the other order, or nothing, says it."""
    match a.form, b.form:
        case Lump(), _:
            return _lump(a)
        case Ball(), Sheet() | Strip() | Tube() | Wire() | Ball():
            return _pick(
                "tee",
                f"a ball touches {b.title} at one place",
                small=a,
                holds=_seated("it sits in a dimple"),
                visible=(True, "it is on show"),
            )
        case Sheet(), Sheet():
            return _sheets(a, b)
        case Wire(), Sheet():
            return _wire_on_sheet(a, a.form, b, b.form)
        case Strip(), Sheet():
            return _strip_on_sheet(a, a.form)
        case Tube(), Sheet():
            return _tube_on_sheet(a, a.form, b, b.form)
        case Wire(), Wire():
            return _wires(a, a.form, b, b.form)
        case Wire(), Tube():
            return _wire_and_tube(a, a.form, b, b.form)
        case Tube(), Tube():
            return _pick("line", "tubes lie side by side", small=_lighter(a, b))
        case Tube(), Strip() if b.form.closed:
            return _pick(
                "tee",
                f"{a.title} stands on the band",
                small=a,
                holds=_seated("filed to the curve, it stands"),
                structural=_bears(a),
            )
        case Wire(), Strip():
            return _wire_and_strip(a, a.form, b, b.form)
        case Strip(), Strip():
            return _strips(a, a.form, b, b.form)
        case _:
            return None


def _bears(part: Part) -> tuple[bool, str]:
    return True, f"{part.title} bears load"


def _lump(part: Part) -> Pick:
    behind = ("back", "findings go behind") if part.bought_in else ("front", "it is set on the front")
    return _pick(
        "tee",
        f"{part.title} is joined at its foot",
        small=part,
        holds=("hand", "nothing else holds it"),
        face=behind,
        structural=_bears(part),
    )


def _sheets(a: Part, b: Part) -> Pick:
    one, other = _sheet(a), _sheet(b)
    domed = [part for part in (a, b) if _sheet(part).domed_mm > 0]
    if len(domed) == 2:
        return _pick(
            "butt",
            "two domes meet rim on rim",
            closes=True,
            holds=("bound", "nothing keeps rim on rim"),
            bound_with=_STEEL,
            visible=(True, "the seam is on show"),
        )
    if domed:
        return _pick(
            "edge",
            "a dome stands on its rim",
            small=domed[0],
            closes=True,
            visible=(True, "the seam is on show"),
        )
    if _beside(a, b):
        return _pick("butt", "they lie edge to edge")
    if any(part.place is not None and part.place.stands == "upright" for part in (a, b)):
        small = next(part for part in (a, b) if part.place is not None and part.place.stands == "upright")
        return _pick(
            "edge",
            f"{small.title} stands on its edge",
            small=small,
            holds=("hand", "sheet on edge falls over"),
        )
    small = a if outline_area_mm2(one.outline) <= outline_area_mm2(other.outline) else b
    mixed = "copper and brass" if a.metal != b.metal else "faces"
    return _pick(
        "overlay",
        "face lies on face",
        small=small,
        placing=("sweat", f"{mixed} close best when solder is melted onto the one first"),
        visible=(True, "its edge is on show"),
    )


def _wire_on_sheet(wire: Part, form: Wire, sheet: Part, ground: Sheet) -> Pick:
    upright = wire.place is not None and wire.place.stands == "upright"
    across, reach = _across(form), min(outline_size_mm(ground.outline))
    if form.closed or form.path is not None:
        if upright or across > 1.3 * max(outline_size_mm(ground.outline)) or _is_shank(form, across):
            return _pick(
                "seat",
                f"{wire.title} stands on its rim under {sheet.title}",
                small=wire,
                face=("back", "a shank is behind"),
                structural=_bears(wire),
            )
        if form.closed and across <= _SMALL_RING_MM and across < 0.5 * reach:
            return _pick(
                "tee",
                f"a small ring meets {sheet.title} at one place",
                small=wire,
                face=("edge", "it stands out from the edge, to hang by"),
                holds=_seated("it leans in a filed notch"),
                structural=_bears(wire),
            )
        return _pick(
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
        return _pick(
            "tee",
            f"{wire.title} stands on {sheet.title}",
            small=wire,
            face=behind,
            holds=("hand", "nothing else holds what stands on its end"),
            structural=_bears(wire),
        )
    return _pick(
        "line", f"{wire.title} lies along {sheet.title}", small=wire, visible=(True, "it is on show")
    )


def _is_shank(form: Wire, across: float) -> bool:
    """Say whether a closed wire is a finger ring: half-round or flat, or heavy, of a finger's width."""
    heavy = form.profile.kind in ("half-round", "rect") or profile_across_mm(form.profile) >= 1.5
    return form.closed and form.path is None and 14 <= across <= 28 and heavy


def _strip_on_sheet(strip: Part, form: Strip) -> Pick:
    if form.closed or form.path is not None:
        return _pick(
            "edge",
            f"{strip.title} stands on its edge",
            small=strip,
            closes=True,
            structural=(True, "it holds what is in it"),
        )
    return _pick(
        "line",
        f"{strip.title} lies flat along it",
        small=strip,
        face=("back", "bails and catches are behind"),
        holds=("hand", "a bent strip does not lie by itself"),
        structural=_bears(strip),
    )


def _tube_on_sheet(tube: Part, form: Tube, sheet: Part, ground: Sheet) -> Pick:
    wide, high = outline_size_mm(ground.outline)
    upright = tube.place is not None and tube.place.stands == "upright"
    if max(abs(wide - form.outer_mm), abs(high - form.outer_mm)) <= _NEAR_SHARE * form.outer_mm:
        return _pick(
            "edge",
            f"{sheet.title} caps {tube.title}",
            small=sheet,
            closes=True,
            holds=("bound", "a cap slips"),
            bound_with=_STEEL,
        )
    if upright or form.length_mm <= 1.2 * form.outer_mm:
        return _pick(
            "tee",
            f"{tube.title} stands on {sheet.title}",
            small=tube,
            holds=_seated("filed flat, it stands by itself"),
            structural=_bears(tube),
        )
    return _pick(
        "line",
        f"{tube.title} lies along {sheet.title}",
        small=tube,
        face=("back", "hinges and hangers are behind"),
        structural=_bears(tube),
    )


def _wires(a: Part, one: Wire, b: Part, other: Wire) -> Pick:
    closed = [part for part, form in ((a, one), (b, other)) if form.closed]
    small = _lighter(a, b)
    if len(closed) == 2:
        if a.moves or b.moves:
            return _pick(
                "ring-open",
                "one moves in the other: it is opened, hung in and closed, cold",
                small=a if a.moves else b,
            )
        return _pick(
            "tee",
            "two rings touch at one place",
            small=small,
            face=("edge", "they lie beside each other"),
            holds=_seated("both lie flat on the block"),
            structural=_bears(small),
        )
    if len(closed) == 1:
        ring = closed[0]
        if _across(_wire(ring)) <= _SMALL_RING_MM:
            return _pick(
                "tee",
                f"{ring.title} is an eye on the other",
                small=ring,
                face=("edge", "they lie beside each other"),
                holds=_seated("both lie flat on the block"),
                structural=_bears(ring),
            )
        inner = b if ring is a else a
        if _wire(inner).path is not None:
            return _pick(
                "tee",
                f"{inner.title} touches the frame at one place",
                small=inner,
                holds=_seated("both lie flat on the block"),
            )
        return _pick(
            "tee",
            f"{inner.title} meets {ring.title} at its end",
            small=inner,
            holds=_seated("both lie flat on the block"),
        )
    bent = [part for part, form in ((a, one), (b, other)) if form.path is not None]
    if len(bent) == 1 and bent[0].place is not None and bent[0].place.stands == "upright":
        return _pick(
            "seat", f"{bent[0].title} is saddled on the other", small=bent[0], structural=_bears(bent[0])
        )
    if _turned(a, b):
        return _pick(
            "cross",
            "they cross",
            small=small,
            holds=_seated("notched, they lie in each other"),
            structural=(True, "crossed wires carry what stands on them"),
        )
    if one == other and not bent:
        return _pick(
            "cross",
            "alike and straight: they cross",
            small=small,
            holds=_seated("notched, they lie in each other"),
            structural=(True, "crossed wires carry what stands on them"),
        )
    if one.profile == other.profile and not bent:
        return _pick("butt", "of one section: end meets end", holds=_seated("both lie flat on the block"))
    return _pick(
        "tee",
        f"{small.title} meets the other at its end",
        small=small,
        holds=_seated("both lie flat on the block"),
    )


def _wire_and_tube(wire: Part, form: Wire, tube: Part, other: Tube) -> Pick:
    across = profile_across_mm(form.profile)
    bore = other.outer_mm - 2 * other.wall_mm
    if (
        not form.closed
        and across <= bore
        and form.length_mm >= other.length_mm
        and form.profile.kind == "round"
    ):
        return _pick(
            "rivet",
            f"{about(across)} goes through the bore of {about(bore)}: a pin, riveted cold",
            small=wire,
        )
    if form.closed:
        return _pick(
            "tee",
            f"{wire.title} meets {tube.title} at one place",
            small=wire,
            holds=("hand", "nothing else holds it"),
            structural=_bears(wire),
        )
    return _pick(
        "line",
        f"{wire.title} lies along {tube.title}",
        small=wire,
        holds=("bound", "round on round rolls away"),
        bound_with=_STEEL,
    )


def _wire_and_strip(wire: Part, form: Wire, strip: Part, other: Strip) -> Pick:
    if form.closed and other.closed:
        return _pick(
            "line",
            f"{wire.title} lies round {strip.title}",
            small=wire,
            holds=("bound", "a border slides"),
            bound_with=_STEEL,
            visible=(True, "a border is on show"),
        )
    return _pick(
        "tee",
        f"{wire.title} stands on {strip.title}",
        small=wire,
        holds=("hand", "nothing else holds it"),
        structural=_bears(wire),
    )


def _strips(a: Part, one: Strip, b: Part, other: Strip) -> Pick:
    small = _lighter(a, b)
    if one.closed and other.closed:
        return _pick("seat", f"{small.title} is seated on the other", small=small, structural=_bears(small))
    if one.closed or other.closed:
        return _pick(
            "tee", f"{small.title} stands on the band", small=small, holds=("hand", "nothing else holds it")
        )
    return _pick("line", "they lie one along the other", small=small)


def _sheet(part: Part) -> Sheet:
    assert isinstance(part.form, Sheet)
    return part.form


def _wire(part: Part) -> Wire:
    assert isinstance(part.form, Wire)
    return part.form


def _across(form: Wire) -> float:
    """Give how wide a ring or a bent run is in all, mm; of a straight one its length."""
    line = rim_line(form)
    if line is None:
        return form.length_mm
    xs, ys = [x for x, _ in line.points], [y for _, y in line.points]
    return max(max(xs) - min(xs), max(ys) - min(ys)) + line.width_mm


def _lighter(a: Part, b: Part) -> Part:
    return min((a, b), key=lambda part: measure(part.form).volume_mm3 or math.inf)


def _size(form: Form) -> tuple[float, float]:
    return outline_size_mm(form.outline) if isinstance(form, Sheet) else (0.0, 0.0)


def _beside(a: Part, b: Part) -> bool:
    """Say whether two flat sheets were put side by side: their boxes touch or lie apart."""
    if a.place is None or b.place is None or a.place.z_mm != b.place.z_mm:
        return False
    (aw, ah), (bw, bh) = _size(a.form), _size(b.form)
    x = abs(a.place.x_mm - b.place.x_mm) - (aw + bw) / 2
    y = abs(a.place.y_mm - b.place.y_mm) - (ah + bh) / 2
    return max(x, y) > -0.05 * min(aw, ah, bw, bh)


def _turned(a: Part, b: Part) -> bool:
    """Say whether two straight parts were put across each other."""
    if a.place is None or b.place is None:
        return False
    turned = abs(a.place.turn_deg - b.place.turn_deg) % 180
    near = math.hypot(a.place.x_mm - b.place.x_mm, a.place.y_mm - b.place.y_mm)
    return 15 < turned < 165 and near < 0.4 * min(_wire(a).length_mm, _wire(b).length_mm)

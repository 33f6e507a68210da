"""The kind of join that two forms call for, by what they are and how they lie; each with what usually holds it."""

from __future__ import annotations

from ..faults import refuse
from ..forms import Ball, Lump, Sheet, Strip, Tube, Wire
from ..piece import Part
from ._of_wire import strips, wire_and_strip, wire_and_tube, wires
from ._on_sheet import sheets, strip_on_sheet, tube_on_sheet, wire_on_sheet
from ._pick import STEEL, Pick, bears, lighter, pick_of, seated


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
    return pick_of("tee", "the end of one meets the other", small=a, holds=("hand", "nothing else holds it"))


def _on_itself(part: Part) -> Pick:
    """Close a part on itself, or bundle the alike ones that it counts."""
    form = part.form
    if isinstance(form, Wire | Strip) and part.count > 1 and not form.closed and form.path is None:
        return pick_of(
            "bundle",
            f"{part.count} alike, straight: their ends are bundled",
            holds=("bound", "bundled ends are bound"),
            bound_with=STEEL,
        )
    if isinstance(form, Wire) and part.metal == "fine-silver-999":
        return pick_of(
            "fuse",
            "fine silver closes on itself in the flame, without solder",
            holds=seated("its own spring holds the ends together"),
        )
    if isinstance(form, Strip) and not form.closed and "bail" in part.title.lower():
        spring = ("clipped", "a folded strip springs open")
        return pick_of("overlay", "folded, its ends lap", holds=spring, bound_with=STEEL)
    if isinstance(form, Wire | Strip | Tube):
        return pick_of("butt", "its two ends meet", holds=seated("its own spring holds the ends together"))
    if isinstance(form, Sheet):
        return pick_of(
            "butt",
            "bent round, its two edges meet",
            holds=("bound", "a bent sheet springs open"),
            bound_with=STEEL,
        )
    raise refuse(
        "contradiction",
        "b",
        part.id,
        "a ball or a casting does not close on itself",
        "Point at another part.",
    )


def _stone(stone: Part, other: Part) -> Pick:
    if isinstance(other.form, Wire):
        return pick_of("wrap", f"{stone.title} bears no heat: wire is wrapped, cold", small=other)
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
            return pick_of(
                "tee",
                f"a ball touches {b.title} at one place",
                small=a,
                holds=seated("it sits in a dimple"),
                visible=(True, "it is on show"),
            )
        case Sheet(), Sheet():
            return sheets(a, b)
        case Wire(), Sheet():
            return wire_on_sheet(a, a.form, b, b.form)
        case Strip(), Sheet():
            return strip_on_sheet(a, a.form)
        case Tube(), Sheet():
            return tube_on_sheet(a, a.form, b, b.form)
        case Wire(), Wire():
            return wires(a, a.form, b, b.form)
        case Wire(), Tube():
            return wire_and_tube(a, a.form, b, b.form)
        case Tube(), Tube():
            return pick_of("line", "tubes lie side by side", small=lighter(a, b))
        case Tube(), Strip() if b.form.closed:
            return pick_of(
                "tee",
                f"{a.title} stands on the band",
                small=a,
                holds=seated("filed to the curve, it stands"),
                structural=bears(a),
            )
        case Wire(), Strip():
            return wire_and_strip(a, a.form, b, b.form)
        case Strip(), Strip():
            return strips(a, a.form, b, b.form)
        case _:
            return None


def _lump(part: Part) -> Pick:
    behind = ("back", "findings go behind") if part.bought_in else ("front", "it is set on the front")
    return pick_of(
        "tee",
        f"{part.title} is joined at its foot",
        small=part,
        holds=("hand", "nothing else holds it"),
        face=behind,
        structural=bears(part),
    )

"""Small pieces in a line each, from which the examples of the rules are made."""

from __future__ import annotations

from typing import Any

from ._occasions import Done, Example

Plain = dict[str, Any]
US = ["us-hard", "us-medium", "us-easy", "us-extra-easy"]
SILVER, COPPER = "sterling-925", "copper"


def named(name: str) -> Plain:
    return {"id": name, "name": name.replace("-", " ").capitalize()}


def wire(name: str, diameter: float = 1.0, length: float = 20, metal: str = SILVER, **more: Any) -> Plain:
    closed = {"closed": True} if more.pop("closed", False) else {}
    form = {
        "kind": "wire",
        "profile": {"kind": "round", "diameter_mm": diameter},
        "length_mm": length,
        **closed,
    }
    return {**named(name), "metal": metal, "form": form, **more}


def plate(name: str, thick: float = 1.0, metal: str = SILVER, side: float = 20, **more: Any) -> Plain:
    outline = {"kind": "rect", "width_mm": side, "height_mm": side}
    return {
        **named(name),
        "metal": metal,
        "form": {"kind": "sheet", "thickness_mm": thick, "outline": outline},
        **more,
    }


def ball(name: str, diameter: float, **more: Any) -> Plain:
    return {**named(name), "metal": SILVER, "form": {"kind": "ball", "diameter_mm": diameter}, **more}


def dome(name: str) -> Plain:
    outline = {"kind": "disc", "diameter_mm": 22}
    form = {"kind": "sheet", "thickness_mm": 0.5, "outline": outline, "domed_mm": 6}
    return {**named(name), "metal": SILVER, "form": form}


def join(name: str, *between: str, kind: str = "tee", **more: Any) -> Plain:
    return {**named(name), "kind": kind, "between": list(between), "holds": "seated", **more}


def work(name: str, kind: str, *parts: str, **more: Any) -> Plain:
    return {**named(name), "kind": kind, "parts": list(parts), **more}


def piece(parts: list[Plain], joins: list[Plain] | None = None, **more: Any) -> Example:
    doings = more.pop("doings", ())
    plain = {"format": "eskel-piece/1", "name": "Example", "parts": parts, "joins": joins or []}
    return Example(piece={**plain, "bench": {"solders": US}, **more}, doings=doings)


def two(**more: Any) -> Example:
    """A post on a plate in one join."""
    keys = {key: more.pop(key) for key in ("house", "work", "bench") if key in more}
    return piece([plate("plate"), wire("post")], [join("foot", "post", "plate", **more)], **keys)


def row(first: Plain, second: Plain, **more: Any) -> Example:
    """Three wires in a row, the second join after the first."""
    joins = [join("rim", "a", "b", **first), join("lug", "b", "c", after=["rim"], **second)]
    return piece([wire("a"), wire("b"), wire("c")], joins, **more)


def held_in_hand(third: str) -> Example:
    """A plate with three wires, all put into one heat by hand; two of them are held in the hand, and the third as told."""
    holds = {"a": "hand", "b": "hand", "c": third}
    joins = [join(f"foot-{name}", name, "plate", holds=hold) for name, hold in holds.items()]
    for earlier, later in (("a", "b"), ("b", "c")):
        moved = next(row for row in joins if row["id"] == f"foot-{later}")
        moved["by_hand"] = {"shares": [f"foot-{earlier}"]}
    return piece([plate("plate"), *(wire(name) for name in holds)], joins)


def metal(metal: str, *, fixed: str | None = None, **part: Any) -> Example:
    solder = {} if fixed is None else {"solder": fixed}
    return piece(
        [plate("plate", metal=metal, **part), wire("post", metal=metal)],
        [join("foot", "post", "plate", **solder)],
    )


def hollow(house: Plain, vent: bool) -> Example:
    vents = [work("vent", "drill", "upper", vents=["lantern"], before=["rim"])] if vent else []
    rim = join("rim", "upper", "lower", kind="butt", holds="bound", bound_with="other", encloses="lantern")
    return piece([dome("upper"), dome("lower")], [rim], work=vents, house=house)


def doings(*done: tuple[Done, int], **rim: Any) -> Example:
    rim = join("rim", "upper", "lower", kind="butt", encloses="lantern", **{"holds": "seated", **rim})
    crown = join("crown", "upper", "knob", after=["rim"])
    vent = [work("vent", "drill", "upper", vents=["lantern"], before=["rim"])]
    return piece([dome("upper"), dome("lower"), ball("knob", 3)], [rim, crown], work=vent, doings=done)


def poured(*, warmed: bool) -> Example:
    warm: tuple[tuple[Done, int], ...] = (("warm-mould", 2),) if warmed else ()
    steps = [work("melt", "melt", "bar"), work("pour", "pour", "bar", after=["melt"])]
    return piece([wire("bar", 6, 60)], work=steps, doings=(*warm, ("heat", 1), ("heat", 2)))


def tube(ends: int) -> Example:
    tube = {
        "id": "stem",
        "metal": SILVER,
        "form": {"kind": "tube", "outer_mm": 4, "wall_mm": 0.4, "length_mm": 30, "sealed_ends": ends},
    }
    return piece([tube, plate("plate")], [join("foot", "stem", "plate")])


def rehearsed(**told: Any) -> Example:
    row = {
        "joins": ["foot"],
        "torch": "butane-pencil",
        "surface": "charcoal",
        "flux": "white-paste",
        "seconds_low": 20,
        "seconds_likely": 30,
        "seconds_high": 50,
        "above_700_s": 5,
        "forms": "x",
        **told,
    }
    made = two()
    return Example(piece={**(made.piece or {}), "rehearsals": [row]})


def frame(loose: int) -> Example:
    parts = [wire("left"), wire("right"), *(wire(f"rung-{n}") for n in range(3))]
    joins = [
        join(f"{rail}-{n}", rail, f"rung-{n}", kind="cross")
        for n in range(3)
        for rail in (("left",) if n < loose else ("left", "right"))
    ]
    return piece(parts, joins)


def beside(at: list[float]) -> Example:
    """A loop that moves, and a stud soldered near it or away from it."""
    ring = {"id": "loop", "name": "Loop", "metal": SILVER, "moves": True, "place": {"x_mm": 0, "y_mm": 0}}
    ring["form"] = {
        "kind": "wire",
        "profile": {"kind": "round", "diameter_mm": 1},
        "length_mm": 16,
        "closed": True,
    }
    joins = [
        join("hang", "loop", "loop", kind="butt"),
        join("stud", "post", "plate", at=at, after=["hang"]),
    ]
    middle = {"x_mm": 0, "y_mm": 0}
    post = wire("post", 1, 8, place={"x_mm": at[0], "y_mm": at[1], "stands": "upright"})
    return piece([plate("plate", side=60, place=middle), ring, post], joins)


def ring_of(**seam: Any) -> Example:
    return piece([wire("ring", 1, 20, closed=True)], [join("seam", "ring", "ring", kind="butt", **seam)])


def opened(at: list[float]) -> Example:
    rows = [
        join("solder", "ring", "plate", at=at),
        {"id": "open", "kind": "ring-open", "between": ["ring", "plate"], "at": [0, 0]},
    ]
    return piece([plate("plate"), wire("ring", 1, 20, closed=True)], rows)


def drawn_down(*holes: float) -> Example:
    tools = tuple({"kind": "draw-plate-hole", "size_mm": size} for size in holes)
    ends = {
        "start": {"kind": "round", "diameter_mm": 3.0},
        "end": {"kind": "round", "diameter_mm": min(holes)},
    }
    return Example(size=("draw-down", {"metal": SILVER, "length_mm": 100, **ends}), tools=tools)


def size(name: str, **typed: Any) -> Example:
    return Example(size=(name, typed))


def ear_wire(ornament_mm: float) -> Example:
    return size(
        "ear-wire",
        wire_mm=0.8,
        dowel_mm=6,
        ornament_mm=ornament_mm,
        front_mm=4,
        drop_mm=18,
        tail_mm=5,
        flare_mm=3,
        catch_mm=0,
        bend="half-angle",
        spare_mm=1,
    )


def two_metals(metal: str, solder: str) -> Example:
    """A dot of another metal on a sterling plate."""
    return piece(
        [plate("plate"), wire("dot", metal=metal)], [join("dot-foot", "dot", "plate", solder=solder)]
    )


def fused(metal: str) -> Example:
    return piece(
        [wire("a", metal=metal), wire("b", metal=metal)],
        [{"id": "bead", "kind": "fuse", "between": ["a", "b"]}],
    )


def visible(metal: str) -> Example:
    joins = [join("foot", "post", "plate", visible=True)]
    return piece([plate("plate", metal=metal), wire("post", metal=metal)], joins)


def balled(metal: str) -> Example:
    return piece([wire("pin", 0.8, 30, metal)], work=[work("head", "ball", "pin", ball_mm=1.6)])


def ball_on(size: float) -> Example:
    return piece([wire("pin", 0.8, 60)], work=[work("head", "ball", "pin", ball_mm=size)])


def hung(**hang: Any) -> Example:
    seam = join("seam", "loop", "loop", kind="butt", through=["drop"])
    parts = [wire("loop", 1, 20, closed=True), wire("drop", 1, 20, closed=True)]
    return piece(parts, [seam], work=[work("in", "hang", "drop", **hang)])


def domed(**when: Any) -> Example:
    return piece(
        [plate("plate"), ball("knob", 2)],
        [join("foot", "knob", "plate", kind="seat")],
        work=[work("doming", "dome", "plate", reduction_pct=15, **when)],
    )


def bench(**bench: Any) -> Example:
    return two(bench={"solders": US, **bench})


def formed(temper: str) -> Example:
    return piece([wire("pin", temper=temper)], work=[work("bend", "bend", "pin", reduction_pct=10)])


def trimmed(**post: Any) -> Example:
    cuts = [work("cut", "trim", "post", after=["foot"])]
    return piece([plate("plate"), wire("post", **post)], [join("foot", "post", "plate")], work=cuts)


def finished(*grits: int) -> Example:
    stages = [
        work(f"grit-{n}", "finish", "plate", stage=grit, **({"after": [f"grit-{n - 1}"]} if n else {}))
        for n, grit in enumerate(grits)
    ]
    return piece([plate("plate")], work=stages)


BOUND = {"holds": "bound", "bound_with": "steel"}
LONGER = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1.0}, "length_mm": 30}

"""For each rule a small piece in which it speaks, and one beside it in which it is silent: what tells them apart is the rule.

They are what the rules page shows and what the tests walk; measures are a smith's, sizes in mm.
"""

from __future__ import annotations

from typing import Any

from ._occasions import Done, Example

Plain = dict[str, Any]
_US = ["us-hard", "us-medium", "us-easy", "us-extra-easy"]
_SILVER, _COPPER = "sterling-925", "copper"


def _named(name: str) -> Plain:
    return {"id": name, "name": name.replace("-", " ").capitalize()}


def _wire(name: str, diameter: float = 1.0, length: float = 20, metal: str = _SILVER, **more: Any) -> Plain:
    closed = {"closed": True} if more.pop("closed", False) else {}
    form = {
        "kind": "wire",
        "profile": {"kind": "round", "diameter_mm": diameter},
        "length_mm": length,
        **closed,
    }
    return {**_named(name), "metal": metal, "form": form, **more}


def _plate(name: str, thick: float = 1.0, metal: str = _SILVER, side: float = 20, **more: Any) -> Plain:
    outline = {"kind": "rect", "width_mm": side, "height_mm": side}
    return {
        **_named(name),
        "metal": metal,
        "form": {"kind": "sheet", "thickness_mm": thick, "outline": outline},
        **more,
    }


def _ball(name: str, diameter: float, **more: Any) -> Plain:
    return {**_named(name), "metal": _SILVER, "form": {"kind": "ball", "diameter_mm": diameter}, **more}


def _dome(name: str) -> Plain:
    outline = {"kind": "disc", "diameter_mm": 22}
    form = {"kind": "sheet", "thickness_mm": 0.5, "outline": outline, "domed_mm": 6}
    return {**_named(name), "metal": _SILVER, "form": form}


def _join(name: str, *between: str, kind: str = "tee", **more: Any) -> Plain:
    return {**_named(name), "kind": kind, "between": list(between), "holds": "seated", **more}


def _work(name: str, kind: str, *parts: str, **more: Any) -> Plain:
    return {**_named(name), "kind": kind, "parts": list(parts), **more}


def _piece(parts: list[Plain], joins: list[Plain] | None = None, **more: Any) -> Example:
    doings = more.pop("doings", ())
    plain = {"format": "eskel-piece/1", "name": "Example", "parts": parts, "joins": joins or []}
    return Example(piece={**plain, "bench": {"solders": _US}, **more}, doings=doings)


def _two(**join: Any) -> Example:
    """A post on a plate in one join."""
    keys = {key: join.pop(key) for key in ("house", "work", "bench") if key in join}
    return _piece([_plate("plate"), _wire("post")], [_join("foot", "post", "plate", **join)], **keys)


def _row(first: Plain, second: Plain, **more: Any) -> Example:
    """Three wires in a row, the second join after the first."""
    joins = [_join("rim", "a", "b", **first), _join("lug", "b", "c", after=["rim"], **second)]
    return _piece([_wire("a"), _wire("b"), _wire("c")], joins, **more)


def _metal(metal: str, *, fixed: str | None = None, **part: Any) -> Example:
    solder = {} if fixed is None else {"solder": fixed}
    return _piece(
        [_plate("plate", metal=metal, **part), _wire("post", metal=metal)],
        [_join("foot", "post", "plate", **solder)],
    )


def _hollow(house: Plain, vent: bool) -> Example:
    work = [_work("vent", "drill", "upper", vents=["lantern"], before=["rim"])] if vent else []
    rim = _join("rim", "upper", "lower", kind="butt", holds="bound", bound_with="other", encloses="lantern")
    return _piece([_dome("upper"), _dome("lower")], [rim], work=work, house=house)


def _doings(*done: tuple[Done, int], **rim: Any) -> Example:
    rim = _join("rim", "upper", "lower", kind="butt", encloses="lantern", **{"holds": "seated", **rim})
    crown = _join("crown", "upper", "knob", after=["rim"])
    vent = [_work("vent", "drill", "upper", vents=["lantern"], before=["rim"])]
    return _piece([_dome("upper"), _dome("lower"), _ball("knob", 3)], [rim, crown], work=vent, doings=done)


def _tube(ends: int) -> Example:
    tube = {
        "id": "stem",
        "metal": _SILVER,
        "form": {"kind": "tube", "outer_mm": 4, "wall_mm": 0.4, "length_mm": 30, "sealed_ends": ends},
    }
    return _piece([tube, _plate("plate")], [_join("foot", "stem", "plate")])


def _rehearsed(**told: Any) -> Example:
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
    made = _two()
    return Example(piece={**(made.piece or {}), "rehearsals": [row]})


def _frame(loose: int) -> Example:
    parts = [_wire("left"), _wire("right"), *(_wire(f"rung-{n}") for n in range(3))]
    joins = [
        _join(f"{rail}-{n}", rail, f"rung-{n}", kind="cross")
        for n in range(3)
        for rail in (("left",) if n < loose else ("left", "right"))
    ]
    return _piece(parts, joins)


def _beside(at: list[float]) -> Example:
    """A loop that moves, and a stud soldered near it or away from it."""
    ring = {"id": "loop", "name": "Loop", "metal": _SILVER, "moves": True, "place": {"x_mm": 0, "y_mm": 0}}
    ring["form"] = {
        "kind": "wire",
        "profile": {"kind": "round", "diameter_mm": 1},
        "length_mm": 16,
        "closed": True,
    }
    joins = [
        _join("hang", "loop", "loop", kind="butt"),
        _join("stud", "post", "plate", at=at, after=["hang"]),
    ]
    middle = {"x_mm": 0, "y_mm": 0}
    post = _wire("post", 1, 8, place={"x_mm": at[0], "y_mm": at[1], "stands": "upright"})
    return _piece([_plate("plate", side=60, place=middle), ring, post], joins)


def _ring_of(**seam: Any) -> Example:
    return _piece([_wire("ring", 1, 20, closed=True)], [_join("seam", "ring", "ring", kind="butt", **seam)])


def _opened(at: list[float]) -> Example:
    rows = [
        _join("solder", "ring", "plate", at=at),
        {"id": "open", "kind": "ring-open", "between": ["ring", "plate"], "at": [0, 0]},
    ]
    return _piece([_plate("plate"), _wire("ring", 1, 20, closed=True)], rows)


def _drawn_down(*holes: float) -> Example:
    tools = tuple({"kind": "draw-plate-hole", "size_mm": size} for size in holes)
    ends = {
        "start": {"kind": "round", "diameter_mm": 3.0},
        "end": {"kind": "round", "diameter_mm": min(holes)},
    }
    return Example(size=("draw-down", {"metal": _SILVER, "length_mm": 100, **ends}), tools=tools)


def _size(name: str, **typed: Any) -> Example:
    return Example(size=(name, typed))


def _ear_wire(ornament_mm: float) -> Example:
    return _size(
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


def _fused(metal: str) -> Example:
    return _piece(
        [_wire("a", metal=metal), _wire("b", metal=metal)],
        [{"id": "bead", "kind": "fuse", "between": ["a", "b"]}],
    )


def _visible(metal: str) -> Example:
    joins = [_join("foot", "post", "plate", visible=True)]
    return _piece([_plate("plate", metal=metal), _wire("post", metal=metal)], joins)


def _balled(metal: str) -> Example:
    return _piece([_wire("pin", 0.8, 30, metal)], work=[_work("head", "ball", "pin", ball_mm=1.6)])


def _ball_on(size: float) -> Example:
    return _piece([_wire("pin", 0.8, 60)], work=[_work("head", "ball", "pin", ball_mm=size)])


def _hung(**hang: Any) -> Example:
    seam = _join("seam", "loop", "loop", kind="butt", through=["drop"])
    parts = [_wire("loop", 1, 20, closed=True), _wire("drop", 1, 20, closed=True)]
    return _piece(parts, [seam], work=[_work("in", "hang", "drop", **hang)])


def _domed(**when: Any) -> Example:
    return _piece(
        [_plate("plate"), _ball("knob", 2)],
        [_join("foot", "knob", "plate", kind="seat")],
        work=[_work("doming", "dome", "plate", reduction_pct=15, **when)],
    )


def _bench(**bench: Any) -> Example:
    return _two(bench={"solders": _US, **bench})


def _formed(temper: str) -> Example:
    return _piece([_wire("pin", temper=temper)], work=[_work("bend", "bend", "pin", reduction_pct=10)])


def _trimmed(**post: Any) -> Example:
    work = [_work("cut", "trim", "post", after=["foot"])]
    return _piece([_plate("plate"), _wire("post", **post)], [_join("foot", "post", "plate")], work=work)


def _finished(*grits: int) -> Example:
    work = [
        _work(f"grit-{n}", "finish", "plate", stage=grit, **({"after": [f"grit-{n - 1}"]} if n else {}))
        for n, grit in enumerate(grits)
    ]
    return _piece([_plate("plate")], work=work)


_BOUND = {"holds": "bound", "bound_with": "steel"}
_LONGER = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1.0}, "length_mm": 30}

EXAMPLES: dict[str, tuple[Example, Example]] = {
    # What a heat does to the joins before it.
    "remelt-flows": (
        _row(
            {"solder": "us-hard", "holds": "nothing"}, {"solder": "us-hard"}, bench={"solders": ["us-hard"]}
        ),
        _row({"solder": "us-hard", "holds": "nothing"}, {"solder": "us-easy"}),
    ),
    "remelt-soft": (
        _row({"solder": "us-hard", "loaded": True}, {"solder": "us-medium"}),
        _row({"solder": "us-hard", "loaded": True}, {"solder": "us-easy"}),
    ),
    "same-grade-held": (
        _row({"solder": "us-hard"}, {"solder": "us-hard"}),
        _row({"solder": "us-hard"}, {"solder": "us-easy"}),
    ),
    "hangs-below": (
        _row({"solder": "us-medium", "face": "back", "holds": "own-weight"}, {"solder": "us-easy"}),
        _row({"solder": "us-medium", "face": "back", "holds": "seated"}, {"solder": "us-easy"}),
    ),
    "melt-risk": (_metal(_SILVER, fixed="us-hard"), _metal(_SILVER, fixed="us-medium")),
    "melt-certain": (_metal("coin-900", fixed="us-hard"), _metal("fine-silver-999", fixed="us-hard")),
    "fuse-window": (_fused("gold-18k-yellow"), _fused("fine-silver-999")),
    # Stock, metals, what shows.
    "no-stock": (
        _piece(
            [_wire("a", metal=_COPPER), _wire("b", metal=_COPPER)],
            [_join("j", "a", "b", grade="medium")],
            bench={"solders": ["us-hard"]},
        ),
        _piece(
            [_wire("a", metal=_COPPER), _wire("b", metal=_COPPER)],
            [_join("j", "a", "b", grade="hard")],
            bench={"solders": ["us-hard"]},
        ),
    ),
    "placing-no-stock": (
        _two(placing="paste", bench={"solders": [{"solder": "us-hard", "form": "sheet"}]}),
        _two(placing="paste", bench={"solders": [{"solder": "us-hard", "form": "paste"}]}),
    ),
    "fineness-short": (_two(house={"fineness": 800}), _two(house={"fineness": 500})),
    "solder-shows": (_visible(_COPPER), _visible(_SILVER)),
    "spring-softened": (
        _piece([_plate("plate"), _wire("pin", temper="half-hard")], [_join("foot", "pin", "plate")]),
        _piece([_plate("plate"), _wire("pin", spring=True)], [_join("foot", "pin", "plate")]),
    ),
    "bought-in-last": (
        _piece([_plate("plate"), _wire("catch", bought_in=True)], [_join("foot", "catch", "plate")]),
        _piece([_plate("plate"), _wire("catch")], [_join("foot", "catch", "plate")]),
    ),
    "gold-filled-heat": (
        _metal("gold-filled-14-20", fixed="us-hard"),
        _metal("gold-filled-14-20", fixed="us-easy"),
    ),
    "red-short": (_metal("germanium-silver-935", fixed="us-easy"), _metal(_COPPER, fixed="us-easy")),
    "zinc-fume": (_balled("brass-c260"), _balled(_COPPER)),
    "cadmium": (Example(solders=(("uk-easy", True),)), Example(solders=(("uk-easy", False),))),
    "nickel-skin": (_metal("nickel-silver-c752", touches_skin="on"), _metal("nickel-silver-c752")),
    # Hollows, stones, what must stay free.
    "sealed-hollow": (_hollow({"hollow": "sealed-dry"}, vent=False), _hollow({}, vent=True)),
    "wet-hollow": (
        _doings(("heat", 1), ("quench", 1), ("pickle", 1), ("heat", 2)),
        _doings(("heat", 1), ("quench", 1), ("pickle", 1), ("dry", 2), ("heat", 2)),
    ),
    "sealed-tube": (_tube(2), _tube(1)),
    "stone-in-heat": (
        _piece(
            [_plate("plate"), _ball("stone", 5, heat_safe=False)],
            [_join("seat", "stone", "plate", kind="seat")],
        ),
        _piece([_plate("plate"), _ball("knob", 5)], [_join("seat", "knob", "plate", kind="seat")]),
    ),
    "trapped-part": (_hung(after=["seam"]), _hung()),
    "moving-part": (_beside([4, 0]), _beside([22, 0])),
    "split-in-solder": (_opened([1, 1]), _opened([0, 6])),
    "parts-drift": (
        _piece(
            [_plate("plate"), _ball("dot", 1.5, count=4)],
            [_join("dots", "plate", "dot", kind="seat", holds="own-weight")],
        ),
        _piece(
            [_plate("plate"), _ball("dot", 3.5, count=4)],
            [_join("dots", "plate", "dot", kind="seat", holds="own-weight")],
        ),
    ),
    "frame-loose": (_frame(1), _frame(0)),
    # Steel, water, acid, vessels.
    "steel-in-pickle": (
        _doings(("heat", 1), ("quench", 1), ("pickle", 1), **_BOUND),
        _doings(("heat", 1), ("quench", 1), ("unbind", 1), ("pickle", 1), **_BOUND),
    ),
    "hot-into-acid": (
        _doings(("heat", 1), ("pickle", 1)),
        _doings(("heat", 1), ("quench", 1), ("pickle", 1)),
    ),
    "does-not-fit": (
        _bench(vessels=[{"kind": "pot", "length_mm": 19}]),
        _bench(vessels=[{"kind": "pot", "length_mm": 30}]),
    ),
    "pink-plating": (_bench(pot={"iron_touched": True}), _bench(pot={})),
    "bath-spent": (_bench(pot={"copper_g_l": 25}), _bench(pot={"copper_g_l": 20})),
    "over-pickle": (Example(pot=(31, 10, True)), Example(pot=(29, 10, True))),
    "wet-on-steel": (
        _two(work=[_work("size", "size", "post", after=["foot"])]),
        _two(work=[_work("roll", "roll", "post", before=["foot"], reduction_pct=10)]),
    ),
    # Flame and flux.
    "mass-imbalance": (
        _piece([_ball("knob", 9), _wire("ring", 0.8, 12, closed=True)], [_join("crown", "ring", "knob")]),
        _piece([_wire("rail", 1.2), _wire("ring", 0.8, 12, closed=True)], [_join("crown", "ring", "rail")]),
    ),
    "torch-too-small": (
        _rehearsed(seconds_likely=None, seconds_low=None, seconds_high=None, settles_c=640),
        _rehearsed(),
    ),
    "flux-spent": (_rehearsed(seconds_high=3000), _rehearsed()),
    "fire-stain": (_rehearsed(above_700_s=61), _rehearsed(above_700_s=59)),
    "chips-jump": (
        _piece([_plate("plate"), _wire("pip", 0.8, 4)], [_join("foot", "pip", "plate")]),
        _piece([_plate("plate"), _wire("pip", 2.0, 12)], [_join("foot", "pip", "plate")]),
    ),
    "paste-weak": (_two(placing="paste", seam_mm=16), _two(placing="paste", seam_mm=14)),
    "detail-floods": (_two(beside_detail=True), _two()),
    # Forming.
    "form-before-seat": (_domed(after=["foot"]), _domed(before=["foot"])),
    "form-through-join": (
        _two(work=[_work("bend", "bend", "post", after=["foot"], reduction_pct=10)]),
        _two(work=[_work("bend", "bend", "post", before=["foot"], reduction_pct=10)]),
    ),
    "pass-too-large": (_drawn_down(2.0), _drawn_down(2.8, 2.6, 2.4, 2.3, 2.2, 2.1)),
    "needs-anneal": (
        _size("anneal", metal=_SILVER, thickness_mm=1.2, reduction_pct=45, next_reduction_pct=45),
        _size("anneal", metal=_SILVER, thickness_mm=1.2, reduction_pct=10, next_reduction_pct=10),
    ),
    "anneal-by-heat": (
        _two(
            work=[
                _work("first", "bend", "post", before=["foot"], reduction_pct=20),
                _work("then", "bend", "post", after=["foot"], reduction_pct=20),
            ]
        ),
        _two(work=[_work("then", "bend", "post", after=["foot"], reduction_pct=20)]),
    ),
    "temper-unknown": (_formed("unknown"), _formed("soft")),
    "quench-crack": (
        _size("anneal", metal=_SILVER, thickness_mm=3.2),
        _size("anneal", metal=_SILVER, thickness_mm=1.2),
    ),
    # Balls, lengths, thicknesses, sight.
    "ball-falls": (_ball_on(4.5), _ball_on(1.8)),
    "ball-flat": (
        _piece([_plate("plate"), _ball("knob", 4)], [_join("seat", "plate", "knob")]),
        _piece([_plate("plate"), _ball("knob", 1.5)], [_join("seat", "plate", "knob")]),
    ),
    "cut-short": (_trimmed(), _trimmed(rough=_LONGER)),
    "too-thin": (
        _piece(
            [_plate("plate"), _wire("post", 0.6, 10, touches_skin="through")],
            [_join("foot", "post", "plate")],
        ),
        _piece(
            [_plate("plate"), _wire("post", 0.8, 10, touches_skin="through")],
            [_join("foot", "post", "plate")],
        ),
    ),
    "seam-in-sight": (_ring_of(visible=True), _ring_of()),
    "wire-shows": (
        _ear_wire(ornament_mm=6),
        _ear_wire(ornament_mm=22),
    ),
    "hangs-tilted": (
        _size("hang", parts=[{"mass_g": 2, "x_mm": 8, "y_mm": 12}], pivot={"x_mm": 0, "y_mm": 0}),
        _size("hang", parts=[{"mass_g": 2, "x_mm": 0, "y_mm": 12}], pivot={"x_mm": 0, "y_mm": 0}),
    ),
    # Finish.
    "grit-skipped": (_finished(240, 800), _finished(240, 400)),
    "seal-last": (
        _two(work=[_work("wax", "seal", "plate"), _work("dark", "darken", "plate", times=1, after=["wax"])]),
        _two(work=[_work("wax", "seal", "plate"), _work("dark", "darken", "plate", times=1)]),
    ),
}

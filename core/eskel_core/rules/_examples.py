"""For each rule a small piece in which it speaks, and one beside it in which it is silent: what tells them apart is the rule.

They are what the rules page shows and what the tests walk; measures are a smith's, sizes in mm.
"""

from __future__ import annotations

from ._occasions import Example
from ._sketches import (
    BOUND,
    COPPER,
    LONGER,
    SILVER,
    ball,
    ball_on,
    balled,
    bench,
    beside,
    doings,
    domed,
    drawn_down,
    ear_wire,
    finished,
    formed,
    frame,
    fused,
    held_in_hand,
    hollow,
    hung,
    join,
    metal,
    opened,
    piece,
    plate,
    poured,
    rehearsed,
    ring_of,
    row,
    size,
    trimmed,
    tube,
    two,
    two_metals,
    visible,
    wire,
    work,
)

EXAMPLES: dict[str, tuple[Example, Example]] = {
    # What a heat does to the joins before it.
    "remelt-flows": (
        row({"solder": "us-hard", "holds": "nothing"}, {"solder": "us-hard"}, bench={"solders": ["us-hard"]}),
        row({"solder": "us-hard", "holds": "nothing"}, {"solder": "us-easy"}),
    ),
    "remelt-soft": (
        row({"solder": "us-hard", "loaded": True}, {"solder": "us-medium"}),
        row({"solder": "us-hard", "loaded": True}, {"solder": "us-easy"}),
    ),
    "same-grade-held": (
        row({"solder": "us-hard"}, {"solder": "us-hard"}),
        row({"solder": "us-hard"}, {"solder": "us-easy"}),
    ),
    "hangs-below": (
        row({"solder": "us-medium", "face": "back", "holds": "own-weight"}, {"solder": "us-easy"}),
        row({"solder": "us-medium", "face": "back", "holds": "seated"}, {"solder": "us-easy"}),
    ),
    "melt-risk": (metal(SILVER, fixed="us-hard"), metal(SILVER, fixed="us-medium")),
    "melt-certain": (metal("coin-900", fixed="us-hard"), metal("fine-silver-999", fixed="us-hard")),
    "melts-together": (two_metals("copper", "us-hard"), two_metals("copper", "us-medium")),
    "fuse-window": (fused("gold-18k-yellow"), fused("fine-silver-999")),
    # Stock, metals, what shows.
    "no-stock": (
        piece(
            [wire("a", metal=COPPER), wire("b", metal=COPPER)],
            [join("j", "a", "b", grade="medium")],
            bench={"solders": ["us-hard"]},
        ),
        piece(
            [wire("a", metal=COPPER), wire("b", metal=COPPER)],
            [join("j", "a", "b", grade="hard")],
            bench={"solders": ["us-hard"]},
        ),
    ),
    "placing-no-stock": (
        two(placing="paste", bench={"solders": [{"solder": "us-hard", "form": "sheet"}]}),
        two(placing="paste", bench={"solders": [{"solder": "us-hard", "form": "paste"}]}),
    ),
    "fineness-short": (two(house={"fineness": 800}), two(house={"fineness": 500})),
    "solder-shows": (visible(COPPER), visible(SILVER)),
    "spring-softened": (
        piece([plate("plate"), wire("pin", temper="half-hard")], [join("foot", "pin", "plate")]),
        piece([plate("plate"), wire("pin", spring=True)], [join("foot", "pin", "plate")]),
    ),
    "bought-in-last": (
        piece([plate("plate"), wire("catch", bought_in=True)], [join("foot", "catch", "plate")]),
        piece([plate("plate"), wire("catch")], [join("foot", "catch", "plate")]),
    ),
    "gold-filled-heat": (
        metal("gold-filled-14-20", fixed="us-hard"),
        metal("gold-filled-14-20", fixed="us-easy"),
    ),
    "red-short": (metal("germanium-silver-935", fixed="us-easy"), metal(COPPER, fixed="us-easy")),
    "zinc-fume": (balled("brass-c260"), balled(COPPER)),
    "cadmium": (Example(solders=(("uk-easy", True),)), Example(solders=(("uk-easy", False),))),
    "nickel-skin": (metal("nickel-silver-c752", touches_skin="on"), metal("nickel-silver-c752")),
    # Hollows, stones, what must stay free.
    "sealed-hollow": (hollow({"hollow": "sealed-dry"}, vent=False), hollow({}, vent=True)),
    "wet-hollow": (
        doings(("heat", 1), ("quench", 1), ("pickle", 1), ("heat", 2)),
        doings(("heat", 1), ("quench", 1), ("pickle", 1), ("dry", 2), ("heat", 2)),
    ),
    "sealed-tube": (tube(2), tube(1)),
    "stone-in-heat": (
        piece(
            [plate("plate"), ball("stone", 5, heat_safe=False)],
            [join("seat", "stone", "plate", kind="seat")],
        ),
        piece([plate("plate"), ball("knob", 5)], [join("seat", "knob", "plate", kind="seat")]),
    ),
    "contaminated": (metal("pewter"), metal(COPPER)),
    "unknown-metal": (metal("unknown"), metal(COPPER)),
    "wet-mould": (poured(warmed=False), poured(warmed=True)),
    "hands-full": (held_in_hand(third="hand"), held_in_hand(third="seated")),
    "trapped-part": (hung(after=["seam"]), hung()),
    "moving-part": (beside([4, 0]), beside([22, 0])),
    "split-in-solder": (opened([1, 1]), opened([0, 6])),
    "parts-drift": (
        piece(
            [plate("plate"), ball("dot", 1.5, count=4)],
            [join("dots", "plate", "dot", kind="seat", holds="own-weight")],
        ),
        piece(
            [plate("plate"), ball("dot", 3.5, count=4)],
            [join("dots", "plate", "dot", kind="seat", holds="own-weight")],
        ),
    ),
    "frame-loose": (frame(1), frame(0)),
    # Steel, water, acid, vessels.
    "steel-in-pickle": (
        doings(("heat", 1), ("quench", 1), ("pickle", 1), **BOUND),
        doings(("heat", 1), ("quench", 1), ("unbind", 1), ("pickle", 1), **BOUND),
    ),
    "hot-into-acid": (
        doings(("heat", 1), ("pickle", 1)),
        doings(("heat", 1), ("quench", 1), ("pickle", 1)),
    ),
    "does-not-fit": (
        bench(vessels=[{"kind": "pot", "length_mm": 19}]),
        bench(vessels=[{"kind": "pot", "length_mm": 30}]),
    ),
    "pink-plating": (bench(pot={"iron_touched": True}), bench(pot={})),
    "bath-spent": (bench(pot={"copper_g_l": 25}), bench(pot={"copper_g_l": 20})),
    "over-pickle": (Example(pot=(31, 10, True)), Example(pot=(29, 10, True))),
    "wet-on-steel": (
        two(work=[work("size", "size", "post", after=["foot"])]),
        two(work=[work("roll", "roll", "post", before=["foot"], reduction_pct=10)]),
    ),
    # Flame and flux.
    "mass-imbalance": (
        piece([ball("knob", 9), wire("ring", 0.8, 12, closed=True)], [join("crown", "ring", "knob")]),
        piece([wire("rail", 1.2), wire("ring", 0.8, 12, closed=True)], [join("crown", "ring", "rail")]),
    ),
    "torch-too-small": (
        rehearsed(seconds_likely=None, seconds_low=None, seconds_high=None, settles_c=640),
        rehearsed(),
    ),
    "flux-spent": (rehearsed(seconds_high=3000), rehearsed()),
    "fire-stain": (rehearsed(above_700_s=61), rehearsed(above_700_s=59)),
    "chips-jump": (
        piece([plate("plate"), wire("pip", 0.8, 4)], [join("foot", "pip", "plate")]),
        piece([plate("plate"), wire("pip", 2.0, 12)], [join("foot", "pip", "plate")]),
    ),
    "paste-weak": (two(placing="paste", seam_mm=16), two(placing="paste", seam_mm=14)),
    "detail-floods": (two(beside_detail=True), two()),
    # Forming.
    "form-before-seat": (domed(after=["foot"]), domed(before=["foot"])),
    "form-through-join": (
        two(work=[work("bend", "bend", "post", after=["foot"], reduction_pct=10)]),
        two(work=[work("bend", "bend", "post", before=["foot"], reduction_pct=10)]),
    ),
    "pass-too-large": (drawn_down(2.0), drawn_down(2.8, 2.6, 2.4, 2.3, 2.2, 2.1)),
    "needs-anneal": (
        size("anneal", metal=SILVER, thickness_mm=1.2, reduction_pct=45, next_reduction_pct=45),
        size("anneal", metal=SILVER, thickness_mm=1.2, reduction_pct=10, next_reduction_pct=10),
    ),
    "anneal-by-heat": (
        two(
            work=[
                work("first", "bend", "post", before=["foot"], reduction_pct=20),
                work("then", "bend", "post", after=["foot"], reduction_pct=20),
            ]
        ),
        two(work=[work("then", "bend", "post", after=["foot"], reduction_pct=20)]),
    ),
    "temper-unknown": (formed("unknown"), formed("soft")),
    "quench-crack": (
        size("anneal", metal=SILVER, thickness_mm=3.2),
        size("anneal", metal=SILVER, thickness_mm=1.2),
    ),
    # Balls, lengths, thicknesses, sight.
    "ball-falls": (ball_on(4.5), ball_on(1.8)),
    "ball-flat": (
        piece([plate("plate"), ball("knob", 4)], [join("seat", "plate", "knob")]),
        piece([plate("plate"), ball("knob", 1.5)], [join("seat", "plate", "knob")]),
    ),
    "cut-short": (trimmed(), trimmed(rough=LONGER)),
    "too-thin": (
        piece(
            [plate("plate"), wire("post", 0.6, 10, touches_skin="through")],
            [join("foot", "post", "plate")],
        ),
        piece(
            [plate("plate"), wire("post", 0.8, 10, touches_skin="through")],
            [join("foot", "post", "plate")],
        ),
    ),
    "seam-in-sight": (ring_of(visible=True), ring_of()),
    "wire-shows": (
        ear_wire(ornament_mm=6),
        ear_wire(ornament_mm=22),
    ),
    "hangs-tilted": (
        size("hang", parts=[{"mass_g": 2, "x_mm": 8, "y_mm": 12}], pivot={"x_mm": 0, "y_mm": 0}),
        size("hang", parts=[{"mass_g": 2, "x_mm": 0, "y_mm": 12}], pivot={"x_mm": 0, "y_mm": 0}),
    ),
    # Finish.
    "grit-skipped": (finished(240, 800), finished(240, 400)),
    "seal-last": (
        two(work=[work("wax", "seal", "plate"), work("dark", "darken", "plate", times=1, after=["wax"])]),
        two(work=[work("wax", "seal", "plate"), work("dark", "darken", "plate", times=1)]),
    ),
}

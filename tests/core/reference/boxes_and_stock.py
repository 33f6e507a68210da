"""Boxes and hollows, batches, small things, stock, mixed metals and house schools."""

from __future__ import annotations

from tests.core.reference.forms import (
    FINE,
    Reference,
    ball,
    disc,
    join,
    sheet,
    square,
    strip,
    tube,
    wire,
    work,
    work_of,
)

BOXES = (
    Reference(
        "strap-tip",
        "walls closed hard, the bottom medium, the top that closes it easy: vented, dried before the boss",
        work_of(
            [
                strip("walls", 4, 0.8, 70),
                sheet("bottom", 26, 14, 0.8),
                sheet("top", 26, 14, 0.8),
                ball("boss", 4),
            ],
            [
                join("walls-seam", "butt", "walls"),
                join("bottom-line", "edge", "walls", "bottom", encloses="tip", after=["walls-seam"]),
                join("top-line", "edge", "top", "walls", encloses="tip", after=["bottom-line"]),
                join("boss-foot", "tee", "boss", "top", holds="seated", after=["top-line"]),
            ],
        ),
        "hard: walls-seam / medium: bottom-line / easy: top-line / extra-easy: boss-foot",
        ("Drill a small hole", "Dry the tip out"),
        (),
        ("sealed-hollow", "wet-hollow", "remelt-flows"),
    ),
    Reference(
        "hammered-shut",
        "a tube hammered shut at both ends is a hollow: confirmed, air-cooled, in no water until its last heat is over",
        work_of(
            [tube("stem", 5, 0.5, 40), sheet("plate", 20, 15, 1.0)],
            [join("foot", "line", "stem", "plate", holds="seated")],
            [work("shutting", "flatten", "stem", seals=["stem"], before=["foot"])],
        ),
        "hard: foot",
        ("Closed without a vent", "Let it cool in air"),
        ("sealed-tube",),
        ("wet-hollow",),
    ),
    Reference(
        "hammered-shut-with-a-pinhole",
        "with a pinhole it is a vented hollow: the danger goes, and it is dried before its second heat",
        work_of(
            [tube("stem", 5, 0.5, 40), sheet("plate", 20, 15, 1.0), ball("knob", 4)],
            [
                join("foot", "line", "stem", "plate", holds="seated"),
                join("knob-foot", "tee", "knob", "stem", holds="seated", after=["foot"]),
            ],
            [
                work("shutting", "flatten", "stem", seals=["stem"], before=["pinhole"]),
                work("pinhole", "drill", "stem", before=["foot"]),
            ],
        ),
        "hard: foot / medium: knob-foot",
        ("Dry the stem out", "Fit knob foot"),
        (),
        ("sealed-tube", "wet-hollow"),
    ),
    Reference(
        "headpins",
        "six wires balled at one end, straightened and tumbled hard; nothing else",
        work_of(
            [wire("headpin", 0.8, 50, count=6)],
            [],
            [
                work("balling", "ball", "headpin", ball_mm=1.9),
                work("tumbling", "tumble", "headpin", after=["balling"]),
            ],
        ),
        "ball: balling",
        ("each of the six", "Tumble"),
        (),
        ("ball-falls", "spring-softened"),
    ),
    Reference(
        "dotted-plate",
        "discs tinned first and then laid on: one heat for all, none under three millimetres adrift",
        work_of(
            [sheet("plate", 30, 22, 0.9, "copper"), disc("dot", 4, 0.6, count=6)],
            [join("dots", "overlay", "dot", "plate", placing="sweat", holds="own-weight")],
        ),
        "hard: dots",
        ("melted onto one face first",),
        (),
        ("parts-drift", "melt-certain"),
    ),
    Reference(
        "layered-badge",
        "brass on copper on silver: sweated from the largest up, hard then medium; the pin back last",
        work_of(
            [
                sheet("ground", 36, 28, 1.0),
                sheet("field", 26, 20, 0.8, "copper"),
                sheet("crest", 14, 12, 0.7, "brass-c260"),
                tube("hinge", 2.5, 0.4, 5),
            ],
            [
                join("field-lay", "overlay", "field", "ground", placing="sweat"),
                join("crest-lay", "overlay", "crest", "field", placing="sweat", after=["field-lay"]),
                join("hinge-foot", "line", "hinge", "ground", face="back", holds="hand", after=["crest-lay"]),
            ],
        ),
        "hard: field-lay / medium: crest-lay / easy: hinge-foot",
        (),
        (),
        ("zinc-fume", "melt-certain", "remelt-flows"),
    ),
    Reference(
        "pressed-stud",
        "shot pressed flat, gold fused on fine silver first, the post soldered after",
        work_of(
            [disc("shot", 6, 1.2, FINE), disc("scrap", 3, 0.3, "gold-22k-yellow"), wire("post", 0.9, 11)],
            [
                join("gold-lay", "fuse", "scrap", "shot"),
                join("foot", "tee", "post", "shot", face="back", holds="hand", after=["gold-lay"]),
            ],
            [work("pressing", "press", "shot", after=["gold-lay"], before=["foot"])],
        ),
        "fuse: gold-lay / hard: foot",
        ("Fuse gold lay", "Press shot"),
        (),
        ("melt-certain",),
    ),
    Reference(
        "fine-surface-for-foil",
        "a fine surface is brought up three times: dull red, cooled in air, pickled; it counts as three",
        work_of([sheet("plate", 30, 20, 0.9)], [], [work("raising", "deplete", "plate", times=3)]),
        "anneal: raising / anneal: raising / anneal: raising",
        ("heat 3 of 3", "Let it cool in air", "pot"),
        (),
        ("melt-risk", "spring-softened"),
    ),
)

STOCK = (
    Reference(
        "pour-to-wire",
        "poured, rolled and drawn with an anneal whenever the next pass would be too much",
        work_of(
            [square("bar", 6, 60, temper="soft")],
            [],
            [
                work("melting", "melt", "bar", mass_g=22),
                work("pouring", "pour", "bar", after=["melting"], mass_g=22),
                work(
                    "rolling",
                    "roll",
                    "bar",
                    after=["pouring"],
                    **{"from": {"kind": "square", "side_mm": 6}, "to": {"kind": "square", "side_mm": 4.2}},
                ),
                work(
                    "drawing",
                    "draw",
                    "bar",
                    after=["rolling"],
                    **{"from": {"kind": "square", "side_mm": 4.2}, "to": {"kind": "square", "side_mm": 3.2}},
                ),
            ],
        ),
        "melt: melting / melt: pouring / anneal: bar",
        (
            "Melt",
            "22.0 g",
            "Pour bar into a mould of 6 mm square",
            "Roll bar",
            "6",
            "4.2",
            "Anneal bar",
            "Draw bar",
            "4.2",
            "3.2",
        ),
        (),
        ("needs-anneal", "zinc-fume"),
    ),
    Reference(
        "grains",
        "forty snips melt one by one or a few at a time, never as one charge; fine silver, no flux, no pot",
        work_of(
            [ball("grain", 2.0, FINE, count=40)],
            [],
            [work("dividing", "divide", "grain", before=["melting"]), work("melting", "melt", "grain")],
        ),
        "melt: melting",
        ("Divide", "40", "each of the 40"),
        (),
        ("ball-falls",),
    ),
)

SCHOOLS = (
    Reference(
        "house-of-one-grade",
        "same-while-held: what is seated may run again, so all of it is hard",
        work_of(
            [sheet("plate", 24, 18, 1.0), tube("left", 3, 0.5, 8), tube("right", 3, 0.5, 8)],
            [
                join("left-line", "line", "left", "plate", holds="seated"),
                join("right-line", "line", "right", "plate", holds="seated", after=["left-line"]),
            ],
            house={"grade_policy": "same-while-held"},
        ),
        "hard: left-line / hard: right-line",
        (),
        ("same-grade-held",),
        ("remelt-flows",),
    ),
    Reference(
        "house-of-the-easiest",
        "easiest-that-serves: a lone join takes the softest at hand",
        work_of(
            [sheet("plate", 24, 18, 1.0), wire("loop", 1.2, 14)],
            [join("foot", "tee", "loop", "plate", holds="hand")],
            house={"grade_policy": "easiest-that-serves"},
        ),
        "extra-easy: foot",
        (),
        (),
        ("melt-risk",),
    ),
    Reference(
        "uk-family",
        "the grades of the other family by their own temperatures: hard, then medium would run it again, so easy",
        work_of(
            [strip("band", 5, 1.2, 58), tube("collet", 6, 0.8, 4)],
            [
                join("seam", "butt", "band"),
                join("collet-foot", "tee", "collet", "band", after=["seam"], holds="seated"),
            ],
            house={"family": "uk"},
        ),
        "hard: seam / medium: collet-foot",
        ("Lay hard solder",),
        (),
        ("remelt-flows",),
    ),
    Reference(
        "germanium-bail",
        "weak while red and melting early: medium at most, never moved or quenched until black",
        work_of(
            [
                sheet("plate", 20, 15, 0.9, "germanium-silver-935"),
                wire("bail", 1.2, 14, "germanium-silver-935"),
            ],
            [join("foot", "tee", "bail", "plate", holds="hand")],
        ),
        "medium: foot",
        (),
        ("red-short",),
        ("melt-certain",),
    ),
    Reference(
        "picture-frame-of-five-bodies",
        "four corners of one frame, flat on the block, share one heat; its stand is made beside it in the same round",
        work_of(
            [
                square("top", 3, 60),
                square("bottom", 3, 60),
                square("left", 3, 40),
                square("right", 3, 40),
                wire("strut", 2, 40),
                sheet("foot", 14, 10, 1.0),
            ],
            [
                join("nw", "butt", "top", "left"),
                join("ne", "butt", "top", "right"),
                join("sw", "butt", "bottom", "left"),
                join("se", "butt", "bottom", "right"),
                join("strut-foot", "tee", "strut", "foot", holds="hand"),
            ],
        ),
        "hard: nw, ne, sw, se + hard: strut-foot",
        (),
        (),
        ("frame-loose", "remelt-flows"),
    ),
    Reference(
        "nickel-silver-back",
        "nickel against skin is told; air-cooled, since it cracks in water; a catch clipped with steel",
        work_of(
            [sheet("back", 26, 20, 1.0, "nickel-silver-c752", touches_skin="on"), tube("hinge", 2.5, 0.4, 5)],
            [join("foot", "line", "hinge", "back", holds="clipped", bound_with="steel")],
        ),
        "medium: foot",
        ("Let it cool in air", "steel in the pot"),
        ("nickel-skin",),
        ("steel-in-pickle", "quench-crack"),
    ),
)

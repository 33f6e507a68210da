"""Rings and settings."""

from __future__ import annotations

from tests.core.reference.forms import (
    FINE,
    Reference,
    ball,
    disc,
    half_round,
    join,
    sheet,
    square,
    stone,
    strip,
    wire,
    work,
    work_of,
)

RINGS = (
    Reference(
        "plain-band",
        "a lone seam takes the hardest; bent soft before, rounded and sized after it",
        work_of(
            [strip("band", 5, 1.5, 58)],
            [join("seam", "butt", "band", resized_later=True)],
            [
                work("bending", "bend", "band", before=["seam"]),
                work("sizing", "size", "band", after=["seam"], target={"mm": 17.3, "what": "inside"}),
                work("sanding", "finish", "band", stage=400),
            ],
        ),
        "hard: seam",
        (
            "Bend band",
            "Lay hard solder",
            "until it is evenly pale",
            "Check the size of band: inside 17.3 mm, within 0.1 mm",
            "Finish band",
        ),
        ("melt-risk",),
        ("needs-anneal", "form-through-join", "mass-imbalance", "solder-shows"),
    ),
    Reference(
        "band-to-be-twisted-into-shape",
        "wire formed hard is annealed before it is bent again; the seam comes after",
        work_of(
            [half_round("shank", 3.2, 1.7, 56, temper="hard")],
            [join("seam", "butt", "shank")],
            [work("rounding", "bend", "shank", reduction_pct=15, before=["seam"])],
        ),
        "anneal: shank / hard: seam",
        ("Anneal shank", "Bend shank", "Lay hard solder"),
        (),
        ("form-through-join", "temper-unknown"),
    ),
    Reference(
        "bezel-ring",
        "both seams hard in one round; the cup on its plate medium, trimmed, and the ring under it with easy",
        work_of(
            [
                strip("bezel", 3.2, 0.35, 44, FINE),
                disc("base", 15, 0.8, rough=disc("base", 17, 0.8)["form"]),
                half_round("shank", 3.2, 1.7, 56),
                stone("cabochon"),
            ],
            [
                join("cup-seam", "butt", "bezel"),
                join("shank-seam", "butt", "shank", resized_later=True, structural=True),
                join("cup-foot", "edge", "bezel", "base", after=["cup-seam"]),
                join("seat", "seat", "shank", "base", face="back", after=["shank-seam"]),
            ],
            [
                work("trimming", "trim", "base", after=["cup-foot"], before=["seat"]),
                work("setting", "set", "cabochon"),
                work("polishing", "finish", "shank", stage=1200),
            ],
        ),
        "hard: cup-seam + hard: shank-seam / medium: cup-foot / easy: seat",
        ("Trim base", "Fit seat", "Finish shank", "Set cabochon"),
        (),
        ("stone-in-heat", "remelt-flows", "solder-shows"),
    ),
    Reference(
        "bar-ring",
        "a bar saddled on the two ends of an open ring: both ends in one heat, hard",
        work_of(
            [wire("hoop", 1.6, 48), square("bar", 2, 14)],
            [
                join("left", "seat", "hoop", "bar", at=[-4, 0]),
                join("right", "seat", "hoop", "bar", at=[4, 0]),
            ],
            [work("bending", "bend", "hoop", before=["left", "right"])],
        ),
        "hard: left, right",
        ("Bend hoop", "Fit left and right"),
        (),
        ("mass-imbalance", "frame-loose"),
    ),
    Reference(
        "claw-ring",
        "crossed wires and the seat at one flame each in turn, hard then medium; claws are balled last, where joins lie far enough off",
        work_of(
            [
                wire("claws", 1.0, 34, count=2),
                wire("gallery", 1.0, 26, closed=True),
                half_round("shank", 2.6, 1.6, 54),
            ],
            [
                join("gallery-seam", "butt", "gallery"),
                join("shank-seam", "butt", "shank", structural=True),
                join("crossing", "cross", "claws#1", "claws#2", after=[]),
                join("rim", "cross", "gallery", "claws#1", "claws#2", after=["crossing", "gallery-seam"]),
                join("seat", "seat", "claws#1", "shank", holds="seated", after=["rim"]),
            ],
        ),
        "hard: gallery-seam + hard: crossing + hard: shank-seam / medium: rim / easy: seat",
        ("Fit",),
        (),
        ("remelt-flows",),
    ),
    Reference(
        "copper-ring",
        "copper takes hard silver solder, not phosphorus rod nor enamelling solder, unless asked; it shows and may be quenched",
        work_of(
            [half_round("ring", 3.2, 1.7, 58, "copper")],
            [join("seam", "butt", "ring", visible=True)],
            [work("sizing", "size", "ring", after=["seam"])],
        ),
        "hard: seam",
        ("Lay hard solder", "quench in water"),
        ("solder-shows",),
        ("melt-risk", "zinc-fume", "quench-crack"),
    ),
    Reference(
        "gold-cup-on-silver",
        "a gold bezel seam cannot be told from the metal with silver solder: it says so; the foot steps down",
        work_of(
            [strip("cup", 3, 0.4, 22, "gold-18k-yellow"), sheet("plate", 16, 12, 1.0)],
            [
                join("cup-seam", "butt", "cup", visible=True),
                join("foot", "edge", "cup", "plate", after=["cup-seam"]),
            ],
        ),
        "hard: cup-seam / medium: foot",
        (),
        ("solder-shows",),
        ("melt-certain", "zinc-fume"),
    ),
    Reference(
        "border-of-beads",
        "five beads round a cup lie in one heat with it no more than once: six chips at most, none drifting",
        work_of(
            [
                strip("cup", 3, 0.35, 25, FINE),
                disc("plate", 14, 0.9),
                ball("bead", 1.6, count=5),
            ],
            [
                join("cup-seam", "butt", "cup"),
                join("foot", "edge", "cup", "plate", after=["cup-seam"]),
                join("beads", "tee", "bead", "plate", holds="seated", after=["foot"]),
            ],
            [work("dimples", "dimple", "plate", before=["foot", "beads"])],
        ),
        "hard: cup-seam / medium: foot / easy: beads",
        ("Dimple plate",),
        ("chips-jump",),
        ("remelt-flows", "remelt-soft"),
    ),
    Reference(
        "thin-cup-beside-a-heavy-back",
        "the small seam is made alone, hard, before the heavy back; a pot is not saved with a softer solder",
        work_of(
            [
                strip("cup", 3, 0.45, 20, FINE),
                strip("rim", 3, 1.0, 90),
                sheet("back", 40, 30, 1.0),
            ],
            [
                join("cup-seam", "butt", "cup"),
                join("rim-seam", "butt", "rim"),
                join("rim-foot", "edge", "rim", "back", after=["rim-seam"]),
                join("cup-foot", "edge", "cup", "back", after=["cup-seam", "rim-foot"]),
            ],
        ),
        "hard: cup-seam + hard: rim-seam / medium: rim-foot / easy: cup-foot",
        (),
        (),
        ("remelt-flows", "remelt-soft"),
    ),
    Reference(
        "stacked-plain-rings",
        "three bands of one pattern are three heats of one round, told once, and three are fitted",
        work_of(
            [strip("band", 2, 1.3, 57, count=3)],
            [join("seam", "butt", "band")],
            [work("sizing", "size", "band", after=["seam"])],
        ),
        "hard: seam",
        ("each of the three", "Check the size of band, each of the three: inside 16.8 mm"),
        (),
        ("parts-drift",),
    ),
)

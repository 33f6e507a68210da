"""Chain, links, hinges and closures; wire work and cuffs."""

from __future__ import annotations

from tests.core.reference.forms import (
    FINE,
    Reference,
    disc,
    half_round,
    join,
    lump,
    sheet,
    strip,
    tube,
    wire,
    work,
    work_of,
)

_SPOTS = [[-50, 0], [-35, 35], [0, 50], [35, 35], [50, 0], [35, -35], [0, -50], [-35, -35]]

CLOSURES = (
    Reference(
        "jump-rings",
        "twenty alike are a cycle told once: each closed, hard, none tied to another",
        work_of([wire("ring", 1.0, 16, count=20, closed=True)], [join("seam", "butt", "ring")]),
        "hard: seam",
        ("each of the 20",),
        (),
        ("parts-drift", "remelt-flows"),
    ),
    Reference(
        "fused-links",
        "links of fine silver are fused: no solder; each in turn",
        work_of([wire("link", 1.0, 20, FINE, count=10, closed=True)], [join("seam", "fuse", "link")]),
        "fuse: seam",
        ("each of the ten",),
        (),
        ("fuse-window", "melt-certain"),
    ),
    Reference(
        "chain",
        "half of the links closed first; the others through them, hard too: nothing ties them",
        work_of(
            [
                wire("first", 1.0, 20, count=6, closed=True, moves=True),
                wire("second", 1.0, 20, count=5, closed=True, moves=True),
            ],
            [
                join("first-seams", "butt", "first", holds="seated"),
                join(
                    "second-seams", "butt", "second", holds="hand", through=["first"], after=["first-seams"]
                ),
            ],
        ),
        "hard: first-seams / hard: second-seams",
        ("each of the six", "each of the five"),
        ("moving-part",),
        ("remelt-flows", "remelt-soft"),
    ),
    Reference(
        "hinge",
        "knuckles on both leaves, seated, in one round; the pin cold at the very end, steel never in the pot",
        work_of(
            [
                sheet("leaf", 20, 15, 1.0),
                sheet("lid", 20, 15, 1.0),
                tube("outer-knuckle", 3, 0.5, 5, count=2),
                tube("inner-knuckle", 3, 0.5, 5),
                wire("pin", 2.0, 16, "nickel-silver-c752"),
            ],
            [
                join("leaf-knuckles", "line", "outer-knuckle", "leaf", holds="seated"),
                join("lid-knuckle", "line", "inner-knuckle", "lid", holds="seated"),
                join("pinning", "rivet", "pin", "outer-knuckle"),
            ],
            [work("polishing", "finish", "leaf", "lid", stage=1200)],
        ),
        "hard: leaf-knuckles + hard: lid-knuckle",
        ("Finish leaf and lid", "Rivet pin and outer knuckle"),
        (),
        ("remelt-flows", "moving-part"),
    ),
    Reference(
        "brooch-findings",
        "hinge and catch share a heat on the back, medium for a wall of 0.4 mm; the pin stem is sprung, riveted cold and never heated",
        work_of(
            [
                sheet("plate", 34, 24, 1.0),
                tube("hinge", 2.5, 0.4, 5),
                strip("catch", 3, 0.8, 12, closed=False),
                wire("stem", 0.9, 36, "nickel-silver-c752", temper="spring", spring=True),
            ],
            [
                join(
                    "hinge-foot", "line", "hinge", "plate", face="back", holds="clipped", bound_with="steel"
                ),
                join("catch-foot", "edge", "catch", "plate", face="back", holds="own-weight"),
                join("pinning", "rivet", "stem", "hinge"),
            ],
        ),
        "medium: hinge-foot, catch-foot",
        ("clip it", "steel in the pot plates everything pink", "Rivet stem and hinge"),
        (),
        ("spring-softened", "steel-in-pickle"),
    ),
    Reference(
        "clasp-with-a-tongue",
        "the spring tongue is joined after the box and hardened",
        work_of(
            [
                strip("walls", 5, 0.8, 36),
                sheet("floor", 12, 8, 0.8),
                strip("tongue", 4, 0.6, 20, closed=False, temper="hard", spring=True),
            ],
            [
                join("walls-seam", "butt", "walls"),
                join("floor-line", "edge", "walls", "floor", after=["walls-seam"]),
                join("tongue-foot", "line", "tongue", "floor", holds="hand", after=["floor-line"]),
            ],
        ),
        "hard: walls-seam / medium: floor-line / easy: tongue-foot",
        ("Harden tongue",),
        (),
        ("spring-softened", "remelt-flows"),
    ),
    Reference(
        "bought-clasp-on-a-tag",
        "nobody told an order: the bought clasp on the back is heated last and least",
        work_of(
            [
                sheet("tag", 18, 10, 0.9),
                wire("eye", 1.0, 10, closed=True),
                lump("clasp", 1.2, 180, bought_in=True),
            ],
            [
                join("clasp-foot", "tee", "clasp", "tag", face="back", holds="hand"),
                join("eye-seam", "butt", "eye"),
                join("eye-foot", "tee", "eye", "tag", holds="seated", after=["eye-seam"]),
            ],
        ),
        "hard: eye-seam / medium: eye-foot / easy: clasp-foot",
        ("Fit clasp foot",),
        ("bought-in-last",),
        ("remelt-flows",),
    ),
)

WIRES = (
    Reference(
        "scroll-work",
        "picked joins run one after another under one flame, six to a heat; those far off stay firm: all hard",
        work_of(
            [wire("frame", 2.0, 314, closed=True), *(wire(f"scroll{n}", 1.2, 20) for n in range(8))],
            [
                join("frame-seam", "butt", "frame", at=[19, 46]),
                *(
                    join(
                        f"pick{n}",
                        "tee",
                        f"scroll{n}",
                        "frame",
                        placing="pick",
                        at=at,
                        holds="seated",
                        after=["frame-seam"],
                    )
                    for n, at in enumerate(_SPOTS)
                ),
            ],
        ),
        "hard: frame-seam / hard: 6 × pick / hard: 2 × pick",
        ("one place after another",),
        (),
        ("remelt-flows", "frame-loose"),
    ),
    Reference(
        "rope-cuff",
        "strands sealed at both ends, hard, since they are twisted and rolled through it",
        work_of(
            [wire("strand", 1.6, 170, count=2)],
            [
                join("near-end", "bundle", "strand", at=[0, 0], holds="bound", bound_with="steel"),
                join("far-end", "bundle", "strand", at=[170, 0], holds="bound", bound_with="steel"),
            ],
            [
                work("twisting", "twist", "strand", turns=14, after=["near-end", "far-end"]),
                work("flattening", "roll", "strand", reduction_pct=40, after=["twisting"]),
            ],
        ),
        "hard: near-end, far-end / anneal: strand",
        ("Lay hard solder", "Twist strand", "14 turns", "Anneal strand", "Roll strand"),
        ("form-through-join",),
        ("remelt-flows",),
    ),
    Reference(
        "forged-cuff",
        "forged in two goes with an anneal between them; no solder",
        work_of(
            [half_round("bar", 6, 3, 150, temper="soft")],
            [],
            [
                work("first-go", "forge", "bar", reduction_pct=40),
                work("second-go", "forge", "bar", reduction_pct=40, after=["first-go"]),
                work("bending", "bend", "bar", reduction_pct=10, after=["second-go"]),
            ],
        ),
        "anneal: bar",
        ("Forge", "Anneal bar", "Forge", "Bend"),
        (),
        ("needs-anneal", "anneal-by-heat"),
    ),
    Reference(
        "tube-cuff",
        "caps close a tube at both ends: vented through one before, dried, the second in the same heat or softer",
        work_of(
            [tube("cuff", 6, 0.6, 150), disc("near-cap", 6, 0.8), disc("far-cap", 6, 0.8)],
            [
                join(
                    "near",
                    "edge",
                    "cuff",
                    "near-cap",
                    holds="bound",
                    bound_with="steel",
                    encloses="cuff",
                    at=[0, 0],
                ),
                join(
                    "far",
                    "edge",
                    "cuff",
                    "far-cap",
                    holds="bound",
                    bound_with="steel",
                    encloses="cuff",
                    at=[150, 0],
                ),
            ],
        ),
        "hard: near, far",
        ("Drill a small hole", "steel in the pot"),
        (),
        ("sealed-hollow", "wet-hollow"),
    ),
    Reference(
        "clad-frame-on-a-plate",
        "gold-filled wire sees one heat, the last, and no hard solder",
        work_of(
            [
                sheet("plate", 24, 18, 0.9),
                wire("eye", 1.0, 10, closed=True),
                wire("rim", 1.0, 60, "gold-filled-14-20", closed=True),
            ],
            [
                join("eye-seam", "butt", "eye"),
                join("eye-foot", "tee", "eye", "plate", holds="seated", after=["eye-seam"]),
                join("rim-line", "line", "rim", "plate", holds="bound", bound_with="steel"),
            ],
        ),
        "hard: eye-seam / medium: eye-foot, rim-line",
        ("Fit eye foot and rim line",),
        (),
        ("gold-filled-heat", "remelt-flows"),
    ),
)

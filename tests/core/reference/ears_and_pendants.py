"""Earrings and pendants."""

from __future__ import annotations

from tests.core.reference.forms import (
    FINE,
    Reference,
    ball,
    disc,
    join,
    lump,
    sheet,
    strip,
    tube,
    wire,
    work,
    work_of,
)

EARS = (
    Reference(
        "post-stud",
        "cup before the post; the post last, and hardened after it: no word of its softness; both of the pair in turn",
        work_of(
            [
                strip("cup", 2.6, 0.3, 19, FINE),
                disc("plate", 8, 0.6),
                wire("post", 0.8, 11, temper="half-hard", spring=True, touches_skin="through"),
            ],
            [
                join("cup-seam", "butt", "cup"),
                join("foot", "edge", "cup", "plate", after=["cup-seam"]),
                join("post-foot", "tee", "post", "plate", face="back", holds="hand", after=["foot"]),
            ],
            [work("hardening", "harden", "post", after=["post-foot"])],
            copies=2,
        ),
        "hard: cup-seam / medium: foot / easy: post-foot",
        ("both", "Harden post"),
        (),
        ("spring-softened", "too-thin", "remelt-flows"),
    ),
    Reference(
        "post-without-hardening",
        "a springy post goes soft in its heat and nothing was told after it: hardening is put in, and nothing is warned of",
        work_of(
            [
                disc("plate", 9, 0.8),
                wire("post", 0.8, 11, temper="half-hard", spring=True, touches_skin="through"),
            ],
            [join("foot", "tee", "post", "plate", face="back", holds="hand")],
        ),
        "hard: foot",
        ("Harden post",),
        (),
        ("spring-softened",),
    ),
    Reference(
        "hollow-stud-vented",
        "a vent is drilled before the rim closes, and the hollow is dried before the post's heat",
        work_of(
            [
                disc("front", 12, 0.5, domed=3),
                disc("back", 12, 0.5),
                wire("post", 0.9, 11, touches_skin="through"),
            ],
            [
                join("rim", "edge", "front", "back", encloses="stud", visible=True),
                join("foot", "tee", "post", "back", face="back", holds="hand", after=["rim"]),
            ],
        ),
        "hard: rim / medium: foot",
        ("Drill a small hole", "Dry the stud out", "Fit foot"),
        (),
        ("sealed-hollow", "wet-hollow"),
    ),
    Reference(
        "hollow-stud-closed-dry",
        "closed dry: confirmed before any flame, air-cooled, no water and no pot until the last heat is over",
        work_of(
            [disc("front", 12, 0.6, domed=3), disc("back", 12, 0.6), wire("post", 0.9, 11)],
            [
                join("rim", "edge", "front", "back", encloses="stud"),
                join("foot", "tee", "post", "back", face="back", holds="hand", after=["rim"]),
            ],
            house={"hollow": "sealed-dry"},
        ),
        "hard: rim / medium: foot",
        ("Closed without a vent", "Let it cool in air", "Fit foot", "Let it cool in air"),
        ("sealed-hollow",),
        ("wet-hollow", "hot-into-acid"),
    ),
    Reference(
        "ear-hooks",
        "a ball drawn up on each wire, then bent and hardened: no solder, no flux, no chips",
        work_of(
            [wire("hook", 0.8, 45, count=2, touches_skin="through")],
            [],
            [
                work("balling", "ball", "hook", ball_mm=1.8),
                work("bending", "bend", "hook", after=["balling"]),
                work("hardening", "harden", "hook", after=["bending"]),
            ],
        ),
        "ball: balling",
        ("ball", "Bend", "Harden"),
        (),
        ("ball-falls", "spring-softened", "too-thin", "chips-jump"),
    ),
    Reference(
        "catch-drop",
        "the springy wire that is hook and catch comes last of all, in the softest step, and is hardened",
        work_of(
            [
                sheet("drop", 12, 28, 0.8),
                wire("eye", 1.0, 9, closed=True),
                wire("hook", 0.9, 60, temper="half-hard", spring=True, touches_skin="through"),
            ],
            [
                join("eye-seam", "butt", "eye"),
                join("eye-foot", "tee", "eye", "drop", holds="seated", after=["eye-seam"]),
                join("hook-foot", "tee", "hook", "drop", face="back", holds="hand", after=["eye-foot"]),
            ],
        ),
        "hard: eye-seam / medium: eye-foot / easy: hook-foot",
        ("Harden hook",),
        (),
        ("spring-softened",),
    ),
    Reference(
        "leaf-drop",
        "textured before it is domed and before anything is soldered to it; thin, so that hard is kept from it; beads in one heat",
        work_of(
            [sheet("leaf", 14, 30, 0.45), wire("stem", 1.0, 30), ball("bead", 2.0, count=3)],
            [
                join("stem-line", "line", "stem", "leaf"),
                join("beads", "tee", "bead", "leaf", holds="seated", after=["stem-line"]),
            ],
            [
                work("hammering", "texture", "leaf", before=["doming"]),
                work("doming", "dome", "leaf", reduction_pct=10),
            ],
        ),
        "medium: stem-line / easy: beads",
        ("Texture leaf", "Dome leaf", "Fit stem line"),
        (),
        ("form-before-seat", "remelt-flows"),
    ),
)

PENDANTS = (
    Reference(
        "ball-pendant",
        "a bought hollow ball goes last, softer than what it hangs by; its ring is closed hard before",
        work_of(
            [
                lump("globe", 3.0, 620, bought_in=True),
                wire("ring", 1.2, 18, closed=True),
                sheet("bail", 6, 14, 0.8),
            ],
            [
                join("ring-seam", "butt", "ring"),
                join("bail-foot", "tee", "ring", "bail", holds="seated", after=["ring-seam"]),
                join("ring-on-globe", "tee", "ring", "globe", holds="hand", after=["ring-seam", "bail-foot"]),
            ],
        ),
        "hard: ring-seam / medium: bail-foot / easy: ring-on-globe",
        ("Fit ring on globe",),
        ("bought-in-last",),
        ("remelt-flows", "remelt-soft"),
    ),
    Reference(
        "overlay-pendant",
        "overlay sweated first, hard, then the cup, then the bail behind",
        work_of(
            [
                sheet("plate", 30, 24, 0.9),
                sheet("overlay", 20, 14, 0.7),
                strip("cup", 3, 0.35, 30, FINE),
                strip("bail", 5, 0.8, 16, closed=False),
            ],
            [
                join("lay", "overlay", "overlay", "plate", placing="sweat", visible=True),
                join("cup-seam", "butt", "cup"),
                join("cup-foot", "edge", "cup", "plate", after=["cup-seam", "lay"]),
                join("bail-foot", "line", "bail", "plate", face="back", holds="hand", after=["cup-foot"]),
            ],
        ),
        "hard: lay + hard: cup-seam / medium: cup-foot / easy: bail-foot",
        ("melted onto one face first",),
        (),
        ("remelt-flows", "paste-weak"),
    ),
    Reference(
        "tube-hung",
        "two tubes behind a plate are one heat, on their side of it; hard would come too near to a wall of 0.4 mm",
        work_of(
            [sheet("plate", 32, 20, 0.9), tube("hanger", 3, 0.4, 8, count=2)],
            [join("hangers", "line", "hanger", "plate", face="back", holds="own-weight")],
        ),
        "medium: hangers",
        ("Look at hangers",),
        (),
        ("hangs-below", "sealed-tube"),
    ),
    Reference(
        "pinned-pair",
        "two plates on a balled wire: the ball in the flame, the rest cold; each plate finished before it is pinned",
        work_of(
            [
                sheet("front", 20, 16, 0.9),
                sheet("back", 20, 16, 0.9, "copper"),
                wire("pin", 1.2, 14),
            ],
            [join("front-pin", "rivet", "pin", "front"), join("back-pin", "rivet", "pin", "back")],
            [
                work("balling", "ball", "pin", ball_mm=2.2),
                work("drilling", "drill", "front", "back"),
                work("polishing", "finish", "front", "back", stage=1200),
            ],
        ),
        "ball: balling",
        ("Drill", "Finish front and back", "Rivet pin and front"),
        (),
        ("solder-shows", "steel-in-pickle"),
    ),
    Reference(
        "drop-of-two-domes",
        "bound with steel for the rim: the binding comes off before the pot; vented, dried, and the crown softer",
        work_of(
            [
                disc("upper", 22, 0.6, domed=6.5),
                disc("lower", 22, 0.6, domed=6.5),
                wire("crown", 1.2, 12, closed=True),
            ],
            [
                join(
                    "rim",
                    "butt",
                    "upper",
                    "lower",
                    holds="bound",
                    bound_with="steel",
                    encloses="drop",
                    visible=True,
                ),
                join("crown-seam", "butt", "crown"),
                join("crown-foot", "tee", "crown", "upper", after=["rim", "crown-seam"]),
            ],
            [work("doming", "dome", "upper", "lower", reduction_pct=20, before=["rim"])],
        ),
        "hard: rim + hard: crown-seam / easy: crown-foot",
        (
            "Dome upper and lower",
            "bind it with steel wire",
            "steel in the pot plates everything pink",
            "Dry the drop out",
        ),
        (),
        ("steel-in-pickle", "sealed-hollow", "wet-hollow"),
    ),
)

"""Badges and pressed studs: what is built up on a ground."""

from __future__ import annotations

import math
from types import MappingProxyType

from ..units import about
from ._base import Asks, Metal, Plain, Start, ask, must, sized
from ._studs import post_behind, post_work
from ._words import around, at, ball, disc, join, oval, part, piece, sheet, spots, wire, work


class PressedStudAsks(Asks):
    """Shot pressed flat, on a post."""

    shot_mm: float = ask("Shot", 5.0, 3, 6)
    pressed_mm: float = ask("Pressed to a thickness of", 1.4, 1.0, 2.5)
    gold: bool = ask("With a scrap of gold", True)
    lobe_mm: float = ask("Ear lobe", 5.5, 3, 10)
    copies: int = ask("How many", 2, 1, 40)


def pressed_stud(asked: PressedStudAsks) -> Plain:
    """Make a stud of one ball of fine silver, pressed flat, a scrap of gold fused on it first where one is wanted."""
    must(
        asked.pressed_mm <= 0.6 * asked.shot_mm,
        "pressed_mm",
        asked.pressed_mm,
        f"it is pressed to at most six tenths of the shot, {about(0.6 * asked.shot_mm)}",
        "Press it thinner, or take larger shot.",
    )
    shot = sized("ball", metal="fine-silver-999", ball_mm=asked.shot_mm, wire_mm=1.5)
    across = asked.shot_mm * math.sqrt(2 / 3 * asked.shot_mm / asked.pressed_mm)
    post, trim = post_behind(across, asked.lobe_mm, "sterling-925")
    gold = [part("Scrap", "gold-22k-yellow", disc(round(across * 0.4, 1), 0.2), place=at(z=asked.pressed_mm))]
    fused = [join("Gold", "fuse", "scrap", "shot", visible=True)]
    first = ["gold"] if asked.gold else []
    return piece(
        "Pressed stud",
        [
            part(
                "Shot",
                "fine-silver-999",
                disc(across, asked.pressed_mm),
                rough=wire(1.5, shot.wire_length_mm),
                place=at(),
            ),
            *(gold if asked.gold else []),
            post,
        ],
        [
            *(fused if asked.gold else []),
            join(
                "Foot",
                "tee",
                "post",
                "shot",
                face="back",
                holds="hand",
                grade="medium",
                after=first,
                structural=True,
            ),
        ],
        [
            work("melting", "melt", "shot", mass_g=round(shot.mass_g, 2), before=["pressing", *first]),
            work("pressing", "press", "shot", after=["melting", *first], before=["foot"]),
            *post_work(trim),
        ],
        copies=asked.copies,
    )


class LayeredBadgeAsks(Asks):
    """Plates of several metals, dots on them, a post behind."""

    across_mm: float = ask("Ground, across", 22.0, 16, 26)
    field_pct: float = ask("Field, in the ground's size", 70.0, 50, 85, quantity="percent")
    crest_pct: float = ask("Crest, in the field's size", 55.0, 35, 75, quantity="percent")
    dots: int = ask("Dots", 6, 0, 16)
    dot_mm: float = ask("Dot", 1.2, 1.0, 2.5)
    field_metal: Metal = ask("Metal of the field", "copper")
    crest_metal: Metal = ask("Metal of the crest", "brass-c260")


def layered_badge(asked: LayeredBadgeAsks) -> Plain:
    """Make a badge: field on ground, crest on field, dots round the crest, a post behind, each heat softer."""
    ground = asked.across_mm
    field, crest = ground * asked.field_pct / 100, ground * asked.field_pct * asked.crest_pct / 10_000
    dot, dotted = _dots(asked, field, crest)
    post = part(
        "Post",
        "sterling-925",
        wire(0.9, 9.0),
        temper="half-hard",
        spring=True,
        place=at(z=-9.0, upright=True),
    )
    return piece(
        "Layered badge",
        [
            part("Ground", "sterling-925", sheet(oval(ground, ground), 0.9), place=at()),
            part("Field", asked.field_metal, sheet(oval(field, field), 0.8), place=at(z=0.9)),
            part("Crest", asked.crest_metal, sheet(oval(crest, crest), 0.7), place=at(z=1.7)),
            *dot,
            post,
        ],
        [
            join("Field", "overlay", "field", "ground", placing="sweat", visible=True),
            join("Crest", "overlay", "crest", "field", placing="sweat", visible=True, after=["field"]),
            *dotted,
            join(
                "Foot",
                "tee",
                "post",
                "ground",
                face="back",
                holds="hand",
                after=["crest", *(["dots"] if asked.dots else [])],
                structural=True,
            ),
        ],
        [
            work("hardening", "harden", "post", after=["foot"]),
            work("sanding", "finish", "ground", stage=400),
        ],
    )


def _dots(asked: LayeredBadgeAsks, field: float, crest: float) -> tuple[list[Plain], list[Plain]]:
    """Give the dots round the crest and their joins; none where none are wanted."""
    if not asked.dots:
        return [], []
    circle = (field + crest) / 2
    must(
        (field - crest) / 2 >= asked.dot_mm + 0.6,
        "dot_mm",
        asked.dot_mm,
        f"a dot stands between crest and edge of the field, {about((field - crest) / 2)}",
        "Take smaller dots or a smaller crest.",
    )
    room = math.pi * circle / (asked.dot_mm + 0.6)
    must(
        asked.dots <= room,
        "dots",
        asked.dots,
        f"the dots stand in a ring of {about(circle)} with a gap between them: at most {int(room)}",
        "Take fewer or smaller dots.",
    )
    places = spots(*(around(asked.dots, circle / 2) if asked.dots > 1 else [(0.0, -circle / 2)]))
    dots = [part("Dot", "sterling-925", ball(asked.dot_mm), count=asked.dots, place=at(z=1.7))]
    joins = [
        join(
            "Dots",
            "tee",
            "dot",
            "field",
            holds="seated",
            placing="paste",
            visible=True,
            at=places if len(places) > 1 else places[0],
            after=["field"],
        )
    ]
    return dots, joins


STARTS = (
    Start(
        "pressed-stud",
        "Pressed stud",
        "Small things",
        "A ball of shot pressed flat, with or without a scrap of gold, on a post.",
        PressedStudAsks,
        pressed_stud,
        {"shot_mm": 5},
        ("earring", "stud", "shot", "gold", "fuse", "post"),
        MappingProxyType({"pressed_mm": lambda told: round(max(1.0, 0.28 * told.shot_mm), 1)}),
        MappingProxyType({"ball": {"ball_mm": "shot_mm"}, "post": {"lobe_mm": "lobe_mm"}}),
    ),
    Start(
        "layered-badge",
        "Layered badge",
        "Small things",
        "Plates of several metals, one upon another, with tiny dots and a post.",
        LayeredBadgeAsks,
        layered_badge,
        {"across_mm": 22, "dots": 6},
        ("badge", "pin", "mixed metals", "layers", "dots", "post"),
    ),
)

"""Earrings: studs on posts, drops on wires."""

from __future__ import annotations

import math
from types import MappingProxyType
from typing import Literal

from ..units import about
from ._base import Asks, Metal, Plain, Silver, Start, ask, must, sized
from ._words import at, bead, disc, hook_path, join, oval, part, piece, sheet, spots, wire, work

POST_MM = 0.85
HOOK_FRONT_MM, HOOK_FLARE_MM = 4.0, 3.0


def post_behind(across: float, lobe: float, metal: str) -> tuple[Plain, float]:
    """Give a post behind something `across`, cut long to hold it by, and what it is trimmed to, mm."""
    found = sized("post", ornament_mm=across, lobe_mm=lobe, nut_mm=2.5, post_mm=POST_MM, handling_mm=6)
    post = part(
        "Post",
        metal,
        wire(POST_MM, found.trim_to_mm),
        temper="half-hard",
        spring=True,
        touches_skin="through",
        rough=wire(POST_MM, found.cut_length_mm),
        place=at(z=-found.trim_to_mm, upright=True),
    )
    return post, found.trim_to_mm


def post_work(trim_to: float) -> list[Plain]:
    return [
        work("trimming", "trim", "post", after=["foot"], to_mm=round(trim_to, 2)),
        work("hardening", "harden", "post", after=["foot"]),
    ]


class PostStudAsks(Asks):
    """A disc on a post."""

    across_mm: float = ask("Disc, across", 10.0, 5, 20)
    thickness_mm: float = ask("Thickness", 0.8, 0.6, 1.5)
    rise_mm: float = ask("Domed by (0: flat)", 0.0, 0, 5)
    lobe_mm: float = ask("Ear lobe", 5.5, 3, 10)
    copies: int = ask("How many", 2, 1, 40)
    metal: Silver = ask("Metal", "sterling-925")


def post_stud(asked: PostStudAsks) -> Plain:
    """Make a disc, flat or domed, with a post behind: the post comes last and is hardened."""
    across = asked.across_mm
    must(
        asked.rise_mm <= 0.3 * across,
        "rise_mm",
        asked.rise_mm,
        f"a stud is domed by at most three tenths of its disc, {about(0.3 * across)}",
        "Make it flatter.",
    )
    post, trim = post_behind(across, asked.lobe_mm, asked.metal)
    domed = asked.rise_mm > 0
    doming = [work("doming", "dome", "disc", before=["foot"])] if domed else []
    return piece(
        "Stud",
        [part("Disc", asked.metal, disc(across, asked.thickness_mm, asked.rise_mm), place=at()), post],
        [
            join(
                "Foot",
                "tee",
                "post",
                "disc",
                face="back",
                holds="hand",
                brought_in=True,
                grade="medium",
                structural=True,
            )
        ],
        [*doming, *post_work(trim), work("sanding", "finish", "disc", stage=400)],
        copies=asked.copies,
    )


class HollowStudAsks(Asks):
    """A hollow stud."""

    across_mm: float = ask("Discs, across", 12.0, 8, 20)
    thickness_mm: float = ask("Thickness", 0.5, 0.4, 0.8)
    rise_mm: float = ask("Domed by", 3.0, 1, 6)
    back: Literal["flat", "domed"] = ask("Back", "flat")
    closing: Literal["vented", "closed dry"] = ask("Closing", "vented")
    copies: int = ask("How many", 2, 1, 40)
    metal: Silver = ask("Metal", "sterling-925")


def hollow_stud(asked: HollowStudAsks) -> Plain:
    """Make a dome on a flat or domed back, vented through the back or closed dry; the post last."""
    across, rise = asked.across_mm, asked.rise_mm
    must(
        rise <= 0.35 * across,
        "rise_mm",
        rise,
        f"a disc sunk to a half ball rises by 0.35 of its width, {about(0.35 * across)}",
        "Make it flatter.",
    )
    vented, domed = asked.closing == "vented", asked.back == "domed"
    wide = sized("dome", disc_mm=across, thickness_mm=asked.thickness_mm, depth_mm=rise, metal=asked.metal)
    rim = across if domed else wide.across_high_mm
    back = disc(across, asked.thickness_mm, rise) if domed else disc(rim, asked.thickness_mm)
    high = asked.thickness_mm + (rise if domed else 0.0)
    post, trim = post_behind(rim, 5.5, asked.metal)
    bulges = ["front", *(["back"] if domed else [])]
    hollow = {"encloses": "stud", "visible": True}
    rim_join = (
        join("Rim", "butt", "front", "back", holds="bound", bound_with="steel", **hollow)
        if domed
        else join("Rim", "edge", "front", "back", **hollow)
    )
    return piece(
        "Hollow stud",
        [
            part("Front", asked.metal, disc(across, asked.thickness_mm, rise), place=at(z=high)),
            part("Back", asked.metal, back, place=at()),
            post,
        ],
        [
            rim_join,
            join(
                "Foot",
                "tee",
                "post",
                "back",
                face="back",
                holds="hand",
                after=["rim"],
                brought_in=True,
                structural=True,
            ),
        ],
        [
            work("doming", "dome", *bulges, before=["rim"]),
            *([work("vent", "drill", "back", vents=["stud"], before=["rim"])] if vented else []),
            *post_work(trim),
            work("sanding", "finish", "front", stage=400),
        ],
        copies=asked.copies,
        house={"hollow": "vent" if vented else "sealed-dry"},
    )


class CatchDropAsks(Asks):
    """A drop whose one wire is hook and catch."""

    wide_mm: float = ask("Drop, wide", 12.0, 6, 25)
    long_mm: float = ask("Drop, long", 26.0, 12, 45)
    thickness_mm: float = ask("Thickness", 0.8, 0.6, 1.2)
    wire_mm: float = ask("Wire", 0.9, 0.8, 1.1)
    front_mm: float = ask("Straight up in front", 4.0, 1, 12)
    copies: int = ask("How many", 2, 1, 40)
    metal: Silver = ask("Metal", "sterling-925")


CATCH_DOWEL_MM, TAIL_MM = 6.0, 6.0


def catch_drop(asked: CatchDropAsks) -> Plain:
    """Make a plate with a wire along its back that goes up, over through the ear, and down into a catch bent of itself."""
    long = asked.long_mm
    must(
        long >= TAIL_MM + 4,
        "long_mm",
        long,
        f"the wire lies {about(TAIL_MM)} along the back, with 4 mm to spare",
        "Make the drop longer.",
    )
    found = sized(
        "ear-wire",
        wire_mm=asked.wire_mm,
        dowel_mm=CATCH_DOWEL_MM,
        ornament_mm=long,
        front_mm=asked.front_mm,
        drop_mm=min(0.7 * long, 20.0),
        tail_mm=TAIL_MM,
        catch_mm=min(0.5 * long, 12.0),
    )
    marks = [round(one, 1) for one in found.bend_marks_mm if 0 < one < found.cut_length_mm]
    return piece(
        "Drop with a catch",
        [
            part("Drop", asked.metal, sheet(oval(asked.wide_mm, long), asked.thickness_mm), place=at()),
            part(
                "Wire",
                asked.metal,
                wire(asked.wire_mm, found.cut_length_mm),
                temper="half-hard",
                spring=True,
                touches_skin="through",
                place=at(y=-(long / 2 + found.cut_length_mm / 2 - TAIL_MM), z=-asked.wire_mm, turn=90),
            ),
        ],
        [
            join(
                "Wire on the back",
                "line",
                "wire",
                "drop",
                face="back",
                holds="weighted",
                grade="easy",
                seam_mm=2 * TAIL_MM,
                contact_mm2=round(TAIL_MM * asked.wire_mm / 3, 2),
                at=[0.0, round(-long / 2 + TAIL_MM / 2, 3)],
                structural=True,
            )
        ],
        [
            work(
                "bending", "bend", "wire", after=["wire-on-the-back"], dowel_mm=CATCH_DOWEL_MM, marks_mm=marks
            ),
            work("hardening", "harden", "wire", after=["bending"]),
            work("sanding", "finish", "drop", stage=400),
        ],
        copies=asked.copies,
    )


class EarHooksAsks(Asks):
    """Plain hooks with a ball at the end."""

    wire_mm: float = ask("Wire", 0.8, 0.7, 1.0)
    ball_mm: float = ask("Ball", 1.8, 1.2, 2.4)
    dowel_mm: float = ask("Dowel of the bend", 6.0, 4, 12)
    ornament_mm: float = ask("Ornament below the first bend", 20.0, 5, 60)
    count: int = ask("How many", 2, 1, 100)
    metal: Silver = ask("Metal", "sterling-925")


def ear_hooks(asked: EarHooksAsks) -> Plain:
    """Make hooks: a ball drawn up on each wire, bent over a dowel, hardened; no solder."""
    must(
        asked.ball_mm >= 1.4 * asked.wire_mm,
        "ball_mm",
        asked.ball_mm,
        f"a ball stops the ornament only when it is clearly thicker than the wire, {about(1.4 * asked.wire_mm)}",
        "Make the ball larger or the wire thinner.",
    )
    drop = min(max(0.8 * asked.ornament_mm, 12.0), 22.0)
    hook = sized(
        "ear-wire",
        wire_mm=asked.wire_mm,
        dowel_mm=asked.dowel_mm,
        ornament_mm=asked.ornament_mm,
        front_mm=HOOK_FRONT_MM,
        drop_mm=drop,
        flare_mm=HOOK_FLARE_MM,
    )
    balled = sized(
        "balled-end",
        metal=asked.metal,
        wire_mm=asked.wire_mm,
        ball_mm=asked.ball_mm,
        finished_length_mm=hook.cut_length_mm,
    )
    must(
        asked.ball_mm <= balled.drop_limit_mm,
        "ball_mm",
        asked.ball_mm,
        f"a heavier ball lets go of its wire: at most {about(balled.drop_limit_mm)}",
        "Make the ball smaller or the wire thicker.",
    )
    marks = [round(one, 1) for one in hook.bend_marks_mm if 0 < one < balled.cut_length_mm]
    return piece(
        "Ear hooks",
        [
            part(
                "Hook",
                asked.metal,
                wire(
                    asked.wire_mm,
                    balled.cut_length_mm,
                    path=hook_path(HOOK_FRONT_MM, asked.dowel_mm, asked.wire_mm, drop, HOOK_FLARE_MM),
                ),
                count=asked.count,
                touches_skin="through",
                place=at(),
            )
        ],
        [],
        [
            work("balling", "ball", "hook", ball_mm=asked.ball_mm),
            work("bending", "bend", "hook", after=["balling"], dowel_mm=asked.dowel_mm, marks_mm=marks),
            work("hardening", "harden", "hook", after=["bending"]),
        ],
    )


class LeafDropAsks(Asks):
    """A thin hammered leaf with wired beads."""

    wide_mm: float = ask("Leaf, wide", 14.0, 8, 30)
    long_mm: float = ask("Leaf, long", 32.0, 15, 60)
    thickness_mm: float = ask("Thickness", 0.4, 0.3, 0.6)
    beads: int = ask("Beads", 3, 1, 9)
    bead_mm: float = ask("Bead", 4.0, 2, 8)
    wire_mm: float = ask("Wire of the beads", 0.6, 0.5, 0.8)
    metal: Metal = ask("Metal", "sterling-925")


def leaf_drop(asked: LeafDropAsks) -> Plain:
    """Make a leaf, hammered and curved, with beads on balled wires that are wrapped through its edge; a hook of the same kind."""
    room = math.pi * asked.long_mm / 2
    must(
        asked.beads * (asked.bead_mm + 1) <= room,
        "beads",
        asked.beads,
        f"the beads hang side by side along the lower edge, {about(room)}",
        "Take fewer or smaller beads.",
    )
    loop = sized("wrapped-loop", wire_mm=asked.wire_mm, loop_mm=2.0, wraps=2.5, tail_mm=8)
    ball = round(2 * asked.wire_mm, 2)
    pin_long = loop.cut_length_mm + asked.bead_mm + 1
    silver = (
        asked.metal
        if asked.metal not in ("copper", "brass-c260", "brass-c230", "bronze-c220")
        else "sterling-925"
    )
    pin = sized("balled-end", metal=silver, wire_mm=asked.wire_mm, ball_mm=ball, finished_length_mm=pin_long)
    drop = min(0.5 * asked.long_mm, 20.0)
    hook = sized(
        "ear-wire",
        wire_mm=0.8,
        dowel_mm=6,
        ornament_mm=asked.long_mm,
        front_mm=3,
        drop_mm=drop,
        flare_mm=HOOK_FLARE_MM,
    )
    marks = [round(one, 1) for one in hook.bend_marks_mm if 0 < one < hook.cut_length_mm]
    below = asked.long_mm / 2
    row = [(n - (asked.beads - 1) / 2) * (asked.bead_mm + 2) for n in range(asked.beads)]
    return piece(
        "Leaf drop",
        [
            part(
                "Leaf", asked.metal, sheet(oval(asked.wide_mm, asked.long_mm), asked.thickness_mm), place=at()
            ),
            part(
                "Bead pin",
                silver,
                wire(asked.wire_mm, pin.cut_length_mm),
                count=asked.beads,
                place=at(y=below + 8, turn=90),
            ),
            bead(
                "Bead",
                asked.bead_mm,
                count=asked.beads,
                place=at(x=row[0], y=below + pin.cut_length_mm / 2),
            ),
            part(
                "Hook",
                silver,
                wire(0.8, hook.cut_length_mm, path=hook_path(3, 6, 0.8, drop, HOOK_FLARE_MM)),
                touches_skin="through",
                place=at(y=-below - drop / 2 - 4),
            ),
        ],
        [
            join("Beads on the leaf", "wrap", "bead-pin", "leaf", at=spots(*((x, below + 6) for x in row))),
            join("Beads on their pins", "wrap", "bead", "bead-pin"),
            join("Leaf on the hook", "ring-open", "hook", "leaf"),
        ],
        [
            work("hammering", "texture", "leaf", before=["curving"]),
            work("curving", "bend", "leaf", after=["hammering"]),
            work("holes", "drill", "leaf", after=["hammering"]),
            work("balling", "ball", "bead-pin", ball_mm=ball),
            work("bending", "bend", "hook", dowel_mm=6, marks_mm=marks),
            work("hardening", "harden", "hook", after=["bending"]),
            work("sanding", "finish", "leaf", stage=400),
        ],
        copies=2,
    )


STARTS = (
    Start(
        "post-stud",
        "Stud on a post",
        "Earrings",
        "A disc, flat or domed, with a post behind it.",
        PostStudAsks,
        post_stud,
        {"across_mm": 11, "thickness_mm": 0.75},
        ("earring", "post", "stud", "disc", "pair"),
        MappingProxyType({"thickness_mm": lambda told: 0.8 if told.across_mm < 15 else 0.9}),
        MappingProxyType({"post": {"ornament_mm": "across_mm", "lobe_mm": "lobe_mm"}}),
    ),
    Start(
        "hollow-stud",
        "Hollow stud",
        "Earrings",
        "A dome on a flat or domed back, vented or closed dry, on a post.",
        HollowStudAsks,
        hollow_stud,
        {"across_mm": 14, "rise_mm": 3.5},
        ("earring", "hollow", "dome", "post", "stud", "pair"),
        MappingProxyType({"rise_mm": lambda told: round(told.across_mm / 4, 1)}),
        MappingProxyType(
            {
                "dome": {"disc_mm": "across_mm", "thickness_mm": "thickness_mm", "depth_mm": "rise_mm"},
                "post": {},
            }
        ),
    ),
    Start(
        "catch-drop",
        "Drop with a catch",
        "Earrings",
        "One wire along the back is hook and catch in one.",
        CatchDropAsks,
        catch_drop,
        {"wide_mm": 12, "long_mm": 28},
        ("earring", "hook", "catch", "drop", "pair"),
        MappingProxyType({"long_mm": lambda told: max(12.0, 2.2 * told.wide_mm)}),
        MappingProxyType(
            {"ear-wire": {"wire_mm": "wire_mm", "ornament_mm": "long_mm", "front_mm": "front_mm"}}
        ),
    ),
    Start(
        "ear-hooks",
        "Ear hooks",
        "Earrings",
        "Hooks with a ball at the end: drawn up, bent, hardened.",
        EarHooksAsks,
        ear_hooks,
        {"ornament_mm": 22, "count": 4},
        ("earring", "hook", "wire", "ball", "finding"),
        MappingProxyType({"ball_mm": lambda told: round(2.2 * told.wire_mm, 1)}),
        MappingProxyType(
            {
                "ear-wire": {"wire_mm": "wire_mm", "dowel_mm": "dowel_mm", "ornament_mm": "ornament_mm"},
                "balled-end": {"wire_mm": "wire_mm", "ball_mm": "ball_mm", "metal": "metal"},
            }
        ),
    ),
    Start(
        "leaf-drop",
        "Hammered leaf with beads",
        "Earrings",
        "A thin hammered sheet; beads on balled wires wrapped through its edge.",
        LeafDropAsks,
        leaf_drop,
        {"long_mm": 34, "beads": 3},
        ("earring", "leaf", "bead", "hammered", "texture", "pair"),
        MappingProxyType({"wide_mm": lambda told: round(0.45 * told.long_mm, 1)}),
        MappingProxyType(
            {"wrapped-loop": {"wire_mm": "wire_mm"}, "balled-end": {"wire_mm": "wire_mm"}, "ear-wire": {}}
        ),
    ),
)

"""Earrings on a wire: a drop with its catch, hooks, a leaf with beads."""

from __future__ import annotations

import math
from types import MappingProxyType

from ..units import about
from ._base import Asks, Metal, Plain, Silver, Start, ask, must, sized
from ._words import at, bead, hook_path, join, oval, part, piece, sheet, spots, wire, work

HOOK_FRONT_MM, HOOK_FLARE_MM = 4.0, 3.0


CATCH_DOWEL_MM, TAIL_MM = 6.0, 6.0


class CatchDropAsks(Asks):
    """A drop whose one wire is hook and catch."""

    wide_mm: float = ask("Drop, wide", 12.0, 6, 25)
    long_mm: float = ask("Drop, long", 26.0, 12, 45)
    thickness_mm: float = ask("Thickness", 0.8, 0.6, 1.2)
    wire_mm: float = ask("Wire", 0.9, 0.8, 1.1)
    front_mm: float = ask("Straight up in front", 4.0, 1, 12)
    copies: int = ask("How many", 2, 1, 40)
    metal: Silver = ask("Metal", "sterling-925")


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
    hook, bending = _leaf_hook(asked.long_mm, silver)
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
            hook,
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
            bending,
            work("hardening", "harden", "hook", after=["bending"]),
            work("sanding", "finish", "leaf", stage=400),
        ],
        copies=2,
    )


def _leaf_hook(long: float, metal: str) -> tuple[Plain, Plain]:
    """Give the hook of a leaf so long, and its bending."""
    drop = min(0.5 * long, 20.0)
    found = sized(
        "ear-wire",
        wire_mm=0.8,
        dowel_mm=6,
        ornament_mm=long,
        front_mm=3,
        drop_mm=drop,
        flare_mm=HOOK_FLARE_MM,
    )
    marks = [round(one, 1) for one in found.bend_marks_mm if 0 < one < found.cut_length_mm]
    form = wire(0.8, found.cut_length_mm, path=hook_path(3, 6, 0.8, drop, HOOK_FLARE_MM))
    place = at(y=-long / 2 - drop / 2 - 4)
    hook = part("Hook", metal, form, touches_skin="through", place=place)
    return hook, work("bending", "bend", "hook", dowel_mm=6, marks_mm=marks)


STARTS = (
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

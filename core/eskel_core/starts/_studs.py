"""Earrings on a post: a disc, a hollow."""

from __future__ import annotations

from types import MappingProxyType
from typing import Literal

from ..units import about
from ._base import Asks, Plain, Silver, Start, ask, must, sized
from ._words import at, disc, join, part, piece, wire, work

POST_MM = 0.85


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
)

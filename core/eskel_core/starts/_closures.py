"""Closures and chain: rings, links, a toggle."""

from __future__ import annotations

import math
from types import MappingProxyType
from typing import Literal

from ..units import about
from ._base import Asks, Metal, Plain, Silver, Start, ask, must, must_fuse, sized
from ._words import at, join, oval_path, part, piece, wire, work


class JumpRingsAsks(Asks):
    """Rings wound and sawn apart."""

    inner_mm: float = ask("Inner diameter", 5.0, 2.5, 20)
    wire_mm: float = ask("Wire", 1.0, 0.6, 2.0)
    count: int = ask("How many", 20, 1, 200)
    closing: Literal["soldered", "fused", "left open"] = ask("Closing", "soldered")
    metal: Metal = ask("Metal", "sterling-925")


def jump_rings(asked: JumpRingsAsks) -> Plain:
    """Make rings: wound, sawn, and each closed by solder, by fusing, or left to be opened and closed by hand."""
    must(
        asked.inner_mm >= 2 * asked.wire_mm,
        "inner_mm",
        asked.inner_mm,
        f"a ring is at least two wires wide inside, {about(2 * asked.wire_mm)}",
        "Make it larger or the wire thinner.",
    )
    must_fuse(asked.closing, asked.metal, "Choose fine silver, or solder them.")
    found = sized("jump-rings", inner_diameter_mm=asked.inner_mm, wire_mm=asked.wire_mm, count=asked.count)
    rings = part(
        "Ring",
        asked.metal,
        wire(asked.wire_mm, found.length_each_mm, closed=True),
        count=asked.count,
        place=at(),
    )
    winding = work("winding", "bend", "ring", dowel_mm=asked.inner_mm)
    kinds = {"soldered": "butt", "fused": "fuse", "left open": "ring-open"}
    seam = join(
        "Seam", kinds[asked.closing], "ring", holds="seated" if asked.closing != "left open" else "own-weight"
    )
    return piece("Jump rings", [rings], [seam], [winding | {"before": ["seam"]}])


class ChainAsks(Asks):
    """A chain of round or oval links."""

    link: Literal["round", "oval"] = ask("Link", "round")
    inner_mm: float = ask("Link, inside (its longer way)", 6.0, 3, 20)
    wire_mm: float = ask("Wire", 1.0, 0.7, 2.0)
    length_mm: float = ask("Length of the chain", 180.0, 20, 900)
    closing: Literal["soldered", "fused"] = ask("Closing", "soldered")
    metal: Silver = ask("Metal", "sterling-925")


MOST_LINKS = 200


def chain(asked: ChainAsks) -> Plain:
    """Make a chain: every second link closed first, the others through them."""
    inner, thin = asked.inner_mm, asked.wire_mm
    must(
        inner >= 3 * thin,
        "inner_mm",
        inner,
        f"a link is at least three wires long inside, {about(3 * thin)}",
        "Make it longer or the wire thinner.",
    )
    must_fuse(asked.closing, asked.metal, "Choose fine silver, or solder it.")
    narrow = max(0.6 * inner, 2.5 * thin)
    link = (
        {"kind": "round", "inner_diameter_mm": inner}
        if asked.link == "round"
        else {"kind": "oval", "inner_length_mm": inner, "inner_width_mm": narrow}
    )
    found = sized("chain", link=link, wire_mm=thin, length_mm=asked.length_mm, metal=asked.metal)
    must(
        2 <= found.links <= MOST_LINKS,
        "length_mm",
        asked.length_mm,
        f"two to {MOST_LINKS} links are told, these are {found.links:g}",
        "Make the links larger, or the chain in lengths.",
    )
    first, second = math.ceil(found.links / 2), found.links // 2
    path = oval_path(inner + thin, narrow + thin) if asked.link == "oval" else None
    form = wire(thin, found.blank_mm, closed=True, path=path)
    kind = "fuse" if asked.closing == "fused" else "butt"
    return piece(
        "Chain",
        [
            part("First link", asked.metal, form, count=first, moves=True, place=at()),
            part("Second link", asked.metal, form, count=second, moves=True, place=at(x=inner)),
        ],
        [
            join("First seams", kind, "first-link", holds="seated"),
            join(
                "Second seams",
                kind,
                "second-link",
                holds="seated",
                through=["first-link"],
                after=["first-seams"],
            ),
        ],
        [
            work(
                "winding",
                "bend",
                "first-link",
                "second-link",
                before=["first-seams", "second-seams"],
                dowel_mm=narrow if path else inner,
            )
        ],
    )


class ToggleAsks(Asks):
    """A ring and the bar that goes through it."""

    ring_mm: float = ask("Ring, inside", 13.0, 8, 24)
    wire_mm: float = ask("Wire of ring and bar", 2.0, 1.2, 3.0)
    bar_mm: float = ask("Bar, long", 22.0, 12, 45)
    eye_wire_mm: float = ask("Wire of the eyes", 1.2, 0.8, 1.8)
    metal: Silver = ask("Metal", "sterling-925")


def toggle(asked: ToggleAsks) -> Plain:
    """Make a toggle: a ring with an eye, a bar with an eye; the bar only just goes through the ring on edge."""
    inside, thick = asked.ring_mm, asked.wire_mm
    least = 1.35 * inside
    must(
        asked.bar_mm >= least,
        "bar_mm",
        asked.bar_mm,
        f"the bar does not slip out again: at least {about(least)}",
        "Make the bar longer or the ring smaller.",
    )
    ring = sized("jump-rings", inner_diameter_mm=inside, wire_mm=thick)
    bore = max(2.5, 2.5 * asked.eye_wire_mm)
    room = inside - thick - asked.eye_wire_mm
    must(
        bore / 2 + asked.eye_wire_mm + thick < room,
        "ring_mm",
        inside,
        "the bar goes through the ring with its eye on it",
        "Make the ring larger or the wires thinner.",
    )
    eye = sized("jump-rings", inner_diameter_mm=bore, wire_mm=asked.eye_wire_mm)
    form = wire(asked.eye_wire_mm, eye.length_each_mm, closed=True)
    out, up = (inside + thick) / 2, (bore + asked.eye_wire_mm) / 2
    beside = inside / 2 + thick + asked.bar_mm / 2 + 8
    return piece(
        "Toggle",
        [
            part("Ring", asked.metal, wire(thick, ring.length_each_mm, closed=True), place=at()),
            part("Ring eye", asked.metal, form, place=at(y=-out - thick / 2 - up)),
            part("Bar", asked.metal, wire(thick, asked.bar_mm), place=at(x=beside)),
            part("Bar eye", asked.metal, form, place=at(x=beside, y=-thick / 2 - up)),
        ],
        [
            join("Ring seam", "butt", "ring", holds="seated", at=[0.0, round(out, 3)], structural=True),
            join("Ring eye seam", "butt", "ring-eye", holds="seated"),
            join("Bar eye seam", "butt", "bar-eye", holds="seated"),
            _eye_on("ring", [0.0, round(-out, 3)], ["ring-seam", "ring-eye-seam"]),
            _eye_on("bar", [round(beside, 3), 0.0], ["bar-eye-seam"]),
        ],
        [
            work(
                "winding",
                "bend",
                "ring",
                "ring-eye",
                "bar-eye",
                before=["ring-seam", "ring-eye-seam", "bar-eye-seam"],
            ),
            work("sanding", "finish", "ring", "bar", stage=400),
        ],
    )


def _eye_on(what: str, spot: list[float], after: list[str]) -> Plain:
    """Give the join of an eye to the edge of the ring or the bar."""
    return join(
        f"Eye on the {what}",
        "tee",
        f"{what}-eye",
        what,
        face="edge",
        holds="seated",
        at=spot,
        after=after,
        structural=True,
    )


STARTS = (
    Start(
        "jump-rings",
        "Jump rings",
        "Closures and chain",
        "Rings wound and sawn apart: soldered, fused or left open.",
        JumpRingsAsks,
        jump_rings,
        {"inner_mm": 5, "wire_mm": 1, "count": 20},
        ("ring", "link", "loop", "finding"),
        MappingProxyType({"inner_mm": lambda told: 5 * told.wire_mm}),
        MappingProxyType(
            {"jump-rings": {"inner_diameter_mm": "inner_mm", "wire_mm": "wire_mm", "count": "count"}}
        ),
    ),
    Start(
        "chain",
        "Chain",
        "Closures and chain",
        "Round or oval links, every second one closed first.",
        ChainAsks,
        chain,
        {"inner_mm": 6, "wire_mm": 1, "length_mm": 180},
        ("chain", "link", "bracelet", "necklace"),
        MappingProxyType({"wire_mm": lambda told: round(max(0.7, told.inner_mm / 6), 1)}),
        MappingProxyType({"chain": {"wire_mm": "wire_mm", "length_mm": "length_mm", "metal": "metal"}}),
    ),
    Start(
        "toggle",
        "Toggle",
        "Closures and chain",
        "A ring and a bar that goes through it on edge, each with its eye.",
        ToggleAsks,
        toggle,
        {"ring_mm": 14, "wire_mm": 2},
        ("clasp", "closure", "bar", "ring"),
        MappingProxyType(
            {
                "bar_mm": lambda told: round(1.6 * told.ring_mm, 1),
                "eye_wire_mm": lambda told: round(0.6 * told.wire_mm, 1),
            }
        ),
        MappingProxyType({"jump-rings": {"inner_diameter_mm": "ring_mm", "wire_mm": "wire_mm"}}),
    ),
)

"""Wire work: scrolls in a frame."""

from __future__ import annotations

import math
from types import MappingProxyType

from ..piece import House
from ..units import about
from ._base import Asks, Plain, Start, Steady, ask, must, sized
from ._words import around, at, join, part, piece, spots, wire, work


class ScrollWorkAsks(Asks):
    """Scrolls in a frame."""

    frame_mm: float = ask("Frame, across", 40.0, 20, 56)
    frame_wire_mm: float = ask("Wire of the frame", 1.3, 1.0, 2.2)
    scroll_wire_mm: float = ask("Wire of the scrolls", 0.6, 0.5, 0.8)
    scroll_mm: float = ask("Scroll, across", 8.0, 4, 10)
    scrolls: int = ask("Scrolls", 6, 2, 8)
    metal: Steady = ask("Metal", "sterling-925")


def scroll_work(asked: ScrollWorkAsks) -> Plain:
    """Make a round frame with scrolls inside it, each picked to the frame one place after another."""
    across, thick, thin = asked.frame_mm, asked.frame_wire_mm, asked.scroll_wire_mm
    must(
        asked.scroll_mm <= across / 2 - thick,
        "scroll_mm",
        asked.scroll_mm,
        f"a scroll lies within the frame: at most {about(across / 2 - thick)}",
        "Make the scrolls smaller or the frame larger.",
    )
    circle = across - 2 * thick - asked.scroll_mm
    room = math.pi / math.asin(min(1.0, asked.scroll_mm / circle)) if circle > asked.scroll_mm else 2
    must(
        asked.scrolls <= room,
        "scrolls",
        asked.scrolls,
        f"the scrolls lie side by side in the frame: at most {int(room)}",
        "Take fewer or smaller scrolls.",
    )
    frame = sized("jump-rings", inner_diameter_mm=across - 2 * thick, wire_mm=thick)
    scroll = sized("scroll", outer_mm=asked.scroll_mm, inner_mm=2 * thin, pitch_mm=2.4 * thin)
    middles = around(asked.scrolls, circle / 2)
    touching = spots(*around(asked.scrolls, (across - thick) / 2))
    names = [f"Scroll {n + 1}" for n in range(asked.scrolls)]
    pieces = [
        part(
            name,
            asked.metal,
            wire(thin, scroll.length_mm, path=_spiral(asked.scroll_mm, thin)),
            place=at(x, y),
        )
        for name, (x, y) in zip(names, middles, strict=True)
    ]
    picks = [
        join(
            f"Pick {n + 1}",
            "tee",
            pieces[n]["id"],
            "frame",
            placing="pick",
            grade="easy",
            holds="seated",
            at=spot,
            after=["frame-seam"],
        )
        for n, spot in enumerate(touching)
    ]
    away = [round(one, 3) for one in around(1, (across - thick) / 2, 90 + 180 / asked.scrolls)[0]]
    return piece(
        "Scroll work",
        [part("Frame", asked.metal, wire(thick, frame.length_each_mm, closed=True), place=at()), *pieces],
        [join("Frame seam", "butt", "frame", holds="seated", at=away), *picks],
        [
            work("rounding", "bend", "frame", before=["frame-seam"]),
            work("curling", "bend", *(one["id"] for one in pieces), before=[one["id"] for one in picks]),
        ],
        # All of them in one heat: a last one or two would be picked beside those that are done.
        house={"picks_per_heat": asked.scrolls} if asked.scrolls > House().picks_per_heat else None,
    )


def _spiral(outer: float, thin: float) -> list[list[float]]:
    """Give the line of a flat spiral about its middle, from within to without."""
    inner = thin
    turns = (outer - 2 * inner) / 2 / (2.4 * thin)
    steps = max(24, int(24 * turns))
    told = []
    for n in range(steps + 1):
        angle, radius = 2 * math.pi * turns * n / steps, inner + (outer / 2 - inner - thin / 2) * n / steps
        told.append([round(radius * math.cos(angle), 3), round(radius * math.sin(angle), 3)])
    return told


STARTS = (
    Start(
        "scroll-work",
        "Scrolls in a frame",
        "Wire and cuffs",
        "A round frame and scrolls inside it, joined by pick.",
        ScrollWorkAsks,
        scroll_work,
        {"frame_mm": 40, "scrolls": 6},
        ("wire", "scroll", "filigree", "frame", "pick"),
        MappingProxyType({"scroll_mm": lambda told: round(told.frame_mm / 5, 1)}),
        MappingProxyType({"scroll": {"outer_mm": "scroll_mm"}, "jump-rings": {"wire_mm": "frame_wire_mm"}}),
    ),
)

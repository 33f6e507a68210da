"""Pendants of plates: hung by hidden tubes, two on a pin."""

from __future__ import annotations

from types import MappingProxyType

from ..units import about
from ._base import Asks, Metal, Plain, Silver, Start, ask, must, sized
from ._words import (
    at,
    join,
    part,
    piece,
    rect,
    spots,
    tube,
    wire,
    work,
)


class TubeHungAsks(Asks):
    """A plate that hangs by hidden tubes."""

    wide_mm: float = ask("Plate, wide", 30.0, 14, 45)
    high_mm: float = ask("Plate, high", 18.0, 10, 40)
    thickness_mm: float = ask("Thickness", 0.9, 0.7, 1.4)
    tube_mm: float = ask("Tube, outside", 3.0, 2, 4.5)
    tube_long_mm: float = ask("Tube, long", 6.0, 3, 16)
    tubes: int = ask("Tubes", 2, 1, 3)
    metal: Silver = ask("Metal", "sterling-925")


def tube_hung(asked: TubeHungAsks) -> Plain:
    """Make a plate with tubes laid along the upper edge of its back, where nobody sees them."""
    row = asked.tubes * (asked.tube_long_mm + 1) - 1
    must(
        row <= asked.wide_mm - 2,
        "tube_long_mm",
        asked.tube_long_mm,
        f"the tubes lie side by side a millimetre apart, within {about(asked.wide_mm - 2)}",
        "Take shorter or fewer tubes.",
    )
    spread = (asked.wide_mm - 4 - asked.tube_long_mm) / max(1, asked.tubes - 1)
    xs = (
        [0.0]
        if asked.tubes == 1
        else [-(asked.wide_mm - 4 - asked.tube_long_mm) / 2 + n * spread for n in range(asked.tubes)]
    )
    y = -asked.high_mm / 2 + asked.tube_mm
    return piece(
        "Tube-hung pendant",
        [
            part(
                "Plate",
                asked.metal,
                rect(asked.wide_mm, asked.high_mm, asked.thickness_mm, 1.5),
                place=at(z=asked.tube_mm),
            ),
            part(
                "Tube",
                asked.metal,
                tube(asked.tube_mm, 0.4, asked.tube_long_mm),
                count=asked.tubes,
                place=at(y=y),
            ),
        ],
        [
            join(
                "Tubes",
                "line",
                "tube",
                "plate",
                face="back",
                at=spots(*((x, y) for x in xs)),
                structural=True,
            )
        ],
        [work("sanding", "finish", "plate", stage=400)],
    )


class PinnedPairAsks(Asks):
    """Two plates on a balled wire."""

    wide_mm: float = ask("Plates, wide", 20.0, 8, 45)
    high_mm: float = ask("Plates, high", 16.0, 8, 45)
    thickness_mm: float = ask("Thickness of each", 0.9, 0.5, 1.5)
    pin_mm: float = ask("Pin wire", 1.2, 0.8, 1.6)
    ball_mm: float = ask("Ball", 2.4, 1.4, 3.4)
    back_metal: Metal = ask("Metal of the back", "copper")


def pinned_pair(asked: PinnedPairAsks) -> Plain:
    """Make two plates held by one wire: a ball in front, hammered to a head behind; all cold but the ball."""
    must(
        asked.ball_mm >= 1.5 * asked.pin_mm,
        "ball_mm",
        asked.ball_mm,
        f"the ball must not slip through its hole: at least {about(1.5 * asked.pin_mm)}",
        "Make the ball larger or the pin thinner.",
    )
    through = 2 * asked.thickness_mm + 1.5 * asked.pin_mm
    pin = sized(
        "balled-end",
        metal="sterling-925",
        wire_mm=asked.pin_mm,
        ball_mm=asked.ball_mm,
        finished_length_mm=through + asked.ball_mm + 15,
    )
    must(
        asked.ball_mm <= pin.drop_limit_mm,
        "ball_mm",
        asked.ball_mm,
        f"a heavier ball lets go of its wire: at most {about(pin.drop_limit_mm)}",
        "Make the ball smaller or the pin thicker.",
    )
    return piece(
        "Pinned pair",
        [
            part(
                "Front",
                "sterling-925",
                rect(asked.wide_mm, asked.high_mm, asked.thickness_mm, 1.0),
                place=at(z=asked.thickness_mm),
            ),
            part(
                "Back",
                asked.back_metal,
                rect(asked.wide_mm, asked.high_mm, asked.thickness_mm, 1.0),
                place=at(),
            ),
            part(
                "Pin",
                "sterling-925",
                wire(asked.pin_mm, through + asked.ball_mm),
                rough=wire(asked.pin_mm, pin.cut_length_mm),
                place=at(upright=True),
            ),
        ],
        [join("Pin in front", "rivet", "pin", "front"), join("Pin behind", "rivet", "pin", "back")],
        [
            work("balling", "ball", "pin", ball_mm=asked.ball_mm),
            work(
                "trimming", "trim", "pin", after=["balling"], before=["pin-behind"], to_mm=round(through, 2)
            ),
            work("holes", "drill", "front", "back", before=["pin-in-front", "pin-behind"]),
            work("sanding", "finish", "front", "back", stage=400, before=["pin-in-front", "pin-behind"]),
        ],
    )


STARTS = (
    Start(
        "tube-hung",
        "Hung by hidden tubes",
        "Pendants",
        "A plate with one, two or three tubes along the back of its upper edge.",
        TubeHungAsks,
        tube_hung,
        {"wide_mm": 30, "high_mm": 18},
        ("pendant", "tube", "plate", "hidden"),
        MappingProxyType({"high_mm": lambda told: max(10.0, round(0.6 * told.wide_mm, 1))}),
    ),
    Start(
        "pinned-pair",
        "Two plates on a pin",
        "Pendants",
        "Two plates held cold by one balled wire.",
        PinnedPairAsks,
        pinned_pair,
        {"wide_mm": 22, "high_mm": 16},
        ("pendant", "rivet", "pin", "cold", "layers"),
        MappingProxyType(
            {
                "high_mm": lambda told: max(8.0, round(0.8 * told.wide_mm, 1)),
                "ball_mm": lambda told: 2 * told.pin_mm,
            }
        ),
        MappingProxyType({"balled-end": {"wire_mm": "pin_mm", "ball_mm": "ball_mm"}}),
    ),
)

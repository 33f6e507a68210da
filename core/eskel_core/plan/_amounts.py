"""How much solder each join takes, and the cut and solder lists."""

from __future__ import annotations

import math

from ..forms import measure, say_stock
from ..metals import (
    CHIP_MM,
    CHIP_THICK_MM,
    FEED_WIRE_MM,
    GAP_MM,
    PASTE_METAL_SHARE,
    Solder,
    solder_volume_mm3,
)
from ..piece import Join, Piece, blanks_of, contact_at, mass_g, metals_of
from ..rules import Course
from ..units import about, length, sizes
from ._types import Amount, CutLine, SolderLine

SMALLEST_CHIP_MM = 0.3


def places_of(join: Join, places: int) -> int:
    """Give how many places of a join take solder: each of the alike parts, or each of the spots that were told."""
    return max(places, len(join.at) if join.at and isinstance(join.at[0], tuple) else 1)


def solder_of_join_mm3(piece: Piece, join: Join) -> float:
    """Give the solder that one place of a join takes, mm³."""
    touch = contact_at(piece, join)
    if touch is None or join.kind == "fuse":
        return 0.0
    gap = GAP_MM if join.gap_mm is None else join.gap_mm
    return solder_volume_mm3(touch.area_mm2, touch.seam_mm, touch.fillets, gap)


def amount_of(piece: Piece, join: Join, places: int, placing: str, solder: Solder) -> Amount:
    """Give the solder of a whole join in the supply of its placing."""
    places = places_of(join, places)
    volume = solder_of_join_mm3(piece, join) * places
    match placing:
        case "paste":
            return Amount(volume_mm3=volume, paste_mg=volume * solder.density_g_cm3 / PASTE_METAL_SHARE)
        case "fed-wire" | "pick":
            return Amount(volume_mm3=volume, feed_mm=volume / (math.pi * FEED_WIRE_MM**2 / 4))
        case _:
            each, side = chips_of(volume / places)
            return Amount(volume_mm3=volume, chips=each * places, chip_mm=side)


def chips_of(volume_mm3: float) -> tuple[int, float]:
    """Give how many chips one place takes, and their side in tenths of a mm: none larger than is easily laid, none too small to hold.

    >>> chips_of(0.038), chips_of(0.84)
    ((1, 0.4), (4, 1.0))
    """
    number = max(1, math.ceil(volume_mm3 / (CHIP_MM**2 * CHIP_THICK_MM) - 1e-9))
    side = math.ceil(10 * math.sqrt(volume_mm3 / (number * CHIP_THICK_MM)) - 1e-9) / 10
    return number, max(SMALLEST_CHIP_MM, side)


def say_amount(amount: Amount, bodies: int = 1) -> str:
    """Write an amount in words: of bodies alike that of one.

    >>> from eskel_core.units import speak
    >>> speak(say_amount(Amount(volume_mm3=1, chips=4, chip_mm=1)))
    '4 chips of 1 × 1 mm'
    """
    if amount.chips is not None and amount.chip_mm is not None:
        chips = max(1, amount.chips // bodies)
        return f"{chips} chip{'s' if chips != 1 else ''} of {sizes(amount.chip_mm, amount.chip_mm)}"
    if amount.feed_mm is not None:
        return f"{length(amount.feed_mm / bodies, 1)} of {about(FEED_WIRE_MM)} wire"
    return f"{amount.paste_mg:.0f} mg of paste"


def solder_lines(course: Course) -> tuple[SolderLine, ...]:
    """Give what each solder is needed for, hardest first."""
    lines = []
    used = {filler.key: filler.solder for filler in course.fillers.values() if filler.solder}
    for solder in sorted(used.values(), key=lambda one: -one.flow_c):
        joins = [
            join
            for join in course.piece.joins
            if join.id in course.fillers and course.fillers[join.id].key == solder.id
        ]
        volume = sum(
            solder_of_join_mm3(course.piece, join) * places_of(join, course.anatomy.joins[join.id].places)
            for join in joins
        )
        volume *= course.piece.copies
        lines.append(
            SolderLine(
                solder=solder.id,
                grade=solder.grade,
                joins=tuple(join.id for join in joins),
                volume_mm3=volume,
                mass_g=volume * solder.density_g_cm3 / 1000,
            )
        )
    return tuple(lines)


def cut_lines(piece: Piece) -> tuple[CutLine, ...]:
    """Give what is cut for all copies of the piece, spares and trials too: as it is cut, before trimming."""
    metals = metals_of(piece)
    return tuple(
        CutLine(
            part=blank.id,
            title=blank.title,
            metal=blank.metal,
            count=blank.count,
            stock=say_stock(blank.form),
            blank=measure(blank.form).blank,
            mass_g=mass_g(blank.form, metals[blank.metal]),
        )
        for blank in blanks_of(piece)
    )

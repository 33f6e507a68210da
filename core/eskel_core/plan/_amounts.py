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
LARGEST_DROP_MM = 2.0
MOST_CHIPS, STRIP_MM = 40, 10.0
PASTE_BINDER_G_CM3 = 1.1  # a glycol with flux in it


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
    """Give the solder of a whole join in the supply of its placing, and in words."""
    amount = _amount(piece, join, places_of(join, places), placing, solder)
    return amount.model_copy(update={"words": say_amount(amount)})


def _amount(piece: Piece, join: Join, places: int, placing: str, solder: Solder) -> Amount:
    volume = solder_of_join_mm3(piece, join) * places
    match placing:
        case "paste":
            paste_mg = volume * solder.density_g_cm3 / PASTE_METAL_SHARE
            binder_mm3 = paste_mg * (1 - PASTE_METAL_SHARE) / PASTE_BINDER_G_CM3
            each, across = _drops(2 * (volume + binder_mm3) / places)
            return Amount(volume_mm3=volume, paste_mg=paste_mg, dots=each * places, dot_mm=across)
        case "pick":
            each, across = _drops(volume / places)
            return Amount(volume_mm3=volume, feed_mm=_feed_mm(volume), balls=each * places, ball_mm=across)
        case "fed-wire":
            return Amount(volume_mm3=volume, feed_mm=_feed_mm(volume))
        case _:
            each, side = chips_of(volume / places)
            return Amount(volume_mm3=volume, chips=each * places, chip_mm=side)


def _feed_mm(volume_mm3: float) -> float:
    return volume_mm3 / (math.pi * FEED_WIRE_MM**2 / 4)


def _drops(volume_mm3: float) -> tuple[int, float]:
    """Give how many balls of equal size a volume makes, none above 2 mm, and how far one goes, mm, in tenths; a dot is half a ball."""
    number = max(1, math.ceil(volume_mm3 / (math.pi * LARGEST_DROP_MM**3 / 6) - 1e-9))
    return number, math.ceil(10 * math.cbrt(6 * volume_mm3 / number / math.pi) - 1e-9) / 10


def chips_of(volume_mm3: float) -> tuple[int, float]:
    """Give how many chips one place takes, and their side in tenths of a mm: none larger than is easily laid, none too small to hold.

    >>> chips_of(0.038), chips_of(0.84)
    ((1, 0.4), (4, 1.0))
    """
    number = max(1, math.ceil(volume_mm3 / (CHIP_MM**2 * CHIP_THICK_MM) - 1e-9))
    side = math.ceil(10 * math.sqrt(volume_mm3 / (number * CHIP_THICK_MM)) - 1e-9) / 10
    return number, max(SMALLEST_CHIP_MM, side)


def say_amount(amount: Amount, times: float = 1) -> str:
    """Write an amount in words, so many times over: of bodies alike that of one, of copies that of all.

    >>> from eskel_core.units import speak
    >>> speak(say_amount(Amount(volume_mm3=1, chips=4, chip_mm=1)))
    '4 chips of 1 × 1 mm'
    """
    for number, what, size in (
        (amount.chips, "chip", sizes(amount.chip_mm or 0, amount.chip_mm or 0)),
        (amount.dots, "dot", f"{about(amount.dot_mm or 0)} across"),
        (amount.balls, "ball", about(amount.ball_mm or 0)),
    ):
        if number is not None:
            many = max(1, int(number * times + 1e-9))
            if what == "chip" and many > MOST_CHIPS:
                # Nobody counts so many: a strip of the sheet is cut off and snipped.
                strip = amount.volume_mm3 * times / CHIP_THICK_MM / STRIP_MM
                return f"a strip of sheet of {sizes(STRIP_MM, strip, places=1)}, snipped to {size}"
            return f"{many} {what}{'s' if many > 1 else ''} of {size}"
    return f"{length((amount.feed_mm or 0) * times, 1)} of {about(FEED_WIRE_MM)} wire"


def solder_lines(course: Course) -> tuple[SolderLine, ...]:
    """Give what each solder is needed for, hardest first."""
    lines = []
    laid = course.to_make
    used = {own.key: own.solder for name, own in course.fillers.items() if own.solder and name in laid}
    for solder in sorted(used.values(), key=lambda one: -one.flow_c):
        joins = [
            join
            for join in course.piece.joins
            if join.id in laid and course.fillers[join.id].key == solder.id
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

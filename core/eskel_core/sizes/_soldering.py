"""Solder for a join: its volume, in chips, paste or fed wire."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import AliasChoices, Field

from ..faults import refuse
from ..forms import Contact
from ..metals import (
    CHIP_MM,
    CHIP_THICK_MM,
    FEED_WIRE_MM,
    FILLET_MM,
    GAP_MM,
    PASTE_METAL_SHARE,
    solder_volume_mm3,
    solders,
)
from ..rules import cadmium
from ..units import about
from ._base import (
    Calculator,
    Found,
    Hand,
    Keys,
    Mm,
    SizeCaution,
    caution,
    key,
    num,
)
from ._sketch import box, circle, label, sketch

SolderedKind = Literal["butt", "tee", "edge", "overlay", "line", "seat", "cross", "bundle"]


class SolderAmountKeys(Keys):
    """A join and its sizes: a round tip or face by its diameter, a seam by its length and width, or as measured."""

    kind: SolderedKind = key("Join", "tee")
    diameter_mm: Mm | None = key(
        "Diameter of a round tip or face", None, alias=AliasChoices("diameter_mm", "wire_mm")
    )
    length_mm: Mm | None = key("Length of the seam", None, alias=AliasChoices("length_mm", "seam_length_mm"))
    width_mm: Mm | None = key("Width of the seam", None, alias=AliasChoices("width_mm", "thickness_mm"))
    contact_mm2: Annotated[float, Field(gt=0, le=1e6)] | None = key("or contact area, measured", None)
    seam_mm: Mm | None = key("and seam, measured", None)
    gap_mm: Annotated[float, Field(ge=0, le=2)] = key("Gap", GAP_MM)
    fillet_mm: Annotated[float, Field(ge=0, le=5)] = key("Fillet", FILLET_MM)
    solder: str = key("Solder", "us-hard", quantity="solder")
    supply: Literal["chips", "sheet", "wire", "paste"] = key("Supply", "chips")
    chip_mm: Mm = key("Chips of", CHIP_MM)
    sheet_mm: Mm = key("Solder sheet", CHIP_THICK_MM)
    feed_wire_mm: Mm = key("Solder wire", FEED_WIRE_MM)


class SolderAmountFound(Found):
    """The solder of a join in each supply."""

    volume_mm3: float = key("Solder")
    chips: int = key("Chips")
    chip_mm: float = key("of")
    feed_mm: float = key("or wire")
    paste_mg: float = key("or paste")
    mass_mg: float = key("Mass")


def solder_amount(asked: SolderAmountKeys, hand: Hand) -> SolderAmountFound:
    """Give the solder of a join in chips, wire and paste (paste holds 85 % metal by mass)."""
    if asked.solder not in solders():
        raise refuse(
            "unknown-id",
            "solder",
            asked.solder,
            "a solder of that id exists",
            f"Choose one of: {', '.join(solders())}.",
        )
    solder = solders()[asked.solder]
    touch = _contact(asked)
    volume = solder_volume_mm3(touch.area_mm2, touch.seam_mm, touch.fillets, asked.gap_mm, asked.fillet_mm)
    told: list[SizeCaution] = []
    if asked.supply == "paste" and (touch.seam_mm > 15 or touch.area_mm2 > 30):
        told.append(
            caution(
                "paste-weak",
                f"Paste is weak on a seam of {about(touch.seam_mm, 1)} and a face of {num(touch.area_mm2, 1)} mm².",
            )
        )
    told += [caution(one.code, one.text) for one in cadmium([solder])]
    across = math.sqrt(touch.area_mm2)
    return SolderAmountFound(
        main={"wire": "feed_mm", "paste": "paste_mg"}.get(asked.supply, "chips"),
        volume_mm3=volume,
        chips=max(1, math.ceil(volume / (asked.chip_mm**2 * asked.sheet_mm) - 1e-9)),
        chip_mm=asked.chip_mm,
        feed_mm=volume / (math.pi * asked.feed_wire_mm**2 / 4),
        paste_mg=volume * solder.density_g_cm3 / PASTE_METAL_SHARE,
        mass_mg=volume * solder.density_g_cm3,
        how=f"({num(touch.area_mm2)} mm² × {num(asked.gap_mm)} + {touch.fillets} × {num(asked.fillet_mm)}² × (1 − π/4) × {num(touch.seam_mm)}) × 1.2 = {num(volume, 4)} mm³",
        cautions=tuple(told),
        safety=("Flux holds fluorides, solders give zinc fume: ventilate.",),
        sketch=sketch(
            [
                circle(0, 0, across, "fine"),
                *(
                    box(n * asked.chip_mm * 1.3, -across - asked.chip_mm * 2, asked.chip_mm, asked.chip_mm)
                    for n in range(8)
                    if n < volume / (asked.chip_mm**2 * asked.sheet_mm)
                ),
            ],
            [label(0, across, "contact, and the chips beside it")],
        ),
    )


def _contact(asked: SolderAmountKeys) -> Contact:
    fillets = {"butt": 0, "tee": 1, "overlay": 1, "bundle": 0}.get(asked.kind, 2)
    if asked.contact_mm2 is not None:
        around = asked.seam_mm if asked.seam_mm is not None else 2 * math.sqrt(math.pi * asked.contact_mm2)
        return Contact(area_mm2=asked.contact_mm2, seam_mm=around, fillets=fillets)
    if asked.diameter_mm is not None and asked.length_mm is None:
        return _round_contact(asked.kind, asked.diameter_mm, fillets)
    if asked.length_mm is None:
        raise refuse(
            "missing",
            "diameter_mm",
            None,
            "a join is sized by a diameter, a length and width, or a contact area",
            "Add diameter_mm, or length_mm and width_mm.",
        )
    # A wire of some diameter laid along touches over a third of it, once wet (common bench reckoning).
    width = asked.width_mm if asked.width_mm is not None else (asked.diameter_mm or 0.0) / 3
    if width <= 0:
        raise refuse("missing", "width_mm", None, "a seam has its width", "Add width_mm.")
    along = asked.length_mm if fillets == 2 else 2 * (asked.length_mm + width)
    return Contact(area_mm2=asked.length_mm * width, seam_mm=along, fillets=fillets)


def _round_contact(kind: str, diameter: float, fillets: int) -> Contact:
    if kind == "cross":
        return Contact(area_mm2=diameter**2 / 2, seam_mm=2 * diameter, fillets=2)
    if fillets == 2:
        raise refuse("missing", "length_mm", None, f"a {kind} join runs along a seam", "Add length_mm.")
    return Contact(area_mm2=math.pi * diameter**2 / 4, seam_mm=math.pi * diameter, fillets=fillets)


CALCULATORS = (
    Calculator(
        "solder-amount",
        "Solder for a join",
        "At the bench",
        "Chips, wire or paste for one join.",
        SolderAmountKeys,
        SolderAmountFound,
        solder_amount,
        "volume_mm3",
        {"kind": "tee", "diameter_mm": 0.9, "fillet_mm": 0.25, "solder": "us-hard", "supply": "chips"},
        {"gap_mm": 0.05},
    ),
)

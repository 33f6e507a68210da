"""Stock: bars poured from scrap, pieces forged to other sections."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import AliasChoices, Field

from ..faults import refuse
from ..forms import (
    HalfRound,
    Profile,
    Rect,
    Round,
    Square,
    Wire,
    profile_across_mm,
    profile_area_mm2,
    profile_height_mm,
)
from ..units import about, grams
from ._base import (
    Calculator,
    Cut,
    Found,
    Grams,
    Hand,
    Keys,
    Mm,
    Pct,
    Record,
    SizeCaution,
    caution,
    key,
    num,
    one_of,
)
from ._sketch import bar, label, sketch

POUR_SAFETY = (
    "Eye protection and covered skin; the mould is warm and dry before the pour: water under metal bursts.",
    "Never melt galvanised, plated or unknown metal.",
)


class Rounded(Record):
    """A flat section whose edges are half-rounds."""

    kind: Literal["rounded"]
    width_mm: Mm = key("Width")
    height_mm: Mm = key("Height")


Section = Annotated[Round | Square | Rect | HalfRound | Rounded, Field(discriminator="kind")]


def section_area_mm2(section: Profile | Rounded) -> float:
    """Give the area of a section, mm².

    >>> round(section_area_mm2(Rounded(kind="rounded", width_mm=3.1, height_mm=1.4)), 3)
    3.919
    """
    if isinstance(section, Rounded):
        wide, high = max(section.width_mm, section.height_mm), min(section.width_mm, section.height_mm)
        return (wide - high) * high + math.pi * high**2 / 4
    return profile_area_mm2(section)


def say_section(section: Profile | Rounded) -> str:
    """Write a section in words: `3 square`, `1 round`, `3.1 × 1.4 rounded`."""
    if isinstance(section, Round | Square):
        return f"{num(profile_across_mm(section), 2)} {section.kind}"
    return f"{num(section.width_mm, 2)} × {num(section.height_mm, 2)} {section.kind}"


class PourKeys(Keys):
    """A bar to be poured: its section and length, or the scrap that there is."""

    metal: str = key("Metal", "sterling-925")
    profile: Profile = key(
        "Section of the bar",
        quantity="section",
        alias=AliasChoices("profile", "bar", "section", "bar_profile"),
    )
    length_mm: Mm | None = key("Length of the bar", None)
    scrap_g: Grams | None = key("or the scrap at hand", None)
    loss_pct: Pct = key("Lost in the melt", 2.0)


class PourFound(Found):
    """The metal of a poured bar."""

    mass_g: float = key("The bar weighs")
    scrap_g: float = key("Melt")
    length_mm: float = key("Length of the bar")


def pour(asked: PourKeys, hand: Hand) -> PourFound:
    """Give the scrap for a bar: the bar's mass ÷ (1 − loss); or the bar that the scrap makes."""
    metal = hand.heated_metal(asked.metal)
    area = profile_area_mm2(asked.profile)
    kept = 1 - asked.loss_pct / 100
    if one_of(asked, "length_mm", "scrap_g") == "length_mm":
        length = asked.length_mm or 0.0
        mass = area * length * metal.density_g_cm3 / 1000
        scrap = mass / kept
        how = f"{num(area)} mm² × {num(length)} mm × {num(metal.density_g_cm3)} g/cm³ = {num(mass, 2)} g; ÷ {num(kept)} = {num(scrap, 2)} g"
    else:
        scrap = asked.scrap_g or 0.0
        mass = scrap * kept
        length = mass * 1000 / metal.density_g_cm3 / area
        how = f"{num(scrap, 2)} g × {num(kept)} = {num(mass, 2)} g = {num(length, 1)} mm of {say_section(asked.profile)}"
    told: tuple[SizeCaution, ...] = ()
    if metal.zinc_pct >= 15:
        told = (
            caution(
                "zinc-fume", f"{metal.name} holds {num(metal.zinc_pct)} % zinc and fumes when it is melted."
            ),
        )
    high = profile_height_mm(asked.profile)
    return PourFound(
        mass_g=mass,
        scrap_g=scrap,
        length_mm=length,
        how=how,
        cautions=told,
        safety=POUR_SAFETY,
        cut=Cut(
            title="Poured bar",
            form=Wire(kind="wire", profile=asked.profile, length_mm=length),
            metal=asked.metal,
            length_mm=length,
        )
        if length <= 5000
        else None,
        sketch=sketch(
            bar(min(length, 400), high),
            [label(min(length, 400) / 2, -high - 2, f"{about(length, 1)}, {grams(mass, 1)}")],
        ),
    )


class ForgeKeys(Keys):
    """A length of one section forged to another."""

    metal: str = key("Metal", "sterling-925")
    before: Section = key("Section before", quantity="section")
    after: Section = key("Section after", quantity="section")
    length_mm: Mm = key("Length before")


class ForgeFound(Found):
    """How long a forged piece comes."""

    length_mm: float = key("Comes out at")
    reduction_pct: float = key("Reduced by")


def forge(asked: ForgeKeys, hand: Hand) -> ForgeFound:
    """Give the length after forging: area × length is kept."""
    metal = hand.metal(asked.metal)
    before, after = section_area_mm2(asked.before), section_area_mm2(asked.after)
    if after > before * (1 + 1e-9):
        raise refuse(
            "contradiction",
            "after",
            asked.after.model_dump(mode="json"),
            f"forging does not add metal: {num(before, 2)} mm² before, {num(after, 2)} after",
            "Start thicker, or end thinner.",
        )
    length, reduction = asked.length_mm * before / after, (1 - after / before) * 100
    told: tuple[SizeCaution, ...] = ()
    if reduction > metal.max_reduction_pct:
        times = math.ceil(math.log(after / before) / math.log(1 - metal.max_reduction_pct / 100)) - 1
        told = (
            caution(
                "needs-anneal",
                f"{num(reduction, 1)} % is more than {metal.name.lower()} bears at once ({num(metal.max_reduction_pct)} %): {times} anneals on the way at least.",
            ),
        )
    highs = [
        profile_height_mm(one) if not isinstance(one, Rounded) else one.height_mm
        for one in (asked.before, asked.after)
    ]
    return ForgeFound(
        length_mm=length,
        reduction_pct=reduction,
        how=f"{num(asked.length_mm)} × {num(before)} / {num(after)} = {num(length, 2)} mm",
        cautions=told,
        sketch=sketch(
            [*bar(asked.length_mm, highs[0], highs[1] + 6), *bar(length, highs[1])],
            [
                label(
                    asked.length_mm,
                    highs[0] + highs[1] + 9,
                    f"{about(asked.length_mm)} of {say_section(asked.before)}",
                    "end",
                ),
                label(length, -4, f"{about(length, 2)} of {say_section(asked.after)}", "end"),
            ],
        ),
    )


CALCULATORS = (
    Calculator(
        "pour",
        "Pour a bar",
        "Stock",
        "The scrap that a bar takes, or the bar that scrap makes.",
        PourKeys,
        PourFound,
        pour,
        "scrap_g",
        {
            "metal": "sterling-925",
            "profile": {"kind": "square", "side_mm": 6},
            "length_mm": 80,
            "loss_pct": 2,
        },
        {},
    ),
    Calculator(
        "forge",
        "Forge to a section",
        "Stock",
        "How long a piece comes when its section changes.",
        ForgeKeys,
        ForgeFound,
        forge,
        "length_mm",
        {
            "metal": "sterling-925",
            "before": {"kind": "round", "diameter_mm": 2.3},
            "after": {"kind": "rounded", "width_mm": 3.1, "height_mm": 1.4},
            "length_mm": 30,
        },
        {"length_mm": 0.5},
    ),
)

"""At the bench: blades, anneals, the pickle pot."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..coldwork import compounded_pct
from ..faults import refuse
from ..metals import (
    GlowBand,
    Metal,
    blade_for,
    glow_bands,
    pickles,
)
from ..pot import Scale, pickle_minutes
from ..rules import THICK_MM
from ..units import about
from ._base import (
    Calculator,
    Found,
    Hand,
    Keys,
    Mm,
    MmOrZero,
    Pct,
    SizeCaution,
    ToolAnswer,
    caution,
    key,
    num,
)
from ._sketch import bar, box, label, sketch

HOLD_S_PER_MM, SHORTEST_HOLD_S = 10.0, 5.0
SPENT_FROM_PCT = 80.0


class SawKeys(Keys):
    """Sheet to be sawn."""

    thickness_mm: Mm = key("Thickness")
    metal: str = key("Metal", "sterling-925")
    cut_mm: MmOrZero = key("Length of the cut", 0.0)


class SawFound(Found):
    """The blade, its kerf and its dust."""

    blade: str = key("Blade")
    kerf_mm: float = key("Kerf")
    offset_mm: float = key("Saw outside the line by")
    dust_g: float = key("Dust")


def saw(asked: SawKeys, hand: Hand) -> SawFound:
    """Choose the blade whose range of sheet has its middle nearest to the thickness, of those on the bench if any are.

    The outline is sawn off by half a kerf on the waste side.
    """
    metal = hand.metal(asked.metal)
    owned = {tool.size for tool in hand.tools if tool.kind == "blade" and tool.size}
    best, chosen = blade_for(asked.thickness_mm), blade_for(asked.thickness_mm, owned)
    dust = asked.cut_mm * asked.thickness_mm * chosen.kerf_mm * metal.density_g_cm3 / 1000
    told: tuple[SizeCaution, ...] = ()
    if not chosen.sheet_low_mm <= asked.thickness_mm <= chosen.sheet_high_mm:
        told = (
            caution(
                "does-not-fit",
                f"Blade {chosen.size} is made for {about(chosen.sheet_low_mm)} to {about(chosen.sheet_high_mm)}.",
            ),
        )
    tools: tuple[ToolAnswer, ...] = ()
    if owned and chosen.size != best.size:
        tools = (
            ToolAnswer(
                kind="blade",
                wanted_mm=best.kerf_mm,
                owned_mm=chosen.kerf_mm,
                text=f"{best.size} would be best; {chosen.size} is the nearest on the bench: kerf {about(chosen.kerf_mm)}.",
            ),
        )
    length = asked.cut_mm or 30.0
    return SawFound(
        blade=chosen.size,
        kerf_mm=chosen.kerf_mm,
        offset_mm=chosen.kerf_mm / 2,
        dust_g=dust,
        how=f"{chosen.size} is for {num(chosen.sheet_low_mm)} to {num(chosen.sheet_high_mm)} mm; {num(asked.cut_mm)} × {num(asked.thickness_mm)} × {num(chosen.kerf_mm)} mm × {num(metal.density_g_cm3)} g/cm³ = {num(dust, 4)} g of dust",
        cautions=told,
        safety=("Fingers off the line; eye protection: blades snap.",),
        tools=tools,
        sketch=sketch(
            [
                *bar(min(length, 80), asked.thickness_mm),
                box(
                    min(length, 80) / 2,
                    -asked.thickness_mm,
                    chosen.kerf_mm,
                    asked.thickness_mm * 3,
                    "mark",
                ),
            ],
            [label(min(length, 80) / 2, asked.thickness_mm * 2 + 2, about(chosen.kerf_mm))],
        ),
    )


class AnnealKeys(Keys):
    """A piece of metal, how far it was worked, and what comes next."""

    metal: str = key("Metal", "sterling-925")
    thickness_mm: Mm = key("Thickness")
    reduction_pct: Pct = key("Reduced since its last anneal", 0.0)
    next_reduction_pct: Pct = key("The next work takes", 0.0)


class AnnealFound(Found):
    """Whether to anneal now, and how."""

    needed: bool = key("Anneal now")
    low_c: float = key("From")
    high_c: float = key("to")
    glow: dict[str, str] = key("Glow, by the light of the room")
    hold_s: float = key("Hold for")
    quench: str = key("Then")
    after_pct: float = key("Reduced after the next work")


_QUENCH_WORDS = {
    "any": "quench at once, or let it cool",
    "black": "let the red go, then quench",
    "air": "let it cool in the air",
}


def anneal(asked: AnnealKeys, hand: Hand) -> AnnealFound:
    """Say whether to anneal before the next work: reductions compound, 1 − Π(1 − r), up to the metal's limit.

    It is held about 10 s for each mm of thickness once the colour is there, 5 s at least (common bench practice).
    """
    metal = hand.heated_metal(asked.metal)
    after = compounded_pct(asked.reduction_pct, asked.next_reduction_pct)
    needed = after > metal.max_reduction_pct
    middle = (metal.anneal_low_c + metal.anneal_high_c) / 2
    glow = glow_at(middle)
    told: list[SizeCaution] = []
    if needed:
        told.append(
            caution(
                "needs-anneal",
                f"The next work would bring it to {num(after, 1)} %; {metal.name.lower()} bears {num(metal.max_reduction_pct)} %.",
            )
        )
    quench, thick = _quench(metal, asked.thickness_mm)
    if thick:
        told.append(
            caution(
                "quench-crack",
                f"{about(asked.thickness_mm)} of {metal.name.lower()} may crack if quenched hot.",
            )
        )
    if metal.red_short:
        told.append(caution("red-short", f"{metal.name} is weak while it glows."))
    low, high = metal.anneal_low_c, metal.anneal_high_c
    return AnnealFound(
        needed=needed,
        low_c=low,
        high_c=high,
        glow={"dark": glow.dark, "dim": glow.dim, "daylight": glow.daylight},
        hold_s=max(SHORTEST_HOLD_S, HOLD_S_PER_MM * asked.thickness_mm),
        quench=quench,
        after_pct=after,
        how=f"1 − (1 − {num(asked.reduction_pct)} %) × (1 − {num(asked.next_reduction_pct)} %) = {num(after, 1)} %, against {num(metal.max_reduction_pct)} %",
        cautions=tuple(told),
        safety=("The piece stays hot long after the glow is gone.",),
    )


def glow_at(celsius: float) -> GlowBand:
    """Give the band of glow that a temperature lies in."""
    return next((band for band in glow_bands() if band.low_c <= celsius < band.high_c), glow_bands()[-1])


def _quench(metal: Metal, thickness: float) -> tuple[str, bool]:
    """Give how a metal is cooled after an anneal, and whether its thickness is what forbids the water."""
    if metal.quench == "air-when-thick":
        thick = thickness >= THICK_MM
        return _QUENCH_WORDS["air" if thick else "black"], thick
    if thickness >= THICK_MM and metal.quench != "air":
        return _QUENCH_WORDS["air"], True
    return _QUENCH_WORDS[metal.quench], False


class PickleTimeKeys(Keys):
    """A piece for the pot, and the pot."""

    pickle: str = key("Pickle", "bisulphate", quantity="pickle")
    bath_c: Annotated[float, Field(ge=0, le=120)] = key("Bath", 60.0)
    copper_g_l: Annotated[float, Field(ge=0, le=500)] = key("Copper in it", 0.0)
    hot_piece: bool = key("Goes in warm from the quench", True)
    scale: Scale = key("Scale", "medium")


class PickleTimeFound(Found):
    """The minutes of a piece in the pot."""

    minutes_low: float = key("Look at it after")
    minutes_high: float = key("Done at the latest after")
    bath_spent_pct: float = key("The bath is spent by")


def pickle_time(asked: PickleTimeKeys, hand: Hand) -> PickleTimeFound:
    """Give the minutes in the pickle; copper at the limit or above is refused (`bath-spent`)."""
    if asked.pickle not in pickles():
        raise refuse(
            "unknown-id",
            "pickle",
            asked.pickle,
            "a pickle of that id exists",
            f"Choose one of: {', '.join(pickles())}.",
        )
    bath = pickles()[asked.pickle]
    if not bath.temp_low_c <= asked.bath_c <= bath.temp_high_c:
        raise refuse(
            "out-of-range",
            "bath_c",
            asked.bath_c,
            f"{bath.name.lower()} is used from {num(bath.temp_low_c)} to {num(bath.temp_high_c)} °C",
            "Warm or cool the bath.",
        )
    minutes = pickle_minutes(
        bath, asked.bath_c, asked.scale, hot_piece=asked.hot_piece, copper_g_l=asked.copper_g_l
    )
    spent = asked.copper_g_l / bath.copper_limit_g_l * 100
    told: tuple[SizeCaution, ...] = ()
    if spent >= SPENT_FROM_PCT:
        told = (
            caution(
                "bath-spent",
                f"The bath holds {num(asked.copper_g_l)} g/l of copper; {num(bath.copper_limit_g_l)} is its limit.",
            ),
        )
    factor = 2 ** ((bath.hot_ref_c - asked.bath_c) / 15)
    return PickleTimeFound(
        minutes_low=minutes.low,
        minutes_high=minutes.high,
        bath_spent_pct=spent,
        how=f"{num(bath.minutes_at_ref)} min × 2^(({num(bath.hot_ref_c)} − {num(asked.bath_c)}) / 15) = × {num(factor)}; {asked.scale} scale{'' if asked.hot_piece else ', cold piece × 1.4'}; ÷ (1 − {num(spent, 1)} %); 0.7 and 1.5 times",
        cautions=told,
        safety=(
            "Water first, then the pot: never hot into acid. Acid into water. Ventilate.",
            "Copper or plastic tongs only.",
        ),
    )


CALCULATORS = (
    Calculator(
        "saw",
        "Saw blade",
        "At the bench",
        "The blade for a sheet, its kerf and its dust.",
        SawKeys,
        SawFound,
        saw,
        "blade",
        {"thickness_mm": 0.8, "metal": "sterling-925", "cut_mm": 120},
        {},
    ),
    Calculator(
        "anneal",
        "Anneal now?",
        "At the bench",
        "Whether the next work would pass the metal's limit, and how to anneal.",
        AnnealKeys,
        AnnealFound,
        anneal,
        "needed",
        {"metal": "sterling-925", "thickness_mm": 1.2, "reduction_pct": 35, "next_reduction_pct": 35},
        {},
    ),
    Calculator(
        "pickle-time",
        "Time in the pickle",
        "At the bench",
        "Minutes in the pot, warm or cold, fresh or tired.",
        PickleTimeKeys,
        PickleTimeFound,
        pickle_time,
        "minutes_low",
        {"pickle": "bisulphate", "bath_c": 60, "copper_g_l": 5, "hot_piece": True, "scale": "medium"},
        {"bath_c": 5.0},
    ),
)

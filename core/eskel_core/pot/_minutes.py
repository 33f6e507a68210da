"""Minutes in the pickle, by bath, temperature, copper load, scale and whether the piece goes in warm."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..faults import refuse
from ..metals import Metal, Pickle

Scale = Literal["light", "medium", "heavy"]
_BY_SCALE = {"light": 0.6, "medium": 1.0, "heavy": 1.8}
_COLD_PIECE = 1.4
_LOW, _HIGH = 0.7, 1.5
_DOUBLES_EVERY_C = 15.0
COLD_POT_C = 20.0


class PickleMinutes(BaseModel):
    """The band of minutes that a piece stays in the pot."""

    model_config = ConfigDict(frozen=True)

    low: float
    high: float


def pickle_minutes(
    pickle: Pickle,
    bath_c: float,
    scale: Scale,
    *,
    hot_piece: bool,
    copper_g_l: float = 0.0,
    strength_pct: float = 100.0,
    pace: float = 1.0,
) -> PickleMinutes:
    """Give the minutes a piece needs, low and high; raise `Refused` when the bath is spent.

    likely = minutes at reference × 2^((T_ref − T)/15) × scale × (1.4 when the piece goes in cold)
    ÷ (1 − copper/limit); low and high are 0.7 and 1.5 of it (bench practice: a bath halves its
    speed for every 15 °C less). A bath of another strength than the usual works by as much faster or slower (of the first
    order in its acid: ours), and a pot whose own loads took `pace` times as long takes as long again.
    """
    if copper_g_l >= pickle.copper_limit_g_l:
        raise refuse(
            "bath-spent",
            "copper_g_l",
            copper_g_l,
            f"below {pickle.copper_limit_g_l:g} g/l",
            "Mix a new bath.",
        )
    likely = pickle.minutes_at_ref * 2 ** ((pickle.hot_ref_c - bath_c) / _DOUBLES_EVERY_C) * _BY_SCALE[scale]
    likely *= 1.0 if hot_piece else _COLD_PIECE
    likely /= 1 - copper_g_l / pickle.copper_limit_g_l
    likely *= pace * 100 / strength_pct
    return PickleMinutes(low=likely * _LOW, high=likely * _HIGH)


def scale_of(metals: Iterable[Metal], *, fluxed: bool) -> Scale:
    """Give how heavy the scale is after a heat: flux keeps a short heat to medium at most."""
    worst = {metal.fire_scale for metal in metals}
    if worst & {"heavy", "moderate"}:
        return "medium" if fluxed or "heavy" not in worst else "heavy"
    return "light"

"""House rules: named choices where smiths disagree, with the shipped defaults."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..units import LengthUnit, MassUnit, TemperatureUnit, Units
from ._kinds import StepKind, WorkKind

YesNo = Literal["yes", "no"]
GradePolicy = Literal["step-down", "same-while-held", "easiest-that-serves"]
Family = Literal["us", "uk", "mixed"]
Cooling = Literal["quench-when-black", "air-cool"]
Hollow = Literal["vent", "sealed-dry"]
Pot = Literal["warm", "cold"]
AnnealSign = Literal["glow", "marker", "flux"]
HeatFrom = Literal["above", "below"]
BallAttitude = Literal["tip-up", "tip-down"]
EarWireBend = Literal["right-angle", "half-angle"]
Handed = Literal["right", "left"]
Fineness = Literal["off"] | Annotated[int, Field(ge=1, le=1000)]
Placing = Literal["chips-under", "chips-over", "paste", "fed-wire", "pick", "sweat"]
Degrees = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
Thickness = Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)]
Reach = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]
Minutes = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]
Picks = Annotated[int, Field(ge=1, le=100)]


class ThinnestMm(BaseModel):
    """The thinnest that the house makes each kind of part, mm."""

    model_config = ConfigDict(frozen=True, extra="forbid", populate_by_name=True)

    shank: Thickness = 1.2
    post: Thickness = 0.7
    prong: Thickness = 0.8
    ear_wire: Annotated[Thickness, Field(alias="ear-wire")] = 0.7
    pin_stem: Annotated[Thickness, Field(alias="pin-stem")] = 0.8


class House(BaseModel):
    """All house rules, resolved. Temperatures in °C."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    grade_policy: GradePolicy = "step-down"
    family: Family = "us"
    cooling: Cooling = "quench-when-black"
    placing: Placing = "chips-under"
    flux_with_paste: YesNo = "yes"
    hollow: Hollow = "vent"
    pot: Pot = "warm"
    neutralise: YesNo = "yes"
    anneal_sign: AnnealSign = "glow"
    heat_from: HeatFrom = "above"
    ball_attitude: BallAttitude = "tip-up"
    ear_wire_bend: EarWireBend = "half-angle"
    handed: Handed = "right"
    units: LengthUnit = "mm"
    gauge_shown: YesNo = "yes"
    temperature: TemperatureUnit = "c"
    mass: MassUnit = "g"
    fineness: Fineness = "off"
    overshoot_c: Degrees = 10.0
    margin_c: Degrees = 5.0
    remelt_allowance_c: Degrees = 15.0
    thin_margin_c: Degrees = 20.0
    picks_per_heat: Picks = 6
    local_heat: YesNo = "yes"
    local_reach_mm: Reach = 12.0
    minutes: dict[WorkKind | StepKind, Minutes] = {}
    thinnest_mm: ThinnestMm = ThinnestMm()

    @property
    def spoken(self) -> Units:
        """The units that this house types and reads in."""
        return Units(
            length=self.units, gauge=self.gauge_shown == "yes", temperature=self.temperature, mass=self.mass
        )


class HouseOverrides(BaseModel):
    """The house rules that a bench or a piece sets for itself; what is left out stays as it was."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    grade_policy: GradePolicy | None = None
    family: Family | None = None
    cooling: Cooling | None = None
    placing: Placing | None = None
    flux_with_paste: YesNo | None = None
    hollow: Hollow | None = None
    pot: Pot | None = None
    neutralise: YesNo | None = None
    anneal_sign: AnnealSign | None = None
    heat_from: HeatFrom | None = None
    ball_attitude: BallAttitude | None = None
    ear_wire_bend: EarWireBend | None = None
    handed: Handed | None = None
    units: LengthUnit | None = None
    gauge_shown: YesNo | None = None
    temperature: TemperatureUnit | None = None
    mass: MassUnit | None = None
    fineness: Fineness | None = None
    overshoot_c: Degrees | None = None
    margin_c: Degrees | None = None
    remelt_allowance_c: Degrees | None = None
    thin_margin_c: Degrees | None = None
    picks_per_heat: Picks | None = None
    local_heat: YesNo | None = None
    local_reach_mm: Reach | None = None
    minutes: dict[WorkKind | StepKind, Minutes] | None = None
    thinnest_mm: ThinnestMm | None = None


def resolve_house(*layers: HouseOverrides | None) -> House:
    """Lay overrides one over the other upon the shipped defaults; the last one given wins, of minutes for each kind."""
    chosen: dict[str, object] = {}
    minutes: dict[WorkKind | StepKind, float] = {}
    for layer in layers:
        if layer is not None:
            chosen.update({key: value for key, value in layer if value is not None})
            minutes |= layer.minutes or {}
    chosen["minutes"] = minutes
    return House.model_validate(chosen)

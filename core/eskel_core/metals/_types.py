"""The records of the tables: one frozen type for each kind of thing."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

Celsius = Annotated[float, Field(gt=-50, le=4000, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Percent = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]

MetalFamily = Literal["silver", "copper", "copper alloy", "gold", "clad", "low-melting", "unknown"]
Grade = Literal["it", "hard", "medium", "easy", "extra-easy"]


class Row(BaseModel):
    """A row of a table: frozen, and an unknown column is refused."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class NamedRow(Row):
    """A row that other things name by its id."""

    id: str


class Metal(NamedRow):
    """A metal or alloy. Temperatures in °C, density in g/cm³, conductivity in W/mK, heat in J/kgK.

    Family `low-melting`: lead, tin, pewter and other white metal, zinc, aluminium. Family `unknown`: nobody knows what it is,
    or it is plated or galvanised. Neither bears a flame.
    """

    name: str
    family: MetalFamily
    composition: str = ""
    density_g_cm3: Positive
    solidus_c: Celsius
    liquidus_c: Celsius
    anneal_low_c: Celsius
    anneal_high_c: Celsius
    max_reduction_pct: Annotated[float, Field(gt=0, lt=100)] = 50.0
    conductivity_w_mk: Positive = 150.0
    specific_heat_j_kgk: Positive = 350.0
    emissivity_clean: Share = 0.08
    emissivity_heated: Share = 0.5
    liquid_surface_tension_n_m: Positive = 1.0
    liquid_density_g_cm3: Positive = 8.0
    latent_kj_kg: Positive = 120.0
    zinc_pct: Percent = 0.0
    nickel_pct: Percent = 0.0
    quench: Literal["any", "black", "air", "air-when-thick"] = "air"
    red_short: bool = False
    fire_scale: Literal["none", "light", "moderate", "heavy"] = "moderate"
    note: str = ""

    @model_validator(mode="after")
    def _ranges_run_upwards(self) -> Metal:
        if self.liquidus_c < self.solidus_c:
            raise ValueError("liquidus_c must not lie below solidus_c")
        if self.anneal_high_c < self.anneal_low_c:
            raise ValueError("anneal_high_c must not lie below anneal_low_c")
        return self

    @property
    def pure(self) -> bool:
        """Whether it is a pure metal: its composition names one element only."""
        return len(self.composition.split()) == 2

    @property
    def anneal_c(self) -> float:
        """The middle of the annealing range, °C."""
        return (self.anneal_low_c + self.anneal_high_c) / 2


class Solder(NamedRow):
    """A solder. `on` holds the families of metal that it takes to."""

    name: str
    family: Literal["us", "uk", "copper"]
    grade: Grade
    composition: str
    silver_ppt: Annotated[int, Field(ge=0, le=1000)]
    zinc_pct: Percent
    cadmium: bool
    solidus_c: Celsius
    flow_c: Celsius
    density_g_cm3: Positive
    on: tuple[Literal["silver", "copper", "gold"], ...]
    note: str = ""


class Torch(NamedRow):
    """A torch with its tip: gas temperature °C, film coefficient W/m²K, footprint mm, heat W."""

    name: str
    fuel: str
    tip: str
    gas_temp_c: Celsius
    film_w_m2k: Positive
    footprint_mm: Positive
    heat_w: Positive
    note: str = ""


class Surface(NamedRow):
    """What the work lies on: effusivity W·√s/m²K, contact W/m²K, sink W/K."""

    name: str
    effusivity_w_s05_m2k: Annotated[float, Field(ge=0)]
    contact_w_m2k: Annotated[float, Field(ge=0)]
    from_below: bool
    sink_w_k: Annotated[float, Field(ge=0)]
    note: str = ""


class Pickle(NamedRow):
    """A pickling bath: mixing strength g/l, temperatures °C, minutes at the reference, copper limit g/l."""

    name: str
    mix_g_per_l: Positive
    hot_ref_c: Celsius
    temp_low_c: Celsius
    temp_high_c: Celsius
    minutes_at_ref: Positive
    copper_limit_g_l: Positive
    note: str = ""


class Flux(NamedRow):
    """A flux: the temperatures, °C, at which it steams, crusts, darkens, clears and is spent."""

    name: str
    steam_c: Celsius
    crust_c: Celsius
    dark_c: Celsius | None
    clear_c: Celsius
    spent_c: Celsius
    minutes_at_heat: Positive
    note: str = ""


class SawBlade(Row):
    """A saw blade: its kerf and the range of sheet it suits, mm."""

    size: str
    kerf_mm: Positive
    sheet_low_mm: Positive
    sheet_high_mm: Positive


class GlowBand(Row):
    """The name of the glow between two temperatures, °C, by the light of the room."""

    low_c: float
    high_c: float
    dark: str
    dim: str
    daylight: str

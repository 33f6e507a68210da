"""The bench that a piece is made on: torch, surface, pickle, flux, solders in stock, tools owned."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from ..faults import KeptFormat, read_kept
from ..forms import Form
from ..metals import Solder, solders
from ._house import Family, HouseOverrides

KEPT = KeptFormat("a bench", "eskel-bench", 1)
SolderForm = Literal["sheet", "wire", "paste"]
Size = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]
Left = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]


class StockedSolder(BaseModel):
    """A solder in the drawer: its form, size (mm of thickness or diameter) and how much is left (g)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    solder: str
    form: SolderForm | None = None
    size: Size | None = None
    left: Left | None = None


class Tool(BaseModel):
    """A tool owned, of a size in mm (or a blade by its number)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: Literal[
        "dowel", "mandrel", "drill", "draw-plate-hole", "mill-groove", "dapping-pair", "disc-hole", "blade"
    ]
    size_mm: Size | None = None
    size: str | None = None
    mm_per_turn: Size | None = None


class StockedMetal(BaseModel):
    """Metal in the drawer, in the form it is kept in: wire, strip or tube of a length, sheet of an outline."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    metal: str
    form: Form
    count: Annotated[int, Field(ge=1, le=10_000)] = 1


class Scrap(BaseModel):
    """Scrap of one metal, kept apart from all others."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    metal: str
    mass_g: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)]


class Vessel(BaseModel):
    """What a piece must lie in whole: the hearth, the quench bowl or the pot, mm inside; as wide as long if not told."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: Literal["hearth", "quench-bowl", "pot"]
    length_mm: Size
    width_mm: Size | None = None


class PotState(BaseModel):
    """How the pickle in the pot is: its copper, g/l, and when that was measured, whether iron has touched it, how much there is, litres,
    when it was mixed and how strong, % of the usual, how warm it is kept where it is kept warm, °C, and how many times as long as reckoned
    it takes by its own loads (`pace`), and since when that is reckoned with.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    copper_g_l: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0
    iron_touched: bool = False
    litres: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    mixed_on: date | None = None
    copper_at: AwareDatetime | None = None
    strength_pct: Annotated[float, Field(ge=10, le=300, allow_inf_nan=False)] = 100.0
    bath_c: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    pace: Annotated[float, Field(ge=0.2, le=5, allow_inf_nan=False)] = 1.0
    paced_at: AwareDatetime | None = None


class Bench(BaseModel):
    """The bench named in a piece file; what is left out comes from the smith's own or the shipped one."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    torch: str | None = None
    surface: str | None = None
    pickle: str | None = None
    flux: str | None = None
    solders: tuple[str | StockedSolder, ...] | None = None
    tools: tuple[Tool, ...] | None = None
    stock: Annotated[tuple[StockedMetal, ...], Field(max_length=1000)] | None = None
    scrap: Annotated[tuple[Scrap, ...], Field(max_length=200)] | None = None
    vessels: Annotated[tuple[Vessel, ...], Field(max_length=20)] | None = None
    pot: PotState | None = None


class KeptBench(BaseModel):
    """A workshop's bench and house rules, as they are kept."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    format: Literal["eskel-bench/1"] = "eskel-bench/1"
    house: HouseOverrides = HouseOverrides()
    bench: Bench = Bench()


def read_bench(plain: Any) -> KeptBench:
    """Read a kept bench, brought up to date; raise `Refused` with every place at which it cannot be read."""
    return read_kept(KEPT, KeptBench, plain)


USUAL_GRADES = ("hard", "medium", "easy", "extra-easy")


def usual_solders(family: Family) -> tuple[str, ...]:
    """Give the solders that lie on a bench where nobody has named any: four grades of a family, the US one where mixed.

    >>> usual_solders("uk")
    ('uk-hard', 'uk-medium', 'uk-easy', 'uk-extra-easy')
    """
    own = "us" if family == "mixed" else family
    rows = (solder for solder in solders().values() if solder.family == own)
    return tuple(solder.id for solder in rows if solder.grade in USUAL_GRADES and not solder.cadmium)


def shipped_bench(family: Family = "us") -> Bench:
    """Give the bench that Eskel ships with, with the usual solders of a family."""
    return Bench(
        torch="propane-air-small",
        surface="charcoal",
        pickle="bisulphate",
        flux="white-paste",
        solders=usual_solders(family),
        tools=(),
        stock=(),
        scrap=(),
        vessels=(),
        pot=PotState(),
    )


def resolve_bench(*layers: Bench | None, family: Family = "us") -> Bench:
    """Lay benches one over the other upon the shipped one; what the last one names wins.

    Where none of them names solders, the usual ones of the house's `family` are in stock.
    """
    chosen = shipped_bench(family)
    for layer in layers:
        if layer is not None:
            chosen = chosen.model_copy(update={key: value for key, value in layer if value is not None})
    return chosen


def stocked_solders(bench: Bench) -> list[tuple[Solder, StockedSolder]]:
    """Give the solders in stock, in the table's order, each with the form it is kept in; none with cadmium.

    What has nothing left is not in stock.
    """
    entries = [_entry(stock) for stock in bench.solders or ()]
    kept = [entry for entry in entries if entry.left is None or entry.left > 0]
    order = {name: place for place, name in enumerate(solders())}
    rows = [(solders()[entry.solder], entry) for entry in kept]
    return sorted((row for row in rows if not row[0].cadmium), key=lambda row: order[row[0].id])


def _entry(stock: str | StockedSolder) -> StockedSolder:
    return StockedSolder(solder=stock) if isinstance(stock, str) else stock

"""The bench over HTTP: the tables, the bench itself, and lengths as smiths type them."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from accounts import Faults, current_workshop
from eskel_core.metals import (
    Flux,
    Metal,
    Pickle,
    Solder,
    Surface,
    Torch,
    fluxes,
    metals,
    pickles,
    solders,
    surfaces,
    torches,
)
from eskel_core.piece import Bench, House, resolve_bench, resolve_house
from eskel_core.units import Quantity, Reading, read_quantity

from .queries import bench_of

router = Router(tags=["bench"])


class Tables(Schema):
    """The shipped tables that the screens choose from."""

    metals: list[Metal]
    solders: list[Solder]
    torches: list[Torch]
    surfaces: list[Surface]
    pickles: list[Pickle]
    fluxes: list[Flux]


class BenchView(Schema):
    """A workshop's bench and house rules, all resolved."""

    workshop: str
    house: House
    bench: Bench


@router.get("/tables", response=Tables, operation_id="tables", by_alias=True)
def get_tables(request: HttpRequest) -> Tables:
    """Give the shipped tables."""
    return Tables(
        metals=list(metals().values()),
        solders=list(solders().values()),
        torches=list(torches().values()),
        surfaces=list(surfaces().values()),
        pickles=list(pickles().values()),
        fluxes=list(fluxes().values()),
    )


@router.get("/bench", response=BenchView, operation_id="bench", by_alias=True)
def get_bench(request: HttpRequest) -> BenchView:
    """Give the bench."""
    workshop = current_workshop()
    house, own = bench_of(workshop)
    return BenchView(workshop=workshop.name, house=resolve_house(house), bench=resolve_bench(own))


@router.get("/read", response={200: Reading, 422: Faults}, operation_id="readQuantity")
def read(request: HttpRequest, text: str, quantity: Quantity = "length") -> Reading:
    """Read a quantity as smiths type it; a bare number is in the unit of the house."""
    house, _ = bench_of(current_workshop())
    return read_quantity(text, quantity, units=resolve_house(house).spoken)

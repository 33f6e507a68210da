"""The bench over HTTP: the tables, the bench itself, and lengths as smiths type them."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from eskel_core.metals import (
    Flux,
    Metal,
    Pickle,
    SawBlade,
    Solder,
    Surface,
    Torch,
    fluxes,
    metals,
    pickles,
    saw_blades,
    solders,
    surfaces,
    torches,
)
from eskel_core.piece import (
    Bench,
    House,
    HouseChoice,
    HouseOverrides,
    house_choices,
    resolve_bench,
    resolve_house,
)
from eskel_core.plan import Pace, Spoken, paces
from eskel_core.rehearsal import FLAME_SETTINGS
from eskel_core.rules import MOST_SHIELD_C, Rule, rules
from eskel_core.units import Quantity, Reading, read_quantity
from eskel_server.accounts import Faults, current_workshop
from eskel_server.bodies import Whole
from eskel_server.workroom import room

from .actions import set_bench
from .queries import bench_of, row_of

router = Router(tags=["bench"])


class Tables(Schema):
    """The shipped tables that the screens choose from, the schools among smiths, the rules of judgement, and
    what the screens say of them: the most that a shield counts for, °C, and how far a flame can be open."""

    metals: list[Metal]
    solders: list[Solder]
    torches: list[Torch]
    surfaces: list[Surface]
    pickles: list[Pickle]
    fluxes: list[Flux]
    saw_blades: list[SawBlade]
    choices: list[HouseChoice]
    rules: list[Rule]
    paces: list[Pace]
    most_shield_c: float
    flame_settings: list[float]


class BenchView(Schema):
    """A workshop's bench and house rules, all resolved, and what it has set itself."""

    workshop: str
    revision: int
    house: House
    bench: Bench
    own_house: HouseOverrides
    own_bench: Bench


class BenchChange(Schema):
    """House rules and bench as they shall be, and the revision that was changed; what is left out is as shipped."""

    revision: Whole | None = None
    house: dict[str, Any]
    bench: dict[str, Any]


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
        saw_blades=list(saw_blades()),
        choices=list(house_choices()),
        rules=list(rules().values()),
        paces=list(paces().values()),
        most_shield_c=MOST_SHIELD_C,
        flame_settings=list(FLAME_SETTINGS),
    )


@router.get("/rules", response=list[Spoken], operation_id="rulesSpeaking")
def rules_in_their_own_words(request: HttpRequest) -> list[Spoken]:
    """Give what each rule says in the example in which it speaks."""
    return list(room().do("rules", limit_s=30.0))


@router.get("/bench", response=BenchView, operation_id="bench", by_alias=True)
def get_bench(request: HttpRequest) -> BenchView:
    """Give the bench."""
    return _view()


@router.put(
    "/bench", response={200: BenchView, 409: Faults, 422: Faults}, operation_id="setBench", by_alias=True
)
def put_bench(request: HttpRequest, change: BenchChange) -> BenchView:
    """Change the bench or the house rules."""
    set_bench(current_workshop(), change.house, change.bench, change.revision)
    return _view()


def _view() -> BenchView:
    workshop = current_workshop()
    house, own = bench_of(workshop)
    return BenchView(
        workshop=workshop.name,
        revision=row_of(workshop).revision,
        house=resolve_house(house),
        bench=resolve_bench(own, family=resolve_house(house).family),
        own_house=house,
        own_bench=own,
    )


@router.get("/read", response={200: Reading, 422: Faults}, operation_id="readQuantity")
def read(request: HttpRequest, text: str, quantity: Quantity = "length") -> Reading:
    """Read a quantity as smiths type it; a bare number is in the unit of the house."""
    house, _ = bench_of(current_workshop())
    return read_quantity(text, quantity, units=resolve_house(house).spoken)

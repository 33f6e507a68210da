"""The solder that a plan lays: for each join, and of each solder in all."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from ..metals import solders
from ..piece import Bench, Piece
from ..plan import HeatStep, Plan, say_amount


class SolderRow(BaseModel):
    """The solder of one join in the supply of its placing."""

    model_config = ConfigDict(frozen=True)

    join: str
    solder: str
    grade: str
    placing: str
    amount: str
    mass_mg: float


class SolderTotal(BaseModel):
    """All the solder of one kind: what it comes to, what is left of it, what is short."""

    model_config = ConfigDict(frozen=True)

    solder: str
    grade: str
    mass_mg: float
    left_g: float | None
    buy_g: float


def solder_rows(piece: Piece, plan: Plan) -> tuple[SolderRow, ...]:
    titles = {join.id: join.title for join in piece.joins}
    rows = []
    for step in plan.steps:
        if not isinstance(step, HeatStep):
            continue
        for made in step.joins:
            if made.solder is None or made.amount is None:
                continue
            solder = solders()[made.solder]
            times = piece.copies
            told = made.amount
            mass = told.volume_mm3 * solder.density_g_cm3 * times
            rows.append(
                SolderRow(
                    join=titles[made.join],
                    solder=solder.id,
                    grade=solder.grade,
                    placing=str(made.placing),
                    amount=say_amount(told, times),
                    mass_mg=mass,
                )
            )
    return tuple(rows)


def solder_totals(rows: tuple[SolderRow, ...], bench: Bench) -> tuple[SolderTotal, ...]:
    left: dict[str, float | None] = {}
    for stock in bench.solders or ():
        name = stock if isinstance(stock, str) else stock.solder
        amount = None if isinstance(stock, str) else stock.left
        before = left.get(name, 0.0)
        left[name] = None if amount is None or before is None else before + amount
    totals: dict[str, float] = {}
    for row in rows:
        totals[row.solder] = totals.get(row.solder, 0.0) + row.mass_mg
    told = []
    for name, mass in totals.items():
        have = left.get(name, 0.0)
        short = 0.0 if have is None else max(0.0, mass / 1000 - have)
        told.append(
            SolderTotal(solder=name, grade=solders()[name].grade, mass_mg=mass, left_g=have, buy_g=short)
        )
    return tuple(sorted(told, key=lambda one: -solders()[one.solder].flow_c))

"""The bench's own torches: logged heats, predicted against actual, and the factor that follows."""

from __future__ import annotations

import math
from datetime import datetime

from ninja import Schema

from eskel_core.metals import torches
from eskel_core.rehearsal import Calibration, LoggedHeat, TorchFactor, WhyNot, calibrate
from eskel_server.runs import HeatAsLogged, logged_heats

from .models import LeftOutHeat

LEAST_S = 1.0


class LoggedLine(Schema):
    """A heat that was rehearsed and then carried out, times in s; `speaks_for` is the factor that would have fitted;
    `why_not` says of one that counts for nothing why it does not."""

    record: int
    piece_name: str
    heat_no: int
    at: datetime
    low_s: float | None
    likely_s: float
    high_s: float | None
    actual_s: float
    speaks_for: float
    wild: bool
    why_not: WhyNot | None
    left_out: bool


class TorchLine(Schema):
    """A torch of this bench: its factor beside the table, how sure it is, and the heats that it follows from.

    `known_pct` is the spread of the factor, `next_pct` that of the next heat's time, `first_pct` what it was before
    the first, in per cent.
    """

    torch: str
    name: str
    factor: float
    known_pct: float
    next_pct: float
    first_pct: float
    heats: list[LoggedLine]


def torch_lines() -> list[TorchLine]:
    """Give every torch that a logged heat was rehearsed with, its newest heats in the order in which they were made."""
    left_out = _left_out()
    return [_line(torch, _real(heats), left_out) for torch, heats in sorted(logged_heats().items())]


def factor_of(torch: str) -> TorchFactor:
    """Give the factor of one torch of this workshop, as far as its log tells."""
    left_out = _left_out()
    heats = _real(logged_heats(torch)[torch])
    return calibrate([_logged(heat) for heat in heats if heat.record not in left_out]).torch


def _left_out() -> set[int]:
    return set(LeftOutHeat.objects.values_list("record_id", flat=True))


def _real(heats: list[HeatAsLogged]) -> list[HeatAsLogged]:
    """Leave out the heats that were leafed through."""
    return [heat for heat in heats if heat.actual_s >= LEAST_S]


def _per_cent(spread: float) -> float:
    return round(100 * math.expm1(spread), 1)


def _line(torch: str, rows: list[HeatAsLogged], left_out: set[int]) -> TorchLine:
    heats = [_logged(row) for row in rows]
    counted = [heat for heat, row in zip(heats, rows, strict=True) if row.record not in left_out]
    made: Calibration = calibrate(counted)
    alone = [calibrate([heat]) for heat in heats]
    wild = dict(zip(map(id, counted), made.wild, strict=True))
    known = torches().get(torch)
    return TorchLine(
        torch=torch,
        name=torch if known is None else f"{known.name}, {known.tip}",
        factor=round(made.torch.factor, 4),
        known_pct=_per_cent(made.known),
        next_pct=_per_cent(made.torch.spread),
        first_pct=_per_cent(calibrate([]).torch.spread),
        heats=[
            LoggedLine(
                record=row.record,
                piece_name=row.piece_name,
                heat_no=row.heat_no,
                at=row.at,
                low_s=heat.low_s,
                likely_s=heat.likely_s,
                high_s=heat.high_s,
                actual_s=round(heat.actual_s, 1),
                speaks_for=round(one.speaks_for[0], 3),
                wild=wild.get(id(heat), False),
                why_not=one.why_not[0],
                left_out=row.record in left_out,
            )
            for heat, one, row in zip(heats, alone, rows, strict=True)
        ],
    )


def _logged(row: HeatAsLogged) -> LoggedHeat:
    return LoggedHeat(
        row.low_s, row.likely_s, row.high_s, row.factor, row.spread, row.actual_s, row.lit, row.sound
    )

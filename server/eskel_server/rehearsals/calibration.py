"""The bench's own torches: logged heats, predicted against actual, and the factor that follows."""

from __future__ import annotations

import math
from datetime import datetime

from ninja import Schema

from eskel_core.metals import torches
from eskel_core.plan import HeatStep, Plan
from eskel_core.rehearsal import Calibration, LoggedHeat, TorchFactor, calibrate
from eskel_server.runs import runs_of
from eskel_server.runs.models import Run, StepRecord

from .models import LeftOutHeat

LEAST_S = 1.0


class LoggedLine(Schema):
    """A heat that was rehearsed and then carried out, times in s; `speaks_for` is the factor that would have fitted."""

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
    """Give every torch that a logged heat was rehearsed with, its heats in the order in which they were made."""
    left_out = _left_out()
    return [_line(torch, found, left_out) for torch, found in sorted(_rows().items())]


def _left_out() -> set[int]:
    return set(LeftOutHeat.objects.values_list("record_id", flat=True))


def _rows() -> dict[str, list[tuple[Run, StepRecord, HeatStep]]]:
    """Give the logged heats by their torch, the oldest first."""
    rows: dict[str, list[tuple[Run, StepRecord, HeatStep]]] = {}
    for run in reversed(list(runs_of().prefetch_related("records"))):
        for record, step in _rehearsed(run):
            rows.setdefault(step.rehearsed.torch if step.rehearsed else "", []).append((run, record, step))
    return rows


def factor_of(torch: str) -> TorchFactor:
    """Give the factor of one torch of this workshop, as far as its log tells."""
    left_out = _left_out()
    heats = [_logged(record, step) for _, record, step in _rows().get(torch, ()) if record.pk not in left_out]
    return calibrate(heats).torch


def _per_cent(spread: float) -> float:
    return round(100 * math.expm1(spread), 1)


def _rehearsed(run: Run) -> list[tuple[StepRecord, HeatStep]]:
    """Give the heats of a run that had a prediction and were carried out."""
    steps = {step.n: step for step in Plan.model_validate(run.plan).steps if isinstance(step, HeatStep)}
    found = []
    for record in run.records.all():
        step = steps.get(record.n)
        if step is None or step.rehearsed is None or step.rehearsed.likely_s is None:
            continue
        if record.ended_at is not None and not record.skipped and _seconds(record) >= LEAST_S:
            found.append((record, step))
    return found


def _seconds(record: StepRecord) -> float:
    return (record.ended_at - record.started_at).total_seconds() if record.ended_at else 0.0


def _line(torch: str, rows: list[tuple[Run, StepRecord, HeatStep]], left_out: set[int]) -> TorchLine:
    heats = [_logged(record, step) for _, record, step in rows]
    counted = [heat for heat, (_, record, _) in zip(heats, rows, strict=True) if record.pk not in left_out]
    made: Calibration = calibrate(counted)
    alone = [calibrate([heat]) for heat in heats]
    wild = dict(zip(map(id, counted), made.wild, strict=True))
    row = torches().get(torch)
    return TorchLine(
        torch=torch,
        name=torch if row is None else f"{row.name}, {row.tip}",
        factor=round(made.torch.factor, 4),
        known_pct=_per_cent(made.known),
        next_pct=_per_cent(made.torch.spread),
        first_pct=_per_cent(calibrate([]).torch.spread),
        heats=[
            LoggedLine(
                record=record.pk,
                piece_name=run.piece_name,
                heat_no=step.heat_no,
                at=record.started_at,
                low_s=heat.low_s,
                likely_s=heat.likely_s,
                high_s=heat.high_s,
                actual_s=round(heat.actual_s, 1),
                speaks_for=round(one.speaks_for[0], 3),
                wild=wild.get(id(heat), False),
                left_out=record.pk in left_out,
            )
            for heat, one, (run, record, step) in zip(heats, alone, rows, strict=True)
        ],
    )


def _logged(record: StepRecord, step: HeatStep) -> LoggedHeat:
    told = step.rehearsed
    assert told is not None
    assert told.likely_s is not None
    return LoggedHeat(told.low_s, told.likely_s, told.high_s, told.factor, told.spread, _seconds(record))

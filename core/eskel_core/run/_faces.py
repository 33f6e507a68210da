"""What a run needs to know of each step of its plan: a few words of it, alike on the server and on a device."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..plan import CoolStep, HeatStep, InspectStep, PickleStep, PrepareStep, Step

FaceKind = Literal["prepare", "work", "heat", "cool", "pickle", "inspect"]


class Face(BaseModel):
    """A step by what counts in a run: its joins, how many stages and looks it has, whether a danger waits to be confirmed, how
    many alike it is done on, and how long it waits by itself, ms.
    """

    model_config = ConfigDict(frozen=True)

    kind: FaceKind
    joins: tuple[str, ...] = ()
    stages: int = 0
    checks: int = 0
    confirm: bool = False
    alike: int = 1
    waits_low_ms: int | None = None
    waits_high_ms: int | None = None


def faces_of(steps: Sequence[Step]) -> tuple[Face, ...]:
    """Give the faces of a plan's steps, in their order."""
    return tuple(_face(step) for step in steps)


def _face(step: Step) -> Face:
    plain = Face(kind=step.kind, alike=step.alike)
    match step:
        case PrepareStep():
            return plain.model_copy(update={"confirm": step.confirm})
        case HeatStep():
            joins = tuple(row.join for row in step.joins)
            return plain.model_copy(update={"joins": joins, "stages": len(step.stages)})
        case CoolStep():
            return _waits(plain, step.minutes, step.minutes)
        case PickleStep():
            return _waits(plain, step.minutes_low, step.minutes_high)
        case InspectStep():
            return plain.model_copy(update={"checks": len(step.checks)})
        case _:
            return plain


def _waits(face: Face, low: float, high: float) -> Face:
    return face.model_copy(
        update={"waits_low_ms": round(low * 60_000), "waits_high_ms": round(high * 60_000)}
    )

"""What a run needs to know of each step of its plan: a few words of it, alike on the server and on a device."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from ..log import WordSet
from ..plan import CoolStep, HeatStep, InspectStep, PickleStep, PrepareStep, Step, WorkStep

FaceKind = Literal["prepare", "work", "heat", "cool", "pickle", "inspect"]


class Face(BaseModel):
    """A step by what counts in a run: its joins, how many stages and looks it has, whether a danger waits to be confirmed, how
    many alike it is done on, and how long it waits by itself, ms.

    `each` is how many places each of its joins has in all copies. `work` is what is asked of in place of joins, with `words`.
    `extra` is a step that no plan has: it is put in where a fault is mended.
    """

    model_config = ConfigDict(frozen=True)

    kind: FaceKind
    joins: tuple[str, ...] = ()
    each: tuple[int, ...] = ()
    work: str | None = None
    words: WordSet = "join"
    extra: bool = False
    stages: int = 0
    checks: int = 0
    confirm: bool = False
    alike: int = 1
    waits_low_ms: int | None = None
    waits_high_ms: int | None = None


def faces_of(steps: Sequence[Step], extras: Sequence[Step] = ()) -> tuple[Face, ...]:
    """Give the faces of a plan's steps, in their order, and after them of steps that may be put in."""
    more = (_face(step).model_copy(update={"extra": True}) for step in extras)
    return (*(_face(step) for step in steps), *more)


_BY_WORK: dict[str, WordSet] = {"pour": "pour", "deplete": "done", "dry": "done"}
_BY_PURPOSE: dict[str, WordSet] = {"anneal": "anneal", "ball": "ball", "melt": "ball"}


def _face(step: Step) -> Face:
    plain = Face(kind=step.kind, alike=step.alike)
    match step:
        case PrepareStep():
            return plain.model_copy(update={"confirm": step.confirm})
        case HeatStep():
            return plain.model_copy(update={"stages": len(step.stages), **_heat_asks(step)})
        case WorkStep() if step.work_kind in _BY_WORK:
            return plain.model_copy(update={"work": step.work, "words": _BY_WORK[step.work_kind]})
        case CoolStep():
            return _waits(plain, step.minutes, step.minutes)
        case PickleStep():
            return _waits(plain, step.minutes_low, step.minutes_high)
        case InspectStep():
            return plain.model_copy(update={"checks": len(step.checks)})
        case _:
            return plain


def _heat_asks(step: HeatStep) -> dict[str, Any]:
    """Give what is asked of a heat when it is over: its joins, or the work that it does."""
    if step.joins:
        return {
            "joins": tuple(row.join for row in step.joins),
            "each": tuple(row.alike for row in step.joins),
        }
    words = _BY_WORK.get(step.work_kind or "") or _BY_PURPOSE.get(step.purpose, "done")
    return {"work": step.work or step.purpose, "words": words}


def _waits(face: Face, low: float, high: float) -> Face:
    return face.model_copy(
        update={"waits_low_ms": round(low * 60_000), "waits_high_ms": round(high * 60_000)}
    )

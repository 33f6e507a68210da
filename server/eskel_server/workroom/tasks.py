"""The tasks: functions of texts alone, run in a process of the workroom, which knows the core and nothing of the server."""

from __future__ import annotations

import os
import resource
import signal
from collections.abc import Callable
from typing import Any

# One core is enough for a task, and threads of a matrix library do not live through a fork.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from eskel_core.cutting import cut_and_solder, cut_list_pdf
from eskel_core.faults import Fault, Refused
from eskel_core.picture import draw
from eskel_core.piece import Bench, HouseOverrides, parse_piece
from eskel_core.plan import Plan, plan, rules_speaking, why_join
from eskel_core.shapes import DrawnUnit, read_outline
from eskel_core.units import Units

MOST_BYTES = 1_500_000_000
Outcome = tuple[str, Any]


def begin() -> None:
    """Prepare a process: it may not take more memory than a machine can spare."""
    resource.setrlimit(resource.RLIMIT_DATA, (MOST_BYTES, MOST_BYTES))


class _Late(BaseException):
    """A task has had its processor time."""


def _late(_number: int, _frame: Any) -> None:
    raise _Late


def carry_out(kind: str, asked: tuple[Any, ...], limit_s: float) -> Outcome:
    """Carry a task out; give `done` with what came of it, `refused` with its faults, `broken` with a sentence, or `late`.

    The limit is of processor time, s: on a busy machine the same work is not late sooner.
    """
    signal.signal(signal.SIGPROF, _late)
    signal.setitimer(signal.ITIMER_PROF, limit_s)
    try:
        return _carried_out(kind, asked)
    except _Late:
        return "late", limit_s
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)


def _carried_out(kind: str, asked: tuple[Any, ...]) -> Outcome:
    try:
        return "done", TASKS[kind](*asked)
    except Refused as problem:
        return "refused", problem.faults
    except MemoryError:
        return "refused", (
            Fault(
                code="too-large",
                path="",
                value=None,
                rule="the work fits in memory",
                remedy="Make the piece smaller.",
            ),
        )
    except Exception as problem:
        return "broken", f"{type(problem).__name__}: {problem}"[:500]


def _plan(piece: str, house: str, bench: str, effort: float) -> Plan:
    return plan(parse_piece(piece), _house(house), _bench(bench), effort=effort)


def _why(piece: str, join: str, house: str, bench: str) -> Any:
    return why_join(parse_piece(piece), join, _house(house), _bench(bench))


def _cutting(piece: str, planned: str, bench: str) -> Any:
    return cut_and_solder(parse_piece(piece), Plan.model_validate_json(planned), _bench(bench))


def _cut_list(piece: str, planned: str, bench: str, units: str) -> bytes:
    told = Units.model_validate_json(units)
    return cut_list_pdf(_cutting(piece, planned, bench), parse_piece(piece), told)


def _draw(piece: str) -> Any:
    return draw(parse_piece(piece))


def _outline(name: str, text: str, unit: DrawnUnit | None) -> Any:
    return read_outline(name, text, unit)


def _warm() -> None:
    """Do nothing: the process that does it is loaded."""


def _house(text: str) -> HouseOverrides:
    return HouseOverrides.model_validate_json(text)


def _bench(text: str) -> Bench:
    return Bench.model_validate_json(text)


TASKS: dict[str, Callable[..., Any]] = {
    "warm": _warm,
    "plan": _plan,
    "why": _why,
    "cutting": _cutting,
    "cut-list.pdf": _cut_list,
    "draw": _draw,
    "outline": _outline,
    "rules": rules_speaking,
}

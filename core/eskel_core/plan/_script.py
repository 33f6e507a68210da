"""The steps as they are written, one after another: how far they are, what is wet, what other work is done between."""

from __future__ import annotations

from ..piece import Bench, Target, Work, WorkKind
from ..rules import Course
from ._course import vents_to_put_in
from ._minutes import minutes_of, minutes_of_work
from ._names import alike_of
from ._types import Measuring, Step, WorkStep, said
from ._work_words import alike_in, measure_of, target_of, work_lines


class Script:
    """The steps as they are written, one after another."""

    def __init__(self, course: Course, bench: Bench) -> None:
        self.course = course
        self.bench = bench
        self.steps: list[Step] = []
        self.wet: set[str] = set()
        self.vents = vents_to_put_in(course)

    @property
    def next_n(self) -> int:
        """The number of the step that is written next."""
        return len(self.steps) + 1


def add_work(
    script: Script,
    work: str,
    kind: WorkKind,
    parts: tuple[str, ...],
    *lines: str,
    put_in: bool = False,
    minutes: float | None = None,
    target: Target | None = None,
    measure: Measuring | None = None,
    alike: int | None = None,
) -> None:
    course = script.course
    if minutes is None:
        minutes = minutes_of(course.house, kind, len(parts) * course.piece.copies)
    script.steps.append(
        WorkStep.model_validate(
            {
                "n": script.next_n,
                "parts": parts,
                **said(*lines),
                "work": work,
                "work_kind": kind,
                "put_in": put_in,
                "minutes": minutes,
                "alike": alike_of(course, parts) if alike is None else alike,
                "target": target,
                "measure": measure,
            }
        )
    )


def told_work(script: Script, work: Work) -> None:
    """Write work that the smith told."""
    course = script.course
    minutes = minutes_of_work(course.piece, course.house, work)
    add_work(
        script,
        work.id,
        work.kind,
        work.parts,
        *work_lines(course, work),
        minutes=minutes,
        target=target_of(course, work),
        measure=measure_of(course, work),
        alike=alike_in(course, work),
    )

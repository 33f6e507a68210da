"""The steps as they are written, one after another, and the work as it stands after each."""

from __future__ import annotations

from ..piece import Bench, Target, Work, WorkKind
from ..rules import Course, Finding, Heat, find_in_act
from ..state import Act, State, after, begin, changes, hung_on
from ._acts import acts_of
from ._course import parts_of_heat
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
        self.state = begin(course.piece, course.house)
        self.states: list[State] = []
        self.found: list[tuple[int, Finding]] = []
        self.acts: list[tuple[int, State, Act]] = []

    def write(self, step: Step, *, again: frozenset[str] = frozenset()) -> None:
        """Write a step down with what it changes; `again` are the nodes that are heated after its bath."""
        before = self.state
        for act in acts_of(self.state, step, again=again):
            self.do(act, step.n)
        self.steps.append(step.model_copy(update={"changes": changes(before, self.state)}))
        self.states.append(self.state)

    def do(self, act: Act, n: int) -> None:
        """Do something to the work, and keep what the rules find in it."""
        self.found += [(n, finding) for finding in find_in_act(self.state, act)]
        self.acts.append((n, self.state, act))
        self.state = after(self.state, act)

    def hangs_with(self, heat: Heat) -> frozenset[str]:
        """Give the nodes of all that hangs together with the body of a heat, what it makes counted in."""
        body = heat.body or self.state.anatomy.of(parts_of_heat(self.course, heat))
        return body | hung_on(self.state, self.state.groups[0], body, heat.joins)

    def is_heated_again(self, heat: Heat) -> bool:
        """Say whether anything that hangs together with a heat's body is in a later heat."""
        inside = self.hangs_with(heat)
        return any(later.number > heat.number and later.body & inside for later in self.course.heats)

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
    opens: tuple[str, ...] = (),
) -> None:
    course = script.course
    if minutes is None:
        minutes = minutes_of(course.house, kind, len(parts) * course.piece.copies)
    script.write(
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
                "opens": opens,
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

"""The work as it stands in a run: what its steps did so far, how each heat came out, and what was lost."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any

from ..log import Outcome as OutcomeWord
from ..piece import Piece, resolve_house
from ..plan import HeatStep, Step, acts_of
from ..state import Act, Heat, Miss, Outcome, State, after, begin
from ._state import RunState, Turn

_CAME_OUT: dict[OutcomeWord, dict[str, Any]] = {
    "flowed": {"stage": "soldered"},
    "flooded": {"stage": "soldered", "quality": "flooded"},
    "short": {"stage": "soldered", "quality": "short"},
    "moved": {"stage": "soldered"},
    "opened-another": {"stage": "soldered"},
    "did-not-flow": {"stage": "not-yet"},
    "melted": {"stage": "not-yet"},
}
Came = tuple[str, OutcomeWord, tuple[int, ...]]
"""How a join, or the work of a heat, came out in some of its copies (none: in all)."""


def work_of_run(piece: Piece, steps: Sequence[Step], run: RunState) -> State:
    """Give the work as it stands in a run, of which `steps` are those of its plan and after them those that were put in."""
    state = begin(piece, resolve_house(piece.house))
    for place, turn in enumerate(run.turns):
        if turn.off_ms is None and not turn.outcomes and not _is_done(turn):
            continue
        later = [step_of(steps, other) for other in run.turns[place + 1 :]]
        for act in acts_of_turn(state, step_of(steps, turn), turn, later):
            state = after(state, act)
    return state


def step_of(steps: Sequence[Step], turn: Turn) -> Step:
    """Give the step of a turn: of another try of a heat with the joins alone that it is for."""
    step = steps[turn.step - 1]
    if turn.again == 1 or not isinstance(step, HeatStep):
        return step
    return step.model_copy(update={"joins": tuple(row for row in step.joins if row.join in turn.joins)})


def acts_of_turn(state: State, step: Step, turn: Turn, later: Sequence[Step]) -> Iterator[Act]:
    """Give all that a turn did to the work: its step, how that came out, what opened and what was lost in it."""
    hard = any(word.outcome == "still-hard" for word in turn.outcomes)
    for act in acts_of(state, step, again=heated_later(state, step, later)):
        yield replace(act, softens=False) if hard and isinstance(act, Heat) else act
    for word in turn.outcomes:
        yield from came_out(state, step, (word.join, word.outcome, word.copies))
    for one in turn.opened:
        yield from _in_copies(state, Outcome(one.join, "opened"), one.copies)
    for loss in turn.losses:
        yield Miss(state.anatomy.of((loss.part,)), "lost", loss.many)
    if turn.lost:
        yield Miss(state.anatomy.of(step.parts), "lost", turn.lost)


def came_out(state: State, step: Step, came: Came) -> Iterator[Act]:
    """Give how a heat came out as what became of the work."""
    name, word, copies = came
    if name not in state.joins:
        if word == "dropped":
            yield Miss(state.anatomy.of(step.parts), "lost", max(1, len(copies)))
        return
    told = dict(_CAME_OUT[word])
    fused = isinstance(step, HeatStep) and any(row.join == name and row.solder is None for row in step.joins)
    if fused and told["stage"] == "soldered":
        told["stage"] = "fused"
    yield from _in_copies(state, Outcome(name, **told), copies)


def _in_copies(state: State, act: Outcome, numbers: tuple[int, ...]) -> Iterator[Outcome]:
    """Give an outcome for the copies and places that some numbers mean, which count copy by copy; none: all."""
    if not numbers:
        yield act
        return
    places = state.anatomy.joins[act.join].places
    for copy in sorted({(number - 1) // places + 1 for number in numbers}):
        of_it = tuple((number - 1) % places + 1 for number in numbers if (number - 1) // places + 1 == copy)
        yield replace(act, places=() if len(of_it) == places else of_it, copies=(copy,))


def heated_later(state: State, step: Step, later: Sequence[Step]) -> frozenset[str]:
    """Give the nodes of a step that some later steps heat."""
    parts = {part for other in later if isinstance(other, HeatStep) for part in other.parts}
    return state.anatomy.of(tuple(part for part in step.parts if part in parts))


def _is_done(turn: Turn) -> bool:
    last = turn.stays[-1] if turn.stays else None
    return last is not None and last.left_ms is not None and not last.back and not turn.skipped

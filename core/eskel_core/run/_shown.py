"""A run by presses as it is printed (`eskel-run-state/1`): where it stands, what is offered, the work as it is, and the log."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..log import Outcome as OutcomeWord
from ..piece import Piece, resolve_house
from ..plan import HeatStep, Plan, Step, acts_of
from ..state import Miss, Outcome, State, after, begin, state_object
from ._presses import Presses
from ._state import JoinWord, RunState, Turn
from ._ways import ways_for

FORMAT = "eskel-run-state/1"
_CAME_OUT: dict[OutcomeWord, dict[str, Any]] = {
    "flowed": {"stage": "soldered"},
    "flooded": {"stage": "soldered", "quality": "flooded"},
    "short": {"stage": "soldered", "quality": "short"},
    "moved": {"stage": "soldered"},
    "opened-another": {"stage": "soldered"},
    "did-not-flow": {"stage": "not-yet"},
    "melted": {"stage": "not-yet"},
}


def shown_run(presses: Presses) -> dict[str, Any]:
    """Give a run as it stands, as plain data."""
    going = presses.run.standing == "going"
    can = presses.possible()
    return {
        "format": FORMAT,
        "standing": presses.run.standing,
        "step": presses.step.model_dump(mode="json") if going else None,
        "offers": list(_offers(presses)) if going else [],
        "keys": {press: {"press": press, "words": words} for press, words in can.items()},
        "state": state_object(work_of_run(presses.piece, presses.plan, presses.run)),
        "told": list(_told(presses)) if going else [],
        "left": list(_left(presses)),
        "log": list(_log(presses)),
    }


def _offers(presses: Presses) -> Iterator[dict[str, Any]]:
    for way in ways_for([word.outcome for word in presses.turn.outcomes]):
        yield {"way": way.way, "title": way.offered, "why": way.told, "steps": []}


def _told(presses: Presses) -> Iterator[str]:
    yield from presses.step.lines
    for caution in presses.plan.cautions:
        if caution.step == presses.step.n:
            yield f"{caution.text} {caution.remedy}."


def _left(presses: Presses) -> Iterator[dict[str, Any]]:
    """Give what was lost of alike parts, and the steps that need it."""
    for turn in presses.run.turns:
        if turn.lost:
            step = presses.plan.steps[turn.step - 1]
            later = [
                other.n
                for other in presses.plan.steps
                if other.n > step.n and set(other.parts) & set(step.parts)
            ]
            for part in step.parts:
                yield {"part": part, "count": turn.lost, "steps": later}


def _log(presses: Presses) -> Iterator[dict[str, Any]]:
    for turn in presses.run.turns:
        step = presses.plan.steps[turn.step - 1]
        if not isinstance(step, HeatStep):
            continue
        for word in turn.outcomes:
            yield {
                "step": step.n,
                "heat_no": step.heat_no,
                "try": turn.again,
                "join": word.join,
                "copy": None,
                "outcome": word.outcome,
                "way": turn.ways[0] if turn.ways else None,
                "at_s": word.at_ms / 1000,
            }


def work_of_run(piece: Piece, plan: Plan, run: RunState) -> State:
    """Give the work as it stands in a run: what each turn did that was gone on from, and the words on its joins."""
    state = begin(piece, resolve_house(piece.house))
    for turn in run.turns:
        step = plan.steps[turn.step - 1]
        if turn.off_ms is None and not _is_done(turn):
            continue
        for act in acts_of(state, step, again=_again(state, plan, step)):
            state = after(state, act)
        for word in turn.outcomes:
            state = after(state, _came_out(step, word))
        if turn.lost:
            state = after(state, Miss(state.anatomy.of(step.parts), "lost", turn.lost))
    return state


def _came_out(step: Step, word: JoinWord) -> Outcome:
    """Give the word on a join as what became of it: where no solder was laid it is fused."""
    came = dict(_CAME_OUT[word.outcome])
    fused = isinstance(step, HeatStep) and any(
        row.join == word.join and row.solder is None for row in step.joins
    )
    if fused and came["stage"] == "soldered":
        came["stage"] = "fused"
    return Outcome(word.join, **came)


def _is_done(turn: Turn) -> bool:
    last = turn.stays[-1] if turn.stays else None
    return last is not None and last.left_ms is not None and not last.back and not turn.skipped


def _again(state: State, plan: Plan, step: Step) -> frozenset[str]:
    """Give the nodes of a step that a later heat of the plan takes in."""
    later = {
        part for heat in plan.steps if isinstance(heat, HeatStep) and heat.n > step.n for part in heat.parts
    }
    return state.anatomy.of(tuple(part for part in step.parts if part in later))

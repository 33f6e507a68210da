"""A run by presses as it is printed (`eskel-run-state/1`): where it stands, what is offered, the work as it is, and the log."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..piece import base_id
from ..plan import HeatStep, WorkStep
from ..state import state_object
from ._here import Leg
from ._offers import Offer
from ._presses import Presses
from ._said import asked_of, outcome_rows
from ._standing import step_of

FORMAT = "eskel-run-state/1"


def shown_run(presses: Presses) -> dict[str, Any]:
    """Give a run as it stands, as plain data."""
    going = presses.run.standing == "going"
    return {
        "format": FORMAT,
        "standing": presses.run.standing,
        "step": presses.step.model_dump(mode="json") if going else None,
        "offers": [_offer(presses, one) for one in presses.offers()] if going else [],
        "keys": dict(_keys(presses)),
        "state": state_object(presses.state),
        "told": list(_told(presses)) if going else [],
        "left": list(_left(presses)),
        "log": list(_log(presses)),
    }


def _offer(presses: Presses, offer: Offer) -> dict[str, Any]:
    """Give an offer with its steps numbered as they will be when it is taken."""
    numbers = presses.numbers(offer)
    steps = [
        step.model_copy(update={"n": n}).model_dump(mode="json")
        for step, n in zip(offer.steps, numbers, strict=True)
    ]
    return {"way": offer.way, "title": offer.title, "why": offer.why, "steps": steps}


_LETTERS = "abcdefghijklm"


def _keys(presses: Presses) -> Iterator[tuple[str, dict[str, str]]]:
    """Give what each key presses: space the next good thing, digits the outcomes, letters the ways; the rest by its name."""
    can = presses.possible()
    space = next((press for press in ("lit", "sign", "off", "next") if press in can), None)
    said = [press for press in can if press.startswith("outcome ")]
    ways = [press for press in can if press.startswith("way ")]
    by_key = dict(zip("1234567", said, strict=False)) | dict(zip(_LETTERS, ways, strict=False))
    if space is not None and not (said and presses.unsaid()):
        by_key = {"Space": space, **by_key}
    taken = set(by_key.values())
    for key, press in (*by_key.items(), *((press, press) for press in can if press not in taken)):
        yield key, {"press": press, "words": can[press]}


def _told(presses: Presses) -> Iterator[str]:
    yield from presses.step.lines
    for caution in presses.plan.cautions:
        if caution.step == presses.step.n:
            yield f"{caution.text} {caution.remedy}."
    for remark in presses.never():
        yield f"{remark.text} {remark.remedy}"
    off = presses.off_by()
    if off is not None:
        wanted, over = off
        yield f"{wanted.to_be + over:g} was measured, and {wanted.to_be:g} is wanted, within {wanted.within:g}."


def _left(presses: Presses) -> Iterator[dict[str, Any]]:
    """Give what is lost, how many of it, and the steps still to come that need it."""
    for part, many in presses.lost().items():
        later = [step.n for step in presses.later if part in map(base_id, step.parts)]
        yield {"part": part, "count": many, "steps": later}


def _log(presses: Presses) -> Iterator[dict[str, Any]]:
    for leg in presses.legs:
        yield from _log_of(leg)


def _log_of(leg: Leg) -> Iterator[dict[str, Any]]:
    tries: dict[object, int] = {}
    for turn in leg.run.turns:
        step = step_of(leg.steps, turn)
        if not turn.outcomes and not turn.opened and not turn.signs:
            continue
        heat_no = step.heat_no if isinstance(step, HeatStep) else None
        of = heat_no if heat_no is not None else step.work if isinstance(step, WorkStep) else step.n
        tries[of] = tries.get(of, 0) + 1
        row = {"step": step.n, "heat_no": heat_no, "try": tries[of]}
        way = turn.ways[0] if turn.ways else None
        for name, copy, outcome, at_ms in outcome_rows(turn, asked_of(leg.faces[turn.step - 1], turn)):
            yield row | {"join": name, "copy": copy, "outcome": outcome, "way": way, "at_s": at_ms / 1000}
        for one in turn.opened:
            for number in one.copies or (None,):
                more = {"join": one.join, "copy": number, "outcome": "opened", "way": None}
                yield row | more | {"at_s": one.at_ms / 1000}

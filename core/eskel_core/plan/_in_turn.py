"""What the rules find when the heats of a course are followed by something else than the planner would put there."""

from __future__ import annotations

from collections.abc import Sequence

from ..piece import Bench
from ..rules import Course, Done, Finding, Heat
from ..state import Act, Bath, Cool, Dry, Ready, Unbind
from ._heat_steps import heat_step, prepare
from ._script import Script, told_work


def found_in_turn(course: Course, bench: Bench, doings: Sequence[tuple[Done, int]]) -> tuple[Finding, ...]:
    """Give what the rules find when things are done in this order, each told by its kind and the number of its heat."""
    script = Script(course, bench)
    for work in course.piece.work:
        if course.slots.get(work.id) == 0:
            told_work(script, work)
    heats = {heat.number: heat for heat in course.heats}
    for kind, number in doings:
        heat = heats[number]
        if kind == "heat":
            prepare(script, heat)
            heat_step(script, heat)
        else:
            script.do(_act(script, kind, heat), script.next_n)
    return tuple(finding for _, finding in script.found)


def _act(script: Script, kind: Done, heat: Heat) -> Act:
    match kind:
        case "quench":
            return Cool(heat.body, "quench")
        case "air-cool":
            return Cool(heat.body, "air")
        case "unbind":
            return Unbind(heat.body)
        case "dry":
            return Dry(heat.body)
        case "warm-mould":
            return Ready(heat.work or "")
        case _:
            return Bath(heat.body, "acid", heat.body if script.is_heated_again(heat) else frozenset())

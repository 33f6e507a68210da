"""What can be done with the makings of stock: each change of state is one named action."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from django.db import transaction

from eskel_core.faults import refuse
from eskel_core.sizes import Answer, making_steps
from eskel_server.accounts import Clash

from .models import Making

if TYPE_CHECKING:
    from eskel_server.accounts import Workshop


def begin_making(workshop: Workshop, answer: Answer, title: str) -> Making:
    """Begin a draw-down at the mill; raise `Refused` for a result that has no passes."""
    steps = making_steps(answer)
    if not steps:
        raise refuse(
            "contradiction",
            "name",
            answer.name,
            "a draw-down has passes to mark off",
            "Begin from Draw down.",
        )
    plain: list[dict[str, Any]] = [step.model_dump(mode="json") for step in steps]
    words = title.strip() or steps[-1].text
    return Making.objects.create(workshop=workshop, title=words[:200], steps=plain)


@transaction.atomic
def mark_off(making: Making, at: int, done: int) -> Making:
    """Mark steps off, or take marks back: `at` is how many were done when it was asked, so a key pressed twice counts once."""
    making = Making.objects.select_for_update().get(pk=making.pk)
    if making.done != at:
        raise Clash("at", at, f"{making.done} steps are done by now", "Look again and go on from there.")
    if not 0 <= done <= len(making.steps):
        raise refuse(
            "out-of-range",
            "done",
            done,
            f"between 0 and {len(making.steps)} steps are done",
            "Check the number.",
        )
    making.done = done
    making.save(update_fields=["done", "marked_at"])
    return making


def put_making_away(making: Making, away: bool) -> Making:
    """Put a making away, or take it out again."""
    making.put_away = away
    making.save(update_fields=["put_away", "marked_at"])
    return making

"""What the screens are told of a calculator and of its answer."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from ninja import Schema

from eskel_core.sizes import (
    Answer,
    Calculator,
    Cut,
    KeyInfo,
    Lot,
    MakingStep,
    Shown,
    SizeCaution,
    Sketch,
    ToolAnswer,
    calculator,
    keys_of,
    shown,
)
from eskel_core.units import Units, understand

from .models import Making


class CalculatorView(Schema):
    """A calculator: its words, its keys, and an example to begin with."""

    name: str
    title: str
    group: str
    about: str
    keys: list[KeyInfo]
    example: dict[str, Any]


class AnswerView(Schema):
    """An answer: the values in the units of the house, and everything that is told with them."""

    name: str
    values: list[Shown]
    understood: dict[str, str]
    how: str
    sensitivity: list[str]
    cautions: list[SizeCaution]
    safety: list[str]
    tools: list[ToolAnswer]
    cut: Cut | None
    lot: Lot | None
    sketch: Sketch | None
    found: dict[str, Any]


class MakingView(Schema):
    """A draw-down at the mill: every step, and how many are done."""

    id: int
    title: str
    steps: list[MakingStep]
    done: int
    put_away: bool
    begun_at: datetime
    marked_at: datetime


def making_view(row: Making) -> MakingView:
    """Give a making as its page shows it."""
    return MakingView(
        id=row.pk,
        title=row.title,
        steps=[MakingStep.model_validate(step) for step in row.steps],
        done=row.done,
        put_away=row.put_away,
        begun_at=row.begun_at,
        marked_at=row.marked_at,
    )


def calculator_view(one: Calculator) -> CalculatorView:
    """Give the words and keys of a calculator."""
    return CalculatorView(
        name=one.name,
        title=one.title,
        group=one.group,
        about=one.about,
        keys=list(keys_of(one.asks)),
        example=dict(one.example),
    )


def answer_view(answer: Answer, typed: dict[str, Any], units: Units) -> AnswerView:
    """Give an answer as it is read."""
    found = answer.found
    return AnswerView(
        name=answer.name,
        values=list(shown(calculator(answer.name), found, units)),
        understood=understand(typed, units),
        how=found.how,
        sensitivity=list(found.sensitivity),
        cautions=list(found.cautions),
        safety=list(found.safety),
        tools=list(found.tools),
        cut=found.cut,
        lot=answer.lot,
        sketch=found.sketch,
        found=answer.plain(),
    )

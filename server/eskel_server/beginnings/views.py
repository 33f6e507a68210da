"""What the screens are told of starts, lines and proposals."""

from __future__ import annotations

from typing import Any

from ninja import Schema
from pydantic import Field

from eskel_core.faults import Fault
from eskel_core.joining import Change
from eskel_core.lines import Understood
from eskel_core.picture import Picture
from eskel_core.piece import Join, Part
from eskel_core.starts import StartInfo


class Miniature(Schema):
    """A plan in a few words: its heats and grades in their order, how long it takes, what the piece weighs."""

    status: str
    heats: int
    grades: list[str]
    minutes: float
    grams: float


class StartView(Schema):
    """A start as the gallery shows it: its words, its example drawn."""

    info: StartInfo
    picture: Picture


class StartTyped(Schema):
    """What a start makes of what was typed: every measure, its drawing and plan; or what is wrong, at its key."""

    asked: dict[str, Any] | None = None
    understood: dict[str, str] = Field(default_factory=dict)
    picture: Picture | None = None
    plan: Miniature | None = None
    faults: tuple[Fault, ...] = ()


class LineView(Schema):
    """A line as it was read: its part and drawing, what was understood and taken; or what was not understood, and where."""

    line: str
    part: Part | None = None
    picture: Picture | None = None
    understood: tuple[Understood, ...] = ()
    taken: tuple[str, ...] = ()
    faults: tuple[Fault, ...] = ()


class ProposalView(Schema):
    """The join that two parts call for, why each of its keys is so, and what changes with it."""

    join: Join
    why: dict[str, str]
    also: list[Change]


class Looked(Schema):
    """A piece file as it would be begun: its name, drawing and plan; or what is wrong with it."""

    name: str = ""
    parts: int = 0
    joins: int = 0
    picture: Picture | None = None
    plan: Miniature | None = None
    faults: tuple[Fault, ...] = ()

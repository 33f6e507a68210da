"""What a rule says on an occasion: its examples put to whatever it speaks in, in its own words."""

from __future__ import annotations

from functools import lru_cache

from pydantic import BaseModel, ConfigDict

from ..demands import make_problem
from ..metals import solders
from ..piece import Piece, Tool, piece_from_object, resolve_house
from ..rules import Example, cadmium, examples, over_pickle, rules
from ..search import solve
from ..sizes import Hand, calculate
from ._course import make_course
from ._in_turn import found_in_turn
from ._plan import plan


class Spoken(BaseModel):
    """A rule's own words in the example in which it speaks."""

    model_config = ConfigDict(frozen=True)

    code: str
    words: tuple[str, ...]


def spoken(example: Example) -> tuple[Spoken, ...]:
    """Give everything that is said on an occasion, each code with its words."""
    told: dict[str, list[str]] = {}
    for code, words in _said(example):
        told.setdefault(code, []).append(words)
    return tuple(Spoken(code=code, words=tuple(words)) for code, words in told.items())


@lru_cache(maxsize=1)
def rules_speaking() -> tuple[Spoken, ...]:
    """Give for each rule of the catalogue its own words in the example in which it speaks."""
    found = []
    for code in rules():
        said = {one.code: one.words for one in spoken(examples()[code][0])}
        found.append(Spoken(code=code, words=said.get(code, ())))
    return tuple(found)


def _said(example: Example) -> list[tuple[str, str]]:
    if example.size is not None:
        name, typed = example.size
        hand = Hand(tools=tuple(Tool.model_validate(tool) for tool in example.tools))
        return [(caution.code, caution.text) for caution in calculate(name, dict(typed), hand).found.cautions]
    if example.solders:
        table = solders()
        marked = [table[name].model_copy(update={"cadmium": holds}) for name, holds in example.solders]
        return [(one.code, one.text) for one in cadmium(marked)]
    if example.pot is not None:
        minutes, longest, warm = example.pot
        return [(one.code, one.text) for one in over_pickle(minutes, longest, warm=warm)]
    piece = piece_from_object(dict(example.piece or {}))
    if example.doings:
        return _in_turn(piece, example)
    made = plan(piece)
    said = [(caution.code, caution.text) for caution in made.cautions]
    return said + [(one.code, one.text) for one in (made.conflict.demands if made.conflict else ())]


def _in_turn(piece: Piece, example: Example) -> list[tuple[str, str]]:
    problem = make_problem(piece, resolve_house(piece.house))
    found = solve(problem)
    if found is None:
        return []
    doings = found_in_turn(make_course(problem, found), problem.bench, example.doings)
    return [(finding.code, finding.text) for finding in doings]

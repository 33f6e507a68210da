"""What was said of a heat, copy by copy: how each came out, what still waits for its word."""

from __future__ import annotations

from collections.abc import Iterator

from ..log import SOUND, Outcome
from ._faces import Face
from ._standing import Came
from ._state import JoinWord, Turn


def asked_of(face: Face, turn: Turn) -> dict[str, int]:
    """Give what is asked of a turn, each with how many are alike: its joins, or the work that it does."""
    if face.work is not None:
        return {face.work: face.alike}
    each = dict(zip(face.joins, face.each, strict=False))
    joins = face.joins if turn.again == 1 else tuple(join for join in face.joins if join in turn.joins)
    return {join: each.get(join, 1) for join in joins}


def bad_words(turn: Turn, asked: dict[str, int]) -> Iterator[Came]:
    """Give the words of a turn that are not sound, each with the copies on which it stands (none: on all)."""
    for name, alike in asked.items():
        found = by_copy(turn, name, alike)
        for word in dict.fromkeys(found.values()):
            if not SOUND[word]:
                copies = tuple(copy for copy, has in found.items() if has == word)
                yield (name, word, () if len(copies) == alike else copies)


def by_copy(turn: Turn, name: str, alike: int) -> dict[int, Outcome]:
    found: dict[int, Outcome] = {}
    for word in _words_of(turn, name):
        for copy in word.copies or range(1, alike + 1):
            found[copy] = word.outcome
    return dict(sorted(found.items()))


def _words_of(turn: Turn, name: str) -> list[JoinWord]:
    return [word for word in turn.outcomes if word.join == name]


def is_said(turn: Turn, name: str, alike: int) -> bool:
    return len(by_copy(turn, name, alike)) >= alike


def outcome_rows(turn: Turn, asked: dict[str, int]) -> Iterator[tuple[str, int, Outcome, int]]:
    """Give each outcome of a turn, copy by copy: of what, which copy, how, and when, ms."""
    for name, alike in asked.items():
        at = {word.outcome: word.at_ms for word in _words_of(turn, name)}
        for copy, outcome in by_copy(turn, name, alike).items():
            yield name, copy, outcome, at[outcome]

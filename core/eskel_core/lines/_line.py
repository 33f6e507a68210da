"""A line while it is read: what it holds, what was understood of it so far, and what a word is by where it stands."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from pydantic import BaseModel, ConfigDict

from ..faults import Fault, Refused
from ..units import Units
from ._measures import Measures
from ._scan import Group, Scanned, Word
from ._words import KINDS, NAMING_ROLES, ROLES

Tokens = tuple[Group | Word, ...]
BENDS = frozenset({"wire", "half-round", "strip", "ring"})


class Understood(BaseModel):
    """One stretch of a line, and what it was understood as."""

    model_config = ConfigDict(frozen=True)

    text: str
    said: str
    start: int
    end: int


@dataclass
class Line:
    """A line while it is read."""

    text: str
    units: Units
    scanned: Scanned
    metal: str | None = None
    temper: str | None = None
    marks: dict[str, Any] = field(default_factory=dict)
    measures: Measures = field(default_factory=Measures)
    naming: list[Word] = field(default_factory=list)
    understood: list[Understood] = field(default_factory=list)
    taken: list[str] = field(default_factory=list)

    def note(self, span: tuple[int, int], said: str) -> None:
        """Keep what a stretch of the line was understood as."""
        text = self.text[span[0] : span[1]].strip()
        self.understood.append(Understood(text=text, said=said, start=span[0], end=span[1]))

    def refusal(self, span: tuple[int, int], code: str, rule: str, remedy: str) -> Refused:
        """Make the refusal of a stretch of the line."""
        path = f"line[{span[0]}:{span[1]}]"
        return Refused(
            [Fault(code=code, path=path, value=self.text[span[0] : span[1]], rule=rule, remedy=remedy)]
        )


def word_at(tokens: Tokens, n: int) -> str:
    """Give the word at a place; none where there is a number, or nothing."""
    token = tokens[n] if 0 <= n < len(tokens) else None
    return token.text if isinstance(token, Word) else ""


def names(tokens: Tokens, n: int) -> bool:
    """Say whether a measure's name tells one part from another: `outer bezel`, not `5 outer`."""
    after = KINDS.get(word_at(tokens, n + 1))
    return (
        word_at(tokens, n) in NAMING_ROLES
        and after is not None
        and not (n > 0 and isinstance(tokens[n - 1], Group))
    )


def is_noun(tokens: Tokens, n: int) -> bool:
    """Say whether a word that may be a measure's name is what the line is of: `wall 0.8 × 8 × 120`, not `tube 3, wall 0.4`."""
    nouns = [m for m, one in enumerate(tokens) if isinstance(one, Word) and one.text in KINDS]
    return nouns == [n]


def is_role(tokens: Tokens, n: int) -> bool:
    """Say whether a word is a measure's name there."""
    return word_at(tokens, n) in ROLES and not names(tokens, n) and not is_noun(tokens, n)


def goes_round(tokens: Tokens, n: int) -> bool:
    """Say whether the word there tells what is gone round (`bezel 0.35 × 3.2 round 14`), and not a section (`round 1.2 wire`).

    What goes round something was named before; two measures are of an oval, never of round wire.
    """
    told = tokens[n + 1] if n + 1 < len(tokens) else None
    if not isinstance(told, Group):
        return False
    bent = [isinstance(one, Word) and KINDS.get(one.text) in BENDS for one in tokens]
    return any(bent[:n]) or (any(bent) and word_at(tokens, n + 2) in ("oval", "ellipse"))

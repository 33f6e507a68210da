"""What can be asked of the log, as a smith asks it."""

from __future__ import annotations

import re

from eskel_core.plan import each_by_log
from eskel_server.runs import worked_minutes

MOST_LINES = 100
MOST_HEATS = 300
MOST_WORDS = 12
# What a question has beside what is looked for.
_LITTLE = frozenset(
    {
        "a",
        "an",
        "and",
        "at",
        "did",
        "for",
        "how",
        "i",
        "in",
        "is",
        "it",
        "of",
        "on",
        "or",
        "the",
        "to",
        "was",
        "what",
        "when",
        "where",
        "which",
        "with",
    }
)
_QUOTED_OR_WORD = re.compile(r'"([^"]+)"|(\S+)')
_THICK = re.compile(r"\b(thin|middling|heavy) (wire|sheet)\b", re.IGNORECASE)


def some(words: str) -> tuple[str, ...]:
    """Give what is looked for in a question: its words without the little ones; what is quoted, and how thick a stock is, whole.

    >>> some("What went well with medium on thin wire?")
    ('went', 'well', 'medium', 'thin wire')
    """
    whole = _THICK.sub(r'"\1 \2"', words.replace('"', " ") if words.count('"') % 2 else words)
    found = [quoted or word.strip("?!.,;:") for quoted, word in _QUOTED_OR_WORD.findall(whole)]
    return tuple(word for word in found if word and word.lower() not in _LITTLE)[:MOST_WORDS]


def minutes_by_log() -> list[tuple[str, float, int]]:
    """Give the minutes that the log shows for each kind of work that it knows well enough: kind, minutes each, how often."""
    known = ((kind, each_by_log(kind, done), len(done)) for kind, done in sorted(worked_minutes().items()))
    return [(kind, each, often) for kind, each, often in known if each is not None]

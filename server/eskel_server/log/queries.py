"""What can be asked of the log."""

from __future__ import annotations

from eskel_core.plan import each_by_log
from eskel_server.runs import RunLine, find_runs, worked_minutes

MOST_LINES = 200
MOST_WORDS = 12


def find(words: str) -> list[RunLine]:
    """Give the runs in whose piece, notes or outcomes every word is found; the newest of all for no words."""
    return find_runs(some(words), MOST_LINES)


def some(words: str) -> str:
    """Give so many words as are looked for."""
    return " ".join(words.split()[:MOST_WORDS])


def minutes_by_log() -> list[tuple[str, float, int]]:
    """Give the minutes that the log shows for each kind of work that it knows well enough: kind, minutes each, how often."""
    known = ((kind, each_by_log(kind, done), len(done)) for kind, done in sorted(worked_minutes().items()))
    return [(kind, each, often) for kind, each, often in known if each is not None]

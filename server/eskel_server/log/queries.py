"""What can be asked of the log."""

from __future__ import annotations

from eskel_server.runs import RunLine, find_runs

MOST_LINES = 200
MOST_WORDS = 12


def find(words: str) -> list[RunLine]:
    """Give the runs in whose piece, notes or outcomes every word is found; the newest of all for no words."""
    return find_runs(" ".join(words.split()[:MOST_WORDS]), MOST_LINES)

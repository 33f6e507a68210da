"""What can be asked of the log."""

from __future__ import annotations

from django.db.models import Q

from eskel_core.log import OUTCOMES
from eskel_server.runs import runs_of
from eskel_server.runs.models import Run

MOST_LINES = 200


def find_runs(words: str) -> list[Run]:
    """Give the runs in whose piece, notes or outcomes every word is found; all of them for no words."""
    found = runs_of()
    for word in words.split():
        named = [one.outcome for one in OUTCOMES if word.lower() in one.words.lower()]
        found = found.filter(
            Q(piece_name__icontains=word)
            | Q(state__icontains=word)
            | Q(records__note__icontains=word)
            | Q(records__outcomes__outcome__in=named)
        )
    return list(found.distinct()[:MOST_LINES])

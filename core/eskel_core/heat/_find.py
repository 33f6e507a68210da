"""The best programme of signs for a heat, found on a rough body and followed by every hand on the fine one."""

from __future__ import annotations

from collections.abc import Callable

from ._follow import Followed
from ._search import GENERATIONS, Ways, on_fine, search


def best_programme(
    fine: Ways, rough: Ways, tick: Callable[[float], None] | None = None, generations: int = GENERATIONS
) -> Followed:
    """Give the programme that comes out well in most hands, as all of them follow it on the fine body.

    Where a programme of the rough body has no like on the fine one, it is searched for there, with less effort.
    `tick` is told how far a search is, 0 to 1, and may raise to stop.
    """
    ranked = search(rough, generations, tick=tick)
    if fine is rough:
        return ranked[0]
    found = on_fine(fine, ranked)
    return found[0] if found else search(fine, generations=2, tick=tick)[0]

"""What a calculator is asked with: the workshop's tools, house rules and prices."""

from __future__ import annotations

from typing import TYPE_CHECKING

from eskel_core.metals import PriceFeed, ShippedPrices
from eskel_core.piece import resolve_house
from eskel_core.sizes import Hand
from eskel_server.accounts import Missing, current_workshop
from eskel_server.bench import bench_of

if TYPE_CHECKING:
    from .models import Making

FEED: PriceFeed = ShippedPrices()


def hand() -> Hand:
    """Give what is at hand in the workshop."""
    house, bench = bench_of(current_workshop())
    return Hand(tools=bench.tools or (), house=resolve_house(house), prices=FEED.prices())


def making_of(key: int) -> Making:
    """Give a making of this workshop; raise `Missing` when there is none."""
    from .models import Making

    row = Making.objects.filter(workshop=current_workshop(), pk=key).first()
    if row is None:
        raise Missing("making", key)
    return row

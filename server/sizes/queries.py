"""What a calculator is asked with: the workshop's tools, house rules and prices."""

from __future__ import annotations

from accounts import current_workshop
from bench import bench_of
from eskel_core.metals import PriceFeed, ShippedPrices
from eskel_core.piece import resolve_house
from eskel_core.sizes import Hand

FEED: PriceFeed = ShippedPrices()


def hand() -> Hand:
    """Give what is at hand in the workshop."""
    house, bench = bench_of(current_workshop())
    return Hand(tools=bench.tools or (), house=resolve_house(house), prices=FEED.prices())

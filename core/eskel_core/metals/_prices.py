"""Prices of metals per gram, behind one interface: the shipped feed is a simulated stand-in of invented round figures."""

from __future__ import annotations

import csv
from collections.abc import Mapping
from functools import lru_cache
from importlib.resources import files
from types import MappingProxyType
from typing import Protocol


class PriceFeed(Protocol):
    """What gives the price of each metal per gram, by its id, in the smith's own money."""

    def prices(self) -> Mapping[str, float]:
        """Give the prices of now."""


class ShippedPrices:
    """The simulated feed: the same figures every day, to be replaced by the smith's own."""

    def prices(self) -> Mapping[str, float]:
        """Give the shipped prices."""
        return _shipped()


@lru_cache(maxsize=1)
def _shipped() -> Mapping[str, float]:
    text = (files("eskel_core") / "data" / "prices.csv").read_text(encoding="utf-8")
    rows = csv.DictReader(text.splitlines())
    return MappingProxyType({row["metal"]: float(row["price_per_g"]) for row in rows})

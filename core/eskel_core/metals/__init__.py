"""The tables of the trade: metals, solders, torches, surfaces, pickles, fluxes and the rest.

Concepts: each row of a table in `data/` is a frozen record with its unit in every name. The
values are defaults from common trade knowledge; a supplier's sheet wins (`data/README.md`).
"""

from ._melted import FLAT_SHARE, ball_flat_mm, drop_limit_mm
from ._prices import PriceFeed, ShippedPrices
from ._solder_use import (
    CHIP_MM,
    CHIP_THICK_MM,
    FEED_WIRE_MM,
    FILLET_MM,
    GAP_MM,
    PASTE_METAL_SHARE,
    solder_volume_mm3,
)
from ._suit import CONTAMINATES_FROM_C, heat_harm, melts_together_c, solder_suits
from ._tables import (
    blade_for,
    fluxes,
    glow_bands,
    metals,
    pickles,
    saw_blades,
    solders,
    surfaces,
    temper_reduction_pct,
    torches,
)
from ._types import Flux, GlowBand, Grade, Metal, MetalFamily, Pickle, SawBlade, Solder, Surface, Torch

__all__ = [
    "CHIP_MM",
    "CHIP_THICK_MM",
    "CONTAMINATES_FROM_C",
    "FEED_WIRE_MM",
    "FILLET_MM",
    "FLAT_SHARE",
    "GAP_MM",
    "PASTE_METAL_SHARE",
    "Flux",
    "GlowBand",
    "Grade",
    "Metal",
    "MetalFamily",
    "Pickle",
    "PriceFeed",
    "SawBlade",
    "ShippedPrices",
    "Solder",
    "Surface",
    "Torch",
    "ball_flat_mm",
    "blade_for",
    "drop_limit_mm",
    "fluxes",
    "glow_bands",
    "heat_harm",
    "melts_together_c",
    "metals",
    "pickles",
    "saw_blades",
    "solder_suits",
    "solder_volume_mm3",
    "solders",
    "surfaces",
    "temper_reduction_pct",
    "torches",
]

"""Melted metal under surface tension: the flat on which a ball rests, and the ball that its wire still bears."""

from __future__ import annotations

import math

from ._types import Metal

GRAVITY_M_S2 = 9.81
NECK_SHARE = 0.6
FLAT_SHARE = 0.25  # of its own width: a ball that rests on a wider flat is told


def ball_flat_mm(ball_mm: float, metal: Metal) -> float:
    """Give the flat on which a loose molten ball rests on a dry block: 2·√(2/3)·R²/ℓ, ℓ = √(γ/(ρ·g)), mm.

    A small heavy drop: L. Mahadevan and Y. Pomeau, Rolling droplets, Physics of Fluids 11 (1999), 2449.
    """
    capillary = math.sqrt(metal.liquid_surface_tension_n_m / _weight_n_m3(metal)) * 1000
    return 2 * math.sqrt(2 / 3) * (ball_mm / 2) ** 2 / capillary


def drop_limit_mm(wire_mm: float, metal: Metal) -> float:
    """Give the ball whose weight its wire's neck can just bear: (6·d·γ·0.6/(ρ·g))^(1/3), mm."""
    pull = 6 * wire_mm / 1000 * metal.liquid_surface_tension_n_m * NECK_SHARE
    return float((pull / _weight_n_m3(metal)) ** (1 / 3)) * 1000


def _weight_n_m3(metal: Metal) -> float:
    return metal.liquid_density_g_cm3 * 1000 * GRAVITY_M_S2

"""Work that is not heated as it is drawn: long wire wound into a coil to be annealed, a charge run together to be melted.

A coil is reckoned as a ring whose own thickness is a fifth of its diameter, the turns close together: it shows the
flame and the air the surface of that ring, and every place on it is where its turn lies. A charge is a ball.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..cooling import CONVECTION_W_M2K, wire_convection_w_m2k
from ..forms import Form, Strip, Wire
from ._network import Ground, Network

Gather = Literal["coil", "charge", "melt"]
# A charge that is melted to be poured sits in a crucible of fired clay (k 1.0 W/mK, ρc 1.6 MJ/m³K) with so much of its
# surface; molten metal wets the glaze.
CRUCIBLE = Ground(effusivity=1265.0, contact_w_m2k=1500.0)
SITS_SHARE, POOL_TIMES = 0.5, 1.5
_THICK_SHARE = 0.2
_LONG_MM, _TURNS = 150.0, 1.5


@dataclass(frozen=True)
class Gathered:
    """How work was gathered, and how far it is across, mm."""

    how: Gather
    across_mm: float


def gathered(how: Gather, form: Form, volume_mm3: float) -> Gathered | None:
    """Say how work of a form and a volume, mm³, is gathered; None where it lies as it is drawn."""
    if how != "coil":
        return Gathered(how, math.cbrt(6 * volume_mm3 / math.pi))
    if not isinstance(form, Wire | Strip) or form.closed or form.length_mm < _LONG_MM:
        return None
    # A ring of diameter D and thickness D/5 holds π·D · π·(D/5)²/4.
    across = math.cbrt(4 * volume_mm3 / (math.pi * _THICK_SHARE) ** 2)
    return Gathered("coil", across) if form.length_mm > _TURNS * math.pi * across else None


def gather(network: Network, to: Gathered, length_mm: float) -> Network:
    """Lay the cells of a body as it is gathered; the cells of a coil are those of one row of a length, mm, in order."""
    many = len(network)
    if to.how == "coil":
        thick = _THICK_SHARE * to.across_mm
        surface = math.pi**2 * to.across_mm * thick * 1e-6
        turn = 2 * length_mm / to.across_mm * (np.arange(many) + 0.5) / many
        x, y = to.across_mm / 2 * np.cos(turn), to.across_mm / 2 * np.sin(turn)
        across, convection = thick, wire_convection_w_m2k(thick)
    else:
        # What is melted runs into a pool, broader than a ball of it.
        broad = POOL_TIMES if to.how == "melt" else 1.0
        surface = math.pi * (broad * to.across_mm) ** 2 / (2 if to.how == "melt" else 1) * 1e-6
        x = y = np.zeros(many)
        across, convection = broad * to.across_mm, CONVECTION_W_M2K
    sits = SITS_SHARE if to.how == "melt" else 0.0
    share = network.capacity_j_k / network.capacity_j_k.sum()
    was = float(network.surface_m2.sum() + network.ground_m2.sum())
    ground = network.ground_m2 * min(1.0, surface / max(was, 1e-12))
    loses = surface * share * (1 - sits)
    if not sits:
        np.subtract.at(loses, network.ground, ground)
    return replace(
        network,
        surface_m2=np.maximum(loses, 0.0),
        above_m2=surface * min(0.5, 1 - sits) * share,
        below_m2=surface / 2 * share,
        wash_m2=surface * share * (1 - sits),
        across_mm=np.full(many, across),
        ball=np.full(many, to.how != "coil"),
        along=np.zeros(many, bool),
        z_mm=np.zeros(many),
        convection_w_m2k=np.full(many, convection),
        x_mm=x,
        y_mm=y,
        ground=np.arange(many) if sits else network.ground,
        ground_m2=surface * share * sits if sits else ground,
        effusivity=CRUCIBLE.effusivity if sits else network.effusivity,
        contact_w_m2k=np.full(many, CRUCIBLE.contact_w_m2k) if sits else network.contact_w_m2k,
    )

"""Work that is not heated as it is drawn: long wire wound into a coil to be annealed, a charge run together to be melted.

A coil is reckoned as a ring whose own thickness is a fifth of its diameter, the turns close together: it shows the
flame and the air the surface of that ring, and every place on it is where its turn lies. A charge is a ball.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..forms import Form, Strip, Wire
from ._cells import CONVECTION_W_M2K, wire_convection_w_m2k
from ._network import Network

Gather = Literal["coil", "charge"]
_THICK_SHARE = 0.2
_LONG_MM, _TURNS = 150.0, 1.5


@dataclass(frozen=True)
class Gathered:
    """How work was gathered, and how far it is across, mm."""

    how: Gather
    across_mm: float


def gathered(how: Gather, form: Form, volume_mm3: float) -> Gathered | None:
    """Say how work of a form and a volume, mm³, is gathered; None where it lies as it is drawn."""
    if how == "charge":
        return Gathered("charge", math.cbrt(6 * volume_mm3 / math.pi))
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
        surface = math.pi * to.across_mm**2 * 1e-6
        x = y = np.zeros(many)
        across, convection = to.across_mm, CONVECTION_W_M2K
    share = network.capacity_j_k / network.capacity_j_k.sum()
    less = surface / max(float(network.surface_m2.sum()), 1e-12)
    return replace(
        network,
        surface_m2=surface * share,
        above_m2=surface / 2 * share,
        below_m2=surface / 2 * share,
        wash_m2=surface * share,
        across_mm=np.full(many, across),
        ball=np.full(many, to.how == "charge"),
        z_mm=np.zeros(many),
        convection_w_m2k=np.full(many, convection),
        x_mm=x,
        y_mm=y,
        ground_m2=network.ground_m2 * min(1.0, less),
    )

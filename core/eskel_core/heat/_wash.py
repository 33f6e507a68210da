"""What stands in a flame: the speed of its gas, and the film of thin wire and small balls that it washes all round.

The speed follows from what a torch burns: its gas at its temperature has to pass the middle of its footprint. Films are those
of a cylinder (Churchill and Bernstein, "A correlating equation for forced convection from gases and liquids to a
circular cylinder in crossflow", J. Heat Transfer 99, 1977) and a sphere (Whitaker, "Forced convection heat transfer
correlations for flow in pipes, past flat plates, single cylinders, single spheres …", AIChE Journal 18, 1972). What gets round
an edge into the lee of wider work: Richardson, "Heat and mass transfer in turbulent separated flows", Chem. Eng. Sci. 18, 1963.
"""

from __future__ import annotations

import math
from functools import lru_cache

from ..cooling import KELVIN
from ..metals import Torch

# Burnt gas for each joule, kg: a hydrocarbon with the air it needs (16.6 kg of gas, 46 MJ), and with oxygen (4.6 kg).
_WITH_AIR_KG_J, _WITH_OXYGEN_KG_J = 16.6 / 46e6, 4.6 / 46e6
_GAS_KG_MOL, _GAS_J_MOL_K, _PRESSURE_PA = 0.028, 8.314, 101_325.0
_PRANDTL = 0.7
_WARM_C = 700.0
# Up to here, in footprints, a part is thin and washed all round; from there on it is wide and shows one side. In between some of both.
_THIN, _WIDE = 0.33, 0.5


def gas_speed_m_s(torch: Torch) -> float:
    """Give how fast the burnt gas of a torch goes, m/s: what it burns, through a disc as wide as its footprint."""
    burnt = _WITH_OXYGEN_KG_J if "oxygen" in torch.fuel else _WITH_AIR_KG_J
    density = _PRESSURE_PA * _GAS_KG_MOL / (_GAS_J_MOL_K * (torch.gas_temp_c + KELVIN))
    return torch.heat_w * burnt / density / (math.pi * (torch.footprint_mm / 2000) ** 2)


def _air(kelvin: float) -> tuple[float, float]:
    """Give the viscosity, m²/s, and conductivity, W/mK, of hot gas as of air (Sutherland; a fit of the tables to 2,000 K)."""
    dynamic = 1.716e-5 * (kelvin / KELVIN) ** 1.5 * (KELVIN + 111) / (kelvin + 111)
    density = _PRESSURE_PA * 0.02896 / (_GAS_J_MOL_K * kelvin)
    return dynamic / density, 0.0241 * (kelvin / KELVIN) ** 0.8


@lru_cache(maxsize=4096)
def washed_film_w_m2k(across_mm: float, torch: Torch, *, ball: bool) -> float:
    """Give the film of a thin wire, or of a small ball, in the middle of a flame, W/m²K: never less than the torch's own."""
    kelvin = (torch.gas_temp_c + _WARM_C) / 2 + KELVIN
    viscosity, conductivity = _air(kelvin)
    reynolds = gas_speed_m_s(torch) * across_mm / 1000 / viscosity
    if ball:
        nusselt = 2 + (0.4 * reynolds**0.5 + 0.06 * reynolds ** (2 / 3)) * _PRANDTL**0.4
    else:
        nusselt = 0.3 + (
            0.62 * reynolds**0.5 * _PRANDTL ** (1 / 3) / (1 + (0.4 / _PRANDTL) ** (2 / 3)) ** 0.25
        ) * (1 + (reynolds / 282_000) ** (5 / 8)) ** (4 / 5)
    film: float = nusselt * conductivity / (across_mm / 1000)
    return max(torch.film_w_m2k, film)


def lee_share(torch: Torch) -> float:
    """Give what the lee of a body takes beside its face, by area: 0.057·Re^(2/3) beside 0.37·Re^(1/2), 0.5 to 0.66 in the table's flames.

    The flow is as wide as the flame, twice its footprint.
    """
    viscosity, _ = _air((torch.gas_temp_c + _WARM_C) / 2 + KELVIN)
    reynolds = gas_speed_m_s(torch) * 2 * torch.footprint_mm / 1000 / viscosity
    share: float = 0.057 / 0.37 * reynolds ** (1 / 6)
    return share


def layer_mm(torch: Torch) -> float:
    """Give how thick the layer of slow gas is that a flame has over a face, mm: 1.95·√(ν·D/U), 0.4 to 1.3 mm in the table's.

    Of a round jet on a face, to where the gas has 99 % of its speed along it (Schlichting, "Boundary-Layer Theory", axially
    symmetrical stagnation flow; the gradient of speed taken as U/D, D twice the footprint).
    """
    viscosity, _ = _air((torch.gas_temp_c + _WARM_C) / 2 + KELVIN)
    return 1950 * math.sqrt(viscosity * 2 * torch.footprint_mm / 1000 / gas_speed_m_s(torch))


def thinness(across_mm: float, torch: Torch) -> float:
    """Give how far a part is washed all round, 0 to 1: narrower than about a third of the footprint it is."""
    share = across_mm / torch.footprint_mm
    return min(1.0, max(0.0, (_WIDE - share) / (_WIDE - _THIN)))

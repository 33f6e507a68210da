"""Cooling in still air: of a body at one temperature, and of the face of a block that was held hot.

Losses are those of the model of heat: natural convection of 12 W/m²K, for wire 12 + 0.033/d (d in m), and radiation.
"""

from __future__ import annotations

import math
from functools import lru_cache

# What may be touched for minutes without a burn, whatever it is made of (ISO 13732-1: 48 °C for ten minutes).
TOUCH_C = 48.0
ROOM_C = 20.0
CONVECTION_W_M2K = 12.0
_WIRE_CONVECTION_W_MK = 0.033
SIGMA = 5.670374419e-8
KELVIN = 273.15
_STEP_C = 2.0
_BLOCK_EMISSIVITY = 0.9
_LONGEST_S, _TIMES = 4 * 3600.0, 80


def wire_convection_w_m2k(thick_mm: float) -> float:
    """Give what wire loses to still air, W/m²K."""
    return CONVECTION_W_M2K + _WIRE_CONVECTION_W_MK / (thick_mm / 1000)


@lru_cache(maxsize=4096)
def body_touch_s(
    capacity_j_k: float, surface_m2: float, from_c: float, *, emissivity: float, wire_mm: float | None = None
) -> float:
    """Give how long a body cools until it can be touched, s: what it stores over what it loses, degree by degree.

    `capacity_j_k` is its mass times its specific heat, `surface_m2` what of it faces the room, `wire_mm` how thick it is where it is wire.

    >>> round(body_touch_s(2.4, 0.0008, 740, emissivity=0.5) / 60, 1)
    8.3
    """
    convection = wire_convection_w_m2k(wire_mm) if wire_mm else CONVECTION_W_M2K
    seconds, at_c = 0.0, from_c
    while at_c > TOUCH_C:
        step = min(_STEP_C, at_c - TOUCH_C)
        middle = at_c - step / 2
        seconds += capacity_j_k * step / (surface_m2 * _lost_w_m2(middle, convection, emissivity))
        at_c -= step
    return seconds


@lru_cache(maxsize=256)
def block_touch_s(effusivity: float, held_c: float, held_s: float) -> float:
    """Give how long the face of a block stays too hot to touch once the flame has gone, s; 0 where there is no block (effusivity 0).

    `effusivity` in W·√s/m²K. A half-space whose face was held at a temperature for some seconds forgets that as (2/π)·asin√(held/(held + t))
    where nothing is lost (Carslaw and Jaeger 1959, 2.4), and what its face loses to the room since then cools it further, as
    ∫ q(s)/(e·√(π·(t − s))) ds. That sum is taken over times that grow with the time itself.
    """
    if effusivity <= 0 or held_s <= 0 or held_c <= TOUCH_C:
        return 0.0
    first_s = held_s * 0.02
    times = [first_s * math.pow(_LONGEST_S / first_s, n / _TIMES) for n in range(_TIMES + 1)]
    lost, passes = list[float](), effusivity * math.sqrt(math.pi)
    began, above = 0.0, held_c
    for n, now in enumerate(times):
        rest = (held_c - ROOM_C) * 2 / math.pi * math.asin(math.sqrt(held_s / (held_s + now)))
        fell = 0.0
        for m in range(n):
            start = times[m - 1] if m else 0.0
            # A flux that stays the same from a to b cools the face by 2q/(e·√π)·(√(t − a) − √(t − b)).
            fell += lost[m] * 2 * (math.sqrt(now - start) - math.sqrt(now - times[m]))
        last = 2 * math.sqrt(now - (times[n - 1] if n else 0.0))
        face = _settled(ROOM_C + rest - fell / passes, last / passes)
        if face <= TOUCH_C:
            return began + (now - began) * (above - TOUCH_C) / (above - face)
        began, above = now, face
        lost.append(_lost_w_m2(face, CONVECTION_W_M2K, _BLOCK_EMISSIVITY))
    return _LONGEST_S


def _settled(kept_c: float, per_w_m2: float) -> float:
    """Give the temperature of the face where it falls from what is kept by what it loses in the last step itself (by halving)."""
    low, high = ROOM_C, max(ROOM_C, kept_c)
    for _ in range(40):
        middle = (low + high) / 2
        if kept_c - per_w_m2 * _lost_w_m2(middle, CONVECTION_W_M2K, _BLOCK_EMISSIVITY) > middle:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _lost_w_m2(at_c: float, convection: float, emissivity: float) -> float:
    """Give what a face loses to the room, W/m²."""
    radiated = emissivity * SIGMA * ((at_c + KELVIN) ** 4 - (ROOM_C + KELVIN) ** 4)
    return convection * (at_c - ROOM_C) + radiated

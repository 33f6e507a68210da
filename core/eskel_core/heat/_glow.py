"""The colour of hot metal: Planck's law over what the eye sees, to sRGB at the light of a room.

The glow adds to what the metal shows of the room: it is seen once it is bright beside that. The eye's response is
the fit of the CIE 1931 observer by sums of lopsided bells (Wyman, Sloan, Shirley, "Simple analytic approximations to
the CIE XYZ color matching functions", J. Computer Graphics Techniques 2(2), 2013). How strongly an eye that is used to
the room answers to it follows R = Lⁿ/(Lⁿ + σⁿ), n = 0.73 (Naka and Rushton, J. Physiology 185, 1966).
"""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import numpy as np

from ..metals import glow_bands
from ._grid import Floats
from ._march import KELVIN

Light = Literal["dark", "dim", "daylight"]
_C1L, _C2 = 1.191042972e-16, 1.438776877e-2
_WAVES = np.arange(380e-9, 781e-9, 5e-9)
_TO_RGB = np.array([[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]])
# The luminance, cd/m², that an eye used to each light answers to by half, and the metal's own look there (linear).
_HALF = {"dark": 0.5, "dim": 6.0, "daylight": 80.0}
_ANSWER = 0.73
_METAL = {"dark": 0.012, "dim": 0.07, "daylight": 0.42}
_LUMENS = 683.0


def _bell(wave: Floats, middle: float, left: float, right: float) -> Floats:
    made: Floats = np.exp(-0.5 * ((wave - middle) * np.where(wave < middle, left, right)) ** 2)
    return made


@lru_cache(maxsize=1)
def _eye() -> Floats:
    nm = _WAVES * 1e9
    x = (
        0.362 * _bell(nm, 442.0, 0.0624, 0.0374)
        + 1.056 * _bell(nm, 599.8, 0.0264, 0.0323)
        - 0.065 * _bell(nm, 501.1, 0.0490, 0.0382)
    )
    y = 0.821 * _bell(nm, 568.8, 0.0213, 0.0247) + 0.286 * _bell(nm, 530.9, 0.0613, 0.0322)
    z = 1.217 * _bell(nm, 437.0, 0.0845, 0.0278) + 0.681 * _bell(nm, 459.0, 0.0385, 0.0725)
    return np.stack([x, y, z])


def luminance_cd_m2(t_c: float, emissivity: float = 0.5) -> float:
    """Give how bright hot metal is to the eye, cd/m²."""
    return float(_xyz(t_c, emissivity)[1])


def _xyz(t_c: float, emissivity: float) -> Floats:
    kelvin = max(t_c, 0.0) + KELVIN
    radiance = emissivity * _C1L / (_WAVES**5 * np.expm1(_C2 / (_WAVES * kelvin)))
    made: Floats = _LUMENS * (_eye() @ radiance) * 5e-9
    return made


def glow_rgb(t_c: float, light: Light, emissivity: float = 0.5) -> tuple[int, int, int]:
    """Give the sRGB colour, 0 to 255, of metal at a temperature by the light of a room.

    >>> glow_rgb(20, "dim") == glow_rgb(300, "dim")
    True
    """
    xyz = _xyz(t_c, emissivity)
    power = float(xyz[1] / _HALF[light]) ** _ANSWER
    answer = power / (1 + power)
    rgb = _TO_RGB @ xyz
    # Colours too pure for the screen are drawn towards grey until none is negative.
    grey, least = max(float(rgb.mean()), 1e-30), float(rgb.min())
    if least < 0:
        rgb = grey + (rgb - grey) * grey / (grey - least)
    shown = _METAL[light] + answer * rgb / max(float(rgb.max()), 1e-30)
    shown = shown / max(1.0, float(shown.max()))
    coded = np.where(shown <= 0.0031308, 12.92 * shown, 1.055 * np.maximum(shown, 1e-9) ** (1 / 2.4) - 0.055)
    r, g, b = (round(255 * float(one)) for one in coded)
    return r, g, b


def glow_word(t_c: float, light: Light) -> str:
    """Name the glow at a temperature by the light of a room.

    >>> glow_word(700, "dark"), glow_word(700, "daylight")
    ('dark cherry', 'first red')
    """
    bands = glow_bands()
    band = next((one for one in bands if t_c < one.high_c), bands[-1])
    word: str = getattr(band, light)
    return word

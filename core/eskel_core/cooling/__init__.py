"""How a body and the block under it cool in still air: what is lost to it, and how long they stay too hot to touch."""

from ._touch import (
    CONVECTION_W_M2K,
    KELVIN,
    ROOM_C,
    SIGMA,
    TOUCH_C,
    block_touch_s,
    body_touch_s,
    wire_convection_w_m2k,
)

__all__ = [
    "CONVECTION_W_M2K",
    "KELVIN",
    "ROOM_C",
    "SIGMA",
    "TOUCH_C",
    "block_touch_s",
    "body_touch_s",
    "wire_convection_w_m2k",
]

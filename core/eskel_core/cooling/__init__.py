"""How long a body and the block under it stay too hot to touch, once the flame has gone."""

from ._touch import TOUCH_C, block_touch_s, body_touch_s

__all__ = ["TOUCH_C", "block_touch_s", "body_touch_s"]

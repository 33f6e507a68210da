"""The kinds of work beside soldering, and the kinds of step that take a smith's time."""

from __future__ import annotations

from typing import Literal

WorkKind = Literal[
    "anneal",
    "ball",
    "melt",
    "pour",
    "deplete",
    "bend",
    "dome",
    "twist",
    "roll",
    "draw",
    "forge",
    "texture",
    "saw",
    "divide",
    "trim",
    "drill",
    "hang",
    "bind",
    "unbind",
    "resist",
    "size",
    "dry",
    "set",
    "press",
    "dimple",
    "straighten",
    "flatten",
    "tap",
    "engrave",
    "harden",
    "tumble",
    "finish",
    "darken",
    "seal",
]
# What has minutes in the table beside work: fitting a join, a cold one, a look, a heat that nobody has rehearsed, grains
# melted in rows on a block, grains melted in charcoal powder.
StepKind = Literal["fit", "cold", "look", "heat", "rows", "powder"]

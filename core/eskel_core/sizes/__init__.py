"""The calculators: all the measuring and arithmetic of the bench, each with its drawing, its formula and its cautions.

Concepts: a *calculator* (what it asks, what it finds, how); the *hand* (tools owned, metals, house rules, prices); an
*answer* (the result, how it was found, how sensitive it is, what a lot of it takes); a *sketch* (a drawing to scale in
mm). Each calculator has one name, the same here, in the shell, over HTTP and on screen.
"""

from ._base import Calculator, Cut, Found, Hand, Keys, RingSize, SizeCaution, ToolAnswer
from ._drawing import DrawDownFound
from ._keys import KeyInfo, Variant, keys_of
from ._making import MakingStep, making_steps
from ._registry import Answer, Lot, Many, calculate, calculator, calculators, describe, unit_of
from ._shown import Shown, shown
from ._sketch import Sketch, SketchLabel, SketchLine

__all__ = [
    "Answer",
    "Calculator",
    "Cut",
    "DrawDownFound",
    "Found",
    "Hand",
    "KeyInfo",
    "Keys",
    "Lot",
    "MakingStep",
    "Many",
    "RingSize",
    "Shown",
    "SizeCaution",
    "Sketch",
    "SketchLabel",
    "SketchLine",
    "ToolAnswer",
    "Variant",
    "calculate",
    "calculator",
    "calculators",
    "describe",
    "keys_of",
    "making_steps",
    "shown",
    "unit_of",
]

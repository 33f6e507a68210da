"""Starts: whole pieces from a few measures, each in the way that its kind of work is made.

Concepts: a *start* (what it asks, at most seven measures; what is made of them), *follows* (a measure that nobody told
is what goes with the others), a piece *begun* (with every measure that it was made with). A made piece is an ordinary
piece and keeps no tie to its start. A start's lengths are the calculators' own; what it cannot make it refuses with the
key, the value, the rule and the remedy. A new start is one function and its type, a row in its module's `STARTS` and its
name in the registry.

>>> begin("jump-rings", {"count": 6}).piece.parts[0].count
6
"""

from ._base import Start
from ._registry import AskInfo, Begun, StartInfo, asks_of, begin, describe_start, start_named, starts

__all__ = [
    "AskInfo",
    "Begun",
    "Start",
    "StartInfo",
    "asks_of",
    "begin",
    "describe_start",
    "start_named",
    "starts",
]

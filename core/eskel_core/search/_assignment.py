"""What the solver answers: the heats of a plan, and how good it is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from ..rules import Filler, Lie
from ._objectives import ObjectiveValue


class PlannedHeat(NamedTuple):
    """The tasks of one heat with its filler, its lie, and the joins protected in it."""

    tasks: tuple[str, ...]
    filler: Filler
    lie: Lie
    protected: frozenset[str]


@dataclass(frozen=True)
class Assignment:
    """A solved plan: its heats in order, and each objective with what no plan can beat."""

    heats: tuple[PlannedHeat, ...]
    objectives: tuple[ObjectiveValue, ...]

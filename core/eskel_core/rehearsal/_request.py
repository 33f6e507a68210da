"""A heat as it is asked for: one type, from the screen to the model."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from ..heat import GENERATIONS, Light
from ._calibrate import TorchFactor
from ._types import Habit


class HeatRequest(BaseModel):
    """How a heat is to be rehearsed.

    `torch` and `surface` are those of the table, else the bench's. In the `light` of the room the glow is seen. With the habit `best` a
    programme is searched for; any other is followed with the flame open by the `setting` (0.3 to 1). The `hand` is how strong
    the torch is as against the table, and how far that may be off. The `effort` is how many generations of programmes are tried.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    torch: str | None = None
    surface: str | None = None
    light: Light = "dim"
    habit: Habit = "best"
    setting: float = 1.0
    hand: TorchFactor = TorchFactor()
    effort: int = GENERATIONS

    def by(self, habit: Habit, setting: float | None = None) -> HeatRequest:
        """Give the same heat by another habit."""
        return self.model_copy(
            update={"habit": habit, "setting": self.setting if setting is None else setting}
        )


USUAL = HeatRequest()

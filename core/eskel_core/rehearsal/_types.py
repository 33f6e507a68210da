"""A rehearsal as it is printed and drawn: frozen records, JSON of one shape."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, model_validator

from ..faults import KeptFormat, read_kept
from ..heat import Side
from ..rules import Purpose

KEPT = KeptFormat("a rehearsal", "eskel-rehearsal", 1)
Habit = Literal["best", "join", "even", "light"]
Verdict = Literal["flows", "tight", "harms", "never"]


class Shown(BaseModel):
    """A frozen record of a rehearsal."""

    model_config = ConfigDict(frozen=True)


class Seconds(Shown):
    """A time as a band, s: low with a strong torch, high with a weak one; null where it never comes to that."""

    low: float | None
    likely: float
    high: float | None


class StageShown(Shown):
    """One thing to do with the flame. `text` tells it whole.

    `marks` are where the flame stands in the picture: from which moment of the heat, s, at x and y, mm. It wanders as
    far as `reach_mm` from there.
    """

    text: str
    aim: Literal["circle", "brush", "part", "join", "each", "beside", "near", "far", "beyond"]
    about: str | None
    side: Side
    setting: float
    seconds: Seconds
    marks: tuple[tuple[float, float, float], ...]
    reach_mm: float


class EventShown(Shown):
    """Something that happens: when, s, to what, and at which temperature, °C."""

    seconds: float
    kind: str
    about: str
    at_c: float
    text: str


class Tightest(Shown):
    """The tightest moment: what came nearest to its limit, by how many °C, and when, s."""

    about: str
    kind: Literal["part", "join"]
    degrees_c: float
    limit_c: float
    seconds: float
    text: str


class Line(Shown):
    """The temperatures, °C, of a part or a join at each moment of a series.

    A part's `c` is its mean and `hottest_c` its hottest place; a join's `c` is the coolest place of its seam, and it is
    made at so many `places`.
    """

    id: str
    title: str
    c: tuple[float, ...]
    hottest_c: tuple[float, ...]
    limit_c: float | None
    flow_c: float | None
    places: int = 1


class Series(Shown):
    """Temperatures over time: `time_s`, then every part's and every join's line."""

    time_s: tuple[float, ...]
    parts: tuple[Line, ...]
    joins: tuple[Line, ...]


class CellsShown(Shown):
    """Every cell where it lies in the picture, mm, and its temperature, °C, at each moment of the series."""

    node: tuple[str, ...]
    x_mm: tuple[float, ...]
    y_mm: tuple[float, ...]
    c: tuple[tuple[int, ...], ...]


class BallShown(Shown):
    """A ball at the end of wire at each moment of the series, mm: its diameter, what is wanted, and where it lets go."""

    wire_mm: float
    diameter_mm: tuple[float, ...]
    wanted_mm: float | None
    limit_mm: float
    drops_s: float | None


class HabitTried(Shown):
    """A common habit, tried: what it brings."""

    habit: Habit
    verdict: Verdict
    seconds: float | None
    text: str


class Help(Shown):
    """Something that was changed and tried, and what it brought."""

    kind: Literal["torch", "surface", "below", "solder", "sink"]
    id: str
    verdict: Verdict
    seconds: float | None
    text: str


class Peak(Shown):
    """How hot an earlier join became, °C, and how much cooler than the working temperature it stayed, °C."""

    join: str
    hottest_c: float
    shield_c: float


class Rehearsal(Shown):
    """One heat, rehearsed."""

    format: Literal["eskel-rehearsal/1"] = "eskel-rehearsal/1"
    piece: str
    heat_no: int
    purpose: Purpose
    joins: tuple[str, ...]
    work: str | None
    torch: str
    surface: str
    flux: str
    habit: Habit
    setting: float
    verdict: Verdict
    says: str
    lines: tuple[str, ...] = ()
    programme: tuple[StageShown, ...]
    seconds_to_flow: Seconds | None
    series: Series
    events: tuple[EventShown, ...]
    tightest: Tightest | None
    settles_c: float | None
    above_700_s: float
    peaks: tuple[Peak, ...]
    left_out: tuple[str, ...]
    factor: float
    spread: float
    forms: str
    cells: CellsShown | None = None
    ball: BallShown | None = None
    habits: tuple[HabitTried, ...] = ()
    help: tuple[Help, ...] = ()

    @model_validator(mode="before")
    @classmethod
    def _one_line_where_none_were_kept(cls, given: Any) -> Any:
        """A kept rehearsal of an earlier day has one text."""
        if isinstance(given, dict) and not given.get("lines") and "says" in given:
            return {**given, "lines": (given["says"],)}
        return given


def found_in(*lines: str) -> dict[str, Any]:
    """Give the keys of what was found: its sentences, and all of them in one text."""
    told = tuple(line for line in lines if line)
    return {"says": " ".join(told), "lines": told}


def read_rehearsal(plain: Any) -> Rehearsal:
    """Read a kept rehearsal, brought up to date; raise `Refused` with every place at which it cannot be read."""
    return read_kept(KEPT, Rehearsal, plain)

"""A rehearsal as it is printed and drawn: frozen records, JSON of one shape."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from ..faults import KeptFormat, read_kept
from ..heat import Side
from ..piece import FlameAim
from ..rules import Purpose

Habit = Literal["best", "join", "even", "light"]
Verdict = Literal["sure", "care", "luck", "never"]
Spoils = Literal["slumps", "runs-again", "boils", "drops", "leans"]


class Shown(BaseModel):
    """A frozen record of a rehearsal."""

    model_config = ConfigDict(frozen=True)


class Seconds(Shown):
    """A time as a band, s: low with a strong torch, high with a weak one; null where it never comes to that."""

    low: float | None
    likely: float
    high: float | None


class Until(Shown):
    """The sign that ends a stage, of a part or a join where it is of one only; `word` is its colour."""

    sign: Literal["crust", "dark", "clear", "glow", "range", "spins", "size", "runs", "count"]
    about: str | None
    word: str | None = None


class StageShown(Shown):
    """One thing to do with the flame until a sign is seen. `text` tells it whole, `see` the sign, `if_late` what to do if it
    stays away.

    `marks` are where the flame stands in the picture: from which moment of the heat, s, at x and y, mm. It wanders as
    far as `reach_mm` from there.
    """

    text: str
    aim: FlameAim
    about: str | None
    side: Side
    setting: float
    until: Until
    see: str = ""
    if_late: str
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


class SpoiltHands(Shown):
    """So many hands spoil the same thing in the same way."""

    about: str | None
    kind: Spoils
    count: int


class HandMark(Shown):
    """A hand that did not bring it off: what went wrong, of what, and when, s."""

    kind: Literal["slumps", "runs-again", "boils", "drops", "leans", "spent", "too-cool"]
    about: str | None
    seconds: float


class Hands(Shown):
    """What came of all hands: well, short (not run while the flux lasts), or spoilt, what most often first."""

    tried: int
    well: int
    short: int
    spoilt: tuple[SpoiltHands, ...]
    marks: tuple[HandMark, ...] = ()


class SeenBand(Shown):
    """What the hands between one and nine tenths see at each moment of a series, °C."""

    low: tuple[float, ...]
    high: tuple[float, ...]


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
    band: SeenBand | None = None


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
    hands: Hands
    seconds: float | None
    text: str


class Help(Shown):
    """Something that was changed and tried, and what it brought."""

    kind: Literal["torch", "surface", "below", "solder", "sink", "brought"]
    id: str
    verdict: Verdict
    hands: Hands
    seconds: float | None
    text: str


class NextOnes(Shown):
    """What comes of the bodies after the first, one after another by the same programme, on the block that the one before has
    warmed."""

    verdict: Verdict
    hands: Hands
    seconds: Seconds | None


class Peak(Shown):
    """How hot an earlier join became, °C, and how much cooler than the working temperature it stayed, °C."""

    join: str
    hottest_c: float
    shield_c: float


class Rehearsal(Shown):
    """One heat, rehearsed: of `bodies` that are all alike the first. `after` is the heat whose warmth is still in the block, and
    `block_k` what the block remembers of this one when its flame has gone and the next is laid down, K by its paces.
    """

    format: Literal["eskel-rehearsal/2"] = "eskel-rehearsal/2"
    piece: str
    heat_no: int
    purpose: Purpose
    joins: tuple[str, ...]
    work: str | None
    solders: tuple[str, ...] = ()
    torch: str
    surface: str
    flux: str
    habit: Habit
    setting: float
    verdict: Verdict
    hands: Hands
    brought_in: str | None = None
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
    bodies: int = 1
    next_ones: NextOnes | None = None
    after: int | None = None
    block_k: tuple[float, ...] = ()
    cells: CellsShown | None = None
    ball: BallShown | None = None
    habits: tuple[HabitTried, ...] = ()
    help: tuple[Help, ...] = ()


_OF_OLD: dict[str, Verdict] = {"flows": "sure", "tight": "care", "harms": "luck", "never": "never"}
_NOBODY = {"tried": 0, "well": 0, "short": 0, "spoilt": []}


def _with_hands(old: dict[str, Any]) -> dict[str, Any]:
    """Bring a rehearsal of one hand up to date: nobody else was tried, and a stage went on for its time."""

    def told(one: Any) -> Any:
        if not isinstance(one, dict):
            return one
        return {**one, "verdict": _OF_OLD.get(str(one.get("verdict")), "never"), "hands": _NOBODY}

    def counted(stage: Any) -> Any:
        if not isinstance(stage, dict):
            return stage
        return {**stage, "until": {"sign": "count", "about": None}, "if_late": ""}

    made: dict[str, Any] = told(old)
    for key, each in (("programme", counted), ("habits", told), ("help", told)):
        if isinstance(old.get(key), list):
            made[key] = [each(one) for one in old[key]]
    if not made.get("lines") and "says" in made:
        made["lines"] = [made["says"]]
    return made


KEPT = KeptFormat("a rehearsal", "eskel-rehearsal", 2, {1: _with_hands})


def found_in(*lines: str) -> dict[str, Any]:
    """Give the keys of what was found: its sentences, and all of them in one text."""
    told = tuple(line for line in lines if line)
    return {"says": " ".join(told), "lines": told}


def read_rehearsal(plain: Any) -> Rehearsal:
    """Read a kept rehearsal, brought up to date; raise `Refused` with every place at which it cannot be read."""
    return read_kept(KEPT, Rehearsal, plain)

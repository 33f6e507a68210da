"""The forms as they stand in a piece file: frozen records, told apart by their `kind`."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

Mm = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]
# Wire is drawn, and annealed in coils, by the ten metres.
WireMm = Annotated[float, Field(gt=0, le=50_000, allow_inf_nan=False)]
MmOrZero = Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)]
Coordinate = Annotated[float, Field(ge=-5000, le=5000, allow_inf_nan=False)]
Point = tuple[Coordinate, Coordinate]
SvgPath = Annotated[str, Field(min_length=2, max_length=100_000)]


class Shape(BaseModel):
    """A frozen record that refuses unknown keys."""

    model_config = ConfigDict(frozen=True, extra="forbid")


def contradiction(rule: str, remedy: str) -> PydanticCustomError:
    """Make the error for two measures that cannot both be true."""
    return PydanticCustomError("contradiction", "{rule}", {"rule": rule, "remedy": remedy})


class Round(Shape):
    """A round section."""

    kind: Literal["round"]
    diameter_mm: Mm


class Square(Shape):
    """A square section."""

    kind: Literal["square"]
    side_mm: Mm


class Rect(Shape):
    """A flat section."""

    kind: Literal["rect"]
    width_mm: Mm
    height_mm: Mm


class HalfRound(Shape):
    """A section flat below and round above: a slice of a circle over `width_mm`."""

    kind: Literal["half-round"]
    width_mm: Mm
    height_mm: Mm

    @model_validator(mode="after")
    def _no_taller_than_wide(self) -> HalfRound:
        if self.height_mm > self.width_mm:
            raise contradiction("a half-round is no taller than it is wide", "Swap width_mm and height_mm?")
        return self


Profile = Annotated[Round | Square | Rect | HalfRound, Field(discriminator="kind")]


class Disc(Shape):
    """A round outline."""

    kind: Literal["disc"]
    diameter_mm: Mm


class Ellipse(Shape):
    """An oval outline."""

    kind: Literal["ellipse"]
    width_mm: Mm
    height_mm: Mm


class RectOutline(Shape):
    """A rectangle, its corners rounded by `corner_mm`."""

    kind: Literal["rect"]
    width_mm: Mm
    height_mm: Mm
    corner_mm: MmOrZero = 0.0

    @model_validator(mode="after")
    def _corner_fits(self) -> RectOutline:
        if self.corner_mm > min(self.width_mm, self.height_mm) / 2:
            raise contradiction("a corner is at most half of the shorter side", "Make corner_mm smaller.")
        return self


class RingOutline(Shape):
    """A washer."""

    kind: Literal["ring"]
    outer_mm: Mm
    inner_mm: Mm

    @model_validator(mode="after")
    def _hole_is_smaller(self) -> RingOutline:
        if self.inner_mm >= self.outer_mm:
            raise contradiction("a ring's inner diameter is below its outer one", "Make inner_mm smaller.")
        return self


class Polygon(Shape):
    """An outline with straight sides."""

    kind: Literal["polygon"]
    points: Annotated[tuple[Point, ...], Field(min_length=3, max_length=5000)]


class PathOutline(Shape):
    """An outline as an SVG path in mm; inner loops are holes."""

    kind: Literal["path"]
    path: SvgPath


Outline = Annotated[
    Disc | Ellipse | RectOutline | RingOutline | Polygon | PathOutline, Field(discriminator="kind")
]
PlanLine = Annotated[tuple[Point, ...], Field(min_length=2, max_length=5000)] | SvgPath


class Wire(Shape):
    """Wire of one section; `strands` twisted together at `pitch_mm`; `path` is its line in plan."""

    kind: Literal["wire"]
    profile: Profile
    length_mm: WireMm
    closed: bool = False
    strands: Annotated[int, Field(ge=1, le=7)] = 1
    pitch_mm: Mm | None = None
    path: PlanLine | None = None

    @model_validator(mode="after")
    def _twist_has_a_pitch(self) -> Wire:
        if self.strands > 1 and self.pitch_mm is None:
            raise contradiction("twisted wire needs a pitch", "Give pitch_mm, the length of one full turn.")
        return self


class Sheet(Shape):
    """Sheet cut to an outline; domed by `domed_mm`, with the outline that of the flat blank."""

    kind: Literal["sheet"]
    thickness_mm: Mm
    outline: Outline
    domed_mm: MmOrZero = 0.0


class Strip(Shape):
    """A strip, `width_mm` high and `thickness_mm` thick, straight, bent or closed."""

    kind: Literal["strip"]
    width_mm: Mm
    thickness_mm: Mm
    length_mm: Mm
    closed: bool = False
    path: PlanLine | None = None


class Tube(Shape):
    """A tube with as many sealed ends as given."""

    kind: Literal["tube"]
    outer_mm: Mm
    wall_mm: Mm
    length_mm: Mm
    sealed_ends: Annotated[int, Field(ge=0, le=2)] = 0

    @model_validator(mode="after")
    def _has_a_bore(self) -> Tube:
        if self.wall_mm * 2 >= self.outer_mm:
            raise contradiction(
                "a tube's wall is less than half of its outer diameter", "Make wall_mm thinner."
            )
        return self


class Ball(Shape):
    """A ball."""

    kind: Literal["ball"]
    diameter_mm: Mm


class Lump(Shape):
    """Anything bought or cast, known by its mass and surface."""

    kind: Literal["lump"]
    mass_g: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)]
    surface_mm2: Annotated[float, Field(gt=0, le=1e8, allow_inf_nan=False)]


Form = Annotated[Wire | Sheet | Strip | Tube | Ball | Lump, Field(discriminator="kind")]

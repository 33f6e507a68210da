"""The piece as its file says it: parts, joins, other work, house rules and bench."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..faults import KeptFormat
from ..forms import Contact, Form, Profile, Sheet, Wire, contact_of, rim_contact, rim_line
from ..metals import Grade, Metal, heat_harm, metals
from ._bench import Bench
from ._house import HeatFrom, HouseOverrides, Placing
from ._kinds import WorkKind

KEPT = KeptFormat("a piece file", "eskel-piece", 1)
FORMAT = KEPT.tag
ID_PATTERN = r"^[A-Za-z0-9][A-Za-z0-9_.-]*$"

Id = Annotated[str, Field(pattern=ID_PATTERN, max_length=60)]
PartRef = Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9_.-]*(#[1-9][0-9]*)?$", max_length=70)]
Name = Annotated[str, Field(max_length=120)]
Mm = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]
Gap = Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)]
Area = Annotated[float, Field(gt=0, le=1e7, allow_inf_nan=False)]
Coordinate = Annotated[float, Field(ge=-5000, le=5000, allow_inf_nan=False)]
Angle = Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)]
ReductionPct = Annotated[float, Field(ge=0, lt=100, allow_inf_nan=False)]
Times = Annotated[int, Field(ge=1, le=1000)]
Spot = tuple[Coordinate, Coordinate]

JoinKind = Literal[
    "butt",
    "tee",
    "edge",
    "overlay",
    "line",
    "seat",
    "cross",
    "bundle",
    "fuse",
    "ring-open",
    "wrap",
    "rivet",
    "screw",
]
COLD_KINDS: frozenset[str] = frozenset({"ring-open", "wrap", "rivet", "screw"})
Holds = Literal["own-weight", "nothing", "seated", "bound", "clipped", "weighted", "hand"]
Temper = Literal["soft", "quarter-hard", "half-hard", "hard", "spring", "unknown"]
HEAT_WORK: frozenset[str] = frozenset({"anneal", "ball", "melt", "pour", "deplete"})
# What opens a hollow, be it told as its vent or not.
OPENING_WORK: frozenset[str] = frozenset({"drill", "saw"})
# What puts a part into or onto another without solder.
HOLDING_WORK: frozenset[str] = frozenset({"set", "hang"})
FORMING_WORK: frozenset[str] = frozenset({"bend", "dome", "twist", "roll", "draw", "forge"})


class Record(BaseModel):
    """A frozen record of the file: unknown keys are refused, keys are read by their file name."""

    model_config = ConfigDict(frozen=True, extra="forbid", populate_by_name=True)


class Named(Record):
    """A record that others refer to by its id."""

    id: Id
    name: Name = ""

    @property
    def title(self) -> str:
        """The name, or the id in words when it has none."""
        return self.name or self.id.replace("-", " ").replace("_", " ")


class Reduction(Record):
    """A temper known as a reduction since the last anneal."""

    reduction_pct: ReductionPct


class Place(Record):
    """Where a part lies in plan, mm and degrees; `stands` flat or upright."""

    x_mm: Coordinate = 0.0
    y_mm: Coordinate = 0.0
    z_mm: Coordinate = 0.0
    turn_deg: Angle = 0.0
    stands: Literal["flat", "upright"] = "flat"


class Part(Named):
    """One part, or `count` alike; a stone may have no metal. `made`: it is there already, and is not cut."""

    metal: str | None
    form: Form
    temper: Temper | Reduction = "soft"
    count: Annotated[int, Field(ge=1, le=1000)] = 1
    cut_from: Annotated[Id | None, Field(alias="from")] = None
    rough: Form | None = None
    spring: bool = False
    bought_in: bool = False
    moves: bool = False
    cast: bool = False
    heat_safe: bool = True
    made: bool = False
    touches_skin: Literal["none", "on", "through"] = "none"
    place: Place | None = None


RehearsedSeconds = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]


class Shield(Record):
    """A join kept cooler, by `degrees_c`, while another one (`during`) is heated."""

    during: Id
    degrees_c: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)]
    how: Literal["distance", "sink", "wet", "rehearsed"]


class ByHand(Record):
    """What the smith moved on the ladder against the planner's choice; taken out, the planner chooses again.

    A grade of the smith's own; joins that it shares a heat with; joins that it is kept apart from; joins or work
    that it waits for.
    """

    grade: Grade | None = None
    shares: tuple[Id, ...] = ()
    apart: tuple[Id, ...] = ()
    after: tuple[Id, ...] = ()


class Join(Named):
    """A join between parts: what kind, what holds it, and what the smith has fixed about it.

    `placing`, `heat_from` and `flux` are of the heat in which it is made, where they are not the house's and the bench's.
    `made`: it is made already, with its `solder`; the heats to come find it in the work.
    """

    kind: JoinKind
    between: Annotated[tuple[PartRef, ...], Field(min_length=2, max_length=200)]
    holds: Holds = "own-weight"
    bound_with: Literal["steel", "other"] | None = None
    face: Literal["front", "back", "edge", "inside"] = "front"
    loaded: bool | None = None
    solder: str | None = None
    grade: Grade | None = None
    placing: Placing | None = None
    heat_from: HeatFrom | None = None
    flux: str | None = None
    seam_mm: Mm | None = None
    contact_mm2: Area | None = None
    gap_mm: Gap | None = None
    at: Spot | Annotated[tuple[Spot, ...], Field(min_length=1, max_length=1000)] | None = None
    encloses: Id | None = None
    visible: bool = False
    structural: bool = False
    resized_later: bool = False
    beside_detail: bool = False
    through: tuple[PartRef, ...] = ()
    brought_in: bool | None = None
    shields: tuple[Shield, ...] = ()
    after: tuple[Id, ...] = ()
    made: bool = False
    by_hand: ByHand | None = None

    @property
    def heated(self) -> bool:
        """Whether it is made in a heat."""
        return self.kind not in COLD_KINDS


class Target(Record):
    """A size to come out at, mm, and how far off it may be, mm; `what` is measured, where it is not plain."""

    mm: Mm
    within_mm: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 0.1
    what: Annotated[str, Field(max_length=60)] = ""


class Work(Named):
    """Other work on parts, before, between or after the heats, with its measures.

    `target` is the size that is worked or checked to; `to_mm` what is trimmed or sawn to; `marks_mm` where marks stand from the
    one end; `dowel_mm` what it is bent over and `angle_deg` how far. All in mm and degrees. `done`: it is done already.
    """

    kind: WorkKind
    parts: tuple[PartRef, ...] = ()
    after: tuple[Id, ...] = ()
    before: tuple[Id, ...] = ()
    reduction_pct: ReductionPct | None = None
    from_profile: Annotated[Profile | None, Field(alias="from")] = None
    to_profile: Annotated[Profile | None, Field(alias="to")] = None
    ball_mm: Mm | None = None
    turns: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)] | None = None
    mass_g: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)] | None = None
    vents: tuple[Id, ...] = ()
    seals: tuple[Id, ...] = ()
    times: Times | None = None
    target: Target | None = None
    to_mm: Mm | None = None
    marks_mm: Annotated[tuple[Mm, ...], Field(max_length=100)] = ()
    dowel_mm: Mm | None = None
    angle_deg: Annotated[float, Field(gt=0, le=3600, allow_inf_nan=False)] | None = None
    heat_from: HeatFrom | None = None
    flux: str | None = None
    done: bool = False
    stage: Annotated[str, Field(max_length=60)] | Annotated[int, Field(ge=1, le=20_000)] | None = None

    @property
    def is_of_hollows(self) -> bool:
        """Whether it opens a hollow or closes one: done, it matters to every heat to come."""
        return bool(self.vents or self.seals) or self.kind in OPENING_WORK


FlameAim = Literal[
    "dry", "circle", "brush", "part", "join", "each", "beside", "near", "far", "beyond", "walk"
]
"""How the flame is held: about the whole work, on or beside a part or seam, or on each place in turn."""


class RehearsedStage(Record):
    """One thing to do with the flame: `text` whole, `see` what ends it, `if_late` what to do if that stays away; `aim` and
    the part that it is `about` tell where the flame is, for it to be drawn.

    Times in s, from the stage's begin: likely, and between which the hands of nine in ten are.
    """

    text: Annotated[str, Field(max_length=1000)]
    sign: Literal["crust", "dark", "clear", "glow", "range", "spins", "size", "runs", "count"]
    see: Annotated[str, Field(max_length=300)]
    if_late: Annotated[str, Field(max_length=300)] = ""
    aim: FlameAim | None = None
    about: Annotated[str, Field(max_length=80)] | None = None
    seconds_low: RehearsedSeconds | None = None
    seconds_likely: RehearsedSeconds
    seconds_high: RehearsedSeconds | None = None


class RehearsedHeat(Record):
    """What a rehearsal of one heat found, copied into the piece by the smith: `joins` or `work` tell which heat.

    Times in s, low with a strong torch, high with a weak one, null where it never comes to that; `settles_c` is where
    the work settles when it never flows, °C; `above_700_s` how long silver with copper in it is above 700 °C in air;
    `solders` are those that it was rehearsed with; `factor` and `spread` (of its logarithm) are the torch's that it was reckoned with; `forms` names the forms that it was rehearsed with.
    `stages` is its programme, `well` of `tried` the hands in which that comes out well. Of `bodies` alike that are done one after
    another it is the first; each further one takes `seconds_next`, laying it down and all.
    """

    joins: tuple[Id, ...] = ()
    work: Id | None = None
    solders: tuple[str, ...] = ()
    torch: str
    surface: str
    flux: str
    seconds_low: RehearsedSeconds | None = None
    seconds_likely: RehearsedSeconds | None = None
    seconds_high: RehearsedSeconds | None = None
    settles_c: Annotated[float, Field(ge=-50, le=4000, allow_inf_nan=False)] | None = None
    above_700_s: RehearsedSeconds = 0.0
    factor: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 1.0
    spread: Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)] = 0.0
    forms: Annotated[str, Field(max_length=64)] = ""
    stages: Annotated[tuple[RehearsedStage, ...], Field(max_length=12)] = ()
    well: Annotated[int, Field(ge=0, le=10_000)] = 0
    tried: Annotated[int, Field(ge=0, le=10_000)] = 0
    bodies: Annotated[int, Field(ge=1, le=100_000)] = 1
    seconds_next: RehearsedSeconds | None = None


class ExtraCut(Named):
    """Something that is cut for a piece and is no part of it: a spare, a trial, stock for findings."""

    metal: str
    form: Form
    count: Annotated[int, Field(ge=1, le=100_000)] = 1


class Piece(Record):
    """A piece: what it is made of, how it is joined, and what else is done to it."""

    format: Literal["eskel-piece/1"]
    name: Annotated[str, Field(min_length=1, max_length=120)]
    copies: Annotated[int, Field(ge=1, le=10_000)] = 1
    mirrored: bool = False
    parts: Annotated[tuple[Part, ...], Field(max_length=1000)] = ()
    joins: Annotated[tuple[Join, ...], Field(max_length=500)] = ()
    work: Annotated[tuple[Work, ...], Field(max_length=1000)] = ()
    cuts: Annotated[tuple[ExtraCut, ...], Field(max_length=1000)] = ()
    rehearsals: Annotated[tuple[RehearsedHeat, ...], Field(max_length=500)] = ()
    house: HouseOverrides = HouseOverrides()
    bench: Bench | None = None
    metals: tuple[Metal, ...] = ()
    notes: Annotated[str, Field(max_length=20_000)] = ""


def contact_at(piece: Piece, join: Join) -> Contact | None:
    """Give the contact of a heated join, measured where the smith measured it; None for a cold one.

    Where only the seam was measured, the faces touch along as much of it.
    """
    ends = [part_of(piece, end) for end in join.between[:2]]
    touch = _on_its_rim(join, ends) or contact_of(join.kind, ends[0].form, ends[1].form)
    if touch is None:
        return None
    along = touch.area_mm2 * join.seam_mm / touch.seam_mm if join.seam_mm and touch.seam_mm else None
    measured = {"area_mm2": along if join.contact_mm2 is None else join.contact_mm2, "seam_mm": join.seam_mm}
    return touch.model_copy(update={key: value for key, value in measured.items() if value is not None})


def _on_its_rim(join: Join, ends: Sequence[Part]) -> Contact | None:
    """Give the contact of a ring that stands on its rim upon something flat; None where there is none."""
    if join.kind not in ("seat", "tee", "edge", "line") or not any(
        isinstance(end.form, Sheet) for end in ends
    ):
        return None
    for part in ends:
        line = rim_line(part.form)
        if (
            isinstance(part.form, Wire)
            and line is not None
            and part.place is not None
            and part.place.stands == "upright"
        ):
            xs = [x for x, _ in line.points]
            return rim_contact(part.form, max(xs) - min(xs) + line.width_mm)
    return None


def pairs_of(a: Sequence[str], b: Sequence[str]) -> list[tuple[str, str]]:
    """Give which of two groups of alike parts meet: one to one where they are as many, else each with each.

    >>> pairs_of(["post#1", "post#2"], ["plate"])
    [('post#1', 'plate'), ('post#2', 'plate')]
    """
    if len(a) == len(b):
        return list(zip(a, b, strict=True))
    return [(one, other) for one in a for other in b]


def base_id(reference: str) -> str:
    """Give the part that a reference names: `link#2` is one of `link`.

    >>> base_id("link#2")
    'link'
    """
    return reference.split("#", 1)[0]


def part_of(piece: Piece, reference: str) -> Part:
    """Give the part that a reference names; `KeyError` when there is none."""
    wanted = base_id(reference)
    for part in piece.parts:
        if part.id == wanted:
            return part
    raise KeyError(reference)


def is_of_grains(piece: Piece, work: Work) -> bool:
    """Say whether all that work is done on are loose grains or balls: each is drawn up for itself, they are no charge."""
    return bool(work.parts) and all(part_of(piece, one).form.kind == "ball" for one in work.parts)


def of_one_heat(piece: Piece, joins: Sequence[str], work: str | None) -> list[Join | Work]:
    """Give the joins that are made in one heat, and the heated work that is done in it."""
    made = [join for join in piece.joins if join.id in joins]
    return [*made, *(one for one in piece.work if one.id == work)]


def metals_of(piece: Piece) -> Mapping[str, Metal]:
    """Give the metals a piece may name: the shipped ones, and its own, which win."""
    return {**metals(), **{metal.id: metal for metal in piece.metals}}


def metal_of(piece: Piece, reference: str) -> Metal | None:
    """Give the metal of a part, or None for a stone."""
    name = part_of(piece, reference).metal
    return None if name is None else metals_of(piece)[name]


HeatHarm = Literal["stone-in-heat", "contaminated", "unknown-metal"]


def harm_in_heat(piece: Piece, reference: str) -> HeatHarm | None:
    """Say why a part must not come into a heat, by the code of the rule; None for what bears it."""
    if not part_of(piece, reference).heat_safe:
        return "stone-in-heat"
    metal = metal_of(piece, reference)
    return None if metal is None else heat_harm(metal)


def why_not_heated(piece: Piece, reference: str) -> str:
    """Say in a sentence why a part must not come into a heat."""
    title = part_of(piece, reference).title
    match harm_in_heat(piece, reference):
        case "contaminated":
            return f"{title} is lead, white metal or aluminium, or holds some: hot, that eats into silver, gold and copper."
        case "unknown-metal":
            return f"Nobody knows what {title} is made of or plated with: hot, it may give off poisonous fume or melt without a sign."
        case _:
            return f"{title} does not bear heat."

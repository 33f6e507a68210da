"""The plan (`eskel-plan/1`) as it is printed, shown and run: frozen records, one type for each kind of step."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..faults import KeptFormat
from ..forms import Blank
from ..metals import Grade
from ..piece import FlameAim, HeatFrom, Target, WorkKind
from ..rules import Lie, Purpose, Severity, State
from ..state import StateChange

KEPT = KeptFormat("a plan", "eskel-plan", 1)
Status = Literal["best", "good", "impossible"]


class Shown(BaseModel):
    """A frozen record of a plan."""

    model_config = ConfigDict(frozen=True)


class Objective(Shown):
    """One number of the order of preference: what the plan reaches, and what no plan can beat."""

    name: str
    value: float
    bound: float


class BrokenDemand(Shown):
    """One of the demands that cannot all be met, and what letting it go would mean."""

    kind: str
    code: str
    ids: tuple[str, ...]
    text: str
    remedy: str


class Conflict(Shown):
    """An irreducible set of demands: letting any one go makes a plan possible."""

    ids: tuple[str, ...]
    codes: tuple[str, ...]
    demands: tuple[BrokenDemand, ...]


class Amount(Shown):
    """How much solder a join takes, in the supply that its placing uses. mm³, mm, mg.

    Chips by their side, paste as dots by how far they go, what the pick takes up as balls by their diameter: so many in all places.
    """

    volume_mm3: float
    chips: int | None = None
    chip_mm: float | None = None
    feed_mm: float | None = None
    paste_mg: float | None = None
    dots: int | None = None
    dot_mm: float | None = None
    balls: int | None = None
    ball_mm: float | None = None
    words: str = ""


class HeatJoin(Shown):
    """A join made in a heat, with its kind, its solder (none when it is fused), and how that is `named`: by its grade where that says which.

    `alike` is how many places of it there are in all copies.
    """

    join: str
    title: str
    kind: str = ""
    solder: str | None
    grade: Grade | None
    named: str = ""
    placing: str | None
    amount: Amount | None
    alike: int = 1


class Protect(Shown):
    """A join or part to be protected in a heat, and how."""

    id: str
    how: str


class Check(Shown):
    """One look at the work: at what, how, what passes, and what to do if it does not."""

    about: str
    how: str
    passes: str
    otherwise: str


class Measuring(Shown):
    """What is measured at a step, mm or g by what it is, what it is to be, and how far off it may be; `words` say where, if that is not plain."""

    what: Literal["size_mm", "length_mm", "ball_mm", "mass_g"]
    to_be: float
    within: float
    words: str = ""


class _Step(Shown):
    """A step; `alike` says how many alike it is done on, one after another, `measure` what is measured.

    `changes` is what the work as it stands lost and gained by it.
    """

    n: int
    parts: tuple[str, ...]
    text: str
    lines: tuple[str, ...] = ()
    minutes: float
    alike: int = 1
    measure: Measuring | None = None
    changes: tuple[StateChange, ...] = ()

    @model_validator(mode="before")
    @classmethod
    def _one_line_where_none_are_told(cls, given: Any) -> Any:
        """A step whose sentences are not told one by one has one."""
        if isinstance(given, dict) and not given.get("lines") and "text" in given:
            return {**given, "lines": (given["text"],)}
        return given


def said(*lines: str) -> dict[str, Any]:
    """Give the sentences of a step: one by one, and as the text that they make."""
    told = tuple(line for line in lines if line)
    return {"text": " ".join(told), "lines": told}


class PrepareStep(_Step):
    """Fit, clean, flux, lay the solder; `confirm` waits for the smith where a danger lies in the piece.

    `joins` are those that are made ready, or made cold; `mould_of` is the pour whose mould is warmed and dried.
    """

    kind: Literal["prepare"] = "prepare"
    confirm: bool = False
    joins: tuple[str, ...] = ()
    mould_of: str | None = None


MendingKind = Literal["open", "clean", "cut"]


class WorkStep(_Step):
    """Other work: `work` is its id, or the kind that the planner put in; `target` the size that it comes out at, to be measured.

    `opens` are the hollows that work which the planner put in makes a way out of. Where a fault is mended, `joins` are those that
    are taken apart at `to_c`, °C, with others cooler by `cooler_c`, and `many` says how many of a part are made again.
    """

    kind: Literal["work"] = "work"
    work: str
    work_kind: WorkKind | MendingKind
    put_in: bool = False
    target: Target | None = None
    opens: tuple[str, ...] = ()
    joins: tuple[str, ...] = ()
    to_c: float | None = None
    cooler_c: dict[str, float] = {}
    many: int | None = None


class LikelyTime(Shown):
    """How long a heat takes by its rehearsal, s, with which torch: low with a strong one, high with a weak one."""

    low_s: float | None
    likely_s: float | None
    high_s: float | None
    torch: str
    factor: float = 1.0
    spread: float = 0.0


class StageTold(Shown):
    """A stage of a rehearsed heat: what to do, the sign that ends it, and what to do if that stays away; its time, s; where the flame is."""

    text: str
    sign: str
    see: str
    if_late: str
    aim: FlameAim | None = None
    about: str | None = None
    low_s: float | None
    likely_s: float
    high_s: float | None


class Sign(Shown):
    """A sign of a heat: at about which temperature it comes, °C (None: at none that is told), and what is seen."""

    at_c: float | None
    words: str


class HeatStep(_Step):
    """A heat: one body under one flame, in a `round` that shares its cooling and pot. `work` is the id of the heated work that it does, where it makes no join, `work_kind` the kind of that. `states` tells of each earlier join in the flame; `ceiling_by` is the part or join that limits it.

    `melts_c` is the lowest solidus in the body, of the part `melts_by`, whatever else sets the ceiling. `stages` is the
    programme that was rehearsed, where one was; its sentences are those of the step. Where none was, `aim` and the part that it
    is `about` tell where the flame is. `flux` is none where the heat takes none. `cooler_c` tells by how much an earlier join stays
    cooler than the rest, °C, where it does.
    """

    kind: Literal["heat"] = "heat"
    heat_no: int
    round: int = 0
    purpose: Purpose
    work: str | None = None
    work_kind: WorkKind | None = None
    joins: tuple[HeatJoin, ...]
    lies: Lie
    heat_from: HeatFrom = "above"
    flux: str | None = None
    working_c: float
    ceiling_c: float | None
    ceiling_by: str | None
    margin_c: float | None
    melts_c: float | None
    melts_by: str | None
    states: dict[str, State]
    cooler_c: dict[str, float] = {}
    protect: tuple[Protect, ...]
    look_for: tuple[str, ...]
    signs: tuple[Sign, ...] = ()
    aim: FlameAim | None = None
    about: str | None = None
    rehearsed: LikelyTime | None = None
    stages: tuple[StageTold, ...] = ()


class _AfterHeats(_Step):
    """What follows the heats of a round, named by their numbers."""

    round: int = 0
    heats: tuple[int, ...] = ()


class CoolStep(_AfterHeats):
    """Cool down. `touch_minutes` is how long the work itself stays too hot to touch, 0 out of the water, `block_minutes` how long what it lay on
    does, from the end of its heats. `to_the_end`: what is closed cools all its time, since hot it must not go into water or acid.
    """

    kind: Literal["cool"] = "cool"
    to_the_end: bool = False
    how: Literal["quench-when-black", "air-cool"]
    touch_minutes: float = 0.0
    block_minutes: float = 0.0


class PickleStep(_AfterHeats):
    """Into the pot."""

    kind: Literal["pickle"] = "pickle"
    minutes_low: float
    minutes_high: float
    neutralise: bool
    dry: bool


class InspectStep(_AfterHeats):
    """Look at what was done."""

    kind: Literal["inspect"] = "inspect"
    checks: tuple[Check, ...]


Step = Annotated[
    PrepareStep | WorkStep | HeatStep | CoolStep | PickleStep | InspectStep, Field(discriminator="kind")
]


class Caution(Shown):
    """A rule that speaks: at which step (None: of the piece as a whole), about what, and what to do instead."""

    code: str
    severity: Severity
    step: int | None
    about: tuple[str, ...]
    text: str
    remedy: str


class CutLine(Shown):
    """One line of the cut list: a part, how many for all copies, its blank and mass of one, g."""

    part: str
    title: str
    metal: str | None
    count: int
    stock: str
    blank: Blank
    mass_g: float | None


class SolderLine(Shown):
    """One line of the solder list: what a solder is needed for, and how much of it. mm³, g."""

    solder: str
    grade: Grade
    joins: tuple[str, ...]
    volume_mm3: float
    mass_g: float


class RuledOut(Shown):
    """Another solder, and why it was not taken."""

    solder: str
    reason: str


class Why(Shown):
    """The reason for a heat's grade and place, and what was ruled out."""

    heat_no: int
    grade: str
    place: str
    ruled_out: tuple[RuledOut, ...]


class Band(Shown):
    """A join's line on the heat ladder: made in a heat (0: made already), firm below `solidus_c`, running again at `reflow_c`."""

    join: str
    title: str
    heat_no: int
    solidus_c: float
    reflow_c: float


Verdict = Literal["as-good", "worse", "impossible", "undecided"]


class Alternative(Shown):
    """Another solder or another heat for a join, and what would come of it."""

    kind: Literal["solder", "heat"]
    title: str
    solder: str | None
    heat_no: int | None
    verdict: Verdict
    text: str


class JoinWhy(Shown):
    """Why a join has its solder and its heat, and what else it could be."""

    join: str
    title: str
    heat_no: int
    solder: str | None
    grade: str
    place: str
    alternatives: tuple[Alternative, ...]


class MovedByHand(Shown):
    """The joins that the smith moved on the ladder, the objectives without those moves, and what the moves cost."""

    joins: tuple[str, ...]
    best: tuple[Objective, ...]
    cost: str


class Plan(Shown):
    """A plan for a piece. `stops` are the cautions of rules that speak against the plan as it stands."""

    format: Literal["eskel-plan/1"] = "eskel-plan/1"
    piece: str
    status: Status
    objectives: tuple[Objective, ...]
    bound_gap: Objective | None
    conflict: Conflict | None
    steps: tuple[Step, ...]
    cautions: tuple[Caution, ...]
    cut_list: tuple[CutLine, ...]
    solder_list: tuple[SolderLine, ...]
    why: tuple[Why, ...]
    bands: tuple[Band, ...]
    by_hand: MovedByHand | None = None
    stops: tuple[Caution, ...] = ()

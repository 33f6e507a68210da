"""What is around a run, over HTTP: runs out of files, photographs, the pot, and what is left of a run planned anew."""

from __future__ import annotations

from datetime import datetime
from time import monotonic
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Body, Router, Schema, Status
from pydantic import Field

from eskel_core.faults import Fault
from eskel_core.metals import pickles
from eskel_core.piece import PotState, part_of, resolve_bench, stocked_solders
from eskel_core.plan import Caution, HeatStep
from eskel_core.pot import CopperByLoads, copper_by_loads
from eskel_core.run import FROM_TABLE, Otherwise, TableRun, read_run_file, read_table
from eskel_server.accounts import Clash, Faults, current_workshop
from eskel_server.bench import bench_of
from eskel_server.bodies import Whole

from .api import Confirmed
from .following import ms_of
from .happened import already_there, take_in
from .models import Run
from .photos import keep_photo, photo_of
from .queries import loads_since, pot_loads, run_of, runs_of
from .rest import Rest, begin_from, go_on, rest_of
from .views import RunView, view_of

router = Router(tags=["runs"])
LONGEST_TAKING_S = 3.0


class TakenIn(Schema):
    """A run that was taken in from a file."""

    id: int


@router.post(
    "/runs/file", response={201: TakenIn, 409: Faults, 422: Faults}, operation_id="takeRunIn", by_alias=True
)
def take_run_in(request: HttpRequest, told: Annotated[dict[str, Any], Body()]) -> Status[TakenIn]:
    """Take a run in from a file."""
    return Status(201, TakenIn(id=take_in(read_run_file(told, ms_of(timezone.now()))).pk))


class TableIn(Schema):
    """The text of a table of outcomes, as the log writes it, and how many of its runs were taken before."""

    text: str = Field(max_length=5_000_000)
    skip: Whole = Field(default=0, ge=0)


class TableRow(Schema):
    """A run of a table: what it is called there, and why it was left out, where it was."""

    name: str
    faults: list[Fault]


class TableTaken(Schema):
    """What became of the next runs of a table, which has so many; `next` is how many to skip when the rest is sent, None when there is none."""

    of: int
    next: int | None
    rows: list[TableRow]


@router.post("/runs/table", response={200: TableTaken, 422: Faults}, operation_id="takeTableIn")
def take_table_in(request: HttpRequest, told: TableIn) -> TableTaken:
    """Take runs of a table in, each whole or not at all, as many as a few seconds allow, and tell of each what became of it."""
    began = monotonic()
    found = read_table(told.text, ms_of(timezone.now()))
    # A table tells when a run began to the second; those of tables are known by their events.
    names = {one.run.piece_name for one in found if one.run}
    others = runs_of().filter(piece_name__in=names).exclude(events__event__startswith=FROM_TABLE)
    there = {(name, ms_of(at) // 1000) for name, at in others.values_list("piece_name", "started_at")}
    rows: list[TableRow] = []
    for one in found[told.skip :]:
        rows.append(TableRow(name=one.name, faults=_taken(one, there)))
        if monotonic() - began > LONGEST_TAKING_S:
            break
    done = told.skip + len(rows)
    return TableTaken(of=len(found), next=done if done < len(found) else None, rows=rows)


def _taken(one: TableRun, there: set[tuple[str, int]]) -> list[Fault]:
    if one.run is None:
        return list(one.faults)
    try:
        if (one.run.piece_name, one.run.began_ms // 1000) in there:
            raise already_there(one.run)
        take_in(one.run)
    except Clash as problem:
        return [problem.fault]
    return []


class PhotoIn(Schema):
    """A photograph, in base64, and the turn that it is of."""

    turn: str = Field(max_length=16)
    image: str = Field(max_length=6_000_000)


class PhotoView(Schema):
    """A photograph that is kept: the turn that it is of, and how large it is, pixels."""

    id: int
    turn: str
    added_at: datetime
    width: int
    height: int


@router.get("/runs/{int:key}/photos", response={200: list[PhotoView], 404: Faults}, operation_id="photosOf")
def photos_of(request: HttpRequest, key: int) -> list[PhotoView]:
    """Give the photographs of a run."""
    rows = run_of(key).photos.defer("large", "small")
    return [PhotoView.model_validate(row, from_attributes=True) for row in rows]


@router.post(
    "/runs/{int:key}/photos",
    response={201: PhotoView, 404: Faults, 409: Faults, 422: Faults},
    operation_id="keepPhoto",
)
def keep(request: HttpRequest, key: int, photo: PhotoIn) -> Status[PhotoView]:
    """Keep a photograph with a run, made smaller, with nothing that tells where it was taken."""
    kept = keep_photo(run_of(key), photo.turn, photo.image)
    return Status(201, PhotoView.model_validate(kept, from_attributes=True))


@router.delete("/photos/{int:key}", response={204: None, 404: Faults}, operation_id="takePhotoAway")
def take_photo_away(request: HttpRequest, key: int) -> Status[None]:
    """Take a photograph away."""
    photo_of(key).delete()
    return Status(204, None)


@router.get("/photos/{int:key}.jpg", operation_id="photo", include_in_schema=False)
def photo(request: HttpRequest, key: int, small: bool = False) -> HttpResponse:
    """Give a photograph; one never changes."""
    found = photo_of(key)
    answer = HttpResponse(bytes(found.small if small else found.large), content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer


class PotView(Schema):
    """How the pot was used since it was mixed: loads, how many came out early or stayed far too long, minutes at the median; how much copper its acid bears.

    `pace` is how many times as long as it is reckoned with they took; `copper` what it holds by its loads since that was measured; of
    either None where too few tell. `mix_g_per_l` and the temperatures, °C, are those of its acid.
    """

    loads: int
    early: int
    too_long: int
    minutes: float | None
    pace: float | None
    copper: CopperByLoads | None
    copper_limit_g_l: float
    mix_g_per_l: float
    low_c: float
    high_c: float
    usual_c: float


@router.get("/pot", response=PotView, operation_id="seePot")
def see_pot(request: HttpRequest) -> PotView:
    """Tell how the pot of the bench was used since it was mixed."""
    bench = resolve_bench(bench_of(current_workshop())[1])
    pot, bath = bench.pot or PotState(), pickles()[bench.pickle or "bisulphate"]
    used = pot_loads(pot.mixed_on, pot.paced_at)
    since = loads_since(pot.copper_at) if pot.copper_at else 0
    return PotView(
        loads=used.loads,
        early=used.early,
        too_long=used.too_long,
        minutes=used.minutes,
        pace=used.pace,
        copper=copper_by_loads(pot.copper_g_l, used.loads - since, since, bath.copper_limit_g_l)
        if pot.copper_at
        else None,
        copper_limit_g_l=bath.copper_limit_g_l,
        mix_g_per_l=bath.mix_g_per_l,
        low_c=bath.temp_low_c,
        high_c=bath.temp_high_c,
        usual_c=bath.hot_ref_c,
    )


class JoinNow(Schema):
    """A join as it is now: whether it is there, and with which solder (none where it is fused, cold, or still to be made); which one the
    plan `takes` for one that is still to be made.
    """

    id: str
    title: str
    heated: bool
    fused: bool
    made: bool
    solder: str | None
    takes: str | None


class PartNow(Schema):
    """A part as it is now: whether it is there, and how long it is, mm; None where it is not of wire, strip or tube."""

    id: str
    title: str
    made: bool
    length_mm: float | None


class SolderNow(Schema):
    """A solder at hand."""

    id: str
    name: str


class HeatToCome(Schema):
    """A heat of what is left: what it makes, and with which solder, in words."""

    heat_no: int
    title: str
    named: str
    minutes: float


class RestView(Schema):
    """What is left of a run, planned from the piece as it was made.

    `turn` is where the run stands; `why_not` says, where there is no plan, what keeps it; `stops` wait to be confirmed.
    """

    turn: str
    joins: list[JoinNow]
    parts: list[PartNow]
    solders: list[SolderNow]
    heats: list[HeatToCome]
    steps: int
    minutes: float
    why_not: list[str]
    stops: list[Caution]
    dangers: list[Caution]


class Kin(Schema):
    """The run that a run goes on from, and the one that went on from it."""

    before: int | None
    after: int | None


@router.get("/runs/{int:key}/kin", response={200: Kin, 404: Faults}, operation_id="kinOf")
def kin_of(request: HttpRequest, key: int) -> Kin:
    """Tell which run a run goes on from, and which went on from it."""
    run = run_of(key)
    return Kin(before=run.continues_id, after=run.went_on.order_by("pk").values_list("pk", flat=True).first())


class GoOn(Schema):
    """What is otherwise than the run has it, the turn at which it stands, and what was confirmed of the new plan's stops."""

    turn: str = Field(max_length=16)
    otherwise: Otherwise = Otherwise()
    confirmed: list[Confirmed] = Field(default=[], max_length=200)


class BeginFrom(Schema):
    """What is otherwise than the run has it, and what the piece is called that is begun from it."""

    otherwise: Otherwise = Otherwise()
    name: str = Field(default="", max_length=120)


class Begun(Schema):
    """The piece that was begun."""

    id: int


REST: dict[int, Any] = {404: Faults, 409: Faults, 422: Faults}


@router.post("/runs/{int:key}/rest", response={200: RestView, **REST}, operation_id="restOf", by_alias=True)
def see_rest(request: HttpRequest, key: int, told: Otherwise) -> RestView:
    """Tell what is left of a run, planned from the piece as it was made; nothing is changed by it."""
    run = run_of(key)
    return _rest_view(run, rest_of(run, told))


@router.post("/runs/{int:key}/go-on", response={201: RunView, **REST}, operation_id="goOnFrom", by_alias=True)
def go_on_from(request: HttpRequest, key: int, asked: GoOn) -> Status[RunView]:
    """Go on by the plan of what is left: the run is stopped, and another goes on from it."""
    confirmed = frozenset((one.code, one.step) for one in asked.confirmed)
    return Status(201, view_of(go_on(run_of(key), asked.turn, asked.otherwise, confirmed)))


@router.post(
    "/runs/{int:key}/piece", response={201: Begun, **REST}, operation_id="beginFromRun", by_alias=True
)
def begin_from_run(request: HttpRequest, key: int, asked: BeginFrom) -> Status[Begun]:
    """Begin a piece from what a run has made so far."""
    return Status(201, Begun(id=begin_from(run_of(key), asked.otherwise, asked.name.strip()).pk))


def _rest_view(run: Run, rest: Rest) -> RestView:
    piece, plan = rest.piece, rest.plan
    heats = [step for step in plan.steps if isinstance(step, HeatStep)]
    takes = {row.join: row.solder for heat in heats for row in heat.joins}
    return RestView(
        turn=run.turn,
        joins=[
            JoinNow(
                id=join.id,
                title=join.title,
                heated=join.heated,
                fused=join.kind == "fuse",
                made=join.made,
                solder=join.solder if join.made else None,
                takes=takes.get(join.id),
            )
            for join in piece.joins
        ],
        parts=[
            PartNow(
                id=part.id,
                title=part.title,
                made=part.made,
                length_mm=getattr(part.form, "length_mm", None),
            )
            for part in piece.parts
        ],
        solders=[SolderNow(id=one.id, name=one.name) for one, _ in stocked_solders(rest.bench)],
        heats=[
            HeatToCome(
                heat_no=heat.heat_no,
                title=", ".join(row.title for row in heat.joins)
                or ", ".join(part_of(piece, part).title for part in heat.parts),
                named=", ".join(dict.fromkeys(row.named for row in heat.joins if row.named)),
                minutes=heat.minutes,
            )
            for heat in heats
        ],
        steps=len(plan.steps),
        minutes=round(sum(step.minutes for step in plan.steps), 1),
        why_not=[one.text for one in plan.conflict.demands] if plan.conflict else [],
        stops=list(plan.stops),
        dangers=[one for one in plan.cautions if one.severity == "danger"],
    )

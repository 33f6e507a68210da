"""Rehearsals over HTTP: ask, look how far it is, stop, use; and the bench's own torches."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from eskel_core.faults import Fault
from eskel_core.heat import Light, glow_rgb, glow_word
from eskel_core.rehearsal import Habit, HeatRequest, Help, Rehearsal, Verdict
from eskel_server.accounts import Faults
from eskel_server.bodies import Whole, YesNo
from eskel_server.pieces import piece_of
from eskel_server.pieces.views import PieceView, answer_with

from .actions import leave_out, use_rehearsal
from .calibration import TorchLine, torch_lines
from .queries import ask_for, job_of, stale_heats
from .queue import Job, State
from .queue import stop as stop_job

router = Router(tags=["rehearsals"])
GLOW_STEP_C = 20


class Ask(Schema):
    """A heat to rehearse, on which torch and surface (else the bench's), by which habit; what would help; or the whole piece, on
    its own bench: then `heat_no` says nothing.

    What is asked for `behind` is worked out when nothing is left that is looked at.
    """

    heat_no: Whole = 1
    kind: Literal["heat", "help", "piece"] = "heat"
    torch: str | None = None
    surface: str | None = None
    light: Light = "dim"
    habit: Habit = "best"
    setting: float = 1.0
    behind: YesNo = False

    def request(self) -> HeatRequest:
        """Give the heat as it is asked for; how strong its torch is the log tells."""
        return HeatRequest(
            torch=self.torch, surface=self.surface, light=self.light, habit=self.habit, setting=self.setting
        )


class HeatOfWhole(Schema):
    """What came of one heat of a piece: in how many of the hands that were tried it comes out well."""

    heat_no: int
    verdict: Verdict
    well: int
    tried: int


class WholeView(Schema):
    """Every heat of a piece, rehearsed: whether the plan and what was rehearsed agree."""

    agreed: bool
    heats: list[HeatOfWhole]


class JobView(Schema):
    """How far a rehearsal is, and what came of it."""

    id: str
    state: State
    what: str
    share: float
    rehearsal: Rehearsal | None = None
    help: tuple[Help, ...] = ()
    whole: WholeView | None = None
    faults: tuple[Fault, ...] = ()


class Use(Schema):
    """The revision that a rehearsal is copied into, and the rehearsal's id."""

    revision: Whole
    rehearsal: str


class Stale(Schema):
    """The heats whose rehearsal is out of date."""

    heats: list[int]


class LeaveOut(Schema):
    """Whether a logged heat is left out."""

    left_out: YesNo


class GlowStep(Schema):
    """The colour and the name of the glow at a temperature, by the light of the room."""

    at_c: int
    rgb: tuple[int, int, int]
    word: str


ANSWERS: dict[int, Any] = {200: JobView, 404: Faults, 422: Faults}


def _view(job: Job) -> JobView:
    return JobView.model_validate(
        {
            "id": job.id,
            "state": job.state,
            "what": job.what,
            "share": round(job.share, 3),
            "rehearsal": job.result.get("rehearsal"),
            "help": job.result.get("help", []),
            "whole": job.result.get("whole"),
            "faults": job.faults,
        }
    )


@router.post("/pieces/{int:key}/rehearsals", response=ANSWERS, operation_id="askRehearsal")
def ask(request: HttpRequest, key: int, asked: Ask) -> JobView:
    """Ask for a rehearsal of a heat; what was worked out before is there at once."""
    return _view(ask_for(piece_of(key), asked.kind, asked.heat_no, asked.request(), behind=asked.behind))


@router.get("/rehearsals/{job}", response=ANSWERS, operation_id="lookAtRehearsal")
def look(request: HttpRequest, job: str) -> JobView:
    """Give how far a rehearsal is."""
    return _view(job_of(job))


@router.post("/rehearsals/{job}/stop", response=ANSWERS, operation_id="stopRehearsal")
def stop(request: HttpRequest, job: str) -> JobView:
    """Stop a rehearsal."""
    return _view(stop_job(job) or job_of(job))


@router.post(
    "/pieces/{int:key}/rehearsals/use",
    response={200: PieceView, 404: Faults, 409: Faults, 422: Faults},
    operation_id="useRehearsal",
    by_alias=True,
)
def use(request: HttpRequest, key: int, chosen: Use) -> HttpResponse:
    """Copy a rehearsal into its piece: times, torch and tip of the heat, and what earlier joins were spared."""
    return answer_with(use_rehearsal(piece_of(key), chosen.revision, job_of(chosen.rehearsal)))


@router.get(
    "/pieces/{int:key}/rehearsals/stale", response={200: Stale, 404: Faults}, operation_id="staleRehearsals"
)
def stale(request: HttpRequest, key: int) -> Stale:
    """Give the heats whose rehearsal was made with other forms than the piece has now."""
    return Stale(heats=stale_heats(piece_of(key)))


@router.get("/torches", response=list[TorchLine], operation_id="benchTorches")
def bench_torches(request: HttpRequest) -> list[TorchLine]:
    """Give every torch of this bench that the log tells of."""
    return torch_lines()


@router.put(
    "/logged-heats/{int:record}", response={200: list[TorchLine], 404: Faults}, operation_id="leaveHeatOut"
)
def leave(request: HttpRequest, record: int, choice: LeaveOut) -> list[TorchLine]:
    """Leave a logged heat out of the torch factor, or count it again."""
    leave_out(record, choice.left_out)
    return torch_lines()


@router.get("/glow", response=list[GlowStep], operation_id="glow")
def glow(request: HttpRequest, light: Light = "dim") -> list[GlowStep]:
    """Give the colour and name of the glow every 20 °C from 20 to 1200 °C by the light of a room."""
    return [
        GlowStep(at_c=at, rgb=glow_rgb(at, light), word=glow_word(at, light))
        for at in range(GLOW_STEP_C, 1200 + GLOW_STEP_C, GLOW_STEP_C)
    ]

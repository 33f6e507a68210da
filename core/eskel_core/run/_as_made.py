"""The piece as it was made: what a run has joined so far and with what, so that the rest can be planned anew, or another piece begun with it."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

from ..coldwork import compounded_pct
from ..faults import refuse
from ..forms import Strip, Tube, Wire
from ..log import Outcome
from ..piece import (
    Bench,
    Join,
    Part,
    Piece,
    Reduction,
    Work,
    base_id,
    metal_of,
    piece_from_object,
    piece_object,
)
from ..plan import CoolStep, HeatStep, InspectStep, PickleStep, Plan, PrepareStep, Step, WorkStep
from ..rules import reduction_of
from ._mending import as_the_work_bears
from ._state import RunState, Turn

# With these words a join is there, be it short, or the cause that another one opened; with the others it is not.
_THERE: frozenset[Outcome] = frozenset(("flowed", "short", "flooded", "opened-another"))
_OF_SOLDER = ("solder", "grade", "by_hand")
_Name = Annotated[str, Field(max_length=60)]


class Otherwise(BaseModel):
    """What is otherwise than a run has it: joins that are open, joins that are there and with which solder (none where fused), parts
    of wire, strip or tube and how long they are now, mm, parts that are to be cut anew, solders that ran out.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    open: Annotated[tuple[_Name, ...], Field(max_length=500)] = ()
    made: Annotated[dict[_Name, str | None], Field(max_length=500)] = {}
    lengths_mm: Annotated[
        dict[_Name, Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]], Field(max_length=500)
    ] = {}
    anew: Annotated[tuple[_Name, ...], Field(max_length=500)] = ()
    ran_out: Annotated[tuple[_Name, ...], Field(max_length=100)] = ()


def as_made(piece: Piece, plan: Plan, state: RunState) -> Piece:
    """Give a piece as a run has made it so far: its joins with the solders that they were made with, its parts as they are now, its work
    as far as it is done.
    """
    left = [plan.steps[turn.step - 1] for turn in state.turns if _is_left(turn)]
    made = dict(_made(plan, state))
    done = {step.work for step in left if isinstance(step, WorkStep | HeatStep) and step.work}
    cold = set(_cold(piece, plan, left))
    there = {base_id(part) for step in left if step.n > 1 for part in step.parts}
    there |= {base_id(end) for join in piece.joins if join.id in made for end in join.between}
    vents = tuple(_vents(piece, left))
    return piece.model_copy(
        update={
            "parts": tuple(_part_now(piece, part, left, there) for part in piece.parts),
            "joins": tuple(_join_now(join, made, cold) for join in piece.joins),
            "work": (*(_work_now(work, done) for work in piece.work), *vents),
        }
    )


def otherwise(made: Piece, asked: Piece, bench: Bench, told: Otherwise) -> Piece:
    """Give a piece as `made` with what is otherwise: what is open or cut anew is again as it was `asked` for; `bench` is what it would be
    planned on, of which some solders ran out.

    Raises Refused where the piece has no such join, part or solder.
    """
    _known(told.open, {join.id for join in made.joins}, "open", "join")
    _known(told.made, {join.id for join in made.joins}, "made", "join")
    _known(told.anew, {part.id for part in made.parts}, "anew", "part")
    long = {part.id for part in made.parts if isinstance(part.form, Wire | Strip | Tube)}
    _known(told.lengths_mm, long, "lengths_mm", "part of wire, strip or tube")
    plain, before = piece_object(made), piece_object(asked)
    anew = set(told.anew)
    plain["parts"] = [
        _part_told(old if part["id"] in anew else part, part["id"] in anew, told)
        for part, old in zip(plain["parts"], before["parts"], strict=True)
    ]
    for join, old in zip(plain.get("joins", ()), before.get("joins", ()), strict=True):
        name = join["id"]
        if name in told.made:
            _let_be(join, {"made": True, "solder": told.made[name]})
        elif join.get("made") and (name in told.open or anew & set(map(base_id, join["between"]))):
            # One that was made before the run began could be of any solder.
            _let_be(join, {} if old.get("made") else {key: old.get(key) for key in _OF_SOLDER})
    asked_for = {work["id"] for work in before.get("work", ())}
    for work in plain.get("work", ()):
        if anew & set(map(base_id, work.get("parts", ()))):
            work.pop("done", None)
    # A vent that the planner had put in is its own to put in again.
    plain["work"] = [work for work in plain.get("work", ()) if work.get("done") or work["id"] in asked_for]
    if told.ran_out:
        kept = [one for one in bench.solders or () if _solder_of(one) not in told.ran_out]
        _known(told.ran_out, {_solder_of(one) for one in bench.solders or ()}, "ran_out", "solder at hand")
        rows = [
            one if isinstance(one, str) else one.model_dump(mode="json", exclude_defaults=True)
            for one in kept
        ]
        plain["bench"] = {**plain.get("bench", {}), "solders": rows}
    return piece_from_object(plain)


def _part_told(part: dict[str, Any], anew: bool, told: Otherwise) -> dict[str, Any]:
    """Give a part as it is told to be: cut anew it is not there yet; as long as it is now."""
    found = dict(part)
    if anew:
        found.pop("made", None)
    if part["id"] in told.lengths_mm:
        found["form"] = {**part["form"], "length_mm": told.lengths_mm[part["id"]]}
        found.pop("rough", None)
    return found


def _let_be(join: dict[str, Any], what: dict[str, Any]) -> None:
    """Let a join be made, or open, with what is told of its solder and nothing else."""
    for key in ("made", *_OF_SOLDER):
        join.pop(key, None)
    join |= {key: value for key, value in what.items() if value is not None}


def going_on(old: Plan, state: RunState, new: Plan, piece: Piece) -> Plan:
    """Give the plan of the rest with what the last heat of a run still waits for put first: cooling, steel off, the pot, a look.

    What the pot leaves water in is dried out before the first heat. `piece` is what the rest was planned of.
    """
    first = _waited_for(old, state)
    plain, rest = as_the_work_bears(
        piece, [step.model_copy(update={"heats": (), "round": 0}) for step in first], new.steps
    )
    steps = [step.model_copy(update={"n": n + 1}) for n, step in enumerate((*plain, *rest))]
    moved = {step.n: n + 1 for n, step in enumerate((*plain, *rest)) if n >= len(plain) and step.n}
    later = tuple(
        one if one.step is None else one.model_copy(update={"step": moved[one.step]}) for one in new.cautions
    )
    stops = tuple(one for one in later if one.severity == "stop")
    return new.model_copy(update={"steps": tuple(steps), "cautions": later, "stops": stops})


def _is_left(turn: Turn) -> bool:
    """Say whether a turn was gone on from, done: neither skipped nor gone back from."""
    last = turn.stays[-1] if turn.stays else None
    return last is not None and last.left_ms is not None and not last.back and not turn.skipped


def _made(plan: Plan, state: RunState) -> Iterator[tuple[str, str | None]]:
    """Give the joins that are there, each with its solder: the last word on each counts, and one that is being made again is open."""
    there: dict[str, str | None] = {}
    for turn in state.turns:
        step = plan.steps[turn.step - 1]
        if isinstance(step, WorkStep) and step.work_kind == "open" and _is_left(turn):
            for name in step.joins:
                there.pop(name, None)
        if not isinstance(step, HeatStep):
            continue
        for one in turn.opened:
            there.pop(one.join, None)
        words = {word.join: word.outcome for word in turn.outcomes}
        for row in step.joins:
            if row.join in words and words[row.join] in _THERE:
                there[row.join] = row.solder
            elif row.join in words or row.join in turn.joins:
                there.pop(row.join, None)
    yield from there.items()


def _cold(piece: Piece, plan: Plan, left: Collection[Step]) -> Iterator[str]:
    """Give the cold joins that are made: their steps name what they join, and no heat of just that comes after them."""
    heats = [step for step in plan.steps if isinstance(step, HeatStep)]
    done = {
        step.parts
        for step in left
        if isinstance(step, PrepareStep)
        and step.n > 1
        and not any(heat.n > step.n and heat.parts == step.parts for heat in heats)
    }
    yield from (join.id for join in piece.joins if not join.heated and join.between in done)


def _join_now(join: Join, made: dict[str, str | None], cold: set[str]) -> Join:
    if join.made or join.id in cold:
        return join.model_copy(update={"made": True})
    if join.id not in made:
        return join
    return join.model_copy(update={"made": True, "solder": made[join.id], "grade": None, "by_hand": None})


def _work_now(work: Work, done: set[str]) -> Work:
    return work.model_copy(update={"done": True}) if work.id in done else work


def _vents(piece: Piece, left: Iterable[Step]) -> Iterator[Work]:
    """Give, as work that is done, the vents that the planner put in and that were drilled."""
    ids = {one.id for one in (*piece.joins, *piece.work)}
    drilled = {
        part
        for step in left
        if isinstance(step, WorkStep) and step.put_in and step.work_kind == "drill"
        for part in step.parts
    }
    for hollow in dict.fromkeys(join.encloses for join in piece.joins if join.encloses):
        ends = {base_id(end) for join in piece.joins if join.encloses == hollow for end in join.between}
        known = any(hollow in work.vents for work in piece.work)
        if drilled & ends and not known:
            name = next(one for one in (f"vent-{hollow}"[:60], f"vent-{len(ids)}") if one not in ids)
            yield Work(id=name, kind="drill", parts=(min(drilled & ends),), vents=(hollow,), done=True)


def _part_now(piece: Piece, part: Part, left: Iterable[Step], there: set[str]) -> Part:
    """Give a part as it is now: there, trimmed, as hard as what was done since its last heat has left it."""
    if part.id not in there:
        return part
    metal, works = metal_of(piece, part.id), {work.id: work for work in piece.work}
    told: dict[str, object] = {"made": True}
    hard: float | None = None
    for step in left:
        if part.id not in map(base_id, step.parts):
            continue
        if isinstance(step, HeatStep) and metal is not None and step.working_c >= metal.anneal_low_c:
            hard, told["temper"] = 0.0, "soft"
        elif isinstance(step, WorkStep) and step.work in works:
            work = works[step.work]
            reduction = reduction_of(work)
            if reduction and (hard is not None or part.temper == "soft"):
                hard = compounded_pct(hard or 0.0, reduction)
                told["temper"] = Reduction(reduction_pct=round(hard, 1))
            if work.kind == "trim":
                told["rough"] = None
    return part.model_copy(update=told)


def _waited_for(plan: Plan, state: RunState) -> list[Step]:
    """Give the steps that the last heat that was lit still waits for, as far as they were not done, to the look at what is there."""
    entered = [turn for turn in state.turns if turn.stays]
    lit = [n for n, turn in enumerate(entered) if turn.signs or turn.outcomes]
    if not lit:
        return []
    since = {turn.step for turn in entered[lit[-1] :] if _is_left(turn)}
    open_joins = {row.join for step in plan.steps if isinstance(step, HeatStep) for row in step.joins}
    open_joins -= dict(_made(plan, state)).keys()
    found: list[Step] = []
    for step in plan.steps[entered[lit[-1]].step :]:
        if isinstance(step, HeatStep) or step.n in since:
            continue
        if isinstance(step, InspectStep):
            checks = tuple(check for check in step.checks if check.about not in open_joins)
            return [*found, step.model_copy(update={"checks": checks})] if checks else found
        off = isinstance(step, WorkStep) and step.put_in and step.work_kind == "unbind"
        if not (isinstance(step, CoolStep | PickleStep) or off):
            break
        found.append(step)
    return found


def _solder_of(one: object) -> str:
    return one if isinstance(one, str) else str(getattr(one, "solder", ""))


def _known(names: Iterable[str], known: set[str], path: str, what: str) -> None:
    for name in names:
        if name not in known:
            raise refuse(
                "unknown-id", f"{path}.{name}", name, f"there is a {what} of that id", "Name one that it has."
            )

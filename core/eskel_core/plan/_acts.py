"""A step of a plan as what is done to the work: the acts of which the state tells what comes of them."""

from __future__ import annotations

from collections.abc import Iterator

from ..metals import solders
from ..piece import HOLDING_WORK, Piece, Work, base_id
from ..rules import ON_STEEL, holds_at_all, is_in_hand, is_steel, reduction_of
from ..state import (
    Act,
    Bath,
    Bind,
    Cool,
    Cover,
    Dry,
    Fix,
    Form,
    Heat,
    Making,
    Outcome,
    Pierce,
    Ready,
    Replace,
    Shut,
    State,
    Unbind,
    opens,
)
from ._types import CoolStep, HeatStep, PickleStep, PrepareStep, Step, WorkStep


def acts_of(state: State, step: Step, *, again: frozenset[str]) -> tuple[Act, ...]:
    """Give what a step does to the work, in order; `again` are the nodes that are heated after a bath."""
    match step:
        case PrepareStep():
            return tuple(_prepared(state, step))
        case WorkStep():
            return tuple(_worked(state, step))
        case HeatStep():
            return (_heated(state, step),)
        case CoolStep():
            return (Cool(nodes(state, step.parts), "air" if step.how == "air-cool" else "quench"),)
        case PickleStep():
            return tuple(_pickled(state, step, again=again))
        case _:
            return ()


def nodes(state: State, references: tuple[str, ...]) -> frozenset[str]:
    """Give the nodes that some references name."""
    return state.anatomy.of(references)


def _prepared(state: State, step: PrepareStep) -> Iterator[Act]:
    joins = [state.joins[name] for name in step.joins]
    if step.mould_of is not None:
        yield Ready(step.mould_of)
    for join in joins:
        if not join.heated:
            yield Fix(join.id)
    heated = [join for join in joins if join.heated]
    steel = frozenset(join.id for join in heated if is_steel(join))
    if steel:
        yield Bind(steel)
    if heated:
        yield Cover(nodes(state, tuple(end for join in heated for end in join.between)), "wet")


def _worked(state: State, step: WorkStep) -> Iterator[Act]:
    work = next((work for work in state.piece.work if work.id == step.work), None)
    parts = nodes(state, step.parts)
    if step.work_kind == "unbind":
        yield Unbind(parts)
    elif step.work_kind == "dry":
        yield Dry(parts)
    elif step.work_kind == "open":
        yield from _opened(state, step)
    elif step.work_kind == "cut":
        yield Replace(parts, step.many or 1)
    else:
        if work is not None:
            yield from _told_work(state, work, parts)
        yield Dry(parts, inside=False)
    opened = frozenset(step.opens)
    if opened:
        yield Pierce(opened, by=step.work)


def _opened(state: State, step: WorkStep) -> Iterator[Act]:
    """Give what taking joins apart does: a heat in which they run and are held, and then they are open."""
    made = [name for name in state.groups[0].tied if state.joins[name].heated]
    held = {name for name in made if holds_at_all(state.piece, state.joins[name], "front-up")}
    seeds = frozenset(node for name in step.joins for node in state.anatomy.joins[name].nodes)
    yield Heat(seeds, step.to_c or 0.0, held=frozenset(held | set(step.joins)), cooler_c=step.cooler_c)
    for name in step.joins:
        yield Outcome(name, "opened")


def _told_work(state: State, work: Work, parts: frozenset[str]) -> Iterator[Act]:
    piece, hollows = state.piece, state.groups[0].hollows
    pct = reduction_of(work) or 0.0
    yield Form(parts, work.id, pct, on_steel=work.kind in ON_STEEL)
    opened = {name for name in work.vents if name in hollows}
    opened |= {name for name, hollow in hollows.items() if hollow.part and opens(piece, work.id, name)}
    if opened:
        yield Pierce(frozenset(opened), by=work.id)
    shut = frozenset(base_id(name) for name in work.seals) & hollows.keys()
    if shut:
        yield Shut(shut, by=work.id, keeps=_holes(piece, shut))
    if work.kind in HOLDING_WORK:
        yield Fix(work.id)


def _holes(piece: Piece, parts: frozenset[str]) -> frozenset[str]:
    """Give the work whose way out stays when the ends are shut: holes that are drilled, and what is told to vent."""
    return frozenset(work.id for work in piece.work for part in parts if opens(piece, work.id, part))


def _heated(state: State, step: HeatStep) -> Heat:
    joins = [state.joins[made.join] for made in step.joins]
    work = next((work for work in state.piece.work if work.id == step.work), None)
    seeds = frozenset(node for join in joins for node in state.anatomy.joins[join.id].nodes)
    if work is not None:
        seeds |= nodes(state, work.parts)
    guarded = {protect.id for protect in step.protect}
    held = {
        name
        for name in step.states
        if name in guarded or holds_at_all(state.piece, state.joins[name], step.lies)
    }
    return Heat(
        seeds=seeds or nodes(state, step.parts),
        to_c=step.working_c,
        makes=tuple(_making(made.join, made.solder, step.working_c) for made in step.joins),
        held=frozenset(held),
        cooler_c=step.cooler_c,
        softens=step.purpose in ("solder", "anneal"),
        work=step.work,
        in_hand=frozenset(join.id for join in joins if is_in_hand(join, state.house)),
        number=step.heat_no,
    )


def _making(join: str, solder: str | None, to_c: float) -> Making:
    if solder is None:
        return Making(join, None, to_c, to_c)
    known = solders()[solder]
    return Making(join, solder, known.solidus_c, known.flow_c)


def _pickled(state: State, step: PickleStep, *, again: frozenset[str]) -> Iterator[Act]:
    parts = nodes(state, step.parts)
    yield Bath(parts, "acid", again)
    if step.neutralise:
        yield Bath(parts, "soda", again)
    yield Bath(parts, "water", again)

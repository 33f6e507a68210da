"""What an act does to the work."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import singledispatch
from typing import Any

from ..piece import HOLDING_WORK
from ._acts import (
    Act,
    Bath,
    Bind,
    Cool,
    Cover,
    Dry,
    Fit,
    Fix,
    Form,
    Heat,
    Look,
    Making,
    Measure,
    Miss,
    Outcome,
    Pierce,
    Ready,
    Replace,
    Shut,
    Unbind,
)
from ._begin import runs_c
from ._bodies import body_of, hung_on
from ._types import Closed, Condition, Fluid, Group, Hollow, Seam, State

GLOWS_C = 500.0
_WATER: frozenset[Fluid] = frozenset({"water"})


def after(state: State, act: Act) -> State:
    """Give the work as it is after an act. Copies that fare otherwise become a group of their own."""
    groups: list[Group] = []
    for group in state.groups:
        inside, outside = split(group, act.copies)
        groups += [_after(act, state, inside)] if inside is not None else []
        groups += [outside] if outside is not None else []
    return replace(state, groups=tuple(groups))


def split(group: Group, copies: tuple[int, ...] | None) -> tuple[Group | None, Group | None]:
    """Give the copies of a group that an act is done to, and the others; None where there are none."""
    if copies is None:
        return group, None
    wanted = set(copies)
    inside = tuple(copy for copy in group.copies if copy in wanted)
    outside = tuple(copy for copy in group.copies if copy not in wanted)
    return (
        replace(group, copies=inside) if inside else None,
        replace(group, copies=outside) if outside else None,
    )


@singledispatch
def _after(act: Act, state: State, group: Group) -> Group:
    raise TypeError(f"no such act: {act!r}")


@_after.register
def _heat(act: Heat, state: State, group: Group) -> Group:
    making = {making.join: making for making in act.makes}
    body = body_of(state, group, act.seeds, making)
    parts = dict(group.parts)
    for node in body:
        parts[node] = _heated(state, node, parts[node], act)
    for node in hung_on(state, group, body, making):
        parts[node] = parts[node]._replace(warmth="black", wet=frozenset())
    seams = dict(group.seams)
    for name, own in making.items():
        seams[name] = tuple(_soldered(state, seam, own) for seam in seams[name])
    hollows = {name: _hollow_heated(hollow, body, act, making) for name, hollow in group.hollows.items()}
    return replace(group, parts=parts, seams=seams, hollows=hollows, ready=group.ready - {act.work or ""})


def _heated(state: State, node: str, before: Condition, act: Heat) -> Condition:
    metal = state.metal(node)
    soft = metal is not None and act.softens and act.to_c >= metal.anneal_low_c
    return before._replace(
        warmth="glowing" if act.to_c >= GLOWS_C else "black",
        hottest_c=max(act.to_c, before.hottest_c or act.to_c),
        wet=frozenset(),
        flux="none" if before.flux == "none" else "glass",
        scaled=before.scaled or (metal is not None and metal.fire_scale != "none"),
        temper="soft" if soft else before.temper,
        reduction_pct=0.0 if soft else before.reduction_pct,
    )


def _soldered(state: State, seam: Seam, making: Making) -> Seam:
    return replace(
        seam,
        stage="fused" if making.solder is None else "soldered",
        quality="sound",
        solder=making.solder,
        solidus_c=making.solidus_c,
        runs_c=runs_c(making.flow_c, state.house),
    )


def _hollow_heated(hollow: Hollow, body: frozenset[str], act: Heat, making: Mapping[str, Making]) -> Hollow:
    if not hollow.nodes & body:
        return hollow
    ways = hollow.ways - making.keys()
    closed = hollow.closed if ways or hollow.closed else Closed("heat", act.to_c)
    wet = frozenset() if hollow.open else hollow.wet
    return replace(hollow, ways=ways, wide=hollow.wide - making.keys(), closed=closed, wet=wet)


@_after.register
def _ready(act: Ready, state: State, group: Group) -> Group:
    return replace(group, ready=group.ready | {act.work})


@_after.register
def _cool(act: Cool, state: State, group: Group) -> Group:
    inside = whole(state, group, act.parts)
    parts = dict(group.parts)
    for node in inside:
        wet = _WATER if act.how == "quench" else parts[node].wet
        parts[node] = parts[node]._replace(warmth="cold", wet=wet)
    hollows = _wetted(group, inside, _WATER) if act.how == "quench" else group.hollows
    return replace(group, parts=parts, hollows=hollows)


def whole(state: State, group: Group, seeds: frozenset[str]) -> frozenset[str]:
    """Give everything that hangs together with some nodes, with solder or without: it goes into one bath."""
    body = body_of(state, group, seeds)
    return body | hung_on(state, group, body)


def _wetted(group: Group, inside: frozenset[str], fluids: frozenset[Fluid]) -> Mapping[str, Hollow]:
    return {
        name: replace(hollow, wet=hollow.wet | fluids)
        if hollow.holds_water and hollow.nodes & inside
        else hollow
        for name, hollow in group.hollows.items()
    }


@_after.register
def _bath(act: Bath, state: State, group: Group) -> Group:
    inside = whole(state, group, act.parts)
    parts = dict(group.parts)
    for node in inside:
        now = parts[node]
        parts[node] = now._replace(
            wet=frozenset({act.fluid}),
            scaled=now.scaled and act.fluid != "acid",
            flux="none" if act.fluid == "acid" else now.flux,
        )
    return replace(group, parts=parts, hollows=_wetted(group, inside, frozenset({act.fluid})))


@_after.register
def _dry(act: Dry, state: State, group: Group) -> Group:
    inside = whole(state, group, act.parts)
    parts = {
        node: now._replace(wet=frozenset()) if node in inside else now for node, now in group.parts.items()
    }
    hollows = {
        name: replace(hollow, wet=frozenset())
        if act.inside and hollow.open and hollow.nodes & inside
        else hollow
        for name, hollow in group.hollows.items()
    }
    return replace(group, parts=parts, hollows=hollows)


@_after.register
def _cover(act: Cover, state: State, group: Group) -> Group:
    return _each(group, act.parts, flux=act.flux)


def _each(group: Group, nodes: frozenset[str], **changes: Any) -> Group:
    parts = dict(group.parts)
    for node in nodes:
        parts[node] = parts[node]._replace(**changes)
    return replace(group, parts=parts)


@_after.register
def _bind(act: Bind, state: State, group: Group) -> Group:
    return _seams(group, act.joins, steel=True)


@_after.register
def _unbind(act: Unbind, state: State, group: Group) -> Group:
    inside = whole(state, group, act.parts)
    bound = frozenset(name for name, nodes in state.anatomy.joins.items() if nodes.nodes & inside)
    return _seams(group, bound, steel=False)


def _seams(group: Group, names: frozenset[str], **changes: Any) -> Group:
    seams = dict(group.seams)
    for name in names:
        seams[name] = tuple(replace(seam, **changes) for seam in seams[name])
    return replace(group, seams=seams)


@_after.register
def _pierce(act: Pierce, state: State, group: Group) -> Group:
    hollows = dict(group.hollows)
    for name in act.hollows:
        hollows[name] = replace(hollows[name], ways=hollows[name].ways | {act.by}, closed=None)
    return replace(group, hollows=hollows)


@_after.register
def _shut(act: Shut, state: State, group: Group) -> Group:
    hollows = dict(group.hollows)
    for name in act.hollows:
        ways = hollows[name].ways & act.keeps
        hollows[name] = replace(
            hollows[name], ways=ways, wide=frozenset(), closed=None if ways else Closed("cold")
        )
    return replace(group, hollows=hollows)


@_after.register
def _fix(act: Fix, state: State, group: Group) -> Group:
    if act.by in state.joins:
        return _seams(group, frozenset({act.by}), stage="cold")
    holding = {work.id for work in state.piece.work if work.kind in HOLDING_WORK}
    return replace(group, fixed=group.fixed | ({act.by} & holding))


@_after.register
def _form(act: Form, state: State, group: Group) -> Group:
    parts = dict(group.parts)
    for node in act.parts:
        before = parts[node].reduction_pct
        if act.reduction_pct and before is not None:
            left = (1 - before / 100) * (1 - act.reduction_pct / 100)
            parts[node] = parts[node]._replace(reduction_pct=round(100 * (1 - left), 3))
    return replace(group, parts=parts)


@_after.register
def _fit(act: Fit, state: State, group: Group) -> Group:
    return _each(group, act.parts, fitted=act.inside)


@_after.register
def _miss(act: Miss, state: State, group: Group) -> Group:
    parts = dict(group.parts)
    for node in act.parts:
        many = state.kinds[node].count if len(state.anatomy.nodes[state.kinds[node].id]) == 1 else 1
        lost = min(many, parts[node].lost + act.many)
        parts[node] = parts[node]._replace(lost=lost, there=act.there if lost == many else "there")
    return replace(group, parts=parts)


@_after.register
def _replace(act: Replace, state: State, group: Group) -> Group:
    parts = dict(group.parts)
    for node in act.parts:
        parts[node] = parts[node]._replace(
            lost=max(0, parts[node].lost - act.many), there="there", warmth="cold"
        )
    return replace(group, parts=parts)


@_after.register
def _outcome(act: Outcome, state: State, group: Group) -> Group:
    seams = dict(group.seams)
    seams[act.join] = _came_out(state, act, seams[act.join])
    hollow = state.joins[act.join].encloses
    if hollow is None:
        return replace(group, seams=seams)
    apart = any(not seam.holds for seam in seams[act.join])
    gap = apart or any(seam.quality == "short" for seam in seams[act.join])
    now = group.hollows[hollow]
    ways = now.ways | {act.join} if gap else now.ways - {act.join}
    wide = now.wide | {act.join} if apart else now.wide - {act.join}
    closed = None if ways else (now.closed or Closed("heat"))
    return replace(
        group,
        seams=seams,
        hollows={**group.hollows, hollow: replace(now, ways=ways, wide=wide, closed=closed)},
    )


def _came_out(state: State, act: Outcome, before: tuple[Seam, ...]) -> tuple[Seam, ...]:
    """Give a join's seams with some of its places told apart from the rest."""
    if not act.places:
        return tuple(replace(seam, stage=act.stage, quality=act.quality, places=()) for seam in before[:1])
    every = tuple(range(1, state.anatomy.joins[act.join].places + 1))
    wanted, seams = set(act.places), list[Seam]()
    for seam in before:
        here = seam.places or every
        kept = tuple(place for place in here if place not in wanted)
        changed = tuple(place for place in here if place in wanted)
        seams += [replace(seam, places=kept)] if kept else []
        seams += [replace(seam, places=changed, stage=act.stage, quality=act.quality)] if changed else []
    return tuple(seams)


@_after.register
def _measure(act: Measure, state: State, group: Group) -> Group:
    return replace(group, measured={**group.measured, act.what: act.value})


@_after.register
def _look(act: Look, state: State, group: Group) -> Group:
    return replace(group, passed=group.passed | {act.number})

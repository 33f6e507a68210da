"""Write a rehearsal out: the programme in words, the lines, the events, the tightest moment."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..heat import Body, Found, HeatSetup, Network, Stage
from ..heat import Trace as HeatTrace
from ..piece import House, Piece, base_id, metal_of
from ..rules import MOST_SHIELD_C, Purpose
from ..units import celsius, difference
from ._calibrate import TorchFactor
from ._facts import HeatFacts, Tools
from ._scene import Scene
from ._types import (
    CellsShown,
    EventShown,
    Habit,
    Line,
    Peak,
    Rehearsal,
    Seconds,
    Series,
    StageShown,
    Tightest,
    Verdict,
    found_in,
)
from ._words import event_text, fails_words, gathered_line, seconds_words, stage_text, title_of, verdict_lines

Floats = NDArray[np.float64]
_MOST_MOMENTS = 240
STAIN_C = 700.0
_DONE = {
    "solder": "Everything has run",
    "fuse": "It has fused",
    "anneal": "All of it is in its annealing range",
    "ball": "It has melted",
    "melt": "It is melted",
}
_UNTIL = {
    "solder": "the solder has run all along",
    "fuse": "it has fused",
    "anneal": "all of it is in its range",
    "ball": "it melts",
    "melt": "it is melted",
}


def shown(
    scene: Scene,
    found: Found,
    others: tuple[Found, Found],
    habit: Habit,
    setting: float,
    settles_c: float | None,
    *,
    with_cells: bool,
) -> Rehearsal:
    """Write a rehearsal out; `others` are the same programme with a stronger and with a weaker torch.

    `settles_c` is where the coolest place stays when all that has to be reached never is, °C.
    """
    piece, facts, body, setup = scene.piece, scene.facts, scene.body, scene.setup
    quick, slow = others
    trace = found.trace
    moments = _moments(trace)
    if settles_c is not None and settles_c >= min((goal.reach_c for goal in setup.goals), default=0.0):
        settles_c = None  # The flame is strong enough; what fails is to spare everything.
    verdict = verdict_of(found, scene.house)
    tightest = _tightest(piece, found, setup, facts.purpose)
    likely = found.done_s
    seconds = None if likely is None else _band(quick.done_s, likely, slow.done_s)
    told = None if seconds is None else seconds_words(seconds.low, seconds.likely, seconds.high)
    return Rehearsal(
        **asked_for(piece, facts, scene.tools, scene.torch_factor, habit, setting),
        verdict=verdict,
        **found_in(
            *verdict_lines(
                verdict,
                _DONE[facts.purpose],
                told,
                None if tightest is None else tightest.text,
                found.most_short_c,
                settles_c,
            ),
            gathered_line(body.gathered),
        ),
        programme=_programme(piece, facts, body, setup, found, others),
        seconds_to_flow=seconds,
        series=_series(piece, setup, trace, moments),
        events=tuple(
            EventShown(
                seconds=event.seconds,
                kind=event.kind,
                about=event.about,
                at_c=event.at_c,
                text=event_text(piece, event, facts.purpose),
            )
            for event in trace.events
        ),
        tightest=tightest,
        settles_c=None if settles_c is None else round(settles_c, 1),
        above_700_s=round(_above(piece, setup, trace), 1),
        peaks=_peaks(setup, trace, facts),
        left_out=body.left_out,
        cells=_cells(setup, trace, moments) if with_cells else None,
    )


def asked_for(
    piece: Piece, facts: HeatFacts, tools: Tools, factor: TorchFactor, habit: Habit, setting: float
) -> dict[str, Any]:
    """Give what every rehearsal tells of what it was asked for, whatever is heated."""
    return {
        "piece": piece.name,
        "heat_no": facts.heat_no,
        "purpose": facts.purpose,
        "joins": facts.making,
        "work": facts.work,
        "torch": tools.torch.id,
        "surface": tools.surface.id,
        "flux": tools.flux.id,
        "habit": habit,
        "setting": setting,
        "factor": round(factor.factor, 4),
        "spread": round(factor.spread, 4),
        "forms": facts.forms,
    }


def _band(low: float | None, likely: float, high: float | None) -> Seconds:
    """Give a time as a band in order: a weak flame that was opened further may have been the sooner one."""
    return Seconds(
        low=None if low is None else round(min(low, likely), 2),
        likely=round(likely, 2),
        high=None if high is None else round(max(high, likely), 2),
    )


def verdict_of(found: Found, house: House) -> Verdict:
    """Judge what was found by the margin of the house."""
    if found.done_s is None:
        return "harms" if found.margin_c < 0 else "never"
    if found.margin_c >= house.margin_c:
        return "flows"
    return "tight" if found.margin_c >= 0 else "harms"


def _moments(trace: HeatTrace) -> list[int]:
    count = len(trace.times_s)
    step = max(1, -(-count // _MOST_MOMENTS))
    chosen = list(range(0, count, step))
    return chosen if chosen[-1] == count - 1 else [*chosen, count - 1]


def _tightest(piece: Piece, found: Found, setup: HeatSetup, purpose: Purpose) -> Tightest | None:
    tight = found.trace.tightest
    if tight is None:
        return None
    about, room, at = tight
    limit = next(one for one in setup.limits if one.id == about)
    what = fails_words(limit.kind, purpose)
    title = title_of(piece, about)
    text = (
        f"Tightest at {at:.0f} s: {title} is {difference(room)} below where it {what} ({celsius(limit.below_c)})."
        if room >= 0
        else f"{title} {what} at {celsius(limit.below_c)} and goes {difference(-room)} over it by {at:.0f} s."
    )
    return Tightest(
        about=about,
        kind="part" if limit.kind == "part" else "join",
        degrees_c=round(room, 1),
        limit_c=limit.below_c,
        seconds=round(at, 1),
        text=text,
    )


def _programme(
    piece: Piece, facts: HeatFacts, body: Body, setup: HeatSetup, found: Found, others: tuple[Found, Found]
) -> tuple[StageShown, ...]:
    """Tell the stages that were gone through, each with its time as a band."""
    spent = found.trace.stages_s
    made = []
    for n, stage in enumerate(found.stages[: len(spent)]):
        last = n == len(spent) - 1
        low, high = (_spent(other, n, last) for other in others)
        seconds = _band(low, spent[n], high)
        told = seconds_words(seconds.low, spent[n], seconds.high)
        made.append(
            StageShown(
                text=stage_text(piece, stage, told, last and found.done_s is not None, _UNTIL[facts.purpose]),
                aim=stage.aim.kind,
                about=stage.aim.about,
                side=stage.aim.side,
                setting=stage.setting,
                seconds=seconds,
                # What is gathered does not lie as it is drawn: there is no place in the picture to point at.
                marks=() if body.gathered else _marks(setup, stage, float(sum(spent[:n])), found),
                reach_mm=0.0 if body.gathered else _reach(setup, stage),
            )
        )
    return tuple(made)


def _spent(other: Found, n: int, last: bool) -> float | None:
    spent = other.trace.stages_s
    if n >= len(spent) or (last and other.done_s is None):
        return None
    return round(spent[n], 1)


def _marks(
    setup: HeatSetup, stage: Stage, began: float, found: Found
) -> tuple[tuple[float, float, float], ...]:
    """Give where the flame stands from when on: for an aim from place to place, each place once the last is done."""
    network = setup.network
    if not stage.aim.places:
        return ((round(began, 2), *_middle(network, stage.aim.share_m2)),)
    reached = found.trace.reached
    marks, since = [], began
    for place, share in stage.aim.places:
        done = reached.get(place, math.inf)
        if done > began:
            marks.append((round(since, 2), *_middle(network, share)))
            since = max(since, done)
        if math.isinf(since):
            break
    return tuple(marks)


def _middle(network: Network, share: Floats) -> tuple[float, float]:
    weight = share / max(float(share.sum()), 1e-30)
    return round(float(network.drawn_x_mm @ weight), 2), round(float(network.drawn_y_mm @ weight), 2)


def _reach(setup: HeatSetup, stage: Stage) -> float:
    """Give how far from its middle the flame wanders, mm."""
    if stage.aim.kind in ("join", "each", "beside"):
        return 1.0
    network = setup.network
    x, y = _middle(network, stage.aim.share_m2)
    lit = stage.aim.share_m2 > 0.2 * stage.aim.share_m2.max()
    away = np.hypot(network.drawn_x_mm[lit] - x, network.drawn_y_mm[lit] - y)
    return round(float(np.quantile(away, 0.7)), 2)


def _series(piece: Piece, setup: HeatSetup, trace: HeatTrace, moments: list[int]) -> Series:
    network = setup.network
    t = trace.t_c[moments]
    limits = {limit.id: limit.below_c for limit in setup.limits}
    goals = {goal.id: goal for goal in setup.goals}
    parts = []
    for node in network.nodes:
        here = t[:, network.cells(node)]
        weight = network.capacity_j_k[network.cells(node)]
        metal = metal_of(piece, node)
        parts.append(
            Line(
                id=node,
                title=title_of(piece, node),
                c=_round(here @ (weight / weight.sum())),
                hottest_c=_round(here.max(axis=1)),
                limit_c=limits.get(node, None if metal is None else metal.solidus_c),
                flow_c=goals[node].reach_c if node in goals else None,
            )
        )
    joins = []
    for name in dict.fromkeys(touch.join for touch in (*network.touches, *network.earlier)):
        cells = np.unique(
            np.concatenate([one.seam for one in (*network.touches, *network.earlier) if one.join == name])
        )
        here = t[:, cells]
        joins.append(
            Line(
                id=name,
                title=title_of(piece, name),
                c=_round(here.min(axis=1)),
                hottest_c=_round(here.max(axis=1)),
                limit_c=limits.get(name),
                flow_c=next(
                    (
                        goals[one.place].reach_c
                        for one in network.touches
                        if one.join == name and one.place in goals
                    ),
                    None,
                ),
                places=sum(one.join == name for one in (*network.touches, *network.earlier)),
            )
        )
    return Series(
        time_s=tuple(round(float(one), 2) for one in trace.times_s[moments]),
        parts=tuple(parts),
        joins=tuple(joins),
    )


def _round(values: Floats) -> tuple[float, ...]:
    return tuple(round(float(value), 1) for value in values)


def _above(piece: Piece, setup: HeatSetup, trace: HeatTrace) -> float:
    """Give how long any silver that holds copper is above 700 °C, s; where flux coats it whole it is not in air."""
    if setup.flux is not None and setup.flux.id == "boric-alcohol":
        return 0.0
    network = setup.network
    nodes = [node for node in network.nodes if _stains(piece, node)]
    if not nodes:
        return 0.0
    cells = np.concatenate([network.cells(node) for node in nodes])
    over = trace.t_c[:, cells].max(axis=1) > STAIN_C
    return float((np.diff(trace.times_s) * over[1:]).sum())


def _stains(piece: Piece, node: str) -> bool:
    metal = metal_of(piece, base_id(node))
    return metal is not None and metal.family == "silver" and "Cu" in metal.composition


def _peaks(setup: HeatSetup, trace: HeatTrace, facts: HeatFacts) -> tuple[Peak, ...]:
    network = setup.network
    found = []
    for name in dict.fromkeys(touch.join for touch in network.earlier):
        cells = np.concatenate([one.seam for one in network.earlier if one.join == name])
        hottest = float(trace.t_c[:, cells].max())
        cooler = min(MOST_SHIELD_C, max(0.0, math.floor(facts.working_c - hottest)))
        found.append(Peak(join=name, hottest_c=round(hottest, 1), shield_c=cooler))
    return tuple(found)


def _cells(setup: HeatSetup, trace: HeatTrace, moments: list[int]) -> CellsShown:
    network = setup.network
    t = np.rint(trace.t_c[moments]).astype(int)
    return CellsShown(
        node=tuple(network.nodes[n] for n in network.node_of),
        x_mm=tuple(round(float(one), 2) for one in network.drawn_x_mm),
        y_mm=tuple(round(float(one), 2) for one in network.drawn_y_mm),
        c=tuple(tuple(int(value) for value in row) for row in t),
    )

"""Write a rehearsal out: the programme in words, the lines and their bands, the events, the hands, the tightest moment."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..heat import (
    Aim,
    Followed,
    HeatSetup,
    Network,
    Trace,
    band,
    everyone,
    rested,
    stage_seconds,
    traced,
)
from ..piece import Piece, base_id, metal_of
from ..rules import MOST_SHIELD_C
from ..units import celsius, difference
from ._calibrate import TorchFactor
from ._facts import HeatFacts, Tools
from ._hands import KEPT_BY, counted, seconds_of, verdict_of
from ._scene import Scene
from ._types import (
    CellsShown,
    EventShown,
    Habit,
    Line,
    NextOnes,
    Peak,
    Rehearsal,
    Seconds,
    SeenBand,
    Series,
    StageShown,
    Tightest,
    Until,
    found_in,
)
from ._words import (
    GIVES,
    event_text,
    gathered_line,
    grain_words,
    late_words,
    next_line,
    seconds_words,
    see_words,
    stage_text,
    title_of,
    verdict_lines,
)

Floats = NDArray[np.float64]
_MOST_MOMENTS = 240
STAIN_C = 700.0
# So long the flame is away while the next is laid down (ours).
NEXT_AFTER_S = 20.0


def shown(
    scene: Scene, found: Followed, habit: Habit, setting: float, settles_c: float | None, *, with_cells: bool
) -> Rehearsal:
    """Write a rehearsal out as the middle hand sees it, with the band of the others.

    `settles_c` is where the coolest place stays when all that has to be reached never is, °C.
    """
    piece, facts, setup, ways = scene.piece, scene.facts, scene.setup, scene.fine
    trace = traced(ways, found.stages)
    moments = _moments(trace)
    hands = counted(ways.ready, found)
    verdict = verdict_of(hands)
    tightest = _tightest(piece, trace, setup)
    seconds = seconds_of(found, trace.done_s(setup))
    told = None if seconds is None else seconds_words(seconds.low, seconds.likely, seconds.high)
    bring = setup.brought
    block = rested(trace.block, setup.network.ground_m2, NEXT_AFTER_S)
    in_turn = facts.bodies > 1 and facts.purpose != "ball"
    following = _next_ones(scene, found, block) if in_turn and block.any() else None
    lines = verdict_lines(
        piece,
        verdict,
        hands,
        told,
        None if tightest is None else tightest.text,
        _short_c(setup, trace),
        settles_c,
    )
    return Rehearsal(
        **asked_for(piece, facts, scene.tools, scene.torch_factor, habit, setting),
        verdict=verdict,
        hands=hands,
        brought_in=None if bring is None else bring.node,
        **found_in(
            *lines,
            next_line(facts.bodies, following) if in_turn else "",
            _grain_line(scene, trace),
            gathered_line(scene.body.gathered),
        ),
        next_ones=following,
        block_k=tuple(round(float(one), 6) for one in block),
        programme=_programme(scene, found, trace),
        seconds_to_flow=seconds,
        series=_with_bands(scene, found, trace, _series(piece, setup, trace, moments), moments),
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
        peaks=_peaks(setup, trace, facts, found),
        left_out=scene.body.left_out,
        cells=_cells(setup, trace, moments) if with_cells else None,
    )


def _next_ones(scene: Scene, found: Followed, block: NDArray[np.float64]) -> NextOnes:
    """Let all hands do the next of several alike by the same programme, on the block that the one before has warmed."""
    warm = scene.on_warm(block)
    again = everyone(warm.fine, found.stages)
    hands = counted(warm.fine.ready, again)
    middle = float(again.done_s[0])
    return NextOnes(
        verdict=verdict_of(hands),
        hands=hands,
        seconds=seconds_of(again, middle if math.isfinite(middle) else None),
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
        "solders": facts.solders,
        "torch": tools.torch.id,
        "surface": tools.surface.id,
        "flux": tools.flux.id,
        "habit": habit,
        "setting": setting,
        "factor": round(factor.factor, 4),
        "spread": round(factor.spread, 4),
        "forms": facts.forms,
        "bodies": facts.bodies,
    }


def _short_c(setup: HeatSetup, trace: Trace) -> float:
    """Give how far the goal that fell shortest fell short in the middle hand, °C."""
    left = [goal for goal in setup.goals if goal.id not in trace.reached]
    return max(
        (goal.reach_c - float(trace.t_c[:, goal.cells].min(axis=1).max()) for goal in left), default=0.0
    )


def _grain_line(scene: Scene, trace: Trace) -> str:
    """Tell how far and how long an anneal goes over its range in the middle hand: there the grain grows."""
    worst: tuple[float, float, str] | None = None
    for goal in scene.setup.goals if scene.facts.purpose == "anneal" else ():
        top = scene.facts.range_c[base_id(goal.id)][1]
        hottest = trace.t_c[:, goal.cells].max(axis=1)
        over, seconds = (
            float(hottest.max()) - top,
            float((np.diff(trace.times_s) * (hottest[1:] > top)).sum()),
        )
        if over > 0 and (worst is None or over > worst[0]):
            worst = over, seconds, title_of(scene.piece, goal.id)
    return "" if worst is None else grain_words(*worst)


def _moments(trace: Trace) -> list[int]:
    count = len(trace.times_s)
    step = max(1, -(-count // _MOST_MOMENTS))
    chosen = list(range(0, count, step))
    return chosen if chosen[-1] == count - 1 else [*chosen, count - 1]


def _tightest(piece: Piece, trace: Trace, setup: HeatSetup) -> Tightest | None:
    tight = trace.tightest
    if tight is None:
        return None
    about, room, at = tight
    limit = next(one for one in setup.limits if one.id == about)
    kind = "runs-again" if limit.kind == "join" else "slumps"
    title, gives = title_of(piece, about), GIVES[kind]
    text = (
        f"Tightest at {at:.0f} s: {title} is {difference(room)} below where it {gives} ({celsius(limit.below_c)})."
        if room >= 0
        else f"In the middle hand {title} {gives} at {celsius(limit.below_c)}, {difference(-room)} over it by {at:.0f} s."
    )
    return Tightest(
        about=about,
        kind=limit.kind,
        degrees_c=round(room, 1),
        limit_c=round(limit.below_c, 1),
        seconds=round(at, 1),
        text=text,
    )


def _programme(scene: Scene, found: Followed, trace: Trace) -> tuple[StageShown, ...]:
    """Tell the stages that the middle hand went through, each with its time as a band over the hands."""
    piece, purpose, setup = scene.piece, scene.facts.purpose, scene.setup
    whole = (*scene.fine.dry, *found.stages)
    spent = trace.stages_s
    bands = _stage_bands(scene, found)
    made = []
    for n, stage in enumerate(whole):
        if n and spent[n] <= 0:
            continue
        low, high = bands[n]
        seconds = Seconds(
            low=round(min(low, spent[n]), 2), likely=round(spent[n], 2), high=round(max(high, spent[n]), 2)
        )
        told = seconds_words(seconds.low, spent[n], seconds.high)
        last = n == len(whole) - 1
        text = stage_text(piece, stage, told, purpose)
        if last and setup.brought is not None:
            node = setup.brought.node
            text += f" When the solder there is liquid, bring {title_of(piece, node)} in, and stay until it has run up it."
        made.append(
            StageShown(
                text=text,
                aim=stage.aim.kind,
                about=stage.aim.about,
                side=stage.aim.side,
                setting=stage.setting,
                until=Until(sign=stage.until.kind, about=stage.until.about, word=stage.until.word),
                see=see_words(piece, stage.until, purpose),
                if_late=late_words(stage, seconds.high or spent[n]),
                seconds=seconds,
                # What is gathered does not lie as it is drawn: there is no place in the picture to point at.
                marks=() if scene.body.gathered else _marks(scene, stage.aim, float(sum(spent[:n])), trace),
                reach_mm=0.0 if scene.body.gathered else _reach(scene, stage.aim),
            )
        )
    return tuple(made)


def _stage_bands(scene: Scene, found: Followed) -> list[tuple[float, float]]:
    """Give how long the hands between one and nine tenths are at each stage, s, the drying with it."""
    who = [row for row in range(len(found.who)) if found.who[row] > 0]
    spent = np.array([stage_seconds(found, row) for row in who])
    start = scene.fine.start
    if scene.fine.dry and start is not None:
        spent = np.concatenate([start.seconds[found.who[who]][:, None], spent], axis=1)
    low, high = np.quantile(spent, [0.1, 0.9], axis=0)
    return list(zip(low.tolist(), high.tolist(), strict=True))


def _marks(scene: Scene, aim: Aim, began: float, trace: Trace) -> tuple[tuple[float, float, float], ...]:
    """Give where the flame stands from when on: for an aim from place to place, each place once the last is done."""
    pointed = scene.fine.ready.pointed

    def at(place: int) -> tuple[float, float]:
        x, y = pointed.middle_mm(aim, place)
        return round(x, 2), round(y, 2)

    if not aim.places:
        return ((round(began, 2), *at(-1)),)
    marks, since = [], began
    for n, (place, _, _) in enumerate(aim.places):
        done = trace.reached.get(place, math.inf)
        if done > began:
            marks.append((round(since, 2), *at(n)))
            since = max(since, done)
        if math.isinf(since):
            break
    return tuple(marks)


def _reach(scene: Scene, aim: Aim) -> float:
    """Give how far from its middle the flame wanders, mm."""
    if aim.kind in ("join", "each", "beside"):
        return 1.0
    network, pointed = scene.setup.network, scene.fine.ready.pointed
    film = pointed.at(aim)[0].mean(axis=0)
    x, y = pointed.middle_mm(aim)
    lit = film > 0.2 * film.max()
    away = np.hypot(network.drawn_x_mm[lit] - x, network.drawn_y_mm[lit] - y)
    return round(float(np.quantile(away, 0.7)), 2) if len(away) else 0.0


def _with_bands(scene: Scene, found: Followed, trace: Trace, series: Series, moments: list[int]) -> Series:
    """Draw beside each line what the hands between one and nine tenths saw."""
    network, times = scene.setup.network, trace.times_s[moments]
    asked: list[tuple[Floats, bool]] = []
    for line in series.parts:
        cells = network.cells(line.id)
        weights = np.zeros(len(network))
        weights[cells] = network.capacity_j_k[cells] / network.capacity_j_k[cells].sum()
        asked.append((weights, False))
    for line in series.joins:
        asked.append((_seam(network, line.id).astype(float), True))
    whole = (*scene.fine.dry, *found.stages)
    bands = [
        SeenBand(low=_round(low), high=_round(high))
        for low, high in band(scene.fine.ready, whole, times, asked)
    ]
    lines = [
        line.model_copy(update={"band": one})
        for line, one in zip((*series.parts, *series.joins), bands, strict=True)
    ]
    count = len(series.parts)
    return Series(time_s=series.time_s, parts=tuple(lines[:count]), joins=tuple(lines[count:]))


def _seam(network: Network, join: str) -> NDArray[np.int64]:
    return np.unique(
        np.concatenate([one.seam for one in (*network.touches, *network.earlier) if one.join == join])
    )


def _series(piece: Piece, setup: HeatSetup, trace: Trace, moments: list[int]) -> Series:
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
        cells = _seam(network, name)
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


def _above(piece: Piece, setup: HeatSetup, trace: Trace) -> float:
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


def _peaks(setup: HeatSetup, trace: Trace, facts: HeatFacts, found: Followed) -> tuple[Peak, ...]:
    """Give how hot each earlier join became, and by how much cooler than the heat seven hands of eight keep it."""
    network = setup.network
    limits = {limit.id: n for n, limit in enumerate(setup.limits)}
    others = found.who > 0
    made = []
    for name in dict.fromkeys(touch.join for touch in network.earlier):
        cells = np.concatenate([one.seam for one in network.earlier if one.join == name])
        hottest = float(trace.t_c[:, cells].max())
        if name in limits and others.any():
            hottest = max(hottest, float(np.quantile(found.came.hottest[others, limits[name]], KEPT_BY)))
        cooler = min(MOST_SHIELD_C, max(0.0, math.floor(facts.working_c - hottest)))
        made.append(Peak(join=name, hottest_c=round(hottest, 1), shield_c=cooler))
    return tuple(made)


def _cells(setup: HeatSetup, trace: Trace, moments: list[int]) -> CellsShown:
    network = setup.network
    of_parts = np.flatnonzero(network.node_of >= 0)
    t = np.rint(trace.t_c[moments][:, of_parts]).astype(int)
    return CellsShown(
        node=tuple(network.nodes[n] for n in network.node_of[of_parts]),
        x_mm=tuple(round(float(one), 2) for one in network.drawn_x_mm[of_parts]),
        y_mm=tuple(round(float(one), 2) for one in network.drawn_y_mm[of_parts]),
        c=tuple(tuple(int(value) for value in row) for row in t),
    )

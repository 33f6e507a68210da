"""Write a rehearsal out: the programme in words, the lines and their bands, the events, the hands, the tightest moment."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..heat import (
    Followed,
    HeatSetup,
    Trace,
    everyone,
    rested,
    traced,
)
from ..piece import Piece, base_id
from ..units import celsius, difference
from ._facts import HeatFacts, Tools
from ._hands import counted, seconds_of, verdict_of
from ._request import HeatRequest
from ._scene import Scene
from ._show_programme import programme_shown
from ._show_series import cells_of, moments_of, peaks_of, seconds_above_staining, series_of, with_bands
from ._types import (
    EventShown,
    NextOnes,
    Rehearsal,
    Tightest,
    found_in,
)
from ._words import (
    GIVES,
    event_text,
    gathered_line,
    grain_words,
    next_line,
    seconds_words,
    title_of,
    verdict_lines,
)

# So long the flame is away while the next is laid down (ours).
NEXT_AFTER_S = 20.0


def shown(scene: Scene, found: Followed, settles_c: float | None, *, with_cells: bool) -> Rehearsal:
    """Write a rehearsal out as the middle hand sees it, with the band of the others.

    `settles_c` is where the coolest place stays when all that has to be reached never is, °C.
    """
    piece, facts, setup, ways = scene.piece, scene.facts, scene.setup, scene.fine
    trace = traced(ways, found.stages)
    moments = moments_of(trace)
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
        **asked_for(piece, facts, scene.tools, scene.request),
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
        programme=programme_shown(scene, found, trace),
        seconds_to_flow=seconds,
        series=with_bands(scene, found, trace, series_of(piece, setup, trace, moments), moments),
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
        above_700_s=round(seconds_above_staining(piece, setup, trace), 1),
        peaks=peaks_of(setup, trace, facts, found),
        left_out=scene.body.left_out,
        cells=cells_of(setup, trace, moments) if with_cells else None,
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


def asked_for(piece: Piece, facts: HeatFacts, tools: Tools, request: HeatRequest) -> dict[str, Any]:
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
        "habit": request.habit,
        "setting": request.setting,
        "factor": round(request.hand.factor, 4),
        "spread": round(request.hand.spread, 4),
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

"""Write a programme out: stage by stage what to do with the flame, how long it takes, and where on the picture."""

from __future__ import annotations

import math

import numpy as np

from ..heat import (
    Aim,
    Followed,
    Trace,
    stage_seconds,
)
from ._scene import Scene
from ._types import (
    Seconds,
    StageShown,
    Until,
)
from ._words import (
    late_words,
    seconds_words,
    see_words,
    stage_text,
    title_of,
)


def programme_shown(scene: Scene, found: Followed, trace: Trace) -> tuple[StageShown, ...]:
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

"""What else could be done: the three habits, and what would help, each really tried."""

from __future__ import annotations

from dataclasses import replace

from ..heat import Found, HeatSetup
from ..metals import Surface, Torch, solders, surfaces, torches
from ..piece import Bench, HouseOverrides, Piece
from ..plan import Plan, plan
from ._calibrate import TorchFactor
from ._facts import HeatFacts, Tools, facts_of, tools_of
from ._scene import Progress, Scene, found_for, no_progress, scene_of
from ._show import verdict_of
from ._types import Habit, HabitTried, Help, Verdict
from ._words import HABITS, fails_words, title_of

_HABITS: tuple[Habit, ...] = ("join", "even", "light")
_TRIED_CELLS = 90
_TRIED_GENERATIONS = 4
_MOST_SURFACES = 2
_SINK_W_K = 0.05
_SOFTER = ("hard", "medium", "easy", "extra-easy")


def habits_tried(scene: Scene) -> tuple[HabitTried, ...]:
    """Follow the three habits, and say what each brings."""
    tried = []
    for habit in _HABITS:
        found = found_for(scene, habit)
        verdict = verdict_of(found, scene.house)
        tried.append(
            HabitTried(
                habit=habit,
                verdict=verdict,
                seconds=_seconds(found),
                text=f"{HABITS[habit]}: {_brings(scene, found, verdict)}",
            )
        )
    return tuple(tried)


def _seconds(found: Found) -> float | None:
    return None if found.done_s is None else round(found.done_s, 1)


def _brings(scene: Scene, found: Found, verdict: Verdict) -> str:
    first = next((event for event in found.trace.events if event.kind in ("melts", "runs-again")), None)
    after = "" if found.done_s is None else f" after {found.done_s:.0f} s"
    if first is not None:
        what = fails_words("part" if first.kind == "melts" else "join", scene.facts.purpose)
        return f"{title_of(scene.piece, first.about)} {what} after {first.seconds:.0f} s."
    return {
        "flows": f"everything is done{after}.",
        "tight": f"everything is done{after}, with less than the margin to spare.",
        "harms": f"a limit is passed{after}.",
        "never": "it never comes to that.",
    }[verdict]


def what_would_help(
    piece: Piece,
    heat_no: int,
    *,
    torch: str | None = None,
    surface: str | None = None,
    house: HouseOverrides | None = None,
    bench: Bench | None = None,
    planned: Plan | None = None,
    factor: TorchFactor | None = None,
    progress: Progress = no_progress,
) -> tuple[Help, ...]:
    """Try a bigger tip, other surfaces, heat from below, a softer solder, and a sink on what runs again.

    Each is tried by the model on a coarser body; what works comes first, then what comes nearest.
    """
    planned = planned or plan(piece, house, bench)
    tools, facts = tools_of(piece, bench, torch, surface), facts_of(piece, planned, heat_no)
    factor = factor or TorchFactor()
    trials = [*_torches(tools), *_surfaces(tools), *_solders(piece, facts, tools)]
    found = []
    for n, (kind, id_, words, changed, other) in enumerate(trials):
        progress(words, n / (len(trials) + 1))
        found.append(
            _try(scene_of(piece, other or facts, changed, factor, _TRIED_CELLS, house), kind, id_, words)
        )
    if facts.spared:
        progress("a sink on what runs again", 0.95)
        found.append(_with_sink(scene_of(piece, facts, tools, factor, _TRIED_CELLS, house)))
    order = {"flows": 0, "tight": 1, "harms": 2, "never": 3}
    return tuple(sorted(found, key=lambda one: (order[one.verdict], one.seconds or 0.0)))


Trial = tuple[str, str, str, Tools, HeatFacts | None]


def _torches(tools: Tools) -> list[Trial]:
    """Give the two torches that give next more, the one that gives most, and the one that gives next less."""
    power = tools.torch.heat_w
    larger = sorted(
        (torch for torch in torches().values() if torch.heat_w > power), key=lambda one: one.heat_w
    )
    finer = sorted(
        (torch for torch in torches().values() if torch.heat_w < power), key=lambda one: -one.heat_w
    )
    chosen: list[Torch] = [*larger[:2], *larger[2:][-1:], *finer[:1]]
    return [("torch", one.id, f"{one.name}, {one.tip}", replace(tools, torch=one), None) for one in chosen]


def _surfaces(tools: Tools) -> list[Trial]:
    """Give surfaces that draw less heat, and the one that lets the flame come from below."""

    def draws(one: Surface) -> float:
        return one.effusivity_w_s05_m2k * one.contact_w_m2k + 1e5 * one.sink_w_k

    lesser = sorted(
        (
            surface
            for surface in surfaces().values()
            if draws(surface) < draws(tools.surface) and not surface.from_below
        ),
        key=draws,
    )
    below = [
        surface
        for surface in surfaces().values()
        if surface.from_below and surface.sink_w_k == 0 and surface.id != tools.surface.id
    ]
    return [
        ("below" if one.from_below else "surface", one.id, one.name, replace(tools, surface=one), None)
        for one in (*lesser[:_MOST_SURFACES], *below)
    ]


def _solders(piece: Piece, facts: HeatFacts, tools: Tools) -> list[Trial]:
    """Give the next softer grades of the same family."""
    if facts.purpose != "solder" or not facts.reach_c:
        return []
    hottest = max(facts.reach_c.values())
    families = {solders()[name].family for name in facts.solders}
    softer = sorted(
        (
            solder
            for solder in solders().values()
            if solder.flow_c < hottest
            and solder.grade in _SOFTER
            and not solder.cadmium
            and solder.family in families
        ),
        key=lambda one: -one.flow_c,
    )[:2]
    return [
        (
            "solder",
            one.id,
            f"{one.name} solder instead",
            tools,
            replace(facts, reach_c={name: min(one.flow_c, flow) for name, flow in facts.reach_c.items()}),
        )
        for one in softer
    ]


def _try(scene: Scene, kind: str, id_: str, words: str) -> Help:
    found = found_for(scene, "best", generations=_TRIED_GENERATIONS, rounds=1)
    verdict = verdict_of(found, scene.house)
    return Help.model_validate(
        {
            "kind": kind,
            "id": id_,
            "verdict": verdict,
            "seconds": _seconds(found),
            "text": f"{words}: {_brings(scene, found, verdict)}",
        }
    )


def _with_sink(scene: Scene) -> Help:
    """Let a lump or tweezers draw heat where the earlier joins are."""
    joins = {one.join for one in scene.facts.spared}

    def cooled(setup: HeatSetup) -> HeatSetup:
        network = setup.network
        cells = [int(touch.seam[0]) for touch in network.earlier if touch.join in joins]
        return replace(
            setup, network=replace(network, sinks=(*network.sinks, *((cell, _SINK_W_K) for cell in cells)))
        )

    rough, aims = scene.rough
    sunk = replace(scene, setup=cooled(scene.setup), rough=(cooled(rough), aims))
    names = " and ".join(title_of(scene.piece, name) for name in sorted(joins))
    return _try(sunk, "sink", "sink", f"Tweezers or a lump on {names}")

"""What else could be done: the three habits, and what would help, each really tried."""

from __future__ import annotations

from dataclasses import replace

from ..heat import Followed, HeatSetup, with_setup
from ..metals import Surface, Torch, solders, surfaces, torches
from ..piece import Bench, HouseOverrides, Piece
from ..plan import Plan, plan
from ._ball import ball_rehearsed, is_wire_end
from ._facts import HeatFacts, Tools, facts_of, tools_of
from ._hands import counted, seconds_of, verdict_of
from ._request import USUAL, HeatRequest
from ._scene import Progress, Scene, found_for, may_bring, no_progress, scene_of
from ._types import Habit, HabitTried, Hands, Help
from ._words import HABITS, most_often, title_of

_HABITS: tuple[Habit, ...] = ("join", "even", "light")
_TRIED_CELLS, _TRIED_GENERATIONS = 60, 3
_MOST_SURFACES = 2
# Two jaws of cross-lock tweezers.
_SINK_W_K = 0.012
_SOFTER = ("hard", "medium", "easy", "extra-easy")


def habits_tried(scene: Scene) -> tuple[HabitTried, ...]:
    """Follow the three habits, and say what each brings."""
    tried = []
    for habit in _HABITS:
        found = found_for(scene.asked(scene.request.by(habit, 1.0)))
        hands = counted(scene.fine.ready, found)
        tried.append(
            HabitTried(
                habit=habit,
                verdict=verdict_of(hands),
                hands=hands,
                seconds=_seconds(found),
                text=f"{HABITS[habit]}: {_brings(scene, found, hands)}",
            )
        )
    return tuple(tried)


def _seconds(found: Followed) -> float | None:
    seconds = seconds_of(found, None)
    return None if seconds is None else round(seconds.likely, 1)


def _brings(scene: Scene, found: Followed, hands: Hands) -> str:
    seconds = _seconds(found)
    after = "" if seconds is None or not hands.well else f", in about {seconds:.0f} s"
    wrong = most_often(scene.piece, hands)
    return f"{hands.well} of {hands.tried} hands{after}.{' ' if wrong else ''}{wrong}"


def what_would_help(
    piece: Piece,
    heat_no: int,
    request: HeatRequest = USUAL,
    *,
    house: HouseOverrides | None = None,
    bench: Bench | None = None,
    planned: Plan | None = None,
    progress: Progress = no_progress,
) -> tuple[Help, ...]:
    """Try a bigger tip, other surfaces, heat from below, a softer solder, and a sink on what runs again.

    Each is tried by the model on a coarser body, by all hands; what does well in most of them comes first.
    """
    planned = planned or plan(piece, house, bench)
    facts = facts_of(piece, planned, heat_no)
    tools = tools_of(piece, bench, request.torch, request.surface, facts.flux)
    tried = request.model_copy(update={"habit": "best", "setting": 1.0, "effort": _TRIED_GENERATIONS})
    if facts.purpose == "ball" and is_wire_end(piece, facts):
        return _for_a_ball(piece, facts, tools, tried, house, progress)
    trials = [*_torches(tools), *_surfaces(tools), *_solders(piece, facts, tools)]
    found = []
    for n, (kind, id_, words, changed, other) in enumerate(trials):
        progress(words, n / (len(trials) + 1))
        found.append(
            _try(scene_of(piece, other or facts, changed, tried, _TRIED_CELLS, house), kind, id_, words)
        )
    if facts.spared:
        progress("a sink on what runs again", 0.95)
        found.append(_with_sink(scene_of(piece, facts, tools, tried, _TRIED_CELLS, house)))
    standing = scene_of(piece, facts, tools, tried, _TRIED_CELLS, house)
    if may_bring(standing) is None or (len(standing.setup.network.nodes) == 2 and facts.purpose == "solder"):
        progress("the light part brought in", 0.98)
        found.append(_brought_in(piece, facts, tools, tried, house))
    return tuple(sorted(found, key=lambda one: (-one.hands.well, one.seconds or 0.0)))


def _for_a_ball(
    piece: Piece,
    facts: HeatFacts,
    tools: Tools,
    request: HeatRequest,
    house: HouseOverrides | None,
    progress: Progress,
) -> tuple[Help, ...]:
    """Try other torches on a wire's end, by the growth of the ball itself; nothing else of the bench bears on it."""
    found = []
    trials = _torches(tools)
    for n, (kind, id_, words, changed, _) in enumerate(trials):
        progress(words, n / len(trials))
        told = ball_rehearsed(piece, facts, changed, request, house)
        found.append(
            Help.model_validate(
                {
                    "kind": kind,
                    "id": id_,
                    "verdict": told.verdict,
                    "hands": told.hands,
                    "seconds": None if told.seconds_to_flow is None else told.seconds_to_flow.likely,
                    "text": f"{words}: {told.lines[0]}",
                }
            )
        )
    return tuple(sorted(found, key=lambda one: (-one.hands.well, one.seconds or 0.0)))


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
    found = found_for(scene)
    hands = counted(scene.fine.ready, found)
    return Help.model_validate(
        {
            "kind": kind,
            "id": id_,
            "verdict": verdict_of(hands),
            "hands": hands,
            "seconds": _seconds(found),
            "text": f"{words}: {_brings(scene, found, hands)}",
        }
    )


def _brought_in(
    piece: Piece, facts: HeatFacts, tools: Tools, request: HeatRequest, house: HouseOverrides | None
) -> Help:
    scene = scene_of(piece, facts, tools, request, _TRIED_CELLS, house, brought=True)
    node = scene.setup.brought.node if scene.setup.brought else ""
    return _try(scene, "brought", node, f"{title_of(piece, node)} brought in when the solder is liquid")


def _with_sink(scene: Scene) -> Help:
    """Let tweezers draw heat where the earlier joins are."""
    joins = {one.join for one in scene.facts.spared}

    def cooled(setup: HeatSetup) -> HeatSetup:
        network = setup.network
        cells = [int(touch.seam[0]) for touch in network.earlier if touch.join in joins]
        return replace(
            setup, network=replace(network, sinks=(*network.sinks, *((cell, _SINK_W_K) for cell in cells)))
        )

    ways = with_setup(scene.rough, cooled(scene.rough.ready.setup))
    sunk = replace(scene, fine=ways, rough=ways)
    names = " and ".join(title_of(scene.piece, name) for name in sorted(joins))
    return _try(sunk, "sink", "sink", f"Tweezers on {names}")

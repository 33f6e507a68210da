"""A heat made ready to be rehearsed, and what is found for it: the best programme, or a habit followed."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from ..faults import refuse
from ..heat import (
    LONGEST_SEARCHED_S,
    SETTINGS,
    Aim,
    Body,
    Found,
    Gather,
    Goal,
    HeatSetup,
    Limit,
    Programme,
    Side,
    Stage,
    Trials,
    aims_of,
    best_programme,
    body_of,
    rank_of,
    run,
)
from ..piece import House, HouseOverrides, Piece, base_id, resolve_house
from ..rules import Purpose
from ._calibrate import TorchFactor
from ._facts import HeatFacts, Tools
from ._types import Habit

CELLS, ROUGH_CELLS = 200, 90
LONGEST_S = 600.0
# How far a flame can be open, full first.
FLAME_SETTINGS = tuple(float(one) for one in SETTINGS[::-1])
LEAST_SETTING = FLAME_SETTINGS[-1]
_SHOWN_S, _NEAREST_TRIED = 180.0, 4
_SEARCH_AT_LEAST_S = 60.0
SEARCH_GENERATIONS, SEARCH_ROUNDS = 10, 3
_GATHERED: dict[Purpose, Gather] = {"anneal": "coil", "melt": "charge"}
Progress = Callable[[str, float], None]


@dataclass(frozen=True)
class Scene:
    """A heat made ready: the body fine and rough, ways to aim on each, and what is asked of it."""

    piece: Piece
    house: House
    facts: HeatFacts
    tools: Tools
    body: Body
    setup: HeatSetup
    aims: tuple[Aim, ...]
    rough: tuple[HeatSetup, tuple[Aim, ...]]
    torch_factor: TorchFactor

    @cached_property
    def alone(self) -> list[Found]:
        """What a full flame brings on the rough body, held in every single way, whatever it costs, until one is done."""
        setup, aims = self.rough
        free, longest, found = _without_limits(setup), LONGEST_S, []
        for aim in aims:
            found.append(run(free, (Stage(aim, 1.0, None),), longest, 0.0))
            longest = min(longest, found[-1].done_s or longest)
        return found

    @property
    def soonest_alone_s(self) -> float | None:
        """When a full flame is done that is held in the quickest single way, whatever it costs, s; None where it never is."""
        setup, aims = self.rough
        full = len(FLAME_SETTINGS) - 1
        quickly = Trials(_without_limits(setup), aims, LONGEST_S, 0.0).march(
            [Programme((n,), (full,), (0.0,)) for n in range(len(aims))]
        )
        soonest = min(one.done_s for one in quickly)
        if math.isfinite(soonest):
            return soonest
        return min((one.done_s for one in self.alone if one.done_s is not None), default=None)


def no_progress(_what: str, _share: float) -> None:
    """Tell nobody how far the work is."""


def scene_of(
    piece: Piece,
    facts: HeatFacts,
    tools: Tools,
    factor: TorchFactor,
    cells: int = CELLS,
    house: HouseOverrides | None = None,
) -> Scene:
    """Make a heat ready to be rehearsed, by the rules of the house laid under the piece's own."""
    rules = resolve_house(house, piece.house)
    sides: tuple[Side, ...] = ("above",)
    if tools.surface.from_below:
        sides = ("below",) if rules.heat_from == "below" else ("above", "below")
    body, setup = _ready(piece, facts, tools, factor, cells)
    _, coarse = _ready(piece, facts, tools, factor, min(cells, ROUGH_CELLS))
    return Scene(
        piece=piece,
        house=rules,
        facts=facts,
        tools=tools,
        body=body,
        setup=setup,
        aims=aims_of(setup.network, tools.torch, sides),
        rough=(coarse, aims_of(coarse.network, tools.torch, sides)),
        torch_factor=factor,
    )


def _ready(
    piece: Piece, facts: HeatFacts, tools: Tools, factor: TorchFactor, cells: int
) -> tuple[Body, HeatSetup]:
    body = body_of(
        piece,
        facts.nodes,
        making=facts.making,
        made=facts.made,
        surface=tools.surface,
        lies=facts.lies,
        cells=cells,
        how=_GATHERED.get(facts.purpose),
    )
    network = body.network
    goals = [
        Goal(touch.place, touch.seam, facts.reach_c[touch.join])
        for touch in network.touches
        if touch.join in facts.reach_c
    ]
    if not facts.making:
        goals = [
            Goal(node, network.cells(node), facts.reach_c[base_id(node)])
            for node in network.nodes
            if base_id(node) in facts.reach_c
        ]
    limits = [
        Limit(node, "part", network.cells(node), facts.melts_c[base_id(node)])
        for node in network.nodes
        if base_id(node) in facts.melts_c
    ]
    for one in facts.spared:
        seams = [touch.seam for touch in network.earlier if touch.join == one.join]
        if seams:
            limits.append(Limit(one.join, "join", np.unique(np.concatenate(seams)), one.below_c, one.soft_c))
    if not goals:
        raise refuse(
            "contradiction",
            "heat",
            facts.heat_no,
            "a heat brings something to a temperature",
            "This heat has nothing of metal to bring to one.",
        )
    return body, HeatSetup(network, tools.torch, tuple(goals), tuple(limits), tools.flux, factor.factor)


def found_for(
    scene: Scene,
    habit: Habit,
    setting: float = 1.0,
    generations: int = SEARCH_GENERATIONS,
    tick: Callable[[float], None] | None = None,
    rounds: int = SEARCH_ROUNDS,
) -> Found:
    """Find the best programme, or follow a habit."""
    margin = scene.house.margin_c
    if habit != "best":
        return run(scene.setup, habit_stages(scene, habit, setting), LONGEST_S, margin)
    even = run(scene.setup, (Stage(scene.aims[0], 1.0, None),), LONGEST_S, margin)
    soonest = even.done_s
    if soonest is None:
        soonest = scene.soonest_alone_s
        if soonest is None:
            return _nearest(scene, margin)
    longest = min(LONGEST_SEARCHED_S, max(_SEARCH_AT_LEAST_S, 2.5 * soonest))
    return best_programme(
        scene.setup, scene.aims, scene.rough, even, longest, margin, generations, tick, rounds
    )


def _without_limits(setup: HeatSetup) -> HeatSetup:
    """Ask for the same of a body in which nothing melts."""
    never = np.full(len(setup.network), 1e6)
    return replace(setup, limits=(), network=replace(setup.network, solidus_c=never, liquidus_c=2 * never))


def _nearest(scene: Scene, margin_c: float) -> Found:
    """Where the flame is too weak however it is held: of the hottest ways and of circling what comes nearest, and spares most."""
    by_heat = sorted(range(len(scene.alone)), key=lambda n: (-coolest_c(scene.rough[0], scene.alone[n]), n))
    ways = dict.fromkeys(_same_aim(scene, n).key for n in [*by_heat[:_NEAREST_TRIED], 0])
    tried = [
        run(scene.setup, (Stage(aim, 1.0, None),), _SHOWN_S, margin_c, go_on=True)
        for aim in scene.aims
        if aim.key in ways
    ]
    return min(tried, key=lambda one: rank_of(one, margin_c))


def _hottest_alone(scene: Scene) -> int:
    """Give the number of the way to hold a flame in which the coolest goal comes hottest."""
    return max(range(len(scene.alone)), key=lambda n: coolest_c(scene.rough[0], scene.alone[n]))


def _same_aim(scene: Scene, rough: int) -> Aim:
    key = scene.rough[1][rough].key
    return next((aim for aim in scene.aims if aim.key == key), scene.aims[0])


def coolest_c(setup: HeatSetup, found: Found) -> float:
    """Give how hot the coolest goal became at its best, °C; of goals that are done in turn, the one that the flame was on."""
    t = found.trace.t_c
    left = [goal for goal in setup.goals if goal.id not in found.trace.reached] or setup.goals
    came = [float(t[:, goal.cells].min(axis=1).max()) for goal in left]
    return max(came) if found.stages[-1].aim.places else min(came)


def habit_stages(scene: Scene, habit: Habit, setting: float) -> tuple[Stage, ...]:
    """Give the stages of a habit: held on each join until it flows, circled evenly, or kept on the light part."""
    network, side = scene.setup.network, scene.aims[0].side
    aims = {aim.key: aim for aim in scene.aims}
    circle = aims[f"circle::{side}"]
    if habit == "join":
        names = list(dict.fromkeys(touch.join for touch in network.touches))
        held = aims.get(f"each::{side}") or (
            (aims.get(f"each:{names[0]}:{side}") or aims[f"join:{names[0]}:{side}"]) if names else circle
        )
        return (Stage(held, setting, None),)
    if habit == "light":
        nodes = {network.nodes[network.node_of[cell]] for touch in network.touches for cell in touch.seam}
        light = min(nodes or set(network.nodes), key=lambda node: (network.capacity_of(node), node))
        return (Stage(aims.get(f"part:{light}:{side}", circle), setting, None),)
    return (Stage(circle, setting, None),)


def found_at(scene: Scene, found: Found, factor: float) -> Found:
    """Follow a programme with a stronger or weaker torch: every stage but the last shorter or longer by as much."""
    setup = replace(scene.setup, factor=scene.setup.factor * factor)
    stages = tuple(
        stage if stage.seconds is None else replace(stage, seconds=stage.seconds / factor)
        for stage in found.stages
    )
    followed = run(setup, stages, LONGEST_S, 0.0)
    if followed.done_s is not None or factor >= 1:
        return followed
    # Where a turned-down flame never gets there, a smith opens it further.
    opened = tuple(replace(stage, setting=min(1.0, stage.setting / factor)) for stage in stages)
    return run(setup, opened, LONGEST_S, 0.0)


def settles_c(scene: Scene) -> float | None:
    """Give what the coolest goal comes to under a full flame held where that is hottest, °C; None where it gets there."""
    if scene.soonest_alone_s is not None:
        return None
    setup, aims = scene.rough
    stage = Stage(aims[_hottest_alone(scene)], 1.0, None)
    settled = run(_without_limits(setup), (stage,), LONGEST_S, 0.0, go_on=True)
    return coolest_c(setup, settled)

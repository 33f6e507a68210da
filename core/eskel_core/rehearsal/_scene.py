"""A heat made ready to be rehearsed, and what is found for it: the best programme, or a habit followed."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..faults import refuse
from ..heat import (
    MIDDLE,
    Aim,
    Body,
    Brought,
    Followed,
    Gather,
    Goal,
    HeatSetup,
    Light,
    Limit,
    Network,
    Side,
    Sign,
    Stage,
    Touch,
    Ways,
    best_programme,
    body_of,
    everyone,
    glows,
    settled_c,
    slumps_c,
    ways_of,
    with_setup,
)
from ..metals import Flux
from ..piece import House, HouseOverrides, Join, Piece, base_id, metal_of, resolve_house
from ..rules import AnnealEnd, Purpose, anneal_end
from ._calibrate import TorchFactor
from ._facts import HeatFacts, Tools, as_heated
from ._request import HeatRequest

CELLS, ROUGH_CELLS, CELLS_A_PART = 200, 60, 8
FLAME_SETTINGS = (1.0, 0.9, 0.8, 0.7, 0.6, 0.5, 0.4, 0.3)
LEAST_SETTING = FLAME_SETTINGS[-1]
_GATHERED: dict[Purpose, Gather] = {"anneal": "coil", "melt": "melt", "ball": "charge"}
# An anneal is ended by the middle of its range, or by the first glow where that lies above it and there is room yet.
_PAST_GLOW_C, _BELOW_TOP_C = 10.0, 25.0
_LIGHT_SHARE, _BROUGHT_MM = 1 / 20, 10.0
_GRAIN_S = 0.5
Progress = Callable[[str, float], None]


@dataclass(frozen=True)
class Scene:
    """A heat made ready: what can be done on the body, fine and rough, and what is asked of it."""

    piece: Piece
    house: House
    facts: HeatFacts
    tools: Tools
    body: Body
    fine: Ways
    rough: Ways
    request: HeatRequest

    def on_warm(self, block: NDArray[np.float64]) -> Scene:
        """Give the same heat on a block that remembers the one before, (m) K, the flux dried there too."""
        return replace(
            self,
            fine=with_setup(self.fine, replace(self.setup, block=block[:, None])),
            rough=with_setup(self.rough, replace(self.rough.ready.setup, block=block[:, None])),
        )

    def asked(self, request: HeatRequest) -> Scene:
        """Give the same heat, asked for otherwise."""
        return replace(self, request=request)

    @property
    def setup(self) -> HeatSetup:
        """What the heat is made of, on the fine body."""
        return self.fine.ready.setup


def no_progress(_what: str, _share: float) -> None:
    """Tell nobody how far the work is."""


def scene_of(
    piece: Piece,
    facts: HeatFacts,
    tools: Tools,
    request: HeatRequest,
    cells: int = CELLS,
    house: HouseOverrides | None = None,
    brought: bool = False,
) -> Scene:
    """Make a heat ready to be rehearsed, by the rules of the house laid under the piece's own."""
    rules, piece = resolve_house(house, piece.house), as_heated(piece, facts)
    sides: tuple[Side, ...] = ("above",)
    if tools.surface.from_below:
        told = facts.heat_from or ("below" if rules.heat_from == "below" else None)
        sides = (told,) if told else ("above", "below")
    body, setup = _ready(piece, facts, tools, request.hand, cells, brought)
    # Of many parts each has some cells even on the rough body.
    roughly = max(ROUGH_CELLS, CELLS_A_PART * len(setup.network.nodes))
    _, coarse = _ready(piece, facts, tools, request.hand, min(cells, roughly), brought)
    top = max((one[1] for one in facts.range_c.values()), default=math.inf)
    end, light = anneal_end(rules, facts.range_c.values(), tools.flux), request.light
    rough = ways_of(coarse, sides, light, _last(facts, coarse, end, light), top_c=top)
    # A body that is tried only is as rough as it is.
    fine = (
        rough
        if cells <= ROUGH_CELLS
        else ways_of(setup, sides, light, _last(facts, setup, end, light), rough, top)
    )
    if facts.purpose == "ball":
        # A grain is drawn up in a breath.
        same, rough = fine is rough, replace(rough, least_s=_GRAIN_S)
        fine = rough if same else replace(fine, least_s=_GRAIN_S)
    return Scene(
        piece=piece,
        house=rules,
        facts=facts,
        tools=tools,
        body=body,
        fine=fine,
        rough=rough,
        request=request,
    )


def _last(facts: HeatFacts, setup: HeatSetup, end: AnnealEnd, light: Light) -> Sign:
    """Give the sign that ends the heat: solder runs; all that is annealed is in its range, by the sign of the house, or its glow where it shows one."""
    if facts.purpose != "anneal":
        return Sign("runs")
    network = setup.network
    cells = np.concatenate([goal.cells for goal in setup.goals])
    metals = {float(c) for c in network.solidus_c[cells]}
    if end.at_c is not None:
        one = setup.goals[0].id if len(setup.goals) == 1 else None
        return Sign("range", one, tuple(int(cell) for cell in cells), end.at_c, seen=end.words)
    wanted = max(anneal_sign_c(facts, goal.id, light) for goal in setup.goals)
    seen = [word for from_c, word in glows(light) if from_c <= wanted]
    kind: Literal["glow", "range"] = "glow" if seen and len(metals) == 1 else "range"
    about = setup.goals[0].id if len(setup.goals) == 1 else None
    return Sign(kind, about, tuple(int(cell) for cell in cells), wanted, word=seen[-1] if seen else None)


def anneal_sign_c(facts: HeatFacts, node: str, light: Light) -> float:
    """Give where an anneal of a part is ended, °C: the middle of its range, or the first glow above it while there is room."""
    low, high = facts.range_c[base_id(node)]
    first = glows(light)[0][0] + _PAST_GLOW_C
    return min(max((low + high) / 2, first), high - _BELOW_TOP_C)


def _ready(
    piece: Piece, facts: HeatFacts, tools: Tools, factor: TorchFactor, cells: int, brought: bool
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
            Goal(node, network.cells(node), facts.reach_c[base_id(node)], ever=facts.purpose == "anneal")
            for node in network.nodes
            if base_id(node) in facts.reach_c
        ]
    limits = [_slump(piece, facts, network, node) for node in network.nodes if base_id(node) in facts.melts_c]
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
    setup = HeatSetup(
        network,
        tools.torch,
        tuple(goals),
        tuple(limits),
        _flux(facts, tools),
        factor=factor.factor,
        spread=factor.spread,
        wet=facts.wet,
        brought=_brought(piece, facts, network) if brought else None,
    )
    return body, setup


def may_bring(scene: Scene) -> bool | None:
    """Say whether a light part of the heat is brought in: by the join's own word, else None where both ways are open to a hand.

    They are where it is held in the hand, weighs under a twentieth of the other in heat, and reaches within 10 mm of it.
    """
    made = [join for join in scene.piece.joins if join.id in scene.facts.making and not _closes(join)]
    if len(made) != 1 or scene.facts.purpose != "solder" or len(scene.setup.network.touches) != 1:
        return False
    join, network = made[0], scene.setup.network
    if join.brought_in is not None:
        return join.brought_in
    light = _light_of(network, network.touches[0])
    touch = network.touches[0]
    heavy = next(node for node in _sides(network, touch) if node != light)
    far = np.hypot(
        network.x_mm[network.cells(light)][:, None] - network.x_mm[touch.seam],
        network.y_mm[network.cells(light)][:, None] - network.y_mm[touch.seam],
    ).min(axis=1)
    small = network.capacity_of(light) < _LIGHT_SHARE * network.capacity_of(heavy)
    return None if join.holds == "hand" and small and float(far.max()) <= _BROUGHT_MM else False


def _closes(join: Join) -> bool:
    return len(set(join.between)) == 1


def _sides(network: Network, touch: Touch) -> list[str]:
    return list(dict.fromkeys(network.nodes[network.node_of[cell]] for cell in touch.seam))


def _light_of(network: Network, touch: Touch) -> str:
    return min(_sides(network, touch), key=lambda node: (network.capacity_of(node), node))


def _brought(piece: Piece, facts: HeatFacts, network: Network) -> Brought | None:
    if len(network.touches) != 1:
        return None
    touch = network.touches[0]
    return Brought(touch.place, _light_of(network, touch), facts.reach_c[touch.join])


def _flux(facts: HeatFacts, tools: Tools) -> Flux | None:
    """Give the flux that is on the work: none for an anneal or a melt, nor for a fuse that is hotter than it bears."""
    bears = facts.working_c < tools.flux.spent_c
    return tools.flux if facts.purpose == "solder" or (facts.purpose == "fuse" and bears) else None


def _slump(piece: Piece, facts: HeatFacts, network: Network, node: str) -> Limit:
    """A part that is to be spared: it glistens from its solidus, and slumps when 15 % of it is liquid."""
    metal, stays = metal_of(piece, base_id(node)), facts.melts_c[base_id(node)]
    if metal is not None and stays <= metal.solidus_c:
        return Limit(node, "part", network.cells(node), slumps_c(metal), metal.solidus_c)
    return Limit(node, "part", network.cells(node), stays)


def found_for(scene: Scene, tick: Callable[[float], None] | None = None) -> Followed:
    """Find the best programme, or follow the habit that is asked for; by all hands."""
    if scene.request.habit == "best":
        return best_programme(scene.fine, scene.rough, tick, scene.request.effort)
    return everyone(scene.fine, habit_stages(scene))


def habit_stages(scene: Scene) -> tuple[Stage, ...]:
    """Give the stages of a habit, the flux dried: held on each join until it flows, circled evenly, or kept on the light part."""
    network, fine = scene.setup.network, scene.fine
    side = fine.aims[0].side
    aims = {aim.key: aim for aim in fine.aims}
    held: Aim = aims[f"circle::{side}"]
    if scene.request.habit == "join":
        names = list(dict.fromkeys(touch.join for touch in network.touches))
        ways = [f"each::{side}", *(f"{kind}:{name}:{side}" for name in names for kind in ("each", "join"))]
        held = next((aims[way] for way in ways if way in aims), held)
    if scene.request.habit == "light":
        nodes = {network.nodes[network.node_of[cell]] for touch in network.touches for cell in touch.seam}
        light = min(nodes or set(network.nodes), key=lambda node: (network.capacity_of(node), node))
        held = aims.get(f"part:{light}:{side}", held)
    return (Stage(held, scene.request.setting, fine.last),)


def settles_c(scene: Scene) -> float | None:
    """Give what the coolest goal comes to under a full flame held where that is hottest, °C; None where it gets there."""
    coolest = float(settled_c(scene.rough, MIDDLE)[0].min(axis=1).max())
    return coolest if math.isfinite(coolest) else None

"""Rehearse a heat of a plan: make it ready, find the programme or follow a habit, and tell what comes of it in all hands."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ..faults import refuse
from ..heat import PACES, Followed, goodness
from ..picture import nodes_of_part
from ..piece import Bench, HouseOverrides, Piece, part_of
from ..plan import Plan, plan
from ._ball import ball_rehearsed, is_wire_end
from ._compare import habits_tried
from ._facts import HeatFacts, Tools, facts_of, tools_of
from ._request import USUAL, HeatRequest
from ._scene import LEAST_SETTING, Progress, Scene, found_for, may_bring, no_progress, scene_of, settles_c
from ._show import shown
from ._types import Rehearsal


def rehearse_heat(
    piece: Piece,
    heat_no: int = 1,
    request: HeatRequest = USUAL,
    *,
    house: HouseOverrides | None = None,
    bench: Bench | None = None,
    planned: Plan | None = None,
    after: Rehearsal | None = None,
    with_cells: bool = False,
    with_habits: bool = False,
    progress: Progress = no_progress,
) -> Rehearsal:
    """Rehearse one heat of a piece's plan; `progress` is told what is being done and how far, and may raise to stop.

    With `after` it follows straight upon a heat that was rehearsed, on the block that this has warmed, where both lie on the same.
    Raises Refused for an unknown torch, surface or heat, and for a piece that has no plan.
    """
    if not LEAST_SETTING <= request.setting <= 1:
        raise refuse(
            "out-of-range",
            "setting",
            request.setting,
            f"a flame is open by {LEAST_SETTING:g} to 1",
            "Open it by as much as in between.",
        )
    planned = planned or plan(piece, house, bench)
    if planned.conflict is not None:
        raise refuse(
            "no-plan", "", piece.name, "a piece with a plan is rehearsed", "See its conflict in the plan."
        )
    facts = facts_of(piece, planned, heat_no)
    tools = tools_of(piece, bench, request.torch, request.surface, facts.flux)
    if facts.purpose == "ball":
        # Grains are heated each in its turn: one of them tells it.
        part = part_of(piece, min(facts.nodes))
        facts = replace(facts, nodes=frozenset({nodes_of_part(part)[0]}), bodies=max(1, part.count))
    if facts.purpose == "ball" and is_wire_end(piece, facts):
        return ball_rehearsed(piece, facts, tools, request, house)
    progress("laying out the body", 0.05)
    block = None
    if after is not None and after.surface == tools.surface.id and len(after.block_k) == len(PACES):
        block = np.array(after.block_k)
    scene, found = _better_way(piece, facts, tools, request, house, block, progress)
    progress("following it with every hand", 0.8)
    settles = settles_c(scene) if not found.well else None
    made = shown(scene, found, settles, with_cells=with_cells)
    if after is not None and block is not None:
        made = made.model_copy(update={"after": after.heat_no})
    if not with_habits:
        return made
    progress("trying the three habits", 0.9)
    return made.model_copy(update={"habits": habits_tried(scene)})


def _better_way(
    piece: Piece,
    facts: HeatFacts,
    tools: Tools,
    request: HeatRequest,
    house: HouseOverrides | None,
    block: NDArray[np.float64] | None,
    progress: Progress,
) -> tuple[Scene, Followed]:
    """Find how it is best done; where a light part may be brought in when the solder is liquid, both ways are rehearsed."""

    def laid(*, brought: bool = False) -> Scene:
        made = scene_of(piece, facts, tools, request, house=house, brought=brought)
        return made if block is None else made.on_warm(block)

    scene = laid()
    bring = may_bring(scene)
    trying = "trying where to point"

    def tick(share: float) -> None:
        progress(trying, 0.1 + 0.7 * share)

    if bring is False:
        return scene, found_for(scene, tick)
    brought = laid(brought=True)
    other = found_for(brought, tick)
    if bring:
        return brought, other
    trying = "trying it with the light part standing"
    found = found_for(scene, tick)
    return (
        (scene, found) if goodness(scene.fine, found) >= goodness(brought.fine, other) else (brought, other)
    )

"""The level model with its heats: which heat each join takes, for when the batches of the levels do not fit by themselves.

Levels alone may choose batches that no sharing-out brings into the number of heats. Here every join has a heat as
well, and orders, room and lies hold heat by heat. That the joins of one batch share a heat is demanded at once of
those that touch, and by a cut of those that are tied together through others.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

from ..rules import ALL_LIES, Lie
from ..solver import Term, no
from ._batches import Batches, way_between
from ._levels import Levels, lies_of


@dataclass(frozen=True)
class Slots:
    """The heats of a level model: `takes[t][h]`, and the lie of each heat, `up[h]`."""

    takes: list[list[int]]
    up: list[dict[Lie, int]]


def add_slots(levels: Levels, heats: int) -> Slots:
    """Give every task of a level model one of so many heats."""
    model, span = levels.model, range(heats)
    fills = [[model.boolean() for _ in levels.fillers] for _ in span]
    up = [{lie: model.boolean() for lie in ALL_LIES} for _ in span]
    takes, done = [], []
    for h in span:
        model.exactly_one(fills[h])
        model.exactly_one(list(up[h].values()))
    for t, task in enumerate(levels.tasks):
        at = [model.boolean() for _ in span]
        by = [model.boolean() for _ in span]
        for h in span:
            model.between(0, [(1, by[h]), (-1, at[h]), *([(-1, by[h - 1])] if h else [])], 0)
            model.clause(no(at[h]), *(up[h][lie] for lie in lies_of(task)))
            for f, fill in enumerate(fills[h]):
                own = levels.made_with[t].get(f)
                model.clause(no(at[h]), no(fill), *([own] if own is not None else []))
                if own is not None:
                    model.clause(no(at[h]), no(own), fill)
        model.clause(by[-1])
        takes.append(at)
        done.append(by)
    slots = Slots(takes, up)
    _keep_orders(levels, done)
    _keep_touching_together(levels, slots, done)
    _keep_room(levels, slots, fills)
    _keep_moves(levels, slots)
    return slots


def _keep_orders(levels: Levels, done: list[list[int]]) -> None:
    number = {task.id: t for t, task in enumerate(levels.tasks)}
    for earlier, later in sorted(levels.problem.orders):
        _follow(levels, done[number[earlier]], done[number[later]], [])


def _follow(levels: Levels, before: list[int], after: list[int], unless: list[int]) -> None:
    """Keep a task from being over in a heat unless another was over before it."""
    for h, literal in enumerate(after):
        levels.model.clause(*unless, no(literal), *([before[h - 1]] if h else []))


def _keep_touching_together(levels: Levels, slots: Slots, done: list[list[int]]) -> None:
    """Of two joins that touch, those of one level share a heat, and the hotter one comes before the softer."""
    for i, j in combinations(range(len(levels.tasks)), 2):
        if levels.tasks[i].seeds.isdisjoint(levels.tasks[j].seeds):
            continue
        for f in levels.made_with[i].keys() & levels.made_with[j].keys():
            _share(levels, slots, i, j, [no(levels.made_with[i][f]), no(levels.made_with[j][f])])
        for hotter, softer in ((i, j), (j, i)):
            for f in range(len(levels.fillers) - 1):
                apart = [no(levels.made_by[hotter][f]), levels.made_by[softer][f]]
                _follow(levels, done[hotter], done[softer], apart)


def _share(levels: Levels, slots: Slots, i: int, j: int, unless: list[int]) -> None:
    for mine, theirs in zip(slots.takes[i], slots.takes[j], strict=True):
        levels.model.clause(*unless, no(mine), theirs)
        levels.model.clause(*unless, mine, no(theirs))


def _keep_moves(levels: Levels, slots: Slots) -> None:
    """Keep together, or apart, what was moved so by hand."""
    number = {task.id: t for t, task in enumerate(levels.tasks)}
    for demand in levels.problem.standing:
        if demand.kind in ("shares", "apart") and set(demand.ids) <= number.keys():
            one, other = (number[name] for name in demand.ids)
            if demand.kind == "shares":
                _share(levels, slots, one, other, [])
            else:
                for mine, theirs in zip(slots.takes[one], slots.takes[other], strict=True):
                    levels.model.clause(no(mine), no(theirs))


def _keep_room(levels: Levels, slots: Slots, fills: list[list[int]]) -> None:
    """Keep each heat within the room of its placings; what is made alone shares with nothing."""
    model, tasks = levels.model, levels.tasks
    widest = max(task.limit for task in tasks)
    for h in range(len(fills)):
        taken = [takes[h] for takes in slots.takes]
        room: list[Term] = [(_weight(levels, t, widest), one) for t, one in enumerate(taken)]
        model.at_most(room, widest)
        for t, task in enumerate(tasks):
            if not task.alone and (task.limit < widest or task.places > 1):
                others: list[Term] = [(o.places, taken[k]) for k, o in enumerate(tasks) if k != t]
                model.at_most(others, max(0, task.limit - task.places), [taken[t]])
    for f in range(len(levels.fillers)):
        of_level: list[Term] = [
            (_weight(levels, t, widest), own[f]) for t, own in enumerate(levels.made_with) if f in own
        ]
        model.at_most([*of_level, *((-widest, fill[f]) for fill in fills)], 0)


def _weight(levels: Levels, t: int, widest: int) -> int:
    task = levels.tasks[t]
    return widest if task.alone else min(task.places, widest)


def join_what_is_split(levels: Levels, slots: Slots, batches: Batches, values: tuple[int, ...]) -> bool:
    """Demand of every batch that a solution spreads over several heats that it shares one; say whether there was any."""
    found = False
    for batch in batches.all:
        first, *others = batch.tasks
        heat = _heat_of(slots, values, first)
        for other in others:
            if _heat_of(slots, values, other) != heat:
                at, by = way_between(batches, batch, first, other)
                unless = [no(levels.made_with[t][batch.level]) for t in at]
                unless += [no(levels.made_by[t][batch.level]) for t in by]
                _share(levels, slots, first, other, unless)
                found = True
    return found


def _heat_of(slots: Slots, values: tuple[int, ...], t: int) -> int:
    return next(h for h, literal in enumerate(slots.takes[t]) if values[literal])


def heats_of(slots: Slots, values: tuple[int, ...]) -> list[tuple[list[int], Lie]]:
    """Give the tasks of each heat in use, and its lie."""
    heats = []
    for h, up in enumerate(slots.up):
        inside = [t for t, takes in enumerate(slots.takes) if values[takes[h]]]
        if inside:
            heats.append((inside, next(lie for lie, literal in up.items() if values[literal])))
    return heats

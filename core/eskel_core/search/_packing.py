"""Share out the batches of a solution among as few heats as can be."""

from __future__ import annotations

from collections.abc import Callable

from ..rules import ALL_LIES
from ..solver import Effort, Model, Term, no
from ._batches import Batch, Batches
from ._levels import can_share

Packed = tuple[tuple[Batch, ...], ...]


def pack(batches: Batches, most: int, effort: Effort) -> Packed | None:
    """Share batches out among at most so many heats; None where that was not found within the effort.

    They are laid out heat by heat first, the most pressing first; only where that takes too many heats is the
    solver asked.
    """
    tails = _tails(batches)
    every = batches.all
    policies: tuple[Callable[[int], tuple[int, ...]], ...] = (
        lambda b: (every[b].level, -tails[b], -len(every[b].tasks), b),
        lambda b: (-tails[b], every[b].level, -len(every[b].tasks), b),
    )
    for policy in policies:
        found = _laid_out(batches, policy)
        if len(found) <= most:
            return found
    return _solved(batches, most, effort)


def _tails(batches: Batches) -> list[int]:
    """Give how many batches the longest chain has that begins with each."""
    tails = [1] * len(batches.all)
    changed = True
    while changed:
        changed = False
        for b, before in enumerate(batches.waits):
            for a in before:
                if tails[a] <= tails[b]:
                    tails[a], changed = tails[b] + 1, True
    return tails


def _laid_out(batches: Batches, policy: Callable[[int], tuple[int, ...]]) -> Packed:
    """Fill one heat after another with what is ready."""
    left, done, heats = set(range(len(batches.all))), set[int](), list[tuple[Batch, ...]]()
    while left:
        ready = sorted((b for b in left if batches.waits[b].keys() <= done), key=policy)
        inside: list[Batch] = []
        for b in ready:
            batch = batches.all[b]
            if batch.level == batches.all[ready[0]].level and _go_together(batches, [*inside, batch]):
                inside.append(batch)
                done.add(b)
        heats.append(tuple(inside))
        left -= done
    return tuple(heats)


def _go_together(batches: Batches, some: list[Batch]) -> bool:
    tasks = [batches.levels.tasks[t] for batch in some for t in batch.tasks]
    return can_share(tasks) and bool(frozenset.intersection(*(batch.lies for batch in some)))


def _solved(batches: Batches, most: int, effort: Effort) -> Packed | None:
    """Ask the solver for a heat for each batch."""
    model, span = Model(), range(most)
    fills = [{f: model.boolean() for f in sorted({batch.level for batch in batches.all})} for _ in span]
    up = [{lie: model.boolean() for lie in ALL_LIES} for _ in span]
    for h in span:
        model.exactly_one(list(fills[h].values()))
        model.exactly_one(list(up[h].values()))
    takes, done = [], []
    for batch in batches.all:
        at = [model.boolean() for _ in span]
        by = [model.boolean() for _ in span]
        for h in span:
            model.between(0, [(1, by[h]), (-1, at[h]), *([(-1, by[h - 1])] if h else [])], 0)
            model.clause(no(at[h]), fills[h][batch.level])
            model.clause(no(at[h]), *(up[h][lie] for lie in batch.lies))
        model.clause(by[-1])
        takes.append(at)
        done.append(by)
    for b, before in enumerate(batches.waits):
        for a in before:
            for h in span:
                model.clause(no(done[b][h]), *([done[a][h - 1]] if h else []))
    for h in span:
        _make_room(batches, model, [at[h] for at in takes])
    values = model.feasible(effort).values
    if values is None:
        return None
    heats = (
        tuple(batch for batch, at in zip(batches.all, takes, strict=True) if values[at[h]]) for h in span
    )
    return tuple(heat for heat in heats if heat)


def _make_room(batches: Batches, model: Model, taken: list[int]) -> None:
    """Keep a heat within the room of its placings; what is made alone shares with nothing."""
    groups = [[batches.levels.tasks[t] for t in batch.tasks] for batch in batches.all]
    places = [sum(task.places for task in group) for group in groups]
    limits = [min(task.limit for task in group) for group in groups]
    widest = max(limits)
    room: list[Term] = [(min(p, widest), one) for p, one in zip(places, taken, strict=True)]
    model.at_most(room, widest)
    for b, group in enumerate(groups):
        alone = any(task.alone for task in group)
        if alone or limits[b] < widest or places[b] > widest:
            others: list[Term] = [(places[o], taken[o]) for o in range(len(groups)) if o != b]
            model.at_most(others, 0 if alone else max(0, limits[b] - places[b]), [taken[b]])

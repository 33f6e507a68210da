"""What a solution of the levels asks of the heats: which joins must share one, which must wait, and where that fails.

A *batch* is a heat: the joins of one level that lie in one body once it is hot. A batch waits for every hotter one in its
body, and for what the orders ask. Where a batch holds more than a heat has room for, or an order or a move by hand is not
kept, a *cut* tells the model why, in terms of the few joins that show it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from ..demands import Bodies, circle_through, way_back
from ..rules import ALL_LIES, Lie, lies_for
from ..solver import no
from ._levels import Levels, can_share, moved_pairs
from ._one_body import Pair


@dataclass(frozen=True)
class Batch:
    """Tasks that share a heat, by number, the lies that suit them, and the nodes of their body."""

    level: int
    tasks: tuple[int, ...]
    lies: frozenset[Lie]
    body: frozenset[str]


@dataclass(frozen=True)
class Cut:
    """Tasks that cannot all be at these levels while others, that tie them together, are at these or hotter ones."""

    at: frozenset[tuple[int, int]]
    by: frozenset[tuple[int, int]]


@dataclass
class Batches:
    """The batches of one solution: `level[t]` of each task, `of[t]` its batch, `waits[b]` the batches before each."""

    levels: Levels
    level: tuple[int, ...]
    all: tuple[Batch, ...]
    of: dict[int, int] = field(default_factory=dict)
    waits: list[dict[int, tuple[int, int]]] = field(default_factory=list)
    at_node: dict[str, list[int]] = field(default_factory=dict)


def batches_of(levels: Levels, values: tuple[int, ...]) -> Batches:
    """Give the batches of a solution, the hottest first, each level's in the order of its tasks."""
    level = tuple(next(f for f, one in chosen.items() if values[one]) for chosen in levels.made_with)
    found = [batch for f in sorted(set(level)) for batch in _of_level(levels, values, level, f)]
    batches = Batches(levels, level, tuple(found))
    batches.of = {t: b for b, batch in enumerate(found) for t in batch.tasks}
    for t, task in enumerate(levels.tasks):
        for node in task.seeds:
            batches.at_node.setdefault(node, []).append(t)
    batches.waits = _waits(batches)
    return batches


def _of_level(levels: Levels, values: tuple[int, ...], level: tuple[int, ...], f: int) -> Iterator[Batch]:
    bodies = Bodies()
    inside: dict[str, list[int]] = {}
    for t, task in enumerate(levels.tasks):
        if level[t] <= f:
            for a, b in levels.problem.anatomy.joins[task.id].ties:
                bodies.tie(a, b)
        if level[t] == f:
            first, *others = sorted(task.seeds)
            for other in others:
                bodies.tie(first, other)
    for t, task in enumerate(levels.tasks):
        if level[t] == f:
            inside.setdefault(bodies.of(min(task.seeds)), []).append(t)
    for root, members in inside.items():
        up = levels.up[min(levels.tasks[members[0]].seeds), f]
        joins = [join for t in members if (join := levels.tasks[t].join) is not None]
        suits = (lie for lie in ALL_LIES if all(lie in lies_for(join) for join in joins))
        lies = (
            frozenset(suits) if levels.one_way_up else frozenset(lie for lie in ALL_LIES if values[up[lie]])
        )
        yield Batch(f, tuple(members), lies, bodies.all_of(root))


def _waits(batches: Batches) -> list[dict[int, tuple[int, int]]]:
    """Give, for each batch, those that come before it, each with the pair of tasks (before, after) that shows why."""
    waits: list[dict[int, tuple[int, int]]] = [{} for _ in batches.all]
    for b, batch in enumerate(batches.all):
        for a, other in enumerate(batches.all):
            if other.level < batch.level and other.body & batch.body:
                inside = next(t for t in other.tasks if batches.levels.tasks[t].seeds & batch.body)
                waits[b][a] = inside, inside
    number = {task.id: t for t, task in enumerate(batches.levels.tasks)}
    for earlier, later in sorted(batches.levels.problem.orders):
        before, after = number[earlier], number[later]
        waits[batches.of[after]].setdefault(batches.of[before], (before, after))
    return waits


def cuts_of(batches: Batches) -> set[Cut]:
    """Give why a solution cannot be made in heats; nothing where the batches and their order hold together."""
    cuts = {cut for batch in batches.all for cut in _too_much(batches, batch)}
    cuts |= set(_against_orders(batches)) | set(_kept_apart(batches))
    return cuts or set(_circles(batches))


def _kept_apart(batches: Batches) -> Iterator[Cut]:
    """Two joins that were moved apart must not be of one level in one body."""
    for one, other in moved_pairs(batches.levels, "apart"):
        batch = batches.all[batches.of[one]]
        if other in batch.tasks:
            yield _cut(batches, batch.level, set(_Walk(batches, one, batch).to(other)))


def bring_together(batches: Batches) -> bool:
    """Demand of two joins that were moved into one heat that something ties their bodies by then; say whether that was new."""
    levels, found = batches.levels, False
    for one, other in moved_pairs(levels, "shares"):
        batch = batches.all[batches.of[one]]
        if other in batch.tasks:
            continue
        across = [
            t
            for t, task in enumerate(levels.tasks)
            if task.seeds & batch.body and not task.seeds <= batch.body
        ]
        for f, own in levels.made_with[one].items():
            levels.model.clause(no(own), *(levels.made_by[t][f] for t in across))
        found = True
    return found


def batch_rounds(batches: Batches) -> tuple[int, ...]:
    """Give the round of each batch, from 1: as late as the longest chain of those it waits for."""
    rounds = [0] * len(batches.all)

    def of(b: int) -> int:
        if not rounds[b]:
            rounds[b] = 1 + max((of(a) for a in batches.waits[b]), default=0)
        return rounds[b]

    return tuple(of(b) for b in range(len(rounds)))


def add_cut(levels: Levels, cut: Cut) -> None:
    """Keep every later solution from what a cut tells of, and from the same on any other levels."""
    levels_at = {f for _, f in cut.at}
    shifts = range(len(levels.fillers)) if len(levels_at) == 1 else (0,)
    for f in shifts:
        at = [(t, f if len(levels_at) == 1 else own) for t, own in cut.at]
        by = [(t, f if len(levels_at) == 1 else own) for t, own in cut.by]
        if all(own in levels.made_with[t] for t, own in at):
            levels.model.clause(
                *(no(levels.made_with[t][own]) for t, own in at),
                *(no(levels.made_by[t][own]) for t, own in by),
            )


def crowded_ties(batches: Batches) -> Iterator[list[Pair]]:
    """Give the ties of each level at which some heat has no room for its joins: along them the room is to be counted."""
    tasks, joins = batches.levels.tasks, batches.levels.problem.anatomy.joins
    crowded = (b.level for b in batches.all if not can_share([tasks[t] for t in b.tasks]))
    for f in dict.fromkeys(crowded):
        yield [tie for t, task in enumerate(tasks) if batches.level[t] <= f for tie in joins[task.id].ties]


def _too_much(batches: Batches, batch: Batch) -> Iterator[Cut]:
    """Walk out from each join of a batch that no heat has room for, until those met cannot share."""
    tasks = batches.levels.tasks
    if can_share([tasks[t] for t in batch.tasks]):
        return
    for start in batch.tasks:
        walk, met = _Walk(batches, start, batch), [start]
        for t in walk.outward():
            if batches.level[t] == batch.level:
                met.append(t)
            if not can_share([tasks[one] for one in met]):
                yield _cut(batches, batch.level, {one for t in met for one in walk.back(t)})
                break


def _against_orders(batches: Batches) -> Iterator[Cut]:
    """A join made after another must not be as hot or hotter in one body with it."""
    number = {task.id: t for t, task in enumerate(batches.levels.tasks)}
    for earlier, later in sorted(batches.levels.problem.orders):
        before, after = number[earlier], number[later]
        batch = batches.all[batches.of[before]]
        if batches.level[after] <= batch.level and batches.levels.tasks[after].seeds & batch.body:
            walk = _Walk(batches, before, batch)
            path = walk.to(after)
            exact = {t for t in path if t == before or _is_wide(batches, t, batch.level)}
            yield Cut(
                frozenset((t, batch.level) for t in exact),
                frozenset((t, batch.level) for t in set(path) - exact),
            )


def _is_wide(batches: Batches, t: int, level: int) -> bool:
    """Say whether a join of a level reaches, in its own heat, more nodes than it ties together."""
    return batches.level[t] == level and len(batches.levels.tasks[t].seeds) > 2


def _circles(batches: Batches) -> Iterator[Cut]:
    """Batches that wait for each other in a circle: give the joins that make each of them one batch, and its waits."""
    for start in range(len(batches.all)):
        circle = circle_through(start, batches.waits.__getitem__)
        if circle:
            yield _cut_of_circle(batches, circle)


def _cut_of_circle(batches: Batches, circle: list[int]) -> Cut:
    """Tell of each batch of a circle the way from the join that waits to the join that is waited for.

    Where a batch waits for a hotter one in its body, that hotter join is where the way begins.
    """
    at: set[tuple[int, int]] = set()
    by: set[tuple[int, int]] = set()
    for place, here in enumerate(circle):
        _, entry = batches.waits[here][circle[(place + 1) % len(circle)]]
        out, _ = batches.waits[circle[place - 1]][here]
        batch = batches.all[here]
        cut = _cut(batches, batch.level, set(_Walk(batches, entry, batch).to(out)))
        at |= cut.at
        by |= cut.by
    return Cut(frozenset(at), frozenset(by))


def _cut(batches: Batches, level: int, used: set[int]) -> Cut:
    at = frozenset((t, level) for t in used if batches.level[t] == level)
    return Cut(at, frozenset((t, level) for t in used) - at)


class _Walk:
    """A walk through the body of a batch, from one task to those tied to it, the nearest first."""

    def __init__(self, batches: Batches, start: int, batch: Batch) -> None:
        self._batches, self._start, self._batch = batches, start, batch
        self._came = {start: start}

    def outward(self) -> Iterator[int]:
        """Give each task of the batch's level or hotter that the walk meets."""
        tasks, batch = self._batches.levels.tasks, self._batch
        waiting = [(node, self._start) for node in sorted(tasks[self._start].seeds & batch.body)]
        seen = {node for node, _ in waiting}
        while waiting:
            here, by = waiting.pop(0)
            for t in self._batches.at_node[here]:
                if self._batches.level[t] > batch.level:
                    continue
                if t not in self._came:
                    self._came[t] = by
                    yield t
                for node in self._reach(t, here):
                    if node not in seen:
                        seen.add(node)
                        waiting.append((node, t))

    def _reach(self, t: int, here: str) -> list[str]:
        """Give the nodes that a task ties to one, or, in its own heat, heats with it."""
        task = self._batches.levels.tasks[t]
        if self._batches.level[t] == self._batch.level:
            return sorted(task.seeds)
        ties = self._batches.levels.problem.anatomy.joins[task.id].ties
        return sorted({node for tie in ties if here in tie for node in tie})

    def back(self, t: int) -> list[int]:
        """Give the tasks from one that was met back to the first."""
        return way_back(self._came, t)

    def to(self, wanted: int) -> list[int]:
        """Give the tasks from one in the body back to the first."""
        if wanted not in self._came:
            for t in self.outward():
                if t == wanted:
                    break
        return self.back(wanted)

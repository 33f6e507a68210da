"""A solution of the levels with exceptions, made in heats: what each waits for, what it overlooks, and in which order they come."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal, NamedTuple

from ..demands import Bodies, circle_through, nearest_first
from ..solver import no
from ._assignment import PlannedHeat
from ._levels import Levels, can_share, is_held_always
from ._measured import lies_of_task
from ._one_body import beyond_ties
from ._room import room_in_bodies


class Way(NamedTuple):
    """How tasks come to lie in one body of a level: `at` are of it, `by` of it or a hotter one; `last` do not run again."""

    level: int
    at: frozenset[int]
    by: frozenset[int]
    last: frozenset[int]


def add_ways(levels: Levels, ways: Sequence[Way]) -> None:
    """Keep every later solution from some ways together, and from the same on any other level if they are of one."""
    own = [way.level for way in ways]
    alike = [[f] * len(ways) for f in range(len(levels.fillers))]
    for at in alike if len(set(own)) == 1 else [own]:
        pairs = list(zip(ways, at, strict=True))
        if all(f in levels.made_with[t] for way, f in pairs for t in way.at):
            told = {no(levels.made_with[t][f]) for way, f in pairs for t in way.at}
            told |= {no(levels.made_by[t][f]) for way, f in pairs for t in way.by}
            told |= {levels.again[t] for way in ways for t in way.last if t in levels.again}
            levels.model.clause(*sorted(told))


class Made:
    """The heats of a solution. A *unit* is what shares a heat: what of a level in a body does not run again, or one exception.

    `waits` holds, for each unit, those that come before it, each with the pair of tasks (before, after) that shows why.
    """

    def __init__(self, levels: Levels, values: tuple[int, ...]) -> None:
        self._levels, self._tasks, self._problem = levels, levels.tasks, levels.problem
        self._number = {task.id: t for t, task in enumerate(levels.tasks)}
        self._level = [next(f for f, one in made.items() if values[one]) for made in levels.made_with]
        self._again = {t for t, literal in levels.again.items() if values[literal]}
        self._tied = {f: self._ties_of(f) for f in sorted(set(self._level))}
        self._bodies = {f: _bodies(tied) for f, tied in self._tied.items()}
        last: dict[tuple[int, str], list[int]] = {}
        for t, f in enumerate(self._level):
            if t not in self._again:
                last.setdefault((f, self._body(t, f)), []).append(t)
        self._units = [*last.values(), *([t] for t in sorted(self._again))]
        self._of = {t: u for u, unit in enumerate(self._units) for t in unit}
        self._waits: list[dict[int, tuple[int, int]]] = [{} for _ in self._units]
        for u, (f, body) in enumerate(last):
            for t, own in enumerate(self._level):
                if own <= f and self._of[t] != u and self._body(t, f) == body:
                    self._waits[u].setdefault(self._of[t], (t, self._units[u][0]))
        for u in range(len(last), len(self._units)):
            self._wait_for_turning(u)
        for before, after in self._ordered():
            if self._of[before] != self._of[after]:
                self._waits[self._of[after]][self._of[before]] = before, after

    def _wait_for_turning(self, u: int) -> None:
        """Let an exception that its weight holds wait for what is made in its body with the work turned over."""
        t = self._units[u][0]
        f, holding = self._level[t], self._problem.lies_that_hold[self._tasks[t].id]
        if is_held_always(self._problem, self._tasks[t]):
            return
        after = {b for a, b in self._ordered() if a == t}
        for o, own in enumerate(self._level):
            turned = o not in after and own <= f and not set(lies_of_task([self._tasks[o]])) & set(holding)
            if turned and self._body(o, f) == self._body(t, f):
                self._waits[u].setdefault(self._of[o], (o, t))

    def _ordered(self) -> Iterator[tuple[int, int]]:
        return ((self._number[a], self._number[b]) for a, b in sorted(self._problem.orders))

    def _ties_of(self, f: int) -> list[tuple[str, str, int, bool]]:
        """Give what ties two nodes by the last heat of a level in their body, each with the task by whose level it does.

        Told last is whether that task must be of the level itself: its own heat is wider than its ties.
        """
        tied = []
        for t, task in enumerate(self._tasks):
            ties = self._problem.anatomy.joins[task.id].ties
            by = self._tied_by(t, f)
            tied += [(a, b, by, False) for a, b in ties if by is not None]
            tied += [(a, b, t, True) for a, b in beyond_ties(task, ties) if self._level[t] == f]
        return tied

    def _tied_by(self, t: int, f: int) -> int | None:
        """Give the task by whose level another is made by the last heat of a level in its body: itself, or what comes after it."""
        if self._level[t] <= f:
            return t
        after = (self._tied_by(o, f) for o in self._levels.followed.get(t, ()))
        return next((o for o in after if o is not None), None)

    def _body(self, t: int, f: int) -> str:
        return self._bodies[f].of(min(self._tasks[t].seeds))

    def _way(self, f: int, one: int, other: int, at: tuple[int, ...]) -> Way:
        """Give a shortest way by which two tasks lie in one body of a level; `at` are those of the two that are of it."""
        around: dict[str, list[tuple[str, tuple[int, bool]]]] = {}
        for a, b, t, wide in self._tied[f]:
            around.setdefault(a, []).append((b, (t, wide)))
            around.setdefault(b, []).append((a, (t, wide)))
        start, node = min(self._tasks[one].seeds), min(self._tasks[other].seeds)
        came = {to: (here, by) for to, here, by in nearest_first([start], lambda here: around.get(here, ()))}
        exact, met = set(at), {one, other}
        while node != start:
            node, (t, wide) = came[node]
            (exact if wide else met).add(t)
        return Way(f, frozenset(exact), frozenset(met - exact), frozenset(set(at) - self._again))

    def cut(self) -> Literal["", "proven", "guessed"]:
        """Cut off what the solution overlooks: heats with no room for their joins, an order within one, heats in a circle.

        Say whether there was any, and whether no plan is lost by it: that an exception waits for what turns the work over is
        a guess, since what ties the two may come later.
        """
        crowded = [self._level[unit[0]] for unit in self._units if self._is_crowded(unit)]
        for f in dict.fromkeys(crowded):
            room_in_bodies(self._levels, [(a, b) for a, b, _, wide in self._tied[f] if not wide])
        for unit in self._units if crowded else ():
            if self._is_crowded(unit):
                for start in unit:
                    add_ways(self._levels, self._until_crowded(start, unit))
        ways = [*self._at_once()] or ([] if crowded else self._circles())
        for one in ways:
            add_ways(self._levels, one)
        guessed = any(way.at & self._again for one in ways for way in one)
        return "guessed" if guessed else "proven" if crowded or ways else ""

    def _is_crowded(self, unit: list[int]) -> bool:
        return not can_share([self._tasks[t] for t in unit])

    def _until_crowded(self, start: int, unit: list[int]) -> tuple[Way, ...]:
        """Give the ways from a join of a heat to those nearest to it, until they cannot share one."""
        f, met = self._level[start], [start]
        ways = {t: self._way(f, start, t, (start, t)) for t in unit}
        for t in sorted(unit, key=lambda t: len(ways[t].by | ways[t].at)):
            met += [t] if t != start else []
            if not can_share([self._tasks[one] for one in met]):
                break
        return tuple(ways[t] for t in met)

    def _at_once(self) -> Iterator[tuple[Way, ...]]:
        for before, after in self._ordered():
            if self._of[before] == self._of[after]:
                yield (self._way(self._level[before], before, after, (before, after)),)

    def _circles(self) -> list[tuple[Way, ...]]:
        """Give why units wait for each other in circles: a shortest one through each unit that lies on no other told."""
        told: list[tuple[Way, ...]] = []
        met: set[int] = set()
        for start in range(len(self._units)):
            units = [] if start in met else circle_through(start, self._waits.__getitem__)
            if units:
                met |= set(units)
                told.append(tuple(self._why(units)))
        return told

    def _why(self, units: list[int]) -> Iterator[Way]:
        """Say what makes each unit of a circle one, and wait for the next."""
        ordered = set(self._ordered())
        for place, u in enumerate(units):
            before, after = self._waits[u][units[(place + 1) % len(units)]]
            met, _ = self._waits[units[place - 1]][u]
            f = self._level[after]
            if met != after:
                yield self._way(f, met, after, (met, after))
            if (before, after) not in ordered:
                yield self._way(f, after, before, (after,))

    def otherwise(self, name: str) -> list[int]:
        """Give a clause that has a join made otherwise: not as an exception, or, if it was none, on another level."""
        t = self._number[name]
        if t in self._again:
            return [no(self._levels.again[t])]
        return [no(self._levels.made_with[t][self._level[t]])]

    def heats(self) -> tuple[PlannedHeat, ...]:
        """Make what is ready, the hottest first; exceptions of a level that hang together share heats."""
        left, made, heats = dict(enumerate(self._waits)), list[int](), list[PlannedHeat]()
        while left:
            ready = self._ready(left)
            first = ready[0]
            taken = [first]
            if self._units[first][0] in self._again:
                taken += self._beside(first, ready, made)
            tasks = sorted(t for u in taken for t in self._units[u])
            inside = [self._tasks[t] for t in tasks]
            filler = self._levels.fillers[self._level[tasks[0]]]
            names = tuple(task.id for task in inside)
            heats.append(PlannedHeat(names, filler, lies_of_task(inside)[0], frozenset()))
            made += tasks
            for u in taken:
                del left[u]
        return tuple(heats)

    def _ready(self, left: dict[int, dict[int, tuple[int, int]]]) -> list[int]:
        """Give what can be made now for the hottest of what is left to be made soon, the hottest first."""

        def hottest(u: int) -> tuple[int, int]:
            return self._level[self._units[u][0]], u

        wanted = min(left, key=hottest)
        awaited = nearest_first([wanted], lambda u: ((v, None) for v in left[u] if v in left))
        return sorted(
            (u for u in [wanted, *(v for v, _, _ in awaited)] if not left[u].keys() & left.keys()),
            key=hottest,
        )

    def _beside(self, first: int, ready: list[int], made: list[int]) -> list[int]:
        """Give the exceptions that can share the heat of one: of its level, and in one body with it."""
        inside = [self._units[first][0]]
        f = self._level[inside[0]]
        waiting = [u for u in ready if u != first and self._level[self._units[u][0]] == f]
        waiting = [u for u in waiting if self._units[u][0] in self._again]
        more: list[int] = []
        while True:
            body = self._heated(made, inside)
            fits = (u for u in waiting if u not in more and self._tasks[self._units[u][0]].seeds & body)
            room = (u for u in fits if can_share([self._tasks[t] for t in (*inside, *self._units[u])]))
            one = next(room, None)
            if one is None:
                return more
            more.append(one)
            inside += self._units[one]

    def _heated(self, made: list[int], inside: list[int]) -> frozenset[str]:
        seeds = frozenset(node for t in inside for node in self._tasks[t].seeds)
        return self._problem.anatomy.body(seeds, [self._tasks[t].id for t in (*made, *inside)])


def _bodies(tied: list[tuple[str, str, int, bool]]) -> Bodies:
    bodies = Bodies()
    for a, b, *_ in tied:
        bodies.tie(a, b)
    return bodies

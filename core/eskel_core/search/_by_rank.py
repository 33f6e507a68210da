"""Levels by rank: a heat in the middle of the work with the softest solder, and so on in what it leaves apart.

Heats of one solder in one body would be one heat, so between any two of them a softer one has to lie, made after both: the
heats of a long row need as many solders as its number has binary digits. That is the ranking of a tree: its middle is made
last, and what lies on either side is ranked by itself with one solder less.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

from ..demands import Problem, Task, nearest_first
from ._levels import can_share, fillers_of


def ranked_levels(problem: Problem, solders: int) -> dict[str, int] | None:
    """Give each task a level with so many of the hardest solders; None where they are too few."""
    ranking = _Ranking(problem)
    level: dict[str, int] = {}
    for part in ranking.apart({task.id for task in problem.tasks}):
        placed = ranking.place(part, solders)
        if placed is None:
            return None
        level |= placed
    return level


class _Ranking:
    """The tasks of a problem and which of them touch."""

    def __init__(self, problem: Problem) -> None:
        self._tasks = {task.id: task for task in problem.tasks}
        self._fillers = fillers_of(problem)
        self._room = max(task.limit for task in problem.tasks)
        at: dict[str, list[str]] = {}
        for task in problem.tasks:
            for node in task.seeds:
                at.setdefault(node, []).append(task.id)
        self._touching = {
            task.id: sorted({name for node in task.seeds for name in at[node]} - {task.id})
            for task in problem.tasks
        }

    def apart(self, names: set[str]) -> Iterator[set[str]]:
        """Give the parts of some tasks that hang together."""
        left = set(names)
        while left:
            part = self._around(min(left), left)
            left -= part
            yield part

    def _around(self, name: str, within: set[str]) -> set[str]:
        ways = nearest_first([name], lambda one: ((o, None) for o in self._touching[one] if o in within))
        return {name, *(one for one, _, _ in ways)}

    def place(self, part: set[str], solders: int) -> dict[str, int] | None:
        """Rank a part that hangs together with so many of the hardest solders."""
        if solders == 0:
            return None
        if self._one_heat(part, 0):
            return dict.fromkeys(part, 0)
        softest = solders - 1
        middle = self._middle(part, softest)
        if not middle:
            return None
        level = dict.fromkeys(middle, softest)
        for rest in self.apart(part - middle):
            placed = self.place(rest, softest)
            if placed is None:
                return None
            level |= placed
        return level

    def _one_heat(self, names: Iterable[str], level: int) -> bool:
        tasks: list[Task] = [self._tasks[name] for name in names]
        return can_share(tasks) and all(self._fillers[level] in task.options for task in tasks)

    def _middle(self, part: set[str], level: int) -> set[str]:
        """Give a heat's worth that hangs together and leaves the fewest heats beside it, and those as alike as can be."""
        starts = [name for name in sorted(part) if self._one_heat([name], level)]
        middle = {min(starts, key=lambda one: self._left({one}, part)[-1])} if starts else set[str]()
        while middle:
            more = {o for one in middle for o in self._touching[one] if o in part} - middle
            fits = [name for name in sorted(more) if self._one_heat([*middle, name], level)]
            if not fits:
                break
            middle.add(min(fits, key=lambda one: self._left({*middle, one}, part)))
        return middle

    def _left(self, middle: set[str], part: set[str]) -> tuple[int, int, int]:
        """Give how many heats what is left takes, how many places are over beside full ones, and the largest part."""
        sizes = [len(rest) for rest in self.apart(part - middle)]
        heats = sum(math.ceil(size / self._room) for size in sizes)
        return heats, sum(size % self._room for size in sizes), max(sizes, default=0)

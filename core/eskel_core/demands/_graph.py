"""Graphs: what is met from where, the nearest first; the ways back; circles. Nodes are met in the order they are given."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Iterator, Mapping
from typing import TypeVar

N = TypeVar("N", bound=Hashable)
L = TypeVar("L")


def nearest_first(
    starts: Iterable[N], ways: Callable[[N], Iterable[tuple[N, L]]]
) -> Iterator[tuple[N, N, L]]:
    """Give each node that is met from some, with the one it was met from and the way between; starts are not given.

    >>> ways = {"a": [("b", 1), ("c", 2)], "b": [("c", 3), ("d", 4)]}
    >>> list(nearest_first(["a"], lambda node: ways.get(node, ())))
    [('b', 'a', 1), ('c', 'a', 2), ('d', 'b', 4)]
    """
    waiting = list(starts)
    seen = set(waiting)
    for here in waiting:
        for node, way in ways(here):
            if node not in seen:
                seen.add(node)
                waiting.append(node)
                yield node, here, way


def way_back(came: Mapping[N, N], node: N) -> list[N]:
    """Give the nodes from one back to the first, which came from itself.

    >>> way_back({"a": "a", "b": "a", "c": "b"}, "c")
    ['c', 'b', 'a']
    """
    path = [node]
    while came[path[-1]] != path[-1]:
        path.append(came[path[-1]])
    return path


def circle_through(start: N, after: Callable[[N], Iterable[N]]) -> list[N]:
    """Give the nodes of a shortest circle through one, which comes first; none where no way leads back to it.

    >>> after = {"a": "b", "b": "cd", "c": "a", "d": "a"}
    >>> circle_through("a", lambda node: after[node])
    ['a', 'b', 'c']
    """
    came = {start: start}
    for node, here, _ in nearest_first([start], lambda node: ((each, None) for each in after(node))):
        came[node] = here
    ends = (node for node in came if start in after(node))
    last = next(ends, None)
    return [] if last is None else way_back(came, last)[::-1]


def closure(edges: Iterable[tuple[str, ...]]) -> set[tuple[str, str]]:
    """Give every pair that follows from some, by walking from each id.

    >>> sorted(closure([("a", "b"), ("b", "c")]))
    [('a', 'b'), ('a', 'c'), ('b', 'c')]
    """
    after = _after(edges)

    def ways(node: str) -> Iterator[tuple[str, None]]:
        return ((later, None) for later in after.get(node, ()))

    closed: set[tuple[str, str]] = set()
    for start, first in after.items():
        met = {*first, *(node for node, _, _ in nearest_first(first, ways))}
        closed |= {(start, node) for node in met}
    return closed


def circle(edges: Iterable[tuple[str, ...]]) -> tuple[tuple[str, ...], ...]:
    """Give the edges of a shortest circle, in their order; none where there is no circle.

    >>> circle([("a", "b"), ("b", "c"), ("c", "b")])
    (('b', 'c'), ('c', 'b'))
    """
    known = sorted(edges)
    after = _after(known)
    looped = sorted(earlier for earlier, later in closure(known) if earlier == later)
    ways = [circle_through(start, lambda node: after.get(node, ())) for start in looped]
    nodes = min(ways, key=len, default=[])
    return tuple(zip(nodes, [*nodes[1:], *nodes[:1]], strict=True))


def _after(edges: Iterable[tuple[str, ...]]) -> dict[str, list[str]]:
    after: dict[str, list[str]] = {}
    for earlier, later in edges:
        after.setdefault(earlier, []).append(later)
    return after


class Bodies:
    """Nodes tied together."""

    def __init__(self) -> None:
        self._above: dict[str, str] = {}

    def of(self, node: str) -> str:
        """Give the node that stands for a body."""
        root = node
        while (above := self._above.get(root, root)) != root:
            root = above
        self._above[node] = root
        return root

    def tie(self, a: str, b: str) -> None:
        """Tie two nodes together."""
        one, other = sorted((self.of(a), self.of(b)))
        self._above[one], self._above[other] = one, one

    def all_of(self, root: str) -> frozenset[str]:
        """Give every node of a body."""
        return frozenset(node for node in list(self._above) if self.of(node) == root) | {root}

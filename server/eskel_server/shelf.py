"""A shelf: what was worked out of a content, kept in this process until newer things need its place."""

from __future__ import annotations

import threading
from collections import OrderedDict
from typing import Generic, TypeVar

K = TypeVar("K")
V = TypeVar("V")


class Shelf(Generic[K, V]):
    """At most so many things by their names; the one not asked for longest gives way.

    >>> shelf = Shelf[str, int](most=2)
    >>> for n, name in enumerate("abc"): shelf.put(name, n)
    >>> shelf.get("a"), shelf.get("c")
    (None, 2)
    """

    def __init__(self, most: int) -> None:
        self._most = most
        self._lock = threading.Lock()
        self._kept: OrderedDict[K, V] = OrderedDict()

    def get(self, name: K) -> V | None:
        """Give what is kept under a name."""
        with self._lock:
            if name in self._kept:
                self._kept.move_to_end(name)
            return self._kept.get(name)

    def take(self, name: K) -> V | None:
        """Take what is kept under a name off the shelf: whoever asks meanwhile finds nothing there."""
        with self._lock:
            return self._kept.pop(name, None)

    def put(self, name: K, thing: V) -> None:
        """Keep something under a name."""
        with self._lock:
            self._kept[name] = thing
            self._kept.move_to_end(name)
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)

"""The room itself: a pool of processes, what is under way in it, and what came of it."""

from __future__ import annotations

import multiprocessing
import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import CancelledError
from concurrent.futures import TimeoutError as FutureTimeoutError
from dataclasses import dataclass, field
from typing import Any

from pebble import ProcessExpired, ProcessPool

from eskel_server import shrink

from .tasks import Outcome, begin, carry_out

MOST_KEPT = 120
WORKERS = 2
# What was not found in time is told again at once for so long; who gives it more time has it tried again.
LATE_KEPT_S = 1800.0
PHOTO = "photo"
# A task is late by its processor time; a process that waits or hangs is ended after so many times as long.
WALL_TIMES = 2.0
_PRELOADED = ["eskel_server.workroom.tasks"]
# A process of photographs is ended after so many: what it took goes back to the machine.
_PHOTOS_EACH = 50

Key = tuple[str, tuple[Any, ...]]
Carrying = Callable[[str, tuple[Any, ...], float], Outcome]


class TooLong(RuntimeError):
    """A task did not end within its limit, s."""

    def __init__(self, limit_s: float) -> None:
        self.limit_s = limit_s
        super().__init__(f"not done within {limit_s:g} s")


class Broken(RuntimeError):
    """A task failed in a way that nobody foresaw, or nobody waits for it any more."""


def forkserver() -> Any:
    """Give the way by which processes begin: forked from one that has the core loaded and holds nothing else."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(_PRELOADED)
    return context


@dataclass
class _Work:
    """A task under way, and everyone who waits for it."""

    future: Any
    limit_s: float
    kept: bool
    waiting: list[Callable[[Outcome], None]] = field(default_factory=list)


class Room:
    """A workroom in this process: its pools begin with their first task. Photographs have one of their own, one at a time."""

    def __init__(self, workers: int = WORKERS, carry_out: Carrying = carry_out) -> None:
        self._workers, self._carry_out = workers, carry_out
        # Entered anew by what is told at once: a task may have ended before anyone listens for its end.
        self._lock = threading.RLock()
        self._pool: Any = None
        self._photo_pool: Any = None
        self._under_way: dict[Key, _Work] = {}
        self._kept: OrderedDict[Key, tuple[Outcome, float]] = OrderedDict()

    def begin(
        self, kind: str, asked: tuple[Any, ...], limit_s: float, tell: Callable[[Outcome], None]
    ) -> None:
        """Have a task carried out, or join who waits for it already; `tell` is called once, with what came of it."""
        key = (kind, asked)
        with self._lock:
            kept = self._known(key, limit_s)
            if kept is None:
                work = self._under_way.get(key) or self._schedule(key, limit_s)
                work.waiting.append(tell)
                return
            self._kept.move_to_end(key)
        tell(kept)

    def leave(self, kind: str, asked: tuple[Any, ...], tell: Callable[[Outcome], None]) -> None:
        """Wait no more; a task that nobody waits for is ended."""
        with self._lock:
            work = self._under_way.get((kind, asked))
            if work is None or tell not in work.waiting:
                return
            work.waiting.remove(tell)
            if work.waiting:
                return
            del self._under_way[(kind, asked)]
        # Not under the lock: whoever is told of the end takes it.
        work.future.cancel()

    def close(self) -> None:
        """End every process."""
        with self._lock:
            pools = [pool for pool in (self._pool, self._photo_pool) if pool is not None]
            self._pool = self._photo_pool = None
        for pool in pools:
            pool.stop()
            pool.join()

    def _known(self, key: Key, limit_s: float) -> Outcome | None:
        """Give what is kept; what was late is so for who gives no more time, for half an hour: the machine may have been busy."""
        outcome, since = self._kept.get(key, (None, 0.0))
        if outcome is None:
            return None
        fresh = time.monotonic() - since < LATE_KEPT_S
        if outcome[0] == "late" and not (limit_s <= outcome[1] and fresh):
            return None
        return outcome

    def _schedule(self, key: Key, limit_s: float) -> _Work:
        if key[0] == PHOTO:
            future = self._photos().schedule(shrink.carry_out, args=key[1], timeout=limit_s)
        else:
            future = self._tasks().schedule(
                self._carry_out, args=(*key, limit_s), timeout=WALL_TIMES * limit_s
            )
        work = _Work(future, limit_s, kept=key[0] != PHOTO)
        self._under_way[key] = work
        work.future.add_done_callback(lambda future: self._ended(key, work, future))
        return work

    def _tasks(self) -> Any:
        if self._pool is None:
            self._pool = ProcessPool(self._workers, initializer=begin, context=forkserver())
        return self._pool

    def _photos(self) -> Any:
        if self._photo_pool is None:
            # Begun by itself and not forked: it has nothing of the core in it.
            context = multiprocessing.get_context("spawn")
            self._photo_pool = ProcessPool(
                1, max_tasks=_PHOTOS_EACH, initializer=shrink.begin, context=context
            )
        return self._photo_pool

    def _ended(self, key: Key, work: _Work, future: Any) -> None:
        outcome = _outcome(future, work.limit_s)
        with self._lock:
            if self._under_way.get(key) is work:
                del self._under_way[key]
            # A refusal follows from what was asked as surely as an answer does; a failure may pass.
            if work.kept and outcome[0] in ("done", "refused", "late"):
                self._kept[key] = outcome, time.monotonic()
                while len(self._kept) > MOST_KEPT:
                    self._kept.popitem(last=False)
            waiting, work.waiting = work.waiting, []
        for tell in waiting:
            tell(outcome)


def _outcome(future: Any, limit_s: float) -> Outcome:
    try:
        outcome: Outcome = future.result()
    except CancelledError:
        return "broken", "nobody waits for it any more"
    except FutureTimeoutError:
        return "late", limit_s
    except ProcessExpired as problem:
        return "broken", f"its process ended ({problem.exitcode})"
    except Exception as problem:
        return "broken", f"{type(problem).__name__}: {problem}"[:500]
    return outcome

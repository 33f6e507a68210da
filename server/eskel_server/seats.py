"""Seats: the threads in which requests are answered, a fixed number of them at work at a time.

Concepts: a *seat* is one thread. A request takes a free seat and gives it back. Three rules keep the seats from running out:

- A seat is free again when its thread has come back, and not when its request has ended: a request that is given up leaves its
  thread at work for a while.
- Who waits for work that is done elsewhere (in the workroom, or by a reader of a long answer) lends its seat out meanwhile.
- A thread that does not come back is a lost seat. A process with a lost seat ends, and whoever looks after it begins it anew.
"""

from __future__ import annotations

import asyncio
import logging
import os
import signal
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from asgiref.sync import SyncToAsync, ThreadSensitiveContext, sync_to_async
from django.core.handlers.asgi import ASGIHandler
from django.core.handlers.base import BaseHandler

from .edge import current_visit

AT_ONCE = 8
MOST_LENT = 32
LOST_AFTER_S = 30.0
_ENDS_WITHIN_S = 5.0
_ENDED_LOST = 70

_log = logging.getLogger(__name__)


def end_process() -> None:
    """End this process: with a word first, for good after 5 s, since a lost thread would hold it for ever."""
    last = threading.Timer(_ENDS_WITHIN_S, os._exit, (_ENDED_LOST,))
    last.daemon = True
    last.start()
    os.kill(os.getpid(), signal.SIGTERM)


class Seat:
    """One thread to work in; `over` is set when the request that it was taken for is wholly over."""

    def __init__(self, seats: Seats, context: ThreadSensitiveContext | None = None) -> None:
        self._seats = seats
        self.context = context or ThreadSensitiveContext()
        self.over = asyncio.Event()

    @contextmanager
    def lent(self) -> Iterator[None]:
        """Let another request be answered while this one waits for work that is done elsewhere. Called in the seat's thread."""
        self._seats.tell(self._seats.lend)
        try:
            yield
        finally:
            self._seats.tell(self._seats.take_back)

    def close(self) -> None:
        """End the thread."""
        executor = SyncToAsync.context_to_thread_executor.pop(self.context, None)
        if executor is not None:
            executor.shutdown(wait=False)


class Seats(ASGIHandler):
    """Django's application with a fixed number of threads to work in, where its own begins a new one for each request."""

    def __init__(
        self,
        seats: int = AT_ONCE,
        *,
        lost_after_s: float = LOST_AFTER_S,
        on_lost: Callable[[], None] = end_process,
    ) -> None:
        BaseHandler.__init__(self)
        # One hop into a thread and back for each request: mixed chains of middleware take one for each of their parts.
        self.load_middleware(is_async=False)
        self._seats, self._lost_after_s, self._on_lost = seats, lost_after_s, on_lost
        self._made = self._waiting = 0
        self._free: asyncio.Queue[Seat] = asyncio.Queue()
        self._watches: set[asyncio.Task[None]] = set()
        self._loop: asyncio.AbstractEventLoop | None = None

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        """Wait for a seat, and answer from it. This ends when the seat's thread has come back."""
        self._loop = asyncio.get_running_loop()
        self._settle()
        visit = current_visit()
        seat = await self._free.get()
        visit.seat = seat
        visit.on_over(lambda: self.tell(lambda: self._watch(seat)))
        taken = SyncToAsync.thread_sensitive_context.set(seat.context)
        try:
            await self.handle(scope, receive, send)
        finally:
            SyncToAsync.thread_sensitive_context.reset(taken)
            seat.over.set()
            self._free.put_nowait(Seat(self, seat.context))
            self._settle()

    async def run_get_response(self, request: Any) -> Any:
        """Answer in the thread of the seat."""
        return await sync_to_async(self.get_response, thread_sensitive=True)(request)

    def tell(self, what: Callable[[], Any]) -> None:
        """Have something done in the loop, from a seat's thread."""
        if self._loop is not None and not self._loop.is_closed():
            self._loop.call_soon_threadsafe(what)

    def lend(self) -> None:
        """Have one seat more: somebody waits for work that is done elsewhere."""
        self._waiting += 1
        self._settle()

    def take_back(self) -> None:
        """Have one seat less: somebody works again."""
        self._waiting -= 1
        self._settle()

    def _settle(self) -> None:
        """Have as many seats as are wanted: those at work, and one for each that is lent out."""
        wanted = self._seats + min(self._waiting, MOST_LENT)
        while self._made < wanted:
            self._made += 1
            self._free.put_nowait(Seat(self))
        while self._made > wanted and not self._free.empty():
            self._made -= 1
            self._free.get_nowait().close()

    def _watch(self, seat: Seat) -> None:
        """See that a seat comes back whose request has ended."""
        if not seat.over.is_set():
            watch = asyncio.create_task(self._await(seat))
            self._watches.add(watch)
            watch.add_done_callback(self._watches.discard)

    async def _await(self, seat: Seat) -> None:
        try:
            async with asyncio.timeout(self._lost_after_s):
                await seat.over.wait()
        except TimeoutError:
            _log.error("A request was given up, and its thread has not come back: this process ends.")
            self._on_lost()

"""The edge of the server: how many requests are worked on at once, how long one may take, and whether it is still wanted.

Concepts: a *visit* is one request on its way; whoever works for it can ask to be told when it is over before its answer
(`on_over`), because the browser has gone or the time is up, and end the work.
"""

from __future__ import annotations

import asyncio
import json
import threading
from collections.abc import Awaitable, Callable, MutableMapping
from contextvars import ContextVar
from typing import Any, TypeVar

from asgiref.sync import SyncToAsync, ThreadSensitiveContext, sync_to_async
from django.core.handlers.asgi import ASGIHandler
from django.core.handlers.base import BaseHandler

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Application = Callable[[Any, Any, Any], Awaitable[None]]

V = TypeVar("V")

AT_ONCE = 8
LONGEST_S = 45.0
LARGEST_BYTES = 6_000_000


class Visit:
    """One request on its way."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._over = False
        self._told: list[Callable[[], None]] = []
        self._known: dict[str, Any] = {}

    def once(self, name: str, find: Callable[[], V]) -> V:
        """Find something once for the whole visit."""
        if name not in self._known:
            self._known[name] = find()
        known: V = self._known[name]
        return known

    def changed(self, name: str) -> None:
        """Have it found anew: this visit has changed it."""
        self._known.pop(name, None)

    def on_over(self, tell: Callable[[], None]) -> None:
        """Have something told when nobody waits for the answer any more; at once where that is so already."""
        with self._lock:
            if not self._over:
                self._told.append(tell)
                return
        tell()

    def forget(self, tell: Callable[[], None]) -> None:
        """Tell it no more: its work is done."""
        with self._lock:
            if tell in self._told:
                self._told.remove(tell)

    def end(self) -> None:
        """Nobody waits any more: tell everyone who works for it."""
        with self._lock:
            self._over, told, self._told = True, self._told, []
        for tell in told:
            tell()


_VISIT: ContextVar[Visit | None] = ContextVar("visit", default=None)


def current_visit() -> Visit:
    """Give the visit that this code works for; outside of any, one that never ends."""
    return _VISIT.get() or Visit()


class Seats(ASGIHandler):
    """Django's application with a fixed number of threads to work in, where its own begins a new one for each request."""

    def __init__(self, seats: int) -> None:
        BaseHandler.__init__(self)
        # One hop into a thread and back for each request: mixed chains of middleware take one for each of their parts.
        self.load_middleware(is_async=False)
        self._free: asyncio.Queue[ThreadSensitiveContext] = asyncio.Queue()
        for _ in range(seats):
            self._free.put_nowait(ThreadSensitiveContext())

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        """Wait for a seat, and answer from it."""
        seat = await self._free.get()
        taken = SyncToAsync.thread_sensitive_context.set(seat)
        try:
            await self.handle(scope, receive, send)
        finally:
            SyncToAsync.thread_sensitive_context.reset(taken)
            self._free.put_nowait(seat)

    async def run_get_response(self, request: Any) -> Any:
        """Answer in the thread of the seat."""
        return await sync_to_async(self.get_response, thread_sensitive=True)(request)


class Edge:
    """The application with bounds: further requests wait their turn, a long one is answered with a fault."""

    def __init__(self, application: Application, *, longest_s: float = LONGEST_S) -> None:
        self._application = application
        self._longest_s = longest_s

    async def __call__(self, scope: Any, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http":
            raise ValueError(f"only requests over HTTP are answered, not {scope['type']}")
        visit = Visit()
        _VISIT.set(visit)
        answer = _Answer(send)
        try:
            async with asyncio.timeout(self._longest_s):
                await self._application(scope, _Body(receive, visit).receive, answer.send)
        except TooLarge:
            await answer.fault(
                413, "too-large", f"a request is at most {LARGEST_BYTES} bytes", "Send less at once."
            )
        except TimeoutError:
            rule = f"an answer is found within {self._longest_s:g} s"
            await answer.fault(
                503, "took-too-long", rule, "Try again; if it stays so, make the piece smaller."
            )
        finally:
            answer.close()
            visit.end()


class TooLarge(Exception):
    """A request that is larger than any that is meant."""


class _Body:
    """What comes in: counted, and listened to for the browser's going."""

    def __init__(self, receive: Receive, visit: Visit) -> None:
        self._receive = receive
        self._visit = visit
        self._bytes = 0

    async def receive(self) -> Message:
        message = await self._receive()
        self._bytes += len(message.get("body", b""))
        if self._bytes > LARGEST_BYTES:
            raise TooLarge
        if message["type"] == "http.disconnect":
            self._visit.end()
        return message


class _Answer:
    """What goes out: once it is closed, what still comes from behind is dropped."""

    def __init__(self, send: Send) -> None:
        self._send = send
        self._begun = self._closed = False

    async def send(self, message: Message) -> None:
        if not self._closed:
            self._begun = True
            await self._send(message)

    async def fault(self, status: int, code: str, rule: str, remedy: str) -> None:
        if self._begun or self._closed:
            return
        told = {"faults": [{"code": code, "path": "", "value": None, "rule": rule, "remedy": remedy}]}
        kind = [(b"content-type", b"application/json; charset=utf-8")]
        await self.send({"type": "http.response.start", "status": status, "headers": kind})
        await self.send({"type": "http.response.body", "body": json.dumps(told).encode()})

    def close(self) -> None:
        self._closed = True

"""The edge of the server: how large and how slow a request may be, how long its answer may take, and whether it is still wanted.

Concepts: a *visit* is one request on its way. Whoever works for it can ask to be called when it is over before its answer
(`on_over`), because the browser has gone or the time is up, and end the work. A request takes a seat (`seats`) when all of it is
there: one that is sent slowly holds nothing but its own memory, and of that there is a bound.
"""

from __future__ import annotations

import asyncio
import json
import threading
from collections.abc import Awaitable, Callable, Coroutine, Iterator, MutableMapping
from contextlib import AbstractContextManager, contextmanager, nullcontext
from contextvars import ContextVar
from typing import Any, Protocol, TypeVar

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Application = Callable[[Any, Any, Any], Coroutine[Any, Any, None]]

V = TypeVar("V")

LONGEST_S = 45.0
BODY_S = 20.0
LARGEST_BYTES = 6_000_000
MOST_HELD_BYTES = 96_000_000


class Lendable(Protocol):
    """What a visit is worked for in, which can be lent out meanwhile."""

    def lent(self) -> AbstractContextManager[None]:
        """Lend it out until the block ends."""


class Visit:
    """One request on its way, and the seat that it is worked for in."""

    def __init__(self) -> None:
        self.seat: Lendable | None = None
        self._lock = threading.Lock()
        self._over = False
        self._callbacks: list[Callable[[], None]] = []
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

    def on_over(self, call: Callable[[], None]) -> None:
        """Have something called when nobody waits for the answer any more; at once where that is so already."""
        with self._lock:
            if not self._over:
                self._callbacks.append(call)
                return
        call()

    def forget(self, call: Callable[[], None]) -> None:
        """Call it no more: its work is done."""
        with self._lock:
            if call in self._callbacks:
                self._callbacks.remove(call)

    def end(self) -> None:
        """Nobody waits any more: call everyone who works for it."""
        with self._lock:
            self._over, callbacks, self._callbacks = True, self._callbacks, []
        for call in callbacks:
            call()

    @contextmanager
    def elsewhere(self) -> Iterator[None]:
        """Lend the seat out while the work of this visit is done elsewhere."""
        with self.seat.lent() if self.seat is not None else nullcontext():
            yield


_VISIT: ContextVar[Visit | None] = ContextVar("visit", default=None)


def current_visit() -> Visit:
    """Give the visit that this code works for; outside of any, one that never ends."""
    return _VISIT.get() or Visit()


class Refusal(Exception):
    """A request that is not let through to the application."""

    def __init__(self, status: int, code: str, rule: str, remedy: str) -> None:
        self.status, self.code, self.rule, self.remedy = status, code, rule, remedy
        super().__init__(rule)


class Edge:
    """The application with bounds: a request is read whole first, and a long answer is ended with a fault.

    The time for an answer begins anew with each piece of it that is sent: a long file may be read for as long as it is read.
    """

    def __init__(
        self, application: Application, *, longest_s: float = LONGEST_S, body_s: float = BODY_S
    ) -> None:
        self._application = application
        self._longest_s, self._body_s = longest_s, body_s
        self._held_bytes = 0
        # Work that goes on for a while after its request was given up.
        self._at_work: set[asyncio.Task[Any]] = set()

    async def __call__(self, scope: Any, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http":
            raise ValueError(f"only requests over HTTP are answered, not {scope['type']}")
        visit = Visit()
        _VISIT.set(visit)
        answer = _Answer(send)
        body = bytearray()
        try:
            if await self._read(scope, receive, body):
                await self._answer(scope, Incoming(bytes(body), receive, visit), answer)
        except Refusal as problem:
            await answer.fault(problem)
        finally:
            self._held_bytes -= len(body)
            answer.close()
            visit.end()

    async def _read(self, scope: Any, receive: Receive, body: bytearray) -> bool:
        """Read the body; tell whether the sender is still there. Raises `Refusal`."""
        if _length_of(scope) > LARGEST_BYTES:
            raise _too_large()
        try:
            async with asyncio.timeout(self._body_s):
                while True:
                    message = await receive()
                    if message["type"] == "http.disconnect":
                        return False
                    self._take(message.get("body", b""), body)
                    if not message.get("more_body", False):
                        return True
        except TimeoutError:
            raise Refusal(
                408, "too-slow", f"a request is sent within {self._body_s:g} s", "Send it again."
            ) from None

    def _take(self, more: bytes, body: bytearray) -> None:
        body += more
        self._held_bytes += len(more)
        if len(body) > LARGEST_BYTES:
            raise _too_large()
        if self._held_bytes > MOST_HELD_BYTES:
            raise Refusal(503, "busy", "the server has room for the request", "Send it again in a moment.")

    async def _answer(self, scope: Any, incoming: Incoming, answer: _Answer) -> None:
        """Have the request answered. Who takes too long is told that the sender has gone, and ends by itself."""
        work = asyncio.create_task(self._application(scope, incoming.receive, answer.send))
        self._at_work.add(work)
        work.add_done_callback(self._at_work.discard)
        gone = asyncio.create_task(incoming.gone.wait())
        try:
            while not work.done() and not incoming.gone.is_set():
                left_s = answer.sent_at + self._longest_s - answer.now()
                if left_s <= 0:
                    rule = f"an answer is found within {self._longest_s:g} s"
                    remedy = "Try again; if it stays so, make the piece smaller."
                    raise Refusal(503, "took-too-long", rule, remedy)
                await asyncio.wait({work, gone}, timeout=left_s, return_when=asyncio.FIRST_COMPLETED)
        finally:
            gone.cancel()
            incoming.gone.set()
        if work.done():
            work.result()


def _length_of(scope: Any) -> int:
    told = next((value for name, value in scope["headers"] if name == b"content-length"), b"0")
    return int(told) if told.isdigit() else 0


def _too_large() -> Refusal:
    return Refusal(413, "too-large", f"a request is at most {LARGEST_BYTES} bytes", "Send less at once.")


class Incoming:
    """What came in, handed on to the application; after it the sender's going is listened for. `gone` is set by that, or to end it."""

    def __init__(self, body: bytes, receive: Receive, visit: Visit) -> None:
        self._body: bytes | None = body
        self._receive, self._visit = receive, visit
        self.gone = asyncio.Event()

    async def receive(self) -> Message:
        if self._body is not None:
            body, self._body = self._body, None
            return {"type": "http.request", "body": body, "more_body": False}
        told = asyncio.ensure_future(self._receive())
        ended = asyncio.create_task(self.gone.wait())
        try:
            await asyncio.wait({told, ended}, return_when=asyncio.FIRST_COMPLETED)
            message = told.result() if told.done() else {"type": "http.disconnect"}
        finally:
            told.cancel()
            ended.cancel()
        if message["type"] == "http.disconnect":
            self.gone.set()
            self._visit.end()
        return message


class _Answer:
    """What goes out: once it is closed, what still comes from behind is dropped."""

    def __init__(self, send: Send) -> None:
        self._send = send
        self._begun = self._closed = False
        self.sent_at = self.now()

    @staticmethod
    def now() -> float:
        return asyncio.get_running_loop().time()

    async def send(self, message: Message) -> None:
        if not self._closed:
            self._begun = True
            await self._send(message)
            self.sent_at = self.now()

    async def fault(self, problem: Refusal) -> None:
        if self._begun or self._closed:
            return
        fault = {
            "code": problem.code,
            "path": "",
            "value": None,
            "rule": problem.rule,
            "remedy": problem.remedy,
        }
        headers = [(b"content-type", b"application/json; charset=utf-8"), (b"cache-control", b"no-store")]
        if problem.status in (408, 413):
            # What is still on its way of such a request is not read.
            headers.append((b"connection", b"close"))
        await self.send({"type": "http.response.start", "status": problem.status, "headers": headers})
        await self.send({"type": "http.response.body", "body": json.dumps({"faults": [fault]}).encode()})

    def close(self) -> None:
        self._closed = True

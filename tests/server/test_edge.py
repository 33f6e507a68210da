"""The edge and the seats: slow senders, answers that take too long, threads that do not come back, seats lent out."""

from __future__ import annotations

import asyncio
import json
import threading
import time
from collections.abc import Awaitable, Callable
from typing import Any

import pytest
from django.http import HttpRequest, HttpResponse
from django.test import override_settings
from django.urls import path

from eskel_server import edge
from eskel_server.edge import Edge, current_visit
from eskel_server.seats import Seats

LIMIT_S = 20.0
GO_ON = threading.Event()
STARTED = threading.Semaphore(0)


def quick(request: HttpRequest) -> HttpResponse:
    return HttpResponse(request.body or b"here")


def held(request: HttpRequest) -> HttpResponse:
    """Hold the thread of a seat, as a computation does that nothing can end."""
    STARTED.release()
    GO_ON.wait(LIMIT_S)
    return HttpResponse(b"late")


def waits(request: HttpRequest) -> HttpResponse:
    """Wait for work that is done elsewhere."""
    with current_visit().elsewhere():
        STARTED.release()
        GO_ON.wait(LIMIT_S)
    return HttpResponse(b"worked out")


urlpatterns = [path("quick", quick), path("held", held), path("waits", waits)]


class Request:
    """One request, sent as a server hands it on: in pieces, and with its sender there until it goes."""

    def __init__(self, address: str, *pieces: bytes, whole: bool = True, head: int | None = None) -> None:
        self.address, self.whole = address, whole
        self.pieces = list(pieces) or [b""]
        self.headers = [] if head is None else [(b"content-length", str(head).encode())]
        self.gone = asyncio.Event()
        self.sent: list[Any] = []

    async def receive(self) -> Any:
        if self.pieces:
            body = self.pieces.pop(0)
            return {"type": "http.request", "body": body, "more_body": bool(self.pieces) or not self.whole}
        await self.gone.wait()
        return {"type": "http.disconnect"}

    async def send(self, message: Any) -> None:
        self.sent.append(message)

    async def to(self, application: Edge) -> tuple[int, bytes]:
        scope = {
            "type": "http",
            "method": "POST",
            "path": f"/{self.address}",
            "raw_path": b"",
            "query_string": b"",
            "headers": self.headers,
            "http_version": "1.1",
        }
        await application(scope, self.receive, self.send)
        body = b"".join(message.get("body", b"") for message in self.sent)
        return (self.sent[0]["status"] if self.sent else 0), body


@pytest.fixture
def seated() -> Callable[[Callable[[], Awaitable[None]]], None]:
    """Run a scenario in a loop of its own, on this module's views, with no middleware."""
    GO_ON.clear()

    def run(scenario: Callable[[], Awaitable[None]]) -> None:
        async def within() -> None:
            try:
                await scenario()
            finally:
                GO_ON.set()
                left = asyncio.all_tasks() - {asyncio.current_task()}
                if left:
                    await asyncio.wait(left, timeout=LIMIT_S)

        with override_settings(ROOT_URLCONF=__name__, MIDDLEWARE=[]):
            asyncio.run(within())

    return run


async def started(times: int = 1) -> None:
    for _ in range(times):
        assert await asyncio.to_thread(STARTED.acquire, timeout=LIMIT_S)


def code(body: bytes) -> str:
    said: str = json.loads(body)["faults"][0]["code"]
    return said


def test_a_seat_whose_thread_is_still_at_work_is_given_to_nobody(seated: Any) -> None:
    async def scenario() -> None:
        served = Edge(Seats(2), longest_s=0.3)
        assert code((await Request("held").to(served))[1]) == "took-too-long"
        await started()
        for _ in range(6):
            assert await Request("quick").to(served) == (200, b"here")

    seated(scenario)


def test_a_seat_is_free_again_when_its_thread_has_come_back(seated: Any) -> None:
    async def scenario() -> None:
        served = Edge(Seats(1), longest_s=0.3)
        await Request("held").to(served)
        GO_ON.set()
        async with asyncio.timeout(LIMIT_S):
            while (await Request("quick").to(served))[0] != 200:
                pass

    seated(scenario)


def test_who_has_gone_leaves_its_seat_to_its_thread(seated: Any) -> None:
    async def scenario() -> None:
        served = Edge(Seats(2), longest_s=LIMIT_S)
        gone = Request("held")
        answer = asyncio.create_task(gone.to(served))
        await started()
        gone.gone.set()
        await answer
        for _ in range(4):
            assert (await Request("quick").to(served))[0] == 200

    seated(scenario)


def test_a_process_that_has_lost_a_seat_is_begun_anew(seated: Any) -> None:
    async def scenario() -> None:
        lost = asyncio.Event()
        served = Edge(Seats(2, lost_after_s=0.1, on_lost=lost.set), longest_s=0.2)
        await Request("held").to(served)
        async with asyncio.timeout(LIMIT_S):
            await lost.wait()

    seated(scenario)


def test_a_seat_that_comes_back_in_time_is_not_lost(seated: Any) -> None:
    async def scenario() -> None:
        lost = asyncio.Event()
        served = Edge(Seats(1, lost_after_s=LIMIT_S, on_lost=lost.set), longest_s=0.2)
        await Request("held").to(served)
        GO_ON.set()
        async with asyncio.timeout(LIMIT_S):
            while (await Request("quick").to(served))[0] != 200:
                pass
        assert not lost.is_set()

    seated(scenario)


def test_who_waits_for_work_done_elsewhere_lends_the_seat_out(seated: Any) -> None:
    async def scenario() -> None:
        served = Edge(Seats(2), longest_s=LIMIT_S)
        waiting = [asyncio.create_task(Request("waits").to(served)) for _ in range(6)]
        await started(6)
        assert await Request("quick").to(served) == (200, b"here")
        GO_ON.set()
        assert [(await answer)[0] for answer in waiting] == [200] * 6

    seated(scenario)


def test_a_request_that_is_half_sent_holds_no_seat(seated: Any) -> None:
    async def scenario() -> None:
        served = Edge(Seats(2), longest_s=LIMIT_S, body_s=LIMIT_S)
        half = [Request("quick", b"{", whole=False) for _ in range(24)]
        answers = [asyncio.create_task(request.to(served)) for request in half]
        assert await Request("quick", b"a", b"b").to(served) == (200, b"ab")
        for request in half:
            request.gone.set()
        assert [(await answer)[0] for answer in answers] == [0] * 24

    seated(scenario)


@pytest.mark.parametrize(
    ("request_", "status", "says"),
    [
        (lambda: Request("quick", b"{", whole=False), 408, "too-slow"),
        (lambda: Request("quick", head=edge.LARGEST_BYTES + 1, whole=False), 413, "too-large"),
        (lambda: Request("quick", *[b"x" * 1_000_000] * 7), 413, "too-large"),
    ],
)
def test_what_is_too_slow_or_too_large_is_refused(
    seated: Any, request_: Callable[[], Request], status: int, says: str
) -> None:
    async def scenario() -> None:
        answer = await request_().to(Edge(Seats(1), body_s=0.2))
        assert (answer[0], code(answer[1])) == (status, says)

    seated(scenario)


def test_what_is_held_of_all_requests_has_a_bound(seated: Any, monkeypatch: Any) -> None:
    monkeypatch.setattr(edge, "MOST_HELD_BYTES", 25)

    async def scenario() -> None:
        served = Edge(Seats(1), body_s=LIMIT_S)
        first = Request("quick", b"x" * 20, whole=False)
        answer = asyncio.create_task(first.to(served))
        await asyncio.sleep(0)
        assert code((await Request("quick", b"x" * 20).to(served))[1]) == "busy"
        first.gone.set()
        await answer
        assert (await Request("quick", b"x" * 20).to(served))[0] == 200

    seated(scenario)


def test_the_time_of_an_answer_begins_anew_with_each_piece_of_it(seated: Any) -> None:
    async def streams(scope: Any, receive: Any, send: Any) -> None:
        await send({"type": "http.response.start", "status": 200, "headers": []})
        began = time.monotonic()
        while time.monotonic() - began < 0.6:
            await send({"type": "http.response.body", "body": b"x", "more_body": True})
            await asyncio.sleep(0.05)
        await send({"type": "http.response.body", "body": b"end"})

    async def scenario() -> None:
        status, body = await Request("quick").to(Edge(streams, longest_s=0.3))
        assert (status, body[-3:]) == (200, b"end")

    seated(scenario)

"""Long answers, sent piece by piece as they are found: what is held at a time is one piece.

The pieces are found in a thread of their own, and the seat of the request is lent out meanwhile. Of all requests of a process a few
are answered so at a time; further ones wait.
"""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextvars import copy_context
from functools import lru_cache
from typing import cast

from django.db import connections
from django.http import StreamingHttpResponse

from .edge import current_visit

MOST_AT_ONCE = 3


class Streamed(StreamingHttpResponse):
    """An answer that is a file of any length, under a name of its own."""

    def __init__(self, pieces: Iterable[bytes], kind: str, name: str) -> None:
        super().__init__(_with_connection(pieces), content_type=kind)
        self["Content-Disposition"] = f'attachment; filename="{name}"'

    async def __aiter__(self) -> AsyncIterator[bytes]:
        """Give each piece when it is found."""
        pieces = cast("Iterator[bytes]", self.streaming_content)
        context, loop = copy_context(), asyncio.get_running_loop()

        def find() -> bytes | None:
            return context.run(next, pieces, None)

        async with _turn(id(loop)):
            finder = ThreadPoolExecutor(1, thread_name_prefix="streamed")
            try:
                with current_visit().elsewhere():
                    while True:
                        piece = await loop.run_in_executor(finder, find)
                        if piece is None:
                            return
                        yield piece
            finally:
                # Where the reader has gone in the middle, what was begun is ended in its own thread.
                finder.submit(getattr(pieces, "close", lambda: None))
                finder.shutdown(wait=False)


@lru_cache(maxsize=4)
def _turn(_loop: int) -> asyncio.Semaphore:
    return asyncio.Semaphore(MOST_AT_ONCE)


def _with_connection(pieces: Iterable[bytes]) -> Iterator[bytes]:
    """Give the pieces, and then the thread's database connection back."""
    try:
        yield from pieces
    finally:
        for connection in connections.all(initialized_only=True):
            if not connection.in_atomic_block:
                connection.close()

"""The bounds of a connection: how large the head of a request may be, and how long it may take to come.

uvicorn itself bounds neither. A connection that sends nothing, or its head letter by letter, is closed here.
"""

from __future__ import annotations

import asyncio
from typing import Any

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

HEAD_BYTES = 32_768
HEAD_S = 10.0
# Connections of one process, those that only wait included: further ones are answered with 503.
MOST_CONNECTIONS = 400


class BoundedProtocol(HttpToolsProtocol):
    """HTTP/1.1 with a bound on the head of each request, and on the time until all of it is there."""

    def __init__(self, *given: Any, **more: Any) -> None:
        super().__init__(*given, **more)
        self._in_head = True
        self._head_bytes = 0
        self._clock: asyncio.TimerHandle | None = None

    def connection_made(self, transport: Any) -> None:
        """Begin the time of the first head."""
        super().connection_made(transport)
        self._begin_head()

    def connection_lost(self, exc: Exception | None) -> None:
        """Stop the clock."""
        self._stop_clock()
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Count what belongs to a head that is not whole yet."""
        super().data_received(data)
        if self._in_head:
            self._head_bytes += len(data)
            if self._head_bytes > HEAD_BYTES:
                self.transport.close()

    def on_message_begin(self) -> None:
        """Begin the time of a further head."""
        super().on_message_begin()
        if not self._in_head:
            self._begin_head()

    def on_headers_complete(self) -> None:
        """Stop the clock: the head is whole."""
        self._in_head = False
        self._stop_clock()
        super().on_headers_complete()

    def _begin_head(self) -> None:
        self._in_head, self._head_bytes = True, 0
        self._stop_clock()
        self._clock = self.loop.call_later(HEAD_S, self._too_slow)

    def _stop_clock(self) -> None:
        if self._clock is not None:
            self._clock.cancel()
            self._clock = None

    def _too_slow(self) -> None:
        if self._in_head and self.transport is not None:
            self.transport.close()

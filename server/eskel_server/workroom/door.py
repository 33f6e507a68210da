"""The way to the workroom: in this process, or through a socket to the one that all web processes share."""

from __future__ import annotations

import atexit
import os
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from functools import lru_cache
from multiprocessing.connection import Client, Connection, Listener
from typing import Any, Protocol

from django.db import connections

from eskel_core.faults import Refused
from eskel_server.edge import Visit, current_visit

from .room import Broken, Room, TooLong
from .tasks import Outcome

BEGINS_WITHIN_S = 10.0
LOOKED_AFTER_S = 0.05
# What is at hand in the workroom comes sooner than this: the seat is not lent out for it.
AT_HAND_S = 0.02


class Way(Protocol):
    """What the server asks of a workroom, wherever that stands."""

    def do(self, kind: str, *asked: Any, limit_s: float) -> Any:
        """Have a task carried out and wait for it; raise `Refused`, `TooLong` or `Broken`."""


@lru_cache(maxsize=1)
def room() -> Way:
    """Give the workroom: the shared one that the environment names, else one of this process."""
    path = os.environ.get("ESKEL_ROOM")
    if path:
        return Far(path, os.environ["ESKEL_ROOM_KEY"].encode())
    own = Room()
    atexit.register(own.close)
    return Near(own)


class Near:
    """The workroom of this process."""

    def __init__(self, room: Room) -> None:
        self.room = room

    def do(self, kind: str, *asked: Any, limit_s: float) -> Any:
        """Carry a task out."""
        done = threading.Event()
        told: list[Outcome] = []

        def tell(outcome: Outcome) -> None:
            told.append(outcome)
            done.set()

        def leave() -> None:
            self.room.leave(kind, asked, tell)
            tell(("broken", "nobody waits for it any more"))

        visit = current_visit()
        self.room.begin(kind, asked, limit_s, tell)
        visit.on_over(leave)
        if not done.is_set():
            with _waiting(visit):
                done.wait()
        visit.forget(leave)
        return _given(told[0])


class Far:
    """The shared workroom, through its socket: a connection for each question, so that hanging up ends the work."""

    def __init__(self, path: str, key: bytes, patience_s: float = BEGINS_WITHIN_S) -> None:
        self._path, self._key, self._patience_s = path, key, patience_s

    def do(self, kind: str, *asked: Any, limit_s: float) -> Any:
        """Carry a task out."""
        return _given(self._asked(kind, asked, limit_s))

    def _asked(self, kind: str, asked: tuple[Any, ...], limit_s: float) -> Outcome:
        visit = current_visit()
        try:
            with self._connected() as connection:
                line = socket.socket(fileno=os.dup(connection.fileno()))

                def hang_up() -> None:
                    # Closing would leave the waiting read where it is; this ends it.
                    with suppress(OSError):
                        line.shutdown(socket.SHUT_RDWR)

                with line:
                    visit.on_over(hang_up)
                    connection.send((kind, asked, limit_s))
                    if not connection.poll(AT_HAND_S):
                        with _waiting(visit):
                            connection.poll(None)
                    answer: Outcome = connection.recv()
                    visit.forget(hang_up)
                    return answer
        except (OSError, EOFError) as problem:
            return "broken", f"the workroom cannot be reached ({problem or 'it hung up'})"

    def _connected(self) -> Connection:
        """Connect to the workroom; one that is just beginning, the first time or again, is waited for."""
        late = time.monotonic() + self._patience_s
        while True:
            try:
                return Client(self._path, "AF_UNIX", authkey=self._key)
            except (FileNotFoundError, ConnectionRefusedError):
                if time.monotonic() >= late:
                    raise
                time.sleep(LOOKED_AFTER_S)


@contextmanager
def _waiting(visit: Visit) -> Iterator[None]:
    """Lend out the seat and give back the database connection of a visit while its work is done elsewhere."""
    for connection in connections.all(initialized_only=True):
        if not connection.in_atomic_block:
            connection.close()
    with visit.elsewhere():
        yield


def _given(outcome: Outcome) -> Any:
    kind, payload = outcome
    if kind == "done":
        return payload
    if kind == "refused":
        raise Refused(payload)
    if kind == "late":
        raise TooLong(payload)
    raise Broken(str(payload))


def serve(path: str, key: bytes, shared: Room | None = None) -> None:
    """Serve a workroom at a socket until the process ends."""
    shared = shared or Room()
    # Begun at once, so that the first who asks does not wait for the processes to load.
    shared.begin("warm", (), 60.0, lambda _: None)
    try:
        with Listener(path, "AF_UNIX", backlog=64, authkey=key) as listener:
            while True:
                with suppress(OSError, EOFError):
                    connection = listener.accept()
                    threading.Thread(target=_attend, args=(shared, connection), daemon=True).start()
    finally:
        shared.close()


def _attend(shared: Room, connection: Connection) -> None:
    with suppress(OSError, EOFError), connection:
        kind, texts, limit_s = connection.recv()

        def tell(outcome: Outcome) -> None:
            with suppress(OSError, ValueError):
                connection.send(outcome)

        shared.begin(kind, texts, limit_s, tell)
        try:
            # Nothing more is said from there: this ends when the other side has its answer, or has hung up.
            connection.recv()
        finally:
            shared.leave(kind, texts, tell)

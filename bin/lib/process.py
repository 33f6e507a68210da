"""One of the processes that `serve.py` looks after: `process.py workroom`, `worker`, or `web FILE_DESCRIPTOR`."""

from __future__ import annotations

import ctypes
import os
import signal
import socket
import sys
import warnings

_LOWER_BY = 10
_DIE_WITH_PARENT = 1  # PR_SET_PDEATHSIG of prctl(2)


def main() -> None:
    """Be that process until it is ended, and not longer than the one that began it."""
    ctypes.CDLL(None).prctl(_DIE_WITH_PARENT, signal.SIGTERM)
    if sys.argv[1] == "workroom":
        from eskel_server.workroom.door import serve

        signal.signal(signal.SIGTERM, lambda *_: sys.exit())
        serve(os.environ["ESKEL_ROOM"], os.environ["ESKEL_ROOM_KEY"].encode())
    elif sys.argv[1] == "worker":
        _work()
    else:
        _serve_web(socket.socket(fileno=int(sys.argv[2])))


def _work() -> None:
    """Work rehearsals out, after everything that somebody waits for."""
    import django

    os.nice(_LOWER_BY)
    django.setup()
    from eskel_server.rehearsals.worker import work

    work()


def _serve_web(listener: socket.socket) -> None:
    import uvicorn

    from eskel_server.wire import MOST_CONNECTIONS, BoundedProtocol

    # Static files are read from disk in one go; their being streamed by a thread is meant.
    warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume")
    config = uvicorn.Config(
        "eskel_server.asgi:application",
        log_level="warning",
        access_log=False,
        loop="uvloop",
        http=BoundedProtocol,
        limit_concurrency=MOST_CONNECTIONS,
        lifespan="off",
        timeout_graceful_shutdown=2,
    )
    uvicorn.Server(config).run(sockets=[listener])


if __name__ == "__main__":
    main()

"""Start everything that `bin/demo` serves, and stop all of it again: database, migrations, demo, ASGI server."""

from __future__ import annotations

import argparse
import fcntl
import os
import secrets
import signal
import socket
import sys
import time
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from types import FrameType

from cluster import Address, Cluster, ClusterTrouble

ROOT = Path(__file__).resolve().parents[2]
RUN = Path(os.environ.get("ESKEL_RUN", ROOT / ".run"))


class Trouble(RuntimeError):
    """Eskel cannot start; the message is one sentence with what to do."""


def main() -> int:
    """Serve until Ctrl-C; give the exit code."""
    began = time.monotonic()
    asked = _arguments()
    signal.signal(signal.SIGTERM, _stop_on_term)
    RUN.mkdir(parents=True, exist_ok=True)
    try:
        with _only_one(), _port(asked.port) as listener:
            _serve(asked, listener, began)
    except (Trouble, ClusterTrouble) as trouble:
        print(f"eskel: {trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    print("eskel: stopped.", file=sys.stderr)
    return 0


def _arguments() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="bin/demo", description="Serve Eskel with the demo workshop.")
    parser.add_argument("--port", type=int, default=8765, help="the port to serve on (default 8765)")
    parser.add_argument(
        "--reset-demo", action="store_true", help="throw all data away and load the demo afresh"
    )
    asked = parser.parse_args()
    if not 1 <= asked.port <= 65535:
        parser.error(f"--port {asked.port}: a port is a number from 1 to 65535; choose another.")
    return asked


def _stop_on_term(_number: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


@contextmanager
def _only_one() -> Iterator[None]:
    """Hold the lock of this folder, so that two starts do not fight over one database."""
    with (RUN / "demo.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as busy:
            lock.seek(0)
            where = lock.read().strip() or "another terminal"
            raise Trouble(
                f"Eskel already runs from this folder ({where}); use that, or stop it with Ctrl-C."
            ) from busy
        yield


@contextmanager
def _port(port: int) -> Iterator[socket.socket]:
    """Hold the port that is served on, before anything slow is begun."""
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as listener:
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listener.bind(("127.0.0.1", port))
        except OSError as busy:
            raise Trouble(
                f"port {port} cannot be used ({busy.strerror}); choose another with --port."
            ) from busy
        yield listener


def _serve(asked: argparse.Namespace, listener: socket.socket, began: float) -> None:
    cluster = Cluster(RUN / "pg")
    try:
        address = cluster.start()
        _prepare(address, reset=asked.reset_demo)
        _run_server(asked.port, listener, began)
    finally:
        cluster.stop()


def _prepare(address: Address, *, reset: bool) -> None:
    """Point Django at the cluster, bring the database up to date, load the demo once."""
    os.environ.update(
        DJANGO_SETTINGS_MODULE="eskel_server.settings",
        ESKEL_DB_PORT=str(address.port),
        ESKEL_DB_PASSWORD=address.password,
        ESKEL_SECRET=_secret(),
    )
    sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server")]
    _make_database(address)
    import django
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    call_command("load_demo", reset=reset)
    from django.db import connections

    connections.close_all()


def _make_database(address: Address) -> None:
    import psycopg

    server = f"host=127.0.0.1 port={address.port} user=eskel password={address.password} dbname=postgres"
    with psycopg.connect(server, autocommit=True) as connection:
        known = connection.execute("SELECT 1 FROM pg_database WHERE datname = 'eskel'").fetchone()
        if known is None:
            connection.execute("CREATE DATABASE eskel")


def _secret() -> str:
    path = RUN / "secret"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(48))
    return path.read_text()


def _run_server(port: int, listener: socket.socket, began: float) -> None:
    import uvicorn

    # Static files are read from disk in one go; their being streamed by a thread is meant.
    warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume")

    where = f"http://127.0.0.1:{port}"
    (RUN / "demo.lock").write_text(where)
    config = uvicorn.Config(
        "eskel_server.asgi:application", log_level="warning", lifespan="off", timeout_graceful_shutdown=3
    )
    server = uvicorn.Server(config)
    listener.listen()  # whoever comes from now on waits for the first answer instead of being turned away
    print(
        f"\n  Eskel is ready at {where}   (started in {time.monotonic() - began:.1f} s; Ctrl-C stops it)\n",
        flush=True,
    )
    server.run(sockets=[listener])


if __name__ == "__main__":
    sys.exit(main())

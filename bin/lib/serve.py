"""Start everything that `bin/demo` serves, look after it, and stop all of it again: database, workroom, worker, web processes."""

from __future__ import annotations

import argparse
import errno
import fcntl
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from types import FrameType
from typing import IO

from cluster import Address, Cluster, ClusterTrouble

ROOT = Path(__file__).resolve().parents[2]
RUN = Path(os.environ.get("ESKEL_RUN", ROOT / ".run"))


WEB_PROCESSES = 2
LOOK_S = 1.0  # how often everything is looked after
PAGE_S = 3600.0  # how often the build that is served is marked as in use, so that no later build drops it
START_S = 60.0
STOP_S = 5.0
LEFT_S = 15.0  # how long the web processes of a start that was killed may take to let go of their port


class Trouble(RuntimeError):
    """Eskel cannot start; the message is one sentence with what to do."""


def main() -> int:
    """Serve until Ctrl-C; give the exit code."""
    began = time.monotonic()
    asked = _arguments()
    signal.signal(signal.SIGTERM, _stop_on_term)
    signal.signal(signal.SIGINT, _stop_on_term)  # also where it was begun in the background, which ignores it
    RUN.mkdir(parents=True, exist_ok=True)
    try:
        with (
            _only_one() as last,
            _port(asked.port, LEFT_S if last == _address(asked.port) else 0.0) as listener,
        ):
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
    parser.add_argument(
        "--workers",
        type=int,
        default=1,
        help="how many work rehearsals out here (default 1; see docs/workers.md)",
    )
    asked = parser.parse_args()
    if not 0 <= asked.workers <= 64:
        parser.error(f"--workers {asked.workers}: a number from 0 to 64; choose another.")
    if not 1 <= asked.port <= 65535:
        parser.error(f"--port {asked.port}: a port is a number from 1 to 65535; choose another.")
    return asked


def _stop_on_term(_number: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _address(port: int) -> str:
    return f"http://127.0.0.1:{port}"


@contextmanager
def _only_one() -> Iterator[str]:
    """Hold the lock of this folder, so that two starts do not fight over one database; give where the last one served."""
    with (RUN / "demo.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as busy:
            where = _last(lock) or "another terminal"
            raise Trouble(
                f"Eskel already runs from this folder ({where}); use that, or stop it with Ctrl-C."
            ) from busy
        yield _last(lock)


def _last(lock: IO[str]) -> str:
    lock.seek(0)
    return lock.read().strip()


@contextmanager
def _port(port: int, patience_s: float) -> Iterator[socket.socket]:
    """Hold the port that is served on, before anything slow is begun; wait so long for another to let go of it."""
    until = time.monotonic() + patience_s
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as listener:
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        told = False
        while True:
            try:
                listener.bind(("127.0.0.1", port))
                break
            except OSError as busy:
                if busy.errno != errno.EADDRINUSE or time.monotonic() >= until:
                    raise Trouble(
                        f"port {port} cannot be used ({busy.strerror}); choose another with --port."
                    ) from busy
            if not told:
                print(f"eskel: port {port} is still held by what served here last; waiting.", file=sys.stderr)
                told = True
            time.sleep(0.1)
        yield listener


def _serve(asked: argparse.Namespace, listener: socket.socket, began: float) -> None:
    cluster = Cluster(RUN / "pg")
    house = House(cluster)
    try:
        address = cluster.start()
        _prepare(address, reset=asked.reset_demo)
        listener.listen(
            256
        )  # whoever comes from now on waits for the first answer instead of being turned away
        house.open(listener, asked.workers)
        where = _address(asked.port)
        (RUN / "demo.lock").write_text(where)
        took = time.monotonic() - began
        print(f"\n  Eskel is ready at {where}   (started in {took:.1f} s; Ctrl-C stops it)\n", flush=True)
        house.keep()
    finally:
        # A second Ctrl-C must not break off the stopping.
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        house.close()
        cluster.stop()


class House:
    """Everything that runs beside this process: workroom, worker of rehearsals, web processes, database. What ends is begun anew."""

    def __init__(self, cluster: Cluster) -> None:
        self._cluster = cluster
        self._commands: dict[str, Callable[[], subprocess.Popen[bytes]]] = {}
        self._running: dict[str, subprocess.Popen[bytes]] = {}
        self._begun: dict[str, float] = {}
        self._page = Path(os.environ.get("ESKEL_WEB_DIST", ROOT / ".run" / "pages" / "current")).resolve()
        self._marked = 0.0

    def open(self, listener: socket.socket, workers: int) -> None:
        """Begin the workroom, the workers, and the web processes, which all take from the one port."""
        folder = tempfile.mkdtemp(prefix="eskel-room-")
        os.environ.update(ESKEL_ROOM=f"{folder}/room", ESKEL_ROOM_KEY=secrets.token_hex(16))
        # Both web processes serve the build that is there now, also where one is begun again after another build.
        os.environ["ESKEL_WEB_DIST"] = str(self._page)
        self._folder = Path(folder)
        self._commands["workroom"] = lambda: _begin("workroom")
        for n in range(workers):
            self._commands[f"worker {n + 1}"] = lambda: _begin("worker")
        for n in range(WEB_PROCESSES):
            self._commands[f"web {n + 1}"] = lambda: _begin("web", listener)
        for name in self._commands:
            self._start(name)
        _wait_until_it_answers(listener)

    def keep(self) -> None:
        """Look after everything until Ctrl-C."""
        while True:
            time.sleep(LOOK_S)
            if time.monotonic() - self._marked > PAGE_S and self._page.is_dir():
                self._marked = time.monotonic()
                os.utime(self._page)
            for name, process in self._running.items():
                if process.poll() is not None and time.monotonic() - self._begun[name] > LOOK_S:
                    print(
                        f"eskel: {name} had ended ({process.returncode}) and is begun again.", file=sys.stderr
                    )
                    self._start(name)
            if not self._cluster.alive():
                print("eskel: the database had ended and is started again.", file=sys.stderr)
                with suppress(ClusterTrouble):
                    self._cluster.start_again()

    def close(self) -> None:
        """End everything: with a word first, and for good where that is not heard."""
        for process in self._running.values():
            process.terminate()
        patience = time.monotonic() + STOP_S
        for process in self._running.values():
            try:
                process.wait(max(0.0, patience - time.monotonic()))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
        if hasattr(self, "_folder"):
            shutil.rmtree(self._folder, ignore_errors=True)

    def _start(self, name: str) -> None:
        if name == "workroom":
            (self._folder / "room").unlink(missing_ok=True)
        self._running[name] = self._commands[name]()
        self._begun[name] = time.monotonic()


def _begin(what: str, listener: socket.socket | None = None) -> subprocess.Popen[bytes]:
    """Begin one of our own processes, in a group of its own so that Ctrl-C reaches this one alone."""
    handed = [] if listener is None else [listener.fileno()]
    return subprocess.Popen(
        [sys.executable, str(ROOT / "bin" / "lib" / "process.py"), what, *map(str, handed)],
        env={**os.environ, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}"},
        pass_fds=handed,
        start_new_session=True,
    )


def _wait_until_it_answers(listener: socket.socket) -> None:
    port = listener.getsockname()[1]
    patience = time.monotonic() + START_S
    while time.monotonic() < patience:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/rail", timeout=START_S) as answer:
                answer.read()
                return
        except OSError:
            time.sleep(0.1)
    raise Trouble(f"the server did not answer within {START_S:g} s; what it said stands above.")


def _prepare(address: Address, *, reset: bool) -> None:
    """Point Django at the cluster, bring the database up to date, load the demo once."""
    os.environ.update(
        DJANGO_SETTINGS_MODULE="eskel_server.settings",
        ESKEL_DB_PORT=str(address.port),
        ESKEL_DB_USER=address.user,
        ESKEL_DB_PASSWORD=address.password,
        ESKEL_SECRET=_secret(),
    )
    sys.path[:0] = [str(ROOT / "core"), str(ROOT / "server")]
    _tell_workers(address)
    os.environ["ESKEL_STATEMENT_MS"] = "0"  # bringing a large database up to date may take its time
    import django
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    call_command("count_runs")
    call_command("load_demo", reset=reset)
    # Some ten seconds at the first start: what starts a fresh one again and again goes without.
    if os.environ.get("ESKEL_HISTORY") != "none":
        call_command("load_history")
    from django.db import connection

    connection.close()
    connection.close_pool()
    del os.environ["ESKEL_STATEMENT_MS"]


def _tell_workers(address: Address) -> None:
    """Write down how further workers reach the database, for their owner's eyes alone."""
    from eskel_server.settings import DATABASES

    told = {
        "DJANGO_SETTINGS_MODULE": "eskel_server.settings",
        "ESKEL_DB_HOST": "127.0.0.1",
        "ESKEL_DB_PORT": address.port,
        "ESKEL_DB_NAME": DATABASES["default"]["NAME"],
        "ESKEL_DB_USER": address.user,
        "ESKEL_DB_PASSWORD": address.password,
    }
    path = RUN / "worker.env"
    path.unlink(missing_ok=True)
    path.touch(mode=0o600)
    path.write_text("".join(f"{name}={value}\n" for name, value in told.items()))


def _secret() -> str:
    path = RUN / "secret"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(48))
    return path.read_text()


if __name__ == "__main__":
    sys.exit(main())

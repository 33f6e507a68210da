"""What `bin/demo` starts, and stops again: a real cluster and a real server in a folder of the test's own."""

from __future__ import annotations

import fcntl
import json
import os
import shutil
import signal
import socket
import stat
import subprocess
import sys
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from threading import Event
from typing import Any

import psycopg
import pytest

SERVE = Path(__file__).parents[2] / "bin" / "lib" / "serve.py"


@pytest.fixture(scope="module")
def made(new_home: Callable[[], Path]) -> Path:
    """A folder as a start leaves it behind: its cluster made, its demo loaded."""
    home = new_home()
    with serving(home, free_port(), "--workers", "0"):
        pass
    return home


@pytest.fixture
def kept(made: Path, home: Path) -> Path:
    """A copy of that folder, to be served from."""
    _copy(made, home)
    return home


def _copy(made: Path, home: Path) -> None:
    subprocess.run(["cp", "-a", str(made), str(home)], check=True, timeout=60)
    (home / "pg" / "socket").unlink(missing_ok=True)


@dataclass(frozen=True)
class Standing:
    """A server that stands while several tests look at it, and what they do to it is made good by itself."""

    home: Path
    port: int
    process: int


@pytest.fixture(scope="module")
def standing(made: Path, new_home: Callable[[], Path]) -> Iterator[Standing]:
    """Serve for all tests of this file that need a server and leave it standing."""
    home = new_home()
    _copy(made, home)
    port = free_port()
    with serving(home, port) as server:
        yield Standing(home, port, server.pid)


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def command(*arguments: str) -> list[str]:
    return [sys.executable, str(SERVE), *arguments]


def environment(home: Path) -> dict[str, str]:
    return {**os.environ, "ESKEL_RUN": str(home), "ESKEL_HISTORY": "none"}


def refused(home: Path, *arguments: str) -> tuple[int, str]:
    """Give the exit code and the words of a start that ends by itself."""
    done = subprocess.run(
        command(*arguments), env=environment(home), capture_output=True, text=True, timeout=60, check=False
    )
    return done.returncode, done.stderr


@contextmanager
def serving(home: Path, port: int, *arguments: str) -> Iterator[subprocess.Popen[str]]:
    """Serve until the block ends; the start is over when it has told its address."""
    started = command("--port", str(port), *arguments)
    with subprocess.Popen(started, env=environment(home), stdout=subprocess.PIPE, text=True) as server:
        try:
            assert server.stdout is not None
            assert any("ready at" in line for line in server.stdout), "it did not start"
            yield server
        finally:
            server.send_signal(signal.SIGINT)
            server.wait(timeout=60)


def pieces(port: int) -> list[dict[str, Any]]:
    with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/pieces") as answer:
        listed: list[dict[str, Any]] = json.load(answer)
    return listed


def begin(port: int, name: str) -> None:
    """Begin a piece as the page does: with the token that it was given."""
    with urllib.request.urlopen(f"http://127.0.0.1:{port}/") as page:
        token = page.headers["Set-Cookie"].partition("=")[2].partition(";")[0]
    headers = {"Content-Type": "application/json", "Cookie": f"eskel_token={token}", "X-CSRFToken": token}
    request = urllib.request.Request(
        f"http://127.0.0.1:{port}/api/pieces", json.dumps({"name": name}).encode(), headers
    )
    urllib.request.urlopen(request).close()


def family(process: int) -> dict[int, str]:
    """Give every process that one began, with its command."""
    found: dict[int, str] = {}
    for folder in Path("/proc").glob("[0-9]*"):
        with suppress(OSError):
            parent = int((folder / "stat").read_text().rpartition(")")[2].split()[1])
            found[int(folder.name)] = f"{parent} {(folder / 'cmdline').read_text().replace(chr(0), ' ')}"
    known = {process}
    for _ in range(5):
        known |= {pid for pid, told in found.items() if int(told.split()[0]) in known}
    return {pid: told.partition(" ")[2] for pid, told in found.items() if pid in known - {process}}


def postmaster(home: Path) -> int:
    """Give the number of the database's first process, which no start has as its child."""
    return int((home / "pg" / "data" / "postmaster.pid").read_text().splitlines()[0])


def until(holds: Callable[[], bool], what: str) -> None:
    """Wait until something holds that is brought about by other processes."""
    for _ in range(600):
        with suppress(OSError):
            if holds():
                return
        Event().wait(0.1)
    raise AssertionError(f"never within a minute: {what}")


def test_a_start_loads_the_demo_once_and_a_stop_leaves_nothing_running(home: Path) -> None:
    port = free_port()
    with serving(home, port) as server:
        assert len(pieces(port)) == 8
        begin(port, "Mine")
        code, told = refused(home, "--port", str(free_port()))
        assert (code, f"http://127.0.0.1:{port}" in told) == (1, True)
    assert server.returncode == 0
    assert not (home / "pg" / "data" / "postmaster.pid").exists()
    with serving(home, port):
        assert [piece["name"] for piece in pieces(port)].count("Mine") == 1
    with serving(home, port, "--reset-demo"):
        assert [piece["name"] for piece in pieces(port)].count("Mine") == 0


def test_a_stop_ends_the_database_also_where_its_own_user_cannot_reach_its_files(kept: Path) -> None:
    with serving(kept, free_port(), "--workers", "0"):
        database = postmaster(kept)
        kept.parent.chmod(0o700)
    until(lambda: not (Path("/proc") / str(database)).exists(), "the database is gone")


def test_a_start_that_was_killed_does_not_stand_in_the_way(kept: Path) -> None:
    port = free_port()
    with serving(kept, port, "--workers", "0") as server:
        begin(port, "Kept")
        server.kill()
        server.wait(timeout=60)
    with serving(kept, port, "--workers", "0"):
        assert "Kept" in [piece["name"] for piece in pieces(port)]


def test_a_start_waits_for_the_port_that_its_forerunner_is_letting_go(kept: Path) -> None:
    with socket.socket() as left:
        left.bind(("127.0.0.1", 0))
        left.listen()
        port = left.getsockname()[1]
        (kept / "demo.lock").write_text(f"http://127.0.0.1:{port}")
        started = subprocess.Popen(
            command("--port", str(port), "--workers", "0"),
            env=environment(kept),
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        assert started.stdout is not None
        assert started.stderr is not None
        with started:
            try:
                assert "waiting" in started.stderr.readline()
                left.close()
                assert any("ready at" in line for line in started.stdout), "it did not start"
            finally:
                started.send_signal(signal.SIGINT)
                started.wait(timeout=60)


def test_a_half_made_cluster_is_made_again(home: Path) -> None:
    (home / "pg" / "data").mkdir(parents=True)
    (home / "pg" / "data" / "PG_VERSION").write_text("15")
    port = free_port()
    with serving(home, port, "--workers", "0"):
        assert len(pieces(port)) == 8


def test_a_busy_port_gets_one_clear_sentence(home: Path) -> None:
    with socket.socket() as busy:
        busy.bind(("127.0.0.1", 0))
        busy.listen()
        port = busy.getsockname()[1]
        code, told = refused(home, "--port", str(port))
    sentence = f"eskel: port {port} cannot be used (Address already in use); choose another with --port."
    assert (code, told.splitlines()) == (1, [sentence])


def test_a_folder_in_use_is_told(home: Path) -> None:
    home.mkdir(parents=True)
    with (home / "demo.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        code, told = refused(home, "--port", str(free_port()))
    assert (code, "already runs from this folder" in told) == (1, True)


@pytest.mark.parametrize("port", ["0", "70000", "many"])
def test_a_port_that_is_none_is_refused(home: Path, port: str) -> None:
    assert refused(home, "--port", port)[0] == 2


def test_nothing_kept_can_be_read_by_another_user(standing: Standing) -> None:
    place = (
        Path((standing.home / "pg" / "place").read_text())
        if (standing.home / "pg" / "place").exists()
        else standing.home / "pg"
    )
    assert stat.S_IMODE(place.stat().st_mode) == 0o700
    for secret in (place / "eskel", place / "keeper", standing.home / "secret"):
        assert stat.S_IMODE(secret.stat().st_mode) == 0o600, secret
    postmaster = int((place / "data" / "postmaster.pid").read_text().splitlines()[0])
    status = (Path("/proc") / str(postmaster) / "status").read_text()
    held = {line.split()[0]: line.split()[1] for line in status.splitlines() if line.startswith("Cap")}
    if os.geteuid() == 0:
        assert {int(mask, 16) for mask in held.values()} == {0}


def test_the_role_that_serves_can_do_nothing_outside_its_database(standing: Standing) -> None:
    place = (
        Path((standing.home / "pg" / "place").read_text())
        if (standing.home / "pg" / "place").exists()
        else standing.home / "pg"
    )
    port = (place / "data" / "postmaster.pid").read_text().splitlines()[3]
    where = f"host=127.0.0.1 port={port} user=eskel dbname=eskel password={(place / 'eskel').read_text()}"
    with psycopg.connect(where, autocommit=True) as connection:
        for forbidden in (
            "COPY (SELECT 1) TO PROGRAM 'id'",
            "SELECT pg_read_file('/etc/hostname')",
            "CREATE ROLE other SUPERUSER",
            "CREATE DATABASE other",
        ):
            with pytest.raises(psycopg.errors.InsufficientPrivilege):
                connection.execute(forbidden)


def test_below_a_closed_folder_the_database_of_root_lies_elsewhere(home: Path) -> None:
    closed = home.parent / "closed"
    closed.mkdir(mode=0o700)
    port = free_port()
    with serving(closed / "run", port, "--workers", "0"):
        assert len(pieces(port)) == 8
    named = closed / "run" / "pg" / "place"
    assert named.exists() == (os.geteuid() == 0), "whoever serves as themselves reaches their own folder"
    if named.exists():
        place = Path(named.read_text())
        assert place.parent == Path("/var/lib/eskel")
        shutil.rmtree(place)


def test_a_database_that_is_killed_is_started_again_and_a_fault_is_told_meanwhile(standing: Standing) -> None:
    port = standing.port
    begin(port, "Kept")
    os.kill(postmaster(standing.home), signal.SIGKILL)
    until(lambda: "Kept" in [piece["name"] for piece in pieces(port)], "the database answers again")
    begin(port, "After")


@pytest.mark.parametrize("what", ["workroom", "worker", "web"])
def test_a_process_that_is_killed_is_begun_again(what: str, standing: Standing) -> None:
    # One that ended with the database, in the test before, is being begun again.
    until(lambda: bool(_processes(standing.process, what)), f"a {what} process")
    first = _processes(standing.process, what)[0]
    os.kill(first, signal.SIGKILL)
    until(lambda: _replaced(standing.process, what, first), f"another {what} process")
    until(lambda: _answers(standing.port), "lines are planned again")


def _processes(server: int, what: str) -> list[int]:
    return [pid for pid, told in family(server).items() if f"process.py {what}" in told]


def _replaced(server: int, what: str, first: int) -> bool:
    return any(f"process.py {what}" in told and pid > first for pid, told in family(server).items())


def _answers(port: int) -> bool:
    with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/pieces/1/line") as answer:
        return bool(json.load(answer)["status"] == "best")


def test_a_busy_server_stops_within_seconds_and_leaves_nothing(kept: Path) -> None:
    port = free_port()
    with serving(kept, port) as server:
        begun = [*family(server.pid), postmaster(kept)]
        busy = [socket.create_connection(("127.0.0.1", port)) for _ in range(20)]
        for line in busy:
            line.sendall(b"GET /api/pieces/5?whole=true HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
        server.send_signal(signal.SIGINT)
        server.wait(timeout=30)
        for line in busy:
            line.close()
    until(lambda: not any((Path("/proc") / str(pid)).exists() for pid in begun), "every process is gone")

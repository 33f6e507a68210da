"""What `bin/demo` starts, and stops again: a real cluster and a real server in a folder of the test's own."""

from __future__ import annotations

import fcntl
import json
import os
import signal
import socket
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest

SERVE = Path(__file__).parents[2] / "bin" / "lib" / "serve.py"


@pytest.fixture
def home(tmp_path: Path) -> Path:
    """A folder for everything that a start keeps; the database's own user has to reach it."""
    for folder in (tmp_path, *tmp_path.parents[:3]):
        if folder.owner() == Path.home().owner() and folder != Path("/tmp"):
            folder.chmod(0o755)
    return tmp_path / "run"


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def command(*arguments: str) -> list[str]:
    return [sys.executable, str(SERVE), *arguments]


def environment(home: Path) -> dict[str, str]:
    return {**os.environ, "ESKEL_RUN": str(home)}


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
    body = json.dumps({"name": name}).encode()
    request = urllib.request.Request(
        f"http://127.0.0.1:{port}/api/pieces", body, {"Content-Type": "application/json"}
    )
    urllib.request.urlopen(request).close()


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


def test_a_start_that_was_killed_does_not_stand_in_the_way(home: Path) -> None:
    port = free_port()
    with serving(home, port) as server:
        begin(port, "Kept")
        server.kill()
        server.wait(timeout=60)
    with serving(home, port):
        assert "Kept" in [piece["name"] for piece in pieces(port)]


def test_a_half_made_cluster_is_made_again(home: Path) -> None:
    (home / "pg" / "data").mkdir(parents=True)
    (home / "pg" / "data" / "PG_VERSION").write_text("15")
    port = free_port()
    with serving(home, port):
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

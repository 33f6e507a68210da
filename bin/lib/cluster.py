"""The project's own PostgreSQL cluster on loopback: made once, started, stopped. Standard library only.

A cluster lives in a folder of its own. Its socket lies there too and only its owner can reach it; over TCP it
listens on 127.0.0.1 with a password made at its birth. As root the server runs as the user `postgres`, since
PostgreSQL refuses to run as root; as anyone else it runs as that user.
"""

from __future__ import annotations

import json
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import tempfile
from dataclasses import dataclass
from pathlib import Path


class ClusterTrouble(RuntimeError):
    """The cluster cannot be had; the message is one sentence with what to do."""


@dataclass(frozen=True)
class Address:
    """How to reach a running cluster."""

    port: int
    password: str


class Cluster:
    """A cluster in a folder; `lasting=False` trades safety at a power cut for speed (tests only)."""

    def __init__(self, home: Path, *, lasting: bool = True) -> None:
        self.home = home.resolve()
        self.data = self.home / "data"
        self.lasting = lasting
        self.bin = _programs()

    def start(self) -> Address:
        """Start the cluster, making it first if it is not there or was only half made."""
        if not (self.home / "ready").exists():
            self._make()
        if self._running():
            self._control("stop", "-m", "fast")
        port = _free_port()
        options = (
            f"-p {port} -c listen_addresses=127.0.0.1 -c unix_socket_directories={self._socket_folder()}"
        )
        if not self.lasting:
            options += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
        log = self.home / "postgres.log"
        self._own(log)
        done = self._control("start", "-w", "-t", "60", "-l", str(log), "-o", options)
        if done.returncode:
            raise ClusterTrouble(f"the database did not start; the end of {log} says why:\n{_tail(log)}")
        return Address(port, (self.home / "password").read_text().strip())

    def stop(self) -> None:
        """Stop the cluster if it runs."""
        if self._running():
            self._control("stop", "-w", "-m", "fast")
        shutil.rmtree(self._socket_folder(), ignore_errors=True)

    def remove(self) -> None:
        """Stop the cluster and take its folder away."""
        self.stop()
        shutil.rmtree(self.home, ignore_errors=True)

    def _make(self) -> None:
        shutil.rmtree(self.home, ignore_errors=True)
        self.home.mkdir(parents=True)
        free = shutil.disk_usage(self.home).free // 2**20
        if free < 300:
            raise ClusterTrouble(f"the disk has only {free} MB left; free at least 300 MB and start again.")
        word = self.home / "password"
        word.write_text(secrets.token_hex(16))
        self._own(self.home, word)
        done = self._run(
            str(self.bin / "initdb"), "-D", str(self.data), "-U", "eskel", "-A", "scram-sha-256",
            f"--pwfile={word}", "-E", "UTF8", "--locale=C.UTF-8",
        )  # fmt: skip
        if done.returncode:
            raise ClusterTrouble(f"the database could not be made: {done.stderr.strip()[-300:]}")
        (self.home / "ready").write_text(json.dumps({"made": True}))

    def _running(self) -> bool:
        return (self.data / "PG_VERSION").exists() and self._control("status").returncode == 0

    def _control(self, what: str, *more: str) -> subprocess.CompletedProcess[str]:
        return self._run(str(self.bin / "pg_ctl"), what, "-D", str(self.data), *more)

    def _run(self, *command: str) -> subprocess.CompletedProcess[str]:
        """Run a server program as a user who may; files instead of pipes, since the server would hold a pipe open."""
        with tempfile.TemporaryFile("w+") as out, tempfile.TemporaryFile("w+") as err:
            done = subprocess.run(
                [*_as_server_user(), *command], stdout=out, stderr=err, cwd="/", check=False
            )
            out.seek(0)
            err.seek(0)
            return subprocess.CompletedProcess(command, done.returncode, out.read(), err.read())

    def _socket_folder(self) -> Path:
        """Give a short folder for the socket: socket paths are limited to 107 bytes."""
        known = self.home / "socket"
        if not known.exists():
            folder = tempfile.mkdtemp(prefix="eskel-pg-")
            known.write_text(folder)
            self._own(Path(folder))
        folder_path = Path(known.read_text())
        if not folder_path.is_dir():
            folder_path.mkdir(mode=0o700)
            self._own(folder_path)
        return folder_path

    def _own(self, *paths: Path) -> None:
        if os.geteuid() != 0:
            return
        who = pwd.getpwnam("postgres")
        for path in paths:
            if not path.exists():
                path.touch()
            os.chown(path, who.pw_uid, who.pw_gid)


def _programs() -> Path:
    """Find the newest installed server programs."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/pg_ctl"), key=lambda path: int(path.parts[-3]))
    if not found:
        raise ClusterTrouble(
            "PostgreSQL is not installed; install Debian's package postgresql and start again."
        )
    return found[-1].parent


def _as_server_user() -> list[str]:
    """Give the words before a command that must not run as root; it may still pass through root's folders."""
    if os.geteuid() != 0:
        return []
    caps = "+dac_read_search"
    return [
        "setpriv",
        "--reuid=postgres",
        "--regid=postgres",
        "--init-groups",
        f"--inh-caps={caps}",
        f"--ambient-caps={caps}",
        "--",
    ]


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _tail(log: Path) -> str:
    return "\n".join(log.read_text(errors="replace").splitlines()[-5:]) if log.exists() else "(no log)"

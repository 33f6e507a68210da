"""The project's own PostgreSQL cluster on loopback: made once, started, stopped. Standard library only.

A cluster lives in a folder of its own that only its owner can enter. Its socket lies in another such folder; over TCP it
listens on 127.0.0.1 with passwords made at its birth. Two roles know one: the *keeper*, who owns the cluster and is used
here alone, and `eskel`, an ordinary role that owns its database and can do nothing outside of it. As root the server runs
as the user `postgres`, with no capability of root's, since PostgreSQL refuses to run as root; as anyone else it runs as
that user. Where `postgres` cannot reach the folder (below root's own home, say), the cluster lies under /var/lib/eskel.
"""

from __future__ import annotations

import json
import os
import pwd
import secrets
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path

ELSEWHERE = Path("/var/lib/eskel")
KEEPER, ROLE = "keeper", "eskel"


class ClusterTrouble(RuntimeError):
    """The cluster cannot be had; the message is one sentence with what to do."""


@dataclass(frozen=True)
class Address:
    """How to reach a running cluster, as the ordinary role."""

    port: int
    password: str
    user: str = ROLE


class Cluster:
    """A cluster in a folder; `lasting=False` trades safety at a power cut for speed, and lets its role make databases
    (tests only)."""

    def __init__(self, home: Path, *, lasting: bool = True) -> None:
        self.home = home.resolve()
        self.lasting = lasting
        self.bin = _programs()
        self._port = 0

    @property
    def place(self) -> Path:
        """The folder in which the cluster's files lie: the home itself, or one that the server's user can reach."""
        named = self.home / "place"
        return Path(named.read_text()) if named.exists() else self.home

    @property
    def data(self) -> Path:
        """The folder of the database's own files."""
        return self.place / "data"

    def start(self) -> Address:
        """Start the cluster, making it first if it is not there or was only half made."""
        if not (self.home / "ready").exists():
            self._make()
        if self.running():
            self._control("stop", "-m", "fast")
        self._port = self._port or _free_port()
        self._bring_up()
        self._settle_roles()
        return Address(self._port, (self.place / ROLE).read_text().strip())

    def start_again(self) -> None:
        """Start the cluster on the port that it had, where it has ended by itself."""
        if not self.running():
            self._bring_up()

    def stop(self) -> None:
        """Stop the cluster if it runs, also where the server's user no longer reaches the cluster's files.

        Raises ClusterTrouble when it still runs a minute later.
        """
        if self.running():
            self._control("stop", "-w", "-m", "fast")
        self._interrupt()
        shutil.rmtree(self._socket_folder(), ignore_errors=True)

    def remove(self) -> None:
        """Stop the cluster and take its folders away."""
        self.stop()
        shutil.rmtree(self.place, ignore_errors=True)
        shutil.rmtree(self.home, ignore_errors=True)

    @contextmanager
    def own_database(self, name: str) -> Iterator[str]:
        """Make a database that the ordinary role owns, until the block ends."""
        drop = f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)'
        self._sql(KEEPER, "postgres", f'{drop};\nCREATE DATABASE "{name}" OWNER {ROLE}')
        try:
            yield name
        finally:
            self._sql(KEEPER, "postgres", drop)

    def running(self) -> bool:
        """Tell whether the server runs."""
        return (self.data / "PG_VERSION").exists() and self._control("status").returncode == 0

    def alive(self) -> bool:
        """Tell whether the server's first process lives; cheaper than asking it."""
        return self._postmaster() is not None

    def _postmaster(self) -> int | None:
        """Give the number of the server's first process, or None; another process may have that number by now."""
        try:
            number = int((self.data / "postmaster.pid").read_text().split("\n", 1)[0])
        except (OSError, ValueError):
            return None
        return number if self._lives(number) else None

    def _lives(self, number: int) -> bool:
        try:
            command = Path(f"/proc/{number}/cmdline").read_bytes().split(b"\0")
        except OSError:
            return False
        return os.fsencode(self.data) in command

    def _interrupt(self) -> None:
        """Send the server's first process the signal of a fast stop, and wait until it has ended."""
        number = self._postmaster()
        if number is None:
            return
        with suppress(ProcessLookupError):
            os.kill(number, signal.SIGINT)
        for _ in range(600):
            if not self._lives(number):
                return
            time.sleep(0.1)
        raise ClusterTrouble(
            f"the database (process {number}) did not stop within a minute; end that process."
        )

    def _bring_up(self) -> None:
        options = f"-p {self._port} -c listen_addresses=127.0.0.1 -c unix_socket_directories={self._socket_folder()}"
        if not self.lasting:
            options += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
        log = self.place / "postgres.log"
        self._own(log)
        done = self._control("start", "-w", "-t", "60", "-l", str(log), "-o", options)
        if done.returncode:
            raise ClusterTrouble(f"the database did not start; the end of {log} says why:\n{_tail(log)}")

    def _make(self) -> None:
        """Make the cluster beside its place and put it there when it is whole: one that was broken off is no more."""
        for half_made in (self.place, self.home):
            shutil.rmtree(half_made, ignore_errors=True)
        self.home.mkdir(parents=True, mode=0o700)
        self._choose_place()
        free = shutil.disk_usage(self.place).free // 2**20
        if free < 300:
            raise ClusterTrouble(f"the disk has only {free} MB left; free at least 300 MB and start again.")
        for role in (KEEPER, ROLE):
            self._write_secret(self.place / role, secrets.token_hex(16))
        making = self.place / f"making-{secrets.token_hex(4)}"
        done = self._run(
            str(self.bin / "initdb"),
            "-D",
            str(making),
            "-U",
            KEEPER,
            "-A",
            "scram-sha-256",
            f"--pwfile={self.place / KEEPER}",
            "-E",
            "UTF8",
            "--locale=C.UTF-8",
        )
        if done.returncode:
            raise ClusterTrouble(f"the database could not be made: {done.stderr.strip()[-300:]}")
        making.rename(self.data)
        (self.home / "ready").write_text(json.dumps({"made": True}))

    def _choose_place(self) -> None:
        if os.geteuid() == 0:
            self._own(self.home)
            if self._run("test", "-w", str(self.home)).returncode:
                _sweep()
                ELSEWHERE.mkdir(mode=0o711, parents=True, exist_ok=True)
                place = ELSEWHERE / secrets.token_hex(6)
                place.mkdir(mode=0o700)
                (self.home / "place").write_text(str(place))
                (place / "belongs-to").write_text(str(self.home))
                self._own(place)

    def _settle_roles(self) -> None:
        """Give the ordinary role its database; a cluster from before, in which it was the owner of all, is brought up."""
        settled = self.place / "roles"
        if settled.exists():
            return
        if not (self.place / KEEPER).exists():
            self._hand_over()
        may = "CREATEDB" if not self.lasting else "NOCREATEDB"
        word = (self.place / ROLE).read_text().strip()
        self._sql(
            KEEPER, "postgres", f"CREATE ROLE {ROLE} LOGIN NOSUPERUSER NOCREATEROLE {may} PASSWORD '{word}'"
        )
        known = self._sql(KEEPER, "postgres", "SELECT datname FROM pg_database WHERE NOT datistemplate")
        if ROLE in known.split():
            self._sql(KEEPER, "postgres", f"ALTER DATABASE {ROLE} OWNER TO {ROLE}")
            self._sql(KEEPER, ROLE, _OWN_ALL)
        else:
            self._sql(KEEPER, "postgres", f"CREATE DATABASE {ROLE} OWNER {ROLE}")
        self._write_secret(settled, "settled")

    def _hand_over(self) -> None:
        """Make a keeper of the role that owned everything, in a cluster from before."""
        old = self.place / "password"
        self._write_secret(self.place / ROLE, old.read_text().strip())
        for name in (KEEPER, "mover"):
            self._write_secret(self.place / name, secrets.token_hex(16))
        word = (self.place / "mover").read_text()
        self._sql(ROLE, "postgres", f"CREATE ROLE mover SUPERUSER LOGIN PASSWORD '{word}'")
        self._sql("mover", "postgres", f"ALTER ROLE {ROLE} RENAME TO {KEEPER}")
        word = (self.place / KEEPER).read_text()
        self._sql("mover", "postgres", f"ALTER ROLE {KEEPER} PASSWORD '{word}'")
        self._sql(KEEPER, "postgres", "DROP ROLE mover")
        self._write_secret(self.place / ROLE, secrets.token_hex(16))
        for done in ("mover", "password"):
            (self.place / done).unlink()
        self.place.chmod(0o700)

    def _sql(self, role: str, database: str, command: str) -> str:
        """Have a command carried out; it goes by a pipe, since arguments can be read by anyone on the machine."""
        done = subprocess.run(
            [
                str(self.bin / "psql"),
                "-X",
                "-A",
                "-t",
                "-v",
                "ON_ERROR_STOP=1",
                "-h",
                "127.0.0.1",
                "-p",
                str(self._port),
                "-U",
                role,
                "-d",
                database,
                "-f",
                "-",
            ],
            env={**os.environ, "PGPASSWORD": (self.place / role).read_text().strip()},
            input=command,
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode:
            raise ClusterTrouble(f"the database could not be prepared: {done.stderr.strip()[-300:]}")
        return done.stdout

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

    def _write_secret(self, path: Path, word: str) -> None:
        path.touch(mode=0o600)
        path.chmod(0o600)
        path.write_text(word)
        self._own(path)

    def _own(self, *paths: Path) -> None:
        if os.geteuid() != 0:
            return
        who = pwd.getpwnam("postgres")
        for path in paths:
            if not path.exists():
                path.touch(mode=0o600)
            os.chown(path, who.pw_uid, who.pw_gid)


_OWN_ALL = f"""
DO $$ DECLARE one record; BEGIN
  ALTER SCHEMA public OWNER TO {ROLE};
  FOR one IN SELECT c.oid::regclass AS name, c.relkind AS kind FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
             WHERE n.nspname = 'public' AND c.relkind IN ('r', 'v', 'p') LOOP
    EXECUTE format('ALTER TABLE %s OWNER TO {ROLE}', one.name);
  END LOOP;
  FOR one IN SELECT c.oid::regclass AS name FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
             WHERE n.nspname = 'public' AND c.relkind = 'S' LOOP
    EXECUTE format('ALTER SEQUENCE %s OWNER TO {ROLE}', one.name);
  END LOOP;
END $$
"""


def _sweep() -> None:
    """Take away clusters whose home is gone or has another place by now."""
    for place in ELSEWHERE.glob("*") if ELSEWHERE.is_dir() else ():
        with suppress(OSError):
            named = Path((place / "belongs-to").read_text()) / "place"
            if not named.exists() or named.read_text() != str(place):
                with suppress(OSError, ValueError, IndexError):
                    postmaster = (place / "data" / "postmaster.pid").read_text().splitlines()[0]
                    os.kill(int(postmaster), signal.SIGINT)
                shutil.rmtree(place, ignore_errors=True)


def _programs() -> Path:
    """Find the newest installed server programs."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/pg_ctl"), key=lambda path: int(path.parts[-3]))
    if not found:
        raise ClusterTrouble(
            "PostgreSQL is not installed; install Debian's package postgresql and start again."
        )
    return found[-1].parent


def _as_server_user() -> list[str]:
    """Give the words before a command that must not run as root: another user, and no capability of root's."""
    if os.geteuid() != 0:
        return []
    return [
        "setpriv",
        "--reuid=postgres",
        "--regid=postgres",
        "--init-groups",
        "--inh-caps=-all",
        "--bounding-set=-all",
        "--",
    ]


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _tail(log: Path) -> str:
    return "\n".join(log.read_text(errors="replace").splitlines()[-5:]) if log.exists() else "(no log)"

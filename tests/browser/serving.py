"""The really served application in a real browser: uvicorn on the tests' cluster, headless Chromium."""

from __future__ import annotations

import os
import secrets
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import psycopg
from playwright.sync_api import Browser, expect, sync_playwright

ROOT = Path(__file__).parents[2]
# As long as a shared machine that is busy takes: what takes how long is measured in benchmarks.
PATIENCE_MS = 15_000
expect.set_options(timeout=PATIENCE_MS)
# Chromium without what draws windows: less work for each page.
CHROMIUM = "/usr/bin/chromium-headless-shell"
FLAGS = [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-domain-reliability",
    "--disable-dev-shm-usage",
    "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1",
]


# Each of several processes of tests has a server and a database of its own.
DATABASE = f"eskel_browser_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
TEMPLATE = "eskel_browser_template"
_MAKING = 7_201
SETTINGS = {
    "DJANGO_SETTINGS_MODULE": "eskel_server.settings",
    "ESKEL_DB_NAME": DATABASE,
    "ESKEL_SECRET": "for-tests-only",
    # The browser's own loop runs in this process while the demo is loaded beside it.
    "DJANGO_ALLOW_ASYNC_UNSAFE": "1",
}


def manage(*command: str) -> None:
    """Run a management command within this process, on the served application's database."""
    os.environ.update({**SETTINGS, "ESKEL_DB_NAME": os.environ.get("ESKEL_DB_NAME", DATABASE)})
    import django
    from django.core.management import call_command

    django.setup()
    call_command(*command)


def reset_demo() -> None:
    """Put the demo back as it was shipped."""
    manage("load_demo", "--reset")


@contextmanager
def served_application() -> Iterator[str]:
    """Serve the application on a fresh database of the tests' cluster; give its address."""
    _make_database()
    os.environ.update(SETTINGS)
    with socket.socket() as listener, tempfile.TemporaryDirectory(prefix="eskel-room-") as folder:
        listener.bind(("127.0.0.1", 0))
        listener.listen(64)
        os.environ.update(ESKEL_ROOM=f"{folder}/room", ESKEL_ROOM_KEY=secrets.token_hex(16))
        running = [_begin("workroom"), _begin("worker"), _begin("web", listener)]
        try:
            address = f"http://127.0.0.1:{listener.getsockname()[1]}"
            _wait_for(address, running)
            yield address
        finally:
            for process in reversed(running):
                process.terminate()
                process.wait(timeout=20)


def _make_database() -> None:
    """Make this process's database from a template, which has the demo in it: whoever comes first makes that."""
    where = f"host=127.0.0.1 port={os.environ['ESKEL_DB_PORT']} user=eskel dbname=postgres password={os.environ['ESKEL_DB_PASSWORD']}"
    of_this_run = f"{TEMPLATE}_{os.environ.get('PYTEST_XDIST_TESTRUNUID', secrets.token_hex(8))}"
    with psycopg.connect(where, autocommit=True) as connection:
        connection.execute("SELECT pg_advisory_lock(%s)", [_MAKING])
        names = [row[0] for row in connection.execute("SELECT datname FROM pg_database")]
        if of_this_run not in names:
            for old in names:
                if old.startswith(TEMPLATE):
                    connection.execute(f'DROP DATABASE "{old}" WITH (FORCE)')
            connection.execute(f'CREATE DATABASE "{of_this_run}"')
            # Made in a process of its own: the connections of this one are to its own database.
            made = "from tests.browser.serving import manage; manage('migrate', '--verbosity=0'); manage('load_demo')"
            environment = {**os.environ, **SETTINGS, "ESKEL_DB_NAME": of_this_run}
            subprocess.run([sys.executable, "-c", made], env=environment, check=True, cwd=ROOT, timeout=300)
        connection.execute(f'DROP DATABASE IF EXISTS "{DATABASE}" WITH (FORCE)')
        connection.execute(f'CREATE DATABASE "{DATABASE}" TEMPLATE "{of_this_run}"')
        connection.execute("SELECT pg_advisory_unlock(%s)", [_MAKING])


def _begin(what: str, listener: socket.socket | None = None) -> subprocess.Popen[bytes]:
    """Begin one of the processes that `bin/demo` serves with."""
    handed = [] if listener is None else [listener.fileno()]
    return subprocess.Popen(
        [sys.executable, str(ROOT / "bin" / "lib" / "process.py"), what, *map(str, handed)],
        env={**os.environ, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}"},
        pass_fds=handed,
    )


def _wait_for(address: str, running: list[subprocess.Popen[bytes]]) -> None:
    """Wait until the server answers; fail when it ended or took a minute."""
    for _ in range(600):
        assert all(process.poll() is None for process in running), "the server ended before it answered"
        try:
            urllib.request.urlopen(f"{address}/api/tables", timeout=5)
            return
        except OSError:
            time.sleep(0.1)
    raise AssertionError("the server did not answer within a minute")


@contextmanager
def chromium() -> Iterator[Browser]:
    """Give headless Chromium, as Debian ships it."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield browser
        browser.close()

"""The really served application in a real browser: uvicorn on the tests' cluster, headless Chromium."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest
from playwright.sync_api import Browser, Page, sync_playwright

ROOT = Path(__file__).parents[2]
FLAGS = [
    "--no-sandbox", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run",
    "--disable-domain-reliability", "--disable-dev-shm-usage", "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1",
]  # fmt: skip


def _environment() -> dict[str, str]:
    return {
        **os.environ,
        "DJANGO_SETTINGS_MODULE": "eskel_server.settings",
        "ESKEL_DB_NAME": "eskel_browser",
        "ESKEL_SECRET": "for-tests-only",
        "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}",
    }


def _manage(*command: str) -> None:
    subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), *command], env=_environment(), check=True
    )


@pytest.fixture(scope="session")
def served() -> Iterator[str]:
    """The address of the served application."""
    where = f"host=127.0.0.1 port={os.environ['ESKEL_DB_PORT']} user=eskel dbname=postgres password={os.environ['ESKEL_DB_PASSWORD']}"
    with psycopg.connect(where, autocommit=True) as connection:
        connection.execute("DROP DATABASE IF EXISTS eskel_browser WITH (FORCE)")
        connection.execute("CREATE DATABASE eskel_browser")
    _manage("migrate", "-v", "0")
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [
        "-m",
        "uvicorn",
        "eskel_server.asgi:application",
        "--port",
        str(port),
        "--log-level",
        "error",
        "--lifespan",
        "off",
    ]
    server = subprocess.Popen([sys.executable, *command], env=_environment(), cwd=ROOT)
    try:
        address = f"http://127.0.0.1:{port}"
        _wait_for(address, server)
        yield address
    finally:
        server.terminate()
        server.wait(timeout=20)


def _wait_for(address: str, server: subprocess.Popen[bytes]) -> None:
    """Wait until the server answers; fail when it ended or took a minute."""
    for _ in range(600):
        assert server.poll() is None, "the server ended before it answered"
        try:
            urllib.request.urlopen(f"{address}/api/tables", timeout=5)
            return
        except OSError:
            time.sleep(0.1)
    raise AssertionError("the server did not answer within a minute")


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    """Headless Chromium, as Debian ships it."""
    program = shutil.which("chromium") or "/usr/bin/chromium"
    with sync_playwright() as playwright:
        chromium = playwright.chromium.launch(executable_path=program, args=FLAGS)
        yield chromium
        chromium.close()


@pytest.fixture
def page(served: str, browser: Browser) -> Iterator[Page]:
    """A fresh page on the demo workshop as it is shipped; any error of the page fails the test."""
    _manage("load_demo", "--reset")
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, base_url=served, reduced_motion="reduce"
    )
    opened = context.new_page()
    opened.set_default_timeout(15_000)
    problems: list[str] = []
    opened.on("pageerror", lambda error: problems.append(str(error)))
    yield opened
    context.close()
    assert problems == []

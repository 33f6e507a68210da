"""A run is carried out while servers, database, tabs, browser and network die in the middle of it: every press is in the log once, in order.

`ESKEL_KILLS` says how often (12 unless it is told); with `--log-cli-level=info` it says how many presses that met.
"""

from __future__ import annotations

import json
import logging
import os
import random
import re
import signal
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import BrowserContext, Error, Page, Playwright, expect, sync_playwright

from tests.browser.serving import CHROMIUM, FLAGS
from tests.demo.test_serving import family, free_port, serving, until

KILLS = int(os.environ.get("ESKEL_KILLS", "12"))
WAYS = ("web", "database", "tab", "browser", "network")
# The steps of the brooch that are walked back and forth: three at the table, then a heat.
HEAT = 4


@dataclass
class Pressed:
    """What was pressed, and whether the screen had shown it before something died."""

    kind: str
    turn: str
    shown: bool


@dataclass
class Smith:
    """A smith at the torch who goes on pressing, whatever dies; `at` and `lit` say where the run stands."""

    playwright: Playwright
    folder: Path
    address: str
    dice: random.Random
    journal: list[Pressed] = field(default_factory=list)
    context: BrowserContext | None = None
    page: Page | None = None
    at: int = 1
    lit: bool = False

    def open(self, where: str) -> None:
        """Open the run, in a new browser where there is none."""
        if self.context is None:
            for left in self.folder.glob("Singleton*"):
                left.unlink()
            self.context = self.playwright.chromium.launch_persistent_context(
                str(self.folder),
                executable_path=CHROMIUM,
                args=FLAGS,
                viewport={"width": 1280, "height": 800},
                reduced_motion="reduce",
            )
        self.page = self.context.new_page()
        self.page.goto(f"{self.address}{where}")

    def look(self) -> None:
        """See where the run stands: what was pressed last, and was not shown, may have come through or not."""
        expect(self.main.get_by_text(re.compile(r"step \d+ of"))).to_be_visible()
        told = self.main.get_by_text(re.compile(r"step \d+ of")).inner_text()
        self.at = int(re.findall(r"\d+", told)[0])
        burning = self.main.get_by_role("button", name="Flame off")
        self.lit = self.at == HEAT and burning.count() > 0

    @property
    def main(self) -> Any:
        assert self.page is not None
        return self.page.get_by_role("main")

    def press(self) -> tuple[int, bool]:
        """Press a key that fits; give where the run must stand then, and whether the flame is lit."""
        assert self.page is not None
        turn = str(self.at)
        on = self.dice.random() < 0.6 or self.at == 1
        if self.at == HEAT and on and not self.lit:
            key, kind, at, lit = "Space", "lit", HEAT, True
        elif self.at == HEAT and self.lit:
            key, kind, at, lit = "b", "undo", HEAT, False
        else:
            key, kind, lit = "Space" if on else "b", "next" if on else "back", False
            at = self.at + (1 if on else -1)
        self.journal.append(Pressed(kind, "" if kind == "undo" else turn, shown=False))
        self.page.keyboard.press(key)
        return at, lit

    def see(self, at: int, lit: bool) -> None:
        """See what was pressed last done."""
        expect(self.main.get_by_text(f"step {at} of")).to_be_visible()
        if HEAT in (self.at, at):
            waited = self.main.get_by_role("button", name="The flame is lit")
            expect(waited).to_have_count(1 if at == HEAT and not lit else 0)
        self.at, self.lit, self.journal[-1].shown = at, lit, True


@contextmanager
def smith(home: Path, address: str) -> Iterator[Smith]:
    """Give a smith with a browser of their own, which is closed in the end."""
    with sync_playwright() as playwright:
        one = Smith(playwright, home.parent / "profile", address, random.Random(15))
        one.folder.mkdir()
        yield one
        if one.context is not None:
            one.context.close()


def kill(way: str, one: Smith, server: int, where: str) -> None:
    """Let something die in the middle of a press; what has to be opened anew is."""
    awaited = one.press()
    assert one.page is not None
    assert one.context is not None
    if way == "tab":
        one.page.close(run_before_unload=False)
    elif way == "browser":
        for pid, told in family(os.getpid()).items():
            if f"--user-data-dir={one.folder}" in told and "--type=" not in told:
                os.kill(pid, signal.SIGKILL)
        with suppress(Error):
            one.context.close()
        one.context = None
    elif way == "network":
        one.context.set_offline(True)
    elif way == "database":
        os.kill(postmaster(one), signal.SIGKILL)
    else:
        dying = [pid for pid, told in family(server).items() if re.search(r"process\.py web", told)]
        assert dying, "no server runs"
        for pid in dying:
            os.kill(pid, signal.SIGKILL)
    if way in ("tab", "browser"):
        # What the screen shows then tells whether the press had come through.
        one.open(where)
        one.look()
    else:
        one.see(*awaited)


def postmaster(one: Smith) -> int:
    """Give the process of the database."""
    return int((one.folder.parent / "run" / "pg" / "data" / "postmaster.pid").read_text().split("\n")[0])


def events(address: str, run: int) -> list[dict[str, Any]]:
    with urllib.request.urlopen(f"{address}/api/runs/{run}/events") as answer:
        told: list[dict[str, Any]] = json.load(answer)["events"]
    return told


def kept(told: list[dict[str, Any]]) -> list[tuple[str, str]]:
    """Give of each event in the log what was pressed, and where."""
    return [(event["kind"], event.get("turn", "")) for event in told]


def explains(journal: list[Pressed], log: list[tuple[str, str]]) -> bool:
    """Tell whether what the log holds is what was pressed, in its order: all that was shown, and of what was not some."""
    # How much of the log may be told by the presses so far.
    told = {0}
    for entry in journal:
        through = {n + 1 for n in told if n < len(log) and log[n] == (entry.kind, entry.turn)}
        told = through if entry.shown else told | through
    return len(log) in told


def test_every_press_is_in_the_log_once_and_in_order_whatever_dies(home: Path) -> None:
    port = free_port()
    address = f"http://127.0.0.1:{port}"
    with serving(home, port) as server, smith(home, address) as one:
        one.open("/work")
        assert one.page is not None
        one.page.get_by_role("link", name=re.compile("Reed brooch")).click()
        one.page.get_by_role("button", name="Start a run").click()
        one.look()
        where = "/" + one.page.url.split("/", 3)[3]
        run = int(where.rsplit("/", 1)[1])
        # The worker has taken the page over before anything dies.
        one.page.wait_for_function("navigator.serviceWorker.controller !== null")
        for n in range(KILLS):
            kill(WAYS[n % len(WAYS)], one, server.pid, where)
            for _ in range(one.dice.randint(2, 5)):
                one.see(*one.press())
            if WAYS[n % len(WAYS)] == "network":
                assert one.context is not None
                one.context.set_offline(False)
        until(lambda: explains(one.journal, kept(events(address, run))), "what was pressed is in the log")
        expect(one.main.get_by_text("Eskel does not answer")).to_have_count(0, timeout=30_000)
        told = events(address, run)
        assert explains(one.journal, kept(told))
        assert [event["seq"] for event in told] == list(range(1, len(told) + 1))
        assert len({event["device"] for event in told}) == 1
        assert len({event["id"] for event in told}) == len(told)
        times = [event["at_ms"] for event in told]
        assert times == sorted(times)
        shown = sum(entry.shown for entry in one.journal)
        told_of = f"{KILLS} kills, {len(one.journal)} presses, {shown} shown, {len(told)} in the log"
        logging.getLogger(__name__).info(told_of)


@pytest.mark.parametrize(
    ("log", "is_told"),
    [
        ([("next", "1"), ("next", "2")], True),
        ([("next", "1"), ("next", "2"), ("back", "3")], True),
        ([("next", "1")], False),
        ([("next", "2"), ("next", "1")], False),
        ([("next", "1"), ("next", "1"), ("next", "2")], False),
        ([("next", "1"), ("next", "2"), ("back", "3"), ("back", "3")], True),
        ([("next", "1"), ("next", "2"), ("back", "3"), ("back", "3"), ("back", "3")], False),
    ],
)
def test_a_lost_press_a_doubled_one_and_a_wrong_order_would_be_noticed(
    log: list[tuple[str, str]], is_told: bool
) -> None:
    journal = [Pressed("next", "1", True), Pressed("next", "2", True), Pressed("back", "3", False)]
    journal.append(journal[-1])
    assert explains(journal, log) == is_told

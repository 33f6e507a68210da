"""Fixtures of the browser tests: the served application, the browser, a fresh page for each test."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page

from tests.browser.serving import PATIENCE_MS, chromium, reset_demo, served_application


@pytest.fixture(scope="session")
def served() -> Iterator[str]:
    """The address of the served application."""
    with served_application() as address:
        yield address


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    """Headless Chromium."""
    with chromium() as opened:
        yield opened


@pytest.fixture
def page(served: str, browser: Browser) -> Iterator[Page]:
    """A fresh page on the demo workshop as it is shipped; any error of the page fails the test."""
    reset_demo()
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, base_url=served, reduced_motion="reduce"
    )
    opened = context.new_page()
    opened.set_default_timeout(PATIENCE_MS)
    problems: list[str] = []
    opened.on("pageerror", lambda error: problems.append(str(error)))
    yield opened
    context.close()
    assert problems == []

"""Every screen, in Day and in Dim, examined by axe: nothing that keeps anyone from it."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

AXE = (Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text(
    encoding="utf-8"
)
ASKED = "async () => (await axe.run({runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']})).violations"


def found(page: Page) -> list[Any]:
    page.evaluate(AXE)
    broken = page.evaluate(ASKED)
    return [(one["id"], [node["html"][:160] for node in one["nodes"]][:3]) for one in broken]


# (address, what is there when it is ready)
SCREENS = [
    ("/work", "Hollow lantern drop"),
    ("/begin", "Plain band"),
    ("/begin/bezel-ring", "none fewer"),
    ("/sizes/ring-blank", "Cut the blank"),
    ("/bench", "House rules"),
    ("/rules", "remelt flows"),
    ("/log", "No run yet"),
]


@pytest.mark.parametrize("face", ["Day", "Dim"])
def test_axe_finds_nothing(page: Page, face: str) -> None:
    page.goto("/work")
    page.get_by_label("Light").click()
    page.get_by_role("option", name=face).click()
    told = {}
    for address, ready in SCREENS:
        page.goto(address)
        expect(page.get_by_text(ready).first).to_be_visible()
        told[address] = found(page)
    page.goto("/work")
    page.get_by_role("link", name="Reed brooch").click()
    expect(page.get_by_role("heading", name="Parts", exact=True)).to_be_visible()
    told["a piece"] = found(page)
    page.get_by_role("button", name="Catch Sterling").click()
    expect(page.get_by_label("Catch in a line")).to_be_visible()
    told["a part"] = found(page)
    page.get_by_label("Name of the piece").blur()
    page.keyboard.press("j")
    page.keyboard.press("a")
    page.keyboard.press("s")
    expect(page.get_by_role("button", name="Join them")).to_be_visible()
    told["a proposal"] = found(page)
    page.keyboard.press("Escape")
    page.keyboard.press("Control+k")
    expect(page.get_by_placeholder("Find a piece")).to_be_visible()
    told["what finds anything"] = found(page)
    assert {where: what for where, what in told.items() if what} == {}

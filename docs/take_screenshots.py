"""Take the pictures of the main views from the demo data; `docs/take_screenshots.sh` runs it."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page
from tests.browser.hand import choose
from tests.browser.serving import chromium, manage, served_application
from tests.browser.test_a_run import every_join_flowed

# The step at which the finial is first looked at.
LOOKS = {6}
PICTURES = Path(__file__).resolve().parent / "screenshots"


def main() -> None:
    """Take every picture at 1280 × 800."""
    with served_application() as address, chromium() as browser:
        manage("load_demo", "--reset")
        manage("load_history")
        context = browser.new_context(
            viewport={"width": 1280, "height": 800}, base_url=address, reduced_motion="reduce"
        )
        page = context.new_page()
        _table(page)
        _torch(page)
        _after(page)
        context.close()


def _shoot(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")
    page.mouse.move(0, 0)
    page.screenshot(path=PICTURES / f"{name}.png")
    print(name)


def _open(page: Page, name: str) -> None:
    page.goto("/work")
    page.get_by_role("link", name=re.compile(name)).click()
    page.get_by_role("heading", name="Parts", exact=True).wait_for()


def _band(page: Page, key: str, name: str) -> None:
    page.keyboard.press(key)
    page.get_by_role("button", name=name).and_(page.locator("[aria-current]")).wait_for()


def _table(page: Page) -> None:
    """Planning, by day."""
    page.goto("/work")
    page.get_by_text("Hollow lantern drop").wait_for()
    page.get_by_text("being planned").first.wait_for(state="detached")
    _shoot(page, "work")
    _begin(page)
    _open(page, "Stone-set finial")
    page.get_by_role("button", name="Join 2, Bezel seat").click()
    _shoot(page, "parts-and-joins")
    _band(page, "2", "Heat ladder")
    _shoot(page, "ladder")
    _rehearsal(page)
    page.get_by_label("Name of the piece").blur()
    _band(page, "4", "Cut and solder list")
    _shoot(page, "cut-list")
    _open(page, "Wire-frame candle guard")
    _band(page, "2", "Heat ladder")
    handle = page.get_by_role("button", name=re.compile("^Base seam, heat 1"))
    handle.focus()
    page.keyboard.press("ArrowDown")
    page.get_by_role("status", name="By hand").get_by_text("Against the best").wait_for()
    page.get_by_role("region", name=re.compile("^What else")).wait_for(timeout=60_000)
    _shoot(page, "ladder-by-hand")
    page.get_by_role("button", name="Back to best").click()
    page.goto("/rules")
    page.get_by_text("remelt flows").wait_for()
    _shoot(page, "rules")
    _open(page, "Hollow lantern drop")
    page.get_by_role("button", name=re.compile("^1 Rim of the domes")).click()
    page.get_by_label("Comes in a later heat than").get_by_label("Hanging loop").click()
    page.get_by_text("No plan is possible.").wait_for()
    page.get_by_role("heading", name="Parts", exact=True).click()
    _band(page, "2", "Heat ladder")
    _shoot(page, "impossible")
    page.goto("/bench")
    page.get_by_role("heading", name="House rules").wait_for()
    _shoot(page, "bench")
    for name in ("ring-blank", "draw-down"):
        page.goto(f"/sizes/{name}")
        page.get_by_test_id("main-result").wait_for()
        _shoot(page, f"sizes-{name}")


def _begin(page: Page) -> None:
    """A piece to be: the gallery, a start, and a join by pointing."""
    page.goto("/begin")
    page.get_by_text("Plain band").wait_for()
    _shoot(page, "begin")
    page.goto("/begin/bezel-ring")
    page.get_by_text("none fewer").wait_for()
    _shoot(page, "start")


def _rehearsal(page: Page) -> None:
    """The finial's last heat, at a moment on its way."""
    page.get_by_label("Name of the piece").blur()
    _band(page, "3", "Rehearsal")
    band = page.get_by_role("region", name="Rehearsal")
    band.get_by_text("Heat 4").click()
    band.get_by_role("region", name="Habits").wait_for(timeout=120_000)
    slider = band.get_by_role("slider", name="Time")
    slider.focus()
    for _ in range(50):
        page.keyboard.press("ArrowLeft")
    slider.blur()
    _band(page, "3", "Rehearsal")
    _shoot(page, "rehearsal")


def _torch(page: Page) -> None:
    """A run of the finial, in Dim, to its end."""
    _open(page, "Stone-set finial")
    page.get_by_role("button", name="Start a run").click()
    shots = {9: "at-the-torch", 5: "in-the-pot"}
    main = page.get_by_role("main")
    total = int(re.findall(r"of (\d+)", main.get_by_text("step 1 of").inner_text())[0])
    for at in range(1, total + 1):
        main.get_by_text(f"step {at} of {total}").wait_for()
        if at in shots:
            _shoot(page, shots[at])
        if at == 5:
            _dim_at_the_table(page)
        if at in LOOKS:
            page.get_by_role("group", name=re.compile("pass\\?$")).wait_for()
            _shoot(page, "a-look")
        every_join_flowed(page)
        page.keyboard.press("Space")
    page.get_by_role("link", name="Open it in the log").wait_for()


def _dim_at_the_table(page: Page) -> None:
    """The ladder in Dim while the finial lies in the pot; then back to the run."""
    page.get_by_role("button", name="Leave it running").click()
    choose(page.get_by_label("Light"), "dim")
    page.get_by_role("link", name=re.compile("Toggle clasp")).click()
    page.get_by_role("heading", name="Parts", exact=True).click()
    _band(page, "2", "Heat ladder")
    _shoot(page, "ladder-dim")
    choose(page.get_by_label("Light"), "auto")
    page.get_by_label("Running now").get_by_role("link").click()


def _after(page: Page) -> None:
    """The log."""
    page.goto("/log")
    page.get_by_role("listitem").first.wait_for()
    _shoot(page, "log")
    # One of the history, whose heats were rehearsed and pressed sign by sign.
    page.get_by_role("searchbox").fill("brooch short")
    page.get_by_role("heading", name=re.compile("run")).wait_for()
    page.wait_for_load_state("networkidle")
    page.get_by_role("listitem").get_by_role("link", name=re.compile("Reed brooch")).first.click()
    page.get_by_role("link", name="the piece").wait_for()
    _shoot(page, "log-run")


if __name__ == "__main__":
    main()

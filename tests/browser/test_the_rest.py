"""What is left of a run planned anew from the piece as it was made, and what was made put on the shelf for other pieces."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.test_a_piece import heat, open_piece
from tests.browser.test_a_run import every_join_flowed, light, press_through, start


def to_heat(page: Page, number: int) -> None:
    """Go on, every join flowing, until the flame of a heat is to be lit."""
    told = page.get_by_role("main").get_by_text(re.compile(f"heat {number} of"))
    at = 1
    while not told.count():
        every_join_flowed(page)
        press_through(page, "Space", at)
        at += 1


def test_a_join_moved_and_a_solder_ran_out_so_the_rest_is_planned_anew_and_gone_on_with(page: Page) -> None:
    start(page, "Hollow lantern drop")
    to_heat(page, 2)
    light(page)
    page.keyboard.press("5")
    expect(page.get_by_text("Not sound yet.")).to_be_visible()
    page.keyboard.press("r")
    plan = page.get_by_role("region", name="The new plan")
    expect(plan.get_by_role("listitem").filter(has_text="Crown collar")).to_contain_text("extra easy")
    page.get_by_role("button", name="Extra easy", exact=True).click()
    expect(plan.get_by_role("listitem").filter(has_text="Crown collar")).to_contain_text(re.compile("easy$"))
    expect(plan.get_by_text("extra easy")).to_have_count(0)
    expect(page.get_by_role("button", name="Rim of the domes: it is there")).to_be_visible()
    plan.get_by_role("button", name="Go on by this plan").click()
    # What was hot cools first; then comes what is left, and no heat of what is made.
    expect(page.get_by_role("main").get_by_text("step 1 of")).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("^Let it cool"))).to_be_visible()
    to_heat(page, 1)
    expect(page.get_by_role("heading", name=re.compile("bring Crown collar to"))).to_be_visible()
    expect(page.get_by_role("main").get_by_text(re.compile("heat 1 of 2"))).to_be_visible()
    page.goto("/log")
    page.get_by_role("link", name=re.compile("Hollow lantern drop")).nth(1).click()
    expect(page.get_by_role("link", name=re.compile("went on as another run"))).to_be_visible()


def test_what_was_made_goes_on_the_shelf_and_into_another_piece_with_its_solder(page: Page) -> None:
    start(page, "Hollow lantern drop")
    to_heat(page, 1)
    every_join_flowed(page)
    page.get_by_role("button", name="Stop", exact=True).click()
    page.get_by_role("button", name="Stop the run").click()
    page.get_by_role("button", name="Put it on the shelf").click()
    page.get_by_label("Called").fill("Domed bead")
    page.get_by_label("How many").fill("2")
    page.get_by_role("button", name="Put it there").click()
    expect(page.get_by_role("button", name="2 on the shelf")).to_be_visible()
    open_piece(page, "Toggle clasp and links")
    page.get_by_role("button", name="Off the shelf").click()
    page.get_by_role("button", name="Take Domed bead").click()
    expect(page.get_by_role("button", name=re.compile("^Upper dome"))).to_contain_text("there already")
    expect(page.get_by_role("button", name=re.compile("^\\d+ Rim of the domes"))).to_contain_text(
        "made already"
    )
    # It takes no heat: on the ladder its line comes from the left edge.
    expect(heat(page, 1)).not_to_have_attribute("aria-label", re.compile("Rim of the domes"))
    page.goto("/bench")
    expect(page.get_by_role("region", name="Shelf").get_by_label("left")).to_have_value("1")

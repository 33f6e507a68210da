"""A smith at the torch: one key a step, outcomes join by join, a pot timer that survives a reload, the log."""

from __future__ import annotations

import json
import re

from playwright.sync_api import FilePayload, Page, expect

from tests.browser.test_a_piece import heat, open_piece

from .hand import choose


def seconds_left(page: Page) -> int:
    minutes, seconds = page.get_by_test_id("big-timer").inner_text().split(":")
    return int(minutes) * 60 + int(seconds)


def start(page: Page, name: str) -> None:
    open_piece(page, name)
    page.get_by_role("button", name="Start a run").click()
    expect(page.get_by_role("main").get_by_text("step 1 of")).to_be_visible()


def press_through(page: Page, key: str, at: int) -> None:
    """Press the key of the step at hand, and wait until the next stands there."""
    page.keyboard.press(key)
    expect(page.get_by_role("main").get_by_text(f"step {at + 1} of")).to_be_visible()


def light(page: Page) -> None:
    """Light the torch at a heat that was not rehearsed, and put it out: how it came out is asked from then on."""
    expect(page.get_by_role("button", name="The flame is lit")).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Flame off")).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("group", name=re.compile("^How did"))).to_be_visible()


def every_join_flowed(page: Page) -> None:
    """Light the torch and answer for each join of the heat at hand, if it is one; at a look all passes."""
    looks = page.get_by_role("group", name=re.compile("pass\\?$"))
    if looks.count():
        page.keyboard.press("a")
        expect(looks).to_have_count(0)
    if page.get_by_role("button", name="The flame is lit").count():
        light(page)
    asked = page.get_by_role("group", name=re.compile("^How did"))
    while asked.count():
        question = asked.get_attribute("aria-label") or ""
        page.keyboard.press("1")
        expect(page.get_by_role("group", name=question, exact=True)).to_have_count(0)
        # Of several alike it is asked of which; with all of them the next is asked, or nothing more.
        if page.get_by_role("group", name=re.compile("^Of which")).count():
            page.keyboard.press("a")
            expect(page.get_by_role("group", name=re.compile("^Of which"))).to_have_count(0)


def test_edit_plan_run_reload_in_mid_pickle_and_find_it_in_the_log(page: Page) -> None:
    open_piece(page, "Reed brooch")
    page.get_by_role("button", name=re.compile("^1 Stem overlay")).click()
    choose(page.get_by_label("Solder", exact=True), "medium")
    expect(heat(page, 1)).to_have_attribute("aria-label", re.compile("748 °C medium"))
    page.get_by_role("button", name="Start a run").click()
    expect(page.locator("html")).to_have_attribute("data-face", "dim")
    expect(page.get_by_role("main").get_by_text("step 1 of")).to_be_visible()
    for at in (1, 2, 3):
        press_through(page, "Space", at)
    light(page)
    expect(page.get_by_text("How did Stem overlay come out?")).to_be_visible()
    page.keyboard.press("2")
    tries = page.get_by_role("group", name="What can be tried")
    expect(tries.get_by_role("button", name="Leave it as it is")).to_be_visible()
    page.keyboard.press("n")
    page.get_by_label("Note").fill("left end starved")
    page.keyboard.press("Enter")
    tries.get_by_role("button", name="Leave it as it is").click()
    expect(page.get_by_role("main").get_by_text("step 5 of")).to_be_visible()
    press_through(page, "Space", 5)
    expect(page.get_by_text("In the pot", exact=True)).to_be_visible()
    before = seconds_left(page)
    page.reload()
    expect(page.get_by_text("In the pot", exact=True)).to_be_visible()
    after = seconds_left(page)
    assert 0 < after <= before
    page.get_by_role("button", name="Leave it running").click()
    expect(page.locator("html")).to_have_attribute("data-face", "day")
    expect(page.get_by_test_id("rail-timer")).to_have_text(re.compile(r"\d+:\d\d"))
    page.get_by_label("Running now").get_by_role("link").click()
    total = int(
        re.findall(r"step 6 of (\d+)", page.get_by_role("main").get_by_text("step 6 of").inner_text())[0]
    )
    for at in range(6, total):
        every_join_flowed(page)
        press_through(page, "Space", at)
    page.keyboard.press("Space")
    expect(page.get_by_text("Reed brooch is done.")).to_be_visible()
    page.get_by_role("link", name="Open it in the log").click()
    expect(page.get_by_text("short: a gap left")).to_be_visible()
    page.get_by_role("link", name="Log").first.click()
    page.get_by_role("searchbox").fill("starved")
    expect(page.get_by_role("listitem")).to_have_count(1)
    page.get_by_role("searchbox").fill("finial")
    expect(page.get_by_text("No run holds all of “finial”.")).to_be_visible()


def test_a_join_that_did_not_flow_is_done_again_and_the_log_shows_both_tries(page: Page) -> None:
    start(page, "Stone-set finial")
    asked = page.get_by_role("group", name=re.compile("^How did"))
    at = 3
    for n in range(1, at):
        press_through(page, "Space", n)
    light(page)
    page.keyboard.press("3")
    tries = page.get_by_role("group", name="What can be tried")
    expect(tries.get_by_role("button").first).to_have_text(re.compile("Into the pot first"))
    tries.get_by_role("button", name=re.compile("flux and a touch more solder")).click()
    for put_in in ("Let it cool in air", "scrape it bright", "Flux it anew"):
        expect(page.get_by_role("heading", level=1)).to_have_text(re.compile(put_in))
        page.keyboard.press("Space")
    expect(page.get_by_text("second try")).to_be_visible()
    light(page)
    page.keyboard.press("1")
    expect(asked).to_have_count(0)
    expect(tries).to_have_count(0)
    press_through(page, "Space", at)
    expect(page.get_by_text("second try")).to_have_count(0)
    page.get_by_role("button", name="Stop", exact=True).click()
    page.get_by_role("button", name="Stop the run").click()
    page.get_by_role("link", name="Open it in the log").click()
    expect(page.get_by_text("did not flow")).to_be_visible()
    expect(page.get_by_text("second try")).to_have_count(1)


def test_several_joins_are_asked_one_after_another_and_the_last_word_is_taken_back(page: Page) -> None:
    start(page, "Reed brooch")
    for at in range(1, 9):
        every_join_flowed(page)
        press_through(page, "Space", at)
    light(page)
    expect(page.get_by_text("How did Hinge foot come out?")).to_be_visible()
    page.keyboard.press("1")
    expect(page.get_by_role("group", name="Of which of Hinge foot: Flowed all along?")).to_be_visible()
    page.keyboard.press("a")
    expect(page.get_by_text("How did Catch foot come out?")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_text("How did Hinge foot come out?")).to_be_visible()
    page.keyboard.press("5")
    page.keyboard.press("a")
    expect(page.get_by_text("How did Catch foot come out?")).to_be_visible()
    page.get_by_role("button", name="Flooded").click()
    page.get_by_role("button", name="Leave it as it is").click()
    expect(page.get_by_role("main").get_by_text("step 10 of")).to_be_visible()
    page.get_by_role("button", name="b Back").click()
    expect(page.get_by_role("button", name="Leave it as it is")).to_be_visible()
    page.keyboard.press("Space")  # neither the Back that was touched last, nor on with what is not sound
    expect(page.get_by_role("main").get_by_text("step 9 of")).to_be_visible()


def test_a_run_is_stopped_only_after_asking(page: Page) -> None:
    start(page, "Stone-set finial")
    page.get_by_role("button", name="Stop").click()
    page.get_by_role("button", name="No, go on").click()
    expect(page.get_by_role("main").get_by_text("step 1 of")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    page.get_by_role("button", name="Stop the run").click()
    expect(page.get_by_text("was stopped")).to_be_visible()
    expect(page.get_by_label("Running now")).to_contain_text("Nothing is running")


def test_dim_can_be_pinned_and_stays(page: Page) -> None:
    page.goto("/work")
    choose(page.get_by_label("Light"), "dim")
    expect(page.locator("html")).to_have_attribute("data-face", "dim")
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-face", "dim")


STUDS = {
    "format": "eskel-piece/1",
    "name": "Four festival studs",
    "copies": 4,
    "parts": [
        {
            "id": "disc",
            "metal": "sterling-925",
            "form": {"kind": "sheet", "thickness_mm": 0.8, "outline": {"kind": "disc", "diameter_mm": 9}},
        },
        {
            "id": "post",
            "metal": "sterling-925",
            "form": {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 0.9}, "length_mm": 11},
        },
    ],
    "joins": [{"id": "foot", "name": "Post on disc", "between": ["post", "disc"], "kind": "tee"}],
}


def test_of_four_alike_two_are_short_and_only_those_are_done_again(page: Page) -> None:
    page.goto("/work")
    file = FilePayload(name="studs.json", mimeType="application/json", buffer=json.dumps(STUDS).encode())
    page.locator("input[type=file]").first.set_input_files(file)
    page.get_by_role("button", name="Start a run").click()
    expect(page.get_by_role("main").get_by_text("step 1 of")).to_be_visible()
    for n in (1, 2):
        press_through(page, "Space", n)
    light(page)
    page.keyboard.press("2")
    which = page.get_by_role("group", name=re.compile("^Of which of Post on disc"))
    expect(which.get_by_role("button", name=re.compile("^Copy"))).to_have_count(4)
    page.keyboard.press("4")
    which.get_by_role("button", name="Copy 2").click()
    page.keyboard.press("Enter")
    expect(page.get_by_text("How did Post on disc 1 and 3 come out?")).to_be_visible()
    page.keyboard.press("a")
    head = page.get_by_role("heading", level=1)
    expect(head).to_have_text("Post on disc 2 and 4: short, a gap left.")
    tries = page.get_by_role("group", name="What can be tried")
    expect(tries.get_by_role("button").first).to_be_visible()
    run = page.url.rsplit("/", 1)[1]
    events = page.request.get(f"/api/runs/{run}/events").json()["events"]
    said = [(one["outcome"], one.get("copies") or []) for one in events if one["kind"] == "outcome"]
    assert said == [("short", [2, 4]), ("flowed", [1, 3])]

"""The rehearsal in a real browser: found, looked through in time, compared, used, run, and learnt from."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.test_a_piece import open_piece
from tests.browser.test_a_run import every_join_flowed, press_through

from .hand import choose

LONG_MS = 120_000


def at_the_rehearsal(page: Page, piece: str) -> None:
    open_piece(page, piece)
    expect(page.get_by_role("group", name="Heat ladder")).to_be_attached()
    page.keyboard.press("3")
    expect(page.get_by_role("button", name="Use this rehearsal")).to_be_visible(timeout=LONG_MS)


def test_a_heat_is_rehearsed_and_looked_through_in_time(page: Page) -> None:
    at_the_rehearsal(page, "Stone-set finial")
    band = page.get_by_role("region", name="Rehearsal")
    expect(band).to_contain_text("hands do it well, in about")
    expect(band.get_by_role("img", name=re.compile(r"\d+ of 64 hands do it well"))).to_be_visible()
    expect(band.get_by_role("list", name="Signs").get_by_role("listitem").first).to_have_text("white crust")
    expect(band.get_by_role("list", name="Programme").get_by_role("listitem").last).to_contain_text(
        "until the bright line has run"
    )
    told = band.locator("output")
    time = band.get_by_role("slider", name="Time")
    end = told.inner_text()
    time.focus()
    page.keyboard.press("Home")
    expect(told).to_have_text("0.0 s")
    for _ in range(12):
        page.keyboard.press("ArrowRight")
    expect(told).not_to_have_text("0.0 s")
    # It plays as long as the heat takes: only the last of it is waited for.
    page.keyboard.press("End")
    for _ in range(12):
        page.keyboard.press("ArrowLeft")
    expect(told).not_to_have_text(end)
    page.keyboard.press(" ")
    expect(told).to_have_text(end, timeout=20_000)
    expect(band.get_by_role("button", name="Play")).to_be_visible()


def test_keys_go_on_where_a_heat_was_chosen_and_the_page_stays_in_its_frame(page: Page) -> None:
    at_the_rehearsal(page, "Stone-set finial")
    band = page.get_by_role("region", name="Rehearsal")
    band.get_by_text("Heat 2").click()
    expect(band.get_by_role("radio", name=re.compile("Heat 2"))).to_be_checked()
    page.keyboard.press("1")
    expect(page.get_by_role("heading", name="Parts", exact=True)).to_be_in_viewport()
    page.keyboard.press("3")
    expect(band.get_by_label("Torch and tip")).to_be_in_viewport(ratio=1)
    frame = page.evaluate("[scrollY, document.documentElement.scrollHeight - innerHeight]")
    assert frame == [0, 0]


def test_a_habit_and_another_torch_are_tried(page: Page) -> None:
    at_the_rehearsal(page, "Toggle clasp and links")
    band = page.get_by_role("region", name="Rehearsal")
    expect(band.get_by_role("region", name="Habits").get_by_role("listitem")).to_have_count(
        3, timeout=LONG_MS
    )
    choose(band.get_by_label("Programme or habit"), "light")
    expect(band).to_contain_text(re.compile("By luck only|in any hand"), timeout=LONG_MS)
    expect(band.get_by_label("Flame setting")).to_be_visible()
    choose(band.get_by_label("Programme or habit"), "even")
    choose(band.get_by_label("Torch and tip"), "butane-pencil")
    expect(band.get_by_role("button", name="What would help?")).to_be_visible(timeout=LONG_MS)


def test_a_rehearsal_is_stopped_and_begun_again(page: Page) -> None:
    open_piece(page, "Swivel cufflinks")
    expect(page.get_by_role("group", name="Heat ladder")).to_be_attached()
    page.keyboard.press("3")
    band = page.get_by_role("region", name="Rehearsal")
    band.get_by_role("button", name="Stop").click(timeout=LONG_MS)
    band.get_by_role("button", name="Rehearse again").click()
    expect(band.get_by_role("button", name="Use this rehearsal")).to_be_visible(timeout=LONG_MS)


def test_it_is_used_by_one_action_undone_and_goes_out_of_date(page: Page) -> None:
    at_the_rehearsal(page, "Stone-set finial")
    page.get_by_role("button", name="Use this rehearsal").click()
    expect(page.get_by_role("button", name="Used in the plan")).to_be_disabled()
    page.keyboard.press("2")
    ladder = page.get_by_role("group", name="Heat ladder")
    expect(ladder).to_contain_text(re.compile(r"heat 1 · \d+ s"))
    page.get_by_role("button", name="Undo").click()
    expect(ladder).not_to_contain_text(re.compile(r"heat 1 · \d+ s"))
    page.get_by_role("button", name="Redo").click()
    expect(ladder).to_contain_text(re.compile(r"heat 1 · \d+ s"))


def test_the_bench_names_the_torch_that_heats_are_rehearsed_with(page: Page) -> None:
    page.goto("/bench")
    choose(page.get_by_label("Torch and tip"), "oxy-propane-fine")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    at_the_rehearsal(page, "Stone-set finial")
    expect(page.get_by_label("Torch and tip")).to_have_attribute("data-value", "oxy-propane-fine")


def test_a_piece_without_heats_says_what_comes_first(page: Page) -> None:
    page.goto("/begin")
    page.get_by_label("Name of a new piece").fill("Nothing yet")
    page.get_by_role("button", name="Begin with nothing").click()
    expect(page.get_by_role("region", name="Rehearsal")).to_contain_text("Once the piece has a join")


def at_the_rehearsed_heat(page: Page) -> int:
    """Use the rehearsal of the first heat, start a run and go on to it; give the step at which it stands."""
    at_the_rehearsal(page, "Stone-set finial")
    page.get_by_role("button", name="Use this rehearsal").click()
    expect(page.get_by_role("button", name="Used in the plan")).to_be_disabled()
    page.get_by_role("button", name="Start a run").click()
    main = page.get_by_role("main")
    expect(main.get_by_text("step 1 of")).to_be_visible()
    at = 1
    while not main.get_by_text(re.compile(r"heat \d+ of \d+ · about")).is_visible():
        press_through(page, "Space", at)
        at += 1
    return at


def test_a_heat_is_led_by_its_signs_and_one_clicked_through_teaches_nothing(page: Page) -> None:
    at = at_the_rehearsed_heat(page)
    programme = page.get_by_role("list", name="Programme")
    expect(programme.get_by_role("listitem").first).to_contain_text("Dry the flux")
    page.keyboard.press("Space")
    expect(page.get_by_role("heading")).to_have_text("Until the flux is a white crust and still.")
    began = page.evaluate("Date.now()")
    # A heat of less than a second counts as leafed through, not as a heat.
    page.wait_for_function("(began) => Date.now() - began > 1500", arg=began)
    for _ in range(programme.get_by_role("listitem").count()):
        page.keyboard.press("Space")
        expect(programme).to_contain_text("✓")
        if page.get_by_role("heading").inner_text() == "Flame off.":
            break
    expect(page.get_by_role("heading")).to_have_text("Flame off. Look at it as it lies, before it is moved.")
    every_join_flowed(page)
    press_through(page, "Space", at)
    page.goto("/log")
    torches = page.get_by_role("region", name="This bench's torches")
    expect(torches).to_contain_text("Propane swirl torch")
    expect(torches).to_contain_text("clicked through: does not count")
    expect(torches).to_contain_text("from 0 heats")
    torches.get_by_role("button", name="Leave out").click()
    expect(torches.get_by_role("button", name="Count it")).to_be_visible()


def test_a_sign_is_taken_back_and_a_heat_that_went_otherwise_is_told_at_once(page: Page) -> None:
    at = at_the_rehearsed_heat(page)
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="I see it")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_role("button", name="The flame is lit")).to_be_visible()
    began = page.evaluate("Date.now()")
    page.wait_for_function("(began) => Date.now() - began > 1500", arg=began)
    page.get_by_role("button", name="It went otherwise").click()
    every_join_flowed(page)
    press_through(page, "Space", at)
    page.goto("/log")
    expect(page.get_by_role("region", name="This bench's torches")).to_contain_text(
        "its clock began with no flame: does not count"
    )


def test_all_heats_are_rehearsed_in_one_go_and_used_as_one_change(page: Page) -> None:
    at_the_rehearsal(page, "Hollow lantern drop")
    page.get_by_role("button", name="Rehearse all heats").click()
    use_all = page.get_by_role("button", name="Use them all")
    expect(use_all).to_be_visible(timeout=LONG_MS)
    expect(page.get_by_text(re.compile(r"^All heats: \d"))).to_be_visible()
    use_all.click()
    expect(page.get_by_role("button", name="Used in the plan")).to_be_disabled()
    page.keyboard.press("2")
    ladder = page.get_by_role("group", name="Heat ladder")
    expect(ladder).to_contain_text(re.compile(r"heat 1 · (\d+ min )?\d+ s"))
    expect(ladder).to_contain_text(re.compile(r"heat 2 · (\d+ min )?\d+ s"))
    page.get_by_role("button", name="Undo").click()
    expect(ladder).not_to_contain_text(re.compile(r"heat [12] · \d+ s"))

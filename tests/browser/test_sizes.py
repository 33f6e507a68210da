"""A smith at the table works out sizes without touching the mouse."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from .hand import choose


def result(page: Page) -> Locator:
    return page.get_by_test_id("main-result")


def tab_to(page: Page, label: str) -> None:
    """Press Tab until the field of that label has the focus."""
    wanted = page.get_by_label(label, exact=True).first
    for _ in range(60):
        if wanted.evaluate("field => field === document.activeElement"):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"{label} cannot be reached by Tab")


def type_over(page: Page, text: str) -> None:
    page.keyboard.press("Control+a")
    page.keyboard.type(text)


def find(page: Page, words: str, title: str) -> None:
    """Open Sizes and choose a calculator by keys alone."""
    page.goto("/sizes")
    expect(page.get_by_role("heading", name="Sizes")).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type(words)
    expect(page.get_by_label("Calculators").get_by_role("link")).to_have_count(1)
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=title)).to_be_visible()


def test_a_ring_blank_from_a_ring_size(page: Page) -> None:
    find(page, "ring-blank", "Ring blank")
    expect(page.get_by_label("Ring size")).to_be_focused()
    type_over(page, "US 8 1/2")
    expect(page.get_by_text(re.compile("US 8 1/2: 18.54 mm inside"))).to_be_visible()
    tab_to(page, "Thickness")
    type_over(page, "1.4")
    expect(result(page)).to_have_text("62.64 mm")
    expect(page.get_by_text("π × (18.539 + 1.4) = 62.64 mm")).to_be_visible()
    type_over(page, "thick")
    expect(page.get_by_label("Thickness")).to_have_attribute("aria-invalid", "true")
    expect(page.get_by_text(re.compile("^a length is a number"))).to_be_visible()
    expect(page.get_by_label("Thickness")).to_have_value("thick")
    page.reload()
    expect(page.get_by_label("Thickness")).to_have_value("thick")


def test_a_ball_in_gauge_and_what_a_pair_of_them_takes(page: Page) -> None:
    find(page, "ball any two", "Ball from wire")
    tab_to(page, "Ball")
    type_over(page, "2.4")
    page.keyboard.press("Tab")
    type_over(page, "19 ga")
    expect(result(page)).to_have_text("11.08 mm")
    expect(page.get_by_text("19 gauge (B&S) = 0.912 mm")).to_be_visible()
    tab_to(page, "How many of it")
    type_over(page, "2")
    page.keyboard.press("Tab")
    type_over(page, "1")
    expect(page.get_by_text("3 of 11.08 mm, cut the same")).to_be_visible()


def test_a_draw_down_with_its_anneals(page: Page) -> None:
    find(page, "draw down", "Draw down")
    expect(result(page)).to_have_text("4915.98 mm")
    passes = page.get_by_role("table", name="Passes")
    expect(passes.get_by_text("anneal, quench, pickle, dry")).to_have_count(3)
    tab_to(page, "Diameter")
    type_over(page, "2")
    expect(passes.get_by_text("anneal, quench, pickle, dry")).to_have_count(1)
    type_over(page, "4")
    expect(page.get_by_role("alert")).to_contain_text("A pass makes the section smaller")


def test_a_result_is_kept_to_a_piece_as_a_part(page: Page) -> None:
    find(page, "balled end", "Balled end")
    keep = page.get_by_role("button", name="Keep to a piece")
    expect(keep).to_be_visible()
    keep.focus()
    page.keyboard.press("Enter")
    tab_to(page, "Name")
    type_over(page, "Headpin")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.get_by_role("dialog").get_by_role("link").press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Headpin Sterling"))).to_be_visible()


def test_nothing_found_and_no_such_calculator_say_so(page: Page) -> None:
    page.goto("/sizes")
    page.get_by_placeholder("Find").fill("sundial")
    expect(page.get_by_text("No calculator holds these words.")).to_be_visible()
    page.goto("/sizes/sundial")
    page.get_by_role("button", name="See all of them").click()
    expect(page.get_by_role("heading", name="Sizes")).to_be_visible()


def test_a_draw_down_is_marked_off_at_the_mill_and_survives_a_reload(page: Page) -> None:
    page.goto("/sizes/pour")
    expect(result(page)).to_have_text("30.45 g")
    page.get_by_role("button", name="Draw this bar down").press("Enter")
    expect(page.get_by_label("Mass", exact=True).or_(page.get_by_label("or its mass"))).to_have_value(
        "29.84 g"
    )
    page.get_by_role("button", name="Mark the passes off at the mill").press("Enter")
    following = page.get_by_test_id("next-pass")
    expect(following).to_have_text("Roll to 5.2 mm square")
    page.keyboard.press("Space")
    expect(following).to_have_text("Roll to 4.5 mm square")
    page.keyboard.press("Space")
    expect(page.get_by_text("2 of", exact=False)).to_be_visible()
    page.reload()
    expect(page.get_by_text(re.compile("^2 of \\d+ done"))).to_be_visible()
    page.keyboard.press("Backspace")
    expect(following).to_have_text("Roll to 4.5 mm square")


def test_the_tools_of_the_bench_change_what_is_told(page: Page) -> None:
    page.goto("/bench")
    dowels = page.get_by_label("Dowels")
    expect(dowels).to_have_value("3, 5, 6.5, 9")
    dowels.fill("3, 1/4 in, thick")
    dowels.press("Enter")
    expect(page.get_by_text(re.compile("a length is a number"))).to_be_visible()
    expect(dowels).to_have_value("3, 1/4 in, thick")
    dowels.fill("3, 1/4 in")
    dowels.press("Enter")
    expect(dowels).to_have_value("3, 6.35")
    page.goto("/sizes/ear-wire")
    expect(page.get_by_text("The nearest dowel on the bench is 6.35 mm")).to_be_visible()


def test_the_units_of_the_house_are_spoken_everywhere(page: Page) -> None:
    page.goto("/bench")
    choose(page.get_by_label("Lengths"), "inch")
    choose(page.get_by_label("Temperatures"), "f")
    choose(page.get_by_label("Masses"), "troy")
    expect(page.get_by_label("Overshoot, °F")).to_have_value("18")
    page.goto("/sizes/ring-blank")
    expect(result(page)).to_have_text(re.compile("in$"))
    page.goto("/work")
    page.get_by_role("link", name=re.compile("Reed brooch")).click()
    page.get_by_role("button", name=re.compile("^Heat 1:")).press("Enter")
    expect(page.get_by_label("The chosen heat")).to_contain_text("melting begins at 1476 °F")
    page.goto("/work")
    page.get_by_role("link", name=re.compile("Hollow lantern drop")).click()
    hanging = page.get_by_role("button", name=re.compile("^Heat 3:"))
    expect(hanging).to_have_attribute("aria-label", re.compile("1225 °F extra easy"))
    hanging.press("Enter")
    expect(page.get_by_label("The chosen heat")).to_contain_text("1225 °F")
    page.get_by_role("button", name=re.compile("^Collar Sterling")).click()
    expect(page.get_by_label("Side")).to_have_value("0.0433")
    page.get_by_label("Side").fill("0.05")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Collar .*square 0.05 wire"))).to_be_visible()
    page.goto("/bench")
    choose(page.get_by_label("Lengths"), "mm")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Lengths")).to_have_attribute("data-value", "inch")

"""The cut and solder list on screen, by keyboard; outlines from files."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from .hand import choose

SQUARE = '<svg xmlns="http://www.w3.org/2000/svg"{size}><rect width="20" height="10"/><circle cx="10" cy="5" r="2"/></svg>'


def open_list(page: Page, name: str) -> None:
    page.goto("/work")
    page.get_by_role("link", name=re.compile(name)).press("Enter")
    expect(page.get_by_role("heading", name="Parts", exact=True)).to_be_visible()
    page.keyboard.press("4")
    expect(page.get_by_role("heading", name="To buy")).to_be_in_viewport()


def test_the_list_says_what_is_cut_from_what_and_what_to_buy(page: Page) -> None:
    open_list(page, "Hollow lantern drop")
    cuts = page.get_by_role("table", name="To cut")
    expect(cuts.get_by_role("row", name=re.compile("Collar Sterling.*17 ga 1 20.40 mm"))).to_be_visible()
    expect(page.get_by_text("Nothing: the bench has it all.")).to_be_visible()
    expect(page.get_by_role("heading", name="From the bars on the bench")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Upper dome, Lower dome on sheet"))).to_be_visible()
    expect(page.get_by_text("7 chips of 1 × 1 mm", exact=True)).to_be_visible()


def test_what_is_not_in_the_drawer_is_to_be_bought_until_it_is_put_there(page: Page) -> None:
    page.goto("/bench")
    page.get_by_role("button", name=re.compile("Take out Sterling silver square 1.1 wire")).press("Enter")
    expect(page.get_by_role("button", name=re.compile("square 1.1 wire"))).to_have_count(0)
    open_list(page, "Hollow lantern drop")
    buy = page.get_by_role("listitem").filter(has_text="square wire 1.1 mm")
    expect(buy).to_contain_text("20.4 mm")
    page.goto("/bench")
    page.get_by_role("button", name="Add metal").press("Enter")
    choose(page.get_by_label("Section", exact=True), "square")
    page.get_by_label("Side", exact=True).fill("1.1")
    page.get_by_label("Side", exact=True).press("Enter")
    page.get_by_label("Length", exact=True).fill("6 in")
    page.get_by_label("Length", exact=True).press("Enter")
    page.get_by_role("button", name="Put it in the drawer").press("Enter")
    expect(page.get_by_role("button", name=re.compile("square 1.1 wire, 152.4 long"))).to_be_visible()
    open_list(page, "Hollow lantern drop")
    expect(page.get_by_text("Nothing: the bench has it all.")).to_be_visible()


def test_an_order_of_twelve_is_added_up_and_the_files_come(page: Page) -> None:
    open_list(page, "Toggle clasp")
    before = page.get_by_text(re.compile(r"^\d+\.\d\d g$")).first.inner_text()
    with page.expect_download() as csv:
        page.get_by_role("link", name="CSV").click()
    text = csv.value.path().read_text(encoding="utf-8")
    rows = [line.split(",") for line in text.splitlines() if re.search(r",\d+\.\d{3}$", line)]
    assert csv.value.suggested_filename == "toggle-clasp-and-links.cut-list.csv"
    assert f"{sum(float(row[-1]) for row in rows if len(row) >= 10):.1f}" == f"{float(before.split()[0]):.1f}"
    with page.expect_download() as pdf:
        page.get_by_role("link", name="PDF").click()
    assert pdf.value.path().read_bytes().startswith(b"%PDF")


def test_an_outline_from_a_file_asks_its_unit_and_becomes_a_part(page: Page, tmp_path: Path) -> None:
    bare, open_line = tmp_path / "leaf.svg", tmp_path / "line.svg"
    bare.write_text(SQUARE.format(size=""))
    open_line.write_text('<svg xmlns="http://www.w3.org/2000/svg" width="9mm"><path d="M0 0H5"/></svg>')
    page.goto("/work")
    page.get_by_role("link", name=re.compile("Hollow lantern drop")).click()
    page.get_by_role("button", name="From a drawing").click()
    page.get_by_label("Drawing").set_input_files(open_line)
    expect(page.get_by_role("alert")).to_contain_text("a drawing holds at least one closed outline")
    page.get_by_label("Drawing").set_input_files(bare)
    choose(page.get_by_label(re.compile("does not say its unit")), "mm")
    expect(
        page.get_by_role("button", name=re.compile("^leaf Sterling silver, drawn outline, 0.8 sheet"))
    ).to_be_visible()
    page.get_by_role("heading", name="Parts", exact=True).click()
    page.keyboard.press("4")
    expect(page.get_by_role("row", name=re.compile(r"leaf .* 187 mm²"))).to_be_visible()

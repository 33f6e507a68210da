"""The ladder by hand: dragged and keyed moves, what they cost, the way back, why, and two plans side by side."""

from __future__ import annotations

import json
import re
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from tests.browser.test_a_piece import heat, open_piece

from .hand import choose


def handle(page: Page, name: str, number: int) -> Locator:
    return page.get_by_label("Heat ladder").get_by_role(
        "button", name=re.compile(f"^{name}, heat {number}\\b")
    )


def on_the_ladder(page: Page, piece: str) -> None:
    open_piece(page, piece)
    expect(page.get_by_role("group", name="Heat ladder")).to_be_attached()
    page.keyboard.press("2")
    expect(page.get_by_role("button", name="Heat ladder")).to_have_attribute("aria-current", "true")


def drag(page: Page, what: Locator, to: Locator, dx: float = 0.5) -> None:
    """Take something by its middle to a place across the width of another."""
    what.scroll_into_view_if_needed()
    start, end = what.bounding_box(), to.bounding_box()
    assert start is not None
    assert end is not None
    page.mouse.move(start["x"] + start["width"] / 2, start["y"] + start["height"] / 2)
    page.mouse.down()
    page.mouse.move(start["x"] - 30, start["y"] - 60, steps=3)
    page.mouse.move(end["x"] + end["width"] * dx, end["y"] + end["height"] / 2, steps=5)
    page.mouse.up()


def test_a_join_is_dragged_into_another_heat_told_its_cost_and_brought_back(page: Page) -> None:
    on_the_ladder(page, "Stone-set finial")
    drag(page, handle(page, "Lug", 4), heat(page, 3))
    expect(page.get_by_role("alert").first).to_contain_text(
        "Lug was moved into the heat of Rim border, but they "
    )
    expect(page.get_by_role("alert").first).to_contain_text("lie on different sides")
    page.get_by_role("button", name="Take the move back").first.click()
    expect(handle(page, "Lug", 4)).to_be_visible()
    drag(page, handle(page, "Lug", 4), heat(page, 4), dx=1.6)
    expect(page.get_by_role("status", name="By hand")).to_contain_text("Against the best: ")
    expect(page.get_by_role("status", name="By hand")).to_contain_text("1 heat more")
    expect(heat(page, 5)).to_be_visible()
    page.get_by_role("button", name="Back to best").click()
    expect(heat(page, 5)).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(heat(page, 5)).to_be_visible()


def test_joins_are_moved_and_pinned_with_the_keyboard_alone(page: Page) -> None:
    on_the_ladder(page, "Reed brooch")
    handle(page, "Catch foot", 2).focus()
    page.keyboard.press("o")
    expect(page.get_by_role("status", name="By hand")).to_contain_text("1 heat more")
    page.keyboard.press("b")
    expect(page.get_by_role("status", name="By hand")).to_have_count(0)
    on_the_ladder(page, "Wire-frame candle guard")
    handle(page, "Reeds to base", 8).focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("status", name="By hand")).to_contain_text("Reeds to base")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("status", name="By hand")).to_have_count(0)
    handle(page, "Base seam", 1).focus()
    page.keyboard.press("p")
    expect(page.get_by_role("status", name="By hand")).to_contain_text("as good as the best")
    page.keyboard.press("p")
    expect(page.get_by_role("status", name="By hand")).to_have_count(0)


def test_heats_are_shared_and_split_whole(page: Page) -> None:
    on_the_ladder(page, "Reed brooch")
    heat(page, 2).press("Enter")
    page.get_by_role("button", name="Split the heat").click()
    expect(heat(page, 3)).to_be_visible()
    heat(page, 3).press("Enter")
    heat(page, 3).press("Shift+ArrowLeft")
    expect(heat(page, 3)).to_have_count(0)


def test_why_tells_what_else_and_takes_it(page: Page) -> None:
    on_the_ladder(page, "Hollow lantern drop")
    handle(page, "Crown collar", 2).press("Enter")
    why = page.get_by_role("region", name="What else Crown collar could be")
    hard = why.get_by_role("listitem").filter(has_text=re.compile("^Hard"))
    expect(hard).to_contain_text("Rim of the domes would run again in heat 2", timeout=30_000)
    rim = why.get_by_role("listitem").filter(has_text="In heat 1, with Rim of the domes")
    expect(rim).to_contain_text("cannot be")
    expect(rim).to_contain_text("Crown collar comes after Rim of the domes.")
    why.get_by_role("listitem").filter(has_text=re.compile("^Easy")).get_by_role(
        "button", name="take it"
    ).click()
    expect(heat(page, 2)).to_have_attribute("aria-label", re.compile("728 °C easy"))


def test_two_plans_stand_side_by_side_with_their_differences(page: Page) -> None:
    on_the_ladder(page, "Hollow lantern drop")
    choose(page.get_by_label("Another plan"), "grades: the easiest that serves")
    other = page.get_by_role("region", name="The other plan")
    expect(other).to_contain_text("Rim of the domes: medium becomes easy.")
    expect(other.get_by_label("The other ladder")).to_contain_text("728")
    expect(heat(page, 1).first).to_have_attribute("aria-label", re.compile("748 °C medium"))
    page.get_by_role("button", name="Put it away").click()
    expect(other).to_have_count(0)


def test_sixty_joins_are_grouped_found_and_spread_apart(page: Page, tmp_path: Path) -> None:
    form = {"kind": "wire", "profile": {"kind": "round", "diameter_mm": 1}, "length_mm": 10}
    frame = {
        "format": "eskel-piece/1",
        "name": "Frame of sixty",
        "parts": [{"id": f"w{n}", "metal": "sterling-925", "form": form} for n in range(61)],
        "joins": [
            {"id": f"rung-{n}", "kind": "tee", "between": [f"w{n}", f"w{n + 1}"], "holds": "seated"}
            for n in range(60)
        ],
    }
    file = tmp_path / "frame.json"
    file.write_text(json.dumps(frame))
    page.goto("/")
    page.get_by_label("Piece file").set_input_files(file)
    ladder = page.get_by_role("group", name="Heat ladder")
    # Sixty joins are proven or not as the time allows: what is waited for is that nothing is looked for any more.
    expect(page.get_by_text(re.compile(r"none\sfewer|fewer\smay\sbe\spossible"))).to_be_visible(
        timeout=60_000
    )
    expect(ladder.get_by_text("+3").first).to_be_attached()
    wide = ladder.bounding_box()
    page.get_by_role("button", name="Wider apart").click()
    page.get_by_label("Find a join").fill("rung 47")
    page.get_by_label("Find a join").press("Enter")
    expect(ladder.get_by_role("button", name=re.compile("^rung 47, heat"))).to_be_in_viewport()
    expect(ladder.get_by_role("button", name=re.compile("^rung 47, heat"))).to_have_attribute(
        "aria-pressed", "true"
    )
    wider = ladder.bounding_box()
    assert wide is not None
    assert wider is not None
    assert wider["width"] > wide["width"]

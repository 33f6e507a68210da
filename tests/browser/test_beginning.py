"""From an idea to a plan: starts from the gallery, parts in lines, joins by pointing, at a person's pace."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .hand import Hand, choose


def proven(page: Page) -> None:
    expect(page.get_by_text(re.compile(r"none\sfewer"))).to_be_visible()


@pytest.mark.parametrize(
    ("words", "field", "value", "name"),
    [
        ("ring stone", "Stone, long", "12", "Bezel ring"),
        ("hollow earring", "Discs, across", "16", "Hollow stud"),
    ],
)
def test_a_start_comes_to_a_proven_plan_in_seconds(
    page: Page, words: str, field: str, value: str, name: str
) -> None:
    page.goto("/work")
    hand = Hand(page)
    expect(page.get_by_role("button", name="Begin")).to_be_visible()
    hand.press("n")
    expect(page.get_by_label("Find a start")).to_be_focused()
    hand.write(page.get_by_label("Find a start"), words)
    proven(page)
    hand.write(page.get_by_label(field), value)
    expect(page.get_by_label("Name of the piece")).to_have_value(name)
    proven(page)
    assert hand.seconds < 20
    assert hand.actions <= 12


def test_a_start_refuses_at_its_field_and_says_what_to_do(page: Page) -> None:
    page.goto("/begin/hollow-stud")
    proven(page)
    page.get_by_label("Domed by").fill("9")
    expect(page.get_by_role("alert")).to_contain_text("At most 6")
    expect(page.get_by_role("button", name="Make it")).to_be_disabled()
    page.get_by_label("Domed by").fill("")
    expect(page.get_by_role("button", name="Make it")).to_be_enabled()


def test_parts_in_lines_and_joins_by_letters_make_a_plan_without_the_mouse(page: Page) -> None:
    page.goto("/begin")
    hand = Hand(page)
    hand.write(page.get_by_label("Name of a new piece"), "Stud")
    line = page.get_by_label("Say a part")
    expect(line).to_be_visible()
    hand.write(line, "oval 16 × 12 × 0.7")
    expect(page.get_by_role("button", name=re.compile("^Oval Sterling"))).to_be_visible()
    hand.write(line, "bezel 0.35 × 3.2 round 14 × 10 oval fine")
    expect(page.get_by_role("button", name=re.compile("^Bezel Fine"))).to_be_visible()
    line.blur()
    for letters, title in (("ss", "Bezel seam"), ("as", "Bezel on Oval")):
        hand.press("j", *letters)
        expect(page.get_by_role("region", name="Join by pointing")).to_contain_text(title)
        hand.press("Enter")
        expect(page.get_by_role("button", name=re.compile(f"Join .*{title}")).first).to_be_visible()
    proven(page)
    expect(page.get_by_role("button", name=re.compile("^Heat 2:"))).to_be_visible()
    assert hand.clicks == 0


def test_ten_lines_pasted_are_ten_parts_and_what_is_wrong_stays(page: Page) -> None:
    page.goto("/begin")
    page.get_by_role("button", name="Begin with nothing").click()
    line = page.get_by_label("Say a part")
    line.focus()
    lines = "\n".join([*(f"ball {n}" for n in range(1, 10)), "disk 12 × 0.6 sterlin"])
    page.evaluate(
        """text => {
            const data = new DataTransfer();
            data.setData("text", text);
            document.activeElement.dispatchEvent(new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true}));
        }""",
        lines,
    )
    expect(page.get_by_role("button", name=re.compile("^Ball Sterling"))).to_have_count(9)
    expect(line).to_have_value("disk 12 × 0.6 sterlin")
    expect(page.get_by_role("alert")).to_contain_text("Did you mean sterling?")


def test_a_part_is_dragged_turned_and_brought_back(page: Page) -> None:
    page.goto("/begin/tube-hung")
    proven(page)
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_label("Name of the piece")).to_have_value("Tube-hung pendant")
    part = page.get_by_role("button", name="Part Plate")
    before = part.bounding_box()
    assert before is not None
    page.mouse.move(before["x"] + before["width"] / 2, before["y"] + before["height"] / 2)
    page.mouse.down()
    page.mouse.move(before["x"] + before["width"] / 2 + 60, before["y"] + before["height"] / 2, steps=4)
    page.mouse.up()
    expect(page.get_by_role("button", name="Undo")).to_have_accessible_description("Undo: moved Plate")
    part.focus()
    page.keyboard.press("]")
    expect(page.get_by_text("saved", exact=True)).to_be_visible()
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()


def test_a_wire_is_bent_by_dragging_its_points_and_by_keys(page: Page) -> None:
    page.goto("/")
    page.get_by_role("button", name="Begin").click()
    page.get_by_label("Name of a new piece").fill("Reed tie")
    page.keyboard.press("Enter")
    page.get_by_label("Say a part").fill("wire 1 × 40 Stem")
    page.get_by_label("Say a part").press("Enter")
    choose(page.get_by_role("button", name="bend to …"), "points")
    points = page.get_by_role("button", name=re.compile("^Point . of "))
    expect(points).to_have_count(3)
    middle = points.nth(1).bounding_box()
    assert middle is not None
    x, y = middle["x"] + middle["width"] / 2, middle["y"] + middle["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 90, steps=4)
    expect(page.get_by_text(re.compile("mm long$"))).to_be_visible()
    page.mouse.up()
    expect(page.get_by_role("button", name="Undo")).to_have_accessible_description("Undo: bent Stem")
    bent = page.get_by_label("Length", exact=True)
    expect(bent).not_to_have_value("40")
    points.nth(0).focus()
    page.keyboard.press("+")
    expect(points).to_have_count(4)
    points.nth(2).focus()
    page.keyboard.press("Delete")
    expect(points).to_have_count(3)
    for _ in range(3):
        page.get_by_role("button", name="Undo").click()
    expect(bent).to_have_value("40")


def test_what_a_calculator_found_is_begun_from(page: Page) -> None:
    page.goto("/sizes/ring-blank")
    page.get_by_label("Thickness").fill("1.8")
    page.get_by_role("link", name="Begin a plain band from it").click()
    expect(page.get_by_label("Thickness")).to_have_value("1.8")
    proven(page)

"""One run on several screens, and with no server: what is pressed counts where it is pressed, and all end up the same."""

from __future__ import annotations

import io
import re
from collections.abc import Iterator

import pytest
from PIL import Image
from PIL.ExifTags import GPS, IFD
from playwright.sync_api import FilePayload, Page, expect

from tests.browser.serving import reset_demo
from tests.browser.test_a_run import every_join_flowed, press_through, seconds_left, start


@pytest.fixture
def second(page: Page, served: str) -> Iterator[Page]:
    """A tablet beside the first screen, held upright."""
    browser = page.context.browser
    assert browser is not None
    context = browser.new_context(
        viewport={"width": 820, "height": 1180}, base_url=served, reduced_motion="reduce", has_touch=True
    )
    opened = context.new_page()
    problems: list[str] = []
    opened.on("pageerror", lambda error: problems.append(str(error)))
    yield opened
    context.close()
    assert problems == []


def stands(page: Page, at: int) -> None:
    expect(page.get_by_role("main").get_by_text(f"step {at} of")).to_be_visible()


def test_what_one_screen_does_the_other_shows_and_their_timers_agree(page: Page, second: Page) -> None:
    start(page, "Reed brooch")
    second.goto(page.url)
    stands(second, 1)
    press_through(page, "Space", 1)
    stands(second, 2)
    second.get_by_role("button", name=re.compile("Next")).tap()
    stands(page, 3)
    for at in (3, 4, 5):
        every_join_flowed(page)
        press_through(page, "Space", at)
    stands(second, 6)
    before, other, after = seconds_left(page), seconds_left(second), seconds_left(page)
    assert after - 1 <= other <= before + 1


def test_where_both_acted_the_later_one_is_told_and_both_stand_at_the_same_step(
    page: Page, second: Page
) -> None:
    start(page, "Reed brooch")
    second.goto(page.url)
    stands(second, 1)
    second.context.set_offline(True)
    press_through(page, "Space", 1)
    press_through(page, "Space", 2)
    press_through(second, "Space", 1)
    overtaken = "Another screen had gone on before"
    expect(second.get_by_text("Go on: what you press is kept")).to_be_visible()
    expect(second.get_by_text(overtaken)).to_have_count(0)
    second.context.set_offline(False)
    stands(second, 3)
    expect(second.get_by_text(overtaken)).to_be_visible()
    expect(page.get_by_text(overtaken)).to_have_count(0)
    press_through(second, "Space", 3)
    stands(page, 4)
    expect(second.get_by_text(overtaken)).to_have_count(0)


def test_a_run_goes_on_by_keys_alone_with_no_server_and_the_log_has_it_afterwards(page: Page) -> None:
    start(page, "Reed brooch")
    page.wait_for_function("navigator.serviceWorker.controller !== null")
    press_through(page, "Space", 1)
    page.context.set_offline(True)
    press_through(page, "Space", 2)
    page.reload()
    stands(page, 3)
    expect(page.get_by_text("Go on: what you press is kept")).to_be_visible()
    press_through(page, "Space", 3)
    every_join_flowed(page)
    page.keyboard.press("n")
    page.get_by_label("Note").fill("kept with no server: 2 b 3")
    page.keyboard.press("Enter")
    press_through(page, "Space", 4)
    press_through(page, "Space", 5)
    before = seconds_left(page)
    page.reload()
    expect(page.get_by_text("In the pot", exact=True)).to_be_visible()
    assert 0 < seconds_left(page) <= before
    page.context.set_offline(False)
    expect(page.get_by_text("Go on: what you press is kept")).to_have_count(0)
    page.goto("/log")
    page.get_by_role("searchbox").fill("kept with no server")
    expect(page.get_by_role("listitem")).to_have_count(1)


def tap(page: Page, name: str) -> None:
    """Touch a button that is as large as a wet finger needs."""
    button = page.get_by_role("main").get_by_role("button", name=re.compile(name))
    box = button.bounding_box()
    assert box is not None
    assert min(box["width"], box["height"]) >= 64, (name, box)
    button.tap()


def a_photograph() -> bytes:
    """As a camera makes it: larger than anyone looks at, and it tells where it was taken."""
    exif = Image.Exif()
    exif.get_ifd(IFD.GPSInfo)[GPS.GPSLatitude] = (52.0, 13.0, 7.0)
    told = io.BytesIO()
    Image.effect_noise((2400, 1800), 40).convert("RGB").save(told, "JPEG", exif=exif)
    return told.getvalue()


def test_by_touch_a_join_that_fails_twice_and_a_part_that_melts_are_mended(second: Page) -> None:
    reset_demo()
    start(second, "Stone-set finial")
    main = second.get_by_role("main")
    for at in (1, 2):
        tap(second, "Next")
        stands(second, at + 1)
    fails = [
        ("Did not flow", "flux and a touch more solder", "second try"),
        ("Short: a gap left", "heavy side", "third try"),
        ("Melted", "anew, then again", "fourth try"),
    ]
    for outcome, way, again in fails:
        tap(second, "The flame is lit")
        tap(second, "Flame off")
        tap(second, outcome)
        expect(main.get_by_role("group", name="What can be tried")).to_be_visible()
        tap(second, way)
        expect(main.get_by_role("group", name="What can be tried")).to_have_count(0)
        # What is put in comes first: cooled, cleaned, made ready.
        while not main.get_by_role("button", name="The flame is lit").count():
            heading = main.get_by_role("heading", level=1)
            before = heading.inner_text()
            tap(second, "^(space )?(Next|It is cold|It is out|Out before its time)")
            expect(heading).not_to_have_text(before)
        expect(main.get_by_text(again)).to_be_visible()
    tap(second, "The flame is lit")
    tap(second, "Flame off")
    tap(second, "Flowed all along")
    tap(second, "Next")
    stands(second, 4)
    tap(second, "It is cold")
    stands(second, 5)
    tap(second, "Out before its time")
    stands(second, 6)
    file = FilePayload(name="seam.jpg", mimeType="image/jpeg", buffer=a_photograph())
    second.get_by_label("A photograph").set_input_files(file)
    expect(second.get_by_role("img", name=re.compile("^Taken"))).to_be_visible()
    tap(second, "It passes")
    expect(main.get_by_role("group", name=re.compile("pass"))).to_have_count(0)
    where = second.url.rsplit("/", 1)[1]
    second.goto(f"/log/{where}")
    for words in ("did not flow", "short: a gap left", "melted", "flowed all along"):
        expect(second.get_by_text(words, exact=True)).to_have_count(1)
    expect(second.get_by_text("fourth try")).to_have_count(1)
    expect(second.get_by_text(re.compile("out . min early")).first).to_be_visible()
    kept = second.request.get(f"/api/runs/{where}/photos").json()
    assert [(one["width"], one["height"]) for one in kept] == [(1600, 1200)]
    shown = second.request.get(f"/api/photos/{kept[0]['id']}.jpg").body()
    assert len(Image.open(io.BytesIO(shown)).getexif()) == 0

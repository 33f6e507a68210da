"""How long a person takes from an idea to a plan: every start, and the demo pieces entered from nothing.

Each is really done in a browser by a `Hand`, which counts clicks, keys and fields; the pace of a person is reckoned from
them (tests/browser/hand.py). With `keys`, how long after a key the drawing of a start changes, and how long after a length
of a piece of twelve joins is entered its new plan stands on the screen, ms (not a person's pace: the machine's). Demo pieces are entered by lines and by pointing: every part in a line (a drawn outline as the
rectangle about it), every join by two letters; what only a field tells is left to the plan.

    PYTHONPATH=core:server:. .venv/bin/python bin/lib/with_cluster.py .run/pg-test .venv/bin/python benchmarks/beginning.py [NAME…]
"""

from __future__ import annotations

import json
import re
import statistics
import sys
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import Page, expect
from tests.browser.hand import Hand
from tests.browser.serving import chromium, reset_demo, served_application

from eskel_core.forms import Sheet, Strip, Wire, outline_size_mm
from eskel_core.lines import line_of
from eskel_core.piece import Part, Piece, base_id, read_piece
from eskel_core.starts import starts

EXAMPLES = sorted((Path(__file__).parents[1] / "examples").glob("*.eskel.json"))
LETTERS = "asdfghklqweruiopzxcvbnmty"
METAL_WORDS = {"sterling", "fine", "copper", "brass", "bronze"}
PLANNED = re.compile(r"none\sfewer")


def from_start(page: Page, title: str) -> Hand:
    """Begin from a start by two words of its title and Enter, twice."""
    hand = Hand(page)
    page.goto("/work")
    expect(page.get_by_role("button", name="Begin")).to_be_visible()
    hand.press("n")
    hand.write(page.get_by_label("Find a start"), " ".join(title.split()[:3]))
    expect(page.get_by_role("button", name="Make it")).to_be_enabled()
    hand.press("Enter")
    expect(page.get_by_role("button", name="Start a run")).to_be_visible()
    return hand


def said(part: Part, last: Part | None) -> str:
    """Give the line of a part as a hand says it: no blank more than needed, and no metal that the part before has."""
    form = part.form
    if part.metal is None and form.kind == "lump":
        return f'stone 12x9x4 "{part.title}"'
    if isinstance(form, Sheet) and form.outline.kind in ("polygon", "path"):
        wide, high = outline_size_mm(form.outline)
        outline = {"kind": "rect", "width_mm": round(wide, 1), "height_mm": round(high, 1)}
        form = Sheet.model_validate({**form.model_dump(), "outline": outline})
    if isinstance(form, Wire | Strip):
        form = form.model_copy(update={"path": None})
    line = (
        line_of(part.model_copy(update={"form": form}))
        .replace(" × ", "x")
        .replace(" / ", "/")
        .replace(" thick", "")
    )
    if part.metal == (last.metal if last else "sterling-925"):
        words = line_of(part).split('"')[0].split()
        line = line.replace(f" {words[-1]} ", " ") if words[-1] in METAL_WORDS else line
    bare = line.replace(f' "{part.title}"', "")
    return f"{part.title}:{bare}"


def from_nothing(page: Page, piece: Piece) -> Hand:
    """Enter a piece by a line for each part, and two letters for each join."""
    hand = Hand(page)
    page.goto("/begin")
    hand.write(page.get_by_label("Name of a new piece"), piece.name)
    line = page.get_by_label("Say a part")
    for n, part in enumerate(piece.parts):
        hand.write(line, said(part, piece.parts[n - 1] if n else None))
        expect(page.get_by_text(re.compile(rf"\b{n + 1}\sparts?\b")).first).to_be_visible()
    line.blur()
    letters = dict(zip([part.id for part in piece.parts], LETTERS, strict=False))
    for n, pair in enumerate(pairs_of(piece)):
        hand.press("j", *(letters[end] for end in pair))
        expect(page.get_by_role("button", name=re.compile("^Join them"))).to_be_visible()
        hand.press("Enter")
        expect(page.get_by_text(re.compile(rf"\b{n + 1}\sjoins?\b")).first).to_be_visible()
    if piece.joins:
        expect(page.get_by_text(PLANNED).first).to_be_visible(timeout=30_000)
    return hand


def pairs_of(piece: Piece) -> Iterator[tuple[str, str]]:
    """Give the two parts of each join that is pointed at: cold ones of a stone are left out."""
    bears = {part.id for part in piece.parts if part.metal is not None}
    for join in piece.joins:
        a, b = base_id(join.between[0]), base_id(join.between[1])
        if {a, b} <= bears:
            yield a, b


def told(name: str, hand: Hand, page: Page) -> None:
    """Print a row."""
    facts = page.get_by_text(re.compile(r"\d+\sparts?")).first.inner_text()
    print(
        f"{name:34} {hand.seconds:6.1f} s {hand.clicks:3} clicks {hand.fields:3} fields {hand.keys:4} keys   {facts}",
        flush=True,
    )


KEYED = {"tube-hung": 31.0, "hollow-stud": 15.0, "bezel-ring": 12.0, "toggle": 17.0, "strap-tip": 22.0}
UNTIL_DRAWN = """(typed) => new Promise((done) => {
  const field = document.activeElement, began = performance.now();
  const seen = new MutationObserver(() => { seen.disconnect(); done(performance.now() - began); });
  const form = document.querySelector("main form");
  seen.observe(form, { subtree: true, attributes: true, attributeFilter: ["d", "viewBox", "transform"] });
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(field, typed);
  field.dispatchEvent(new Event("input", { bubbles: true }));
})"""


def keyed(page: Page) -> None:
    """Print how long a start's drawing takes after a key."""
    took: list[float] = []
    for name, value in KEYED.items():
        page.goto(f"/begin/{name}")
        expect(page.get_by_text(PLANNED).first).to_be_visible()
        field = page.locator("main form input:not([type=checkbox])").first
        for n in range(1, 7):
            field.focus()
            took.append(page.evaluate(UNTIL_DRAWN, f"{value + n / 10:.1f}"))
            expect(page.get_by_text(PLANNED).first).to_be_visible()
            page.wait_for_load_state("networkidle")
    took.sort()
    print(
        f"from a key to the drawing: {statistics.median(took):.0f} ms, {took[-3]:.0f} at nine tenths of {len(took)}"
    )


CREATE = """(document_) => fetch("/api/pieces", {
  method: "POST",
  headers: { "Content-Type": "application/json", "X-CSRFToken": /eskel_token=([^;]*)/.exec(document.cookie)[1] },
  body: JSON.stringify({ document: document_ }),
}).then((answer) => answer.json()).then((made) => made.id)"""
# From the Enter that ends a field to the second frame after the answer with the new plan.
WATCH = """() => {
  let began = 0;
  window.planned = new Promise((done) => {
    addEventListener("keydown", () => { began = performance.now(); }, { once: true, capture: true });
    new PerformanceObserver((list, all) => {
      if (!list.getEntries().some((one) => began && one.startTime >= began && /api.pieces.[0-9]+$/.test(one.name))) return;
      all.disconnect();
      requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - began)));
    }).observe({ type: "resource" });
  });
}"""


def replanned(page: Page) -> None:
    """Print how long a piece of twelve joins takes from a length entered to its new plan."""
    twelve = json.loads(next(path for path in EXAMPLES if "guard" in path.name).read_text())
    ball = {"kind": "ball", "diameter_mm": 3.0}
    twelve["parts"].append({"id": "drop", "metal": "sterling-925", "form": ball})
    on = {
        "id": "drop-on",
        "kind": "tee",
        "between": ["drop", "eye"],
        "holds": "own-weight",
        "after": ["eye-on"],
    }
    twelve["joins"].append(on)
    page.goto("/work")
    page.goto(f"/work/{page.evaluate(CREATE, twelve)}")
    expect(page.get_by_text(PLANNED).first).to_be_visible()
    page.get_by_role("button", name=re.compile("^Candle eye")).first.click()
    field = page.get_by_label("Length", exact=True)
    took = []
    for n in range(1, 25):
        field.fill(f"{12 + n / 10:.1f}")
        page.evaluate(WATCH)
        field.press("Enter")
        took.append(page.evaluate("window.planned"))
        page.wait_for_load_state("networkidle")
    took.sort()
    print(
        f"from a key to the new plan of {len(twelve['joins'])} joins: {statistics.median(took):.0f} ms, "
        f"{took[-3]:.0f} at nine tenths of {len(took)}"
    )


def main(only: list[str]) -> None:
    """Do all of them, or those that are named."""
    with served_application() as address, chromium() as browser:
        context = browser.new_context(
            viewport={"width": 1280, "height": 800}, base_url=address, reduced_motion="reduce"
        )
        page = context.new_page()
        page.set_default_timeout(20_000)
        reset_demo()
        if not only or "keys" in only:
            keyed(page)
            replanned(page)
        for name, start in starts().items():
            if not only or name in only:
                told(name, from_start(page, start.title), page)
        for path in EXAMPLES:
            if not only or path.name.split(".")[0] in only:
                piece = read_piece(path)
                told(piece.name, from_nothing(page, piece), page)


if __name__ == "__main__":
    main(sys.argv[1:])

"""A hand at the table, at a person's pace: every click, key and field is done in the browser and counted."""

from __future__ import annotations

from dataclasses import dataclass

from playwright.sync_api import Locator, Page

# What each takes a practised person, s: to point and click; to press a key; to turn to a field, beside what is typed there.
CLICK_S, KEY_S, FIELD_S = 1.1, 0.28, 1.35


def choose(field: Locator, wanted: str) -> None:
    """Choose one of a list or a menu, by its value or by its words."""
    field.click()
    page = field.page
    by_value = page.locator(f'[role=option][data-value="{wanted}"], [role=menuitem][data-value="{wanted}"]')
    by_words = page.get_by_role("option", name=wanted, exact=True)
    by_value.or_(by_words).first.click()


@dataclass
class Hand:
    """What was done so far on a page."""

    page: Page
    clicks: int = 0
    keys: int = 0
    fields: int = 0

    @property
    def seconds(self) -> float:
        """How long it took a person."""
        return self.clicks * CLICK_S + self.keys * KEY_S + self.fields * FIELD_S

    @property
    def actions(self) -> int:
        """How many things were done: a field that is filled is one, whatever is typed."""
        return self.clicks + self.fields

    def click(self, where: Locator) -> None:
        """Click something."""
        self.clicks += 1
        where.click()

    def press(self, *keys: str) -> None:
        """Press keys, one after another."""
        for key in keys:
            self.keys += 1
            self.page.keyboard.press(key)

    def write(self, where: Locator, text: str, *, enter: bool = True) -> None:
        """Turn to a field and type into it; then Enter."""
        self.fields += 1
        self.keys += len(text) + (1 if enter else 0)
        where.fill(text)
        if enter:
            where.press("Enter")

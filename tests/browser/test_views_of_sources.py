"""Every part of Sources and of the payers' table in both themes, at every width and by keyboard."""

import re

import pytest
from playwright.sync_api import Page, expect

WHERE = (
    "%7B%22join%22%3A%22all%22%2C%22parts%22%3A%5B%7B%22id%22%3A%22deviation%22%2C%22op%22%3A"
    "%22at_least%22%2C%22value%22%3A0.05%7D%5D%7D"
)
PARTS = (
    "/sources",
    "/sources?tab=shared",
    "/sources?tab=shared&code=THK-IN-TLL",
    "/sources?tab=import",
    "/sources?tab=edits",
    "/sources?tab=export",
    "/sources/ELV/SLTM?period=year",
    "/sources/ELV/TRS?tab=dividends",
    "/sources/ELV/TRS?tab=payers",
    "/payers?by=industry",
    f"/payers?where={WHERE}&cols=cover",
)


@pytest.fixture
def base_url(own_server: str) -> str:
    return own_server


def press(page: Page, *keys: str) -> None:
    for key in keys:
        page.keyboard.press(key)


def test_a_close_is_excluded_by_keyboard_alone(page: Page) -> None:
    page.goto("/sources/ELV/GWK?tab=prices")
    button = page.get_by_role("button", name="Exclude: prices 2026-06-30")
    button.focus()
    press(page, "Enter")
    reason = page.get_by_label("Why it should not count")
    expect(reason).to_be_focused()
    press(page, "Escape")
    expect(reason).to_have_count(0)
    expect(button).to_be_focused()
    press(page, "Enter")
    page.keyboard.type("A misread close")
    press(page, "Tab", "Enter")
    again = page.get_by_role("button", name="Count again: prices 2026-06-30")
    expect(again).to_be_visible()
    page.goto("/payers?q=greywake&cols=price,yield")
    row = page.get_by_role("row", name=re.compile("Greywake"))
    expect(row.get_by_label("rests on a figure you edited")).to_have_count(2)
    expect(page.get_by_text("Updating measures")).to_have_count(0)
    page.goto("/sources/ELV/GWK?tab=prices")
    again.focus()
    press(page, "Enter")
    expect(button).to_be_visible()

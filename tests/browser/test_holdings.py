"""Holdings by the keyboard: from an entry to its undoing."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect


def test_an_entry_is_made_and_undone_without_a_mouse(page: Page, own_server: str) -> None:
    page.goto(f"{own_server}/holdings")
    page.get_by_label("Name").focus()
    page.keyboard.type("Main")
    page.keyboard.press("Tab")
    page.keyboard.type("TLL")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Entries")).to_be_visible()
    page.locator("body").press("/")
    page.keyboard.type("bought 50 TRS at 40.10 on 2024-06-03")
    expect(page.get_by_role("option", name=re.compile("^Enter"))).to_be_visible()
    page.keyboard.press("Enter")
    line = page.get_by_label("What you bought, sold or hold")
    expect(line).to_have_value("bought 50 TRS at 40.10 on 2024-06-03")
    line.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("Entered: 50 of Tallow & Reed Soapworks at 40.10 TLL")).to_be_visible()
    delete = page.get_by_role("button", name="Delete: Buy of 3 June 2024")
    delete.focus()
    page.keyboard.press("Enter")
    expect(delete).to_have_count(0)
    undo = page.get_by_role("button", name="Undo")
    undo.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("cell", name="2,005.00 TLL")).to_be_visible()
    page.get_by_role("button", name="Positions").focus()
    page.keyboard.press("Enter")
    row = page.get_by_role("row", name=re.compile("Tallow & Reed Soapworks"))
    row.get_by_role("button", name=re.compile("^cost: 2,005")).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("Cost of all lots, with fees")
    page.keyboard.press("Escape")
    page.keyboard.press("h")
    expect(page.get_by_text("You own 1 position worth •••")).to_be_visible()

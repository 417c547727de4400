"""Compare in the browser: added from a search, weighed, and what would change the winner."""

import re

from playwright.sync_api import Page, expect


def test_a_review_is_added_with_one_key_and_figures_open_their_working(page: Page) -> None:
    page.goto("/compare?compared=ELV/TRS")
    expect(page.get_by_label("Weight of Yield", exact=True)).to_be_visible()
    page.goto("/review/ELV/AMLH")
    expect(page.get_by_role("heading", level=1)).to_have_text("Amberlough Mustard")
    page.keyboard.press("c")
    table = page.get_by_role("region", name="Measures compared")
    expect(table.get_by_role("columnheader", name=re.compile("Tallow"))).to_be_visible()
    table.get_by_role("button", name=re.compile(r"^yield: \d", re.I)).first.click()
    expect(page.get_by_role("dialog")).to_contain_text("declared rate")
    page.keyboard.press("Escape")
    page.get_by_role("combobox", name=re.compile("^Measures")).select_option("footing")
    expect(table.get_by_role("row", name=re.compile("^Net debt to EBITDA"))).to_be_visible()
    page.get_by_role("button", name="Save this comparison").click()
    page.get_by_label("Name of the comparison").fill("Two soaps")
    page.get_by_role("button", name="Save", exact=True).click()
    page.goto("/compare")
    page.get_by_role("combobox", name=re.compile("^Measures")).select_option("Two soaps")
    expect(table.get_by_role("columnheader", name=re.compile("Amberlough"))).to_be_visible()

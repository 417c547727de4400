"""Compare in the browser: added from a search, weighed, and what would change the winner."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_three_are_compared_from_a_search_and_a_weight_is_changed(page: Page) -> None:
    page.goto("/compare")
    expect(page.get_by_role("heading", name="Compare")).to_be_visible()
    page.get_by_placeholder("Search payers, measures and actions").focus()
    page.keyboard.type("tallow, amberl, corrie")
    page.get_by_role("option", name=re.compile("^Compare Tallow")).click()
    expect(page).to_have_url(re.compile("compared="))
    table = page.get_by_role("region", name="Measures compared")
    expect(table.get_by_role("columnheader", name=re.compile("Corrie Ferries"))).to_be_visible()
    assert serious(page) == []
    page.get_by_label("Weight of Yield", exact=True).fill("4")
    expect(page.get_by_text(re.compile("Amberlough Mustard comes first with"))).to_be_visible()
    told = page.get_by_text(re.compile("^(Raising|Lowering) the weight of"))
    expect(told).to_contain_text("level")
    page.reload()
    expect(page.get_by_label("Weight of Yield", exact=True)).to_have_value("4")
    page.get_by_role("button", name=re.compile("^Yield: more is better")).click()
    expect(page.get_by_role("button", name=re.compile("^Yield: less is better"))).to_be_visible()
    page.get_by_role("combobox", name="Add a measure").select_option("return_on_equity")
    expect(table.get_by_role("row", name=re.compile("^Return on equity"))).to_be_visible()
    page.get_by_role("button", name="Take out Corrie Ferries").click()
    expect(table.get_by_role("columnheader", name=re.compile("Corrie"))).to_have_count(0)


def test_a_review_is_added_with_one_key_and_figures_open_their_working(page: Page) -> None:
    page.goto("/compare?compared=ELV/TRS")
    expect(page.get_by_label("Weight of Yield", exact=True)).to_be_visible()
    page.goto("/review/ELV/AMLH")
    expect(page.get_by_role("heading", level=1)).to_have_text("Amberlough Mustard")
    page.keyboard.press("c")
    table = page.get_by_role("region", name="Measures compared")
    expect(table.get_by_role("columnheader", name=re.compile("Tallow"))).to_be_visible()
    table.get_by_role("button", name=re.compile("^yield: 3.8", re.I)).click()
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


def test_marked_payers_are_compared_in_one_action(page: Page) -> None:
    page.goto("/payers")
    for name in ("Adderstone Pumps", "Ashcombe Timber"):
        page.get_by_role("checkbox", name=re.compile(name)).check()
    page.get_by_role("link", name="Compare them").click()
    expect(page.get_by_role("heading", name="Compare")).to_be_visible()
    expect(page.get_by_text(re.compile("are compared in THK|are compared in TLL"))).to_have_count(0)
    page.get_by_role("combobox", name="Add a measure").select_option("net_debt")
    expect(page.get_by_text(re.compile("are compared in"))).to_be_visible()

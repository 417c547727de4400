"""Footing in the page: the view in which something is amiss, the others, tables and workings."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_footing_opens_where_something_is_amiss_and_shows_the_rest(page: Page) -> None:
    page.goto("/review/ELV/GWK?stage=footing")
    stage = page.locator("#footing")
    views = stage.get_by_role("group", name="View")
    balance = views.get_by_role("button", name=re.compile("^Balance"))
    expect(balance).to_have_attribute("aria-pressed", "true")
    expect(balance).to_contain_text("something is amiss")
    expect(stage).to_contain_text("Net debt to EBITDA 4.8×, over your limit by 61 %")
    expect(stage.get_by_text("nothing left to repay with")).to_be_visible()
    assert serious(page) == []

    views.get_by_role("button", name="Business").click()
    expect(page).to_have_url(re.compile("footing=business"))
    expect(stage.get_by_role("table", name=re.compile("Margins and returns"))).to_be_visible()
    assert serious(page) == []

    views.get_by_role("button", name=re.compile("^Lines")).click()
    lines = stage.get_by_role("table", name=re.compile("Growth of every line"))
    expect(lines.get_by_role("row", name=re.compile("^Revenue"))).to_contain_text("against")
    lines.get_by_role("button", name=re.compile("^revenue, growth a year over 5 years")).click()
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text("(revenue, fiscal 2025 ÷ fiscal 2020)^(1 ÷ 5) − 1")
    page.keyboard.press("Escape")

    views.get_by_role("button", name="Newest quarter").click()
    newest = stage.get_by_role("table", name=re.compile("what moved most first"))
    expect(newest.get_by_role("row", name=re.compile("^Net margin"))).to_be_visible()
    page.reload()
    expect(newest).to_be_visible()
    views.get_by_role("button", name=re.compile("^Parts")).click()
    expect(stage.get_by_role("table", name=re.compile("^Segments: share"))).to_be_visible()
    assert serious(page) == []


def test_footing_of_every_kind_and_of_almost_nothing(page: Page) -> None:
    for symbol, words in (
        ("PLG", "Capital ratio"),
        ("LRT", "debt to EBITDA"),
        ("TDGT", "More cash than debt"),
        ("RVGF", "Unknown: delisted on 16 September 2022"),
        ("NWO", "no interest to pay"),
    ):
        page.goto(f"/review/ELV/{symbol}?stage=footing")
        expect(page.locator("#footing")).to_contain_text(words)
        assert serious(page) == []

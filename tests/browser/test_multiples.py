"""Multiples in the page: another quantity on the ruler, its aim by keyboard, mean or median."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_a_multiple_is_aimed_at_by_keyboard(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range")
    stage = page.locator("#range")
    stage.get_by_role("button", name="earnings", exact=True).click()
    said = page.get_by_test_id("range-finding")
    expect(said).to_contain_text(re.compile("Price to earnings is .* its 5-year median"))
    aim = page.get_by_role("slider", name="Target price to earnings")
    aim.focus()
    for _ in range(10):
        page.keyboard.press("ArrowDown")
    expect(page.get_by_test_id("aim")).to_contain_text(re.compile(r"At 16\.\d+× you would pay"))
    expect(stage).to_contain_text("Justified by growth and required return")
    assert serious(page) == []

    stage.get_by_role("button", name="mean", exact=True).click()
    expect(said).to_contain_text("its 5-year mean")
    page.reload()
    expect(said).to_contain_text("its 5-year mean")
    stage.get_by_role("button", name="yield", exact=True).click()
    expect(said).to_have_count(0)
    expect(page.get_by_role("slider", name="Target yield")).to_be_attached()


def test_each_kind_is_read_by_its_own_multiples(page: Page) -> None:
    for symbol, first in (("LRT", "AFFO"), ("WPP", "distributable cash"), ("PLG", "book value")):
        page.goto(f"/review/ELV/{symbol}?stage=range")
        page.locator("#range").get_by_role("button", name=first, exact=True).click()
        expect(page.get_by_test_id("range-finding")).to_be_visible()
    assert serious(page) == []


def test_a_gap_says_why(page: Page) -> None:
    """Corrie Ferries lost money in 2019 and 2020; its loss has no multiple."""
    page.goto("/review/ELV/CRF?stage=range&quantity=earnings&as_of=2020-12-31")
    expect(page.locator("#range")).to_contain_text("Earnings per share is not positive")


def test_a_figure_of_a_multiple_opens_its_working(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range&quantity=earnings&open=ELV/TRS/range.shown.fair_price")
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text("median price to earnings × earnings per share")


def test_a_second_opinion_is_opened_moved_and_counted_in(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=worth")
    stage = page.locator("#worth")
    row = stage.get_by_role("row", name=re.compile("^Cash flow to equity"))
    expect(row).to_be_visible()
    row.get_by_role("button", name=re.compile("Details")).click()
    stage.get_by_label("Growth of cash per share", exact=True).fill("3")
    expect(page).to_have_url(re.compile("cash_growth"))
    before = page.get_by_role("complementary").get_by_text(re.compile("^Models from")).first
    row.get_by_role("checkbox").check()
    expect(page).to_have_url(re.compile("on=cash_to_equity"))
    expect(row).to_contain_text("switched on by you")
    expect(before).to_be_visible()
    page.reload()
    expect(row.get_by_role("checkbox")).to_be_checked()
    stage.get_by_text(re.compile("more models, and why they do not suit")).click()
    expect(stage).to_contain_text("only a property trust reports AFFO")
    assert serious(page) == []


def test_a_trust_is_valued_on_affo_and_net_assets(page: Page) -> None:
    page.goto("/review/ELV/LRT?stage=worth")
    stage = page.locator("#worth")
    for name in ("AFFO, sold at a multiple", "Net asset value from income"):
        expect(stage.get_by_role("row", name=re.compile(name))).to_be_visible()
    assert serious(page) == []

"""The search box: a measure of the payer at hand, payers read lately, actions; the glossary."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious

BOX = "Search payers, measures and actions"


def test_a_measure_opens_for_the_payer_at_hand(page: Page) -> None:
    page.goto("/review/ELV/AMLH")
    expect(page.get_by_role("heading", level=1)).to_have_text("Amberlough Mustard")
    expect(page.get_by_placeholder(BOX)).to_be_visible()
    page.keyboard.press("/")
    expect(page.get_by_placeholder(BOX)).to_be_focused()
    page.keyboard.type("interest cov")
    offered = page.locator("[cmdk-item]", has_text="Interest cover").first
    expect(offered).to_contain_text("measure of AMLH")
    offered.click()
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text(re.compile("interest cover", re.I))
    expect(page).to_have_url(re.compile("/review/ELV/AMLH.*footing"))
    page.keyboard.press("Escape")
    page.goto("/watch")
    page.get_by_placeholder(BOX).click()
    first = page.get_by_role("option").first
    expect(first).to_contain_text("Amberlough Mustard")
    expect(first).to_contain_text("read lately")
    page.get_by_placeholder(BOX).fill("cycle")
    page.locator("[cmdk-item]", has_text="Payout, cycle").first.click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Amberlough Mustard")
    expect(page.get_by_role("dialog")).to_be_visible()


def test_actions_are_reached_by_what_one_would_call_them(page: Page) -> None:
    page.goto("/")
    box = page.get_by_placeholder(BOX)
    for words, name, address in (
        ("backup", "Export, back up or restore", "tab=export"),
        ("stress", "Put every payer under a strain", "/payers/strain"),
        ("notify", "Choose what I want to hear of", "/house-rules"),
        ("help words", "Glossary", "/glossary"),
    ):
        box.fill(words)
        page.get_by_role("option", name=re.compile(f"^{name}")).click()
        expect(page).to_have_url(re.compile(address))
    box.fill("another day")
    page.keyboard.press("Enter")
    expect(page.get_by_label("View as of")).to_be_visible()


def test_the_glossary_says_what_words_mean(page: Page) -> None:
    page.goto("/glossary")
    own = page.get_by_role("region", name="Words of our own")
    expect(own).to_contain_text("How far the cash or earnings underneath can fall")
    assert serious(page) == []
    page.get_by_placeholder("Seek a word").fill("ex-date")
    expect(own).to_have_count(0)
    trade = page.get_by_role("region", name="Words of the trade")
    expect(trade).to_contain_text("The first day on which a buyer no longer gets the dividend")
    page.get_by_placeholder("Seek a word").fill("net debt to ebitda")
    page.get_by_role("link", name="Net debt to EBITDA", exact=True).click()
    table = page.get_by_role("table").first
    expect(table.get_by_role("columnheader", name=re.compile("Net debt to EBITDA"))).to_be_visible()

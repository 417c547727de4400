"""Peers and slumps in the page."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_the_place_among_the_sector_is_told_pointed_at_and_opened(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=footing&footing=peers")
    stage = page.locator("#footing")
    row = stage.get_by_role("row", name=re.compile("Less debt to EBITDA than .* of its 13 peers"))
    expect(row).to_be_visible()
    strip = row.get_by_role("slider")
    expect(strip).to_have_attribute("aria-valuetext", re.compile("^this payer, 1.0×"))
    strip.focus()
    page.keyboard.press("ArrowRight")
    named = strip.get_attribute("aria-valuetext") or ""
    assert not named.startswith("this payer")
    assert serious(page) == []
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text(named.split(",")[0])
    expect(page).to_have_url(re.compile("footing=peers"))
    page.go_back()
    expect(page.get_by_role("heading", level=1)).to_have_text("Tallow & Reed Soapworks")


def test_a_slump_is_told_against_the_market(page: Page) -> None:
    page.goto("/review/ELV/GWK?stage=footing&footing=slumps")
    stage = page.locator("#footing")
    expect(stage).to_contain_text("In the herring slump its price fell 55")
    row = stage.get_by_role("row", name=re.compile("^The herring slump"))
    row.get_by_role("button", name=re.compile("^market from peak to trough")).click()
    expect(page.get_by_role("dialog")).to_contain_text("Trough ÷ the highest before it − 1")
    page.keyboard.press("Escape")
    assert serious(page) == []

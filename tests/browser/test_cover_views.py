"""The views of Record and Cover: every payment; every payout, cash against dividend, uses."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_cover_shows_every_payout_both_lines_and_where_cash_went(page: Page) -> None:
    page.goto("/review/ELV/MRB?stage=cover")
    stage = page.locator("#cover")
    views = stage.get_by_role("group", name="View")
    views.get_by_role("button", name="Every payout").click()
    matrix = stage.get_by_role("table", name="Payout on every basis, percent")
    expect(matrix.get_by_role("row", name=re.compile("^Free cash flow"))).to_contain_text("110")
    assert serious(page) == []
    views.get_by_role("button", name="Cash against dividend").click()
    expect(stage).to_contain_text("The dividend is above free cash flow per share already")
    stage.get_by_role("button", name="earnings", exact=True).click()
    expect(page).to_have_url(re.compile("basis=earnings"))
    assert serious(page) == []
    views.get_by_role("button", name="Uses of cash").click()
    uses = stage.get_by_role("table", name=re.compile("^Uses of cash"))
    expect(uses.get_by_role("row", name=re.compile("^Everything else"))).to_be_visible()
    page.reload()
    expect(uses).to_be_visible()
    uses.get_by_role("button", name=re.compile("^everything else")).first.click()
    expect(page.get_by_role("dialog")).to_contain_text("debt repaid − kept as cash")
    assert serious(page) == []


def test_record_lists_every_payment_with_its_days_and_what_happened(page: Page) -> None:
    page.goto("/review/ELV/GWK")
    stage = page.locator("#record")
    stage.get_by_role("group", name="View").get_by_role("button", name="Every payment").click()
    payments = stage.get_by_role("table", name="Every payment, the newest first")
    newest = payments.get_by_role("row").nth(1)
    expect(newest).to_contain_text("Cut")
    expect(newest).to_contain_text("20 May 2026")
    newest.get_by_role("button").click()
    expect(page.get_by_role("dialog")).to_contain_text("Regular dividend, ex")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.reload()
    expect(payments).to_be_visible()
    assert serious(page) == []

"""Range in the browser: over the years, a window of one's own, entry steps, breadth."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_over_the_years_reads_weeks_and_spans_by_key(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range&range=years&quantity=earnings")
    stage = page.locator("#range")
    expect(stage.get_by_test_id("distance-finding")).to_contain_text("would pay today")
    chart = stage.get_by_role("application", name=re.compile("^Distance of the price"))
    chart.focus()
    page.keyboard.press("ArrowLeft")
    expect(stage.get_by_test_id("distance-read")).to_contain_text("what the median")
    page.keyboard.down("Shift")
    for _ in range(8):
        page.keyboard.press("PageDown")
    page.keyboard.up("Shift")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("between="))
    expect(stage.get_by_test_id("put-in")).to_contain_text("a year came from")
    assert serious(page) == []
    stage.get_by_role("button", name="table").click()
    expect(stage.get_by_role("table", name="Distance by week")).to_be_visible()


def test_a_window_of_ones_own_is_typed_and_kept(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range")
    stage = page.locator("#range")
    stage.get_by_role("button", name="between two days").click()
    stage.get_by_label("Window from").fill("2016-01-01")
    stage.get_by_label("Window to").fill("2019-12-31")
    expect(page).to_have_url(re.compile(r"window=2016-01-01\.\.2019-12-31"))
    finding = page.get_by_role("complementary")
    expect(finding).to_contain_text("its mean of 1 January 2016 to 31 December 2019")
    page.reload()
    expect(stage.get_by_label("Window from")).to_have_value("2016-01-01")


def test_a_step_to_buy_in_by_is_kept_and_aimed_at_again(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range&aim=0.04")
    stage = page.locator("#range")
    expect(stage.get_by_test_id("aim")).to_contain_text("you would pay")
    stage.get_by_label(re.compile("^Put in at this aim")).fill("2500")
    stage.get_by_role("button", name="Keep as a step").click()
    step = stage.get_by_role("row", name=re.compile("yield of 4.00"))
    expect(step).to_contain_text("2,500.00")
    page.goto("/review/ELV/TRS?stage=range")
    stage.get_by_role("button", name=re.compile("yield of 4.00")).first.click()
    expect(page).to_have_url(re.compile("aim=0.04"))
    assert serious(page) == []
    stage.get_by_role("button", name=re.compile("^Delete the step")).click()
    expect(step).to_have_count(0)


def test_breadth_is_read_and_leads_to_a_payer(page: Page) -> None:
    page.goto("/payers/breadth")
    expect(page.get_by_test_id("breadth")).to_contain_text("yield more than their own mean")
    page.get_by_role("application", name=re.compile("^Share of payers")).focus()
    expect(page.get_by_text(re.compile("of 57 payers, "))).to_be_visible()
    assert serious(page) == []
    page.get_by_role("link", name="Ashcombe Timber").click()
    expect(page).to_have_url(re.compile("/review/.*stage=range"))


def test_another_payer_is_drawn_by_its_name(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range&range=price")
    stage = page.locator("#range")
    field = stage.get_by_label("Beside another payer")
    field.fill("Marlpit")
    page.wait_for_timeout(600)
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("beside=ELV"))
    expect(stage.get_by_text(re.compile("Marlpit Broadcasting")).first).to_be_visible()

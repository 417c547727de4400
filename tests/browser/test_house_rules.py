"""House rules in the page: a limit is moved, its effect read, saved, restored; exceptions."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_a_limit_is_moved_its_effect_read_saved_and_restored(page: Page) -> None:
    page.goto("/house-rules")
    aside = page.get_by_role("complementary", name="What would change")
    expect(aside).to_contain_text("59 payers are held against these rules")
    limit = page.get_by_label("Net debt to EBITDA, companies", exact=True)
    limit.fill("1")
    expect(aside).to_contain_text(re.compile(r"\d+ of 59 payers would change state"))
    expect(aside.get_by_role("link", name="Tallow & Reed Soapworks")).to_be_visible()
    assert serious(page) == []

    page.reload()
    expect(limit).to_have_value("1.0")
    aside.get_by_label(re.compile("^Why")).fill("Less debt")
    aside.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Less debt")).to_be_visible()
    expect(aside).to_contain_text("59 payers are held against these rules")
    page.goto("/review/ELV/TRS?stage=footing")
    expect(page.locator("#footing")).to_contain_text("over your limit by 3.9 %")

    page.goto("/house-rules")
    with page.expect_response(lambda r: r.url.endswith("/restore")) as answered:
        page.get_by_role("button", name="Restore the version “the house’s own”").click()
    assert answered.value.status == 201, answered.value.text()
    expect(limit).to_have_value("3.0")
    assert serious(page) == []


def test_a_setting_that_moves_no_state_shows_what_it_does_to_prices(page: Page) -> None:
    page.goto("/house-rules")
    page.get_by_label("Margin of safety", exact=True).fill("30")
    aside = page.get_by_role("complementary", name="What would change")
    expect(aside).to_contain_text("No payer would change state.")
    told = re.compile(r"Buy-below would move for \d+ of \d+ payers, −12\.5\s%")
    expect(aside.get_by_test_id("price-effect")).to_have_text(told)
    expect(aside.get_by_role("row", name=re.compile("At or under buy-below"))).to_be_visible()
    assert serious(page) == []
    page.get_by_role("button", name="Drop the changes").click()
    expect(aside.get_by_test_id("price-effect")).to_have_count(0)


def test_an_exception_is_added_and_dropped(page: Page) -> None:
    page.goto("/house-rules")
    form = page.locator("form", has=page.get_by_role("button", name="Add exception"))
    form.get_by_label("For", exact=True).select_option("payer")
    form.get_by_label("Payer").fill("ELV/GWK")
    form.get_by_label("Test", exact=True).select_option("debt_to_ebitda")
    form.get_by_label("Limit", exact=True).fill("x")
    form.get_by_role("button", name="Add exception").click()
    expect(form.get_by_role("alert")).to_contain_text("nothing was added")
    form.get_by_label("Limit", exact=True).fill("6")
    form.get_by_role("button", name="Add exception").click()
    expect(page.get_by_role("listitem").filter(has_text="ELV/GWK")).to_contain_text(
        "6.0×, required"
    )
    page.get_by_role("button", name="Drop the changes").click()
    expect(page.get_by_role("listitem").filter(has_text="ELV/GWK")).to_have_count(0)


def test_house_rules_read_on_a_narrow_screen_and_in_the_past(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/house-rules?as_of=2012-06-29")
    expect(page.get_by_text("House rules are those of today")).to_be_visible()
    assert serious(page) == []


def test_looking_back_is_run_cancelled_run_again_and_a_miss_opened(page: Page) -> None:
    page.goto("/house-rules")
    page.get_by_role("button", name="Look back", exact=True).click()
    page.get_by_role("button", name="Cancel").click()
    page.get_by_role("button", name="Look back again").click()
    told = page.get_by_test_id("looked-back")
    expect(told).to_contain_text(re.compile(r"Of \d+ cuts, your limits were close or over"))
    assert serious(page) == []
    limit = page.get_by_label("Payout, leading basis, companies", exact=True)
    limit.fill("90")
    counts = page.get_by_role("table", name="What the limits would have said")
    expect(counts.get_by_role("columnheader", name="As being written")).to_be_visible()
    page.get_by_role("button", name="Drop the changes").click()
    cuts = page.get_by_role("table", name=re.compile("^Cuts, those missed first"))
    miss = cuts.get_by_role("link", name=re.compile("within limits$")).first
    miss.click()
    expect(page).to_have_url(re.compile(r"/review/.*as_of=\d{4}-12-31"))
    expect(page.get_by_text(re.compile("You are viewing 31 December"))).to_be_visible()

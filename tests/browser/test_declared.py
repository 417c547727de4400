"""What is declared in one place is found on the page."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.declared import throw_away_measure, throw_away_model  # noqa: F401 - fixtures


@pytest.mark.usefixtures("throw_away_measure")
def test_a_declared_measure_is_on_the_page(own_server: str, page: Page) -> None:
    page.goto(f"{own_server}/review/ELV/TRS")
    record = page.locator("#record")
    expect(record.get_by_text("counted one by one")).to_be_visible()
    test = record.get_by_role("row").filter(has_text="Payments on record")
    expect(test).to_contain_text("the count can fall")
    expect(test).to_contain_text("≥ 100")
    page.goto(f"{own_server}/payers?cols=record")
    expect(page.get_by_role("columnheader", name="Payments on record")).to_be_visible()
    page.get_by_role("button", name="Conditions").click()
    page.get_by_role("button", name="Add a condition").first.click()
    options = page.get_by_role("combobox").locator("option")
    expect(options.filter(has_text="Payments on record").first).to_be_attached()


@pytest.mark.usefixtures("throw_away_model")
def test_a_declared_model_is_priced_moved_and_switched_on_the_page(
    own_server: str, page: Page
) -> None:
    """20 × the declared rate of 1.98, then 10 ×; switched off it leaves the combined value."""
    page.goto(f"{own_server}/review/ELV/TRS?stage=worth")
    # By key: on a busy machine the page may still scroll to the stage under a pointer.
    page.locator("#worth").get_by_role("button", name=re.compile("Its dividends")).press("Enter")
    card = page.locator("#worth").get_by_role("row", name=re.compile("^Years of dividends"))
    expect(card).to_contain_text("39.60")
    expect(page.locator("#worth")).to_contain_text("years ± 5")
    page.get_by_role("textbox", name="Years of it").fill("10")
    expect(card).to_contain_text("19.80")
    expect(page).to_have_url(re.compile("years_of_it(:|%3A)10"))
    words = page.locator("#worth").get_by_role("row", name=re.compile("^Combined"))
    before = words.inner_text()
    card.get_by_role("checkbox").uncheck()
    expect(card).to_contain_text("switched off by you")
    expect(words).not_to_have_text(before)

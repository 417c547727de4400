"""From a review to a decision with expectations, and on to the journal."""

import re

import pytest
from playwright.sync_api import Page, expect


@pytest.fixture
def base_url(own_server: str) -> str:
    return own_server


def test_a_decision_with_an_expectation_is_found_in_the_journal(page: Page) -> None:
    page.goto("/watch")
    expect(page.get_by_text("Nothing is waited for yet.")).to_be_visible()
    page.goto("/journal")
    expect(page.get_by_text("No decision is recorded yet.")).to_be_visible()
    page.goto("/review/ELV/TRS?stage=decision")
    stage = page.locator("#decision")
    stage.get_by_text("wait", exact=True).click()
    stage.get_by_label("In your own words").fill("The price has run ahead.")
    stage.get_by_label("Trim above").fill("82")
    stage.get_by_label("Next look").fill("2026-12-01")
    stage.get_by_text("Pros, cons and risks").click()
    stage.get_by_label("Pros (one a line)").fill("29 raises in a row")
    stage.get_by_label("How much").press("Enter")
    expect(stage.get_by_text("Say by how much.")).to_be_visible()
    stage.get_by_label("How much").fill("6")
    stage.get_by_label("How much").press("Enter")
    expect(stage.get_by_text(re.compile("Declared rate grows at least 6.0"))).to_be_visible()
    page.reload()
    expect(stage.get_by_text(re.compile("Declared rate grows at least 6.0"))).to_be_visible()
    stage.get_by_role("button", name="Record the decision").click()
    expect(stage.get_by_text("Recorded.")).to_be_visible()
    past = stage.get_by_role("article")
    expect(past).to_contain_text("trim above 82.00 TLL")
    expect(past).to_contain_text("cannot be told yet")

    with page.expect_popup() as opened:
        past.get_by_role("link", name=re.compile("^Memo, to print")).click()
    memo = opened.value
    expect(memo.get_by_role("heading", level=1)).to_have_text("Tallow & Reed Soapworks: wait")
    expect(memo.get_by_text("29 raises in a row")).to_be_visible()
    sheets = memo.pdf(prefer_css_page_size=True)
    assert len(re.findall(rb"/Type\s*/Page[^s]", sheets)) == 2
    memo.close()
    with page.expect_download() as saved:
        past.get_by_role("link", name=re.compile("^Save as a file: the memo")).click()
    assert saved.value.suggested_filename == "trs-2026-06-30.html"

    page.get_by_role("link", name="Journal").click()
    entry = page.get_by_role("article", name=re.compile("Tallow & Reed Soapworks"))
    expect(entry).to_contain_text("The price has run ahead.")
    expect(entry).to_contain_text("Next look: 1 December 2026.")
    entry.get_by_role("button", name=re.compile("^Note on looking back")).click()
    entry.get_by_label("What you see, looking back").fill("I was too cautious.")
    entry.get_by_role("button", name="Save the note").click()
    expect(entry).to_contain_text("I was too cautious.")
    page.get_by_role("link", name="Watch").click()
    waited = page.get_by_role("region", name="What is waited for")
    expect(waited).to_contain_text("trim above 82.00 TLL")
    expect(page.get_by_text("Nobody is within reach")).to_be_visible()
    page.go_back()
    page.get_by_label("Outcome").select_option("off")
    expect(page.get_by_text("None is like that.")).to_be_visible()
    page.go_back()
    expect(entry).to_be_visible()


def test_a_place_is_printed_without_the_frame(page: Page) -> None:
    page.goto("/compare?compared=ELV/TRS,ELV/AMLH")
    expect(page.get_by_role("region", name="Measures compared")).to_be_visible()
    page.emulate_media(media="print")
    expect(page.get_by_role("navigation", name="Places")).to_be_hidden()
    expect(page.get_by_role("region", name="Measures compared")).to_be_visible()

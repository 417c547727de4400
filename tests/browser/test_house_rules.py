"""House rules in the page: a limit is moved, its effect read, saved, restored; exceptions."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_looking_back_is_run_cancelled_run_again_and_a_miss_opened(
    page: Page, own_server: str
) -> None:
    page.goto(f"{own_server}/house-rules")
    page.get_by_role("button", name="Look back", exact=True).click()
    page.get_by_role("button", name="Cancel").click()
    page.get_by_role("button", name="Look back again").click()
    told = page.get_by_test_id("looked-back")
    expect(told).to_contain_text(re.compile(r"Of \d+ cuts, your limits were close or outside"))
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

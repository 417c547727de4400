"""The demo's day moves on: what was waited for is told on the Hearth, seen, and gone."""

import math
import re

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.patience import SECONDS


def decided(url: str, symbol: str, **more: object) -> None:
    body = {"verdict": "wait", "words": "Not yet.", "as_of": "2026-06-30", **more}
    answer = httpx.post(
        f"{url}/api/payers/ELV/{symbol}/decisions",
        json=body,
        headers={"origin": url},
        timeout=SECONDS,
    )
    assert answer.status_code == 201, answer.text


def move_on(page: Page, to: str) -> None:
    page.get_by_role("button", name=re.compile("^As of")).click()
    page.get_by_label("to a day").fill(to)
    page.get_by_role("button", name="Move on").click()
    expect(page.get_by_text(re.compile("^What was published is in"))).to_be_visible()
    page.keyboard.press("Escape")


def test_a_target_reached_is_told_seen_and_does_not_return(page: Page, moving_server: str) -> None:
    review = httpx.get(f"{moving_server}/api/payers/ELV/TRS/review", timeout=SECONDS).json()
    (price,) = [h["figure"]["value"] for h in review["head"] if h["name"] == "Price"]
    above = f"{math.ceil(price + 1)}.00"
    decided(moving_server, "TRS", buy_below=above)
    page.goto(moving_server)
    needs = page.get_by_role("region", name="Needs you")
    expect(needs.get_by_role("link", name="Tallow & Reed Soapworks")).to_be_visible()
    reached = needs.get_by_role("link", name=re.compile("Buy-below price reached: Closed at"))
    expect(reached).to_contain_text(f"at or under your buy-below price of {above} TLL")
    needs.get_by_role("button", name="Seen: Tallow & Reed Soapworks").click()
    expect(reached).to_have_count(0)
    page.get_by_role("button", name=re.compile("^As of")).click()
    page.get_by_role("button", name="next day").click()
    expect(page.get_by_role("button", name=re.compile("^As of 1 July 2026"))).to_be_visible()
    page.keyboard.press("Escape")
    page.reload()
    expect(page.get_by_role("heading", name="New since you looked")).to_be_visible()
    expect(page.get_by_text("Looking …")).to_have_count(0)
    expect(reached).to_have_count(0)
    page.get_by_role("button", name="Show what was seen too").click()
    what = page.get_by_role("region", name="What happened")
    expect(what.get_by_role("link", name=re.compile("Buy-below price reached"))).to_be_visible()
    what.get_by_role("link", name=re.compile("Buy-below price reached")).click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Tallow & Reed Soapworks")
    expect(page).to_have_url(re.compile("stage=range"))


def test_two_years_on_expectations_are_judged_and_a_cut_is_told(
    page: Page, moving_server: str
) -> None:
    rate = {
        "measure": "declared_rate",
        "way": "level",
        "side": "at_least",
        "value": 1.0,
        "until": "2027-12-31",
    }
    decided(moving_server, "WKTG", next_look="2027-01-15", expectations=[rate])
    page.goto(moving_server)
    expect(page.get_by_role("heading", name="Hearth")).to_be_visible()
    move_on(page, "2028-06-30")
    expect(page.get_by_role("button", name=re.compile("^As of 30 June 2028"))).to_be_visible()
    needs = page.get_by_role("region", name="Needs you")
    mine = needs.get_by_role("listitem").filter(has_text="Wickham Bay Telegraph").first
    expect(mine.get_by_text(re.compile("did not come true"))).to_be_visible()
    expect(mine.get_by_text(re.compile("^Next look due"))).to_have_count(1)
    cut = mine.get_by_role("link", name=re.compile("Dividend cut: Declared"))
    expect(cut).to_contain_text("down 40 % from")
    cut.click()
    expect(page.get_by_text(re.compile("You are viewing"))).to_contain_text("22 October 2026")
    page.goto(f"{moving_server}/journal")
    expect(
        page.get_by_text(re.compile("Did not come true|did not come true")).first
    ).to_be_visible()
    page.get_by_role("link", name="Its reviews side by side").click()
    beside = page.get_by_role("region", name="Its reviews side by side")
    row = beside.get_by_role("row", name=re.compile("^Declared rate"))
    expect(row.get_by_role("cell").nth(1)).to_have_text(re.compile(r"^0\.\d\d$"))
    before, now = (float(row.get_by_role("cell").nth(n).inner_text()) for n in (0, 1))
    assert now / before == pytest.approx(0.6, abs=0.02)
    page.goto(f"{moving_server}/sources?tab=import")
    page.get_by_role("button", name=re.compile("^Undo the import of the Sundrey market")).click()
    expect(page.get_by_text(re.compile("^undone"))).to_be_visible()

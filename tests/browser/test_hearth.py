"""The first page: what needs the person, who is near, what is declared."""

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import serious

pytestmark = pytest.mark.xdist_group("browser")


@pytest.fixture
def base_url(own_server: str) -> str:
    return own_server


def test_a_price_reached_is_told_on_the_hearth_with_a_way_to_it(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_text("Nothing needs you today.")).to_be_visible()
    expect(page.get_by_text(re.compile("^Of 59 payers"))).to_be_visible()
    expect(page.get_by_text(re.compile("yield more than their own five-year mean"))).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Greywake Kilns"))).to_contain_text("TLL")
    assert serious(page) == []
    page.request.post(
        "/api/payers/ELV/TRS/decisions",
        data={"verdict": "buy", "words": "Now.", "as_of": "2026-06-30", "buy_below": "900"},
    )
    page.reload()
    said = page.get_by_text(re.compile("has come within reach"))
    expect(said).to_contain_text("Tallow & Reed Soapworks")
    said.get_by_role("link").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Tallow & Reed Soapworks")


def test_the_hearth_of_a_past_day_knows_only_that_day(page: Page) -> None:
    page.goto("/?as_of=2016-06-30")
    expect(page.get_by_text(re.compile("^You are viewing"))).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Jul 2016|Jul.*"))).not_to_have_count(0)

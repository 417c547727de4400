"""Price in the page: a span is chosen, a day read, a level drawn, moved and found after reload."""

import re

from playwright.sync_api import Page, expect

PRICE = "/review/ELV/TRS?stage=range&range=price"


def test_a_drag_chooses_a_span(page: Page) -> None:
    page.goto(PRICE)
    chart = page.get_by_role("application", name=re.compile("^Prices from"))
    chart.scroll_into_view_if_needed()
    box = chart.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 200, box["y"] + 120)
    page.mouse.down()
    page.mouse.move(box["x"] + 400, box["y"] + 120, steps=5)
    page.mouse.up()
    expect(page).to_have_url(re.compile("span="))
    expect(page.get_by_test_id("put-in")).to_be_visible()

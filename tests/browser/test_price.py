"""Price in the page: a span is chosen, a day read, a level drawn, moved and found after reload."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious

PRICE = "/review/ELV/TRS?stage=range&range=price"


def test_a_span_is_chosen_and_what_it_brought_is_read(page: Page) -> None:
    page.goto(PRICE)
    stage = page.locator("#range")
    told = page.get_by_test_id("put-in")
    expect(told).to_contain_text("10,000 put in on 5 January 1996")
    stage.get_by_role("button", name="10 years").click()
    expect(told).to_contain_text("in the market, dividends put back in")
    expect(told).to_contain_text(re.compile("a year came from .* growth of declared rate"))
    expect(stage.get_by_role("columnheader", name="chosen span")).to_be_visible()
    assert serious(page) == []

    stage.get_by_label("from", exact=True).fill("2019-02-04")
    stage.get_by_label("to", exact=True).fill("2020-03-31")
    expect(told).to_contain_text("on 27 March 2020")
    page.reload()
    expect(told).to_contain_text("on 27 March 2020")
    stage.get_by_role("button", name="all", exact=True).click()
    expect(told).to_contain_text("5 January 1996")


def test_a_day_is_read_and_a_span_chosen_by_keyboard(page: Page) -> None:
    page.goto(PRICE)
    chart = page.get_by_role("application", name=re.compile("^Prices from"))
    chart.focus()
    read = page.get_by_test_id("price-read")
    expect(read).to_contain_text("30 June 2026: Tallow & Reed Soapworks 61.76 TLL")
    page.keyboard.press("ArrowLeft")
    expect(read).to_contain_text("29 June 2026")
    for _ in range(4):
        page.keyboard.press("Shift+PageDown")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("between=20.*2026-06-29"))


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
    expect(page).to_have_url(re.compile("between="))
    expect(page.get_by_test_id("put-in")).to_be_visible()


def test_a_level_is_drawn_moved_named_and_found_after_reload(page: Page) -> None:
    page.goto(PRICE)
    stage = page.locator("#range")
    stage.get_by_role("button", name="a level", exact=True).click()
    level = stage.get_by_role("slider", name="level")
    expect(level).to_have_attribute("aria-valuetext", "61.76")
    level.focus()
    page.keyboard.press("ArrowDown")
    expect(level).to_have_attribute("aria-valuetext", "61.45")
    name = stage.get_by_label("Name of level")
    name.fill("first buy")
    with page.expect_response(lambda r: "first buy" in (r.request.post_data or "")):
        name.press("Enter")
    page.reload()
    level = stage.get_by_role("slider", name="first buy")
    expect(level).to_have_attribute("aria-valuetext", "61.45")
    assert serious(page) == []
    stage.get_by_role("button", name="Take away first buy").click()
    expect(level).to_have_count(0)


def test_it_stands_beside_the_market_and_another_payer(page: Page) -> None:
    page.goto(PRICE)
    stage = page.locator("#range")
    stage.get_by_role("button", name="against the market").click()
    expect(stage).to_contain_text("Sundrey market, all payers alike")
    stage.get_by_label("Beside another payer").fill("elv/gwk")
    stage.get_by_role("button", name="Draw it").click()
    expect(stage).to_contain_text("Greywake Kilns")
    stage.get_by_label("Beside another payer").fill("elv/none")
    stage.get_by_role("button", name="Draw it").click()
    expect(stage.get_by_role("alert")).to_be_visible()
    stage.get_by_role("button", name="ELV/NONE × take away").click()
    expect(stage.get_by_role("alert")).to_have_count(0)


def test_a_newcomer_and_one_that_never_paid_have_a_course(page: Page) -> None:
    for symbol in ("NWO", "QLN", "RVGF"):
        page.goto(f"/review/ELV/{symbol}?stage=range&range=price")
        expect(page.get_by_test_id("put-in")).to_be_visible()
        page.set_viewport_size({"width": 390, "height": 844})
        assert serious(page) == []

"""The Payers place: a search built and saved by keyboard, groups, columns, marks, far rows."""

import re

from playwright.sync_api import Page, expect

ROWS = "tbody tr[data-place]"


def test_build_a_search_by_keyboard_and_save_it(page: Page) -> None:
    page.goto("/payers")
    expect(page.get_by_role("link", name="Adderstone Pumps")).to_be_visible()
    page.get_by_role("button", name="Conditions").focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Tab")
    for _ in range(6):
        if page.evaluate("document.activeElement.textContent").strip() == "Add a condition":
            break
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    measure = page.get_by_label("Measure", exact=True)
    expect(measure).to_be_focused()
    page.keyboard.type("Yield vs its 5")
    expect(measure).to_have_value("deviation")
    page.keyboard.press("Tab")
    page.keyboard.press("Tab")
    page.keyboard.type("10")
    expect(page.get_by_text(re.compile(r"\d+ of 59 meet it"))).to_be_visible()
    page.get_by_role("button", name="Add a condition").focus()
    page.keyboard.press("Enter")
    second = page.get_by_label("Measure", exact=True).nth(1)
    expect(second).to_be_focused()
    page.keyboard.type("State")
    expect(second).to_have_value("state")
    page.keyboard.press("Tab")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.get_by_role("menuitemcheckbox", name="within").first.focus()
    with page.expect_response(lambda r: "/api/payers?" in r.url and "within" in r.url) as answer:
        page.keyboard.press("Enter")
    page.keyboard.press("Escape")
    found = answer.value.json()["found"]
    assert 0 < found < 40
    expect(page.locator(ROWS)).to_have_count(found)

    page.get_by_role("button", name="Saved searches").focus()
    page.keyboard.press("Enter")
    page.get_by_label("Save this search as").focus()
    page.keyboard.type("Covered and cheap")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Covered and cheap", exact=True)).to_be_visible()

    page.goto("/payers")
    expect(page.get_by_text("59 of 59")).to_be_visible()
    page.get_by_role("button", name="Saved searches").click()
    page.get_by_role("button", name="Covered and cheap", exact=True).click()
    expect(page.locator(ROWS)).to_have_count(found)
    expect(page.get_by_text("yield above its 5-year mean by at least 10")).to_contain_text(
        "and state is within limits"
    )
    page.get_by_role("button", name="Saved searches").click()
    page.get_by_role("button", name="Remove Covered and cheap").click()
    page.get_by_role("button", name="Bring it back").click()
    expect(page.get_by_role("button", name="Covered and cheap", exact=True)).to_be_visible()


def test_marked_payers_are_exported(page: Page) -> None:
    page.goto("/payers?q=brewing")
    page.get_by_role("checkbox", name="Mark Maplewick Brewing").check()
    expect(page.get_by_text("1 payer marked")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("button", name="Export their facts").click()
    assert download.value.suggested_filename == "mpwk-2026-06-30.zip"
    page.goto("/payers")
    expect(page.get_by_role("checkbox", name="Mark all payers found")).to_be_visible()
    expect(page.get_by_text("1 payer marked")).to_be_visible()
    page.get_by_role("button", name="Unmark").click()
    page.get_by_role("checkbox", name="Mark all payers found").click()
    expect(page.get_by_text("59 payers marked")).to_be_visible()


def test_only_rows_in_sight_are_drawn_and_far_ones_come_when_scrolled_to(page: Page) -> None:
    page.goto("/payers")
    expect(page.get_by_role("link", name="Adderstone Pumps")).to_be_visible()
    assert page.locator(ROWS).count() < 40
    page.get_by_role("region", name="Payers found").evaluate(
        "e => { e.scrollTop = e.scrollHeight }"
    )
    expect(page.get_by_role("link", name="Zephyr Mills Power")).to_be_visible()
    expect(page.get_by_role("columnheader", name="Payer")).to_be_in_viewport()
    page.get_by_role("button", name="Worth", exact=True).click()
    expect(page.get_by_role("columnheader", name=re.compile("Buy.below price"))).to_be_visible()

"""Every part of Sources and of the payers' table in both themes, at every width and by keyboard."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from .conftest import CONTEXT, IN_ANOTHER_THEME, ON_A_PHONE, WCAG, serious

pytestmark = pytest.mark.xdist_group("browser")
WHERE = (
    "%7B%22join%22%3A%22all%22%2C%22parts%22%3A%5B%7B%22id%22%3A%22deviation%22%2C%22op%22%3A"
    "%22at_least%22%2C%22value%22%3A0.05%7D%5D%7D"
)
PARTS = (
    "/sources",
    "/sources?tab=shared",
    "/sources?tab=shared&code=THK-IN-TLL",
    "/sources?tab=import",
    "/sources?tab=edits",
    "/sources?tab=export",
    "/sources/ELV/SLTM?span=year",
    "/sources/ELV/TRS?tab=dividends",
    "/sources/ELV/TRS?tab=payers",
    "/payers?by=industry",
    f"/payers?where={WHERE}&cols=cover",
)


@pytest.fixture
def base_url(own_server: str) -> str:
    return own_server


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_axe_finds_nothing_serious_in_any_part(page: Page, theme: str) -> None:
    page.add_init_script(f"localStorage.setItem('hearth.theme', '{theme}')")
    for address in PARTS:
        page.goto(address)
        page.wait_for_load_state("networkidle")
        only = WCAG if theme == "light" else IN_ANOTHER_THEME
        assert serious(page, only) == [], address


def test_no_part_is_wider_than_a_phone(browser: Browser, base_url: str) -> None:
    page = browser.new_page(**(CONTEXT | {"viewport": {"width": 390, "height": 844}}))
    for address in PARTS:
        page.goto(base_url + address)
        page.wait_for_load_state("networkidle")
        wide = page.evaluate("document.documentElement.scrollWidth")
        assert wide <= 390, address
        assert serious(page, ON_A_PHONE) == [], address
    page.close()


def press(page: Page, *keys: str) -> None:
    for key in keys:
        page.keyboard.press(key)


def test_a_close_is_excluded_by_keyboard_alone(page: Page) -> None:
    page.goto("/sources/ELV/GWK?tab=prices")
    button = page.get_by_role("button", name="Exclude: prices 2026-06-30")
    button.focus()
    press(page, "Enter")
    reason = page.get_by_label("Why it should not count")
    expect(reason).to_be_focused()
    press(page, "Escape")
    expect(reason).to_have_count(0)
    expect(button).to_be_focused()
    press(page, "Enter")
    page.keyboard.type("A misread close")
    press(page, "Tab", "Enter")
    again = page.get_by_role("button", name="Count again: prices 2026-06-30")
    expect(again).to_be_visible()
    page.goto("/payers?q=greywake&cols=price,yield")
    row = page.get_by_role("row", name=re.compile("Greywake"))
    expect(row.get_by_label("rests on a figure you edited")).to_have_count(2)
    expect(page.get_by_text("Updating measures")).to_have_count(0)
    page.goto("/sources/ELV/GWK?tab=prices")
    again.focus()
    press(page, "Enter")
    expect(button).to_be_visible()


def test_columns_are_found_by_name_and_amounts_say_their_currency(page: Page) -> None:
    page.goto("/payers?cols=yield&q=brackenholt")
    page.get_by_role("button", name="Own columns").click()
    page.get_by_label("Find a column").fill("ffo worst")
    expect(page.get_by_role("checkbox", name="AFFO payout, worst of ten")).to_be_visible()
    expect(page.get_by_role("checkbox", name="Yield", exact=True)).to_have_count(0)
    page.get_by_label("Find a column").fill("price")
    page.get_by_role("checkbox", name="Price", exact=True).check()
    page.keyboard.press("Escape")
    expect(page.get_by_role("columnheader", name="Price, THK")).to_be_visible()
    page.goto("/payers?cols=price&q=transport")
    expect(page.get_by_role("columnheader", name="Price, TLL")).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Brackenholt"))).to_contain_text("THK")
    expect(page.get_by_role("row", name=re.compile("Corrie"))).not_to_contain_text("TLL")


def test_a_note_and_the_payer_itself_by_hand_carry_their_pencil(page: Page) -> None:
    page.goto("/sources/ELV/TRS?tab=payers")
    page.get_by_role("button", name=re.compile("^Edit: payers")).click()
    expect(page.get_by_label("Symbol, 1", exact=True)).not_to_be_editable()
    page.get_by_label("Rhythm, 1").fill("4")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept, as source no. 2.")).to_be_visible()
    page.get_by_role("button", name="Payer notes").click()
    page.get_by_role("button", name="Enter by hand").click()
    page.get_by_label("Field, 1").select_option("industry")
    page.get_by_label("Published on, 1").fill("2026-06-30")
    page.get_by_label("Value, 1", exact=True).fill("Soap and candles")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept, as source no. 3.")).to_be_visible()
    page.goto("/review/ELV/TRS")
    head = page.get_by_text(re.compile("Soap and candles"))
    expect(head.get_by_label("rests on a figure entered by hand")).to_have_count(2)
    assert serious(page) == []
    page.goto("/payers?cols=industry&q=tallow")
    cell = page.get_by_role("row", name=re.compile("Tallow"))
    expect(cell.get_by_label("rests on a figure entered by hand")).to_be_visible()
    page.goto("/sources?q=tallow")
    notes = page.get_by_role("link", name=re.compile("Tallow & Reed Soapworks, Notes"))
    expect(notes).to_contain_text("typed: payer notes of TRS (no. 3)")


def test_what_stands_in_the_address_is_what_is_shown_again(page: Page) -> None:
    page.goto("/sources/ELV/SLTM")
    page.get_by_role("combobox", name=re.compile("^Show")).select_option("year")
    expect(page).to_have_url(re.compile("span=year"))
    page.reload()
    heads = page.get_by_role("columnheader")
    expect(heads.filter(has_text="version of")).to_have_count(2)
    expect(heads.filter(has_text="quarter to")).to_have_count(0)
    page.get_by_role("button", name="Dividends", exact=True).click()
    expect(page).not_to_have_url(re.compile("span="))
    page.go_back()
    expect(heads.filter(has_text="version of")).to_have_count(2)

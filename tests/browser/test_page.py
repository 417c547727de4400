"""How single views behave: access, as-of, bad input, small screens, keys."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from .conftest import CONTEXT, serious

pytestmark = pytest.mark.xdist_group("browser")
TRS = "/review/ELV/TRS"


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("address", ["/payers", TRS, "/review/ELV/QLN", "/sources"])
def test_axe_finds_nothing_serious(page: Page, theme: str, address: str) -> None:
    page.add_init_script(f"localStorage.setItem('hearth.theme', '{theme}')")
    page.goto(address)
    page.wait_for_load_state("networkidle")
    expect(page.locator("html")).to_have_attribute("data-theme", theme)
    assert serious(page) == []


def test_axe_finds_nothing_serious_in_the_drawer(page: Page) -> None:
    page.goto(f"{TRS}?open=ELV/TRS/range.count")
    expect(page.get_by_role("dialog")).to_contain_text("260 weeks")
    assert serious(page) == []


def test_the_payers_table_is_one_tab_stop_with_arrows_inside(page: Page) -> None:
    page.goto("/payers")
    first = page.get_by_role("link", name="Corrie Ferries")
    first.focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("link", name="Fennimore Dyes")).to_be_focused()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("button", name=re.compile("^yield: 3.54"))).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("Declared rate ÷ price")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Fennimore Dyes").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("Fennimore Dyes")


def test_sorting_and_searching_live_in_the_url(page: Page) -> None:
    page.goto("/payers")
    page.get_by_role("button", name="First to give").click()
    expect(page.locator("tbody tr").first).to_contain_text("Greywake Kilns")
    page.get_by_role("button", name="First to give").click()
    expect(page).to_have_url(re.compile("descending=true"))
    page.get_by_placeholder("name, symbol, kind or sector").fill("materials")
    expect(page.locator("tbody tr")).to_have_count(2)
    page.reload()
    expect(page.locator("tbody tr")).to_have_count(2)


def test_n_and_p_read_on_in_the_order_of_the_list(page: Page) -> None:
    page.goto("/payers?sort=yield&descending=true")
    page.get_by_role("link", name="Whinmoor Pipeline Partners").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Whinmoor Pipeline Partners")
    page.wait_for_load_state("networkidle")
    page.keyboard.press("n")
    expect(page.get_by_role("heading", level=1)).to_have_text("Lintel Row Homes Trust")
    page.keyboard.press("p")
    expect(page.get_by_role("heading", level=1)).to_have_text("Whinmoor Pipeline Partners")


def test_standing_on_a_past_day_shows_the_band_and_no_decision_form(page: Page) -> None:
    page.goto(f"{TRS}?as_of=2019-05-03&stage=decision")
    expect(page.get_by_text("You stand on 3 May 2019")).to_be_visible()
    expect(page.get_by_role("button", name="Record the decision")).to_have_count(0)
    expect(page.get_by_text("Raised 17 years running")).to_be_visible()
    page.get_by_role("button", name="Back to today").click()
    expect(page.get_by_text("You stand on")).to_have_count(0)
    expect(page.get_by_text("Raised 24 years running")).to_be_visible()
    page.go_back()
    expect(page.get_by_text("You stand on 3 May 2019")).to_be_visible()


def test_an_input_out_of_bounds_is_named_and_kept(page: Page) -> None:
    page.goto(f"{TRS}?stage=worth")
    growth = page.get_by_label("Dividends grow")
    growth.fill("80")
    expect(page.get_by_text(re.compile("Growth must lie between"))).to_be_visible()
    expect(growth).to_have_value("80")
    expect(page.get_by_role("row", name=re.compile("Constant growth"))).to_contain_text("69.24")
    growth.fill("8")
    expect(page.get_by_text(re.compile("not below the required return"))).to_be_visible()
    growth.fill("3")
    expect(page.get_by_role("row", name=re.compile("Constant growth"))).to_contain_text("40.76")


def test_a_refused_decision_keeps_what_was_typed(page: Page) -> None:
    page.goto(f"{TRS}?stage=decision")
    page.get_by_label("In your own words").fill("half a thought")
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_role("alert")).to_contain_text("Choose a verdict")
    page.reload()
    expect(page.get_by_label("In your own words")).to_have_value("half a thought")
    page.get_by_text("hold", exact=True).click()
    page.get_by_label(re.compile("^Buy below")).fill("cheap")
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_role("alert")).to_be_visible()
    expect(page.get_by_label(re.compile("^Buy below"))).to_have_value("cheap")


def test_a_price_typed_at_the_ruler_sets_the_aim(page: Page) -> None:
    page.goto(f"{TRS}?stage=range")
    price = page.get_by_label("Price, TLL")
    price.fill("50")
    price.press("Enter")
    expect(page.get_by_test_id("aim")).to_contain_text("At 3.96")
    expect(page.get_by_test_id("aim")).to_contain_text("never in this window")


def test_every_chart_has_a_table(page: Page) -> None:
    page.goto(TRS)
    figures = page.locator("figure")
    expect(figures).to_have_count(3)
    for i in range(3):
        chart = figures.nth(i)
        assert len(chart.locator("p.sr-only").inner_text()) > 60
        chart.get_by_role("button", name="table").click()
        assert chart.get_by_role("row").count() > 10


@pytest.mark.parametrize("address", ["/payers", TRS, "/review/ELV/PLG?stage=worth", "/sources"])
def test_a_narrow_screen_never_scrolls_sideways(
    browser: Browser, base_url: str, address: str
) -> None:
    context = browser.new_context(**(CONTEXT | {"viewport": {"width": 390, "height": 844}}))
    page = context.new_page()
    page.goto(base_url + address)
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth") == 390
    context.close()


def test_single_keys_can_be_switched_off(page: Page) -> None:
    page.goto("/payers")
    expect(page.get_by_role("link", name="Corrie Ferries")).to_be_visible()
    page.keyboard.press("?")
    page.get_by_role("switch", name="Single keys act").click()
    page.get_by_role("button", name="Close").click()
    page.keyboard.press("/")
    expect(page.get_by_placeholder("Find a payer, a place, an action")).not_to_be_focused()


def test_what_is_not_there_says_so(page: Page) -> None:
    page.goto("/review/ELV/NOBODY")
    expect(page.get_by_role("alert")).to_contain_text("no payer NOBODY on ELV is held")
    page.goto("/nowhere")
    expect(page.get_by_text("There is nothing at this address")).to_be_visible()

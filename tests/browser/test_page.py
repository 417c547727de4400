"""How single views behave: access, as-of, bad input, small screens, keys."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from .conftest import CONTEXT, IN_ANOTHER_THEME, WCAG, serious

pytestmark = pytest.mark.xdist_group("browser")
TRS = "/review/ELV/TRS"


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("address", ["/payers", TRS, "/review/ELV/QLN", "/sources"])
def test_axe_finds_nothing_serious(page: Page, theme: str, address: str) -> None:
    page.add_init_script(f"localStorage.setItem('hearth.theme', '{theme}')")
    page.goto(address)
    page.wait_for_load_state("networkidle")
    expect(page.locator("html")).to_have_attribute("data-theme", theme)
    assert serious(page, WCAG if theme == "light" else IN_ANOTHER_THEME) == []


def test_axe_finds_nothing_serious_in_the_drawer(page: Page) -> None:
    page.goto(f"{TRS}?open=ELV/TRS/range.weeks")
    expect(page.get_by_role("dialog")).to_contain_text("260 weeks")
    assert serious(page) == []


def test_the_payers_table_is_one_tab_stop_with_arrows_inside(page: Page) -> None:
    page.goto("/payers")
    first = page.get_by_role("link", name="Adderstone Pumps")
    first.focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_role("link", name="Amberlough Mustard")).to_be_focused()
    page.keyboard.press("ArrowRight")
    row = page.get_by_role("row", name=re.compile("Amberlough"))
    expect(row.get_by_role("button", name=re.compile("^Yield: 3"))).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("Declared rate ÷ price")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Amberlough Mustard").focus()
    page.keyboard.press("End")
    last = page.get_by_role("row", name=re.compile("Zephyr Mills Power"))
    expect(last.get_by_role("checkbox")).to_be_focused()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("Zephyr Mills Power")


def test_sorting_and_searching_live_in_the_url(page: Page) -> None:
    page.goto("/payers")
    page.get_by_role("button", name="First to give").click()
    expect(page.locator("tbody tr[data-place]").first).to_contain_text("Wickham Bay Telegraph")
    page.get_by_role("button", name="First to give").click()
    expect(page).to_have_url(re.compile("descending=true"))
    page.get_by_placeholder("name, kind or sector").fill("materials")
    expect(page.locator("tbody tr[data-place]")).to_have_count(6)
    page.reload()
    expect(page.locator("tbody tr[data-place]")).to_have_count(6)


def test_n_and_p_read_on_in_the_order_of_the_list(page: Page) -> None:
    page.goto("/payers?sort=yield&descending=true")
    page.get_by_role("link", name="Whinmoor Pipeline Partners").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Whinmoor Pipeline Partners")
    page.wait_for_load_state("networkidle")
    page.keyboard.press("n")
    expect(page.get_by_role("heading", level=1)).to_have_text("Vellum & Dray Paper")
    page.keyboard.press("p")
    expect(page.get_by_role("heading", level=1)).to_have_text("Whinmoor Pipeline Partners")


def test_standing_on_a_past_day_shows_the_band_and_no_decision_form(page: Page) -> None:
    page.goto(f"{TRS}?as_of=2019-05-03&stage=decision")
    expect(page.get_by_text("You are viewing 3 May 2019")).to_be_visible()
    expect(page.get_by_role("button", name="Record the decision")).to_have_count(0)
    expect(page.get_by_text("Raised 22 years running")).to_be_visible()
    page.get_by_role("button", name="Back to today").click()
    expect(page.get_by_text("You are viewing")).to_have_count(0)
    expect(page.get_by_text("Raised 29 years running")).to_be_visible()
    page.go_back()
    expect(page.get_by_text("You are viewing 3 May 2019")).to_be_visible()


def test_an_input_out_of_bounds_is_named_and_kept(page: Page) -> None:
    page.goto(f"{TRS}?stage=worth")
    growth = page.get_by_role("textbox", name="Dividend growth")
    growth.fill("80")
    expect(page.get_by_text("between −50 % and 50 %; nothing changed")).to_be_visible()
    expect(growth).to_have_value("80")
    assert "growth" not in page.url
    expect(page.get_by_role("row", name=re.compile("Two stages"))).to_contain_text("56.34")
    growth.fill("1,234")
    expect(page.get_by_text("can be read as 1234 or as 1.234")).to_be_visible()
    growth.fill("7,5")
    expect(page).to_have_url(re.compile(r"growth(:|%3A)0\.075"))
    expect(growth).to_have_value("7,5")
    page.get_by_role("row", name=re.compile("Constant growth")).get_by_role("checkbox").check()
    growth.fill("8")
    expect(page.get_by_text(re.compile("not below the required return"))).to_be_visible()
    growth.fill("3")
    expect(page.get_by_role("row", name=re.compile("Constant growth"))).to_contain_text("40.85")
    growth.press("ArrowUp")
    expect(growth).to_have_value("3.10")


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
    expect(page.get_by_test_id("aim")).to_contain_text("At 3.97")
    expect(page.get_by_test_id("aim")).to_contain_text("never in this window")


def test_every_chart_has_a_table(page: Page) -> None:
    page.goto(TRS)
    figures = page.locator("figure")
    expect(figures).to_have_count(4)
    for i in range(4):
        chart = figures.nth(i)
        assert len(chart.locator("p.sr-only").inner_text()) > 60
        chart.get_by_role("button", name="table").click()
        assert chart.get_by_role("row").count() > 10


@pytest.mark.parametrize(
    "address",
    [
        "/payers",
        TRS,
        "/review/ELV/PLG?stage=worth",
        "/sources",
        "/sources?tab=import",
        "/house-rules",
        "/sources/ELV/TRS",
    ],
)
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
    expect(page.get_by_role("link", name="Adderstone Pumps")).to_be_visible()
    page.keyboard.press("?")
    page.get_by_role("switch", name="Single keys act").click()
    page.get_by_role("button", name="Close").click()
    page.keyboard.press("/")
    expect(page.get_by_placeholder("Search payers, measures and actions")).not_to_be_focused()


def test_what_is_not_there_says_so(page: Page) -> None:
    page.goto("/review/ELV/NOBODY")
    expect(page.get_by_role("alert")).to_contain_text("No payer NOBODY on ELV is held")
    page.goto("/nowhere")
    expect(page.get_by_text("There is nothing at this address")).to_be_visible()


def test_back_closes_the_drawer_and_forward_opens_it_again(page: Page) -> None:
    page.goto(TRS)
    page.get_by_role("button", name=re.compile("^declared rate: 1.98")).first.click()
    expect(page.get_by_role("dialog")).to_contain_text("newest regular payment", ignore_case=True)
    page.go_back()
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.go_forward()
    expect(page.get_by_role("dialog")).to_be_visible()


def test_a_model_can_be_switched_off_and_the_address_keeps_it(page: Page) -> None:
    page.goto(f"{TRS}?stage=worth")
    page.get_by_role("checkbox", name=re.compile("Yield reversion")).uncheck()
    expect(page.get_by_text("switched off by you")).to_be_visible()
    expect(page).to_have_url(re.compile("off=yield_reversion"))
    page.reload()
    expect(page.get_by_role("checkbox", name=re.compile("Yield reversion"))).not_to_be_checked()
    page.get_by_role("checkbox", name=re.compile("Yield reversion")).check()
    expect(page).not_to_have_url(re.compile("off="))


def test_a_model_that_does_not_suit_says_why_and_may_be_switched_on(page: Page) -> None:
    page.goto("/review/ELV/GWK?stage=worth")
    expect(page.get_by_text("the dividend was reduced on 20 May 2026")).to_be_visible()
    page.get_by_role("checkbox", name=re.compile("Yield reversion")).check()
    expect(page.get_by_text("switched on by you")).to_be_visible()
    expect(page).to_have_url(re.compile("on=yield_reversion"))


def test_another_window_is_another_mean(page: Page) -> None:
    page.goto(f"{TRS}?stage=range")
    rail = page.get_by_role("complementary", name="Findings")
    expect(rail).to_contain_text("its 5-year mean")
    page.get_by_role("button", name="10 years", exact=True).click()
    expect(rail).to_contain_text("its 10-year mean")
    expect(page.get_by_test_id("aim")).to_contain_text("of 520 weeks")


def test_any_year_may_be_picked_to_keep_pace_since(page: Page) -> None:
    page.goto(TRS)
    page.get_by_label("Second year, chosen from a list").select_option("2009")
    expect(page.get_by_text("Needed to keep pace since 2009")).to_be_visible()
    expect(page).to_have_url(re.compile("base_years=1996"))
    page.get_by_role("slider", name="First year to keep pace since").focus()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_text("Needed to keep pace since 1999")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Needed to keep pace since 1999")).to_be_visible()
    expect(page.get_by_text("Needed to keep pace since 2009")).to_be_visible()


def test_what_the_dividend_did_in_each_slump(page: Page) -> None:
    page.goto(f"{TRS}?stage=record&record=slumps")
    table = page.locator("#record").get_by_role("table", name="The dividend in past slumps")
    row = table.get_by_role("row", name=re.compile("The herring slump"))
    expect(row).to_contain_text("raised")
    row.get_by_role("button", name=re.compile("^declared rate over")).click()
    expect(page.get_by_role("dialog")).to_contain_text("Declared rate when it ended")


def test_real_terms_come_on_request(page: Page) -> None:
    page.goto(TRS)
    expect(page.get_by_text("line: in today’s money")).to_have_count(0)
    page.get_by_role("button", name="in today’s money").click()
    expect(page.get_by_text("line: in today’s money")).to_be_visible()
    expect(page).to_have_url(re.compile("real=true"))


def test_another_basis_draws_another_cover(page: Page) -> None:
    page.goto("/review/ELV/MRB?stage=cover")
    chart = page.locator("#cover figure")
    expect(chart).to_contain_text("2025 105")
    page.locator("#cover").get_by_role("button", name="earnings", exact=True).click()
    expect(chart).to_contain_text("2025 48")
    expect(page).to_have_url(re.compile("basis=earnings"))


def test_a_freak_year_is_named_in_the_table(page: Page) -> None:
    page.goto("/review/ELV/FND?stage=cover&basis=earnings")
    chart = page.locator("#cover figure")
    chart.get_by_role("button", name="table").click()
    expect(chart.get_by_role("row", name=re.compile("fiscal 2021"))).to_contain_text("freak year")


def test_every_test_opens_from_first_to_give(page: Page) -> None:
    page.goto("/review/ELV/SKW")
    page.locator("dt", has_text="First to give").locator("..").get_by_role("button").click()
    rows = page.get_by_role("dialog").get_by_role("row")
    expect(rows).to_have_count(16)
    expect(rows.nth(1)).to_contain_text("Free cash flow payout")


def test_the_rail_leads_to_its_stages(page: Page) -> None:
    page.goto(TRS)
    rail = page.get_by_role("complementary", name="Findings")
    rail.get_by_role("button", name="Worth", exact=True).click()
    expect(page.get_by_role("heading", level=2, name="Worth")).to_be_in_viewport()
    expect(page).to_have_url(re.compile("stage=worth"))


def test_a_day_is_chosen_from_the_top_of_the_page(page: Page) -> None:
    page.goto("/payers")
    page.get_by_role("button", name=re.compile("^As of")).click()
    page.get_by_role("button", name="10 years back").click()
    expect(page.get_by_text("You are viewing 30 June 2016")).to_be_visible()
    expect(page.get_by_text("59 of 59", exact=True)).to_be_visible()
    expect(page.get_by_text("Updating measures")).to_have_count(0)
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Amberlough Mustard").click()
    expect(page).to_have_url(re.compile("as_of=2016-06-30"))
    expect(page.get_by_text("Raised 19 years running")).to_be_visible()


def test_the_theme_is_kept(page: Page) -> None:
    page.goto("/payers")
    page.get_by_role("button", name="Dark theme").click()
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "dark")


def test_a_slump_and_a_suspension_can_be_read_without_seeing(page: Page) -> None:
    page.goto("/review/ELV/CRF")
    summary = page.locator("#record figure p.sr-only")
    expect(summary).to_contain_text("2020 0.00, suspended")
    expect(summary).to_contain_text("2021 0.22, resumed")


def test_a_moved_aim_asks_one_small_question_and_nothing_else(page: Page) -> None:
    page.goto(f"{TRS}?stage=range")
    expect(page.get_by_test_id("aim")).to_contain_text("At 3.21")
    expect(page.get_by_role("button", name="Record the decision")).to_be_attached()
    expect(page.get_by_text("Not decided yet.")).to_be_attached()
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(500)
    asked: list[str] = []
    page.on("request", lambda r: asked.append(r.url) if "/api/" in r.url else None)
    page.get_by_role("slider", name="Target yield").focus()
    page.keyboard.press("ArrowUp")
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(400)
    assert len(asked) == 1
    assert "/aim" in asked[0]


def test_a_dropped_file_is_previewed(page: Page) -> None:
    page.goto("/sources?tab=import")
    expect(page.get_by_text("Drop files here")).to_be_visible()
    page.evaluate(
        """() => {
          const files = new DataTransfer();
          const text = "exchange,symbol,day,close\\nELV,TRS,2026-06-28,65\\n";
          files.items.add(new File([text], "prices.csv"));
          const zone = document.querySelector("main .border-dashed");
          zone.dispatchEvent(new DragEvent("drop", { bubbles: true, dataTransfer: files }));
        }"""
    )
    expect(page.get_by_role("row", name="prices 1 0 0")).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_role("button", name="Import now")).to_have_count(0)


def test_facts_go_out_as_a_file(page: Page) -> None:
    page.goto("/sources?tab=export")
    with page.expect_download() as download:
        page.get_by_role("link", name="All facts as a Data Package").click()
    assert download.value.suggested_filename == "hearth-yield-2026-06-30.zip"
    page.goto(TRS)
    with page.expect_download() as download:
        page.get_by_role("link", name="Export data").click()
    assert download.value.suggested_filename == "trs-2026-06-30.zip"

"""Sources in the browser: paste a year, adjust a figure, see both where they are used."""

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import serious

pytestmark = pytest.mark.xdist_group("browser")


@pytest.fixture
def base_url(own_server: str) -> str:
    return own_server


YEAR = "\t".join  # a line of cells
BLOCK = "\n".join(
    (
        YEAR(("Period end", "2026-06-30")),
        YEAR(("Span", "year")),
        YEAR(("Published on", "2026-06-30")),
        YEAR(("Revenue", "1,310.4")),
        YEAR(("Net income", "140.0")),
        YEAR(("Operating cash flow", "190.0")),
        YEAR(("Capital expenditure", "40.0")),
        YEAR(("Dividends paid", "95.0")),
        YEAR(("Diluted shares", "42")),
        YEAR(("Something the product does not know", "7")),
    )
)


def paste(page: Page, into: str, text: str) -> None:
    page.get_by_label(into, exact=True).focus()
    page.evaluate(
        """text => {
          const data = new DataTransfer();
          data.setData("text/plain", text);
          document.activeElement.dispatchEvent(
            new ClipboardEvent("paste", { bubbles: true, cancelable: true, clipboardData: data }));
        }""",
        text,
    )


def test_paste_a_year_of_statements_and_read_it_in_the_review(page: Page) -> None:
    page.goto("/sources")
    page.get_by_role("link", name=re.compile("^Drewstone Locks, Fiscal years")).click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Drewstone Locks")
    page.get_by_role("button", name="Enter by hand").click()
    assert serious(page) == []
    paste(page, "Period end, 1", BLOCK)
    expect(page.get_by_role("region", name="Pasted cells")).to_contain_text("cells go where")
    page.get_by_role("button", name="Put them in").press("Enter")
    expect(page.get_by_label("Revenue, 1", exact=True)).to_have_value("1310.4")
    page.get_by_label("Diluted shares, 1").fill("43")
    expect(page.get_by_text("1 added, 0 changed")).to_be_visible()
    page.get_by_label("Net income, 1").fill("much")
    expect(page.get_by_text("Net income, column 1: “much”; expected a number")).to_be_visible()
    expect(page.get_by_role("button", name="Keep it")).to_be_disabled()
    page.get_by_label("Net income, 1").fill("140")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept, as source no. 2.")).to_be_visible()
    expect(page.get_by_role("columnheader", name=re.compile("year to 2026-06-30"))).to_be_visible()

    page.get_by_role("link", name="Read the review").click()
    expect(page.get_by_role("heading", level=2, name="Decision")).to_be_attached()
    page.wait_for_load_state("networkidle")
    page.get_by_role(
        "button", name=re.compile("^Free cash flow payout, fiscal 2026", re.I)
    ).first.click()
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text("63")  # 95 of 190 − 40
    expect(drawer.get_by_label("rests on a figure entered by hand").first).to_be_visible()
    page.keyboard.press("Escape")

    page.goto("/sources?tab=import")
    page.get_by_role("button", name="Undo the import of typed: statements of DRWL").click()
    expect(page.get_by_text(re.compile("^undone"))).to_be_visible()


def test_adjust_a_figure_and_see_it_marked_in_the_review(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=cover")
    payout = page.get_by_role("button", name=re.compile("^free cash flow payout, fiscal 2025"))
    expect(payout).to_have_count(2)  # among the key figures, and among the tests
    before = payout.first.inner_text()
    payout.first.click()
    drawer = page.get_by_role("dialog")
    drawer.get_by_role("button", name="free cash flow", exact=True).click()
    drawer.get_by_role("button", name="operating cash flow", exact=True).click()
    drawer.get_by_role("button", name="Edit with a reason").click()
    drawer.get_by_label(re.compile("The value to use instead")).fill("200")
    expect(drawer.get_by_role("button", name="Save", exact=True)).to_be_disabled()
    drawer.get_by_label("Why").fill("Refund of harbour dues left out")
    assert serious(page) == []
    drawer.get_by_role("button", name="Save", exact=True).click()
    expect(drawer).to_contain_text("Refund of harbour dues left out")
    expect(drawer).to_contain_text("You edited this figure")
    page.keyboard.press("Escape")
    marked = payout.first.get_by_label("rests on a figure you edited")
    expect(marked).to_be_visible()
    assert payout.first.inner_text() != before

    page.goto("/sources?tab=edits")
    row = page.get_by_role("row", name=re.compile("Operating cash flow"))
    expect(row).to_contain_text("200.000 m")
    assert serious(page) == []
    row.get_by_role("button", name=re.compile("Back to the original")).click()
    expect(row.get_by_role("button", name=re.compile("Edit again"))).to_be_visible()
    page.goto("/review/ELV/TRS?stage=cover")
    expect(payout.first).to_have_text(before)


def test_a_freak_year_is_excluded_with_its_reason_and_counted_again(page: Page) -> None:
    page.goto("/review/ELV/FND?stage=cover&basis=earnings")
    page.get_by_role("button", name="Exclude it with a reason").click()
    page.get_by_label("Why fiscal 2021 should not count").fill("Warehouses sold")
    page.get_by_role("button", name="Exclude", exact=True).click()
    expect(
        page.get_by_text("Fiscal 2021 is excluded on earnings: Warehouses sold.")
    ).to_be_visible()
    page.get_by_role("button", name="Include again").click()
    expect(page.get_by_text("Fiscal 2021 is a freak year")).to_be_visible()


def test_a_dividend_by_hand_shows_in_the_table_of_payers(page: Page) -> None:
    page.goto("/sources/ELV/AMLH?tab=dividends")
    page.get_by_role("button", name="Enter by hand").click()
    expect(page.get_by_label("Currency, 1")).to_have_value("TLL")
    page.get_by_label("Ex date, 1").fill("2026-09-10")
    page.get_by_label("Declared on, 1").fill("2026-06-29")
    page.get_by_label("Amount, 1").fill("2.00")
    page.get_by_text("Accept all").click()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept, as source no. 2.")).to_be_visible()
    page.goto("/payers?q=amberlough")
    row = page.get_by_role("row", name=re.compile("Amberlough"))
    expect(row.get_by_label("rests on a figure entered by hand").first).to_be_visible()
    expect(page.get_by_text("Updating measures")).to_have_count(0)


def test_a_fact_is_excluded_with_a_reason_and_counted_again(page: Page) -> None:
    page.goto("/review/ELV/TRS")
    pays = page.get_by_role("button", name=re.compile("^declared rate")).first
    expect(pays).to_have_text("1.98")
    page.goto("/sources/ELV/TRS?tab=dividends")
    page.get_by_role("button", name="Exclude: dividends 2026-06-09 regular").click()
    sure = page.get_by_role("button", name="Exclude it")
    expect(sure).to_be_disabled()
    page.get_by_label("Why it should not count").fill("It stood twice in the file")
    assert serious(page) == []
    sure.click()
    row = page.get_by_role("row", name=re.compile("^2026-06-09"))
    expect(row.get_by_role("button", name=re.compile("Count again"))).to_be_visible()
    expect(row.get_by_role("button", name=re.compile("^Edit"))).to_have_count(0)

    page.goto("/review/ELV/TRS")
    expect(page.get_by_text(re.compile("excluded by you .*: It stood twice"))).to_be_visible()
    expect(pays.get_by_label("rests on a figure you edited")).to_be_visible()
    page.get_by_role("link", name="Edits").click()
    line = page.get_by_role("row", name=re.compile("Dividends, 9 June 2026 regular"))
    expect(line).to_contain_text("excluded")
    line.get_by_role("button", name=re.compile("Include again")).click()
    expect(line.get_by_role("button", name=re.compile("Exclude again"))).to_be_visible()
    page.goto("/review/ELV/TRS")
    expect(pays).to_have_text("1.98")
    expect(pays.get_by_label(re.compile("rests on"))).to_have_count(0)


def test_a_held_fact_is_corrected_in_place_and_the_correction_undone(page: Page) -> None:
    page.goto("/sources/ELV/SLTM?span=year")
    page.get_by_role("button", name="Edit: statements 2025-12-31 year 2026-02-25").click()
    cell = page.get_by_label("Net income, 1", exact=True)
    before = cell.input_value()
    expect(page.get_by_label("Period end, 1")).not_to_be_editable()
    expect(page.get_by_text("0 added, 0 changed, 1 the same")).to_be_visible()
    expect(page.get_by_role("button", name="Keep it")).to_be_disabled()
    cell.fill(f"{float(before) + 1e6:.0f}")
    expect(page.get_by_text("0 added, 1 changed")).to_be_visible()
    assert serious(page) == []
    page.get_by_role("button", name="Keep it").click()
    head = page.get_by_role("columnheader", name=re.compile("year to 2025-12-31"))
    expect(head.get_by_label("rests on a figure entered by hand")).to_be_visible()
    page.goto("/sources?tab=import")
    page.get_by_role("button", name="Undo the import of typed: statements of SLTM").click()
    expect(page.get_by_text(re.compile("^undone"))).to_be_visible()
    page.goto("/sources/ELV/SLTM?span=year")
    page.get_by_role("button", name=re.compile("Edit: statements 2025-12-31")).click()
    expect(cell).to_have_value(before)


def test_a_cell_emptied_while_correcting_becomes_unknown(page: Page) -> None:
    page.goto("/sources/ELV/TRS?tab=dividends")
    row = page.get_by_role("row", name=re.compile("^2026-03-09"))
    expect(row).to_contain_text("2026-03-23")
    page.get_by_role("button", name="Edit: dividends 2026-03-09 regular").click()
    page.get_by_label("Amount, 1").fill("")
    expect(page.get_by_text("Amount, column 1: empty; expected a number above 0")).to_be_visible()
    expect(page.get_by_role("button", name="Keep it")).to_be_disabled()
    page.get_by_label("Amount, 1").fill("0.4958")
    page.get_by_label("Pay date, 1").fill("")
    expect(page.get_by_text("0 added, 1 changed")).to_be_visible()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept, as source no. 2.")).to_be_visible()
    expect(row).not_to_contain_text("2026-03-23")


def test_what_is_typed_outlives_a_reload(page: Page) -> None:
    page.goto("/sources/ELV/TRS?tab=splits")
    page.get_by_role("button", name="Enter by hand").click()
    page.get_by_label("New shares, 1").fill("3")
    page.reload()
    page.get_by_role("button", name="Enter by hand").click()
    expect(page.get_by_label("New shares, 1")).to_have_value("3")
    page.get_by_label("Effective on, 1").fill("2026-06-01")
    page.get_by_label("Old shares, 1").fill("1")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept, as source no. 2.")).to_be_visible()
    page.get_by_role("button", name="Enter by hand").click()
    expect(page.get_by_label("New shares, 1")).to_have_value("")


def test_a_point_of_a_series_is_looked_up_and_corrected(page: Page) -> None:
    page.goto("/sources?tab=shared")
    expect(page.get_by_role("heading", name="Slumps")).to_be_visible()
    assert serious(page) == []
    page.get_by_role("button", name="Sundrey Isles price index").click()
    expect(page).to_have_url(re.compile("code=SUNDREY-PRICES"))
    page.get_by_role("button", name=re.compile("Edit: series 2026-05-01")).click()
    value = page.get_by_label("Value, 1", exact=True)
    value.fill("250")
    page.get_by_role("button", name="Keep it").click()
    row = page.get_by_role("row", name=re.compile("^2026-05-01"))
    expect(row).to_contain_text("250")
    assert serious(page) == []
    page.go_back()
    expect(page.get_by_role("row", name=re.compile("SUNDREY-PRICES"))).to_contain_text(
        "typed: series"
    )


def test_the_matrix_tells_where_a_kind_of_fact_comes_from(page: Page) -> None:
    page.goto("/sources?q=amberlough")
    page.get_by_role("link", name=re.compile("Amberlough Mustard, Prices")).focus()
    expect(page.get_by_text(re.compile("Prices: up to date; .*the Sundrey Isles"))).to_have_count(2)
    page.get_by_role("link", name=re.compile("Amberlough Mustard, Fiscal years")).click()
    expect(page).to_have_url(re.compile("span=year"))
    expect(page.get_by_role("combobox", name=re.compile("^Show"))).to_have_value("year")
    page.get_by_role("combobox", name=re.compile("^Show")).select_option("quarter")
    expect(page.get_by_role("columnheader", name=re.compile("^quarter to"))).not_to_have_count(0)
    expect(page.get_by_role("columnheader", name=re.compile("^year to"))).to_have_count(0)


def test_a_slump_of_ones_own_is_typed_and_drawn(page: Page) -> None:
    page.goto("/sources?tab=import")
    page.get_by_role("button", name="a slump").click()
    page.get_by_label("Slump, 1").fill("The fog")
    page.get_by_label("Begins, 1").fill("2015-03-02")
    page.get_by_label("Ends, 1").fill("2015-01-05")
    expect(page.get_by_text("expected on or after begins")).to_be_visible()
    page.get_by_label("Ends, 1").fill("2015-11-30")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept, as source no. 2.")).to_be_visible()
    page.goto("/review/ELV/TRS")
    expect(page.locator("#record svg").get_by_text(re.compile("fog"))).to_be_attached()


def test_the_matrix_shows_gaps_and_leads_to_them(page: Page) -> None:
    page.goto("/sources?q=tansy")
    cell = page.get_by_role("link", name=re.compile("Quarters: .*missing: 30 September 2018"))
    expect(cell).to_be_visible()
    assert serious(page) == []
    cell.click()
    expect(page).to_have_url(re.compile(r"/sources/ELV/TNSY\?tab=statements"))
    assert serious(page) == []

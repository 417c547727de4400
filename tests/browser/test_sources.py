"""Sources in the browser: paste a year, adjust a figure, see both where they are used."""

import re

import pytest
from playwright.sync_api import Page, expect


@pytest.fixture
def base_url(whole_server: str) -> str:
    return whole_server


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

"""How single views behave: access, as-of, bad input, small screens, keys."""

import re

from playwright.sync_api import Page, expect

TRS = "/review/ELV/TRS"


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


def test_back_closes_the_drawer_and_forward_opens_it_again(page: Page) -> None:
    page.goto(TRS)
    page.get_by_role("button", name=re.compile("^declared rate: 1.98")).first.click()
    expect(page.get_by_role("dialog")).to_contain_text("newest regular payment", ignore_case=True)
    page.go_back()
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.go_forward()
    expect(page.get_by_role("dialog")).to_be_visible()


def test_the_rail_leads_to_its_stages(page: Page) -> None:
    page.goto(TRS)
    rail = page.get_by_role("complementary", name="Findings")
    rail.get_by_role("button", name="Worth", exact=True).click()
    expect(page.get_by_role("heading", level=2, name="Worth")).to_be_in_viewport()
    expect(page).to_have_url(re.compile("stage=worth"))


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
        page.get_by_role("link", name="All facts, accounts and entries as a Data Package").click()
    assert download.value.suggested_filename == "hearth-yield-2026-06-30.zip"
    page.goto(TRS)
    with page.expect_download() as download:
        page.get_by_role("link", name="Export data").click()
    assert download.value.suggested_filename == "trs-2026-06-30.zip"
